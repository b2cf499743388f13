import type { InCycle } from '../inspection/cycle-place.ts';
import {
  largest,
  smallest,
  toleranceWidth,
  type Bounds,
  type Limits,
  type RegisterRole,
} from '../inspection/feature.ts';
import type { Length, LengthUnit } from '../units/length.ts';
import type { EdgeState, ModelEdge, ModelQuestion, ModelSetUp } from './edge-state.ts';
import type { Policy, Step } from './policies.ts';

/** A size of the set-up: what it should be, what moves it, and by which school it is corrected. */
export interface JudgedSize extends Limits, Bounds {
  name: string;
  /** The program that cuts it; undefined: there is but one. */
  programNumber?: string;
  target: Length;
  policy: Policy;
  deadBand: Length;
  averageOf: number;
  moves: readonly { register: number; by: number }[];
  /** It is a size as it comes out in one place of the cycle: of which size, and which place; null: nobody knows which. */
  place?: { of: number; words: string | null };
}

export interface JudgedRegister {
  row: number;
  role: RegisterRole;
  value: Length;
  /** Why nothing is proposed for it until somebody has looked; null: nothing is in the way. */
  locked: string | null;
}

/** A reading with what its part was cut with; `held` null: that cannot be told. */
export interface JudgedReading {
  size: number;
  at: number;
  measured: Length;
  held: readonly number[] | null;
  /** In which of the places that are cut with the same rows, where they are several and it is known. */
  place?: InCycle | null;
  /** The readings of its part, where it was measured more than once: `measured` is their mean. */
  meant?: readonly Length[];
  /** What was typed last of it. */
  last?: Length;
}

export interface JudgeQuestion {
  unit: LengthUnit;
  increment: Length;
  /** The largest value a wear register should ever hold. */
  limit: Length;
  sizes: readonly JudgedSize[];
  registers: readonly JudgedRegister[];
  /** All that count, the newest part last. */
  readings: readonly JudgedReading[];
  edges: readonly ModelEdge[];
  setUps: readonly ModelSetUp[];
  /** Which of the readings was just taken. */
  taken: number;
  /** It is the first-off of a set-up: a set-up error is taken out at once, whatever the school. */
  firstOff: boolean;
  /** Somebody measured again and stands by it. */
  confirmed: boolean;
  /** Parts until the next reading. */
  every: number;
  /** Position of the next part to be cut. */
  next: number;
  /** What was approved for each register and is not keyed yet, as a change, on rows that others of the sizes answer to as well; none: nothing waits. */
  approved?: readonly number[];
}

/** Whether two sizes are one, in two places of the cycle. */
export const isAlike = (a: JudgedSize, b: JudgedSize): boolean =>
  a === b || (a.place !== undefined && a.place.of === b.place?.of);

/** What one row is to be set to. */
export interface RowChange {
  register: number;
  row: number;
  role: RegisterRole;
  tool: number;
  from: Length;
  change: Length;
  to: Length;
}

/** What a size is expected to become. */
export interface Foretold {
  name: string;
  size: Length;
  in: boolean;
}

/** Whether an approved correction would still do good, and if not, why, as sentences. */
export type StillWorth = { worth: true } | { worth: false; reason: string };

export type Judgement = {
  /** One sentence that a setter would say. */
  reason: string;
  arithmetic: Step[];
  /** The part just measured is outside its limits: hold it. */
  partOut: boolean;
  /** What is asked about is not the size but the number of its part. */
  about?: 'part';
  /** What is now known of a correction that was approved and waits to be keyed; absent: nothing waits, or nothing can be told of it. */
  approved?: StillWorth;
} & (
  | { verdict: 'leave' | 'measureAgain' | 'noRegister' | 'locked' }
  | {
      verdict: 'change';
      rows: RowChange[];
      /** The size that the change starts from, and what it is expected to become. */
      sizeBefore: Length;
      expectedSize: Length;
      /** All sizes the rows touch, where something is known of them. */
      foretold: Foretold[];
    }
);

/** The same answer, with nothing to be changed after all, and why. */
export const leftAlone = ({ arithmetic, partOut }: Judgement, reason: string): Judgement => ({
  verdict: 'leave',
  reason,
  arithmetic,
  partOut,
});

/** What the filter is asked about a set-up: every reading of which it is known what its part was cut with, in its order. */
export const modelOf = ({
  registers,
  sizes,
  readings,
  edges,
  setUps,
  next,
}: Pick<JudgeQuestion, 'registers' | 'sizes' | 'readings' | 'edges' | 'setUps' | 'next'>): ModelQuestion => ({
  registers: registers.length,
  sizes: sizes.map((each) => ({ tolerance: toleranceWidth(each), moves: each.moves, alike: each.place?.of })),
  readings: readings.flatMap(({ size, at, measured, held }) =>
    held === null ? [] : [{ size, at, deviation: measured - sizes[size]!.target, held }],
  ),
  edges,
  setUps,
  next,
});

/** From which part on what was measured of a size speaks of it as it is cut now: since its edges and its set-up began. */
export const begunAt = (
  { sizes, edges, setUps }: Pick<JudgeQuestion, 'sizes' | 'edges' | 'setUps'>,
  size: number,
): number =>
  Math.max(
    -Infinity,
    ...setUps.filter((each) => each.size === size).map(({ at }) => at),
    ...edges
      .filter((each) => sizes[size]!.moves.some(({ register }) => register === each.register))
      .map(({ at }) => at),
  );

/** Of some sizes the one whose next part is expected nearest to a limit. */
export function nearestToLimit(
  { sizes, registers }: Pick<JudgeQuestion, 'sizes' | 'registers'>,
  state: Pick<EdgeState, 'sizes'>,
  among: readonly number[],
): number {
  const room = (index: number) => {
    const size = sizes[index]!;
    const held = size.moves.reduce((sum, { register, by }) => sum + by * registers[register]!.value, 0);
    const at = size.target + state.sizes[index]!.mean + held;
    return Math.min(largest(size) - at, at - smallest(size));
  };
  return among.reduce((a, b) => (room(b) < room(a) ? b : a));
}
