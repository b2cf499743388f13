import { bestLimit, costRate, type BestLimit, type ChangeCosts } from './age-replacement.ts';
import { failed, kaplanMeier, sudden, type EdgeLife, type SurvivalStep } from './edge-lives.ts';
import {
  fitWeibull,
  limitsOf,
  shapeOfSimilar,
  supposable,
  survives,
  type Between,
  type ShapePrior,
  type Weibull,
} from './weibull.ts';

/** What a change of an edge costs, whoever finds out that it is due. Money in cents, times in minutes. */
export interface EdgeCosts {
  /** The edge itself. */
  edge: number;
  /** Minutes of a planned change, and what a minute of the machine costs. */
  changeMinutes: number;
  perMinute: number;
  /** What an edge that fails costs beside that: a part, a tool, the stop. */
  failure: number;
}

/** In cents: worn edges that were found by measuring cost a planned change, those that chipped or broke their failure too. */
export const changeCosts = (costs: EdgeCosts, edges: readonly EdgeLife[]): ChangeCosts => {
  const planned = costs.edge + costs.changeMinutes * costs.perMinute;
  const ends = edges.filter(failed);
  // an edge worn past its size has cut a bad part as well: half a failure (our own assumption, no source)
  const share =
    ends.length === 0 ? 1 : ends.reduce((sum, edge) => sum + (sudden(edge) ? 1 : 0.5), 0) / ends.length;
  return { planned, failure: planned + costs.failure * share };
};

export interface LearntLimit {
  edges: number;
  ends: number;
  /** Ends before the present limit, and how many of them came without a warning. */
  before: number;
  suddenBefore: number;
  /** How so many ended nobody said: they may have been good, or worn. */
  unknown: number;
  /** What is drawn: up to a little beyond the longest edge, and beyond the limit. */
  longest: number;
  /** The share that lasts and the cost of a use by the limit; empty: too few ends. */
  curve: { at: number; lasts: number; cost: number }[];
  survival: SurvivalStep[];
  /** Null: too few came to their end to say anything of when they do. */
  learnt: {
    life: Weibull;
    shape: Between;
    /** Shares that last to the present limit. */
    lasts: number;
    lastsBetween: Between;
    best: BestLimit;
    /** Cost a use at the present limit. */
    present: number;
    /** Cost a use that the best limit saves, and its limits of 95 in 100; below nothing it might cost more. */
    gain: number;
    gainBetween: Between;
    /** The saving is real: even at the worst that may be supposed it saves something, and more than a hair. */
    worth: boolean;
    /** What is known of the shape is mostly of similar tools. */
    borrowed: boolean;
  } | null;
}

/** How far beyond the last edge is drawn, and in how many points. */
const [BEYOND, POINTS] = [1.1, 80];
const MONTH = 30 * 86_400_000;

/** Uses a month, from the first edge on record to now; a month at least, so that one edge is not taken for many. */
export function usesAMonth(edges: readonly (EdgeLife & { at: Date })[], now: Date): number {
  const first = edges[0]?.at;
  if (!first) return 0;
  const months = Math.max(1, (now.getTime() - first.getTime()) / MONTH);
  return edges.reduce((sum, { life }) => sum + life, 0) / months;
}

/** With fewer own ends than this the limits are as wide as to say nothing. */
const FEWEST_ENDS = 3;
/** A saving of less than this share of the present cost is a hair. */
const HAIR = 0.02;

/**
 * What may be supposed besides where it was not said how edges ended: taken out at their limit in a hurry they may have been good, or worn
 * by then. Whatever is said holds both ways, or is not said (bounds under the least and the most that is missing; C. F. Manski).
 */
function supposableIfWorn(edges: readonly EdgeLife[], prior: ShapePrior): Weibull[] {
  if (!edges.some(({ end }) => end === 'unknown')) return [];
  const worn = edges.map((edge): EdgeLife => (edge.end === 'unknown' ? { ...edge, end: 'worn' } : edge));
  const life = fitWeibull(worn, prior);
  return life ? supposable(worn, life, prior) : [];
}

/**
 * What the edges of a tool say of its limit: how long they last, which limit costs least, what it saves against the present one, and
 * whether that can be told. The limit is held within what was seen: beyond the longest edge nobody knows.
 */
export function learnLimit(
  edges: readonly EdgeLife[],
  similar: readonly (readonly EdgeLife[])[],
  costs: EdgeCosts,
  limit: number,
): LearntLimit {
  const ends = edges.filter(failed);
  const early = ends.filter(({ life }) => life < limit);
  const longest = Math.max(limit, ...edges.map((edge) => edge.life));
  const seen: Omit<LearntLimit, 'learnt'> = {
    edges: edges.length,
    ends: ends.length,
    before: early.length,
    suddenBefore: early.filter(sudden).length,
    unknown: edges.filter(({ end }) => end === 'unknown').length,
    longest: BEYOND * longest,
    curve: [],
    survival: kaplanMeier(edges),
  };
  const prior = shapeOfSimilar(similar);
  const life = ends.length < FEWEST_ENDS ? null : fitWeibull(edges, prior);
  if (!life) return { ...seen, learnt: null };
  const change = changeCosts(costs, edges);
  const rim = [...supposable(edges, life, prior), ...supposableIfWorn(edges, prior)];
  const free = bestLimit(life, change);
  const furthest = Math.max(...edges.map((edge) => edge.life));
  const best: BestLimit =
    free.limit !== null && free.limit > furthest
      ? { ...free, limit: furthest, cost: costRate(life, change, furthest) }
      : free;
  const costAt = (at: number | null, of: Weibull) =>
    at === null ? bestLimit(of, { ...change, planned: change.failure }).cost : costRate(of, change, at);
  const saves = (of: Weibull) => costRate(of, change, limit) - costAt(best.limit, of);
  const present = costRate(life, change, limit);
  const gain = saves(life);
  const gainBetween = limitsOf(rim, saves);
  return {
    ...seen,
    curve: Array.from({ length: POINTS }, (_, i) => {
      const at = (seen.longest * (i + 1)) / POINTS;
      return { at, lasts: survives(life, at), cost: costRate(life, change, at) };
    }),
    learnt: {
      life,
      shape: limitsOf(rim, ({ shape }) => shape),
      lasts: survives(life, limit),
      lastsBetween: limitsOf(rim, (of) => survives(of, limit)),
      best,
      present,
      gain,
      gainBetween,
      worth: gainBetween.low > 0 && gain > HAIR * present,
      borrowed: prior.spread < 0.78 / Math.sqrt(ends.length),
    },
  };
}

/** A limit to try: what it is, on how many edges, and what may be supposed of the present one. */
export interface Trial {
  limit: number;
  edges: number;
  /** At most so many of 100 edges fail before the present limit (95 in 100). */
  failAtMost: number;
}

/** Edges that reached their limit still good, before a longer one is worth a trial; and how much longer. */
const [REACHED, LONGER, TRIED] = [8, 1.25, 5];

/**
 * Whether the limit is too short to learn from: edges come out good, and how long they would have lasted nobody sees. Then a few are run
 * longer, each with a look at edge and part where the old limit was. The longer limit lies within what one edge has shown where one has.
 *
 * @param edges the newest last; those that ran under this limit, or a longer one, speak
 * @returns null: enough of them failed to learn from, or too few reached it
 */
export function trialOf(edges: readonly (EdgeLife & { limit: number })[], limit: number): Trial | null {
  const under = edges.filter((edge) => edge.limit >= limit);
  const good = under.filter(({ end, life }) => end === 'good' && life >= limit);
  if (under.some(failed) || good.length < REACHED) return null;
  // no failure among so many: the share that fails is at most where as many would show none in one of twenty cells
  return { limit: LONGER * limit, edges: TRIED, failAtMost: 1 - 0.05 ** (1 / good.length) };
}
