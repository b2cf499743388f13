import { describe, expect, it } from 'vitest';
import { nextReadings, nextReadingWords } from './next-reading.ts';

const feature = (id: number, lastPart: number | null, unjudged = false) => ({ id, lastPart, unjudged });
const order = (...features: Parameters<typeof nextReadings>[0]) =>
  nextReadings(features, 100).map((each) => each.id);

describe('what to measure next (H14)', () => {
  it('a corrected feature first: only a part tells whether the correction took', () => {
    expect(order(feature(1, null), feature(2, 99, true), feature(3, 10))).toEqual([2, 1, 3]);
  });
  it('then what was never measured on this job, then what was measured longest ago', () => {
    expect(order(feature(1, 98), feature(2, 40), feature(3, null), feature(4, 41))).toEqual([3, 2, 4, 1]);
  });
  it('the plan’s order decides between equals', () => {
    expect(order(feature(5, 90), feature(3, 90), feature(4, null), feature(1, null))).toEqual([4, 1, 5, 3]);
    expect(order(feature(9, 20, true), feature(8, 30, true))).toEqual([9, 8]);
  });
  it('says why, in parts', () => {
    const words = (at: number | null, unjudged = false) =>
      nextReadingWords(nextReadings([feature(1, at, unjudged)], 100)[0]!);
    expect(words(null)).toMatch(/not measured/);
    expect(words(100)).toMatch(/this part/);
    // a part was measured ahead of the count: nobody recorded it yet
    expect(words(101)).toMatch(/this part/);
    expect(words(99)).toMatch(/one part ago/);
    expect(words(88)).toMatch(/12 parts ago/);
    expect(words(88, true)).toMatch(/took/);
  });
});
