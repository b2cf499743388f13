import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import { gaugeOff, sameDigits, shownStep } from './suspect-gauge.ts';

const size = (off: number, deviation = 2000, name = 'A') => ({ name, off, deviation });

describe('a gauge that is off by a constant on all it measures', () => {
  it('is seen in what no single size shows', () => {
    // three σ each is no surprise, two of them together are
    expect(gaugeOff([size(6000), size(6400, 2000, 'B')], 'micrometer', 'mm')).toBe(
      'A and B of this part all lie about +0.006 mm off what was expected: check the zero of micrometer, and whether the part is warm, then measure again.',
    );
    expect(gaugeOff([size(-6000), size(-6400), size(-5500)], 'm', 'mm')).toMatch(/about −0.006/);
  });
  it('one that is off alone, or two that are off otherwise, is no matter of the gauge', () => {
    expect(gaugeOff([size(20_000), size(0)], 'm', 'mm')).toBeNull();
    expect(gaugeOff([size(9000), size(-9000)], 'm', 'mm')).toBeNull();
    expect(gaugeOff([size(9000)], 'm', 'mm')).toBeNull();
    expect(gaugeOff([size(3000), size(3000)], 'm', 'mm')).toBeNull();
  });
  it('what is hardly known weighs little', () => {
    expect(gaugeOff([size(60_000, 30_000), size(6000)], 'm', 'mm')).toBeNull();
  });
  it('a good gauge is asked about less than once in two thousand parts, one a step off mostly', () => {
    const { normal } = chance(11);
    const asked = (bias: number) => {
      let count = 0;
      for (let i = 0; i < 4000; i += 1)
        if (
          gaugeOff(
            [0, 1, 2].map(() => size(bias + 2000 * normal())),
            'm',
            'mm',
          )
        )
          count += 1;
      return count;
    };
    expect(asked(0)).toBeLessThanOrEqual(2);
    expect(asked(8000)).toBeGreaterThan(3200);
  });
});

describe('the same digits once more', () => {
  const mm = (value: number) => lengthOf(value, 'mm');
  it('is asked about when chance does not do that', () => {
    // two alike: about one in eleven at σ of 3 steps; three repeats one in twelve hundred
    const same = (n: number) =>
      sameDigits([mm(11.9), ...Array.from({ length: n }, () => mm(12.001))], 3000, 1000, 'mm');
    expect([1, 2, 3].map(same)).toEqual([null, null, null]);
    expect(same(4)).toBe(
      '12.001 mm is what the last 3 parts showed too: was it read off this part, and does the gauge move freely? Measure again.',
    );
  });
  it('never with a coarse gauge, nor without readings', () => {
    expect(
      sameDigits(
        Array.from({ length: 9 }, () => mm(12)),
        3000,
        10_000,
        'mm',
      ),
    ).toBeNull();
    expect(sameDigits([], 3000, 1000, 'mm')).toBeNull();
    expect(sameDigits([mm(1), mm(1), mm(1), mm(1)], 0, 1000, 'mm')).toBeNull();
  });
  it('parts that are read are asked about less than once in three hundred', () => {
    const { normal } = chance(5);
    const readings = Array.from({ length: 3000 }, () => nanometres(Math.round(normal() * 3) * 1000));
    const asked = readings.filter(
      (_, i) => i > 10 && sameDigits(readings.slice(i - 10, i + 1), 3000, 1000, 'mm') !== null,
    );
    expect(asked.length).toBeLessThan(10);
  });
  it('the step of a gauge is told by what it showed', () => {
    expect(shownStep([mm(80.03), mm(80.1)], 'mm')).toBe(10_000);
    expect(shownStep([mm(80.031), mm(80.03)], 'mm')).toBe(1000);
    expect(shownStep([lengthOf(1.3781, 'in')], 'in')).toBe(2540);
    expect(shownStep([nanometres(1)], 'mm')).toBe(10);
  });
});
