/** Parts of a job that were counted together, by number; the tool cut them all, or those of `cut`. */
export interface CountedParts {
  job: number;
  from: number;
  to: number;
  /** When they were counted: their place in the order of what happened, which no clock tells. */
  at: number;
}

/** The last time the tool was known to be whole: by a check, or when it was measured before it cut. */
export interface LastGood {
  /** Its place in the same order. */
  at: number;
  /** The job that ran, and how many of its parts were made by then; null: nobody said. */
  job: number | null;
  afterPart: number | null;
}

export interface SuspectQuestion {
  /** Null: nothing of the kind is on record. */
  lastGood: LastGood | null;
  counts: readonly CountedParts[];
  /** Where it was found: the job, and the part that was in the machine; null: it was not cutting. */
  found: { job: number; part: number } | null;
}

export interface PartRange {
  job: number;
  from: number;
  to: number;
}

/**
 * Parts that a tool may have spoilt: all since the last good check, with the one in the machine (H12). Counts come late: parts that were
 * cut before a check are often counted after it. So in the job that ran at the check its part number decides and not the clock; where
 * nobody noted one, the parts counted until then stand as good, since whoever counted them had them in hand. Nothing is left out that
 * could have been cut after it.
 *
 * @param question counts in the order in which they were made
 * @returns in the order in which they were cut, without overlaps
 */
export function suspectParts({ lastGood, counts, found }: SuspectQuestion): PartRange[] {
  const ranges: PartRange[] = [];
  const take = (job: number, from: number, to: number) => {
    const first =
      lastGood && job === lastGood.job && lastGood.afterPart !== null ? lastGood.afterPart + 1 : 1;
    if (Math.max(from, first) <= to) ranges.push({ job, from: Math.max(from, first), to });
  };
  for (const { job, from, to, at } of counts) {
    const byNumber = lastGood?.afterPart !== null && job === lastGood?.job;
    if (lastGood && !byNumber && at <= lastGood.at) continue;
    take(job, from, to);
  }
  if (found) {
    const known = counts
      .filter(({ job }) => job === found.job)
      .reduce((most, { to }) => Math.max(most, to), 0);
    const listed = ranges.some(
      ({ job, from, to }) => job === found.job && from <= found.part && found.part <= to,
    );
    // what was cut and not counted yet
    if (found.part > known) take(found.job, known + 1, found.part);
    else if (!listed) take(found.job, found.part, found.part);
  }
  return merged(ranges);
}

/** Ranges of one job that follow each other are one; a job that was left and taken up again stays in two. */
function merged(ranges: readonly PartRange[]): PartRange[] {
  const out: PartRange[] = [];
  for (const range of ranges) {
    const last = out.at(-1);
    if (last?.job === range.job && range.from <= last.to + 1) last.to = Math.max(last.to, range.to);
    else out.push({ ...range });
  }
  return out;
}

export const partsIn = (ranges: readonly PartRange[]): number =>
  ranges.reduce((sum, { from, to }) => sum + to - from + 1, 0);
