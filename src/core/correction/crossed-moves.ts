import type { Length, LengthUnit } from '../units/length.ts';

/**
 * Moves of one register that cross each other (H18): two shifts that answered the same deviation, a correction that the next one
 * took back, a register nudged to and fro. That two moves look alike proves nothing: wear asks for the same move every day. What
 * tells is the metal: where the size stood just before the move that may have been one too many.
 */

/** One move of a register's value, in the order of the entries. */
export interface RegisterStep {
  entry: number;
  /** Where it lies in the row of all parts: half a part behind the last that was cut before it. */
  at: number;
  /** Null: somebody at the control, nobody knows who; it was found there afterwards. */
  person: string | null;
  /** Milliseconds, as entered. */
  time: number;
  from: Length;
  to: Length;
  /** Another edge, or the row set anew: what came before has nothing to do with what comes after. */
  anew: boolean;
}

/** A size that the register moves: deviations from its target, and what was learnt of it (nanometres, nanometres a part). */
export interface CrossedSize {
  name: string;
  /** Change of the size for a change of one in the register. */
  by: number;
  noise: number;
  drift: number;
  driftError: number;
  /** Of each part of which it is known what it was cut with: `held` is what this register held then. */
  readings: readonly { at: number; deviation: number; held: number }[];
  /** Where it was set up anew, in the row of all parts: what it did before says nothing of what came after. */
  setUps: readonly number[];
}

export interface Stretch {
  parts: number;
  mean: number;
}

/** What a size did: mean deviations before the first of two moves, between them, and after the second; null where nothing was measured. */
export interface SizeDid {
  name: string;
  before: Stretch | null;
  between: Stretch | null;
  after: Stretch | null;
}

export interface CrossedPair {
  kind: 'twice' | 'undone';
  first: RegisterStep;
  second: RegisterStep;
  /** Which of the two was one too many: of those that went the same way the second, of an undone one the first or the second; null: cannot be told. */
  needless: 'first' | 'second' | null;
  /** How likely it is that the move in question was needless. */
  likelihood: number;
  /** The move that took a second answer back; null: it still stands. */
  righted: RegisterStep | null;
  did: SizeDid[];
}

export interface Nudged {
  kind: 'nudged';
  steps: RegisterStep[];
  /** Spread of the parts as cut and as they would have been had nobody moved it; null where too few were measured. */
  did: { name: string; parts: number; asCut: number; leftAlone: number }[];
  /** Null: cannot be told. */
  worse: boolean | null;
}

export type Crossed = CrossedPair | Nudged;

/** A register of the cell with moves that cross each other. */
export interface CrossedRegister {
  registerId: number;
  machineId: number;
  machine: string;
  unit: LengthUnit;
  increment: Length;
  row: number;
  kind: string;
  crossed: Crossed[];
}

/** Two people answer one deviation within so long: a shift and the next. */
const WITHIN = 26 * 3_600_000;
/** Moves in turn, there and back, from which on it is a to and fro. */
const NUDGES = 4;
const NUDGED_WITHIN = 4 * 24 * 3_600_000;
/** Likelihood from which on it is said. */
const SAID = 0.95;
/** A second answer is more often called for than not when its person had measured after the first; the other way where nobody had. */
const LIKELY_MEASURED = 0.25;
const LIKELY_BLIND = 0.75;
/** Parts on each side that are looked at. */
const NEAR = 12;
/** An edge wanders so much a part, in standard deviations of the noise. */
const WANDER = 0.05;
/** Parts from which on a spread says something. */
const SPREAD_OF = 6;

const changeOf = ({ from, to }: RegisterStep) => to - from;

/**
 * Where a size would stand at a place with the register at `held`, from the readings around it: a line through them whose slope is
 * known as far as the drift is (Bayesian linear regression, flat prior of the level).
 */
export function levelAt(
  size: CrossedSize,
  place: number,
  held: number,
  [from, to]: readonly [number, number],
): { level: number; error: number } | null {
  // of its own set-up: the one that the part before it was cut in, and a first part that was measured behind it
  const since = size.setUps.findLast((at) => at < place) ?? -Infinity;
  const until = size.setUps.find((at) => at >= place) ?? Infinity;
  const within = size.readings.filter(({ at }) => at > Math.max(from, since) && at < Math.min(to, until));
  const before = within.filter(({ at }) => at < place).slice(-NEAR);
  const after = within.filter(({ at }) => at > place).slice(0, NEAR);
  if (before.length + after.length === 0) return null;
  // normal equations of level and slope, the slope with its prior
  const prior = 1 / Math.max(size.driftError, size.noise / 1000) ** 2;
  let [s0, s1, s2, t0, t1] = [0, 0, prior, 0, prior * size.drift];
  for (const reading of [...before, ...after]) {
    const distance = reading.at - place;
    const weight = 1 / (size.noise ** 2 * (1 + WANDER ** 2 * Math.abs(distance)));
    const alone = reading.deviation + size.by * (held - reading.held);
    s0 += weight;
    s1 += weight * distance;
    s2 += weight * distance ** 2;
    t0 += weight * alone;
    t1 += weight * distance * alone;
  }
  const determinant = s0 * s2 - s1 ** 2;
  return { level: (t0 * s2 - t1 * s1) / determinant, error: Math.sqrt(s2 / determinant) };
}

/** How likely a move was needless: with the sizes on their targets before it rather than after it. */
function needlessness(
  sizes: readonly CrossedSize[],
  step: RegisterStep,
  span: readonly [number, number],
  before: number,
): number | null {
  let odds = 0;
  let told = false;
  for (const size of sizes) {
    const stood = levelAt(size, step.at, step.from, span);
    if (!stood) continue;
    told = true;
    const moved = size.by * changeOf(step);
    odds += ((stood.level + moved) ** 2 - stood.level ** 2) / (2 * stood.error ** 2);
  }
  return told ? 1 / (1 + ((1 - before) / before) * Math.exp(-Math.max(-500, Math.min(500, odds)))) : null;
}

const meanOf = (size: CrossedSize, from: number, to: number): Stretch | null => {
  const found = size.readings.filter(({ at }) => at > from && at < to);
  return found.length === 0
    ? null
    : { parts: found.length, mean: found.reduce((sum, { deviation }) => sum + deviation, 0) / found.length };
};

/** The stretch around two neighbouring steps in which nothing else moved the register. */
function around(steps: readonly RegisterStep[], first: number): readonly [number, number] {
  return [steps[first - 1]?.at ?? -Infinity, steps[first + 2]?.at ?? Infinity];
}

/** The edge on which a step was made: from the last new one to the next. */
function edgeAround(steps: readonly RegisterStep[], step: number): readonly [number, number] {
  const began = steps.slice(0, step).findLast(({ anew }) => anew);
  const ends = steps.slice(step).find(({ anew }) => anew);
  return [began?.at ?? -Infinity, ends?.at ?? Infinity];
}

/**
 * Sizes by which a move may be held against the one before it: those that ran then, and were not set up anew in between. Null: all that
 * ran were, so that the second answered another set-up.
 */
function heldAgainst(
  sizes: readonly CrossedSize[],
  [a, b]: readonly [RegisterStep, RegisterStep],
  from: number,
): readonly CrossedSize[] | null {
  const ran = sizes.filter(({ readings }) => readings.some(({ at }) => at > from && at < b.at));
  if (ran.length === 0) return sizes;
  const same = ran.filter(({ setUps }) => !setUps.some((at) => at >= a.at && at < b.at));
  return same.length === 0 ? null : same;
}

function pairAt(
  steps: readonly RegisterStep[],
  second: number,
  moved: readonly CrossedSize[],
  step: number,
): CrossedPair | null {
  const [a, b] = [steps[second - 1]!, steps[second]!];
  if (a.anew || b.anew || b.time - a.time > WITHIN) return null;
  const sizes = heldAgainst(moved, [a, b], around(steps, second - 1)[0]);
  if (sizes === null) return null;
  if (a.person === b.person && a.person !== null) return null;
  const [one, two] = [changeOf(a), changeOf(b)];
  const [from, to] = around(steps, second - 1);
  const did = sizes.map((size): SizeDid => ({
    name: size.name,
    before: meanOf(size, from, a.at),
    between: meanOf(size, a.at, b.at),
    after: meanOf(size, b.at, to),
  }));
  const span = edgeAround(steps, second);
  if (Math.sign(one) === Math.sign(two)) {
    // somebody who answers the same deviation comes to about the same move
    const ratio = two / one;
    if (ratio < 0.5 || ratio > 2) return null;
    const prior = did.some(({ between }) => between) ? LIKELY_MEASURED : LIKELY_BLIND;
    const likelihood = needlessness(sizes, b, span, prior);
    // wear asks for the same move again and again: likelier called for than not is nobody's slip
    if (likelihood !== null && likelihood < 0.5) return null;
    // with nothing measured it is worth a word only where the moves are the same
    if (likelihood === null && Math.abs(one - two) > step) return null;
    return {
      kind: 'twice',
      first: a,
      second: b,
      needless: likelihood !== null && likelihood >= SAID ? 'second' : null,
      likelihood: likelihood ?? prior,
      righted: null,
      did,
    };
  }
  if (Math.abs(one + two) > step) return null;
  const likelihood = needlessness(sizes, a, span, 0.5);
  return {
    kind: 'undone',
    first: a,
    second: b,
    needless:
      likelihood === null || (likelihood < SAID && likelihood > 1 - SAID)
        ? null
        : likelihood >= SAID
          ? 'first'
          : 'second',
    likelihood: likelihood ?? 0.5,
    righted: null,
    did,
  };
}

const spread = (values: readonly number[]) => {
  const mean = values.reduce((sum, each) => sum + each, 0) / values.length;
  return Math.sqrt(values.reduce((sum, each) => sum + (each - mean) ** 2, 0) / (values.length - 1));
};

/** Whether moving it to and fro did any good: how the parts spread as they were cut, and left alone. */
function nudgedOver(
  steps: readonly RegisterStep[],
  sizes: readonly CrossedSize[],
  until: number,
): Pick<Nudged, 'did' | 'worse'> {
  const did = sizes.flatMap((size) => {
    const found = size.readings.filter(({ at }) => at > steps[0]!.at && at < until);
    if (found.length < SPREAD_OF) return [];
    return [
      {
        name: size.name,
        parts: found.length,
        asCut: spread(found.map(({ deviation }) => deviation)),
        leftAlone: spread(found.map(({ deviation, held }) => deviation - size.by * held)),
      },
    ];
  });
  const odds = did.reduce(
    (sum, { parts, asCut, leftAlone }) =>
      sum + (parts - 1) * Math.log(Math.max(asCut, 1) / Math.max(leftAlone, 1)),
    0,
  );
  const sure = Math.log(SAID / (1 - SAID));
  return { did, worse: odds >= sure ? true : odds <= -sure ? false : null };
}

/** The longest runs of moves there and back, by at least two people, that come to nearly nothing. */
function toAndFro(steps: readonly RegisterStep[], sizes: readonly CrossedSize[]): [number, number][] {
  const found: [number, number][] = [];
  for (let start = 0; start < steps.length;) {
    let end = start;
    while (
      end + 1 < steps.length &&
      !steps[end]!.anew &&
      !steps[end + 1]!.anew &&
      heldAgainst(sizes, [steps[end]!, steps[end + 1]!], steps[start - 1]?.at ?? -Infinity) !== null &&
      Math.sign(changeOf(steps[end + 1]!)) === -Math.sign(changeOf(steps[end]!)) &&
      steps[end + 1]!.time - steps[start]!.time <= NUDGED_WITHIN
    )
      end += 1;
    const run = steps.slice(start, end + 1);
    const net = Math.abs(run.reduce((sum, each) => sum + changeOf(each), 0));
    const people = new Set(run.map(({ person }) => person));
    if (
      run.length >= NUDGES &&
      (people.size > 1 || people.has(null)) &&
      net <= Math.max(...run.map((each) => Math.abs(changeOf(each))))
    ) {
      found.push([start, end]);
      start = end + 1;
    } else start += 1;
  }
  return found;
}

/**
 * Moves of one register that cross each other. `step`: the register's increment; moves that differ by no more are the same.
 *
 * A move up answered by as much down is *undone*; the same way by half to twice as much, by somebody else, is *twice* unless the
 * sizes show that it was called for; four and more to and fro are told once, together.
 */
export function crossedMoves(
  steps: readonly RegisterStep[],
  sizes: readonly CrossedSize[],
  step: Length,
): Crossed[] {
  const runs = toAndFro(steps, sizes);
  const inRun = (i: number) => runs.some(([from, to]) => i > from && i <= to);
  const pairs = steps.flatMap((_, i) => {
    if (i === 0 || inRun(i)) return [];
    const pair = pairAt(steps, i, sizes, step);
    return pair ? [pair] : [];
  });
  const isDouble = (entry: number) =>
    pairs.some(({ kind, second }) => kind === 'twice' && second.entry === entry);
  return [
    ...runs.map(([from, to]): Nudged => {
      const run = steps.slice(from, to + 1);
      return { kind: 'nudged', steps: run, ...nudgedOver(run, sizes, steps[to + 1]?.at ?? Infinity) };
    }),
    // a second answer that was taken back again is one story, not two
    ...pairs
      .filter(({ kind, first }) => kind === 'twice' || !isDouble(first.entry))
      .map((pair) => ({
        ...pair,
        righted:
          pairs.find(({ kind, first }) => kind === 'undone' && first.entry === pair.second.entry)?.second ??
          null,
      })),
  ];
}
