import type { Judgement } from '$core/correction/judge-question';

const HEADS: Readonly<Record<Judgement['verdict'], string>> = {
  leave: 'Leave it',
  measureAgain: 'Measure again',
  noRegister: 'Not a matter of wear',
  locked: 'Read the row first',
  change: 'Change it',
};

/** What an answer is headed by. */
export const answerHead = ({ verdict, about }: Judgement): string =>
  about === 'part' ? 'Which part?' : HEADS[verdict];
