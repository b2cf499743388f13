/**
 * One block of word-address text (ISO 6983 / RS-274 family) cut into words. The block object is reused from
 * line to line, because a long program has millions of words.
 */
export interface Block {
  letters: number[];
  values: number[];
  /** Whether the number was written with a decimal point: X100 and X100. differ on some controls. */
  pointed: boolean[];
  /** Digits that were written, leading noughts too: T0101 has four. */
  digits: number[];
  /** Where the expression of a word stands in the text, from and to; of a plain number nothing. */
  from: number[];
  to: number[];
  count: number;
  /** How many words are expressions. */
  expressions: number;
  /** A bit for each letter that stands in the block, A the lowest: most questions of a block end here. */
  present: number;
  remark: string;
  /** The level of block delete, 1 for a plain stroke; 0: none. */
  deletable: number;
  /** The first stretch that is neither a word nor a remark. */
  strange: string;
  /** A file name in quotes or angle brackets. */
  name: string;
  /** Where macro logic begins (an assignment, IF, WHILE, GOTO …); -1: there is none. */
  logic: number;
}

export const emptyBlock = (): Block => ({
  letters: [],
  values: [],
  pointed: [],
  digits: [],
  from: [],
  to: [],
  count: 0,
  expressions: 0,
  present: 0,
  remark: '',
  deletable: 0,
  strange: '',
  name: '',
  logic: -1,
});
