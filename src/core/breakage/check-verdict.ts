import { nanometres, type Length } from '../units/length.ts';
import { uncertaintyOf, type CheckLimits, type CheckMethod } from './tool-check.ts';

export type CheckVerdict = 'asExpected' | 'broken' | 'pullingOut' | 'cannotTell';
export const VERDICT_WORDS: Readonly<Record<CheckVerdict, string>> = {
  asExpected: 'worn as expected',
  broken: 'broken',
  pullingOut: 'pulling out of its holder',
  cannotTell: 'cannot tell',
};

/** Why nothing can be told. */
export type CheckDoubt =
  | 'noReference'
  | 'atTheLimit'
  /** As long as another tool of the machine is: that one may be in the spindle. */
  | 'anotherTool'
  /** The value in the other unit. */
  | 'otherUnit'
  | 'signTurned'
  /** Longer by more than any tool slips before it lies in the machine: a chip on the setter, another tool. */
  | 'farTooLong'
  /** Shorter than the tool stands out of its holder. */
  | 'farTooShort';

export interface CheckQuestion {
  method: CheckMethod;
  limits: CheckLimits;
  stickOut: Length;
  /** The length it was measured with before it cut; null: it never was. */
  reference: Length | null;
  measured: Length;
  /** What the other tools of the machine measure, in the same school. */
  others: readonly { tool: number; length: Length }[];
}

export interface CheckAnswer {
  verdict: CheckVerdict;
  /** What it has changed by, longer is plus; null without a reference. */
  change: Length | null;
  doubt: CheckDoubt | null;
  /** T whose length that is, for `anotherTool`. */
  tool: number | null;
}

/** A tool that has slipped by more than this is in the part or on the floor (common practice, no source). */
const SLIPS_MOST = nanometres(5_000_000);

/**
 * What the length of a tool says after it cut, against the length it had before (H12): too short is broken, too long is pulling out of
 * its holder, and both are faults. Within the uncertainty of the check round a limit nobody can tell. A length that is another tool's,
 * in the other unit, with its sign turned, or off by more than the tool can be, is a slip of whoever measured, and says nothing.
 */
export function judgeCheck(question: CheckQuestion): CheckAnswer {
  const { method, limits, stickOut, reference, measured, others } = question;
  const unknown = (doubt: CheckDoubt, change: Length | null, tool: number | null = null): CheckAnswer => ({
    verdict: 'cannotTell',
    change,
    doubt,
    tool,
  });
  if (reference === null) return unknown('noReference', null);
  const change = nanometres(measured - reference);
  const off = uncertaintyOf(method, stickOut);
  const by = Math.abs(change);
  const limit = change < 0 ? limits.short : limits.long;
  if (by < limit - off) return { verdict: 'asExpected', change, doubt: null, tool: null };
  if (by < limit + off) return unknown('atTheLimit', change);
  const slip = slipOf(question, change, Math.max(off, 1000));
  if (slip) return unknown(slip.doubt, change, slip.tool);
  if (change < 0 && by > stickOut) return unknown('farTooShort', change);
  if (change > 0 && by > SLIPS_MOST) return unknown('farTooLong', change);
  return { verdict: change < 0 ? 'broken' : 'pullingOut', change, doubt: null, tool: null };

  function slipOf(asked: CheckQuestion, changed: Length, near: number) {
    const is = (value: number) => Math.abs(measured - value) <= near;
    // only what chance would hardly do: a tool of which the end is gone may come to any length
    const far = Math.abs(changed) > 50 * near;
    if (far && asked.reference !== 0 && is(-asked.reference!))
      return { doubt: 'signTurned' as const, tool: null };
    if (far && (is(asked.reference! * 25.4) || is(asked.reference! / 25.4)))
      return { doubt: 'otherUnit' as const, tool: null };
    const other = far ? others.find(({ length }) => is(length)) : undefined;
    return other ? { doubt: 'anotherTool' as const, tool: other.tool } : null;
  }
}
