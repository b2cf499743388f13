import { describe, expect, it } from 'vitest';
import { cardsOn, isKept, KEPT_FOR, pagesOf, stillGood } from '../../src/lib/offline/kept-pages.ts';
import { partsThatWait, readBackWaits, stepsThatWait } from '../../src/lib/offline/waits.ts';
import { lateAnswer } from '../../src/lib/offline/answers.ts';
import { typedAgo } from '../../src/server/asked.ts';
import { ACCESS } from '../../src/core/people/access.ts';

describe('pages that a tablet keeps', () => {
  it('are those that are worked by at a machine, and nothing where others decide', () => {
    for (const path of pagesOf(7)) expect(isKept(path)).toBe(true);
    expect(isKept('/corrections/12')).toBe(true);
    for (const path of [
      '/corrections',
      '/machines/7',
      '/machines/7/plan',
      '/people',
      '/machines/7/now/x',
      '/',
    ])
      expect(isKept(path)).toBe(false);
  });
  it('are pages that there are', () => {
    for (const path of pagesOf(7)) expect(ACCESS).toHaveProperty([path.replace('/7/', '/[id]/')]);
  });
  it('bring the cards with them that they lead to, each once', () => {
    expect(
      cardsOn(
        '<a href="/corrections/4">x</a><a href="/corrections">y</a><a href="/corrections/4?a=1">z</a><a href="/corrections/17">',
      ),
    ).toEqual(['/corrections/4', '/corrections/17']);
  });
  it('are shown for a shift, and with a clock that was set back', () => {
    expect(stillGood(1000, 1000 + KEPT_FOR)).toBe(true);
    expect(stillGood(1000, 1001 + KEPT_FOR)).toBe(false);
    expect(stillGood(1000, 0)).toBe(true);
    expect(stillGood(NaN, 5)).toBe(true);
  });
});

describe('what waits counts as done on the page', () => {
  const form = (url: string, fields: Record<string, string>, personId = 1) => ({
    url,
    fields: Object.entries(fields),
    personId,
  });
  const waiting = [
    form('/machines/3/now?/parts', { job: '4', before: '10', parts: '3' }),
    form('/machines/3/now?/parts', { job: '4', before: '13', parts: '2' }, 2),
    form('/machines/3/now?/parts', { job: '5', before: '0', parts: '9' }),
    form('/corrections/41?/readBack', { shown: '0.01' }),
    form('/machines/3/key?/readBack', { 'shown.42': ' ', 'shown.43': '1' }),
    form('/machines/3/load?/tick', { plan: '1', step: 'a' }),
    form('/machines/3/load?/measure', { plan: '1', step: 'b' }),
    form('/machines/3/load?/tick', { plan: '2', step: 'c' }),
  ];
  it('parts of the job', () => {
    expect(partsThatWait(waiting, 4)).toBe(5);
    // sent before what they enter now are their own only
    expect([1, 2, 3].map((each) => partsThatWait(waiting, 4, each))).toEqual([3, 2, 0]);
    expect(partsThatWait(waiting, 6)).toBe(0);
  });
  it('corrections that were read back, not those of an empty row', () => {
    expect([41, 42, 43, 4].map((each) => readBackWaits(waiting, each))).toEqual([true, false, true, false]);
  });
  it('steps of the plan', () => expect(stepsThatWait(waiting, 1)).toEqual(['a', 'b']));
});

describe('what was answered late', () => {
  const reading = { proposalIds: [], took: null, conformity: null };
  it('is done, or a question', () => {
    expect(lateAnswer(null)).toEqual({ done: true, words: '' });
    expect(
      lateAnswer({
        ...reading,
        readingId: 5,
        answer: { verdict: 'leave', reason: 'Leave it.', arithmetic: [], partOut: false },
      }),
    ).toEqual({ done: true, words: 'Leave it.' });
    expect(
      lateAnswer({
        ...reading,
        readingId: null,
        answer: { verdict: 'measureAgain', reason: 'Far off.', arithmetic: [], partOut: false },
      }),
    ).toEqual({ done: false, words: 'It is not in the record: Far off.' });
    expect(lateAnswer({ expired: ['T3 (A-1)'] }).words).toContain('T3 (A-1) has run out');
    expect(lateAnswer({ kept: true }).done).toBe(true);
    expect(lateAnswer({ kept: false, overtaken: 'It was overtaken.' })).toEqual({
      done: false,
      words: 'It was overtaken.',
    });
  });
  it('is a question where one of several rows is', () => {
    expect(
      lateAnswer([
        { proposalId: 1, kept: true },
        { proposalId: 2, kept: false, refused: 'It was refused.' },
      ]),
    ).toEqual({ done: false, words: 'It was refused.' });
    expect(lateAnswer([{ proposalId: 1, kept: true }]).done).toBe(true);
  });
});

describe('when it was typed', () => {
  it('is said from a minute on, and where the clock cannot be believed it is not', () => {
    expect(typedAgo(null)).toEqual({ ago: 0, words: '' });
    // nobody is told of a minute, but what came in between did come after it
    expect(typedAgo('59')).toEqual({ ago: 59, words: '' });
    expect(typedAgo('0')).toEqual({ ago: 0, words: '' });
    expect(typedAgo('60.4')).toEqual({
      ago: 60,
      words: ' (typed 1 minute before it arrived, without a network)',
    });
    expect(typedAgo('2460').words).toBe(' (typed 41 minutes before it arrived, without a network)');
    expect(typedAgo('10800')).toEqual({
      ago: 10_800,
      words: ' (typed 3 hours before it arrived, without a network)',
    });
    for (const wrong of ['-5', 'NaN', '', '99999999', '1e99'])
      expect(typedAgo(wrong)).toEqual({ ago: 0, words: ' (typed earlier, without a network)' });
  });
});
