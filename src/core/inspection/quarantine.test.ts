import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { lengthOf } from '../units/length.ts';
import { fateOf, suspectParts } from './quarantine.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const shaft = { kind: 'outsideDiameter' as const, nominal: mm(25), upper: mm(0.01), lower: mm(-0.01) };
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
    const readings = fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 40 }), fc.boolean()), {
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
          sorted.map(([part, good]) => ({ part, measured: mm(good ? 25 : 25.02) })),
          shaft,
          begins,
        );
        for (let part = 1; part <= 45; part += 1) {
          const before = sorted.filter(([at]) => at <= part && !apart(at, part)).at(-1);
          const after = sorted.find(([at]) => at >= part && !apart(at, part));
          const bad = before?.[1] === false || after?.[1] === false;
          const own = sorted.find(([at]) => at === part);
          const expected = own ? !own[1] : bad;
          expect(found.some(({ first, last }) => part >= first && part <= (last ?? 45))).toBe(expected);
        }
      }),
    );
  });
});
