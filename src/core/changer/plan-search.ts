import { traitsOf } from './traits.ts';
import { anneal } from './plan-anneal.ts';
import { firstLayout } from './plan-first.ts';
import { choicesFor, measureLayout, prepare } from './plan-layout.ts';
import type { Layout, PlanMeasure, PlanQuestion, Prepared } from './plan-layout.ts';

export interface FoundLayout {
  layout: Layout;
  measure: PlanMeasure;
}

/** Changes that a search tries for each tool and pocket, within bounds; with more it is hardly better. */
const PER_PAIR = 2_000;
const [FEWEST, MOST] = [100_000, 5_000_000];

/** Runs with tied tools are followed change by change for every layout: so many times fewer fit into the same seconds. */
const FOLLOWED_SHARE = 4.5;

/** How many changes a search for a question tries. */
export function roundsFor({ shape, tools, usable }: PlanQuestion): number {
  const followed =
    traitsOf(shape).exchanges && tools.some((tool) => tool.called && (tool.wide || tool.locked !== null));
  const wanted = Math.min(MOST, tools.length * usable.length * PER_PAIR);
  return Math.ceil(Math.max(FEWEST, followed ? wanted / FOLLOWED_SHARE : wanted));
}

/** How far a search is, from 0 to 1, and the best so far. */
export interface SearchProgress {
  share: number;
  best: FoundLayout | null;
}

export type SearchAnswer =
  | { ok: true; found: FoundLayout }
  /** `proven`: it was shown that no layout can be; otherwise it cannot be told. */
  | { ok: false; proven: boolean; reason: string };

/** How often the search cools down, each time from the beginning: the better of two hardly ever misses by much. */
const TURNS = 2;

/**
 * A good layout by our own search: first one that can be, whatever it costs; then tools are carried, exchanged, and taken out or
 * left in, worse layouts being accepted less and less often, through such as cannot be too, at a price. Yields now and then;
 * returns the best it met, or why there is none. `random` gives numbers from 0 up to 1. A layout that is `known` to be possible
 * may be given to begin from.
 */
export function* searchLayout(
  question: PlanQuestion,
  random: () => number,
  rounds = roundsFor(question),
  known: Layout | null = null,
): Generator<SearchProgress, SearchAnswer> {
  const prepared = prepare(question);
  const first = known ? { ok: true as const, layout: known } : firstLayout(prepared);
  if (!first.ok) return first;
  let best = measured(prepared, first.layout);
  if (question.tools.every((tool) => choicesFor(question, tool).length < 2)) return { ok: true, found: best };
  for (let turn = 0; turn < TURNS; turn += 1) {
    const search = anneal(prepared, first.layout, random, Math.ceil(rounds / TURNS));
    for (;;) {
      const step = search.next();
      if (step.value.layout) {
        const found = measured(prepared, step.value.layout);
        if (found.measure.cost < best.measure.cost - 1e-9) best = found;
      }
      if (step.done) break;
      yield { share: (turn + step.value.share) / TURNS, best };
    }
  }
  return { ok: true, found: best };
}

const measured = (prepared: Prepared, layout: Layout): FoundLayout => ({
  layout,
  measure: measureLayout(prepared, layout),
});
