import fc from 'fast-check';
import { expect, it } from 'vitest';
import { gapsOf } from './gaps.ts';

const positions = (gaps: readonly number[]) =>
  gaps.reduce<number[]>((at, gap) => [...at, at.at(-1)! + gap], [0]);

it('even gaps are felt as they are; of nothing or one reading every part is', () => {
  expect(gapsOf(positions([5, 5, 5, 5]))).toEqual({ usual: 5, felt: 5 });
  expect(gapsOf([])).toEqual({ usual: 1, felt: 1 });
  expect(gapsOf([7])).toEqual({ usual: 1, felt: 1 });
  // two sizes of one part: no gap
  expect(gapsOf([3, 3, 8, 8, 13])).toEqual({ usual: 5, felt: 5 });
});

it('a drift set half the felt gap ahead leaves the least square error, by trying every setting', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 2, max: 9 }), { minLength: 1, maxLength: 12 }), (gaps) => {
      const middle = [...gaps].sort((a, b) => a - b)[gaps.length >> 1]!;
      // no pause among them, so all count in full
      fc.pre(gaps.every((gap) => gap <= 5 * middle));
      const loss = (ahead: number) =>
        gaps.reduce(
          (sum, gap) =>
            sum +
            Array.from({ length: gap }, (_, i) => (i - ahead) ** 2).reduce((whole, each) => whole + each, 0),
          0,
        );
      const tried = Array.from({ length: 900 }, (_, i) => i / 100);
      const best = tried.reduce((a, b) => (loss(b) < loss(a) ? b : a));
      expect((gapsOf(positions(gaps)).felt - 1) / 2).toBeCloseTo(best, 1);
    }),
  );
});

it('a night without a reading is not expected to come again', () => {
  const { usual, felt } = gapsOf(positions([4, 4, 4, 4, 400, 4, 4, 4]));
  expect(usual).toBe(4);
  expect(felt).toBeLessThan(12);
});
