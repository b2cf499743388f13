import { describe, expect, it } from 'vitest';
import {
  asksWhy,
  controlCounts,
  countBelieved,
  madeByNow,
  mostByNow,
  movedJob,
  perPart,
  type JobMove,
  type JobState,
} from './job.ts';

const STATES: JobState[] = ['waiting', 'running', 'paused', 'done', 'removed'];
const MOVES: JobMove[] = ['start', 'pause', 'finish', 'remove'];
const job = (state: JobState, made = 4) => ({ number: 'O2301', state, made, quantity: 10 });

describe('a job of the list (common practice, no source)', () => {
  it('every move from every state: what it becomes, or nothing', () => {
    const table = STATES.map((state) =>
      MOVES.map((move) => {
        const moved = movedJob(job(state, move === 'remove' ? 0 : 4), move, null, 'a reason');
        return moved.ok ? moved.to : '–';
      }),
    );
    expect(table).toEqual([
      ['running', '–', '–', 'removed'],
      ['–', 'paused', 'done', '–'],
      ['running', '–', 'done', '–'],
      ['–', '–', '–', '–'],
      ['–', '–', '–', '–'],
    ]);
  });
  it('a second job does not start beside the one that runs, and that is named', () => {
    const moved = movedJob(job('waiting'), 'start', { number: 'O9999' }, '');
    expect(moved).toMatchObject({ ok: false, reason: expect.stringContaining('O9999') });
  });
  it('what stops short says why, and what is complete does not', () => {
    expect(movedJob(job('running'), 'pause', null, '  ').ok).toBe(false);
    expect(movedJob(job('running', 9), 'finish', null, '')).toMatchObject({
      reason: expect.stringContaining('9 of 10'),
    });
    expect(movedJob(job('running', 10), 'finish', null, '')).toEqual({ ok: true, to: 'done' });
    expect(movedJob(job('running', 11), 'finish', null, '')).toEqual({ ok: true, to: 'done' });
    expect(asksWhy(job('paused', 10), 'start')).toBe(false);
  });
  it('parts that were made stay counted: such a job is stopped, not removed', () => {
    expect(movedJob(job('waiting', 1), 'remove', null, 'not wanted')).toMatchObject({
      reason: expect.stringContaining('stop the job'),
    });
    expect(movedJob(job('done'), 'finish', null, 'again')).toMatchObject({
      reason: expect.stringContaining('already finished'),
    });
  });
});

it('two parts on a bar take half of its cycle each', () => {
  const job = { cycleMilliseconds: 1_140_000, partsPerCycle: 2, pace: null };
  expect(perPart(job)).toBe(570_000);
  expect(perPart({ ...job, partsPerCycle: 1 })).toBe(1_140_000);
  // counted faster it is faster; counted slower it may only have stood
  expect(perPart({ ...job, pace: 1_000_000 })).toBe(500_000);
  expect(perPart({ ...job, pace: 2_000_000 })).toBe(570_000);
});

describe('parts made by now', () => {
  const job = { made: 51, quantity: 90, countFrom: null };
  it('are those on record, or what the control has counted more of this job', () => {
    expect(madeByNow(job, 53)).toBe(53);
    expect(madeByNow(job, 51)).toBe(51);
    expect(madeByNow(job, 40)).toBe(51);
    expect(madeByNow(job, null)).toBe(51);
    expect(madeByNow({ ...job, countFrom: 0 }, 90)).toBe(90);
  });
  it('counts from what the control showed when the job was started', () => {
    expect(madeByNow({ ...job, countFrom: 200 }, 254)).toBe(54);
    // set back meanwhile: it shows less than it did at the start
    expect(madeByNow({ ...job, countFrom: 200 }, 60)).toBe(60);
  });
  it('a counter that did not move since the start may be one that the program does not turn', () => {
    expect(countBelieved({ ...job, countFrom: 200 }, 200)).toBeNull();
    expect(countBelieved({ ...job, countFrom: 200 }, 201)).toBe(1);
    expect(countBelieved(job, 40)).toBe(40);
    expect(countBelieved(job, 72)).toBeNull();
  });
  it('a control that is behind the record, or that nobody believes, does not say how many are made', () => {
    expect([null, 40, 51, 53, 72].map((count) => controlCounts(job, count))).toEqual([
      false,
      false,
      true,
      true,
      false,
    ]);
  });
  it('does not believe a count that goes on from the job before', () => {
    expect(madeByNow(job, 91)).toBe(51);
    expect(madeByNow({ ...job, countFrom: 200 }, 300)).toBe(51);
    // nobody asked it as the job was started
    expect(madeByNow({ ...job, made: 0 }, 12)).toBe(0);
    expect(madeByNow({ ...job, made: 5 }, 60)).toBe(5);
    expect(madeByNow({ ...job, made: 0, countFrom: 0 }, 12)).toBe(12);
  });
});

describe('the highest part there can be by now', () => {
  const job = { known: 51, quantity: 90, partsPerCycle: 1, cycleMilliseconds: 24 * 60_000 };
  const hours = (n: number) => n * 3_600_000;
  it('is what was told, what may be forgotten, and what twice the pace can have cut since', () => {
    expect(mostByNow(job, 0)).toBe(71);
    expect(mostByNow(job, hours(2))).toBe(81);
    expect(mostByNow({ ...job, partsPerCycle: 2 }, hours(2))).toBe(91);
  });
  it('is no lower where a clock was set back', () => {
    expect(mostByNow(job, -hours(3))).toBe(mostByNow(job, 0));
  });
  it('is bounded by what was ordered, with a few more', () => {
    expect(mostByNow(job, hours(100))).toBe(110);
    expect(mostByNow({ ...job, known: 95 }, hours(100))).toBe(115);
  });
  it('doubts one digit too many, and two that are swapped far', () => {
    for (const typed of [510, 551, 15_001]) expect(typed).toBeGreaterThan(mostByNow(job, hours(8)));
    expect(53).toBeLessThan(mostByNow(job, 0));
  });
});
