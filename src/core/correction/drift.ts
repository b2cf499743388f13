import { shareOut } from '../chart/capability.ts';
import { aimsOf, bandOf } from './decide.ts';
import { edgeAhead, type ModelQuestion, type RowJump, type SizeState } from './edge-state.ts';

/** One size of a set-up, and what its rows hold now. All lengths in nanometres, sizes as deviations from the target. */
export interface DriftQuestion {
  model: ModelQuestion;
  size: number;
  held: readonly number[];
  /** Limits less the target. */
  lower: number;
  upper: number;
}

export interface FanPoint {
  /** Parts from the next one, which is 0. */
  ahead: number;
  mean: number;
  /** Where nine parts of ten will be. */
  low: number;
  high: number;
}

export interface Drift {
  /** The readings: where the part was, and where it would have been with the rows as they are now. */
  points: { at: number; deviation: number; uncorrected: number }[];
  state: SizeState;
  /** The last jump of a row of the set-up. */
  jump: RowJump | null;
  /** Mean of the next part. */
  now: number;
  fan: FanPoint[];
  /** Parts until it stands off by what is worth a move; until its mean is out of limits. Null: not within `FAR` parts. */
  toMove: number | null;
  toLimit: number | null;
  /** Where it stands is not known well enough to say that its mean is within its limits. */
  mayBeOut: boolean;
  /** Where a new edge of its own row would begin, with the row as it is, by how earlier ones began; null: there was none before. */
  newEdge: { mean: number; error: number; earlier: number } | null;
}

/** Parts that are looked ahead at most. */
export const FAR = 500;
/** Nine of ten of a normal spread. */
const NINE_OF_TEN = 1.645;
const STEPS = 12;

/** What the rows as they are add to a size. */
export const offOf = ({ model, size, held }: DriftQuestion) =>
  model.sizes[size]!.moves.reduce((sum, { register, by }) => sum + by * held[register]!, 0);

/** The state of the size so many parts from the next, and the last jump of a row. */
export function statesOf({ model, size }: DriftQuestion) {
  const state = edgeAhead(model);
  return {
    at: (ahead: number): SizeState => state(model.next + ahead).sizes[size]!,
    jump: () => state(model.next).jump,
  };
}

/** The first number of parts from 0 to `FAR` for which it is so, if it stays so from there on; null where it is not so by then. */
function firstFor(holds: (parts: number) => boolean): number | null {
  if (holds(0)) return 0;
  if (!holds(FAR)) return null;
  let [no, yes] = [0, FAR];
  while (yes - no > 1) {
    const middle = (no + yes) >> 1;
    if (holds(middle)) yes = middle;
    else no = middle;
  }
  return yes;
}

/** Where a size has been, what it would have been without corrections, and where it will go if nothing is touched. */
export function driftOf(question: DriftQuestion, ahead: number): Drift {
  const { model, size, lower, upper } = question;
  const off = offOf(question);
  const { moves } = model.sizes[size]!;
  const { at, jump } = statesOf(question);
  const state = at(0);
  const band = bandOf(state);
  /** Parts until its mean is there; a drift that is not surely one leads nowhere but where it stands already. */
  const leadsTo = (there: (mean: number) => boolean): number | null => {
    // of an edge that nobody measured yet it is only known where others began
    if (there(state.mean + off) && Math.abs(state.mean + off) > 2 * state.error) return 0;
    if (Math.abs(state.drift) <= 2 * state.driftError) return null;
    return firstFor((parts) => there(at(parts).mean + off));
  };
  return {
    points: model.readings
      .filter((reading) => reading.size === size)
      .map(({ at: place, deviation, held }) => ({
        at: place,
        deviation,
        uncorrected: deviation - moves.reduce((sum, { register, by }) => sum + by * held[register]!, 0) + off,
      })),
    state,
    jump: jump(),
    now: state.mean + off,
    fan: Array.from({ length: STEPS + 1 }, (_, i) => {
      const parts = Math.round((ahead * i) / STEPS);
      const { mean, error, noise } = at(parts);
      const reach = NINE_OF_TEN * Math.hypot(error, noise);
      return { ahead: parts, mean: mean + off, low: mean + off - reach, high: mean + off + reach };
    }),
    toMove: leadsTo((mean) => Math.abs(mean) > band),
    toLimit: leadsTo((mean) => mean > upper || mean < lower),
    mayBeOut: state.mean + off + 2 * state.error > upper || state.mean + off - 2 * state.error < lower,
    newEdge: newEdgeOf(question, off),
  };
}

/** What would be expected of a new edge of the size's own row before anything of it was measured: what the first correction usually was. */
function newEdgeOf({ model, size }: DriftQuestion, off: number): Drift['newEdge'] {
  const own = model.sizes[size]!.moves[0]!.register;
  const begun = model.readings[0]?.at ?? model.next;
  // what is renewed is measured and zeroed too: one change of an edge makes several entries between the same two parts
  const earlier = new Set(
    model.edges
      .filter(({ register, at }) => register === own && at > begun && at < model.next)
      .map(({ at }) => at),
  ).size;
  if (earlier === 0) return null;
  const { mean, error } = edgeAhead(model)(model.next, own).sizes[size]!;
  return { mean: mean + off, error, earlier };
}

/**
 * What becomes of a size by the end of its edge, if nothing is corrected until then: where its mean is, how many moves of what is
 * worth one that is, and whether it would leave its limits first. `left`: parts that the edge has.
 */
export function byEndOfEdge(
  question: DriftQuestion,
  left: number,
): { mean: number; moves: number; leavesFirst: boolean } {
  const off = offOf(question);
  const { at } = statesOf(question);
  const { mean } = at(left);
  const now = at(0);
  const gone = Math.abs(mean - now.mean);
  const band = bandOf(now);
  return {
    mean: mean + off,
    // a corrected size is set to one side of its band and wanders to the other
    moves: band > 0 && Math.abs(now.drift) > 2 * now.driftError ? Math.floor(gone / (2 * band)) : 0,
    leavesFirst: mean + off > question.upper || mean + off < question.lower,
  };
}

/**
 * How many parts may be cut between two readings, if each is answered by what is best, so that no part is out with a likelihood
 * above `risk`: what is not known of the edge grows with every part that nobody measures.
 *
 * @returns parts, at most `FAR`; 0 where the spread of single parts alone is more than that.
 */
export function measureEvery(question: DriftQuestion, risk: number): number {
  const { lower, upper } = question;
  const { at } = statesOf(question);
  const state = at(0);
  const { best } = aimsOf({ ...state, moves: [], lower, upper }, 1);
  const tooRisky = (parts: number) => {
    const { mean, error, noise } = at(parts);
    return shareOut(best + mean - state.mean, Math.hypot(error, noise), lower, upper) > risk;
  };
  const first = firstFor(tooRisky);
  return first === null ? FAR : first;
}
