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
    const nights = counts([0, 0], [5, 60], [10, 120], [15, 900], [20, 960], [25, 1020], [24, 1021]);
    expect(countedPace(nights, 1)).toBe(12 * MINUTE);
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
