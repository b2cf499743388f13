import { describe, expect, it } from 'vitest';
import { asksWhy, movedJob, type JobMove, type JobState } from './job.ts';

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
