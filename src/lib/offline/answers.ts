import { rowAnswerWords, type ReadBackAnswer, type RowAnswer } from '../../core/correction/read-back.ts';
import type { Answered } from '../machine/answered';

/** What the server answered to something that was sent late, for whoever typed it: done, or a question that somebody has to answer. */
export interface LateAnswer {
  done: boolean;
  words: string;
}

type Acts = Answered | ReadBackAnswer | RowAnswer[] | { expired: string[] } | null | undefined;

const question = (words: string): LateAnswer => ({ done: false, words });
const done = (words = ''): LateAnswer => ({ done: true, words });

/** What an act said that was accepted: a reading may still have to be taken again, and a row may not show what it should. */
export function lateAnswer(answer: Acts): LateAnswer {
  if (answer === null || answer === undefined) return done();
  if (Array.isArray(answer)) {
    const open = answer.filter((each) => !each.kept);
    return open.length === 0 ? done() : question(open.map((each) => rowAnswerWords(each)).join(' '));
  }
  if ('readingId' in answer)
    return answer.readingId === null
      ? question(`It is not in the record: ${answer.answer.reason}`)
      : done(answer.answer.reason);
  if ('expired' in answer)
    return done(
      answer.expired.length === 0
        ? ''
        : `${answer.expired.join(', ')} ${answer.expired.length === 1 ? 'has' : 'have'} run out by it: renew before the next part.`,
    );
  if ('kept' in answer)
    return answer.kept
      ? done()
      : question(
          'reading' in answer ? `Stop. ${answer.reading.reason} ${answer.reading.remedy}` : answer.overtaken,
        );
  return done();
}
