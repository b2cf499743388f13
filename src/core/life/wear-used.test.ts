import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { numberToKey, partsLeft, usedBy } from './count.ts';
import { explainLife, lifeNumbers } from './life-card.ts';
import { wearUsed, type WearMove } from './wear-used.ts';

const move = (change: number, over: Partial<WearMove> = {}): WearMove => ({
  registerId: 1,
  kind: 'xWear',
  featureId: 7,
  change,
  setUp: false,
  ...over,
});
const ANY = { kind: null, featureId: null };

describe('life counted by accumulated wear correction (H11)', () => {
  it('corrections are added up without their signs', () => {
    expect(wearUsed([move(-4000), move(3000), move(-1000)], ANY)).toBe(8000);
    expect(wearUsed([], ANY)).toBe(0);
  });
  it('what a first-off took out was there before the edge cut', () => {
    expect(wearUsed([move(-90_000, { setUp: true }), move(-2000)], ANY)).toBe(2000);
  });
  it('an insert that is corrected in X and in Z wears once: the row that moved most speaks', () => {
    const both = [
      move(-4000),
      move(-7000, { registerId: 2, kind: 'zWear', featureId: 8 }),
      move(-4000),
      move(1000, { registerId: 2, kind: 'zWear', featureId: 9 }),
    ];
    expect(wearUsed(both, ANY)).toBe(8000);
    expect(wearUsed(both, { kind: 'zWear', featureId: null })).toBe(8000);
    expect(wearUsed(both, { kind: 'xWear', featureId: null })).toBe(8000);
    expect(wearUsed(both, { kind: null, featureId: 9 })).toBe(1000);
    expect(wearUsed(both, { kind: 'lengthWear', featureId: null })).toBe(0);
  });
  it('a hidden wear that is corrected as it goes is counted as far as it went, whatever the steps', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 5000 }), { maxLength: 40 }), (steps) => {
        expect(
          wearUsed(
            steps.map((step) => move(-step)),
            ANY,
          ),
        ).toBe(steps.reduce((sum, step) => sum + step, 0));
      }),
    );
  });
  it('lasts as many parts as its rate allows, and nobody can tell before one is known', () => {
    const use = { holes: 4, cutMilliseconds: 1000, parts: 1 };
    expect(partsLeft(50_000, 'wear', use)).toBe(Infinity);
    expect(partsLeft(50_000, 'wear', use, 300)).toBe(167);
    expect(partsLeft(0, 'wear', use, 300)).toBe(0);
    // parts take nothing by themselves: only what is corrected counts
    expect(usedBy(100, 'wear', use)).toBe(0);
  });
  it('is keyed in millimetres as it is, on either kind of control, and read back to a thousandth', () => {
    const keyed = { tool: 3, basis: 'wear' as const, remaining: 123_456, limit: 200_000 };
    expect(numberToKey(123_456, 'belowZero', 'wear')).toBe(123_456);
    expect(lifeNumbers(keyed, 'belowZero')).toEqual({ set: 0.2, left: 0.123 });
    expect(explainLife(0.123, keyed, 'belowZero', [])).toEqual({ matches: true });
    expect(explainLife(0.2, keyed, 'belowZero', [])).toMatchObject({ matches: false });
    expect(explainLife(1.23, keyed, 'belowZero', [])).toMatchObject({ matches: false });
  });
});
