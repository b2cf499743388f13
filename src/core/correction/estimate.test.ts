import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import outside from '../../../tests/outside/check-values.json';
import { ewma } from '../chart/control-chart.ts';
import { nanometres } from '../units/length.ts';
import { chaseWords, isChased, partsWithout } from './chase.ts';
import { trendAt, weighted } from './estimate.ts';
import { estimateBy } from './policies.ts';

const nm = (values: readonly number[]) => values.map(nanometres);

describe('estimates of the older schools', () => {
  it('a weighted mean is the EWMA of the handbook example, begun at its first value (NIST/SEMATECH 6.3.2.4; memory)', () => {
    const { lambda, data } = outside.ewma;
    const micro = data.map((each) => each * 1e6);
    const chart = ewma(micro.slice(1), { lambda, target: micro[0]!, sigma: 1 });
    expect(weighted(nm(micro), lambda)).toBeCloseTo(chart.points.at(-1)!, -1);
    expect(weighted(nm([7]), 0.3)).toBe(7);
    expect(weighted(nm([1, 2, 9]), 1)).toBe(9);
    for (const wrong of [0, 1.1]) expect(() => weighted(nm([1]), wrong)).toThrow('at most 1');
  });

  it('a line goes on along itself, wherever its parts lie', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 99 }), { minLength: 2, maxLength: 9 }),
        fc.integer({ min: -50, max: 50 }),
        fc.integer({ min: -1000, max: 1000 }),
        (at, slope, level) => {
          const line = (part: number) => level + slope * part;
          expect(trendAt(at, nm(at.map(line)), 120)).toBe(line(120));
        },
      ),
    );
    // by least squares: 0, 3, 3 at 0, 1, 2 is the line 0.5 + 1.5 x
    expect(trendAt([0, 1, 2], nm([0, 3000, 3000]), 3)).toBe(5000);
    expect(trendAt([4, 4], nm([10, 20]), 9)).toBe(15);
  });

  const asked = (values: number[], more = {}) => ({
    deviations: nm(values),
    averageOf: 3,
    signed: String,
    unit: 'mm' as const,
    ...more,
  });
  const good = { partOut: false, partAfterSetUp: null };
  it('as schools: the weight of a mean of so many, a line of three at least, the share of the setting', () => {
    // 2 / (3 + 1) = 0.5
    expect(estimateBy('ewma', asked([0, 8, 8]), good).deviation).toBe(6);
    expect(estimateBy('trend', asked([0, 1000, 2000], { at: [0, 10, 20] }), good).deviation).toBe(2100);
    expect(estimateBy('trend', asked([9000, 0, 1000, 2000]), good).deviation).toBe(3000);
    expect(estimateBy('trend', asked([0, 1000], { averageOf: 1 }), good)).toMatchObject({
      deviation: 1000,
      wait: expect.stringMatching(/2 of the 3/) as string,
    });
    expect(estimateBy('harmonic', asked([900], { settings: 3 }), good).deviation).toBe(300);
    expect(estimateBy('harmonic', asked([900]), good).deviation).toBe(900);
    // a part out of its limits is answered for itself
    expect(estimateBy('ewma', asked([0, 8, 8]), { ...good, partOut: true }).deviation).toBe(8);
  });
});

describe('what is not keyed', () => {
  it('is chased from the third part on that was cut without it', () => {
    const cut = [null, 9, 10, 12, 13, 20].map((each) => ({ part: 10, cut: each }));
    expect(cut.map(partsWithout)).toEqual([0, 0, 0, 2, 3, 10]);
    expect(cut.map(isChased)).toEqual([false, false, false, false, true, true]);
    expect(chaseWords(cut[3]!)).toBeNull();
    expect(chaseWords(cut[5]!)).toBe('10 parts were cut since part 10 asked for it, and it is not keyed.');
  });
});
