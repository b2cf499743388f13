import { traitsOf } from './traits.ts';
import { bestAssignment } from './assignment.ts';
import { choicesFor, MINUTES, moveMinutes, prepare } from './plan-layout.ts';
import type { PlanQuestion, Prepared } from './plan-layout.ts';

/**
 * What no layout can cost less than, minutes, worked out without a solver: each tool in a pocket costs its move there and half of
 * the least that its ways could cost from there, its heaviest ways going to the nearest pockets; and tools are dealt out to
 * pockets so that the sum is the least (P. C. Gilmore 1962, E. L. Lawler 1963, from memory). Of what wide tools keep empty and
 * of the pull on the ring only the least counts that there must be; runs that are followed count for their arm's part.
 * It holds whatever is forbidden besides, since fewer layouts never cost less.
 */
export function layoutBound(question: PlanQuestion): number {
  const prepared = prepare(question);
  const { tools, weights, shape } = question;
  const timeWeight = weights.time / 60;
  const { constant, leastFollowed } = prepared.times;
  const always =
    timeWeight * (constant + leastFollowed) +
    weights.gaps * MINUTES.gap * leastGaps(prepared) +
    weights.balance * MINUTES.unbalance * leastPull(prepared);
  const places = shape.places;
  const waysOf = tools.map((_, i) => waysFrom(prepared, i));
  const free = tools.map((tool) => choicesFor(question, tool));
  const nearest = Array.from({ length: places + 1 }, (_, pocket) =>
    pocket === 0 ? [] : stepsFrom(prepared, pocket, free),
  );
  // each tool may also stay out: a column of its own, worthless to the others
  const costs = tools.map((tool, i) => {
    const cost = new Array<number>(places + tools.length).fill(FORBIDDEN);
    for (const pocket of free[i]!)
      cost[pocket === 0 ? places + i : pocket - 1] =
        moveMinutes(question, tool, pocket) +
        (pocket === 0 ? 0 : (timeWeight * leastWays(waysOf[i]!, nearest[pocket]!)) / 2);
    return cost;
  });
  const dealt = bestAssignment(costs.map((row) => row.map((cost) => FORBIDDEN - cost)));
  const sum = dealt.reduce((all, column, i) => all + (column < 0 ? FORBIDDEN : costs[i]![column]!), 0);
  return sum >= FORBIDDEN ? 0 : always + sum;
}

/** Ways of one tool that are dealt out to the nearest pockets; of more, each counts as the nearest. */
const MOST_DEALT = 40;

/** More than any pocket costs: of what must not be the assignment takes as little as it can. */
const FORBIDDEN = 1e7;

const waysFrom = ({ times }: Prepared, tool: number) =>
  times.ways.flatMap(({ from, to, bySteps }) => (from === tool || to === tool ? [bySteps] : []));

/** Pockets to index to each of the others that any tool may have, the nearest first. */
function stepsFrom({ steps }: Prepared, pocket: number, free: readonly (readonly number[])[]): number[] {
  const others = new Set(free.flat());
  others.delete(0);
  others.delete(pocket);
  return [...others].map((other) => steps(pocket, other)).sort((a, b) => a - b);
}

/**
 * The least that ways to so many different tools can cost from a pocket, seconds: no way dearer than the cheapest to a pocket
 * each; where they differ in kind, each is taken at the cheapest share that any dealing out leaves it.
 */
function leastWays(ways: readonly Float64Array[], nearest: readonly number[]): number {
  if (ways.length > nearest.length) return 0;
  const distances = nearest.slice(0, ways.length);
  if (ways.length <= MOST_DEALT) {
    const worth = ways.map((bySteps) => distances.map((steps) => FORBIDDEN - bySteps[steps]!));
    return bestAssignment(worth).reduce((sum, at, i) => sum + ways[i]![distances[at]!]!, 0);
  }
  // many ways: all at the nearest distance is less than any dealing out
  return ways.reduce((sum, bySteps) => sum + bySteps[distances[0]!]!, 0);
}

/** Wide tools that must have a pocket keep at least this many empty: two for one, and one more for each that shares. */
function leastGaps({ question, beside }: Prepared): number {
  const wide = question.tools.filter((tool) => tool.wide && (tool.called || tool.locked !== null)).length;
  if (wide === 0) return 0;
  const fewest = Math.min(...[...beside.values()].map((others) => others.length));
  const most = Math.max(...[...beside.values()].map((others) => others.length));
  // a pocket kept empty has no more wide tools beside it than it has neighbours
  return Math.max(fewest, Math.ceil((wide * fewest) / most));
}

/** A ring on which one tool weighs more than all the others together cannot be balanced by them. */
function leastPull({ question, masses, arms }: Prepared): number {
  if (!traitsOf(question.shape).balances) return 0;
  const radius = Math.max(...arms.map((arm) => Math.max(...arm)));
  const must = question.tools.flatMap((tool, i) => (tool.called || tool.locked !== null ? [masses[i]!] : []));
  const rest = masses.reduce((sum, mass) => sum + mass, 0);
  const heaviest = Math.max(0, ...must);
  // sixteen directions see at least cos(π/16) of a pull
  return Math.max(0, (heaviest - (rest - heaviest)) * radius * Math.cos(Math.PI / arms.length));
}
