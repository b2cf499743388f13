import { nanometres, type Length } from '../units/length.ts';

/** What an edge wanted of its wear register when it was new: the value that would have put its first parts on target. */
export interface EdgeBegan {
  wanted: number;
  /** Its standard error, from the parts that were measured. */
  error: number;
  /** In which set-up it began, counted from the first on record. */
  setUp: number;
}

export interface WearShares {
  /** Part of it that every edge wanted there stays with the machine · all of it is the edge's own · too few edges to tell. */
  verdict: 'machine' | 'tool' | 'cannotTell';
  /** What stays with the machine, and its standard error. */
  machine: number;
  error: number;
  edges: number;
}

/** Fewer edges than this say nothing of what they have in common. */
const EDGES = 3;
/** Student's t at 0.975 for 2, 3, 4 … degrees of freedom (W. S. Gosset 1908; tables in any textbook, from memory). */
const T = [4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228];
const tOf = (edges: number) => T[edges - 1 - 2] ?? 2.1;

/**
 * Whether a wear follows the tool or the machine (H18), from how the edges of one row began: what they all wanted is the machine's
 * (its spindle, its fixture, the program); what differs from edge to edge is the edge's. A mean over edges that differ among
 * themselves (random effects, DerSimonian and Laird 1986), told as the machine's when it is not nought by Student's t.
 */
export function wearShares(began: readonly Omit<EdgeBegan, 'setUp'>[]): WearShares {
  const edges = began.length;
  if (edges < EDGES) return { verdict: 'cannotTell', machine: 0, error: Infinity, edges };
  const mean = (weights: readonly number[]) => {
    const whole = weights.reduce((sum, weight) => sum + weight, 0);
    return { value: weights.reduce((sum, weight, i) => sum + weight * began[i]!.wanted, 0) / whole, whole };
  };
  const single = began.map(({ error }) => 1 / Math.max(1, error) ** 2);
  const { value: fixed, whole } = mean(single);
  const spread = single.reduce((sum, weight, i) => sum + weight * (began[i]!.wanted - fixed) ** 2, 0);
  const squares = single.reduce((sum, weight) => sum + weight ** 2, 0);
  const between = Math.max(0, (spread - (edges - 1)) / (whole - squares / whole));
  const both = began.map(({ error }) => 1 / (Math.max(1, error) ** 2 + between));
  const found = mean(both);
  // from how they lie about their mean: with few edges what lies between them is not well known
  const scatter =
    both.reduce((sum, weight, i) => sum + weight * (began[i]!.wanted - found.value) ** 2, 0) / (edges - 1);
  const error = Math.sqrt(Math.max(1, scatter) / found.whole);
  return Math.abs(found.value) > tOf(edges) * error
    ? { verdict: 'machine', machine: found.value, error, edges }
    : { verdict: 'tool', machine: 0, error, edges };
}

export interface CarriedWear {
  /** What to key on the other machine. */
  there: Length;
  words: string;
}

const toStep = (value: number, step: Length) => nanometres(Math.round(value / step) * step);

/**
 * What a wear register of another machine is to begin with, when a tool goes there.
 *
 * @param held what it holds at home · `moved`: the very edge goes, not another of its kind
 */
export function carriedWear(
  held: Length,
  home: WearShares,
  away: WearShares,
  moved: boolean,
  step: Length,
): CarriedWear {
  const own = away.verdict === 'machine' ? away.machine : 0;
  const there = away.verdict === 'machine' ? 'what edges begin with there' : '';
  if (!moved)
    return {
      there: toStep(own, step),
      words: there === '' ? 'another edge: begin at nought' : `another edge: ${there}`,
    };
  if (held === 0 && own === 0) return { there: 0 as Length, words: 'it holds nothing' };
  if (home.verdict === 'cannotTell')
    return {
      there: toStep(own, step),
      words: `too few edges were measured at home in this set-up to tell whether it is the tool’s: begin ${own === 0 ? 'at nought' : `with ${there}`}`,
    };
  const part = home.verdict === 'machine' ? 'what the edge has of its own' : 'all of it is the edge’s';
  return {
    there: toStep(held - home.machine + own, step),
    words: there === '' ? part : `${part}, and ${there}`,
  };
}

/** Parts of a new edge that say how it began: later ones say how it wore. */
const FIRST = 3;

/**
 * How the edges of a row began, from the parts they cut: for each stretch between two new edges what the register would have had to
 * hold for its first parts to be on target. An edge that goes on in a new set-up did not begin there.
 *
 * @param parts in the order of the parts: `deviation` of the size from its target, `held` by the register then
 * @param anew where a new edge began, in the row of the parts
 * @param setUps where the size was set up anew
 * @param by change of the size for a change of one of the register
 */
export function edgesBegan(
  parts: readonly { at: number; deviation: number; held: number }[],
  anew: readonly number[],
  setUps: readonly number[],
  by: number,
  noise: number,
): EdgeBegan[] {
  const begins = [-Infinity, ...new Set([...anew, ...setUps].sort((a, b) => a - b))];
  return begins.flatMap((from, i) => {
    if (from !== -Infinity && !anew.includes(from)) return [];
    const first = parts.filter(({ at }) => at > from && at < (begins[i + 1] ?? Infinity)).slice(0, FIRST);
    if (first.length === 0) return [];
    const wanted = first.reduce((sum, { deviation, held }) => sum + held - deviation / by, 0) / first.length;
    return [
      {
        wanted,
        error: noise / Math.abs(by) / Math.sqrt(first.length),
        setUp: setUps.filter((at) => at <= from).length,
      },
    ];
  });
}

/**
 * Edges of the set-up that stands: what they have in common is the machine's and this set-up's, and stays; what each has of its own goes
 * with it. Those of another set-up were off by its error as well.
 *
 * @param setUps how many set-ups began on record
 */
export const ofSetUp = (began: readonly EdgeBegan[], setUps: number) =>
  began.filter(({ setUp }) => setUp === setUps);

/** One for each set-up: where the next set-up will begin is told by how set-ups began, however many edges one of them had. */
export function bySetUp(began: readonly EdgeBegan[]): EdgeBegan[] {
  return [...new Set(began.map(({ setUp }) => setUp))].map((setUp) => {
    const own = began.filter((each) => each.setUp === setUp);
    return {
      setUp,
      wanted: own.reduce((sum, { wanted }) => sum + wanted, 0) / own.length,
      error: Math.hypot(...own.map(({ error }) => error)) / own.length,
    };
  });
}
