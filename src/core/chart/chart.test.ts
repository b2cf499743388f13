import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import outside from '../../../tests/outside/check-values.json' with { type: 'json' };
import { below, capability, indices, shareOut } from './capability.ts';
import { averages, CONSTANTS, ewma, individuals, signalsOf } from './control-chart.ts';

describe('control charts', () => {
  it('have the constants of ASTM E2587 (memory; computed)', () => {
    const { n, d2, A2, D3, D4 } = outside.controlChartConstants;
    expect(n).toEqual([2, 3, 4, 5, 6, 7, 8, 9, 10]);
    expect({ d2, A2, D3, D4 }).toEqual(CONSTANTS);
    // A2 = 3 / (d2 √n), by definition
    n.forEach((size, i) => expect(3 / (CONSTANTS.d2[i]! * Math.sqrt(size))).toBeCloseTo(CONSTANTS.A2[i]!, 2));
  });

  it('EWMA: the worked example of NIST/SEMATECH 6.3.2.4 (memory)', () => {
    const { lambda, target, sigma, ucl, lcl, data, ewmaAfterEach } = outside.ewma;
    const chart = ewma(data, { lambda, target, sigma });
    ewmaAfterEach.forEach((each, i) => expect(chart.points[i]).toBeCloseTo(each, 1));
    expect(chart.upper).toBeCloseTo(ucl, 3);
    expect(chart.lower).toBeCloseTo(lcl, 3);
    // at its beginning an EWMA has hardly moved: its limits are those of one value times λ
    expect(chart.limits![0]!.upper - target).toBeCloseTo(3 * sigma * lambda, 10);
  });

  it('individuals: spread from neighbours does not see a slow drift that the overall spread does', () => {
    const drifting = Array.from({ length: 100 }, (_, i) => i * 0.5 + (i % 2));
    const { sigma } = individuals(drifting);
    expect(sigma).toBeLessThan(1);
    const plain = individuals([1, 3, 2, 5]);
    // ranges 2, 1, 3: mean 2
    expect(plain.ranges.centre).toBe(2);
    expect(plain.sigma).toBeCloseTo(2 / 1.128, 10);
    expect(plain.x.upper - plain.x.centre).toBeCloseTo(2.66 * 2, 1);
    expect(() => individuals([1])).toThrow(RangeError);
  });

  it('averages and ranges, by hand', () => {
    const chart = averages([1, 3, 2, 4, 9], 2);
    expect(chart.x.points).toEqual([2, 3]);
    expect(chart.ranges.points).toEqual([2, 2]);
    expect(chart.x.upper).toBeCloseTo(2.5 + 1.88 * 2, 10);
    expect(chart.ranges.upper).toBeCloseTo(3.267 * 2, 10);
    expect(() => averages([1, 2], 11)).toThrow(RangeError);
    expect(() => averages([1], 2)).toThrow(RangeError);
  });

  it('signals, each rule by the shortest series that has it', () => {
    const rules = (points: number[]) => signalsOf(points, 0, 1).map(({ at, rule }) => `${at} ${rule}`);
    expect(rules([0, 3.01])).toContain('1 beyond');
    expect(rules([0, 2.99])).not.toContain('1 beyond');
    expect(rules(Array(9).fill(0.1) as number[])).toContain('8 side');
    expect(rules([...(Array(8).fill(0.1) as number[]), -0.1])).toEqual([]);
    expect(rules([-0.5, -0.3, -0.1, 0.1, 0.3, 0.5])).toContain('5 trend');
    expect(rules([-0.5, -0.3, -0.1, 0.1, 0.3, 0.2])).toEqual([]);
    expect(rules([2.1, 0, 2.1])).toEqual(['2 twoOfThree']);
    expect(rules([2.1, 0, -2.1])).toEqual([]);
    expect(rules([0, 0, 0])).toEqual([]);
  });

  it('signals as each rule read literally finds them, at any middle and spread', () => {
    const near = fc.integer({ min: -8, max: 8 }).map((each) => each / 2);
    fc.assert(
      fc.property(
        fc.array(near, { maxLength: 30 }),
        fc.integer({ min: -5, max: 5 }),
        fc.constantFrom(0.5, 2),
        (z, centre, sigma) => {
          const points = z.map((each) => centre + each * sigma);
          const last = (i: number, n: number) => (i + 1 < n ? [] : z.slice(i + 1 - n, i + 1));
          const oneWay = (some: number[], n: number) =>
            some.length === n && [1, -1].some((way) => some.every((each) => each * way > 0));
          const rising = (some: number[], n: number) =>
            some.length === n &&
            [1, -1].some((way) => some.every((each, k) => k === 0 || (each - some[k - 1]!) * way > 0));
          const expected = z.flatMap((each, i) => [
            ...(each > 3 || each < -3 ? [`${i} beyond`] : []),
            // only where it becomes so: the tenth in a row says nothing new
            ...(oneWay(last(i, 9), 9) && !oneWay(last(i, 10), 10) ? [`${i} side`] : []),
            ...(rising(last(i, 6), 6) && !rising(last(i, 7), 7) ? [`${i} trend`] : []),
            ...([1, -1].some(
              (way) => each * way > 2 && z.slice(Math.max(0, i - 2), i).some((other) => other * way > 2),
            )
              ? [`${i} twoOfThree`]
              : []),
          ]);
          expect(
            signalsOf(points, centre, sigma)
              .map(({ at, rule }) => `${at} ${rule}`)
              .sort(),
          ).toEqual(expected.sort());
        },
      ),
      { numRuns: 2000 },
    );
    // without a spread there is nothing to compare with
    expect(signalsOf([1, 5, 9], 1, 0)).toEqual([]);
  });

  it('carry their points, their middle, limits on both sides, and what lies beyond', () => {
    const single = individuals([10, 10, 10, 10, 10, 10, 10, 20, 10]);
    expect(single.x).toMatchObject({
      points: [10, 10, 10, 10, 10, 10, 10, 20, 10],
      signals: [{ at: 7, rule: 'beyond' }],
    });
    expect(single.x.centre - single.x.lower).toBeCloseTo(3 * single.sigma, 12);
    expect(single.x.upper - single.x.centre).toBeCloseTo(3 * single.sigma, 12);
    expect(single.ranges).toMatchObject({ points: [0, 0, 0, 0, 0, 0, 10, 10], centre: 2.5, lower: 0 });
    expect(single.ranges.upper).toBeCloseTo(3.267 * 2.5, 12);
    expect(single.ranges.signals).toEqual([6, 7].map((at) => ({ at, rule: 'beyond' })));
    // ranges that are given stand for the neighbours'
    expect(individuals([1, 9], [1.128]).sigma).toBeCloseTo(1, 12);
    expect(() => individuals([1, 2], [])).toThrow('two values');
    const grouped = averages([0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 9, 20], 2);
    expect(grouped.ranges.signals).toEqual([{ at: 6, rule: 'beyond' }]);
    expect(grouped.x.signals.map(({ at }) => at)).toContain(6);
    expect(grouped.x.centre - grouped.x.lower).toBeCloseTo(grouped.x.upper - grouped.x.centre, 12);
    expect(grouped.sigma).toBeCloseTo(grouped.ranges.centre / 1.128, 12);
    // of eight a group a range can also be too small: 0.136 of the mean
    const calm = averages([...Array.from({ length: 16 }, (_, i) => (i % 2) * 10), 5, 5, 5, 5, 5, 5, 5, 5], 8);
    expect(calm.ranges.lower).toBeCloseTo((0.136 * 20) / 3, 12);
    expect(calm.ranges.signals).toEqual([{ at: 2, rule: 'beyond' }]);
    expect(() => averages([1, 2, 3], 1)).toThrow('2 to 10');
    expect(() => averages([1, 2, 3], 2.5)).toThrow('2 to 10');
    expect(() => averages(Array(9).fill(1) as number[], 10)).toThrow('no full group');
    expect(averages(Array(10).fill(1) as number[], 10).x.points).toEqual([1]);
    const weighted = ewma([0, 0, 9, -20], { lambda: 1, target: 0, sigma: 1 });
    expect(weighted.signals).toEqual([2, 3].map((at) => ({ at, rule: 'beyond' })));
    expect(weighted.limits!.at(-1)!.lower).toBeCloseTo(-3, 12);
    for (const lambda of [0, 1.01])
      expect(() => ewma([1], { lambda, target: 0, sigma: 1 })).toThrow('at most 1');
  });

  it('are the same charts of the same parts in another unit', () => {
    const values = fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 6, maxLength: 40 });
    fc.assert(
      fc.property(values, fc.constantFrom(0.001, 25.4, 1000), (parts, factor) => {
        const [plain, other] = [individuals(parts), individuals(parts.map((each) => each * factor))];
        expect(other.sigma).toBeCloseTo(plain.sigma * factor, 6);
      }),
    );
  });
});

describe('capability', () => {
  it('the worked example of NIST/SEMATECH 6.1.6 (memory)', () => {
    const { usl, lsl, mean, s, Cp, Cpk } = outside.capability;
    const found = indices(mean, s, lsl, usl);
    expect(found.cp).toBeCloseTo(Cp, 3);
    expect(found.cpk).toBeCloseTo(Cpk, 3);
  });

  it('says nothing of few parts, and gives wide limits to few more', () => {
    expect(capability({ mean: 0, sigma: 1, parts: 24 }, -4, 4)).toBeNull();
    expect(capability({ mean: 0, sigma: 0, parts: 50 }, -4, 4)).toBeNull();
    const [few, many] = [30, 3000].map((parts) => capability({ mean: 0, sigma: 1, parts }, -4, 4)!);
    expect(few!.cpkBetween[1] - few!.cpkBetween[0]).toBeGreaterThan(0.5);
    expect(many!.cpkBetween[1] - many!.cpkBetween[0]).toBeLessThan(0.1);
    // chi-square with 29 degrees of freedom: 16.047 and 45.722 (tables, memory)
    expect(few!.cpBetween[0]).toBeCloseTo((4 / 3) * Math.sqrt(16.047 / 29), 2);
    expect(few!.cpBetween[1]).toBeCloseTo((4 / 3) * Math.sqrt(45.722 / 29), 2);
  });

  it('shares of a normal spread (tables of the normal distribution, memory)', () => {
    expect(below(0)).toBeCloseTo(0.5, 6);
    expect(below(1.96)).toBeCloseTo(0.975, 4);
    expect(below(-3)).toBeCloseTo(0.00135, 5);
    expect(shareOut(0, 1, -3, 3)).toBeCloseTo(0.0027, 4);
    expect(shareOut(2, 0, -3, 3)).toBe(0);
    expect(shareOut(4, 0, -3, 3)).toBe(1);
    expect(shareOut(-4, 0, -3, 3)).toBe(1);
    expect([shareOut(3, 0, -3, 3), shareOut(-3, 0, -3, 3)]).toEqual([0, 0]);
    // off the middle and another spread: below 10 − 2·1.96 of N(10, 2), and above 14
    expect(shareOut(10, 2, 10 - 3.92, 14)).toBeCloseTo(0.025 + 0.02275, 4);
    expect(indices(11, 1, 10, 16)).toEqual({ cp: 1, cpk: 1 / 3 });
    expect(capability({ mean: 0, sigma: 1, parts: 25 }, -4, 4)).not.toBeNull();
  });
});
