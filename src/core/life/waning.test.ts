import { describe, expect, it } from 'vitest';
import { numberToKey, partsLeft, usedBy, type CycleUse, type LifeBasis } from './count.ts';
import { litPath, phaseOf, shareLeft } from './phase.ts';

describe('a waning disc', () => {
  it('is named by tenths: spent, crescent below 0.3, half below 0.6, gibbous below 0.9, full', () => {
    expect([-0.1, 0, 0.001, 0.299, 0.3, 0.599, 0.6, 0.899, 0.9, 1].map(phaseOf)).toEqual([
      'spent',
      'spent',
      'crescent',
      'crescent',
      'half',
      'half',
      'gibbous',
      'gibbous',
      'full',
      'full',
    ]);
  });
  it('by the share that is left, nothing of a limit that is none', () => {
    expect([shareLeft(25, 100), shareLeft(-5, 100), shareLeft(120, 100)]).toEqual([0.25, 0, 1]);
    expect([shareLeft(25, 0), shareLeft(0, 0), shareLeft(25, -1)]).toEqual([0, 0, 0]);
    expect(shareLeft(0.5, 0.5)).toBe(1);
  });
  it('lit by as much: a half circle, and half an ellipse that bulges past the middle from a half on', () => {
    // the terminator's half width and which way it bends, read out of the path
    const ellipse = (share: number) =>
      /A([\d.]+) 1 0 0 ([01]) 0 -1Z$/.exec(litPath(share))!.slice(1).map(Number);
    expect([litPath(0), litPath(-1)]).toEqual(['', '']);
    expect(litPath(0.05)).toBe(litPath(0.1));
    expect(ellipse(0.1)).toEqual([0.8, 0]);
    expect(ellipse(0.25)).toEqual([0.5, 0]);
    expect(ellipse(0.5)).toEqual([0, 0]);
    expect(ellipse(0.75)).toEqual([0.5, 1]);
    expect(ellipse(0.99)).toEqual([0.98, 1]);
    // lit all round: two half circles the same way
    expect(litPath(1)).toBe('M0 -1A1 1 0 0 1 0 1A1 1 0 0 1 0 -1Z');
    expect(litPath(1.5)).toBe(litPath(1));
  });
});

describe('uses of a counter, held against playing part by part', () => {
  const use = (over: Partial<CycleUse>): CycleUse => ({
    holes: 4,
    cutMilliseconds: 90_000,
    parts: 1,
    ...over,
  });
  /** Parts made one by one until nothing is left: the one in which a tool expires is finished. */
  const played = (remaining: number, basis: LifeBasis, of: CycleUse) => {
    const perPart =
      basis === 'pieces' ? 1 : (basis === 'holes' ? of.holes : of.cutMilliseconds) / Math.max(1, of.parts);
    let [left, parts] = [remaining, 0];
    while (left > 1e-9) [left, parts] = [left - perPart, parts + 1];
    return parts;
  };
  it('parts left', () => {
    for (const basis of ['pieces', 'holes', 'minutes'] as const)
      for (const parts of [1, 2, 3])
        for (const remaining of [-2, 0, 1, 3, 4, 5, 9, 90_000, 90_001])
          if (basis !== 'pieces' || parts === 1)
            if (remaining < 1000 || basis === 'minutes')
              expect(partsLeft(remaining, basis, use({ parts }))).toBe(
                played(remaining, basis, use({ parts })),
              );
  });
  it('a counter that the program takes nothing from lasts for ever; one that is spent does not', () => {
    expect(partsLeft(5, 'holes', use({ holes: 0 }))).toBe(Infinity);
    expect(partsLeft(5, 'minutes', use({ cutMilliseconds: 0 }))).toBe(Infinity);
    expect(partsLeft(0, 'holes', use({ holes: 0 }))).toBe(0);
    expect(partsLeft(7, 'pieces', use({ holes: 0, cutMilliseconds: 0 }))).toBe(7);
    // a program that says no parts makes one
    expect(partsLeft(8, 'holes', use({ parts: 0 }))).toBe(2);
  });
  it('parts of one bar, one by one or at once, use the same', () => {
    const bar = use({ holes: 5, parts: 2 });
    expect(usedBy(1, 'holes', bar) + usedBy(1, 'holes', bar, 1)).toBe(usedBy(2, 'holes', bar));
    expect([usedBy(1, 'holes', bar), usedBy(1, 'holes', bar, 1), usedBy(3, 'pieces', bar)]).toEqual([
      3, 2, 3,
    ]);
    expect(usedBy(2, 'minutes', use({ parts: 0 }))).toBe(180_000);
  });
  it('what to key for so many uses (H11)', () => {
    expect(numberToKey(10, 'atZero', 'pieces')).toBe(10);
    expect(numberToKey(10, 'belowZero', 'pieces')).toBe(9);
    expect(numberToKey(10, 'belowZero', 'holes')).toBe(9);
    expect(numberToKey(10, 'belowZero', 'minutes')).toBe(10);
    expect(numberToKey(10, 'atZero', 'minutes')).toBe(10);
  });
});
