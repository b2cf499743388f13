/** How many parts of a job stood on record, and when somebody counted them. */
export interface Counted {
  parts: number;
  at: Date;
}

/** Counts further apart than this may have a night, a weekend or a set-up between them, milliseconds. */
const TOGETHER = 4 * 3_600_000;
/** Counts nearer to each other than this are one that somebody pressed for part by part. */
const APART = 20 * 60_000;
/** Between how many counts, and over how many cycles, a pace is told (common practice, no source). */
const [FEWEST, CYCLES] = [4, 10];

/**
 * How long a cycle takes as it was counted, in milliseconds; null: too little was counted to say. A cycle time that somebody typed may be
 * wrong, and then whatever is reckoned by it comes too late or too early each time. Parts that are counted one by one as the box is looked at
 * are taken together. Only counts that follow on each other within a few hours are taken, by the wall clock, so that what was not worked
 * between them makes it slower and never faster; and the fastest of them is left out, since parts that somebody had forgotten are counted all
 * at once.
 *
 * @param counts in the order in which they were entered
 */
export function countedPace(counts: readonly Counted[], partsPerCycle: number): number | null {
  const told: Counted[] = [];
  for (const each of counts) {
    const last = told.at(-1);
    // one that stands before the last was typed late
    if (!last || each.at.getTime() - last.at.getTime() >= APART) told.push(each);
  }
  const between = told.slice(1).flatMap(({ parts, at }, i) => {
    const before = told[i]!;
    const [made, took] = [parts - before.parts, at.getTime() - before.at.getTime()];
    return made > 0 && took > 0 && took <= TOGETHER ? [{ made, took }] : [];
  });
  const slowest = between.sort((a, b) => a.took / a.made - b.took / b.made).slice(1);
  const made = slowest.reduce((sum, each) => sum + each.made, 0);
  if (slowest.length + 1 < FEWEST || made < CYCLES * partsPerCycle) return null;
  return Math.round((slowest.reduce((sum, each) => sum + each.took, 0) / made) * partsPerCycle);
}
