/** A part that is held back, in the order in which it was cut: the first came first. */
export interface InOrder {
  job: number;
  part: number;
}

/**
 * Parts that were cut before one, of the same job or of jobs that were over by then. A tool that is broken does not mend itself: where
 * one part shows that it was whole, all before it were cut by a whole tool.
 *
 * @param parts in the order in which they were cut, job by job
 */
export function cutBefore<Part extends InOrder>(parts: readonly Part[], job: number, part: number): Part[] {
  const first = parts.findIndex((each) => each.job === job);
  if (first < 0) return [];
  const lastOf = new Map(parts.map((each, i) => [each.job, i]));
  return parts.filter(
    (each) => (each.job === job && each.part < part) || (each.job !== job && lastOf.get(each.job)! < first),
  );
}

/**
 * The part to look at next, so that the first spoilt one is found with the fewest looks: the middle of those that were cut before the
 * first that is known to be spoilt. When none is open there, the break is found, and the newest of the others is next: each of them has
 * to be looked at. Null: all are answered.
 *
 * @param parts in the order in which they were cut
 */
export function nextToInspect<Part extends InOrder & { outcome: 'good' | 'rework' | 'scrap' | null }>(
  parts: readonly Part[],
): { part: Part; looks: number } | null {
  const spoilt = parts.findIndex(({ outcome }) => outcome === 'rework' || outcome === 'scrap');
  const before = (spoilt < 0 ? parts : parts.slice(0, spoilt)).filter(({ outcome }) => outcome === null);
  // where nothing is known to be spoilt the newest is likeliest to be, and says whether there is anything to look for
  if (before.length > 0)
    return {
      part: spoilt < 0 ? before.at(-1)! : before[Math.floor(before.length / 2)]!,
      looks: Math.ceil(Math.log2(before.length + 1)) + (spoilt < 0 && before.length > 1 ? 1 : 0),
    };
  const open = parts.filter(({ outcome }) => outcome === null);
  return open.length === 0 ? null : { part: open.at(-1)!, looks: open.length };
}
