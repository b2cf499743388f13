import type { Judgement } from '$core/correction/judge-question';
import type { Conformity } from '$core/inspection/gauge';
import type { TookAnswer } from '$core/correction/took';

/** What the server answers to a reading. */
export interface Answered {
  readingId: number | null;
  proposalIds: number[];
  answer: Judgement;
  took: TookAnswer | null;
  conformity: Conformity | null;
}
