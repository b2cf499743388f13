/**
 * One supposition of where the edges of a set-up stand, followed from reading to reading: the filter's sums. Lengths in nanometres,
 * variances in units of the first size's noise variance. What is supposed, and how suppositions are weighed, is `edge-state.ts`.
 */

import type { ModelEdge, ModelQuestion, ModelReading, ModelSetUp } from './edge-state.ts';

/** What may be supposed of a row: how much it wanders from part to part, and how fast it drifts, both in standard deviations of the noise. */
export interface Supposition {
  wander: number;
  drift: number;
  /** How far a new edge may begin from where the others began. */
  begins: number;
  weight: number;
}

/** A register's row that is supposed to have jumped, between two parts. */
export interface Jump {
  register: number;
  /** The last part measured before it, and the first after. */
  after: number;
  before: number;
  /** Where the row would have stood at `before` without it. */
  stood: number;
  /** Readings since. */
  readings: number;
}

export interface Run {
  mean: number[];
  /** In units of the first size's noise variance. */
  variance: Float64Array;
  /** Of how likely the readings were, the logarithm, but for what they say of the noise. */
  told: number;
  sum: number;
  count: number;
  /** Sum of squared innovations of each size over their variance, and how many. */
  bySize: { sum: number; count: number }[];
  innovations: { off: number; variance: number }[];
  /** Up to which part it has come, and how many of the edges and set-ups that is. */
  at: number;
  begun: number;
  jumps: readonly Jump[];
}

/** A drift is seldom quite even. */
const UNEVEN = 0.005;
/** A new edge of the same tool drifts about as fast as the last. */
const OTHER_EDGE = 0.25;
const ANYWHERE = 1e6;
/** Where so little is known beforehand, a reading cannot be surprising. */
const OPEN = 30;
/** Two sizes of one row may disagree by a tolerance. */
const OWN_OFFSET = 8;
/** How far a place of the cycle stands off the others it shares its rows with, in standard deviations of the noise. */
const OWN_PLACE = 1.5;
/** Readings that the prior of the noise counts for. */
export const PRIOR_READINGS = 1;
/** Beyond so many standard deviations a reading counts for less the further it lies (P. J. Huber 1964). */
const HUBER = 2.5;
/** States a register: its error, its drift, where its new edges begin. */
export const EACH = 3;
/** How far a row jumps that does, in standard deviations of the noise. */
const JUMP = 8;

/** Noise variance of the first size. */
export const noiseOf = ({ sum, count }: Run) => sum / count;
/** Of how likely the readings were, the logarithm. */
export const evidenceOf = ({ told, sum, count }: Run) => told - 0.5 * count * Math.log(sum);

/** One question's filter: what is the same for all suppositions. */
export class Filter {
  private readonly loads: number[][];
  /** Edges and set-ups in the order of the parts. */
  private readonly beginnings: readonly (ModelEdge | ModelSetUp)[];
  private readonly n: number;
  private readonly gain: Float64Array;
  /** Noise variance of each size, in that of the first. */
  private readonly own: number[];
  /** Of each size those that are the same size in another place, itself among them. */
  private readonly alike: readonly (readonly number[])[];
  private off = 0;
  private spread = 0;

  constructor(
    private readonly question: ModelQuestion,
    /** Noise variance of each size, as far as is known. */
    private readonly scales: readonly number[],
    private readonly prior: number,
  ) {
    const { registers, sizes } = question;
    this.n = EACH * registers + ownOffsets(question);
    this.loads = sizes.map((_, size) => loadOf(question, size));
    this.own = scales.map((each) => each / scales[0]!);
    this.alike = sizes.map((_, size) => alikeWith(question, size));
    // all places of a size are set up anew at once
    const setUps = (question.setUps ?? []).filter(({ size }) => this.alike[size]![0] === size);
    this.beginnings = [...question.edges, ...setUps].sort((a, b) => a.at - b.at);
    this.gain = new Float64Array(this.n);
  }

  /** Before the first reading. */
  begin(supposed: Supposition): Run {
    const { registers, sizes, readings, next } = this.question;
    const { n, scales } = this;
    const P = new Float64Array(n * n);
    for (let r = 0; r < registers; r += 1) {
      const [x, d, m] = [EACH * r, EACH * r + 1, EACH * r + 2];
      P[m * n + m] = ANYWHERE;
      P[x * n + x] = ANYWHERE + supposed.begins ** 2;
      P[x * n + m] = P[m * n + x] = ANYWHERE;
      P[d * n + d] = supposed.drift ** 2;
    }
    if (sizes.length > 1)
      sizes.forEach((_, f) => {
        this.standsOff(P, f, OWN_OFFSET ** 2 * (scales[f]! / scales[0]!));
      });
    const at = readings[0]?.at ?? next;
    // what began before the first reading changes nothing that is known
    let begun = 0;
    while (begun < this.beginnings.length && this.beginnings[begun]!.at <= at) begun += 1;
    return {
      mean: new Array<number>(n).fill(0),
      variance: P,
      told: 0,
      sum: PRIOR_READINGS * this.prior,
      count: PRIOR_READINGS,
      bySize: sizes.map(() => ({ sum: 0, count: 0 })),
      innovations: [],
      at,
      begun,
      jumps: [],
    };
  }

  /** Parts go by, and new edges and new set-ups come. */
  advance(run: Run, supposed: Supposition, to: number): void {
    const { n, beginnings } = this;
    const { registers } = this.question;
    while (run.begun < beginnings.length && beginnings[run.begun]!.at <= to) {
      const each = beginnings[run.begun]!;
      step(run.mean, run.variance, n, registers, supposed, each.at - run.at);
      run.at = each.at;
      if ('register' in each) renew(run.mean, run.variance, n, each.register, supposed);
      // a size that is set up anew may stand anywhere; its edges are as worn as before, and wear on as fast
      else for (const size of this.alike[each.size]!) this.standsOff(run.variance, size, ANYWHERE);
      run.begun += 1;
    }
    step(run.mean, run.variance, n, registers, supposed, to - run.at);
    run.at = to;
  }

  /** A size stands off by something more that is its own; the places of one size by the same, and each by a little of its own. */
  private standsOff(P: Float64Array, size: number, variance: number): void {
    const { n } = this;
    const first = EACH * this.question.registers;
    const alike = this.alike[size]!;
    for (const other of alike) P[(first + size) * n + first + other]! += variance;
    if (alike.length > 1)
      P[(first + size) * n + first + size]! += OWN_PLACE ** 2 * (this.scales[size]! / this.scales[0]!);
  }

  /** The same at a later part, with nothing measured in between; with a new edge in a register's row just before it, where one is named. */
  ahead(run: Run, supposed: Supposition, to: number, newEdge?: number): Run {
    const later = { ...run, mean: [...run.mean], variance: run.variance.slice() };
    if (newEdge !== undefined) {
      this.advance(later, supposed, to - 0.5);
      renew(later.mean, later.variance, this.n, newEdge, supposed);
    }
    this.advance(later, supposed, to);
    return later;
  }

  /** The same, as it would be had the register's row jumped just before the part that it has come to. */
  jumped(run: Run, register: number, after: number, chance: number): Run {
    const x = EACH * register;
    const variance = run.variance.slice();
    variance[x * this.n + x]! += JUMP ** 2;
    return {
      ...run,
      mean: [...run.mean],
      variance,
      told: run.told + Math.log(chance),
      bySize: run.bySize.map((each) => ({ ...each })),
      innovations: [...run.innovations],
      jumps: [...run.jumps, { register, after, before: run.at, stood: run.mean[x]!, readings: 0 }],
    };
  }

  /** What is foretold of a reading: leaves how far it lies off, its variance, and the gain of each state in the filter's own fields. */
  private foretell({ mean, variance: P }: Run, reading: ModelReading): void {
    const { n, gain } = this;
    const load = this.loads[reading.size]!;
    const { moves } = this.question.sizes[reading.size]!;
    let off = reading.deviation;
    for (let m = 0; m < moves.length; m += 1) off -= moves[m]!.by * reading.held[moves[m]!.register]!;
    let spread = this.own[reading.size]!;
    for (let i = 0; i < n; i += 1) {
      let g = 0;
      for (let j = 0; j < n; j += 1) g += P[i * n + j]! * load[j]!;
      gain[i] = g;
      spread += load[i]! * g;
      off -= load[i]! * mean[i]!;
    }
    this.off = off;
    this.spread = spread;
  }

  /** By how many standard deviations a reading lies off what is foretold; 0 where nothing is. */
  lies(run: Run, reading: ModelReading): number {
    this.foretell(run, reading);
    return this.spread >= OPEN * this.own[reading.size]!
      ? 0
      : Math.abs(this.off) / Math.sqrt(this.spread * noiseOf(run));
  }

  /** Takes the reading of a part that it has come to. */
  take(run: Run, reading: ModelReading): void {
    this.foretell(run, reading);
    const { n, gain, off, spread } = this;
    const { mean, variance: P } = run;
    const own = this.own[reading.size]!;
    run.innovations.push({ off, variance: spread });
    const far = Math.abs(off) / Math.sqrt(spread * noiseOf(run));
    // a reading that lies far counts for less, the further the less
    const counted = far > HUBER && spread < OPEN * own && !this.question.full ? HUBER / far : 1;
    const square = (off ** 2 / spread) * counted;
    // the first of a row says nothing of the noise, and is as likely under one supposition as under another
    if (spread < ANYWHERE / 10) {
      run.told -= 0.5 * Math.log(spread);
      run.sum += square;
      run.count += 1;
      const bySize = run.bySize[reading.size]!;
      bySize.sum += square * own;
      bySize.count += 1;
    }
    const use = counted / spread;
    for (let i = 0; i < n; i += 1) {
      const share = gain[i]! * use;
      mean[i]! += share * off;
      for (let j = 0; j < n; j += 1) P[i * n + j]! -= share * gain[j]!;
    }
    if (run.jumps.length === 0) return;
    const last = run.jumps.at(-1)!;
    run.jumps = [...run.jumps.slice(0, -1), { ...last, readings: last.readings + 1 }];
  }
}

/** By how much a row jumped, and the standard error of that: what it stands at now, less the drift since. */
export function jumpedBy(run: Run, { register, before, stood }: Jump): { by: number; error: number } {
  const x = EACH * register;
  const n = run.mean.length;
  const drifted = run.mean[x + 1]! * (run.at - before);
  return {
    by: run.mean[x]! - drifted - stood,
    error: Math.sqrt(Math.max(0, noiseOf(run) * run.variance[x * n + x]!)),
  };
}

/** Sizes that stand off by something of their own: where several share registers, or where one was set up anew. */
const ownOffsets = ({ sizes, setUps = [] }: ModelQuestion) =>
  sizes.length > 1 || setUps.length > 0 ? sizes.length : 0;

/** The sizes that are the same size in another place, the first of them first, and itself among them. */
export const alikeWith = ({ sizes }: ModelQuestion, size: number): number[] =>
  sizes.flatMap(({ alike }, i) =>
    i === size || (alike !== undefined && alike === sizes[size]!.alike) ? [i] : [],
  );

/** The row of a size over the states: by register, and its own offset where it has one. */
export function loadOf(question: ModelQuestion, size: number): number[] {
  const { registers, sizes } = question;
  const load = new Array<number>(EACH * registers + ownOffsets(question)).fill(0);
  for (const { register, by } of sizes[size]!.moves) load[EACH * register]! += by;
  if (ownOffsets(question) > 0) load[EACH * registers + size] = 1;
  return load;
}

/** Parts go by: each row drifts, and wanders. */
function step(
  mean: number[],
  P: Float64Array,
  n: number,
  registers: number,
  supposed: Supposition,
  parts: number,
): void {
  if (parts <= 0) return;
  for (let r = 0; r < registers; r += 1) {
    const [x, d] = [EACH * r, EACH * r + 1];
    mean[x]! += parts * mean[d]!;
    for (let j = 0; j < n; j += 1) P[x * n + j]! += parts * P[d * n + j]!;
    for (let j = 0; j < n; j += 1) P[j * n + x]! += parts * P[j * n + d]!;
    P[x * n + x]! += parts * supposed.wander ** 2;
    P[d * n + d]! += parts * (UNEVEN * supposed.drift) ** 2;
  }
}

/** A new edge begins where new edges of the tool begin, and drifts about as the last. */
function renew(mean: number[], P: Float64Array, n: number, register: number, supposed: Supposition): void {
  const [x, d, m] = [EACH * register, EACH * register + 1, EACH * register + 2];
  mean[x] = mean[m]!;
  for (let j = 0; j < n; j += 1) P[x * n + j] = P[m * n + j]!;
  for (let j = 0; j < n; j += 1) P[j * n + x] = P[j * n + m]!;
  P[x * n + x] = P[m * n + m]! + supposed.begins ** 2;
  P[d * n + d]! += (OTHER_EDGE * supposed.drift) ** 2;
}

export const dot = (a: readonly number[], b: readonly number[]) => {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
};
