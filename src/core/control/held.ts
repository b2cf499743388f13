import type { Length, LengthUnit } from '../units/length.ts';

/** A value that a register had on record before, and what set it then. */
export interface Earlier {
  value: Length;
  /** Stage of the entry that ended it: what the register was set by next. */
  endedBy: string;
}

/** One register: what the record says, what the control was seen to hold, and what is known of how they came there. */
export interface HeldRegister {
  id: number;
  kind: string;
  row: number;
  record: Length;
  control: Length;
  /** What the record said before, the newest first. */
  before: readonly Earlier[];
  /** The control was seen to hold what the record says, since the record says it: read back, or in an earlier look. */
  seen: boolean;
  /** What an approved correction that nobody has keyed yet would make it; null: none waits. */
  waiting: Length | null;
  /** What programs that are still to run here write into it themselves. */
  written?: readonly { program: string; line: number; value: Length }[];
}

/** A table as a control held it, beside the record. */
export interface HeldTable {
  unit: LengthUnit;
  /** The least step of its registers. */
  increment: Length;
  registers: readonly HeldRegister[];
  /** Records of other machines whose table it might be. */
  others: readonly { name: string; values: readonly { kind: string; row: number; value: Length }[] }[];
}

export type ExplanationCode =
  | 'programWrote'
  | 'keyedUnsaid'
  | 'notKeyed'
  | 'takenBack'
  | 'twice'
  | 'changeSign'
  | 'changeAsValue'
  | 'sign'
  | 'digits'
  | 'point'
  | 'units'
  | 'diameter'
  | 'neighbour'
  | 'otherTool'
  | 'oldSetUp'
  | 'wearLeft'
  | 'byHand';

/** What may have happened to one register, and how likely it is beside the others. */
export interface Explanation {
  code: ExplanationCode;
  /** From 0 to 1; those of one register come to 1. */
  likelihood: number;
  /** The row it went to or came from, where there is one. */
  row: number | null;
}

export interface Difference {
  register: HeldRegister;
  /** What was expected there: the record, or what explains the table as a whole. */
  expected: Length;
  /** The likeliest first. */
  explanations: readonly Explanation[];
  /** Whether the first is so much likelier that it may be told as what happened. */
  told: boolean;
}

/** `cleared`: its lengths are at nought, and `emptied`: its wear too. */
export type WholeCode = 'shifted' | 'units' | 'rebased' | 'otherMachine' | 'cleared' | 'emptied';

/** One thing that explains many registers at once. */
export interface WholeTable {
  code: WholeCode;
  /** How many registers it explains, of how many that it would change. */
  explains: number;
  of: number;
  /** The row from which it is so; null: all of them. */
  from: number | null;
  /** Rows down, of a shift; the constant, of a re-basing; by how much it is multiplied, of units. */
  by: number;
  /** The other machine. */
  machine: string | null;
}

export interface Compared {
  whole: WholeTable | null;
  /** What the whole does not explain, the worst first. */
  differences: readonly Difference[];
  /** Registers that agree, or do under what explains the whole. */
  agree: number;
}
