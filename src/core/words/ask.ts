/** An answer that a form can be sent again with: a field, what it says, and the words of its button. */
export interface AskedAnswer {
  name: string;
  value: string;
  words: string;
}

/** What is asked of a form that was not taken, so that it can be taken: what was meant, likeliest first. */
export type Ask = readonly AskedAnswer[];
