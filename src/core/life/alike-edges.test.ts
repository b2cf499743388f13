import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { bestLimit, costRate } from './age-replacement.ts';
import { apartness, edgesThatSpeak, lastApart, type Cut } from './alike-edges.ts';
import type { EdgeLife } from './edge-lives.ts';
import { learnLimit, type EdgeCosts } from './learnt-limit.ts';
import type { Weibull } from './weibull.ts';

type Cutting = EdgeLife & Cut;
const STEEL: Cut = { program: 'O1', material: 'steel' };
const DUPLEX: Cut = { program: 'O2', material: 'duplex' };

/** Edges as a shop changes them, whose truth is hidden: at a limit, or when they fail before. */
const lived = (
  { shape, scale }: Weibull,
  limit: number,
  count: number,
  next: () => number,
  cut: Cut = STEEL,
): Cutting[] =>
  Array.from({ length: count }, () => {
    const own = scale * (-Math.log(1 - next())) ** (1 / shape);
    return { ...cut, ...(own < limit ? { life: own, end: 'broken' } : { life: limit, end: 'good' }) };
  });

describe('whether lots of edges last apart', () => {
  it('is found by shuffling as well: how often edges dealt out by chance lie as far apart', () => {
    const { next } = chance(31);
    let [both, either] = [0, 0];
    for (let i = 0; i < 24; i += 1) {
      const far = [1, 1.5, 2.2][i % 3]!;
      const lots = [
        lived({ shape: 2.5, scale: 300 }, 350, 14, next),
        lived({ shape: 2.5, scale: 300 * far }, 350, 18, next),
      ];
      const { ratio } = apartness(lots);
      let further = 0;
      for (let deal = 0; deal < 99; deal += 1) {
        const all = lots.flat();
        for (let k = all.length - 1; k > 0; k -= 1) {
          const at = Math.floor(next() * (k + 1));
          [all[k], all[at]] = [all[at]!, all[k]!];
        }
        if (apartness([all.slice(0, 14), all.slice(14)]).ratio >= ratio) further += 1;
      }
      const shuffled = further < 10;
      if (shuffled || lastApart(lots)) either += 1;
      if (shuffled && lastApart(lots)) both += 1;
    }
    expect(either).toBeGreaterThan(7);
    expect(both).toBeGreaterThanOrEqual(0.85 * either);
  });
  it('is said of one in ten shops at most where they last alike, in two lots or in six', () => {
    const { next } = chance(32);
    for (const lots of [2, 6]) {
      let said = 0;
      for (let i = 0; i < 120; i += 1)
        if (lastApart(Array.from({ length: lots }, () => lived({ shape: 3, scale: 300 }, 280, 12, next))))
          said += 1;
      expect(said).toBeLessThanOrEqual(0.17 * 120);
    }
  });
  it('is not told of a lot of which nothing is known, nor of one alone', () => {
    const some = lived({ shape: 3, scale: 300 }, 500, 20, chance(33).next);
    expect(lastApart([some])).toBe(false);
    expect(lastApart([some, []])).toBe(false);
    expect(lastApart([some, [{ life: 0, end: 'broken' }]])).toBe(false);
    expect(lastApart([])).toBe(false);
  });
  it('a lot that never fails where another has failed again and again is apart from it', () => {
    const good = Array.from({ length: 20 }, (): EdgeLife => ({ life: 300, end: 'good' }));
    expect(lastApart([good, lived({ shape: 3, scale: 150 }, 300, 12, chance(34).next)])).toBe(true);
  });
});

describe('which edges speak for what is cut now', () => {
  const { next } = chance(35);
  const steel = lived({ shape: 3, scale: 400 }, 380, 20, next);
  const duplex = lived({ shape: 3, scale: 150 }, 380, 20, next, DUPLEX);

  it('those of what lasts otherwise are left out, with how many times as long they last', () => {
    const of = edgesThatSpeak([...duplex, ...steel], STEEL);
    expect(of).toMatchObject({ by: 'program', edges: steel, leftOut: [{ of: 'duplex', edges: 20 }] });
    expect(of.leftOut[0]!.times).toBeGreaterThan(0.3);
    expect(of.leftOut[0]!.times).toBeLessThan(0.5);
    expect(edgesThatSpeak([...duplex, ...steel], DUPLEX).edges).toEqual(duplex);
  });
  it('a program that was never cut is told by its material', () => {
    expect(edgesThatSpeak([...duplex, ...steel], { program: 'O9', material: 'duplex' })).toMatchObject({
      by: 'material',
      edges: duplex,
    });
  });
  it('a third material that lasts as steel does speaks with it', () => {
    const bronze = lived({ shape: 3, scale: 400 }, 380, 20, next, { program: 'O3', material: 'bronze' });
    const of = edgesThatSpeak([...bronze, ...duplex, ...steel], STEEL);
    expect(of.by).toBe('all');
    expect(of.edges).toEqual([...bronze, ...steel]);
  });
  it('of something never cut, nothing speaks where others differ, and all where they do not', () => {
    const other = { program: 'O9', material: 'titanium' };
    expect(edgesThatSpeak([...duplex, ...steel], other)).toMatchObject({ by: 'unlike', edges: [] });
    expect(edgesThatSpeak([...duplex, ...steel], null).by).toBe('unlike');
    expect(edgesThatSpeak(steel, other)).toMatchObject({ by: 'all', edges: steel, leftOut: [] });
    expect(edgesThatSpeak([], null)).toEqual({ edges: [], by: 'all', leftOut: [] });
  });
  it('one edge of its own cannot be told from either of two that differ, and speaks alone', () => {
    const one: Cutting[] = [{ life: 100, end: 'good', program: 'O9', material: 'titanium' }];
    const of = edgesThatSpeak([...duplex, ...steel, ...one], { program: 'O9', material: 'titanium' });
    expect(of).toMatchObject({ by: 'program', edges: one });
    expect(of.leftOut.map((each) => each.of)).toEqual(['duplex', 'steel']);
  });
});

describe('the limit that is learnt, on shops that cut two materials', () => {
  const COSTS: EdgeCosts = { edge: 800, changeMinutes: 6, perMinute: 100, failure: 9000 };
  const CHANGE = { planned: 1400, failure: 10_400 };
  const truth = { shape: 3.5, scale: 300 };
  const best = bestLimit(truth, CHANGE);
  const costs = (edges: readonly EdgeLife[], limit: number) => {
    const { learnt } = learnLimit(edges, [], COSTS, limit);
    return (
      costRate(truth, CHANGE, learnt?.worth && learnt.best.limit ? learnt.best.limit : limit) / best.cost
    );
  };
  /** Mean cost over the least: of all edges together, of its own alone, and of those that speak. */
  const shops = (others: number, own: number, limit: number, seed: number) => {
    const { next } = chance(seed);
    const sum = { all: 0, own: 0, speaking: 0 };
    for (let i = 0; i < 14; i += 1) {
      const mine = lived(truth, limit, own, next);
      const all = [...lived({ ...truth, scale: others * truth.scale }, limit, 30, next, DUPLEX), ...mine];
      sum.all += costs(all, limit) / 14;
      sum.own += costs(mine, limit) / 14;
      sum.speaking += costs(edgesThatSpeak(all, STEEL).edges, limit) / 14;
    }
    return sum;
  };

  it('a limit that is right is not shortened by edges of a harder material', () => {
    const { all, speaking } = shops(0.4, 15, best.limit!, 36);
    expect(all).toBeGreaterThan(1.3);
    expect(speaking).toBeLessThan(1.03);
  });
  it('one that is too long is found by its own edges, whatever lasts longer beside them', () => {
    const { all, own, speaking } = shops(2, 20, 2 * best.limit!, 37);
    expect(all).toBeGreaterThan(1.3);
    expect(speaking).toBeLessThan(own + 0.03);
  });
  it('where both last alike, few of its own borrow from the others', () => {
    const { all, own, speaking } = shops(1, 6, 2 * best.limit!, 38);
    expect(own).toBeGreaterThan(1.3);
    expect(speaking).toBeLessThan(all + 0.08);
  });
});
