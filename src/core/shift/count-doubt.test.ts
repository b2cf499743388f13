import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { countDoubt, countDoubtWords } from './count-doubt.ts';

const MINUTE = 60_000;
const job = {
  number: 'O1402',
  made: 150,
  quantity: 240,
  partsPerCycle: 2,
  cycleMilliseconds: 19 * MINUTE,
  pace: null,
};

describe('a count of parts that cannot be', () => {
  it('is asked about where the machine cannot have made so many since the last count, even twice as fast', () => {
    // three cycles in an hour at half the time each are seven, and two were under way: 9 × 2
    expect(countDoubt(job, 18, 60 * MINUTE)).toBeNull();
    expect(countDoubt(job, 19, 60 * MINUTE)).toEqual({ why: 'cycle', most: 18, fresh: null });
    expect(countDoubt(job, 4, 0)).toBeNull();
    expect(countDoubt(job, 5, 0)).toMatchObject({ why: 'cycle', most: 4 });
  });
  it('a job that was counted faster than its cycle is held against that', () => {
    // seven cycles of half the time are fourteen, and two
    expect(countDoubt({ ...job, pace: 9.5 * MINUTE }, 30, 60 * MINUTE)).toBeNull();
    expect(countDoubt({ ...job, pace: 9.5 * MINUTE }, 31, 60 * MINUTE)).toMatchObject({ most: 30 });
    expect(countDoubt({ ...job, pace: 38 * MINUTE }, 18, 60 * MINUTE)).toBeNull();
  });
  it('a clock that was set back cuts nothing', () => {
    expect(countDoubt(job, 5, -60 * MINUTE)).toEqual(countDoubt(job, 5, 0));
  });
  it('is asked about beyond the order, but not for the parts of one cycle', () => {
    const days = 3 * 24 * 60 * MINUTE;
    expect(countDoubt(job, 90, days)).toBeNull();
    expect(countDoubt(job, 91, days)).toMatchObject({ why: 'order' });
    expect(countDoubt({ ...job, made: 240 }, 2, days)).toBeNull();
    expect(countDoubt({ ...job, made: 246 }, 2, days)).toBeNull();
    expect(countDoubt({ ...job, made: 246 }, 3, days)).toMatchObject({ why: 'order' });
    expect(countDoubt({ ...job, made: 239 }, 2, days)).toBeNull();
  });
  it('all parts typed for the new ones are seen for that', () => {
    expect(countDoubt(job, 156, 60 * MINUTE)).toEqual({ why: 'cycle', most: 18, fresh: 6 });
    // 30 more cannot have been made in an hour either, and with none on record all are new
    expect(countDoubt(job, 180, 60 * MINUTE)!.fresh).toBeNull();
    expect(countDoubt(job, 150, 60 * MINUTE)!.fresh).toBeNull();
    expect(countDoubt({ ...job, made: 0 }, 156, 60 * MINUTE)!.fresh).toBeNull();
    expect(countDoubt({ ...job, made: 239 }, 241, 60 * MINUTE)!.fresh).toBeNull();
  });
  it('says what there would be and what can be', () => {
    const words = (parts: number, since: number) =>
      countDoubtWords(job, parts, countDoubt(job, parts, since)!);
    expect(words(60, 60 * MINUTE)).toContain('210 of 240 of O1402');
    expect(words(60, 60 * MINUTE)).toContain('hardly more than 18');
    expect(words(91, 1e9)).toContain('more than were ordered');
  });

  /** A machine that makes parts at a pace nobody knows, and people who count now and then, up to a cycle late. */
  const shift = (seed: number) => {
    const { next } = chance(seed);
    const partsPerCycle = 1 + Math.floor(2 * next());
    const cycleMilliseconds = MINUTE * (1 + 60 * next());
    const real = cycleMilliseconds * (0.6 + next());
    const counts: { parts: number; since: number; made: number }[] = [];
    let [now, cycles, counted, last] = [0, 0, 0, 0];
    while (counts.length < 12) {
      // it cuts, and now and then it stands
      now += real + (next() < 0.1 ? 4 * next() * real : 0);
      cycles += 1;
      if (next() > 0.2) continue;
      const typed = now + real * next() * 0.9;
      counts.push({ parts: cycles * partsPerCycle - counted, since: typed - last, made: counted });
      [counted, last] = [cycles * partsPerCycle, typed];
    }
    return { partsPerCycle, cycleMilliseconds, pace: null, counts };
  };

  it('nobody who counts right is asked, at any pace up to two thirds faster than the cycle', () => {
    for (let seed = 1; seed <= 400; seed += 1) {
      const { counts, ...rest } = shift(seed);
      for (const { parts, since, made } of counts)
        expect(countDoubt({ number: 'O1', quantity: 1e6, ...rest, made }, parts, since)).toBeNull();
    }
  });
  it('who types all parts is asked nearly always once there are many, and told how many are new', () => {
    let [asked, right, all] = [0, 0, 0];
    for (let seed = 1; seed <= 400; seed += 1) {
      const { counts, ...rest } = shift(seed);
      for (const { parts, since, made } of counts.slice(4)) {
        const doubt = countDoubt({ number: 'O1', quantity: 1e6, ...rest, made }, made + parts, since);
        all += 1;
        asked += Number(doubt !== null);
        right += Number(doubt?.fresh === parts);
      }
    }
    expect(asked / all).toBeGreaterThan(0.8);
    expect(right).toBe(asked);
  });
});
