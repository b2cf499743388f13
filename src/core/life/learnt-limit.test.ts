import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { bestLimit, costRate } from './age-replacement.ts';
import type { EdgeLife } from './edge-lives.ts';
import { changeCosts, learnLimit, trialOf, usesAMonth, type EdgeCosts } from './learnt-limit.ts';
import type { Weibull } from './weibull.ts';

const COSTS: EdgeCosts = { edge: 800, changeMinutes: 6, perMinute: 100, failure: 9000 };
/** A shop that changes at a limit, and whose edges end by themselves before it if they are to. */
const shop = (truth: Weibull, limit: number, count: number, even: () => number): EdgeLife[] =>
  Array.from({ length: count }, () => {
    const own = truth.scale * (-Math.log(1 - even())) ** (1 / truth.shape);
    return own < limit ? { life: own, end: 'broken' } : { life: limit, end: 'good' };
  });

describe('what edges say of a limit, on shops whose truth is hidden from it', () => {
  const truth = { shape: 3, scale: 300 };
  const clairvoyant = bestLimit(truth, { planned: 1400, failure: 10_400 });

  it('a limit that is far too long is found out, and the one it proposes costs within a few in a hundred of the best', () => {
    const { next } = chance(8);
    let [found, over] = [0, 0];
    for (let i = 0; i < 25; i += 1) {
      const { learnt } = learnLimit(shop(truth, 320, 40, next), [], COSTS, 320);
      if (!learnt?.worth) continue;
      found += 1;
      over += costRate(truth, { planned: 1400, failure: 10_400 }, learnt.best.limit!) / clairvoyant.cost - 1;
    }
    expect(found).toBeGreaterThan(22);
    expect(over / found).toBeLessThan(0.06);
  });
  it('a limit that is right is kept: a change is proposed in hardly any of sixty shops', () => {
    const { next } = chance(9);
    let changed = 0;
    for (let i = 0; i < 60; i += 1)
      if (learnLimit(shop(truth, clairvoyant.limit!, 40, next), [], COSTS, clairvoyant.limit!).learnt?.worth)
        changed += 1;
    expect(changed).toBeLessThanOrEqual(3);
  });
  it('nothing is proposed beyond the longest edge that was seen: there nobody knows', () => {
    const { next } = chance(10);
    for (let i = 0; i < 12; i += 1) {
      const edges = shop({ shape: 4, scale: 1000 }, 250, 300, next);
      const { learnt } = learnLimit(edges, [], { ...COSTS, failure: 300 }, 250);
      if (learnt?.best.limit) expect(learnt.best.limit).toBeLessThanOrEqual(250);
    }
  });
  it('two ends are too few to tell, three begin to', () => {
    const edges = (ends: number): EdgeLife[] => [
      ...Array.from({ length: ends }, (_, i): EdgeLife => ({ life: 80 + 10 * i, end: 'worn' })),
      ...Array.from({ length: 10 }, (): EdgeLife => ({ life: 200, end: 'good' })),
    ];
    expect(learnLimit(edges(2), [], COSTS, 200)).toMatchObject({
      edges: 12,
      ends: 2,
      before: 2,
      learnt: null,
    });
    expect(learnLimit(edges(3), [], COSTS, 200).learnt).not.toBeNull();
    expect(learnLimit([], [], COSTS, 200)).toMatchObject({ edges: 0, learnt: null, survival: [] });
  });
  it('where nobody said how edges ended, what lasts to the limit holds whether they were good or worn', () => {
    const { next } = chance(13);
    let held = 0;
    for (let i = 0; i < 20; i += 1) {
      // in a hurry nothing is tapped, and every other worn edge is taken out unseen
      const edges = shop(truth, 260, 60, next).map((edge): EdgeLife =>
        edge.end === 'broken' ? { ...edge, end: next() < 0.5 ? 'unknown' : 'worn' } : edge,
      );
      const { unknown, learnt } = learnLimit(edges, [], COSTS, 260);
      expect(unknown).toBe(edges.filter(({ end }) => end === 'unknown').length);
      const lasts = Math.exp(-((260 / truth.scale) ** truth.shape));
      if (learnt!.lastsBetween.low <= lasts && lasts <= learnt!.lastsBetween.high) held += 1;
    }
    expect(held).toBeGreaterThanOrEqual(18);
  });
  it('counts the ends before the limit, and what is borrowed from similar tools', () => {
    const { next } = chance(12);
    const edges = shop(truth, 900, 4, next);
    const few = learnLimit(edges, [shop(truth, 900, 80, next), shop(truth, 900, 80, next)], COSTS, 200);
    expect(few.before).toBe(edges.filter(({ life, end }) => end === 'broken' && life < 200).length);
    expect(few.learnt!.borrowed).toBe(true);
    expect(learnLimit(shop(truth, 900, 300, next), [], COSTS, 200).learnt!.borrowed).toBe(false);
  });
});

describe('what a change costs', () => {
  it('planned: edge and minutes; failed: more, by what share chipped or broke', () => {
    const of = (...ends: EdgeLife['end'][]) =>
      changeCosts(
        COSTS,
        ends.map((end) => ({ life: 1, end })),
      );
    expect(of('broken', 'chipped')).toEqual({ planned: 1400, failure: 10_400 });
    expect(of('worn', 'worn', 'good')).toEqual({ planned: 1400, failure: 5900 });
    expect(of('worn', 'broken')).toEqual({ planned: 1400, failure: 8150 });
    expect(of('good')).toEqual({ planned: 1400, failure: 10_400 });
  });
});

describe('what is shown of it', () => {
  const day = (n: number) => new Date(Date.UTC(2026, 0, 1) + n * 86_400_000);
  it('uses a month: over the time since the first edge, a month at least', () => {
    const edges = [0, 30, 60].map((n) => ({ life: 100, end: 'good' as const, at: day(n) }));
    expect(usesAMonth(edges, day(90))).toBe(100);
    expect(usesAMonth(edges.slice(0, 1), day(3))).toBe(100);
    expect(usesAMonth([], day(3))).toBe(0);
  });
  it('the curve goes a little beyond limit and longest edge, and falls as edges end', () => {
    const edges = [50, 70, 90, 120].map((life) => ({ life, end: 'chipped' as const }));
    const { curve, longest, before, suddenBefore } = learnLimit(
      [...edges, { life: 60, end: 'worn' }],
      [],
      COSTS,
      100,
    );
    expect([longest, before, suddenBefore]).toEqual([expect.closeTo(132), 4, 3]);
    expect(curve.at(-1)!.at).toBeCloseTo(132);
    curve.slice(1).forEach(({ lasts }, i) => expect(lasts).toBeLessThan(curve[i]!.lasts));
    expect(learnLimit(edges.slice(0, 2), [], COSTS, 100).curve).toEqual([]);
  });
});

describe('a limit that is too short to learn from', () => {
  const good = (count: number, life = 200) =>
    Array.from({ length: count }, () => ({ life, limit: life, end: 'good' as const }));
  it('is tried longer on a few when eight reached it and none failed', () => {
    expect(trialOf(good(7), 200)).toBeNull();
    // none of eight: at most 31 of 100 fail, by the binomial (0.69 to the eighth is one in twenty)
    expect(trialOf(good(8), 200)).toEqual({ limit: 250, edges: 5, failAtMost: expect.closeTo(0.312, 3) });
    expect(trialOf(good(30), 200)!.failAtMost).toBeCloseTo(0.095, 3);
  });
  it('not where one failed under it, nor by edges that were taken out before, or under a shorter limit', () => {
    expect(trialOf([...good(20), { life: 120, limit: 200, end: 'chipped' }], 200)).toBeNull();
    expect(trialOf(good(20, 150), 200)).toBeNull();
    const early = good(12).map((edge) => ({ ...edge, life: 90, end: 'early' as const }));
    expect(trialOf(early, 200)).toBeNull();
    // what failed under a shorter limit failed before it as well, but says nothing of this one's edges
    expect(trialOf([...good(9), { life: 90, limit: 100, end: 'worn' }], 200)).not.toBeNull();
  });
});
