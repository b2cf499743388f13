import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { countedPace, type Counted } from './counted-pace.ts';

const MINUTE = 60_000;
const at = (minute: number) => new Date(Date.UTC(2026, 2, 3) + minute * MINUTE);
const counts = (...each: [parts: number, minute: number][]): Counted[] =>
  each.map(([parts, minute]) => ({ parts, at: at(minute) }));

describe('the pace of a job as it was counted', () => {
  it('is the time between counts over the parts between them, the fastest left out', () => {
    const even = counts([0, 0], [5, 60], [10, 120], [15, 180], [20, 240]);
    expect(countedPace(even, 1)).toBe(12 * MINUTE);
    expect(countedPace(even, 2)).toBeNull();
    // twenty that somebody had forgotten
    expect(countedPace(counts([0, 0], [5, 60], [30, 120], [35, 180], [40, 240]), 1)).toBe(12 * MINUTE);
  });
  it('takes no night for work, nor a count that was taken back for a part', () => {
    const nights = counts([0, 0], [5, 60], [10, 120], [15, 900], [20, 960], [25, 1020], [24, 1045]);
    expect(countedPace(nights, 1)).toBe(12 * MINUTE);
    // five parts in four hours and a minute are of another spell
    const spells = counts([0, 0], [5, 60], [10, 120], [15, 180], [20, 240], [25, 481], [30, 541]);
    expect(countedPace(spells, 1)).toBe(12 * MINUTE);
    expect(countedPace(counts([0, 0], [5, 60], [10, 120], [15, 180], [35, 420]), 1)).toBe(12 * MINUTE);
  });
  it('parts that are pressed for one by one are one count', () => {
    const pressed = Array.from({ length: 20 }, (_, i): [number, number] => [40 + i, 300 + i / 10]);
    expect(countedPace(counts(...pressed), 1)).toBeNull();
    const even: [number, number][] = [
      [0, 0],
      [5, 60],
      [10, 120],
      [15, 180],
      [20, 240],
    ];
    // what was pressed for after the first goes to the next that stands apart
    expect(countedPace(counts(...even, [21, 300], [22, 300.1], [25, 301], [30, 360]), 1)).toBe(
      Math.round((MINUTE * 300) / 21),
    );
    // counted each two minutes it is told as well
    const each = Array.from({ length: 100 }, (_, i): [number, number] => [i, 2 * i]);
    expect(countedPace(counts(...each), 1)).toBe(2 * MINUTE);
  });
  it('is not told from few counts, or few cycles', () => {
    expect(countedPace([], 1)).toBeNull();
    expect(countedPace(counts([0, 0], [20, 100], [40, 200], [60, 300]), 1)).toBeNull();
    expect(countedPace(counts([0, 0], [3, 60], [6, 120], [9, 180], [12, 240]), 1)).toBeNull();
  });

  /** A machine that runs at a pace nobody knows, in two shifts, counted now and then, at times late, at times forgotten for a while. */
  function run(seed: number, real: number, stands: number) {
    const { next } = chance(seed);
    const list: Counted[] = [];
    let parts = 0;
    for (let day = 0; day < 4; day += 1) {
      let minute = day * 1440;
      list.push({ parts, at: at(minute) });
      while (minute < day * 1440 + 960) {
        minute += real * (next() < stands ? 1 + 3 * next() : 1);
        parts += 1;
        if (next() > real / 90) continue;
        // somebody counts, and one in ten leaves parts out that the next one finds
        const forgotten = next() < 0.1 ? Math.floor(4 * next()) : 0;
        list.push({ parts: parts - forgotten, at: at(minute + 8 * next()) });
      }
    }
    return list;
  }
  it('is near to the truth where the machine runs without a stop, and hardly ever faster than it', () => {
    let [far, fast, told] = [0, 0, 0];
    for (let seed = 1; seed <= 300; seed += 1) {
      const real = 4 + (seed % 20);
      const pace = countedPace(run(seed, real, 0), 1);
      if (pace === null) continue;
      told += 1;
      far += Number(Math.abs(pace / MINUTE / real - 1) > 0.1);
      fast += Number(pace / MINUTE / real < 0.93);
    }
    expect(told).toBeGreaterThan(290);
    expect(far / told).toBeLessThan(0.05);
    expect(fast / told).toBeLessThan(0.01);
  });
  it('with stops it is slower than the truth, never faster by much', () => {
    for (let seed = 1; seed <= 300; seed += 1) {
      const real = 4 + (seed % 20);
      const pace = countedPace(run(seed, real, 0.2), 1);
      if (pace !== null) expect(pace / MINUTE / real).toBeGreaterThan(0.95);
    }
  });
});
