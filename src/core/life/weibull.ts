import { failed, type EdgeLife } from './edge-lives.ts';

/** A Weibull life: the share that lasts longer than t is exp(−(t / scale)^shape). Above 1 the shape says wear, at 1 chance. */
export interface Weibull {
  shape: number;
  scale: number;
}

export const survives = ({ shape, scale }: Weibull, at: number) =>
  at <= 0 ? 1 : Math.exp(-((at / scale) ** shape));

/** What is supposed of a shape before anything was seen: about where, and how far off it may be, both of its logarithm. */
export interface ShapePrior {
  middle: number;
  spread: number;
}

/** How likely lives are under a Weibull, as a logarithm: ends by their density, those taken out by surviving so long. */
export function logLikelihood(
  edges: readonly EdgeLife[],
  { shape, scale }: Weibull,
  prior?: ShapePrior,
): number {
  let sum = 0;
  for (const edge of edges) {
    const z = edge.life / scale;
    if (failed(edge)) sum += Math.log(shape / scale) + (shape - 1) * Math.log(z);
    sum -= z ** shape;
  }
  if (prior) sum -= ((Math.log(shape) - prior.middle) / prior.spread) ** 2 / 2;
  return sum;
}

export const [LEAST_SHAPE, MOST_SHAPE] = [0.05, 60];

/** The scale that goes best with a shape: the ends share out what all edges cut. */
const scaleFor = (edges: readonly EdgeLife[], shape: number, ends: number, longest: number) =>
  longest * (edges.reduce((sum, { life }) => sum + (life / longest) ** shape, 0) / ends) ** (1 / shape);

/** Edges of which nothing at all was cut say nothing. */
export const usable = (edges: readonly EdgeLife[]) => edges.filter(({ life }) => life > 0);

/**
 * The likeliest Weibull of lives some of which were cut short (maximum likelihood with censoring; J. F. Lawless, Statistical Models and
 * Methods for Lifetime Data). With a prior of the shape the likeliest of both together.
 *
 * @returns null where it cannot be told: no edge came to its end; or, without a prior, fewer than two did at different ages
 */
export function fitWeibull(all: readonly EdgeLife[], prior?: ShapePrior): Weibull | null {
  const edges = usable(all);
  const ends = edges.filter(failed);
  if (ends.length === 0 || (!prior && new Set(ends.map(({ life }) => life)).size < 2)) return null;
  const longest = Math.max(...edges.map(({ life }) => life));
  const at = (logShape: number): Weibull => {
    const shape = Math.exp(logShape);
    return { shape, scale: scaleFor(edges, shape, ends.length, longest) };
  };
  const worth = (logShape: number) => logLikelihood(edges, at(logShape), prior);
  return at(highest(worth, Math.log(LEAST_SHAPE), Math.log(MOST_SHAPE)));
}

/** Where a function with one peak is highest (golden section; J. Kiefer 1953). */
export function highest(worth: (x: number) => number, from: number, to: number, fine = 1e-9): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [from, to];
  let [c, d] = [b - golden * (b - a), a + golden * (b - a)];
  let [fc, fd] = [worth(c), worth(d)];
  while (b - a > fine) {
    if (fc > fd) {
      [b, d, fd] = [d, c, fc];
      c = b - golden * (b - a);
      fc = worth(c);
    } else {
      [a, c, fc] = [c, d, fd];
      d = a + golden * (b - a);
      fd = worth(d);
    }
  }
  return (a + b) / 2;
}

/** By how much the logarithm of the likelihood may fall short, for what holds in 95 of 100 (half of χ² with one degree: S. S. Wilks 1938). */
export const WILKS = 1.920729;
/** Points of the rim that are looked at. */
const RIM = 120;

/**
 * The rim of what may be supposed of a life: every Weibull whose likelihood falls short of the best by what one number may. The least and
 * the most that a quantity takes on it are its profile-likelihood limits of 95 in 100.
 */
export function supposable(all: readonly EdgeLife[], best: Weibull, prior?: ShapePrior): Weibull[] {
  const edges = usable(all);
  const top = logLikelihood(edges, best, prior);
  const falls = (logShape: number, logScale: number) =>
    top - logLikelihood(edges, { shape: Math.exp(logShape), scale: Math.exp(logScale) }, prior) - WILKS;
  const [x, y] = [Math.log(best.shape), Math.log(best.scale)];
  return Array.from({ length: RIM }, (_, i) => {
    const angle = (2 * Math.PI * i) / RIM;
    const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
    let [near, far] = [0, 0.01];
    // never beyond what a shape can be: a rim that is not closed there ends there
    const reach = Math.min(
      8,
      dx > 0 ? (Math.log(MOST_SHAPE) - x) / dx : dx < 0 ? (Math.log(LEAST_SHAPE) - x) / dx : 8,
    );
    while (far < reach && falls(x + far * dx, y + far * dy) < 0) [near, far] = [far, far * 1.6];
    far = Math.min(far, reach);
    for (let k = 0; k < 24; k += 1) {
      const middle = (near + far) / 2;
      if (falls(x + middle * dx, y + middle * dy) < 0) near = middle;
      else far = middle;
    }
    return { shape: Math.exp(x + near * dx), scale: Math.exp(y + near * dy) };
  });
}

export interface Between {
  low: number;
  high: number;
}

/** The limits of 95 in 100 of whatever can be worked out from a life. */
export function limitsOf(rim: readonly Weibull[], of: (life: Weibull) => number): Between {
  const values = rim.map(of);
  return { low: Math.min(...values), high: Math.max(...values) };
}

/** Shapes of wear in general, where no similar tool has told: about 2.5, from 1 to 6 (common practice, no source). */
export const ANY_SHAPE: ShapePrior = { middle: Math.log(2.5), spread: 0.45 };
/** Tools of one kind differ from each other by about so much. */
const ALIKE = 0.3;

/**
 * What may be supposed of the shape of a tool from others like it: where theirs lie together, as far as they tell. A tool with few ends
 * of its own is drawn towards it, one with many hardly (empirical Bayes; B. Efron and C. Morris 1975).
 */
export function shapeOfSimilar(others: readonly (readonly EdgeLife[])[]): ShapePrior {
  let [weight, sum] = [1 / ANY_SHAPE.spread ** 2, ANY_SHAPE.middle / ANY_SHAPE.spread ** 2];
  for (const edges of others) {
    const ends = edges.filter((edge) => failed(edge) && edge.life > 0).length;
    const own = fitWeibull(edges);
    if (!own) continue;
    // the logarithm of a shape from so many ends is off by about 0.78 over their root (J. F. Lawless; memory)
    const precision = 1 / (ALIKE ** 2 + 0.78 ** 2 / ends);
    weight += precision;
    sum += precision * Math.log(own.shape);
  }
  return { middle: sum / weight, spread: Math.sqrt(1 / weight + ALIKE ** 2) };
}
