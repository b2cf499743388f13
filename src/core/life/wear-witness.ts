/** A part that was measured while an edge was in: where it lies in the row of parts, and where its size would have been untouched, in nanometres. */
export interface Moved {
  at: number;
  moved: number;
  /** Which set-up it was cut in: each throws the size off by something of its own, and the edge wears on. */
  setUp?: number;
}

/** The pace at which an edge moves a size, and how far off that may be (one standard error). Nanometres a part. */
export interface Pace {
  pace: number;
  error: number;
}

export interface WearWitness {
  now: Pace;
  /** The edges before it: their mean pace, and how they differ from each other. */
  before: { pace: number; spread: number; edges: number };
  /** Slower, faster: surely so. Null: as before, or it cannot be told. */
  differs: 'slower' | 'faster' | null;
  /** Whether a pace twice as fast would have been seen by now. */
  wouldSee: boolean;
  /** How many times as fast as they did; never below zero. */
  times: number;
}

/** Parts of an edge that a line takes at least, and edges before it that say how they differ. */
const [FEWEST_PARTS, FEWEST_EDGES] = [3, 3];
const Z95 = 1.959964;

/** Student's t for 95 of 100. Source: M. Abramowitz and I. A. Stegun, 26.7.5; within a twentieth from two degrees on. */
function student(degrees: number): number {
  const z = Z95;
  return (
    z +
    (z ** 3 + z) / (4 * degrees) +
    (5 * z ** 5 + 16 * z ** 3 + 3 * z) / (96 * degrees ** 2) +
    (3 * z ** 7 + 19 * z ** 5 + 17 * z ** 3 - 15 * z) / (384 * degrees ** 3)
  );
}

const mean = (values: readonly number[]) => values.reduce((sum, each) => sum + each, 0) / values.length;

/** One slope through the parts of one edge, in each set-up about its own middle, and what is left of the scatter. */
function line(parts: readonly Moved[]): { pace: number; width: number; left: number; free: number } | null {
  const setUps = [...new Set(parts.map(({ setUp }) => setUp))].map((of) =>
    parts.filter(({ setUp }) => setUp === of),
  );
  const free = parts.length - setUps.length - 1;
  if (free < FEWEST_PARTS - 2) return null;
  const centred = setUps.flatMap((own) => {
    const [at, moved] = [mean(own.map((part) => part.at)), mean(own.map((part) => part.moved))];
    return own.map((part) => ({ at: part.at - at, moved: part.moved - moved }));
  });
  const width = centred.reduce((sum, { at }) => sum + at ** 2, 0);
  if (width === 0) return null;
  const pace = centred.reduce((sum, { at, moved }) => sum + at * moved, 0) / width;
  const left = centred.reduce((sum, { at, moved }) => sum + (moved - pace * at) ** 2, 0);
  return { pace, width, left, free };
}

/**
 * What the sizes that an edge cuts say of its wear, before it comes to its end: whether it moves them faster than the edges before it.
 * Each edge has a pace, known as well as its parts allow; edges differ from each other by more than that (R. DerSimonian and N. Laird
 * 1986), and another one is expected to lie among them. How a single edge ends, by a chip, a size does not say.
 *
 * @param edges the parts that were measured on each edge, the newest edge last
 * @returns null where it cannot be told: fewer than three edges before it with three parts each, or too few of its own
 */
export function wearWitness(edges: readonly (readonly Moved[])[]): WearWitness | null {
  const own = line(edges.at(-1) ?? []);
  const earlier = edges.slice(0, -1).flatMap((parts) => line(parts) ?? []);
  if (!own || earlier.length < FEWEST_EDGES) return null;
  const all = [...earlier, own];
  const free = all.reduce((sum, each) => sum + each.free, 0);
  const noise = all.reduce((sum, each) => sum + each.left, 0) / free;
  const weights = earlier.map(({ width }) => (noise === 0 ? 1 : width / noise));
  const total = weights.reduce((sum, each) => sum + each, 0);
  const fixed = earlier.reduce((sum, { pace }, i) => sum + weights[i]! * pace, 0) / total;
  const heterogeneity = earlier.reduce((sum, { pace }, i) => sum + weights[i]! * (pace - fixed) ** 2, 0);
  const squares = weights.reduce((sum, each) => sum + each ** 2, 0);
  const degrees = earlier.length - 1;
  const between =
    noise === 0
      ? heterogeneity / degrees
      : Math.max(0, (heterogeneity - degrees) / (total - squares / total));
  const weighed = earlier.map(({ width }) => 1 / (noise / width + between || 1));
  const sum = weighed.reduce((all, each) => all + each, 0);
  const before = earlier.reduce((all, { pace }, i) => all + weighed[i]! * pace, 0) / sum;
  const error = Math.sqrt(noise / own.width);
  const apart = student(degrees) * Math.sqrt(between + (noise === 0 ? 0 : 1 / sum) + error ** 2);
  const [pace, usual] = [own.pace * Math.sign(before), Math.abs(before)];
  return {
    now: { pace: own.pace, error },
    before: { pace: before, spread: Math.sqrt(between), edges: earlier.length },
    differs: pace > usual + apart ? 'faster' : pace < usual - apart ? 'slower' : null,
    wouldSee: usual > apart,
    times: usual === 0 ? 1 : Math.max(0, pace / usual),
  };
}

/**
 * Uses after which it is as worn as the edges before it were at their limit, by its pace so far.
 *
 * @returns null: it hardly moves at all
 */
export const asWornAfter = ({ times }: Pick<WearWitness, 'times'>, limit: number): number | null =>
  times < 0.05 ? null : limit / times;
