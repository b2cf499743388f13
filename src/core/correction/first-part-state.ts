import type { Standing } from '../inspection/feature.ts';
import type { Length } from '../units/length.ts';
import type { Keyed } from './first-part-plan.ts';

export type Stage = 'rough' | 'finish' | 'off';

export type FirstEvent =
  | { what: 'keyed'; changes: readonly Keyed[] }
  | { what: 'measured'; size: number; stage: Stage; measured: Length }
  /** It cannot be measured now. */
  | { what: 'skipped'; size: number; stage: Stage }
  /** After a halt somebody has looked, and says what was found. */
  | { what: 'looked' };

export interface Task {
  size: number;
  stage: Stage;
  /** What it should measure; null: nobody can say. */
  expected: Length | null;
}

export type FirstStep =
  | { do: 'key'; rows: (Keyed & { why: string })[]; words: string }
  | { do: 'measure'; words: string; tasks: Task[] }
  /** `final`: no looking helps, it is to be begun anew. */
  | { do: 'halt'; reason: string; remedy: string; final: boolean }
  /** `right`: every size was measured at last and is in its limits, as surely as its gauge can tell. */
  | { do: 'done'; right: boolean; words: string[] };

/** What was said of a measurement when it was made. */
export interface Finding {
  size: number;
  stage: Stage;
  measured: Length;
  words: string;
  standing: Standing | null;
}

export interface FirstState {
  step: FirstStep;
  findings: Finding[];
  /** What each register was moved by so far. */
  moved: Length[];
  /** Times the pair was cut. */
  cuts: number;
}
