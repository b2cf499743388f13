import { nanometres, type Length } from '../units/length.ts';

/** Where a process stands, estimated from its deviations since the last correction, newest last. */

/** The newest deviation alone. */
export const latest = (deviations: readonly Length[]) => deviations.at(-1)!;

/** The mean of the last `of` deviations, or of as many as there are. */
export function averageOfLast(deviations: readonly Length[], of: number): Length {
  const used = deviations.slice(-of);
  return nanometres(Math.round(used.reduce((sum, d) => sum + d, 0) / used.length));
}

/**
 * The share of its deviation that the k-th part after a set-up is corrected by: 1/k. Each correction then
 * leaves the mean of the evidence so far, and the variance of what remains falls as σ²/n.
 * Source: F. E. Grubbs, setting-up by harmonic shares.
 */
export function harmonicShare(deviation: Length, part: number): Length {
  if (!Number.isInteger(part) || part < 1) throw new RangeError('parts after a set-up count from 1');
  return nanometres(Math.round(deviation / part));
}

/** Mean of all deviations, the newest by `lambda`, each older one by the same share of what is left. */
export function weighted(deviations: readonly Length[], lambda: number): Length {
  if (!(lambda > 0 && lambda <= 1)) throw new RangeError('the weight is above 0 and at most 1');
  const [first, ...rest] = deviations;
  return nanometres(Math.round(rest.reduce<number>((at, each) => lambda * each + (1 - lambda) * at, first!)));
}

/** Where the straight line of least squares through deviations stands at a part; with all at one part, their mean. */
export function trendAt(at: readonly number[], deviations: readonly Length[], part: number): Length {
  const n = at.length;
  const middle = at.reduce((sum, each) => sum + each, 0) / n;
  const level = deviations.reduce((sum, each) => sum + each, 0) / n;
  const wide = at.reduce((sum, each) => sum + (each - middle) ** 2, 0);
  const slope =
    wide === 0 ? 0 : at.reduce((sum, each, i) => sum + (each - middle) * (deviations[i]! - level), 0) / wide;
  return nanometres(Math.round(level + slope * (part - middle)));
}
