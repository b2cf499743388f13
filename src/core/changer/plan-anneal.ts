import { traitsOf } from './traits.ts';
import { choicesFor } from './plan-layout.ts';
import type { Layout, Prepared } from './plan-layout.ts';
import { standing } from './plan-standing.ts';

/** How far it is, and the best layout without a fault that was met since the last news; null when none was better. */
export interface AnnealNews {
  share: number;
  layout: Layout | null;
}

/** Changes tried between two pieces of news. */
const PER_NEWS = 4000;
/** Changes tried to find out by how much costs differ at all. */
const TASTED = 400;
/** The share of what a change usually makes worse that is still accepted at the beginning and at the end of a turn. */
const [HOT, COLD] = [0.5, 0.002];

/** What a pair that cannot stand as it does costs, as a share of what a change usually makes worse: at the beginning and at the end. */
const [CHEAP, DEAR] = [0.3, 4];

/**
 * Wanders from a layout by carrying one tool or exchanging two, worse ones being accepted the less the longer it goes on (S.
 * Kirkpatrick and others 1983), and at its end tries every carrying and exchange until none helps.
 */
export function* anneal(
  prepared: Prepared,
  from: Layout,
  random: () => number,
  rounds: number,
): Generator<AnnealNews, AnnealNews> {
  const { tools } = prepared.question;
  const choices = tools.map((tool) => choicesFor(prepared.question, tool));
  const may = choices.map((pockets) => new Set(pockets));
  const movable = tools.flatMap((_, i) => (choices[i]!.length > 1 ? [i] : []));
  const state = standing(prepared, from);
  const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)]!;
  let [tool, to, other] = [0, 0, -1];
  const typical = tasted();
  let [cost, faults] = [state.cost(), state.faults()];
  let best = faults === 0 ? cost : Infinity;
  let kept: Layout | null = null;

  /** Chooses one change; whether there is one. */
  function chosen(): boolean {
    const i = pick(movable);
    const here = state.pocketOf[i]!;
    const home = tools[i]!.now ?? 0;
    // now and then back to where it stands, which costs nothing
    const pocket = random() < 0.1 && may[i]!.has(home) ? home : pick(choices[i]!);
    if (pocket === here) return false;
    const there = pocket === 0 ? -1 : state.toolAt[pocket]!;
    // two are exchanged if the other may take the place; if not, it must be out of the way first
    if (there >= 0 && !may[there]!.has(here)) return false;
    [tool, to, other] = [i, pocket, there];
    return true;
  }
  /** By how much a change usually alters the cost, minutes: what is kept in mind of a few that are looked at. */
  function tasted(): number {
    let [sum, count] = [0, 0];
    for (let i = 0; i < TASTED; i += 1) {
      if (!chosen()) continue;
      state.ask(tool, to, other, 0, Infinity);
      const differs = Math.abs(state.would.cost - state.cost());
      if (differs > 1e-9) [sum, count] = [sum + differs, count + 1];
    }
    return count === 0 ? 1 : sum / count;
  }
  const change = () => (other >= 0 ? state.swap(tool, other) : state.move(tool, to));

  /** Exchanges what stands in two pockets, if each may have the other's place. */
  function exchangedTwo(a: number, b: number): boolean {
    const [one, two] = [state.toolAt[a]!, state.toolAt[b]!];
    if ((one >= 0 && !may[one]!.has(b)) || (two >= 0 && !may[two]!.has(a))) return false;
    if (one >= 0 && two >= 0) state.swap(one, two);
    else if (one >= 0) state.move(one, b);
    else if (two >= 0) state.move(two, a);
    return true;
  }
  /** Exchanges three pockets in a row with three others, as they lie; the pairs that were, to undo them, or null when they may not. */
  function exchanged(here: number, there: number): [number, number][] | null {
    const done: [number, number][] = [];
    if (here === 0 || ringApart(here, there) < 3) return null;
    for (const along of [-1, 0, 1]) {
      const [a, b] = [here + along, there + along].map(around) as [number, number];
      if (a === 0 || b === 0) continue;
      if (!exchangedTwo(a, b)) {
        undone(done);
        return null;
      }
      done.push([a, b]);
    }
    return done;
  }
  const undone = (pairs: readonly [number, number][]) => {
    for (const [a, b] of [...pairs].reverse()) exchangedTwo(a, b);
  };
  const { kind, places } = prepared.question.shape;
  const turns = traitsOf({ kind }).order === 'ring';
  /** A pocket counted on round a ring or chain; 0 beyond the end of a row. */
  const around = (pocket: number) =>
    pocket >= 1 && pocket <= places ? pocket : turns ? ((pocket - 1 + places) % places) + 1 : 0;
  const ringApart = (a: number, b: number) =>
    Math.min(Math.abs(a - b), turns ? places - Math.abs(a - b) : Infinity);

  const cooling = (HOT / COLD) ** (-1 / rounds);
  let heat = typical * HOT;
  for (let round = 0; round < rounds; round += 1) {
    if (round % PER_NEWS === PER_NEWS - 1) {
      yield { share: round / rounds, layout: kept };
      kept = null;
    }
    heat *= cooling;
    if (!chosen()) continue;
    const price = typical * (CHEAP + ((DEAR - CHEAP) * round) / rounds);
    const limit = cost + faults * price - heat * Math.log(random());
    // a wide tool takes its neighbours' pockets with it
    const blocks =
      tools[tool]!.wide && to > 0 && random() < 0.5 ? exchanged(state.pocketOf[tool]!, to) : null;
    if (!blocks) state.ask(tool, to, other, price, limit);
    const nextCost = blocks ? state.cost() : state.would.cost;
    const nextFaults = blocks ? state.faults() : state.would.faults;
    if (nextCost + nextFaults * price > limit) {
      if (blocks) undone(blocks);
      continue;
    }
    if (!blocks) change();
    [cost, faults] = [nextCost, nextFaults];
    if (faults === 0 && cost < best - 1e-9) [best, kept] = [cost, [...state.pocketOf]];
  }
  const end = descended(prepared, kept ?? [...state.pocketOf], choices, DEAR * typical);
  return { share: 1, layout: end ?? kept };
}

/** Changes tried in one descent, so that a large magazine has its answer in seconds. */
const MOST_TRIES = 200_000;

/** Every carrying and exchange tried until none helps; null when it ends with a fault. */
function descended(
  prepared: Prepared,
  from: Layout,
  choices: readonly (readonly number[])[],
  price: number,
): Layout | null {
  const state = standing(prepared, from);
  const may = choices.map((pockets) => new Set(pockets));
  let now = state.cost() + state.faults() * price;
  let tries = MOST_TRIES;
  for (let improved = true; improved && tries > 0;) {
    improved = false;
    for (const [i, pockets] of choices.entries())
      for (const pocket of pockets) {
        const here = state.pocketOf[i]!;
        const other = pocket === 0 ? -1 : state.toolAt[pocket]!;
        if (pocket === here || (other >= 0 && !may[other]!.has(here))) continue;
        tries -= 1;
        state.ask(i, pocket, other, price, now);
        const next = state.would.cost + state.would.faults * price;
        if (next >= now - 1e-9) continue;
        if (other >= 0) state.swap(i, other);
        else state.move(i, pocket);
        [now, improved] = [next, true];
      }
  }
  return state.faults() === 0 ? [...state.pocketOf] : null;
}
