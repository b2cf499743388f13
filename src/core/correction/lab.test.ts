import { describe, expect, it } from 'vitest';

import { POLICIES } from './policies.ts';
import outside from '../../../tests/outside/check-values.json';
import { chance } from '../../../tests/support/chance.ts';
import { replay, tryPolicies, walk, type LabProcess, type LabSize } from './lab.ts';

const SIGMA = 2_000;
const size: LabSize = {
  lower: -4 * SIGMA,
  upper: 4 * SIGMA,
  deadBand: SIGMA,
  averageOf: 5,
  increment: 100,
  by: 1,
};
const process: LabProcess = {
  noise: SIGMA,
  residuals: [],
  drift: 0,
  driftError: 0,
  first: 0,
  edgeParts: 1000,
  every: 1,
};
const spread = (answer: ReturnType<typeof tryPolicies>, policy: string) =>
  answer.tried.find((each) => each.policy === policy)!.spread;

describe('the lab', () => {
  it('shows why every-part correction hurts: its variance is twice that of parts left alone (W. E. Deming, funnel, rule 2; memory)', () => {
    const answer = tryPolicies(size, process, { runs: 40, parts: 100, inUse: 'everyPart' });
    const { low, high } = spread(answer, 'everyPart');
    const ratio = outside.overadjustment.varianceRatioOfFullCorrectionEveryPart;
    expect(low ** 2 / SIGMA ** 2).toBeLessThan(ratio);
    expect(high ** 2 / SIGMA ** 2).toBeGreaterThan(ratio - 0.05);
    expect(spread(answer, 'model').mean / SIGMA).toBeLessThan(1.06);
    expect(answer).toMatchObject({ real: true });
    expect(answer.best).not.toBe('everyPart');
  });

  it('harmonic shares leave σ²/n of a set-up error (F. E. Grubbs; memory): 1 + mean of 1/n in all', () => {
    const parts = 30;
    const answer = tryPolicies(
      size,
      { ...process, first: 3 * SIGMA },
      {
        runs: 150,
        parts,
        inUse: 'harmonic',
        policies: ['harmonic'],
      },
    );
    const shares =
      Array.from({ length: parts - 1 }, (_, i) => 1 / (i + 1)).reduce((a, b) => a + b, 0) / parts;
    // and the first part stands off by the whole set-up error of three sigma
    const expected = 1 + shares + 9 / parts;
    expect(spread(answer, 'harmonic').mean ** 2 / SIGMA ** 2).toBeGreaterThan(expected * 0.94);
    expect(spread(answer, 'harmonic').mean ** 2 / SIGMA ** 2).toBeLessThan(expected * 1.06);
  });

  it('a drift makes waiting dear: the dead band as wide as the limits is found out', () => {
    const answer = tryPolicies(
      { ...size, deadBand: 20 * SIGMA },
      { ...process, drift: 0.1 * SIGMA },
      { runs: 10, parts: 100, inUse: 'deadBand', policies: ['deadBand', 'model'] },
    );
    expect(answer).toMatchObject({ best: 'model', real: true });
    expect(answer.tried[0]!.bad.mean).toBeGreaterThan(5 * answer.tried[1]!.bad.mean);
  });

  it('recommends nothing where the difference is hair-splitting', () => {
    const answer = tryPolicies({ ...size, deadBand: 1e9 }, process, {
      runs: 20,
      // as many as the page tries
      parts: 200,
      inUse: 'model',
      policies: ['model', 'deadBand'],
    });
    expect(answer.real).toBe(false);
  });

  it('says the same of the same question, and draws what it saw', () => {
    const residuals = Array.from({ length: 60 }, (_, i) => (i % 2 === 0 ? SIGMA : -SIGMA));
    const ask = () =>
      tryPolicies(
        size,
        { ...process, residuals },
        { runs: 3, parts: 60, inUse: 'deadBand', policies: ['deadBand'] },
      );
    expect(ask()).toEqual(ask());
    // seen to alternate by one sigma each: no part is ever further off, left alone
    const wide = tryPolicies(
      { ...size, deadBand: 1e9 },
      { ...process, residuals },
      { runs: 3, parts: 60, inUse: 'deadBand', policies: ['deadBand'] },
    );
    expect(wide.tried[0]!.spread.mean / SIGMA).toBeCloseTo(1, 6);
    expect(wide.tried[0]!.moves.mean).toBe(0);
  });
});

describe('the past once more', () => {
  const { normal } = chance(5);
  const history = {
    parts: Array.from({ length: 60 }, (_, i) => ({
      at: i,
      uncorrected: (0.1 * (i % 30) + normal()) * SIGMA,
    })),
    edges: [30],
  };
  it('left alone is what it was', () => {
    const [alone] = replay({ ...size, deadBand: 1e9, lower: -1e9, upper: 1e9 }, history, ['deadBand']);
    const square = history.parts.reduce((sum, each) => sum + each.uncorrected ** 2, 0) / 60;
    expect(alone).toEqual({ policy: 'deadBand', spread: Math.sqrt(square), out: 0, moves: 0 });
  });
  it('every part: each is the difference to the one before, but for the first of an edge', () => {
    const [every] = replay(size, history, ['everyPart']);
    const { parts } = history;
    const square = parts.reduce(
      (sum, { uncorrected }, i) =>
        sum + (i === 0 || i === 30 ? uncorrected : uncorrected - parts[i - 1]!.uncorrected) ** 2,
      0,
    );
    expect(every!.spread).toBeCloseTo(Math.sqrt(square / 60), -2);
  });
  it('walked part by part: the row begins each edge at zero, and holds what was keyed', () => {
    for (const policy of POLICIES) {
      const walked = walk(size, history, policy, 'mm');
      walked.forEach((each, i) => {
        const before = walked[i - 1];
        expect(each.held).toBe(!before || i === 30 ? 0 : before.held + before.change);
        expect(each.measured).toBe(history.parts[i]!.uncorrected + each.held);
        expect(Math.abs(each.change % size.increment)).toBe(0);
      });
      expect(walked.filter(({ change }) => change !== 0)).toHaveLength(
        replay(size, history, [policy])[0]!.moves,
      );
    }
  });
  it('says its sums: the mean of five, in the unit that was asked for', () => {
    const walked = walk({ ...size, deadBand: 0 }, history, 'average', 'in');
    expect(walked[0]!.wait).toMatch(/1 of the 5 parts/);
    const fifth = walked.find(({ change }) => change !== 0)!;
    expect(fifth.sums[0]).toMatch(/^\(([+−]?0\.\d{5} ?){5}\) ÷ 5 = [+−]0\.\d{5} in$/);
    expect(walk(size, history, 'deadBand', 'mm').some(({ wait }) => wait === 'inside the dead band')).toBe(
      true,
    );
    expect(walk(size, history, 'model', 'mm')[5]).toMatchObject({
      words: 'all readings of the edge',
      sums: [],
    });
  });
  it('the model holds a drifting edge closer than every-part correction, with fewer moves', () => {
    const [model, every] = replay(size, history, ['model', 'everyPart']);
    expect(model!.spread).toBeLessThan(every!.spread);
    expect(model!.moves).toBeLessThan(every!.moves / 2);
  });
});
