import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import { lengthOf } from '../units/length.ts';
import { forkLine, oddFork, onLine, slideDistance, straightness, type ForkSpot } from './rack.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const { rackSlide } = checks.commonPractice;
/** A row of forks along X, a little out of square as racks are. */
const row = (forks: readonly number[], over: Record<number, Partial<ForkSpot>> = {}): ForkSpot[] =>
  forks.map((fork) => ({
    fork,
    x: mm(40 + fork * 110),
    y: mm(1200 + fork * 0.05),
    z: mm(-85),
    ...over[fork],
  }));

describe('commissioning a linear rack (H16)', () => {
  it('the slide is what lies between in the fork and clear of it (common practice, no source)', () => {
    expect(slideDistance(mm(rackSlide.in), mm(rackSlide.clear))).toBe(mm(rackSlide.slide));
    expect(slideDistance(mm(rackSlide.clear), mm(rackSlide.in))).toBe(mm(rackSlide.slide));
  });
  it('two forks give the place of every other', () => {
    expect(onLine(forkLine(row([1, 3]))!, 7)).toEqual(row([7])[0]);
  });
  it('one fork, or the same fork twice, gives nothing', () => {
    expect(forkLine(row([1]))).toBeNull();
    expect(forkLine([...row([2]), ...row([2])])).toBeNull();
  });
  it('a straight even row has no odd fork', () => {
    expect(oddFork(row([1, 2, 3, 4, 5, 6]))).toBeNull();
    expect(straightness(row([1, 2, 3, 4, 5, 6]))).toBe(0);
  });
  it('a slip of a digit in one fork is named with its axis and by how much, wherever it stands in the row', () => {
    for (const fork of [1, 2, 3, 4, 5, 6, 7, 8, 9, 10]) {
      const forks = row([1, 2, 3, 4, 5, 6, 7, 8, 9, 10], { [fork]: { y: mm(1200 + fork * 0.05 + 10) } });
      expect(oddFork(forks)).toEqual({ fork, axis: 'y', off: mm(10) });
    }
  });
  it('three forks are too few to say which is the odd one', () => {
    expect(oddFork(row([1, 2, 3], { 2: { x: mm(300) } }))).toBeNull();
  });
  it('captured by eye to a few tenths, the odd one is still found and no other is blamed', () => {
    const jitter = fc.array(fc.integer({ min: -150, max: 150 }), { minLength: 30, maxLength: 30 });
    fc.assert(
      fc.property(
        jitter,
        fc.integer({ min: 1, max: 10 }),
        fc.constantFrom('x', 'y', 'z'),
        fc.boolean(),
        (noise, bad, axis, wrong) => {
          const forks = row([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]).map((each, i) => ({
            fork: each.fork,
            x: mm((each.x + noise[i]! * 1000) / 1e6),
            y: mm((each.y + noise[i + 10]! * 1000) / 1e6),
            z: mm((each.z + noise[i + 20]! * 1000) / 1e6),
          }));
          if (wrong) forks[bad - 1]![axis] = mm(forks[bad - 1]![axis] / 1e6 + 3);
          const odd = oddFork(forks);
          if (wrong) expect(odd).toMatchObject({ fork: bad, axis });
          else expect(odd).toBeNull();
        },
      ),
    );
  });
});
