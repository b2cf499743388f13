import { survives, type Weibull } from './weibull.ts';

/** What changing an edge costs: as planned, or after it has failed. In one currency. */
export interface ChangeCosts {
  planned: number;
  failure: number;
}

/** Steps of a sum over a life. */
const STEPS = 200;

/** Uses that an edge makes on average when it is changed at a limit: the area under its survival up to there (Simpson's rule). */
export function meanUses(life: Weibull, limit: number): number {
  const h = limit / STEPS;
  let sum = survives(life, 0) + survives(life, limit);
  for (let i = 1; i < STEPS; i += 1) sum += (i % 2 === 1 ? 4 : 2) * survives(life, i * h);
  return (sum * h) / 3;
}

/**
 * Cost a use when every edge is changed at a limit, or when it fails before: the cost of a life over its length (R. E. Barlow and
 * F. Proschan, age replacement).
 */
export function costRate(life: Weibull, { planned, failure }: ChangeCosts, limit: number): number {
  const lasts = survives(life, limit);
  return (planned * lasts + failure * (1 - lasts)) / meanUses(life, limit);
}

/** The life to which hardly any edge comes: running on beyond is running until it fails. */
const farEnd = ({ shape, scale }: Weibull) => scale * (-Math.log(1e-6)) ** (1 / shape);

export interface BestLimit {
  /** Null: run each until it fails, no limit costs less. */
  limit: number | null;
  cost: number;
  /** Limits whose cost is within two hundredths of it. */
  flat: { from: number; to: number };
}

/** How near the least cost a limit is as good as it. */
const AS_GOOD = 1.02;

/** The limit that costs least. An edge that does not wear (shape 1 or below) has none: a new one fails as often as an old one. */
export function bestLimit(life: Weibull, costs: ChangeCosts): BestLimit {
  const end = farEnd(life);
  const cost = (limit: number) => costRate(life, costs, limit);
  const toFailure = cost(end);
  if (life.shape <= 1 || costs.failure <= costs.planned)
    return { limit: null, cost: toFailure, flat: { from: end, to: end } };
  // the curve falls, then rises: its foot lies where a tenth of a hundredth of the scale is the finest step that matters
  let [a, b] = [1e-4 * life.scale, end];
  const golden = (Math.sqrt(5) - 1) / 2;
  while (b - a > 1e-6 * life.scale) {
    const [c, d] = [b - golden * (b - a), a + golden * (b - a)];
    if (cost(c) <= cost(d)) b = d;
    else a = c;
  }
  const limit = (a + b) / 2;
  const least = cost(limit);
  if (least >= toFailure * (1 - 1e-9))
    return { limit: null, cost: toFailure, flat: { from: limit, to: end } };
  const rim = (from: number, to: number) => {
    let [inside, outside] = [from, to];
    for (let i = 0; i < 50; i += 1) {
      const middle = (inside + outside) / 2;
      if (cost(middle) <= AS_GOOD * least) inside = middle;
      else outside = middle;
    }
    return inside;
  };
  return {
    limit,
    cost: least,
    flat: { from: rim(limit, 1e-4 * life.scale), to: cost(end) <= AS_GOOD * least ? end : rim(limit, end) },
  };
}
