import { bestLimit, costRate } from '../src/core/life/age-replacement.ts';
import type { EdgeLife } from '../src/core/life/edge-lives.ts';
import { learnLimit, type EdgeCosts } from '../src/core/life/learnt-limit.ts';
import { fitWeibull, limitsOf, supposable, type Weibull } from '../src/core/life/weibull.ts';
import { seeded, type Row } from './row.ts';

const COSTS: EdgeCosts = { edge: 800, changeMinutes: 6, perMinute: 100, failure: 9000 };
const CHANGE = { planned: 1400, failure: 10_400 };
const SHOPS = 100;

const lived = (truth: Weibull, limit: number, count: number, even: () => number): EdgeLife[] =>
  Array.from({ length: count }, () => {
    const own = truth.scale * (-Math.log(1 - even())) ** (1 / truth.shape);
    return own < limit ? { life: own, end: 'broken' } : { life: limit, end: 'good' };
  });

/** Limits learnt from so many edges, against the limit of somebody who knows how they wear, the old one, and the shortest life seen. */
export function learning(): Row[] {
  const rows: Row[] = [];
  for (const shape of [1.5, 2.5, 4])
    for (const count of [20, 60])
      for (const old of [0.5, 1, 2]) {
        const truth = { shape, scale: 300 };
        const best = bestLimit(truth, CHANGE);
        const limit = old * best.limit!;
        const even = seeded(shape * 1000 + count);
        let [ours, shortest, covered, told] = [0, 0, 0, 0];
        for (let shop = 0; shop < SHOPS; shop += 1) {
          const edges = lived(truth, limit, count, even);
          const { learnt } = learnLimit(edges, [], COSTS, limit);
          ours +=
            costRate(truth, CHANGE, learnt?.worth && learnt.best.limit ? learnt.best.limit : limit) /
            best.cost;
          const ends = edges.filter(({ end }) => end === 'broken').map(({ life }) => life);
          shortest += costRate(truth, CHANGE, Math.max(1, Math.min(limit, ...ends))) / best.cost;
          const fit = fitWeibull(edges);
          if (!fit) continue;
          told += 1;
          const { low, high } = limitsOf(supposable(edges, fit), (life) => life.shape);
          if (low <= shape && shape <= high) covered += 1;
        }
        rows.push({
          what: `life limit, shape ${shape}, ${count} edges, old limit ${old} of the best`,
          ours: `${(ours / SHOPS).toFixed(3)} of the least cost; limits of the shape hold in ${told === 0 ? 'none' : ((100 * covered) / told).toFixed(0)} of 100`,
          reference: `old limit kept ${(costRate(truth, CHANGE, limit) / best.cost).toFixed(3)}, shortest life seen ${(shortest / SHOPS).toFixed(3)}`,
          ratio: (ours / SHOPS / (costRate(truth, CHANGE, limit) / best.cost)).toFixed(3),
        });
      }
  return rows;
}
