import type { ToolCall } from '../program/reading.ts';
import {
  FEATURE_WORDS,
  movesOf,
  type Bounds,
  type FeatureKind,
  type MachineReckoning,
  type Rough,
} from './feature.ts';
import { REGISTER_WORDS } from './register-words.ts';

/** A size of a plan, as far as checking it against a program needs it. */
export interface CheckedSize extends Bounds {
  name: string;
  rough: Rough | null;
}

type CheckedCall = Pick<ToolCall, 'tool' | 'lengthRows' | 'radiusRows' | 'cutSide'>;

/**
 * What of a measuring plan does not go with the program and the machine (H8, H14): a tool that is not called, a row that its tool is
 * never called with, a register that this kind of machine does not have. A correction by such a size would go where nothing cuts.
 *
 * A tool whose call names no row that could be read is not judged by it.
 *
 * @returns a sentence for each fault; empty: none was found.
 */
export function planFaults(
  sizes: readonly CheckedSize[],
  calls: readonly CheckedCall[],
  machine: MachineReckoning & { kind: 'mill' | 'lathe' },
): string[] {
  const rowsOf = (tool: number, which: 'lengthRows' | 'radiusRows') => [
    ...new Set(
      calls.filter((call) => call.tool === tool).flatMap((call) => call[which].map(({ row }) => row)),
    ),
  ];
  return sizes.flatMap((size): string[] => {
    const ends = [size, ...(size.other ? [size.other] : []), ...(size.rough ? [size.rough] : [])];
    const strange = ends.find(({ tool }) => !calls.some((call) => call.tool === tool));
    if (strange) return [`"${size.name}" names T${strange.tool}, which the program does not call.`];
    const [first] = movesOf({ ...size, other: null }, machine);
    if (!first) return [];
    const { role } = first;
    const lathes = role === 'xWear' || role === 'zWear';
    if (lathes !== (machine.kind === 'lathe'))
      return [
        `"${size.name}": ${FEATURE_WORDS[size.kind]} is held by ${REGISTER_WORDS[role]}, which a ${machine.kind} does not have.`,
      ];
    return ends.flatMap(({ tool, row }) => {
      const called = rowsOf(tool, role === 'cutterWear' ? 'radiusRows' : 'lengthRows');
      return called.length === 0 || called.includes(row)
        ? []
        : [
            `"${size.name}": T${tool} is called with row ${called.join(' and ')}, not with row ${row}. A correction there would move nothing it cuts.`,
          ];
    });
  });
}

/**
 * What of a plan looks wrong by the moves of its tools on a lathe: a diameter where the tool drills, turns for bores, a length to the
 * front where it parts off. Moves do not tell everything (back working, a second spindle), so it is a doubt and no fault.
 *
 * @returns a sentence for each size it doubts, none where it cannot be told.
 */
export const planDoubts = (
  sizes: readonly CheckedSize[],
  calls: readonly CheckedCall[],
): { name: string; doubt: string }[] =>
  sizes.flatMap((size) => {
    const doubt = sideDoubt(size, calls);
    return doubt ? [{ name: size.name, doubt }] : [];
  });

const LENGTHS: Partial<Record<FeatureKind, 'front' | 'back'>> = { faceLength: 'front', partedLength: 'back' };

function sideDoubt({ kind, tool, row }: CheckedSize, calls: readonly CheckedCall[]): string | null {
  const named = calls.filter((call) => call.tool === tool && call.lengthRows.some((use) => use.row === row));
  const own = named.flatMap(({ cutSide }) => cutSide ?? []);
  if (own.length === 0 || own.length < named.length) return null;
  if (kind === 'outsideDiameter' || kind === 'bore') {
    if (own.every(({ onCentre }) => onCentre))
      return `T${tool} cuts on the centre line only. X wear would take it off centre and hold no diameter: make it a drilled, reamed or tapped hole.`;
    const wrong = kind === 'bore' ? 'outwards' : 'inwards';
    return own.every(({ leaves }) => leaves === wrong)
      ? `T${tool} leaves its cuts ${wrong}, ${kind === 'bore' ? 'as a tool that turns an outside diameter does, not one that bores' : 'as a boring bar does, not a tool that turns an outside diameter'}.`
      : null;
  }
  const end = LENGTHS[kind];
  // what a boring bar faces inside is no end of the part
  const outside = calls.filter(({ cutSide }) => cutSide?.across && cutSide.leaves !== 'inwards');
  const ours = outside.filter((call) => named.includes(call));
  const others = outside.filter((call) => call.tool !== tool);
  if (!end || ours.length === 0 || others.length === 0) return null;
  const [most, least] = [
    Math.max(...ours.map(({ cutSide }) => cutSide!.across!.most)),
    Math.min(...ours.map(({ cutSide }) => cutSide!.across!.least)),
  ];
  if (end === 'front' && others.every(({ cutSide }) => cutSide!.across!.least > most))
    return `T${tool} cuts across behind all others, where the part is parted off. Its Z moves that length the other way: make it a length to the parted face.`;
  if (end === 'back' && others.every(({ cutSide }) => cutSide!.across!.most < least))
    return `T${tool} cuts across in front of all others, at the front face. Its Z moves that length the other way: make it a length to a face.`;
  return null;
}

/** What taking a plan would do with one of its sizes. */
export interface PlannedSize {
  name: string;
  verdict: 'added' | 'changed' | 'same';
  /** Column, what stands on record, and what would. */
  changes: { column: string; before: string; after: string }[];
}

type Cells = Readonly<Record<string, string>>;

/** What a plan would change, cell by cell: sizes are known by their names, and none is removed. */
export function planLook(
  planned: readonly Cells[],
  known: readonly Cells[],
  columns: readonly string[],
): PlannedSize[] {
  const name = (cells: Cells) => (cells.feature ?? '').toLowerCase();
  return planned.map((after) => {
    const before = known.find((each) => name(each) === name(after));
    const changes = columns
      .filter((column) => column !== 'feature' && (before?.[column] ?? '') !== (after[column] ?? ''))
      .map((column) => ({ column, before: before?.[column] ?? '', after: after[column] ?? '' }));
    return {
      name: after.feature ?? '',
      verdict: !before ? 'added' : changes.length === 0 ? 'same' : 'changed',
      changes,
    };
  });
}
