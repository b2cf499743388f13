import { describe, expect, it } from 'vitest';
import { cutWhen, heldFor, positionsOf, seriesOf, type RegisterMove } from './cut-with.ts';

const part = (series: string, number: number, entry = 100, recut = false) => ({
  series,
  part: number,
  entry,
  recut,
});
const move = (
  before: number,
  after: number,
  cut: RegisterMove['cut'],
  over: Partial<RegisterMove> = {},
): RegisterMove => ({
  entry: 50,
  cut,
  jobs: 9,
  before,
  after,
  found: false,
  ...over,
});

describe('which parts were cut with what (H14)', () => {
  it('a part is held against the parts that were cut until then, however late it was measured', () => {
    const change = move(0, -5, { '7': [40, 40] });
    expect(cutWhen(part('7', 40, 999), change)).toBe('before');
    expect(cutWhen(part('7', 41, 1), change)).toBe('after');
  });
  it('between the last surely before and the last perhaps before nobody knows', () => {
    const change = move(0, -5, { '7': [40, 42] });
    expect([40, 41, 42, 43].map((n) => cutWhen(part('7', n), change))).toEqual([
      'before',
      'unknown',
      'unknown',
      'after',
    ]);
  });
  it('a job that ended before was cut before, one that began later was cut after', () => {
    const change = move(0, -5, { '7': [40, 40] });
    expect(cutWhen(part('3', 10, 999), change)).toBe('before');
    expect(cutWhen(part('12', 1, 1), change)).toBe('after');
  });
  it('a part that was put back and cut again was cut as of when it was measured', () => {
    const change = move(0, -5, { '7': [40, 40] });
    expect(cutWhen(part('7', 40, 51, true), change)).toBe('after');
    expect(cutWhen(part('7', 40, 49, true), change)).toBe('before');
  });
  it('of entries from before parts were noted, and of parts measured without a job that nothing names, the order of entries tells', () => {
    expect(cutWhen(part('7', 1, 51), move(0, -5, null))).toBe('after');
    expect(cutWhen(part('7', 99, 49), move(0, -5, null))).toBe('before');
    expect(cutWhen(part('p3', 1, 51), move(0, -5, { '7': [1, 1] }))).toBe('after');
    expect(seriesOf({ jobId: null, programId: 3 })).toBe('p3');
    expect(seriesOf({ jobId: 7, programId: 3 })).toBe('7');
  });
  it('what a register held: as before its first change, then each that came before the part', () => {
    const moves = [move(1, -5, { '7': [10, 10] }), move(-5, -9, { '7': [20, 21] }, { entry: 60 })];
    expect([5, 10, 11, 20, 21, 22].map((n) => heldFor(part('7', n), moves, -9))).toEqual([
      1,
      1,
      -5,
      -5,
      null,
      -9,
    ]);
    expect(heldFor(part('7', 5), [], 4)).toBe(4);
  });
  it('where a register was found with another number, nobody knows since when: parts before it say nothing', () => {
    const moves = [
      move(0, -5, { '7': [10, 10] }),
      move(-5, 3, { '7': [20, 20] }, { entry: 60, found: true }),
    ];
    expect([15, 20, 21].map((n) => heldFor(part('7', n), moves, 3))).toEqual([null, null, 3]);
    // what was cut before the move before it was cut with what that one began with: it ended with what the control showed
    expect([9, 10, 11].map((n) => heldFor(part('7', n), moves, 3))).toEqual([0, 0, null]);
  });
  it('positions: series in the order in which they were first measured, parts by their number', () => {
    expect(positionsOf([part('7', 5, 10), part('9', 1, 20), part('7', 3, 30), part('9', 2, 40)])).toEqual([
      2, 3, 0, 4,
    ]);
  });
});
