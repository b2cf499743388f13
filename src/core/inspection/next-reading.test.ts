import { describe, expect, it } from 'vitest';
import { nextReadings, nextReadingWords, type MeasuredFeature } from './next-reading.ts';

const feature = (
  id: number,
  lastPart: number | null,
  unjudged = false,
  more: Partial<MeasuredFeature> = {},
): MeasuredFeature => ({
  id,
  lastPart,
  unjudged,
  every: null,
  also: [],
  renewed: false,
  lately: false,
  left: null,
  ...more,
});
const order = (...features: Parameters<typeof nextReadings>[0]) =>
  nextReadings(features, 100).map((each) => each.id);

describe('what to measure next (H14)', () => {
  it('a corrected feature first: only a part tells whether the correction took', () => {
    expect(order(feature(1, null), feature(2, 99, true), feature(3, 10))).toEqual([2, 1, 3]);
  });
  it('then what was never measured on this job, then what was measured longest ago', () => {
    expect(order(feature(1, 98), feature(2, 40), feature(3, null), feature(4, 41))).toEqual([3, 2, 4, 1]);
  });
  it('then what was not measured yet in one of the places that its row cuts', () => {
    const inOne = feature(3, 99, false, { left: 'place' });
    expect(order(feature(1, 98, false, { every: 1 }), inOne, feature(4, null), feature(5, 98, true))).toEqual(
      [5, 4, 3, 1],
    );
    expect(nextReadingWords(nextReadings([inOne], 100)[0]!)).toMatch(/in this place/);
  });
  it('what was not measured on the pallet that is cut now comes before what was measured long ago, but is no duty', () => {
    const onOne = feature(2, 99, false, { left: 'pallet' });
    expect(order(feature(1, 2), onOne, feature(3, 98, false, { every: 1 }))).toEqual([3, 2, 1]);
    expect(nextReadingWords(nextReadings([onOne], 100)[0]!)).toMatch(/on this pallet/);
    const due = feature(2, 90, false, { left: 'pallet', every: 10 });
    expect(nextReadings([due], 100)[0]!.why).toBe('due');
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
  it('its interval makes a size due, the longest overdue first; one that is not due waits', () => {
    const each = (id: number, lastPart: number, every: number) => feature(id, lastPart, false, { every });
    // by 10 of 20, by 10 of 5, by 30 of 10, by 60 of 50: over by a half, twice, thrice, and 1.2 times
    expect(order(each(1, 90, 20), each(2, 90, 5), each(3, 70, 10), each(4, 40, 50))).toEqual([3, 2, 4, 1]);
    expect(order(feature(1, 10), each(2, 99, 1))).toEqual([2, 1]);
    expect(order(each(1, 50, 10), feature(2, null))).toEqual([2, 1]);
  });
  it('a new edge is measured before all but an unjudged correction, where the plan says so', () => {
    const renewed = feature(3, 99, false, { renewed: true, also: ['renewal'] });
    expect(order(feature(1, 1, true), feature(2, null), renewed)).toEqual([1, 3, 2]);
    expect(order(feature(2, null), { ...renewed, also: [] })).toEqual([2, 3]);
  });
  it('what is measured at the end of a shift is due once it ends, and not twice', () => {
    const asked = (lately: boolean, ends: boolean) =>
      nextReadings([feature(1, 99, false, { also: ['shiftEnd'], lately }), feature(2, 1)], 100, ends)[0]!.id;
    expect([asked(false, true), asked(true, true), asked(false, false)]).toEqual([1, 2, 2]);
  });
  it('says what is due, and by what rhythm', () => {
    const words = (more: Partial<MeasuredFeature>, ends = false) =>
      nextReadingWords(nextReadings([feature(1, 88, false, more)], 100, ends)[0]!);
    expect(words({ every: 10 })).toBe('due, every 10 parts: last measured 12 parts ago');
    expect(words({ every: 1 })).toMatch(/^due, every part:/);
    expect(words({ every: 20 })).toBe('last measured 12 parts ago, every 20 parts');
    expect(words({ renewed: true, also: ['renewal'] })).toMatch(/edge is new/);
    expect(words({ also: ['shiftEnd'] }, true)).toMatch(/^the shift ends/);
  });
});
