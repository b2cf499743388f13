/**
 * Where the edges of a set-up stand, judged from all readings of all sizes they make: one small filter for a set of registers and
 * sizes that touch each other. Lengths in nanometres, positions in parts.
 *
 * A size of part p is  target + Σ by · (error of the row + what the row held when p was cut) + offset of the size + noise.
 * The error of a row drifts by a steady amount a part, wanders a little, and begins anew with a new edge: about where earlier new
 * edges of that tool began. How noisy a size is, how fast a row drifts and how much it wanders is not known: a handful of
 * suppositions is followed side by side, each as good as it foretold the readings so far. The gain on a new set-up falls out of it
 * as 1/k (F. E. Grubbs), in steady running as an EWMA's weight (J. F. Muth 1960; K. J. Åström 1970, minimum-variance control).
 */

/** A size that is measured, and which registers move it by how much. */
export interface ModelSize {
  /** Its tolerance, upper less lower limit: where nothing is measured yet, noise is taken as an eighth of it. */
  tolerance: number;
  /** Index of a register, and the change of the size for a change of one in it. */
  moves: readonly { register: number; by: number }[];
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

export interface ModelQuestion {
  registers: number;
  sizes: readonly ModelSize[];
  /** In the order of the parts; readings of one part in any order. */
  readings: readonly ModelReading[];
  edges: readonly ModelEdge[];
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
  sizes: SizeState[];
  /** How likely the readings were, all suppositions together: a logarithm, of use beside that of the same readings told otherwise. */
  evidence: number;
  /** How far each reading lay from what was foretold, and the standard deviation of that. */
  innovations: { off: number; deviation: number }[];
}

/** What may be supposed of a row: how much it wanders from part to part, and how fast it drifts, both in standard deviations of the noise. */
interface Supposition {
  wander: number;
  drift: number;
  /** How far a new edge may begin from where the others began. */
  begins: number;
  weight: number;
}
const WANDERS = [0, 0.003, 0.03, 0.3];
const DRIFTS = [0, 0.01, 0.05, 0.15, 0.4];
/** A drift is seldom quite even. */
const UNEVEN = 0.005;
/** A new edge of the same tool drifts about as fast as the last. */
const OTHER_EDGE = 0.25;
/** How far new edges may begin from each other, in standard deviations of the noise; the first of all begins anywhere. */
const BEGINNINGS = [3, 12, 60];
const ANYWHERE = 1e6;
/** Where so little is known beforehand, a reading cannot be surprising. */
const OPEN = 30;
/** Two sizes of one row may disagree by a tolerance. */
const OWN_OFFSET = 8;
/** Readings that the prior of the noise counts for. */
const PRIOR_READINGS = 1;
/** Beyond so many standard deviations a reading counts for less the further it lies (P. J. Huber 1964). */
const HUBER = 2.5;
/** States a register: its error, its drift, where its new edges begin. */
const EACH = 3;

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

interface Run {
  mean: number[];
  /** In units of the first size's noise variance. */
  variance: Float64Array;
  /** Of how likely the readings were, the logarithm. */
  evidence: number;
  /** Noise variance of the first size. */
  noise: number;
  /** Sum of squared innovations of each size over their variance, and how many. */
  bySize: { sum: number; count: number }[];
  innovations: { off: number; variance: number }[];
}

/** Where the edges stand, for the part asked for. `readings` may be empty: then only the priors speak. */
export function edgeState(question: ModelQuestion): EdgeState {
  const prior = question.sizes.map((_, size) => noiseBefore(question, size));
  const first = all(question, prior, prior[0]!);
  if (question.sizes.length === 1) return joined(question, prior, first);
  // sizes of one set-up are not equally noisy: how they compare is learnt from a first run and used in a second
  const best = first.reduce((a, b) => (b.run.evidence > a.run.evidence ? b : a)).run;
  const scales = prior.map((own, size) => {
    const { sum, count } = best.bySize[size]!;
    return (PRIOR_READINGS * own + sum) / (PRIOR_READINGS + count);
  });
  return joined(question, scales, all(question, scales, prior[0]!));
}

/** Readings between two others that weigh as much as what is taken from the tolerance. */
const YOUNG = 3;
/** The middle of the distance of a normal value from nothing, in standard deviations. */
const MIDDLE = 0.6745;

/**
 * Variance of single parts of a size, to begin with: from how far each reading lies off the line between its neighbours, so that a
 * drift is no noise, with what the registers held taken out; while it is young rather an eighth of its tolerance.
 */
function noiseBefore({ sizes, readings }: ModelQuestion, size: number): number {
  const { tolerance, moves } = sizes[size]!;
  const own = readings.filter((reading) => reading.size === size);
  const free = own.map(
    ({ deviation, held }) =>
      deviation - moves.reduce((sum, { register, by }) => sum + by * held[register]!, 0),
  );
  const off = own
    .slice(2)
    .map((_, i) => {
      const span = own[i + 2]!.at - own[i]!.at;
      const share = span > 0 ? (own[i + 1]!.at - own[i]!.at) / span : 0.5;
      return (
        Math.abs(free[i + 1]! - (1 - share) * free[i]! - share * free[i + 2]!) /
        Math.sqrt(1 + share ** 2 + (1 - share) ** 2)
      );
    })
    .sort((a, b) => a - b);
  const young = tolerance / 8;
  if (off.length === 0) return young ** 2;
  const learnt = Math.max(off[off.length >> 1]! / MIDDLE, young / 100);
  const share = YOUNG / (YOUNG + off.length);
  return Math.exp(2 * (share * Math.log(young) + (1 - share) * Math.log(learnt)));
}

function all(question: ModelQuestion, scales: readonly number[], prior: number) {
  const begun = question.readings[0]?.at ?? question.next;
  const several = question.edges.some(({ at }) => at > begun && at <= question.next);
  const supposed = several ? SEVERAL : ONE_EDGE;
  return (question.full ? supposed.filter(calm) : supposed).map((supposition) => ({
    supposition,
    run: follow(question, scales, prior, supposition),
  }));
}

/** All suppositions together, each by its weight and how well it foretold. */
function joined(
  question: ModelQuestion,
  scales: readonly number[],
  runs: { supposition: Supposition; run: Run }[],
): EdgeState {
  const top = Math.max(...runs.map(({ run }) => run.evidence));
  const raw = runs.map(({ supposition, run }) => supposition.weight * Math.exp(run.evidence - top));
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
    noise += weight * run.noise;
    for (let a = 0; a < n; a += 1) {
      variance[a]! +=
        weight *
        (run.noise * quadratic(loads[a]!, run.variance, loads[a]!) + (each[i]!.mean[a]! - means[a]!) ** 2);
      const slope = driftLoad(loads[a]!, question.registers);
      driftVariance[a]! +=
        weight * (run.noise * quadratic(slope, run.variance, slope) + (each[i]!.drift[a]! - drifts[a]!) ** 2);
    }
  });
  const innovations = question.readings.map((reading, i) => {
    let off = 0;
    let square = 0;
    runs.forEach(({ run }, k) => {
      const each = run.innovations[i]!;
      off += weights[k]! * each.off;
      square += weights[k]! * (each.variance * run.noise + each.off ** 2);
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
  };
}

/** The row of a size over the states: by register, and its own offset where several sizes share registers. */
function loadOf({ registers, sizes }: ModelQuestion, size: number): number[] {
  const load = new Array<number>(EACH * registers + (sizes.length > 1 ? sizes.length : 0)).fill(0);
  for (const { register, by } of sizes[size]!.moves) load[EACH * register]! += by;
  if (sizes.length > 1) load[EACH * registers + size] = 1;
  return load;
}

const driftLoad = (load: readonly number[], registers: number) =>
  load.map((_, i) => (i < EACH * registers && i % EACH === 1 ? load[i - 1]! : 0));
const driftOf = ({ registers }: ModelQuestion, load: readonly number[], mean: readonly number[]) =>
  dot(driftLoad(load, registers), mean);

/** One supposition, from the first reading to the part that is asked for. */
function follow(
  question: ModelQuestion,
  scales: readonly number[],
  prior: number,
  supposed: Supposition,
): Run {
  const { registers, sizes, readings, next } = question;
  const n = EACH * registers + (sizes.length > 1 ? sizes.length : 0);
  const unit = scales[0]!;
  const mean = new Array<number>(n).fill(0);
  const P = new Float64Array(n * n);
  for (let r = 0; r < registers; r += 1) {
    const [x, d, m] = [EACH * r, EACH * r + 1, EACH * r + 2];
    P[m * n + m] = ANYWHERE;
    P[x * n + x] = ANYWHERE + supposed.begins ** 2;
    P[x * n + m] = P[m * n + x] = ANYWHERE;
    P[d * n + d] = supposed.drift ** 2;
  }
  if (sizes.length > 1)
    sizes.forEach(
      (_, f) =>
        (P[(EACH * registers + f) * n + EACH * registers + f] = OWN_OFFSET ** 2 * (scales[f]! / unit)),
    );
  const loads = sizes.map((_, size) => loadOf(question, size));
  const edges = [...question.edges].sort((a, b) => a.at - b.at);
  let edge = 0;
  let at = readings[0]?.at ?? next;
  // edges before the first reading change nothing that is known
  while (edge < edges.length && edges[edge]!.at <= at) edge += 1;
  let sum = PRIOR_READINGS * prior;
  let count = PRIOR_READINGS;
  let evidence = 0;
  const bySize = sizes.map(() => ({ sum: 0, count: 0 }));
  const innovations: Run['innovations'] = [];
  const gain = new Float64Array(n);
  const advance = (to: number) => {
    while (edge < edges.length && edges[edge]!.at <= to) {
      step(mean, P, n, registers, supposed, edges[edge]!.at - at);
      at = edges[edge]!.at;
      renew(mean, P, n, edges[edge]!.register, supposed);
      edge += 1;
    }
    step(mean, P, n, registers, supposed, to - at);
    at = to;
  };
  for (const reading of readings) {
    advance(reading.at);
    const load = loads[reading.size]!;
    let held = 0;
    for (const { register, by } of sizes[reading.size]!.moves) held += by * reading.held[register]!;
    const off = reading.deviation - held - dot(load, mean);
    const own = scales[reading.size]! / unit;
    let spread = own;
    for (let i = 0; i < n; i += 1) {
      let g = 0;
      for (let j = 0; j < n; j += 1) g += P[i * n + j]! * load[j]!;
      gain[i] = g;
      spread += load[i]! * g;
    }
    innovations.push({ off, variance: spread });
    const far = Math.abs(off) / Math.sqrt((spread * sum) / count);
    // a reading that lies far counts for less, the further the less
    const counted = far > HUBER && spread < OPEN * own && !question.full ? HUBER / far : 1;
    const square = (off ** 2 / spread) * counted;
    // the first of a row says nothing of the noise, and is as likely under one supposition as under another
    if (spread < ANYWHERE / 10) {
      evidence -= 0.5 * Math.log(spread);
      sum += square;
      count += 1;
      bySize[reading.size]!.sum += square * own;
      bySize[reading.size]!.count += 1;
    }
    const use = counted / spread;
    for (let i = 0; i < n; i += 1) mean[i]! += gain[i]! * use * off;
    for (let i = 0; i < n; i += 1) for (let j = 0; j < n; j += 1) P[i * n + j]! -= gain[i]! * gain[j]! * use;
  }
  advance(next);
  return {
    mean,
    variance: P,
    evidence: evidence - 0.5 * count * Math.log(sum),
    noise: sum / count,
    bySize,
    innovations,
  };
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

const dot = (a: readonly number[], b: readonly number[]) => {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
};

function quadratic(a: readonly number[], P: Float64Array, b: readonly number[]): number {
  const n = a.length;
  let sum = 0;
  for (let i = 0; i < n; i += 1)
    if (a[i] !== 0) for (let j = 0; j < n; j += 1) if (b[j] !== 0) sum += a[i]! * P[i * n + j]! * b[j]!;
  return sum;
}
