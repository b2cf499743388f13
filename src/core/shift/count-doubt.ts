import { cycleOf, FASTER, type JobPace } from './job.ts';

/** A running job as a count of its parts is held against it. */
export interface CountedSoFar extends JobPace {
  number: string;
  made: number;
  quantity: number;
}

/** Why a count cannot be taken as it is. */
export interface CountDoubt {
  /** More than the machine can have made since it was last told of, or more than were ordered. */
  why: 'cycle' | 'order';
  /** The most that can have been made since then. */
  most: number;
  /** All parts were typed where the new ones were asked for: so many are new; null: that cannot be. */
  fresh: number | null;
}

/** Cycles that a count may be ahead: one that was under way as it was last told of, one that ends now. */
const UNDER_WAY = 2;

/**
 * Whether a count of new parts is to be asked about before it counts, and why. A number that was typed wrong uses up tools that did not cut,
 * and puts all parts to come before whatever is changed meanwhile. A machine may run faster than its cycle says, and twice as fast is taken
 * (common practice, no source); a part or two beyond the order too. What was not counted before is counted once somebody says so.
 *
 * @param since milliseconds since the job was counted last, or begun; below nought where a clock was set back: then nothing was cut since
 */
export function countDoubt(job: CountedSoFar, parts: number, since: number): CountDoubt | null {
  const { made, quantity, partsPerCycle } = job;
  const cycles = Math.ceil((FASTER * Math.max(0, since)) / Math.max(1, cycleOf(job))) + UNDER_WAY;
  const most = cycles * partsPerCycle;
  const beyond = made + parts > Math.max(quantity, made + partsPerCycle);
  if (parts <= most && !beyond) return null;
  const fresh = parts - made;
  const asTotal = made > 0 && fresh > 0 && fresh <= most && parts <= quantity;
  return { why: parts > most ? 'cycle' : 'order', most, fresh: asTotal ? fresh : null };
}

/** What is asked of a count, as whoever stands at the machine is asked. */
export function countDoubtWords(
  { number, made, quantity }: CountedSoFar,
  parts: number,
  { why, most }: CountDoubt,
) {
  const all = `${made + parts} of ${quantity}`;
  return why === 'order'
    ? `${parts} more are ${all} of ${number}: more than were ordered. Look at the number again.`
    : `${parts} more are ${all} of ${number}, and since the last count, even at twice its pace, hardly more than ${most} can have been made. Look at the number again.`;
}
