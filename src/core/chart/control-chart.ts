/** A control chart: its points, its middle and limits, and where it signals. Values in any one unit. */
export interface ControlChart {
  points: number[];
  centre: number;
  upper: number;
  lower: number;
  /** Limits of each point where they are not the same for all, as of an EWMA at its beginning. */
  limits?: { upper: number; lower: number }[];
  signals: Signal[];
}

export interface Signal {
  /** Index of the point with which it is complete. */
  at: number;
  rule: RuleName;
}

/** Why a chart calls for a look. Source: L. S. Nelson 1984, tests for special causes (memory); the first is W. A. Shewhart's. */
export const RULES = {
  beyond: 'one point beyond the limits',
  side: 'nine in a row on one side',
  trend: 'six in a row rising or falling',
  twoOfThree: 'two of three beyond two thirds of the way to one limit',
} as const;
export type RuleName = keyof typeof RULES;

/** Signals of points with one centre and one standard deviation. */
export function signalsOf(points: readonly number[], centre: number, sigma: number): Signal[] {
  const signals: Signal[] = [];
  const z = points.map((each) => (sigma > 0 ? (each - centre) / sigma : 0));
  let [side, run, way, steps] = [0, 0, 0, 1];
  z.forEach((each, i) => {
    if (Math.abs(each) > 3) signals.push({ at: i, rule: 'beyond' });
    const sign = Math.sign(each);
    run = sign !== 0 && sign === side ? run + 1 : sign === 0 ? 0 : 1;
    side = sign;
    if (run === 9) signals.push({ at: i, rule: 'side' });
    const step = i === 0 ? 0 : Math.sign(points[i]! - points[i - 1]!);
    steps = step !== 0 && step === way ? steps + 1 : step === 0 ? 1 : 2;
    way = step;
    if (steps === 6) signals.push({ at: i, rule: 'trend' });
    if (i >= 1 && Math.abs(each) > 2) {
      const near = z
        .slice(Math.max(0, i - 2), i)
        .filter((other) => Math.abs(other) > 2 && Math.sign(other) === sign);
      if (near.length > 0) signals.push({ at: i, rule: 'twoOfThree' });
    }
  });
  return signals;
}

/** Constants of averages-range charts for 2 to 10 a group. Source: ASTM E2587; NIST/SEMATECH e-Handbook 6.3.2 (memory). */
export const CONSTANTS = {
  d2: [1.128, 1.693, 2.059, 2.326, 2.534, 2.704, 2.847, 2.97, 3.078],
  A2: [1.88, 1.023, 0.729, 0.577, 0.483, 0.419, 0.373, 0.337, 0.308],
  D3: [0, 0, 0, 0, 0, 0.076, 0.136, 0.184, 0.223],
  D4: [3.267, 2.575, 2.282, 2.115, 2.004, 1.924, 1.864, 1.816, 1.777],
} as const;

const mean = (values: readonly number[]) => values.reduce((sum, each) => sum + each, 0) / values.length;

/**
 * Individuals and moving ranges: the spread of single parts from the ranges of neighbours, σ = mean range / 1.128.
 *
 * @param moving ranges to take the spread from, where not all neighbours may be compared; by default all are.
 * @throws RangeError with fewer than two values, or without a range.
 * Source: NIST/SEMATECH e-Handbook 6.3.2.2 (memory).
 */
export function individuals(
  values: readonly number[],
  moving: readonly number[] = values.slice(1).map((each, i) => Math.abs(each - values[i]!)),
): {
  sigma: number;
  x: ControlChart;
  ranges: ControlChart;
} {
  if (values.length < 2 || moving.length === 0) throw new RangeError('a moving range takes two values');
  const range = mean(moving);
  const sigma = range / CONSTANTS.d2[0];
  const centre = mean(values);
  const top = CONSTANTS.D4[0] * range;
  return {
    sigma,
    x: {
      points: [...values],
      centre,
      upper: centre + 3 * sigma,
      lower: centre - 3 * sigma,
      signals: signalsOf(values, centre, sigma),
    },
    ranges: {
      points: [...moving],
      centre: range,
      upper: top,
      lower: 0,
      signals: moving.flatMap((each, i): Signal[] => (each > top ? [{ at: i, rule: 'beyond' }] : [])),
    },
  };
}

/**
 * Averages and ranges of groups of 2 to 10; a group that is not full at the end is left out.
 *
 * @throws RangeError with another size of group, or without a full group.
 */
export function averages(
  values: readonly number[],
  size: number,
): { sigma: number; x: ControlChart; ranges: ControlChart } {
  if (!Number.isInteger(size) || size < 2 || size > 10) throw new RangeError('a group has 2 to 10 parts');
  const groups = Array.from({ length: Math.floor(values.length / size) }, (_, i) =>
    values.slice(i * size, (i + 1) * size),
  );
  if (groups.length === 0) throw new RangeError('there is no full group');
  const at = size - 2;
  const points = groups.map(mean);
  const spans = groups.map((group) => Math.max(...group) - Math.min(...group));
  const [centre, range] = [mean(points), mean(spans)];
  const sigma = range / CONSTANTS.d2[at]!;
  const limit = CONSTANTS.A2[at]! * range;
  const [top, bottom] = [CONSTANTS.D4[at]! * range, CONSTANTS.D3[at]! * range];
  return {
    sigma,
    x: {
      points,
      centre,
      upper: centre + limit,
      lower: centre - limit,
      signals: signalsOf(points, centre, limit / 3),
    },
    ranges: {
      points: spans,
      centre: range,
      upper: top,
      lower: bottom,
      signals: spans.flatMap((each, i): Signal[] =>
        each > top || each < bottom ? [{ at: i, rule: 'beyond' }] : [],
      ),
    },
  };
}

/**
 * An exponentially weighted moving average: each point is λ of the newest value and the rest of the point before.
 *
 * @param lambda weight of the newest, above 0 and at most 1.
 * Source: NIST/SEMATECH e-Handbook 6.3.2.4 (memory); limits of the beginning after S. W. Roberts 1959.
 */
export function ewma(
  values: readonly number[],
  { lambda, target, sigma }: { lambda: number; target: number; sigma: number },
): ControlChart {
  if (!(lambda > 0 && lambda <= 1)) throw new RangeError('the weight is above 0 and at most 1');
  let at = target;
  const points = values.map((each) => (at = lambda * each + (1 - lambda) * at));
  const far = (share: number) => 3 * sigma * Math.sqrt((lambda / (2 - lambda)) * share);
  const limits = points.map((_, i) => {
    const reach = far(1 - (1 - lambda) ** (2 * (i + 1)));
    return { upper: target + reach, lower: target - reach };
  });
  return {
    points,
    centre: target,
    upper: target + far(1),
    lower: target - far(1),
    limits,
    signals: points.flatMap((each, i): Signal[] =>
      each > limits[i]!.upper || each < limits[i]!.lower ? [{ at: i, rule: 'beyond' }] : [],
    ),
  };
}
