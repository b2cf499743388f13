import { nanometres, type Length } from '../units/length.ts';

/** One write of a geometry register, as the ledger has it; a re-basing, which moves every row alike, is none. */
export interface GeometryWrite {
  entry: number;
  row: number;
  kind: string;
  /** By how much the register moved. */
  moved: Length;
  /** The row whose geometry it was copied from; null: measured, or found at the control. */
  copiedFrom: number | null;
}

/**
 * Why what a row holds is not known to be the tool's: 'before': nobody set it since the tool came; 'copy': copied, and the row that
 * it was copied from has moved since; 'again': set on its own, and another row of the tool was set twice, elsewhere after it.
 */
export interface LeftGeometry {
  row: number;
  kind: string;
  why: 'before' | 'copy' | 'again';
  /** Another row of the tool that was set since, and by how much it moved; null: none was. */
  by: { row: number; moved: Length } | null;
}

/**
 * Which geometry of a tool's rows is not known to be its own. One holder carries all that its rows stand for (one tip, two edges of a
 * groove, two tips of a double holder): each is set for the tool that stands there now, or copied from one that is, or it belongs to the
 * tool, or the edge, that was there before.
 *
 * @param uses rows that the tool is called with, and its own
 * @param writes of these rows, and of those they were copied from, since the tool came or the row was copied; in any order
 * @param since the entry by which the tool came here or had its edge changed
 */
export function leftGeometry(
  uses: readonly number[],
  kinds: readonly string[],
  writes: readonly GeometryWrite[],
  since: number,
): LeftGeometry[] {
  const rows = [...new Set(uses)];
  return kinds.flatMap((kind) => {
    const of = new Map<number, GeometryWrite[]>();
    for (const write of writes.filter((each) => each.kind === kind).toSorted((a, b) => a.entry - b.entry))
      of.set(write.row, [...(of.get(write.row) ?? []), write]);
    return rows.flatMap((row): LeftGeometry[] => {
      const found = leftIn(row, rows, of, since, new Set());
      return found ? [{ row, kind, ...found }] : [];
    });
  });
}

type Writes = ReadonlyMap<number, readonly GeometryWrite[]>;

function leftIn(
  row: number,
  rows: readonly number[],
  writes: Writes,
  since: number,
  seen: Set<number>,
): Pick<LeftGeometry, 'why' | 'by'> | null {
  const last = writes.get(row)?.at(-1);
  if (last && last.copiedFrom !== null && !seen.has(row)) {
    const moved = sum((writes.get(last.copiedFrom) ?? []).filter(({ entry }) => entry > last.entry));
    if (moved !== 0) return { why: 'copy', by: { row: last.copiedFrom, moved } };
    return leftIn(last.copiedFrom, rows, writes, since, seen.add(row));
  }
  // a copy says nothing of the tool
  const set = rows
    .filter((each) => each !== row)
    .map((each) => ({
      row: each,
      own: (writes.get(each) ?? []).filter(({ entry, copiedFrom }) => entry > since && copiedFrom === null),
    }))
    .filter(({ own }) => own.length > 0);
  if (!last || last.entry <= since)
    return { why: 'before', by: set.map((each) => ({ row: each.row, moved: sum(each.own) }))[0] ?? null };
  const again = set
    .map(({ row: each, own }) => {
      const latest = own.at(-1)!.entry;
      // what it was set to before; where it was not, what it was first set to after
      const from = (own.findLast(({ entry }) => entry < last.entry) ?? own[0]!).entry;
      const between = writes.get(each)!.filter(({ entry }) => entry > from && entry <= latest);
      return { row: each, moved: latest < last.entry ? nanometres(0) : sum(between) };
    })
    .find(({ moved }) => moved !== 0);
  return again ? { why: 'again', by: again } : null;
}

const sum = (writes: readonly GeometryWrite[]): Length =>
  nanometres(writes.reduce((total, { moved }) => total + moved, 0));
