import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { chance } from '../../../tests/support/chance.ts';
import { lengthOf, type Length } from '../units/length.ts';
import { standing } from './feature.ts';
import { fateOf, suspectParts, suspectsByPlace } from './quarantine.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const shaft = {
  kind: 'outsideDiameter' as const,
  nominal: mm(25),
  upper: mm(0.01),
  lower: mm(-0.01),
  uncertainty: 0,
};
const read = (...parts: [number, number][]) => parts.map(([part, size]) => ({ part, measured: mm(size) }));

describe('parts to set aside', () => {
  it('reach from the last good one to the next', () => {
    expect(suspectParts(read([10, 25], [20, 25.012], [25, 25.011], [26, 25.001]), shaft)).toEqual([
      expect.objectContaining({ part: 20, first: 11, last: 25, fate: 'rework', fromStart: false }),
    ]);
  });
  it('reach to now while nothing good was measured since, and from the first where nothing was before', () => {
    expect(suspectParts(read([4, 24.98]), shaft)).toEqual([
      expect.objectContaining({ first: 1, last: null, side: 'under', fate: 'scrap', fromStart: true }),
    ]);
  });
  it('out on both sides is scrap until somebody looks at each', () => {
    expect(suspectParts(read([1, 25], [5, 25.02], [6, 24.98], [7, 25]), shaft)[0]!.fate).toBe('scrap');
  });
  it('common practice, no source: what still has material is cut again', () => {
    expect(fateOf('bore', 'under')).toBe('rework');
    expect(fateOf('bore', 'over')).toBe('scrap');
    expect(fateOf('depth', 'under')).toBe('rework');
    expect(fateOf('shoulder', 'under')).toBe('rework');
    expect(fateOf('partedLength', 'over')).toBe('rework');
    expect(fateOf('position', 'over')).toBe('scrap');
  });
  it('a bad first part of a new set-up says nothing of the parts before it, nor a good one of the bad before', () => {
    expect(suspectParts(read([38, 25], [52, 25.03]), shaft, [52])).toEqual([
      expect.objectContaining({ part: 52, first: 52, last: null, fromStart: false, anew: true }),
    ]);
    expect(suspectParts(read([38, 25], [40, 25.03], [55, 25]), shaft, [45, 52])).toEqual([
      expect.objectContaining({ part: 40, first: 39, last: 44, anew: false }),
    ]);
  });
  it('as a look at every part finds them: suspect is who has no good reading, and no new edge or set-up, between himself and a bad one', () => {
    const beginnings = fc.array(fc.integer({ min: 2, max: 42 }), { maxLength: 3 });
    // one that is nearer to a limit than the gauge is sure tells neither
    const sizes = fc.constantFrom(25, 25, 25.02, 25.008);
    const readings = fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 40 }), sizes), {
      minLength: 1,
      maxLength: 12,
      selector: ([part]) => part,
    });
    fc.assert(
      fc.property(readings, beginnings, (some, begins) => {
        const sorted = some.toSorted(([a], [b]) => a - b);
        const apart = (a: number, b: number) =>
          begins.some((begun) => begun > Math.min(a, b) && begun <= Math.max(a, b));
        const found = suspectParts(
          sorted.map(([part, size]) => ({ part, measured: mm(size) })),
          { ...shaft, uncertainty: mm(0.003) },
          begins,
        );
        const sure = sorted.filter(([, size]) => size !== 25.008);
        for (let part = 1; part <= 45; part += 1) {
          const before = sure.filter(([at]) => at <= part && !apart(at, part)).at(-1);
          const after = sure.find(([at]) => at >= part && !apart(at, part));
          const bad = before?.[1] === 25.02 || after?.[1] === 25.02;
          const own = sure.find(([at]) => at === part);
          const expected = own ? own[1] === 25.02 : bad;
          const of = found.filter(({ first, last }) => part >= first && part <= (last ?? 45));
          expect(of.length > 0).toBe(expected);
          // and is named among them
          const unsure = sorted.some(([at, size]) => at === part && size === 25.008);
          expect(of.some((each) => each.unsure.includes(part))).toBe(expected && unsure);
        }
      }),
    );
  });
});

describe('parts to set aside, cut in two places in turn', () => {
  const inTwo = (...parts: [part: number, size: number, place?: number | null][]) =>
    parts.map(([part, size, place = part % 2 === 1 ? 1 : 2]) => ({
      part,
      measured: mm(size),
      place: place === null ? null : { place, parts: 2 },
    }));
  it('a good part of the other place clears nothing of this one', () => {
    // the first place was last good at 21; that the second is good at 30 says nothing of it
    expect(suspectsByPlace(inTwo([21, 25], [24, 25], [30, 25], [31, 25.012], [32, 25]), shaft)).toEqual([
      expect.objectContaining({ part: 31, first: 22, last: null, place: { place: 1, parts: 2 } }),
    ]);
  });
  it('what goes out in one place may be out in the other, until that is measured', () => {
    const readings = inTwo([27, 25], [28, 25], [29, 25.012]);
    expect(suspectsByPlace(readings, shaft)).toEqual([
      expect.objectContaining({ part: 29, first: 28, last: null, place: { place: 1, parts: 2 } }),
      expect.objectContaining({ part: 29, first: 29, last: null, place: { place: 2, parts: 2 } }),
    ]);
    expect(suspectsByPlace([...readings, ...inTwo([30, 25])], shaft)).toHaveLength(1);
    // good again in the first place: the second is doubted no further
    expect(suspectsByPlace([...readings, ...inTwo([33, 25])], shaft)).toEqual([
      expect.objectContaining({ first: 28, last: 32, place: { place: 1, parts: 2 } }),
      expect.objectContaining({ first: 29, last: 32, place: { place: 2, parts: 2 } }),
    ]);
  });
  it('measured in one place alone, or nobody knows where, all parts are meant', () => {
    for (const readings of [inTwo([20, 25], [24, 25.012]), inTwo([19, 25, null], [24, 25.012, null])])
      expect(suspectsByPlace(readings, shaft)).toEqual([
        expect.objectContaining({ part: 24, first: readings[0]!.part + 1, last: null, place: null }),
      ]);
  });
  it('of places in which nothing was measured all parts are meant from when another was last good', () => {
    const readings = inTwo([27, 25], [28, 25], [29, 25.012], [30, 25]);
    const told = suspectsByPlace(readings, shaft, [], true);
    expect(told).toEqual([
      expect.objectContaining({ part: 29, first: 28, rest: false, byOther: false }),
      expect.objectContaining({ part: 29, first: 28, last: null, place: null, rest: true, byOther: true }),
    ]);
    // nothing was out: nothing is in doubt
    expect(suspectsByPlace(inTwo([27, 25], [28, 25]), shaft, [], true)).toEqual([]);
  });
  it('a good part of one pallet clears nothing of another', () => {
    const on = (part: number, size: number, pallet: number) => ({
      ...inTwo([part, size])[0]!,
      place: { place: 1, parts: 1, pallet },
    });
    expect(suspectsByPlace([on(3, 25, 1), on(9, 25.012, 2), on(14, 25, 1)], shaft)).toEqual([
      expect.objectContaining({ part: 9, first: 1, last: null, place: { place: 1, parts: 1, pallet: 2 } }),
    ]);
  });
  it('against every part of a shift asked by itself', () => {
    const random = chance(12);
    let asked = 0;
    for (let shift = 0; shift < 3000; shift += 1) {
      const begins = random.next() < 0.4 ? [2 + Math.floor(random.next() * 20)] : [];
      const readings = Array.from({ length: 24 }, (_, i) => i + 1)
        .filter(() => random.next() < 0.4)
        .map((part) => inTwo([part, random.next() < 0.3 ? 25.012 : 25])[0]!);
      if (new Set(readings.map(({ place }) => place!.place)).size < 2) continue;
      const placeOf = (part: number) => (part % 2 === 1 ? 1 : 2);
      const isBad = (reading?: { measured: Length }) =>
        reading !== undefined && standing(reading.measured, shaft) !== 'in';
      /** Readings by the same edge in the same set-up. */
      const near = (part: number) =>
        readings.filter((each) => begins.every((begun) => begun <= part === begun <= each.part));
      const suspect = (part: number): 'byOwn' | 'byOther' | null => {
        const own = near(part).filter((each) => placeOf(each.part) === placeOf(part));
        const other = near(part).filter((each) => placeOf(each.part) !== placeOf(part));
        const before = own.findLast((each) => each.part < part);
        const after = own.find((each) => each.part >= part);
        // its own place was out just before it, or is out just after
        if (isBad(after) || (after?.part !== part && isBad(before))) return 'byOwn';
        if (after !== undefined) return null;
        // or nothing of its own place tells since the other went out: from where that was last good until it is good again
        const gone = other.some(
          (bad) =>
            isBad(bad) &&
            bad.part > (before?.part ?? 0) &&
            !other.some((good) => !isBad(good) && good.part > bad.part && good.part <= part) &&
            !other.some((good) => !isBad(good) && good.part < bad.part && good.part > part),
        );
        return gone ? 'byOther' : null;
      };
      const found = suspectsByPlace(readings, shaft, begins);
      for (let part = 1; part <= 24; part += 1) {
        asked += 1;
        const told = found.filter(
          ({ place, first, last }) =>
            place!.place === placeOf(part) && part >= first && part <= (last ?? Infinity),
        );
        expect(
          [...new Set(told.map(({ byOther }) => (byOther ? 'byOther' : 'byOwn')))],
          `${JSON.stringify([readings, begins])}, part ${part}`,
        ).toEqual([suspect(part) ?? []].flat());
      }
      for (const { first, last, fromStart, anew } of found) {
        expect([fromStart, anew]).toEqual([first === 1, begins.includes(first)]);
        expect(last === null || last >= first).toBe(true);
      }
    }
    expect(asked).toBeGreaterThan(50_000);
  });
});
