import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { partedSince, type Change } from './parted.ts';

const day = (n: number) => new Date(Date.UTC(2026, 0, 1) + n * 86_400_000);
const same = (values: readonly number[]) => values.every((value) => value === values[0]);
const side = (...changes: [number, number | null][]): Change<number>[] =>
  changes.map(([at, value]) => ({ at: day(at), value }));

describe('since when things part', () => {
  it('is the change after which they were never equal again', () => {
    expect(partedSince([side([0, 1], [5, 2]), side([0, 1])], same)).toEqual({
      since: day(5),
      atLeast: false,
    });
    // one came nearer, and they still differ: they parted at the first of the two
    expect(partedSince([side([0, 1], [5, 2], [8, 3]), side([0, 1])], same)).toEqual({
      since: day(5),
      atLeast: false,
    });
    // they met once more in between
    expect(partedSince([side([0, 1], [5, 2], [8, 1], [9, 4]), side([0, 1])], same)).toEqual({
      since: day(9),
      atLeast: false,
    });
  });
  it('is "at least since" where they never were equal on record, or nobody knows what one was before', () => {
    expect(partedSince([side([0, 1]), side([3, 2])], same)).toEqual({ since: day(3), atLeast: true });
    expect(partedSince([side([0, null], [4, 1]), side([0, 2])], same)).toEqual({
      since: day(4),
      atLeast: true,
    });
  });
  it('is nothing where they are equal, or there is one alone', () => {
    expect(partedSince([side([0, 1], [5, 2]), side([0, 2])], same)).toBeNull();
    expect(partedSince([side([0, 1])], same)).toBeNull();
    expect(partedSince([side([0, 1]), side()], same)).toBeNull();
  });
  it('is what a look at every day comes to, on random histories of up to four', () => {
    const { next } = chance(91);
    const pick = (n: number) => Math.floor(next() * n);
    for (let tried = 0; tried < 3000; tried += 1) {
      const sides = Array.from({ length: 2 + pick(3) }, () => {
        const days = [...new Set(Array.from({ length: 1 + pick(4) }, () => pick(30)))].sort((a, b) => a - b);
        return days.map((at, i): Change<number> => ({
          at: day(at),
          value: i === 0 && next() < 0.3 ? null : pick(3),
        }));
      }).map((changes) => {
        // what is now is known
        if (changes.at(-1)!.value === null)
          changes[changes.length - 1] = { ...changes.at(-1)!, value: pick(3) };
        return changes;
      });
      const value = (changes: readonly Change<number>[], at: number) =>
        changes.filter((change) => change.at <= day(at)).at(-1)?.value ?? null;
      const stands = (at: number) => {
        const values = sides.map((changes) => value(changes, at));
        if (values.includes(null)) return 'unknown';
        return values.every((each) => each === values[0]) ? 'equal' : 'parted';
      };
      let at = 30;
      while (at >= 0 && stands(at) === 'parted') at -= 1;
      const expected =
        stands(30) === 'equal' ? null : { since: day(at + 1), atLeast: at < 0 || stands(at) === 'unknown' };
      expect(partedSince(sides, same)).toEqual(expected);
    }
  });
});
