import { describe, expect, it } from 'vitest';
import outside from '../../../tests/outside/check-values.json';
import { chance } from '../../../tests/support/chance.ts';
import { bestLimit, costRate, meanUses } from './age-replacement.ts';
import { kaplanMeier, type EdgeLife } from './edge-lives.ts';
import { ANY_SHAPE, fitWeibull, limitsOf, shapeOfSimilar, supposable, survives } from './weibull.ts';

const worn = (life: number): EdgeLife => ({ life, end: 'worn' });
const good = (life: number): EdgeLife => ({ life, end: 'good' });

describe('the share of edges that lasts (Kaplan and Meier)', () => {
  it('remission times of E. J. Freireich et al. 1963, as E. A. Gehan 1965 used them (check-values)', () => {
    const { times, censored, survivalAfter } = outside.kaplanMeier;
    const steps = kaplanMeier([...times.map(worn), ...censored.map(good)]);
    expect(Object.fromEntries(steps.map(({ at, survival }) => [at, Number(survival.toFixed(4))]))).toEqual(
      survivalAfter,
    );
    // its limits at 10 weeks in the textbooks: 0.503 to 0.889 (log–log; memory)
    const ten = steps.find(({ at }) => at === 10)!;
    expect([ten.low, ten.high].map((each) => Number(each.toFixed(2)))).toEqual([0.5, 0.89]);
  });
  it('every end seen and none taken out: the plain share; limits lie about it and between nothing and all', () => {
    const steps = kaplanMeier([3, 1, 4, 2].map(worn));
    expect(steps.map(({ at, survival }) => [at, survival])).toEqual([
      [1, 0.75],
      [2, 0.5],
      [3, expect.closeTo(0.25)],
      [4, 0],
    ]);
    for (const { low, survival, high } of steps) {
      expect(low).toBeGreaterThanOrEqual(0);
      expect(low).toBeLessThanOrEqual(survival);
      expect(high).toBeGreaterThanOrEqual(survival);
      expect(high).toBeLessThanOrEqual(1);
    }
  });
  it('nothing ended: nothing is known of where they end', () =>
    expect(kaplanMeier([good(5), { life: 7, end: 'unknown' }])).toEqual([]));
});

describe('the Weibull of lives some of which were cut short', () => {
  it('complete: ball bearings of J. Lieblein and M. Zelen (check-values)', () => {
    const { data, shape, scale } = outside.weibullComplete;
    const fit = fitWeibull(data.map(worn))!;
    expect([fit.shape, fit.scale]).toEqual([expect.closeTo(shape, 3), expect.closeTo(scale, 2)]);
  });
  it('censored: NIST-SEMATECH e-Handbook 8.4.1 (check-values)', () => {
    const { failures, censoredAt500, shape, scale } = outside.weibullCensored;
    const fit = fitWeibull([
      ...failures.map(worn),
      ...Array.from({ length: censoredAt500 }, () => good(500)),
    ])!;
    expect([fit.shape, fit.scale]).toEqual([expect.closeTo(shape, 3), expect.closeTo(scale, 1)]);
  });
  it('says that it cannot tell', () => {
    expect(fitWeibull([])).toBeNull();
    expect(fitWeibull([good(100), good(120)])).toBeNull();
    expect(fitWeibull([worn(100), good(120)])).toBeNull();
    expect(fitWeibull([worn(100), worn(100), good(120)])).toBeNull();
    // with what is known of similar tools one end is enough to begin
    expect(fitWeibull([worn(100), good(120)], ANY_SHAPE)!.scale).toBeGreaterThan(100);
    expect(fitWeibull([good(120)], ANY_SHAPE)).toBeNull();
    expect(fitWeibull([worn(0), worn(0)], ANY_SHAPE)).toBeNull();
  });
  it('is the likeliest: no neighbour is likelier, whatever the unit', () => {
    const edges = [worn(40), worn(55), good(60), worn(71), good(80)];
    const fit = fitWeibull(edges)!;
    const thousandth = fitWeibull(edges.map(({ life, end }) => ({ life: life / 1000, end })))!;
    expect(thousandth.shape).toBeCloseTo(fit.shape, 5);
    expect(thousandth.scale * 1000).toBeCloseTo(fit.scale, 4);
  });
  it('few ends are drawn towards similar tools, many hardly', () => {
    const { next: even } = chance(3);
    const edgesOf = (shape: number, count: number) =>
      Array.from({ length: count }, () => worn(100 * (-Math.log(1 - even())) ** (1 / shape)));
    const prior = shapeOfSimilar([edgesOf(4, 40), edgesOf(4.4, 40), edgesOf(3.8, 40)]);
    expect(Math.exp(prior.middle)).toBeGreaterThan(3);
    expect(prior.spread).toBeLessThan(ANY_SHAPE.spread);
    expect(shapeOfSimilar([])).toEqual({
      ...ANY_SHAPE,
      spread: expect.closeTo(Math.hypot(ANY_SHAPE.spread, 0.3), 6),
    });
    const [few, many] = [edgesOf(1.5, 4), edgesOf(1.5, 300)];
    const drawn = (edges: EdgeLife[]) => fitWeibull(edges, prior)!.shape / fitWeibull(edges)!.shape;
    expect(drawn(many)).toBeLessThan(1.02);
    expect(Math.abs(Math.log(drawn(few)))).toBeGreaterThan(Math.abs(Math.log(drawn(many))));
  });
  it('its limits hold in about 95 of 100 shops: scale, shape, and the share that lasts', () => {
    const { next: even } = chance(11);
    const truth = { shape: 2.4, scale: 200 };
    let [scale, shape, lasts] = [0, 0, 0];
    const shops = 300;
    for (let shop = 0; shop < shops; shop += 1) {
      const edges = Array.from({ length: 25 }, (): EdgeLife => {
        const own = truth.scale * (-Math.log(1 - even())) ** (1 / truth.shape);
        return own < 220 ? worn(own) : good(220);
      });
      const rim = supposable(edges, fitWeibull(edges)!);
      const holds = (of: Parameters<typeof limitsOf>[1]) => {
        const { low, high } = limitsOf(rim, of);
        return low <= of(truth) && of(truth) <= high ? 1 : 0;
      };
      scale += holds((life) => life.scale);
      shape += holds((life) => life.shape);
      lasts += holds((life) => survives(life, 100));
    }
    for (const held of [scale, shape, lasts]) {
      expect(held / shops).toBeGreaterThan(0.91);
      expect(held / shops).toBeLessThan(0.985);
    }
  });
});

describe('the limit that costs least', () => {
  it.each(outside.ageReplacement.cases)(
    'age replacement of R. E. Barlow and F. Proschan (check-values): %j',
    (each) => {
      const costs = { planned: each.costPlanned, failure: each.costFailure };
      const { limit, cost, flat } = bestLimit(each, costs);
      expect(limit).toBeCloseTo(each.bestAge, 1);
      expect(cost).toBeCloseTo(each.costRate, 5);
      for (const at of [flat.from, flat.to]) expect(costRate(each, costs, at) / cost).toBeCloseTo(1.02, 3);
      expect(flat.from).toBeLessThan(limit!);
      expect(flat.to).toBeGreaterThan(limit!);
    },
  );
  it('what does not wear, or fails for no more than a change costs, is run until it fails', () => {
    expect(bestLimit({ shape: 1, scale: 100 }, { planned: 1, failure: 20 }).limit).toBeNull();
    expect(bestLimit({ shape: 0.8, scale: 100 }, { planned: 1, failure: 20 }).limit).toBeNull();
    expect(bestLimit({ shape: 4, scale: 100 }, { planned: 5, failure: 5 }).limit).toBeNull();
    // run until it fails the cost is that of a failure over the mean life: 100 for shape 1
    expect(bestLimit({ shape: 1, scale: 100 }, { planned: 1, failure: 20 }).cost).toBeCloseTo(0.2, 4);
  });
  it('mean uses up to a limit are the sum of what survives, against a fine sum of rectangles', () => {
    const life = { shape: 3, scale: 60 };
    let sum = 0;
    for (let i = 0; i < 50_000; i += 1) sum += survives(life, (i + 0.5) / 1000) / 1000;
    expect(meanUses(life, 50)).toBeCloseTo(sum, 4);
  });
});
