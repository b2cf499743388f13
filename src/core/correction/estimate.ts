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
