/**
 * Where the edges of a set-up stand, judged from all readings of all sizes they make: one small filter for a set of registers and
 * sizes that touch each other. Lengths in nanometres, positions in parts.
 *
 * A size of part p is  target + Σ by · (error of the row + what the row held when p was cut) + offset of the size + noise.
 * The error of a row drifts by a steady amount a part, wanders a little, and begins anew with a new edge: about where earlier new
 * edges of that tool began. With a new set-up the offset of a size begins anew, anywhere. How noisy a size is, how fast a row drifts
 * and how much it wanders is not known: a handful of suppositions is followed side by side, each as good as it foretold the readings
 * so far. The gain on a new set-up falls out of it as 1/k (F. E. Grubbs), in steady running as an EWMA's weight (J. F. Muth 1960;
 * K. J. Åström 1970, minimum-variance control).
 */

import { noiseBefore } from './edge-noise.ts';
import {
  alikeWith,
  dot,
  EACH,
  evidenceOf,
  Filter,
  jumpedBy,
  loadOf,
  noiseOf,
  PRIOR_READINGS,
  type Run,
  type Supposition,
} from './edge-run.ts';

/** A size that is measured, and which registers move it by how much. */
export interface ModelSize {
  /** Its tolerance, upper less lower limit: where nothing is measured yet, noise is taken as an eighth of it. */
  tolerance: number;
  /** Index of a register, and the change of the size for a change of one in it. */
  moves: readonly { register: number; by: number }[];
  /** Sizes of the same number are one size in several places: they stand near each other, and are as noisy. */
  alike?: number | undefined;
}

export interface ModelReading {
  /** Index of the size. */
  size: number;
  /** Position of the part in the row of all parts cut. */
  at: number;
  /** Size measured, less the target. */
  deviation: number;
  /** What each register held when the part was cut. */
  held: readonly number[];
}

/** From this part on a register's row is another edge, or was measured anew: what was known of its error is gone. */
export interface ModelEdge {
  register: number;
  at: number;
}

/** From this part on a size is of another set-up: it stands off by what nobody knows, though its edges are the same (H14). */
export interface ModelSetUp {
  size: number;
  at: number;
}

export interface ModelQuestion {
  registers: number;
  sizes: readonly ModelSize[];
  /** In the order of the parts; readings of one part in any order. */
  readings: readonly ModelReading[];
  edges: readonly ModelEdge[];
  setUps?: readonly ModelSetUp[];
  /** The part for which the state is asked: usually the next to be cut. */
  next: number;
  /** Readings that lie far count in full: where it is asked how likely they are, not where the edge stands. */
  full?: boolean;
}

/** What is known of one size, were nothing changed. */
export interface SizeState {
  /** Expected deviation from the target of the next part with the registers at zero, and its standard error (without noise). */
  mean: number;
  error: number;
  /** Standard deviation of a single part's size about where the edge stands. */
  noise: number;
  /** Change a part, and its standard error. */
  drift: number;
  driftError: number;
}

export interface EdgeState {
  sizes: readonly SizeState[];
  /** How likely the readings were, all suppositions together: a logarithm, of use beside that of the same readings told otherwise. */
  evidence: number;
  /** How far each reading lay from what was foretold, and the standard deviation of that. */
  innovations: readonly { off: number; deviation: number }[];
  /** The last jump of a row that is likelier than not; null: none. */
  jump: RowJump | null;
}

/** A row whose error jumped between two parts, as no wear does. */
export interface RowJump {
  register: number;
  /** Between this part, the last measured before it, and this, the first after: as far as can be told. */
  after: number;
  before: number;
  /** By how much, and the standard error of that. */
  by: number;
  error: number;
  likely: number;
  /** Readings since. */
  readings: number;
}

/** What is supposed of a row, in standard deviations of the noise: how much it wanders, how fast it drifts. */
const WANDERS = [0, 0.003, 0.03, 0.3];
const DRIFTS = [0, 0.01, 0.05, 0.15, 0.4];
/** How far new edges may begin from each other, in standard deviations of the noise; the first of all begins anywhere. */
const BEGINNINGS = [3, 12, 60];

/** One drift is as likely as another; wandering is the less likely the wilder. Set by the bench: a fast drift is caught sooner, and what stands still pays less than a hundredth for it. */
const suppositions = (beginnings: readonly number[]): Supposition[] =>
  WANDERS.flatMap((wander) =>
    DRIFTS.flatMap((drift) =>
      beginnings.map((begins) => ({
        wander,
        drift,
        begins,
        weight: 1 / (1 + 3 * Math.sqrt(wander)),
      })),
    ),
  );
/** Asked whether a correction took, a step is not explained away by a row that wanders wildly. */
const calm = ({ wander, drift }: Supposition) => wander < 0.1 && drift < 0.1;
const [ONE_EDGE, SEVERAL] = [suppositions([12]), suppositions(BEGINNINGS)];
/** Chance of a part that a row jumped before it. */
const JUMPS = 1 / 150;
/** A jump is looked for where a reading lies off by so many standard deviations. */
const LOOKED_AT = 2;
/** One reading that lies far may be a slip, a chip under the gauge, a part clamped askew: it takes another to tell a jump. */
const TELLS = 2;
/** Jumps that are followed side by side, and by how much the best must be likelier for another to be given up (a logarithm). */
const FOLLOWED = 2;
const GIVEN_UP = 4;

/** Where the edges stand, for the part asked for. `readings` may be empty: then only the priors speak. */
export const edgeState = (question: ModelQuestion): EdgeState => edgeAhead(question)(question.next);

/** Where the edges stand for a part, without or with a new edge in a register's row just before it. */
type EdgeAhead = (next: number, newEdge?: number) => EdgeState;

const followed = new WeakMap<ModelQuestion, EdgeAhead>();

/** The same for any part from the next on: the readings of one question are followed once, however often it is asked. */
export function edgeAhead(question: ModelQuestion): EdgeAhead {
  const known = followed.get(question) ?? follow(question);
  followed.set(question, known);
  return known;
}

function follow(question: ModelQuestion): EdgeAhead {
  const prior = question.sizes.map((_, size) => noiseBefore(question, size));
  const first = all(question, prior, prior[0]!);
  if (question.sizes.length === 1)
    return (next, newEdge) => joined(question, prior, first, { next, newEdge });
  // sizes of one set-up are not equally noisy: how they compare is learnt from a first run and used in a second
  const best = first.runs.reduce((a, b) => (evidenceOf(b.run) > evidenceOf(a.run) ? b : a)).run;
  const scales = prior.map((own, size) => {
    const alike = alikeWith(question, size).map((each) => best.bySize[each]!);
    const [sum, count] = [sumOf(alike.map((each) => each.sum)), sumOf(alike.map((each) => each.count))];
    return (PRIOR_READINGS * own + sum) / (PRIOR_READINGS + count);
  });
  const second = all(question, scales, prior[0]!);
  return (next, newEdge) => joined(question, scales, second, { next, newEdge });
}

interface Supposed {
  supposition: Supposition;
  run: Run;
}
/** All that is supposed, up to the last reading. */
interface Followed {
  filter: Filter;
  runs: readonly Supposed[];
}

/** All suppositions, from the first reading to the last, side by side. */
function all(question: ModelQuestion, scales: readonly number[], prior: number): Followed {
  const begun = question.readings[0]?.at ?? question.next;
  const several = question.edges.some(({ at }) => at > begun && at <= question.next);
  const supposed = several ? SEVERAL : ONE_EDGE;
  const filter = new Filter(question, scales, prior);
  const families = (question.full ? supposed.filter(calm) : supposed).map((supposition): Family => {
    const begun = filter.begin(supposition);
    // what wanders takes a jump for wandering; whether a correction took must not be explained away by one
    const mayJump = question.full !== true && supposition.wander === 0;
    return { supposition, runs: [begun], mayJump, best: begun, evidence: 0 };
  });
  const jumping = families.filter(({ mayJump }) => mayJump);
  let last = begun;
  for (const reading of question.readings) {
    const top = Math.max(...jumping.map(({ evidence }) => evidence));
    for (const family of families) {
      const { runs, supposition } = family;
      for (const run of runs) filter.advance(run, supposition, reading.at);
      // what foretells badly is not mended by a jump
      if (family.mayJump && family.evidence > top - GIVEN_UP && filter.lies(family.best, reading) > LOOKED_AT)
        for (const { register } of question.sizes[reading.size]!.moves)
          runs.push(filter.jumped(family.best, register, last, JUMPS * Math.max(1, reading.at - last)));
      for (const run of runs) filter.take(run, reading);
      if (family.mayJump) sifted(family);
    }
    last = reading.at;
  }
  return {
    filter,
    runs: families.flatMap(({ supposition, runs }) =>
      runs
        .filter(({ jumps }) => jumps.every(({ readings }) => readings >= TELLS))
        .map((run) => ({ supposition, run })),
    ),
  };
}

/** One supposition: its run without a jump first, then those with one that the readings speak for. */
interface Family {
  supposition: Supposition;
  runs: Run[];
  mayJump: boolean;
  /** The likeliest of them, and how likely that is. */
  best: Run;
  evidence: number;
}

/** Finds the likeliest, and keeps the run without a jump, those too young to be judged, and the likeliest of the others. */
function sifted(family: Family): void {
  const { runs } = family;
  family.best = runs[0]!;
  family.evidence = evidenceOf(runs[0]!);
  if (runs.length === 1) return;
  const likely = new Map(runs.map((run) => [run, evidenceOf(run)]));
  for (const [run, evidence] of likely)
    if (evidence > family.evidence) [family.best, family.evidence] = [run, evidence];
  const [steady, ...others] = runs;
  const young = others.filter(({ jumps }) => jumps.at(-1)!.readings < TELLS);
  const old = others
    .filter((run) => !young.includes(run) && likely.get(run)! > family.evidence - GIVEN_UP)
    .sort((a, b) => likely.get(b)! - likely.get(a)!);
  family.runs = [steady!, ...old.slice(0, FOLLOWED), ...young];
}

/** All suppositions together, each by its weight and how well it foretold. */
function joined(
  question: ModelQuestion,
  scales: readonly number[],
  { filter, runs: followed }: Followed,
  { next, newEdge }: { next: number; newEdge: number | undefined },
): EdgeState {
  const runs = followed.map(({ supposition, run }) => ({
    supposition,
    run: filter.ahead(run, supposition, next, newEdge),
  }));
  const top = Math.max(...runs.map(({ run }) => evidenceOf(run)));
  const raw = runs.map(({ supposition, run }) => supposition.weight * Math.exp(evidenceOf(run) - top));
  const whole = raw.reduce((sum, each) => sum + each, 0);
  const weights = raw.map((each) => each / whole);
  const loads = question.sizes.map((_, size) => loadOf(question, size));
  const n = question.sizes.length;
  const means = new Array<number>(n).fill(0);
  const drifts = new Array<number>(n).fill(0);
  const each = runs.map(({ run }) => {
    const mean = loads.map((load) => dot(load, run.mean));
    const drift = loads.map((load) => driftOf(question, load, run.mean));
    return { mean, drift };
  });
  each.forEach(({ mean, drift }, i) => {
    for (let size = 0; size < n; size += 1) {
      means[size]! += weights[i]! * mean[size]!;
      drifts[size]! += weights[i]! * drift[size]!;
    }
  });
  const variance = new Array<number>(n).fill(0);
  const driftVariance = new Array<number>(n).fill(0);
  let noise = 0;
  runs.forEach(({ run }, i) => {
    const weight = weights[i]!;
    const own = noiseOf(run);
    noise += weight * own;
    for (let a = 0; a < n; a += 1) {
      variance[a]! +=
        weight * (own * quadratic(loads[a]!, run.variance, loads[a]!) + (each[i]!.mean[a]! - means[a]!) ** 2);
      const slope = driftLoad(loads[a]!, question.registers);
      driftVariance[a]! +=
        weight * (own * quadratic(slope, run.variance, slope) + (each[i]!.drift[a]! - drifts[a]!) ** 2);
    }
  });
  const innovations = question.readings.map((reading, i) => {
    let off = 0;
    let square = 0;
    runs.forEach(({ run }, k) => {
      const each = run.innovations[i]!;
      off += weights[k]! * each.off;
      square += weights[k]! * (each.variance * noiseOf(run) + each.off ** 2);
    });
    return { off, deviation: Math.sqrt(Math.max(square - off ** 2, 1)) };
  });
  return {
    sizes: question.sizes.map((_, size) => ({
      mean: means[size]!,
      error: Math.sqrt(Math.max(0, variance[size]!)),
      noise: Math.sqrt((noise * scales[size]!) / scales[0]!),
      drift: drifts[size]!,
      driftError: Math.sqrt(Math.max(0, driftVariance[size]!)),
    })),
    innovations,
    evidence: top + Math.log(whole),
    jump: jumpOf(runs, weights),
  };
}

/** The last jump, if that there was one is likelier than not: where and by how much the likeliest has it. */
function jumpOf(runs: readonly Supposed[], weights: readonly number[]): RowJump | null {
  const told = runs.flatMap(({ supposition, run }, i) => {
    const last = run.jumps.at(-1);
    return last ? [{ run, last, supposition, weight: weights[i]! }] : [];
  });
  const likely = told.reduce((sum, { weight }) => sum + weight, 0);
  if (likely <= 0.5) return null;
  const { run, last } = told.reduce((a, b) => (b.weight > a.weight ? b : a));
  // where others have it that are nearly as likely, it may have been as well
  const near = told.filter(
    ({ last: each, weight }) => each.register === last.register && weight > likely / 10,
  );
  return {
    register: last.register,
    after: Math.min(...near.map(({ last: each }) => each.after)),
    before: Math.max(...near.map(({ last: each }) => each.before)),
    ...jumpedBy(run, last),
    likely,
    readings: last.readings,
  };
}

const sumOf = (values: readonly number[]) => values.reduce((sum, each) => sum + each, 0);
const driftLoad = (load: readonly number[], registers: number) =>
  load.map((_, i) => (i < EACH * registers && i % EACH === 1 ? load[i - 1]! : 0));
const driftOf = ({ registers }: ModelQuestion, load: readonly number[], mean: readonly number[]) =>
  dot(driftLoad(load, registers), mean);

function quadratic(a: readonly number[], P: Float64Array, b: readonly number[]): number {
  const n = a.length;
  let sum = 0;
  for (let i = 0; i < n; i += 1)
    if (a[i] !== 0) for (let j = 0; j < n; j += 1) if (b[j] !== 0) sum += a[i]! * P[i * n + j]! * b[j]!;
  return sum;
}
