/** The number of the part at a place of a chart's axis: parts are counted from the nearest reading before it. */
export function partAt(points: readonly { at: number; part: number }[], at: number): string {
  const before = points.filter((each) => each.at <= at).at(-1) ?? points[0]!;
  return String(before.part + Math.round(at - before.at));
}
