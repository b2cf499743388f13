import { cutWhen, type Change, type CutPart } from '../correction/cut-with.ts';

/** A member of a group and the rows that the control takes for it. */
export interface MemberRows {
  tool: number;
  lengthRows: readonly number[];
  radiusRows: readonly number[];
}

/**
 * The row of one member that stands where a row of another stands: its first length row for the first, its second for the second
 * (the second part on a bar), its D rows likewise (H11). Null: it has none there.
 */
export function rowBeside(row: number, from: MemberRows, to: MemberRows): number | null {
  for (const rows of ['lengthRows', 'radiusRows'] as const) {
    const place = from[rows].indexOf(row);
    if (place >= 0) return to[rows][place] ?? null;
  }
  return null;
}

/** One end of a size: the T and row that cut it. */
export interface CutEnd {
  tool: number;
  row: number;
}

/**
 * What cuts an end of a size when a certain member of a group cuts: the plan names one member's row, or the group's own number. Null:
 * nothing tells which row that is.
 */
export function endBy(
  end: CutEnd,
  group: { number: number; members: readonly MemberRows[] },
  tool: number,
): CutEnd | null {
  const member = group.members.find((each) => each.tool === tool);
  const named =
    group.members.find((each) => each.tool === end.tool) ??
    (end.tool === group.number
      ? group.members.find(({ lengthRows, radiusRows }) => [...lengthRows, ...radiusRows].includes(end.row))
      : undefined);
  if (!member || !named) return null;
  if (member === named) return { tool, row: end.row };
  const row = rowBeside(end.row, named, member);
  return row === null ? null : { tool, row };
}

/** From a part on another member of a group cuts. */
export interface TakeOver extends Change {
  from: number;
  to: number;
}

/**
 * Which member of a group cut a part (H11): the control takes the next one silently, so what cut a part follows from the counts.
 *
 * @param takeOvers in the order of their entries
 * @param present who cuts now; null: nothing was counted yet
 * @returns its T; null: nobody can tell
 */
export function memberOf(
  part: CutPart,
  takeOvers: readonly TakeOver[],
  present: number | null,
): number | null {
  let tool = takeOvers[0]?.from ?? present;
  for (const each of takeOvers) {
    const when = cutWhen(part, each);
    if (when === 'unknown') return null;
    if (when === 'after') tool = each.to;
  }
  return tool;
}
