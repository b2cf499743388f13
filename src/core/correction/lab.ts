import { seeded } from '../units/seeded.ts';
import { shareOut } from '../chart/capability.ts';
import { formatLength, USUAL_DECIMALS } from '../units/format-length.ts';
import { nanometres, type LengthUnit } from '../units/length.ts';
import { decide } from './decide.ts';
import { edgeState, type ModelEdge, type ModelReading } from './edge-state.ts';
import { estimateBy, POLICIES, POLICY_RULES, type Policy } from './policies.ts';

/** One size by its one row, as the lab tries it. Lengths in nanometres, sizes as deviations from the target. */
export interface LabSize {
  lower: number;
  upper: number;
  deadBand: number;
  averageOf: number;
  increment: number;
  /** Change of the size for a change of one in the register. */
  by: number;
}

interface Seen extends ModelReading {
  edge: number;
}

/** What a school makes of the newest of these readings: how far off it takes the size to be, and the change of the register, in whole steps. */
interface Answered {
  deviation: number;
  change: number;
  words: string;
  sums: string[];
  wait: string | null;
}

/** Digits enough to see a sum come out. */
const writer = (unit: LengthUnit) => (value: number) =>
  formatLength(nanometres(Math.round(value)), unit, { decimals: USUAL_DECIMALS[unit] + 1, sign: 'always' });

function answer(
  policy: Policy,
  size: LabSize,
  seen: readonly Seen[],
  edges: readonly ModelEdge[],
  every: number,
  unit: LengthUnit | null,
): Answered {
  const { lower, upper, increment, by } = size;
  const newest = seen.at(-1)!;
  const whole = (change: number) => Math.round(change / increment) * increment;
  if (policy === 'model') {
    const moves = [{ register: 0, by }];
    const state = edgeState({
      registers: 1,
      sizes: [{ tolerance: upper - lower, moves }],
      readings: seen.slice(-MEMORY),
      edges,
      next: newest.at + 1,
    }).sizes[0]!;
    const deviation = state.mean + by * newest.held[0]!;
    const [change] = decide({
      rows: [{ held: newest.held[0]!, increment, largest: Infinity, limit: Infinity }],
      sizes: [{ ...state, mean: deviation, lower, upper, moves }],
      every,
    }).changes;
    return { deviation, change: change!, words: 'all readings of the edge', sums: [], wait: null };
  }
  const own = seen.filter((each) => each.edge === newest.edge);
  const present = own.filter((each) => each.held[0] === newest.held[0]);
  const partOut = newest.deviation < lower || newest.deviation > upper;
  const { deviation, words, steps, wait } = estimateBy(
    policy,
    {
      deviations: present.map((each) => nanometres(Math.round(each.deviation))),
      averageOf: size.averageOf,
      at: present.map((each) => each.at),
      settings: own.filter((each, i) => i === 0 || each.held[0] !== own[i - 1]!.held[0]).length,
      signed: unit ? writer(unit) : String,
      unit: unit ?? 'mm',
    },
    { partOut, partAfterSetUp: null },
  );
  const left = !partOut && POLICY_RULES[policy].leavesBand && Math.abs(deviation) <= size.deadBand;
  return {
    deviation,
    change: wait || left ? 0 : whole(-deviation / by),
    words,
    sums: steps.map(({ sum }) => sum),
    wait: wait ?? (left ? 'inside the dead band' : null),
  };
}

/** Readings that the model looks back on here. */
const MEMORY = 60;

/** A feature's own past: what each measured part would have been with its row at zero, and where edges began. */
export interface LabHistory {
  parts: { at: number; uncorrected: number }[];
  edges: number[];
}

export interface Replayed {
  policy: Policy;
  /** Root mean square of what would have been measured, parts out of limits, and moves. */
  spread: number;
  out: number;
  moves: number;
}

/** One part of the past as it would have come out, what the school made of it, and what it would have keyed after it. */
export interface Walked extends Answered {
  at: number;
  measured: number;
  /** What the row would have held when it was cut. */
  held: number;
  edge: number;
}

/** The past once more under one school: the same parts with the corrections that it would have made. */
export function walk(
  size: LabSize,
  history: LabHistory,
  policy: Policy,
  /** Null: no sums are written. */
  unit: LengthUnit | null,
): Walked[] {
  const edges = history.edges.map((at): ModelEdge => ({ register: 0, at }));
  const seen: Seen[] = [];
  let held = 0;
  return history.parts.map(({ at, uncorrected }) => {
    const edge = history.edges.filter((begins) => begins <= at).length;
    // a new edge begins with its row at zero
    if (seen.length > 0 && edge !== seen.at(-1)!.edge) held = 0;
    const measured = uncorrected + size.by * held;
    seen.push({ size: 0, at, deviation: measured, held: [held], edge });
    const answered = answer(policy, size, seen, edges, 1, unit);
    const walked = { ...answered, at, measured, held, edge };
    held += answered.change;
    return walked;
  });
}

/** What the past would have come to under each school. */
export const replay = (
  size: LabSize,
  history: LabHistory,
  policies: readonly Policy[] = POLICIES,
): Replayed[] =>
  policies.map((policy) => {
    const walked = walk(size, history, policy, null);
    const square = walked.reduce((sum, { measured }) => sum + measured ** 2, 0);
    return {
      policy,
      spread: Math.sqrt(square / Math.max(1, walked.length)),
      out: walked.filter(({ measured }) => measured < size.lower || measured > size.upper).length,
      moves: walked.filter(({ change }) => change !== 0).length,
    };
  });

/** What is supposed of the process that is to be tried. */
export interface LabProcess {
  /** Spread of single parts, and what of it was seen: readings less where the edge stood, in their order. */
  noise: number;
  residuals: readonly number[];
  /** Change a part and how well it is known; spread of the first error of an edge. */
  drift: number;
  driftError: number;
  first: number;
  /** Parts an edge cuts; parts between two readings. */
  edgeParts: number;
  every: number;
}

/** A mean of runs with its 95 % limits. */
export interface Between {
  mean: number;
  low: number;
  high: number;
}

export interface Tried {
  policy: Policy;
  /** Root mean square about the target; bad parts of a thousand; moves in a hundred parts. */
  spread: Between;
  bad: Between;
  moves: Between;
}

export interface LabAnswer {
  tried: Tried[];
  /** The one with the least spread; and whether that is real, and more than hair-splitting, against the one in use. */
  best: Policy;
  real: boolean;
}

/** Fewer residuals than this are too few to draw from: a normal spread stands for them. */
const ENOUGH = 20;
/** A smaller gain in spread is not worth a change. */
const WORTH = 0.05;

const between = (values: readonly number[]): Between => {
  const mean = values.reduce((sum, each) => sum + each, 0) / values.length;
  const variance = values.reduce((sum, each) => sum + (each - mean) ** 2, 0) / Math.max(1, values.length - 1);
  const half = 1.96 * Math.sqrt(variance / values.length);
  return { mean, low: mean - half, high: mean + half };
};

/**
 * Each school on the same made-up parts: noise drawn in blocks from what was seen, so that what hangs together stays together; drift
 * within what is known of it; a new edge every so many parts. All schools get the same parts of a run, so that their difference is
 * theirs and not the dice's. Bad parts are counted by their likelihood, not by ones and noughts.
 *
 * Source: block bootstrap after H. R. Künsch 1989; paired runs (common numbers) are textbook.
 */
export function tryPolicies(
  size: LabSize,
  process: LabProcess,
  {
    runs,
    parts,
    inUse,
    policies = POLICIES,
  }: { runs: number; parts: number; inUse: Policy; policies?: readonly Policy[] },
): LabAnswer {
  const outcomes = policies.map(() => ({
    square: [] as number[],
    bad: [] as number[],
    moves: [] as number[],
  }));
  for (let run = 0; run < runs; run += 1) {
    const even = seeded((run + 1) * 7919 + 13);
    const normal = () => Math.sqrt(-2 * Math.log(even())) * Math.cos(2 * Math.PI * even());
    const drift = process.drift + normal() * process.driftError;
    const noise = drawn(process, parts, even, normal);
    const firsts = Array.from(
      { length: Math.ceil(parts / process.edgeParts) },
      () => normal() * process.first,
    );
    policies.forEach((policy, which) => {
      const seen: Seen[] = [];
      const edges: ModelEdge[] = [];
      let [held, square, bad, moves] = [0, 0, 0, 0];
      for (let at = 0; at < parts; at += 1) {
        const edge = Math.floor(at / process.edgeParts);
        if (at > 0 && at % process.edgeParts === 0) {
          held = 0;
          edges.push({ register: 0, at });
        }
        const mean = firsts[edge]! + drift * (at % process.edgeParts) + size.by * held;
        const deviation = mean + noise[at]!;
        square += deviation ** 2;
        bad += shareOut(mean, process.noise, size.lower, size.upper);
        if (at % process.every !== 0 && at % process.edgeParts !== 0) continue;
        seen.push({ size: 0, at, deviation, held: [held], edge });
        const { change } = answer(policy, size, seen, edges, process.every, null);
        if (change !== 0) moves += 1;
        held += change;
      }
      outcomes[which]!.square.push(square / parts);
      outcomes[which]!.bad.push((1000 * bad) / parts);
      outcomes[which]!.moves.push((100 * moves) / parts);
    });
  }
  const tried = policies.map((policy, i): Tried => {
    const { square, bad, moves } = outcomes[i]!;
    const middle = between(square);
    const root = (value: number) => Math.sqrt(Math.max(0, value));
    return {
      policy,
      spread: { mean: root(middle.mean), low: root(middle.low), high: root(middle.high) },
      bad: between(bad),
      moves: between(moves),
    };
  });
  const best = tried.reduce((a, b) => (b.spread.mean < a.spread.mean ? b : a)).policy;
  const [own, winner] = [policies.indexOf(inUse), policies.indexOf(best)];
  const gain = between(outcomes[own]!.square.map((each, i) => each - outcomes[winner]!.square[i]!));
  const worth = (1 - WORTH) ** 2 * tried[own]!.spread.mean ** 2;
  return { tried, best, real: best !== inUse && gain.low > 0 && tried[winner]!.spread.mean ** 2 < worth };
}

/** Noise of so many parts: blocks of what was seen, one after the other, scaled to the spread that is believed. */
function drawn(
  { noise, residuals }: LabProcess,
  parts: number,
  even: () => number,
  normal: () => number,
): number[] {
  if (residuals.length < ENOUGH) return Array.from({ length: parts }, () => noise * normal());
  const mean = residuals.reduce((sum, each) => sum + each, 0) / residuals.length;
  const sigma =
    Math.sqrt(residuals.reduce((sum, each) => sum + (each - mean) ** 2, 0) / residuals.length) || 1;
  const length = Math.max(1, Math.round(residuals.length ** (1 / 3)));
  const out: number[] = [];
  while (out.length < parts) {
    const from = Math.floor(even() * residuals.length);
    for (let i = 0; i < length; i += 1)
      out.push(((residuals[(from + i) % residuals.length]! - mean) / sigma) * noise);
  }
  return out.slice(0, parts);
}
