import { failed, type EdgeLife } from './edge-lives.ts';
import { ANY_SHAPE, highest, LEAST_SHAPE, MOST_SHAPE, usable } from './weibull.ts';

/** What an edge cut: the program most of its uses were for, and the material, where it was one and is known. */
export interface Cut {
  program: string | null;
  material: string | null;
}
type CutEdge = EdgeLife & Cut;

/** Edges that last otherwise than those that speak, by what they cut. */
export interface LeftOut {
  /** Its material, else its program; null: neither is known. */
  of: string | null;
  edges: number;
  /** Their life over that of those that speak, by scales of one shape; null: too few came to their end to say by how much. */
  times: number | null;
}

/** Which edges say how long one lasts that cuts something now. */
export interface Speaking<E> {
  edges: E[];
  /** What they have in common: the program, the material, or that they last alike; `unlike`: none does, and none cut what is cut now. */
  by: 'program' | 'material' | 'all' | 'unlike';
  /** What does not speak, since it lasts otherwise, or may. */
  leftOut: LeftOut[];
}

/**
 * How much better lives are explained when each lot has a scale of its own: twice the difference of the likelihoods, with one shape for
 * all. Where they are alike it is as χ² with a degree less than there are lots (S. S. Wilks 1938).
 */
export function apartness(lots: readonly (readonly EdgeLife[])[]): { ratio: number; shape: number } {
  const cut = lots.map(usable).filter((lot) => lot.length > 0);
  const apart = likeliest(cut);
  const together = likeliest([cut.flat()]);
  return { ratio: Math.max(0, 2 * (apart.worth - together.worth)), shape: apart.shape };
}

/** The shape that goes best with lots of lives, each at the scale that goes best with it, and how likely they are then. */
function likeliest(lots: readonly (readonly EdgeLife[])[]): { worth: number; shape: number } {
  const worth = (logShape: number) =>
    lots.reduce(
      (sum, lot) => sum + lotWorth(lot, logShape),
      -(((logShape - ANY_SHAPE.middle) / ANY_SHAPE.spread) ** 2) / 2,
    );
  const logShape = highest(worth, Math.log(LEAST_SHAPE), Math.log(MOST_SHAPE), 1e-6);
  return { worth: worth(logShape), shape: Math.exp(logShape) };
}

/** A lot none of whose edges ended may last for ever, and is as likely as can be. */
function lotWorth(lot: readonly EdgeLife[], logShape: number): number {
  const ends = lot.filter(failed);
  if (ends.length === 0) return 0;
  const shape = Math.exp(logShape);
  const logs = ends.reduce((sum, { life }) => sum + Math.log(life), 0);
  return ends.length * (logShape - logHazard(lot, shape, ends.length) - 1) + (shape - 1) * logs;
}

/** The logarithm of the scale raised to the shape: what all edges cut, shared out among the ends. */
function logHazard(lot: readonly EdgeLife[], shape: number, ends: number): number {
  const longest = Math.max(...lot.map(({ life }) => life));
  const sum = lot.reduce((all, { life }) => all + (life / longest) ** shape, 0);
  return shape * Math.log(longest) + Math.log(sum / ends);
}

/** Passed by one in ten of cells whose edges are alike, by lots (the 0.9 quantile of χ²; E. B. Wilson and M. M. Hilferty 1931). */
function limitOf(lots: number): number {
  const degrees = lots - 1;
  const spread = 2 / (9 * degrees);
  return degrees === 1 ? 2.70554 : degrees * (1 - spread + 1.28155 * Math.sqrt(spread)) ** 3;
}

/** Whether lots of edges last differently, as far as they tell. With few of them they hardly ever do. */
export const lastApart = (lots: readonly (readonly EdgeLife[])[]): boolean => {
  const some = lots.filter((lot) => lot.length > 0);
  return some.length > 1 && apartness(some).ratio > limitOf(some.length);
};

const labelOf = ({ material, program }: Cut) => material ?? program;

/** Edges by what they cut, in the order in which each came first. */
function lotsOf<E extends CutEdge>(edges: readonly E[]): Map<string | null, E[]> {
  const lots = new Map<string | null, E[]>();
  for (const edge of edges) lots.set(labelOf(edge), [...(lots.get(labelOf(edge)) ?? []), edge]);
  return lots;
}

/** Whether edges that cut different things last differently. */
export const areMixed = (edges: readonly CutEdge[]): boolean => lastApart([...lotsOf(edges).values()]);

/** What edges may be chosen by: all of them, those of a program, those of a material. */
export function lotsNamed(edges: readonly CutEdge[]): { value: string; label: string }[] {
  const named = (kind: 'program' | 'material') =>
    [...new Set(edges.flatMap((edge) => edge[kind] ?? []))]
      .sort()
      .map((name) => ({ value: `${kind} ${name}`, label: name }));
  const lots = [...named('program'), ...named('material')];
  return lots.length === 0 ? [] : [{ value: 'all', label: 'all together' }, ...lots];
}

export const edgesNamed = <E extends CutEdge>(edges: readonly E[], value: string): E[] =>
  edges.filter(
    ({ program, material }) =>
      value === 'all' || value === `program ${program}` || value === `material ${material}`,
  );

/**
 * Which edges say how long one lasts that cuts this program in this material: its own, those of the same material, and of what else was
 * cut whatever does not last otherwise. Edges of duplex and of aluminium taken together give a limit that is right for neither
 * (simulated: up to 1.7 of the least cost where the old limit was right); its own alone say little while they are few (1.5 where 1.1
 * was to be had). Asked in this way it costs within a few hundredths of the better of the two, whichever that is.
 *
 * @param edges of one size, counted in one way
 * @param now what is cut now; null: nobody knows, then only edges that are all alike speak
 */
export function edgesThatSpeak<E extends CutEdge>(edges: readonly E[], now: Cut | null): Speaking<E> {
  const isOwn = ({ program }: Cut) => program !== null && program === now?.program;
  const own = edges.filter(isOwn);
  const kin = edges.filter(
    (edge) => !isOwn(edge) && edge.material !== null && edge.material === now?.material,
  );
  const close = lastApart([own, kin]) ? own : [...own, ...kin];
  const near = new Set(close);
  const others = lotsOf(edges.filter((edge) => !near.has(edge)));
  const like = [...others.values()].filter((lot) => !lastApart([close, lot]));
  // what few edges cannot be told from need not be like each other: then none of it speaks for them
  const speaking = new Set(lastApart(like) ? close : [...close, ...like.flat()]);
  const left = edges.filter((edge) => !speaking.has(edge));
  return {
    // in the order in which they came
    edges: edges.filter((edge) => speaking.has(edge)),
    by:
      left.length === 0 || speaking.size > close.length
        ? 'all'
        : close.length === 0
          ? 'unlike'
          : close.length === own.length
            ? 'program'
            : 'material',
    leftOut: [...lotsOf(left)].map(([of, lot]) => ({
      of,
      edges: lot.length,
      times: timesAsLong(lot, [...speaking]),
    })),
  };
}

/** How many times as long the edges of one lot last as those of another; null: one of them never came to its end. */
function timesAsLong(lot: readonly EdgeLife[], other: readonly EdgeLife[]): number | null {
  const [ends, ofOther] = [lot, other].map((each) => usable(each).filter(failed).length) as [number, number];
  if (ends === 0 || ofOther === 0) return null;
  const { shape } = apartness([lot, other]);
  return Math.exp((logHazard(usable(lot), shape, ends) - logHazard(usable(other), shape, ofOther)) / shape);
}
