import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { averageOfLast, harmonicShare, latest } from './estimate.ts';

/** When a reading leads to a correction (H14, H19): one choice a feature. The model weighs all readings of an edge; the others are the older schools. */
export const POLICIES = ['model', 'everyPart', 'deadBand', 'average'] as const;
export type Policy = (typeof POLICIES)[number];

export interface Step {
  label: string;
  sum: string;
}

/** The older school that answers for one size alone; the model's readings are judged one by one there. */
export const schoolOf = (policy: Policy): Exclude<Policy, 'model'> =>
  policy === 'model' ? 'everyPart' : policy;

/** What a policy makes of the readings: how far off the process is taken to be, or why it waits. */
export interface Estimate {
  deviation: Length;
  /** What the deviation is of, in words. */
  words: string;
  /** Why nothing is done yet. */
  wait?: string;
  /** How it came to that. */
  steps: Step[];
}

/** How a policy is called on screen. */
export const POLICY_WORDS: Readonly<Record<Policy, string>> = {
  model: 'by all readings of the edge',
  everyPart: 'every part',
  deadBand: 'outside the dead band',
  average: 'by the mean of several',
};

interface Asked {
  /** Deviations from the target, newest last; at least one. */
  deviations: readonly Length[];
  averageOf: number;
  signed: (value: Length) => string;
  unit: LengthUnit;
}

/** The newest part alone. */
const newest = ({ deviations }: Asked): Estimate => ({
  deviation: latest(deviations),
  words: 'this part',
  steps: [],
});

/** The mean of the last parts; until there are enough of them it waits. */
function mean({ deviations, averageOf, signed, unit }: Asked): Estimate {
  const deviation = averageOfLast(deviations, averageOf);
  const used = Math.min(averageOf, deviations.length);
  return {
    deviation,
    words: `the mean of ${used} parts`,
    ...(used < averageOf
      ? {
          wait: `Wait: ${used} of the ${averageOf} readings this feature is averaged over, and the part is good.`,
        }
      : {}),
    steps: [
      {
        label: `mean of the last ${used}`,
        sum: `(${deviations.slice(-used).map(signed).join(' ')}) ÷ ${used} = ${signed(deviation)} ${unit}`,
      },
    ],
  };
}

/** A set-up error is real, and is taken out at once, by ever smaller shares: the k-th part after it by 1/k of its deviation. */
function afterSetUp(k: number, { deviations, signed, unit }: Asked): Estimate {
  const off = latest(deviations);
  const deviation = harmonicShare(off, k);
  return {
    deviation,
    words: k === 1 ? 'the first-off' : `the share of part ${k} after set-up`,
    steps:
      k > 1
        ? [
            {
              label: `part ${k} after set-up: one ${k}th of it`,
              sum: `${signed(off)} ÷ ${k} = ${signed(deviation)} ${unit}`,
            },
          ]
        : [],
  };
}

/** How each policy estimates, and whether a deviation inside the dead band is left alone. */
export const POLICY_RULES: Readonly<
  Record<Exclude<Policy, 'model'>, { estimate: (asked: Asked) => Estimate; leavesBand: boolean }>
> = {
  everyPart: { estimate: newest, leavesBand: false },
  deadBand: { estimate: newest, leavesBand: true },
  average: { estimate: mean, leavesBand: true },
};

/** What a policy makes of readings; a part out of its limits is answered for itself, and a set-up by its shares. */
export function estimateBy(
  policy: Exclude<Policy, 'model'>,
  asked: Asked,
  { partOut, partAfterSetUp }: { partOut: boolean; partAfterSetUp: number | null },
): Estimate {
  if (partAfterSetUp !== null) return afterSetUp(partAfterSetUp, asked);
  return partOut ? newest(asked) : POLICY_RULES[policy].estimate(asked);
}

/** Deviations of readings from a target. */
export const deviationsOf = (readings: readonly Length[], target: Length): Length[] =>
  readings.map((reading) => nanometres(reading - target));
