/** A tool of a group with the length or offset rows that are its own, first the one that the control takes. */
export interface MemberRows {
  tool: number;
  lengthRows: readonly number[];
}

/**
 * The length rows that each tool in a machine is used with, its own first. A mill applies one to a tool: that of its T, or of its place
 * in a group. A lathe's station has, beside its own or its group's, each that a program or a plan names (H8: a second part on the bar),
 * but for one that is another loaded station's own.
 *
 * @param standing T of each tool in the machine
 * @param named rows by whoever names them; of a mill they are not asked for
 */
export function rowsOfTools(
  kind: 'mill' | 'lathe',
  standing: readonly number[],
  members: readonly MemberRows[],
  named: readonly { tool: number; row: number }[],
): ReadonlyMap<number, readonly number[]> {
  const loaded = new Set(standing);
  return new Map(
    standing.map((tool) => {
      const grouped = members.filter((each) => each.tool === tool).flatMap(({ lengthRows }) => lengthRows);
      const own = grouped.length === 0 ? [tool] : grouped;
      if (kind === 'mill') return [tool, own.slice(0, 1)];
      const others = named.filter((each) => each.tool === tool && !loaded.has(each.row));
      return [tool, [...new Set([...own, ...others.map(({ row }) => row)])]];
    }),
  );
}
