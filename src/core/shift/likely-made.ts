import { perPart, type JobPace } from './job.ts';
import { workedBetween, type Working } from './working-time.ts';
import { shortTime } from './written-time.ts';

/** So many parts of a job were made by then, and who says so. */
export interface Told {
  parts: number;
  at: Date;
  /** The record (a count, or the job's start), a part that was measured, or the control's own count. */
  by: 'record' | 'reading' | 'control';
}

/** What is known of how far a running job is. */
export interface Known {
  record: Told;
  /** The last part that was measured. */
  reading: Told | null;
  /** What the control counted, where that is believed, and whether it is heard now: then it has counted no more. */
  control: (Told & { heard: boolean }) | null;
  /** Since when the machine is known to stand still; null: it runs, or nobody knows. */
  standsSince: Date | null;
}

/** How many parts of a job are made by now if it ran on since it was last told of. */
export interface LikelyMade {
  /** With the part that is being cut, as far as it is; no more than are ordered, but where more were told of. */
  parts: number;
  /** What it is reckoned from. */
  from: Told;
  /** The control is heard, and counts: beyond what it says there is only what is in the machine. */
  counting: boolean;
}

/**
 * Parts of a running job by now. Nobody counts every part: what was recorded an hour ago is an hour of cutting behind, and whatever is
 * reckoned from it as if it were of now comes the later the longer nobody counts. So it is reckoned from the moment of the last count, as if
 * the machine had run on at its cycle: the earliest at which a tool can be used up is what somebody has to know. A part that was measured was
 * cut by then; a control's count overtakes the record, unless it is behind it (a counter that the program does not turn).
 *
 * @param pace parts ordered, milliseconds from part to part, and parts that come off together
 * @param stretches working time from the earliest that was told on
 */
export function likelyMade(
  { record, reading, control, standsSince }: Known,
  {
    quantity,
    cycleMilliseconds,
    partsPerCycle = 1,
  }: { quantity: number; cycleMilliseconds: number; partsPerCycle?: number },
  now: Date,
  stretches: readonly Working[],
): LikelyMade {
  const until = standsSince !== null && standsSince < now ? standsSince : now;
  const after = (from: Told, most = Infinity) => {
    const cut = workedBetween(from.at, until, stretches) / Math.max(1, cycleMilliseconds);
    return Math.max(from.parts, Math.min(quantity, from.parts + Math.min(cut, most)));
  };
  const byControl =
    control !== null &&
    control.parts >= record.parts &&
    (control.heard || control.parts > record.parts || control.at > record.at) &&
    (reading === null || reading.parts <= control.parts);
  if (byControl) {
    const { heard, ...from } = control;
    // the part that is in the machine is not done yet, or it would be counted
    return { parts: after(from, heard ? partsPerCycle - ALMOST : Infinity), from, counting: heard };
  }
  const last = { parts: after(record), from: record, counting: false };
  const measured = reading && { parts: after(reading), from: reading, counting: false };
  return measured && measured.parts > last.parts ? measured : last;
}
const ALMOST = 1e-6;

/** A job that is cut, the last of its parts that is counted or measured, and how many are likely to be made by now; null: not asked. */
export interface CutByNow {
  id: number;
  cut: number;
  likely: LikelyMade | null;
}

/** The same of what a tool cuts when its edge goes: what is not on record yet was cut by it. */
export interface Making extends CutByNow {
  /** Its program. */
  number: string;
  /** Parts on record; `cut` has those that the control has counted as well. */
  made: number;
}

/** Parts that nobody knows of and that are made by now, if it ran on. */
export const unseenBy = ({ cut, likely }: Pick<CutByNow, 'cut' | 'likely'>): number =>
  likely ? Math.max(0, wholeParts(likely) - cut) : 0;

/** Milliseconds of work that a job is ahead of its record, if it ran on; none where it is not known to run. */
export const workUnrecorded = (job: JobPace & { made: number }, likely: LikelyMade | null): number =>
  likely ? (likely.parts - job.made) * perPart(job) : 0;

/** Whole parts that are made by now. */
export const wholeParts = ({ parts, from, counting }: LikelyMade): number =>
  counting ? from.parts : Math.floor(parts);

/** Whole parts that were made since it was told of last. */
export const sinceTold = (likely: LikelyMade): number => wholeParts(likely) - likely.from.parts;

/** How many are made by now, as short as it can be said. */
export const likelyWords = (likely: LikelyMade): string =>
  likely.counting ? `${likely.from.parts} by the control` : `about ${wholeParts(likely)} by now`;

/** What a number of parts is reckoned from, as the beginning of a sentence. */
export function toldWords({ parts, at, by }: Told, now: Date, timeZone: string): string {
  const when = shortTime(at, now, timeZone);
  switch (by) {
    case 'record':
      return parts === 0 ? `none counted since ${when}` : `${parts} counted at ${when}`;
    case 'reading':
      return `part ${parts} measured at ${when}`;
    case 'control':
      return `${parts} by the control at ${when}`;
  }
}
