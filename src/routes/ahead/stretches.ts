import type { PageData } from './$types';

type Edge = PageData['edges'][number];

/** Edges that fall into one shift, or later into one week. */
interface Stretch {
  key: string;
  /** The day it begins. */
  date: string;
  /** Name of the shift; null: a week. */
  shift: string | null;
  edges: Edge[];
  /** Numbers of those that are to be built, for their pieces. */
  kit: string[];
}

/** Shift by shift as far as people plan by shifts, and then by weeks. */
const SHIFTS_DAYS = 3;
const DAY = 86_400_000;

/** Parts the edges to come by shifts for the next days and by weeks after. */
export function stretchesOf(edges: readonly Edge[], now: Date): Stretch[] {
  const found = new Map<string, Stretch>();
  for (const edge of edges) {
    const [date = '', name = ''] = edge.shift.split('/');
    const near = edge.at.getTime() - now.getTime() < SHIFTS_DAYS * DAY;
    const key = near ? edge.shift : weekOf(date);
    const stretch = found.get(key) ?? {
      key,
      date: near ? date : key,
      shift: near ? name : null,
      edges: [],
      kit: [],
    };
    found.set(key, stretch);
    stretch.edges.push(edge);
    if (!edge.ready && !stretch.kit.includes(edge.number)) stretch.kit.push(edge.number);
  }
  return [...found.values()];
}

/** The Monday of a day. */
function weekOf(date: string): string {
  const at = new Date(`${date}T12:00:00Z`);
  return new Date(at.getTime() - ((at.getUTCDay() + 6) % 7) * DAY).toISOString().slice(0, 10);
}
