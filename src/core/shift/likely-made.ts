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
  /** What the control counted when it was heard last, where that is believed. */
  control: Told | null;
  /** Since when the machine is known to stand still; null: it runs, or nobody knows. */
  standsSince: Date | null;
}

/** How many parts of a job are made by now if it ran on since it was last told of. */
export interface LikelyMade {
  /** With the part that is being cut, as far as it is; no more than are ordered, but where more were told of. */
  parts: number;
  /** What it is reckoned from. */
  from: Told;
}

/**
 * Parts of a running job by now. Nobody counts every part: what was recorded an hour ago is an hour of cutting behind, and whatever is
 * reckoned from it as if it were of now comes the later the longer nobody counts. So it is reckoned from the moment of the last count, as if
 * the machine had run on at its cycle: the earliest at which a tool can be used up is what somebody has to know. A part that was measured was
 * cut by then; a control's count overtakes the record, unless it is behind it (a counter that the program does not turn).
 *
 * @param pace parts ordered, and milliseconds from part to part
 * @param stretches working time from the earliest that was told on
 */
export function likelyMade(
  { record, reading, control, standsSince }: Known,
  { quantity, cycleMilliseconds }: { quantity: number; cycleMilliseconds: number },
  now: Date,
  stretches: readonly Working[],
): LikelyMade {
  const until = standsSince !== null && standsSince < now ? standsSince : now;
  const after = (from: Told): LikelyMade => {
    const cut = workedBetween(from.at, until, stretches) / Math.max(1, cycleMilliseconds);
    return { parts: Math.max(from.parts, Math.min(quantity, from.parts + cut)), from };
  };
  const byControl =
    control !== null &&
    (control.parts > record.parts || (control.parts === record.parts && control.at > record.at));
  const counted = after(byControl ? control : record);
  const measured = reading && after(reading);
  return measured && measured.parts > counted.parts ? measured : counted;
}

/** Whole parts that were made since it was told of last. */
export const sinceTold = ({ parts, from }: LikelyMade): number => Math.floor(parts) - from.parts;

/** How many are made by now, as short as it can be said. */
export const likelyWords = (likely: LikelyMade): string =>
  likely.from.by === 'control' && sinceTold(likely) === 0
    ? `${likely.from.parts} by the control`
    : `about ${Math.floor(likely.parts)} by now`;

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
