import type { TookAnswer } from '$core/correction/did-it-take';
import type { Proposal } from '$core/correction/propose';

/** What the server answers to a reading. */
export interface Answered {
  readingId: number | null;
  proposalId: number | null;
  answer: Proposal;
  took: TookAnswer | null;
}
