import {
  registerAnswer,
  standing,
  toleranceWidth,
  withoutRegister,
  type FeatureKind,
  type Limits,
  type MachineReckoning,
  type RegisterRole,
} from '../inspection/feature.ts';
import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { roundToIncrement } from '../units/round-to-increment.ts';
import { deviationsOf, estimateBy, POLICY_RULES, schoolOf, type Policy, type Step } from './policies.ts';
import { direction, plainIncrement } from './propose-words.ts';
import { suspect } from './suspect-reading.ts';

export interface FeatureAim extends Limits {
  kind: FeatureKind;
  target: Length;
  policy: Policy;
  /** Deviations up to this size are left alone. */
  deadBand: Length;
  /** Readings that an average takes. */
  averageOf: number;
}

export interface RegisterNow {
  value: Length;
  increment: Length;
  unit: LengthUnit;
  /** The largest wear value this register should ever hold; a proposal past it is a sign of a mistake. */
  limit: Length;
}

export interface Evidence {
  /** Readings of this feature since its register last moved, newest last. At least one. */
  readings: readonly Length[];
  /** The k-th part after a set-up, or null in production. A set-up error is real and is taken out at once. */
  partAfterSetUp: number | null;
  /** The person measured again and stands by the reading. */
  confirmed: boolean;
}

interface Said {
  /** One sentence that a setter would say. */
  reason: string;
  arithmetic: Step[];
  /** The part just measured is outside its limits: hold it. */
  partOut: boolean;
}

export type Proposal = Said &
  (
    | { verdict: 'leave' }
    | { verdict: 'measureAgain' }
    | { verdict: 'noRegister' }
    | {
        verdict: 'change';
        role: RegisterRole;
        from: Length;
        change: Length;
        to: Length;
        /** The size that the change starts from: this part, or the mean of several. */
        sizeBefore: Length;
        expectedSize: Length;
        deviation: Length;
      }
  );

/**
 * A reading's answer: leave the register alone, or change it by this much, and why (H14).
 * change = −(measured − target) / sensitivity, rounded once to the register's least increment.
 */
export function propose(
  aim: FeatureAim,
  reckoning: MachineReckoning,
  register: RegisterNow,
  evidence: Evidence,
): Proposal {
  const { unit } = register;
  const show = (value: Length) => formatLength(value, unit);
  const signed = (value: Length) => formatLength(value, unit, { sign: 'always' });
  const measured = evidence.readings.at(-1);
  if (measured === undefined) throw new RangeError('a proposal needs a reading');
  const newest = nanometres(measured - aim.target);
  const partOut = standing(measured, aim) !== 'in';
  const arithmetic: Step[] = [
    {
      label: 'deviation = measured − target',
      sum: `${show(measured)} − ${show(aim.target)} = ${signed(newest)} ${unit}`,
    },
  ];
  const answer = registerAnswer(aim.kind, reckoning);
  if (!answer)
    return {
      verdict: 'noRegister',
      reason: withoutRegister({ kind: aim.kind, row: 0, other: null }),
      arithmetic,
      partOut,
    };

  if (!evidence.confirmed) {
    const doubt = suspect(measured, aim.target, toleranceWidth(aim), unit);
    if (doubt) return { verdict: 'measureAgain', reason: doubt, arithmetic, partOut };
  }
  const school = schoolOf(aim.policy);
  const { deviation, words, wait, steps } = estimateBy(
    school,
    { deviations: deviationsOf(evidence.readings, aim.target), averageOf: aim.averageOf, signed, unit },
    { partOut, partAfterSetUp: evidence.partAfterSetUp },
  );
  arithmetic.push(...steps);
  if (wait) return { verdict: 'leave', reason: wait, arithmetic, partOut };
  if (
    evidence.partAfterSetUp === null &&
    !partOut &&
    POLICY_RULES[school].leavesBand &&
    Math.abs(deviation) <= aim.deadBand
  ) {
    arithmetic.push({ label: 'dead band', sum: `|${signed(deviation)}| ≤ ${show(aim.deadBand)} ${unit}` });
    return {
      verdict: 'leave',
      reason: `Leave it: ${words} is ${signed(deviation)} ${unit}, inside the dead band of ±${show(aim.deadBand)}. Chasing it would add spread.`,
      arithmetic,
      partOut,
    };
  }
  const exact = nanometres(Math.round(-deviation / answer.sensitivity));
  const change = roundToIncrement(exact, register.increment);
  arithmetic.push({
    label: 'change = −deviation ÷ size change per unit of register',
    sum: `−(${signed(deviation)}) ÷ ${String(answer.sensitivity).replace('-', '−')} = ${formatLength(exact, unit, { decimals: 6, sign: 'always' })} ${unit}`,
  });
  arithmetic.push({
    label: `rounded to the register's step of ${plainIncrement(register.increment, unit)}`,
    sum: `${signed(change)} ${unit}`,
  });
  if (change === 0)
    return {
      verdict: 'leave',
      reason: `Leave it: ${words} is ${signed(deviation)} ${unit}, less than half a step of the register.`,
      arithmetic,
      partOut,
    };
  const to = nanometres(register.value + change);
  arithmetic.push({
    label: 'new value = old value + change',
    sum: `${signed(register.value)} ${signed(change)} = ${signed(to)} ${unit}`,
  });
  if (Math.abs(to) > register.limit && !evidence.confirmed)
    return {
      verdict: 'measureAgain',
      reason: `The register would stand at ${signed(to)} ${unit}, past its limit of ±${show(register.limit)}. Wear does not grow that far: look at the tool, the row and the rougher, and measure again.`,
      arithmetic,
      partOut,
    };
  const averaged = evidence.partAfterSetUp === null && school === 'average' && !partOut;
  const sizeBefore = averaged ? nanometres(aim.target + deviation) : measured;
  const expectedSize = nanometres(sizeBefore + Math.round(change * answer.sensitivity));
  return {
    verdict: 'change',
    role: answer.role,
    from: register.value,
    change,
    to,
    sizeBefore,
    expectedSize,
    deviation,
    reason: `${direction(aim.kind, deviation)}: ${words} is ${signed(deviation)} ${unit} from target, so the register goes ${change < 0 ? 'minus' : 'plus'} ${show(nanometres(Math.abs(change)))}.`,
    arithmetic,
    partOut,
  };
}
