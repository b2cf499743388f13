/**
 * Which parts were cut with what. A reading is of a part, and a part was cut with the offsets and edges of its time (H14): so
 * each change of a row or an edge is entered with the parts cut until then, and each reading is held against that, never against
 * the hour when it was typed.
 */

/** The parts of one job, or those of a program that were measured without one: each counts its parts by itself. */
export type Series = string;
export const seriesOf = (part: { jobId: number | null; programId: number }): Series =>
  part.jobId === null ? `p${part.programId}` : String(part.jobId);

export interface CutPart {
  series: Series;
  part: number;
  /** Place of its reading in the one order of all entries: where nothing else is known, what was typed later was cut later. */
  entry: number;
  /** It was put back and cut again before it was measured. */
  recut: boolean;
}

/** Something that holds from a part on. */
export interface Change {
  entry: number;
  /** For each series that ran: the last part surely cut before it, and the last that may have been. Null: entered before parts were noted. */
  cut: Readonly<Record<Series, readonly [number, number]>> | null;
  /** The newest job there was: a later one was cut after it, an older one that is not named was finished before. */
  jobs: number;
}

export type When = 'before' | 'after' | 'unknown';

/** Whether a part was cut before or after a change; unknown where the change fell between parts nobody can name. */
export function cutWhen(part: CutPart, change: Change): When {
  if (change.cut === null || part.recut) return part.entry < change.entry ? 'before' : 'after';
  const span = change.cut[part.series];
  if (span) {
    if (part.part <= span[0]) return 'before';
    return part.part > span[1] ? 'after' : 'unknown';
  }
  if (part.series.startsWith('p')) return part.entry < change.entry ? 'before' : 'after';
  return Number(part.series) > change.jobs ? 'after' : 'before';
}

export interface RegisterMove extends Change {
  before: number;
  after: number;
  /** Somebody found that it held something else than was on record: it is not known since when, at most since the move before. */
  found: boolean;
}

/** What a register held when a part was cut; null where that cannot be told. `moves` in the order of their entries. */
export function heldFor(part: CutPart, moves: readonly RegisterMove[], present: number): number | null {
  let value: number | null = moves[0]?.before ?? present;
  let afterLast = true;
  for (const move of moves) {
    const when = cutWhen(part, move);
    if (when === 'unknown') return null;
    if (when === 'after') value = move.after;
    // what was set by hand was set after the move before it: that one ended with what the control then showed
    else if (move.found && afterLast) return null;
    afterLast = when === 'after';
  }
  return value;
}

/**
 * Positions of parts in one row over all series, in the order in which the series were first measured; within a series by its
 * parts.
 */
export function positionsOf(parts: readonly CutPart[]): number[] {
  const spans = new Map<Series, { first: number; low: number; high: number }>();
  for (const { series, part, entry } of parts) {
    const span = spans.get(series);
    if (span) {
      span.low = Math.min(span.low, part);
      span.high = Math.max(span.high, part);
      span.first = Math.min(span.first, entry);
    } else spans.set(series, { first: entry, low: part, high: part });
  }
  const starts = new Map<Series, number>();
  let next = 0;
  for (const [series, { low, high }] of [...spans].sort((a, b) => a[1].first - b[1].first)) {
    starts.set(series, next - low);
    next += high - low + 1;
  }
  return parts.map(({ series, part }) => starts.get(series)! + part);
}
