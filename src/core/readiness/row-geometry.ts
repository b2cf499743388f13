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
  /** Whether a kept table set it back: that moves the row, and says nothing of the tool. */
  putBack: boolean;
}

/**
 * Why what a row holds is not known to be the tool's: 'before': nobody set it since the tool came; 'copy': copied, and the row that
 * it was copied from has moved since; 'again': set on its own, and another row of the tool was set twice, elsewhere after it; 'putBack': a
 * kept table set it back, and nobody has set it since.
 */
export interface LeftGeometry {
  row: number;
  kind: string;
  why: 'before' | 'copy' | 'again' | 'putBack';
  /** Another row of the tool that was set since, and by how much it moved; null: none was. Of one that was put back, itself. */
  by: { row: number; moved: Length } | null;
}

/** A register that a kept table has set back, and that nobody has written since. */
export interface PutBackRegister {
  row: number;
  kind: string;
  /** The entry by which it was put back. */
  entry: number;
  value: Length;
  /** By how much the table moved it. */
  moved: Length;
  /** The last entry that measured it, and by how much it has moved since; null: none did. */
  measured: number | null;
  sinceMeasured: Length;
}

/** Whether a row is not to be cut with as it is; of the others somebody looks. */
export const notItsOwn = ({ why, by }: LeftGeometry): boolean =>
  why !== 'again' && !(why === 'putBack' && by?.moved === 0);

/**
 * Which geometry of a tool's rows is not known to be its own. One holder carries all that its rows stand for (one tip, two edges of a
 * groove, two tips of a double holder): each is set for the tool that stands there now, or copied from one that is, or it belongs to the
 * tool, or the edge, that was there before.
 *
 * @param uses rows that the tool is called with, and its own
 * @param writes of these rows, and of those they were copied from, since the tool came or the row was copied; in any order
 * @param since the entry by which the tool came here or had its edge changed
 * @param putBack registers that a kept table has set back: what was measured since the table was kept is lost, and the row may hold another
 * edge's length, or another tool's (H19)
 */
export function leftGeometry(
  uses: readonly number[],
  kinds: readonly string[],
  writes: readonly GeometryWrite[],
  since: number,
  putBack: readonly PutBackRegister[] = [],
): LeftGeometry[] {
  const rows = [...new Set(uses)];
  return kinds.flatMap((kind) => {
    const of = new Map<number, GeometryWrite[]>();
    for (const write of writes.filter((each) => each.kind === kind).toSorted((a, b) => a.entry - b.entry))
      of.set(write.row, [...(of.get(write.row) ?? []), write]);
    return rows.flatMap((row): LeftGeometry[] => {
      const found = leftIn(row, rows, of, since, new Set());
      const back = (at: number) => {
        const set = putBack.find((each) => each.row === at && each.kind === kind && each.entry > since);
        return set && setBack(set, since);
      };
      const own = back(row);
      // whatever else is to be said of it says less than why
      if (own) return [own];
      if (found) return [{ row, kind, ...found }];
      // what it was copied from has moved, and was set back to what it was
      const copied = written(of.get(row))?.copiedFrom ?? null;
      const source = copied === null ? undefined : back(copied);
      return source && notItsOwn(source)
        ? [{ row, kind, why: 'copy', by: { row: source.row, moved: nanometres(-source.by!.moved) } }]
        : [];
    });
  });
}

/** By 0 where the row came back to what was measured of this very edge. */
function setBack(
  { row, kind, moved, measured, sinceMeasured }: PutBackRegister,
  since: number,
): LeftGeometry {
  const asMeasured = measured !== null && measured > since && sinceMeasured === 0;
  return { row, kind, why: 'putBack', by: { row, moved: asMeasured ? nanometres(0) : moved } };
}

type Writes = ReadonlyMap<number, readonly GeometryWrite[]>;

const written = (writes: readonly GeometryWrite[] = []) => writes.findLast(({ putBack }) => !putBack);

function leftIn(
  row: number,
  rows: readonly number[],
  writes: Writes,
  since: number,
  seen: Set<number>,
): { why: Exclude<LeftGeometry['why'], 'putBack'>; by: LeftGeometry['by'] } | null {
  const last = written(writes.get(row));
  if (last && last.copiedFrom !== null && !seen.has(row)) {
    const later = (at: number) => sum((writes.get(at) ?? []).filter(({ entry }) => entry > last.entry));
    // a table that was put back parts a copy from its source by moving either
    const moved = nanometres(later(last.copiedFrom) - later(row));
    if (moved !== 0) return { why: 'copy', by: { row: last.copiedFrom, moved } };
    return leftIn(last.copiedFrom, rows, writes, since, seen.add(row));
  }
  // a copy says nothing of the tool, nor does a table that was put back
  const set = rows
    .filter((each) => each !== row)
    .map((each) => ({
      row: each,
      own: (writes.get(each) ?? []).filter(
        ({ entry, copiedFrom, putBack }) => entry > since && copiedFrom === null && !putBack,
      ),
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
