import { countsWhole, numberToKey, type CycleUse, type ExpiryRule, type LifeBasis } from './count.ts';

/** A counter as the record has it, beside what the control shows. */
export interface CounterSeen {
  basis: LifeBasis;
  /** Uses left by the record, and the full limit, in units of the basis. */
  remaining: number;
  limit: number;
  /** What the control shows, in the same units and its own way of writing (H11). */
  shown: number;
  rule: ExpiryRule;
  /** What one cycle of the running program takes of it; null: nothing that runs calls it. */
  use: CycleUse | null;
  /** Cycles that the control counted and the record has not, by its count of parts; null: nobody knows. */
  unrecorded: number | null;
  /** What it had left before its last renewal, if it was renewed; null: it never was. */
  beforeRenewal: number | null;
}

export type CounterReason =
  | 'same'
  /** Parts that are cut and not recorded. */
  | 'notRecorded'
  /** The control writes uses left otherwise, or was keyed the other way: N for N − 1. */
  | 'keyedOther'
  /** Renewed here, and the control was not told. */
  | 'notReset'
  /** Renewed there, and nobody wrote it down. */
  | 'renewedThere'
  /** A cycle was broken off: what it had cut by then counts. */
  | 'brokenOff'
  /** A cycle was run again from the start. */
  | 'restart'
  /** Twice what was recorded went off: a second tool under the same T, or counted twice. */
  | 'twice'
  /** The control went down less: it does not count, or another tool cut. */
  | 'notCounted'
  | 'hours'
  | 'unknown';

export interface CounterDifference {
  reason: CounterReason;
  /** Uses left by the control, in the record's way of counting, less those by the record. */
  by: number;
  /** Cycles that explain it, where it is cycles. */
  cycles: number | null;
}

const perCycle = (basis: LifeBasis, use: CycleUse) =>
  basis === 'pieces'
    ? use.parts
    : basis === 'holes'
      ? use.holes
      : basis === 'minutes'
        ? use.cutMilliseconds
        : 0;

/**
 * Why a counter of the control differs from the record, the first of these that would come to that number (H11, H18): nothing; parts not
 * recorded; the other way of writing uses left; a renewal that only one of the two knows; hours for minutes; a tool that the control does
 * not count, or counts twice; a cycle run again or broken off. What none explains is unknown, and nothing is made up.
 */
export function explainCounter(seen: CounterSeen): CounterDifference {
  const { basis, remaining, limit, shown, rule, use, unrecorded, beforeRenewal } = seen;
  // the control's number in the record's way of counting: it shows one less where it expires below zero
  const left = shown + (countsWhole(basis) && rule === 'belowZero' ? 1 : 0);
  const by = left - remaining;
  // a control shows tenths of a minute, thousandths of a millimetre
  const slack = basis === 'minutes' ? 6000 : basis === 'wear' ? 600 : 0;
  const is = (value: number) => Math.abs(by - value) <= slack;
  const answer = (reason: CounterReason, cycles: number | null = null): CounterDifference => ({
    reason,
    by,
    cycles,
  });
  const cycle = use ? perCycle(basis, use) : 0;
  const known = cycle > 0 ? (unrecorded ?? 0) : 0;
  // what is left to explain when the parts that are not recorded are taken off
  const rest = by + known * cycle;
  const leaves = (value: number) => Math.abs(rest - value) <= slack;
  const used = limit - remaining;
  if (leaves(0)) return known * cycle > slack ? answer('notRecorded', known) : answer('same');
  // it stands where the record does, or as full as it was set, and the control made parts meanwhile
  if (known * cycle > slack && (is(0) || (used > 0 && is(used)))) return answer('notCounted', known);
  if (
    countsWhole(basis) &&
    leaves(numberToKey(1, rule === 'atZero' ? 'belowZero' : 'atZero', basis) - numberToKey(1, rule, basis))
  )
    return answer('keyedOther');
  if (beforeRenewal !== null && leaves(beforeRenewal - remaining)) return answer('notReset');
  if (used > 0 && leaves(used)) return answer('renewedThere');
  if (basis === 'minutes' && Math.abs(shown * 60 - remaining) <= slack * 60) return answer('hours');
  if (cycle > 0 && rest < 0) {
    // once more may be a restart; two and more at once are not
    if (known > 1 && leaves(-known * cycle)) return answer('twice', known);
    const cycles = -rest / cycle;
    const whole = Math.round(cycles);
    if (whole >= 1 && whole <= 3 && leaves(-whole * cycle)) return answer('restart', whole);
    if (cycles < 1) return answer('brokenOff', cycles);
    if (unrecorded === null && leaves(-whole * cycle)) return answer('notRecorded', whole);
    if (used > 0 && Math.abs(rest + used) <= Math.max(slack, cycle)) return answer('twice');
  }
  return answer('unknown');
}

const cyclesIn = (cycles: number | null) => (cycles === 1 ? 'One cycle was' : `${cycles} cycles were`);

/** What explains a difference, and what to do. */
export const REASON_WORDS: Readonly<Record<CounterReason, (difference: CounterDifference) => string>> = {
  same: () => 'Both agree.',
  notRecorded: ({ cycles }) => `${cyclesIn(cycles)} cut and not recorded yet: record the parts.`,
  keyedOther: () => 'It was keyed by the other rule of expiry: N for N − 1, or the other way round.',
  notReset: () => 'It was renewed here, and the control was not told: key its life there.',
  renewedThere: () => 'The control was set to a full life, and no renewal is on record.',
  brokenOff: () => 'A cycle was broken off: what it had cut by then went off there and not here.',
  restart: ({ cycles }) => `${cyclesIn(cycles)} run again from the start.`,
  twice: () =>
    'Twice as much went off there: another tool cuts under the same T, or the program counts it twice.',
  notCounted: () => 'The control made parts and does not count this tool.',
  hours: () => 'The control shows hours where minutes are meant.',
  unknown: () => 'Nothing that is known explains it. Ask who changed it, or read it again.',
};
