import type { ChangerShape } from './layout.ts';
import { indexSteps } from './neighbours.ts';

/** What a change costs on one machine, seconds. */
export interface ChangeTimes {
  /** From tool to tool without any indexing. */
  arm: number;
  /** Indexing by one pocket. */
  perPocket: number;
  /** How many times slower a heavy or wide tool is changed. */
  heavyFactor: number;
  /** The magazine goes to the next tool while the present one cuts. */
  preStaging: boolean;
}

/** A timed change: how many pockets the magazine indexed, and how long it took, seconds. */
export interface TimedChange {
  pockets: number;
  seconds: number;
}

/**
 * Arm and index time from two timed changes of different length: the line through both. Refused when the two are of one
 * length, or give a time below nothing.
 */
export function calibrate(
  a: TimedChange,
  b: TimedChange,
): { ok: true; arm: number; perPocket: number } | { ok: false; reason: string } {
  if (a.pockets === b.pockets)
    return { ok: false, reason: 'Time two changes that index by a different number of pockets.' };
  const perPocket = (b.seconds - a.seconds) / (b.pockets - a.pockets);
  const arm = a.seconds - perPocket * a.pockets;
  if (perPocket < 0)
    return { ok: false, reason: 'The longer way took less time: one of the two was timed wrongly.' };
  if (arm <= 0) return { ok: false, reason: 'These two leave no time for the arm: time them again.' };
  return { ok: true, arm, perPocket };
}

/** A change from one pocket to another while the tool before cuts for `cutting` seconds. */
export function changeSeconds(
  shape: ChangerShape,
  times: ChangeTimes,
  from: number,
  to: number,
  heavy: boolean,
  cutting = 0,
): number {
  const index = indexSteps(shape, from, to) * times.perPocket;
  const waits = times.preStaging ? Math.max(0, index - cutting) : index;
  return waits + times.arm * (heavy ? times.heavyFactor : 1);
}
