import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { averageOfLast, harmonicShare, latest, trendAt, weighted } from './estimate.ts';

/** When a reading leads to a correction (H14, H19): one choice a feature. The model weighs all readings of an edge; the others are the older schools. */
export const POLICIES = ['model', 'everyPart', 'deadBand', 'average', 'ewma', 'trend', 'harmonic'] as const;
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
  ewma: 'by a weighted mean, the newest most',
  trend: 'along the line of the last ones',
  harmonic: 'by harmonic shares after a set-up',
};

interface Asked {
  /** Deviations from the target, newest last; at least one. */
  deviations: readonly Length[];
  averageOf: number;
  /** Places of the parts in the row of all parts cut, as many as deviations; one after the other where it is not given. */
  at?: readonly number[];
  /** How often the row was set since its edge began, the first time counted: a setting is corrected by its share once. */
  settings?: number;
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
          wait: `Wait: ${used} of the ${averageOf} parts this feature is averaged over, and the part is good.`,
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

/** The newest most, each older one by the same share less; as much memory as a mean of so many has. */
function byWeights({ deviations, averageOf, signed, unit }: Asked): Estimate {
  const lambda = 2 / (averageOf + 1);
  const deviation = weighted(deviations, lambda);
  return {
    deviation,
    words: `the weighted mean of ${deviations.length} parts`,
    steps: [
      {
        label: `the newest by ${lambda.toFixed(2)}, the rest as before`,
        sum: `${deviations.slice(-4).map(signed).join(' ')} → ${signed(deviation)} ${unit}`,
      },
    ],
  };
}

/** Fewer points have no line worth following. */
const LINE = 3;

/** Where the line through the last parts will be at the next one. */
function alongTheLine(asked: Asked): Estimate {
  const { deviations, averageOf, signed, unit } = asked;
  const of = Math.max(LINE, averageOf);
  const at = (asked.at ?? deviations.map((_, i) => i)).slice(-of);
  const used = deviations.slice(-of);
  if (used.length < LINE)
    return {
      ...newest(asked),
      wait: `Wait: ${used.length} of the ${LINE} parts a line takes, and the part is good.`,
    };
  const deviation = trendAt(at, used, at.at(-1)! + 1);
  return {
    deviation,
    words: `the next part, along the line of ${used.length},`,
    steps: [
      {
        label: `line through the last ${used.length}, at the next part`,
        sum: `${used.map(signed).join(' ')} → ${signed(deviation)} ${unit}`,
      },
    ],
  };
}

/** The share of the setting that is corrected now: the k-th by 1/k of what it shows. */
const byShares = (asked: Asked): Estimate => afterSetUp(asked.settings ?? 1, asked);

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
  ewma: { estimate: byWeights, leavesBand: true },
  trend: { estimate: alongTheLine, leavesBand: true },
  harmonic: { estimate: byShares, leavesBand: false },
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
