/**
 * What is left of a tool when its limit is changed: what the edge has cut it has cut, so that the uses behind it stay and the new limit
 * counts from there. May be below nothing: then it has run out by the new limit.
 */
export const leftUnder = (counter: { fullLife: number; remaining: number }, limit: number): number =>
  limit - (counter.fullLife - counter.remaining);
