import { isRandom } from './layout.ts';
import { layoutFault, layoutFaults, measureLayout, prepare } from './plan-layout.ts';
import type { Layout, PlanMeasure, PlanQuestion, PlanTool, Prepared } from './plan-layout.ts';

export interface FoundLayout {
  layout: Layout;
  measure: PlanMeasure;
}

/** Layouts that a search wanders through; twice as many are hardly better. */
export const ROUNDS = 160_000;

/** How far a search is, from 0 to 1, and the best so far. */
export interface SearchProgress {
  share: number;
  best: FoundLayout | null;
}

/**
 * A good layout by our own search: as little as possible is moved first, then single tools are carried, exchanged, and taken
 * out or left in, worse layouts being accepted less and less often. Yields now and then; returns the best it met, or why
 * none can be. `random` gives numbers from 0 up to 1.
 */
export function* searchLayout(
  question: PlanQuestion,
  random: () => number,
  rounds = ROUNDS,
): Generator<SearchProgress, { ok: true; found: FoundLayout } | { ok: false; reason: string }> {
  const prepared = prepare(question);
  const start = firstLayout(prepared);
  const movable = question.tools.flatMap((tool, i) => (mayMove(question, tool) ? [i] : []));
  let best = start.reason === null ? measured(prepared, start.layout) : null;
  for (let turn = 0; turn < TURNS && movable.length > 0 && start.enough; turn += 1) {
    const cooling = cooled(
      prepared,
      best?.layout ?? start.layout,
      movable,
      random,
      Math.ceil(rounds / TURNS),
    );
    for (;;) {
      const step = cooling.next();
      if (step.done) {
        if (step.value && (best === null || step.value.measure.cost < best.measure.cost)) best = step.value;
        break;
      }
      yield { share: (turn + step.value.share) / TURNS, best: step.value.best ?? best };
    }
    if (best) best = descended(prepared, best, movable);
  }
  return best ? { ok: true, found: best } : { ok: false, reason: start.reason! };
}

const measured = (prepared: Prepared, layout: Layout): FoundLayout => ({
  layout,
  measure: measureLayout(prepared, layout),
});

/** How often the search begins to wander anew from the best it has. */
const TURNS = 4;

/** Wanders from a layout, through such as cannot be too, at a price; less and less far. The best it met, if any can be. */
function* cooled(
  prepared: Prepared,
  from: Layout,
  movable: readonly number[],
  random: () => number,
  rounds: number,
): Generator<SearchProgress, FoundLayout | null> {
  const hottest = Math.max(2, measureLayout(prepared, from).cost * 0.02);
  const price = hottest * 1.5;
  const worth = (layout: Layout) => {
    const measure = measureLayout(prepared, layout);
    const faults = layoutFaults(prepared, layout).length;
    return { measure, faults, cost: measure.cost + faults * price };
  };
  let layout = from;
  let now = worth(layout);
  let best: FoundLayout | null = now.faults === 0 ? { layout, measure: now.measure } : null;
  for (let round = 0; round < rounds; round += 1) {
    if (round % 500 === 0) yield { share: round / rounds, best };
    const heat = hottest * (1 - round / rounds) ** 3;
    const tried = changed(prepared, layout, movable, random);
    if (!tried) continue;
    const next = worth(tried);
    const worse = next.cost - now.cost;
    if (worse > 0 && (heat < 1e-9 || random() >= Math.exp(-worse / heat))) continue;
    [layout, now] = [tried, next];
    if (now.faults === 0 && (best === null || now.cost < best.measure.cost - 1e-9))
      best = { layout, measure: now.measure };
  }
  return best;
}

/** Tools that a search may touch: not those with a pocket of their own, unless they may go out. */
const mayMove = (question: PlanQuestion, tool: PlanTool) =>
  tool.locked === null && (tool.called || tool.now !== null || isRandom(question.shape));

/** One tool carried to a pocket, two exchanged when it is taken, or one that no job calls taken out. */
function changed(
  { question, beside }: Prepared,
  layout: Layout,
  movable: readonly number[],
  random: () => number,
): number[] | null {
  const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)]!;
  const swingArm = isRandom(question.shape);
  const i = pick(movable);
  const tool = question.tools[i]!;
  const next = [...layout];
  if (!tool.called && layout[i] !== 0 && random() < 0.5) {
    next[i] = 0;
    return next;
  }
  // now and then back to where it stands, which costs nothing
  const home = tool.now !== null && tool.now > 0 ? tool.now : null;
  const pocket =
    home !== null && (random() < 0.3 || (!tool.called && !swingArm)) ? home : pick(question.usable);
  if (pocket === layout[i]) return null;
  const other = layout.indexOf(pocket);
  next[i] = pocket;
  const empties = () => question.usable.filter((each) => !next.includes(each));
  /** Something makes way: what no job calls goes out, or finds another pocket as the rest does. */
  const makesWay = (who: number, into: number | null) => {
    const there = question.tools[who]!;
    const stays = there.called || (swingArm && random() < 0.7);
    if (there.locked === null && stays && into !== null && into > 0) next[who] = into;
    else if (!there.called && there.locked === null) next[who] = 0;
  };
  if (other >= 0) {
    if (question.tools[other]!.locked !== null) return null;
    makesWay(other, layout[i]!);
  }
  if (tool.wide)
    for (const side of beside.get(pocket)!) {
      const there = next.indexOf(side);
      if (there < 0 || question.tools[there]!.locked !== null) continue;
      const free = empties().filter((each) => !beside.get(pocket)!.includes(each));
      makesWay(there, free.length > 0 ? pick(free) : null);
    }
  return next;
}

/** Layouts looked at in one descent, so that a large magazine has its answer in seconds. */
const MOST_TRIES = 20_000;

/** Every carrying and exchange tried until none helps. */
function descended(prepared: Prepared, from: FoundLayout, movable: readonly number[]): FoundLayout {
  const { usable, tools } = prepared.question;
  let best = from;
  let tries = MOST_TRIES;
  for (let improved = true; improved && tries > 0;) {
    improved = false;
    for (const i of movable)
      for (const pocket of [...usable, 0]) {
        const next = [...best.layout];
        const other = pocket === 0 ? -1 : next.indexOf(pocket);
        if (other === i || (other >= 0 && tools[other]!.locked !== null)) continue;
        if (other >= 0) next[other] = next[i]!;
        next[i] = pocket;
        tries -= 1;
        if (tries < 0 || layoutFault(prepared, next)) continue;
        const measure = measureLayout(prepared, next);
        if (measure.cost < best.measure.cost - 1e-9) [best, improved] = [{ layout: next, measure }, true];
      }
  }
  return best;
}

/**
 * Everything stays where it stands as far as it can; what is new goes to the first pocket that lets it, wide tools first.
 * When one is left over it gets any pocket, and the reason says which; `enough`: there is at least a pocket for each.
 */
function firstLayout(prepared: Prepared): { layout: Layout; reason: string | null; enough: boolean } {
  const { question } = prepared;
  const { tools, usable } = question;
  const order = tools
    .map((tool, i) => ({ tool, i }))
    .sort(
      (a, b) =>
        Number(b.tool.locked !== null) - Number(a.tool.locked !== null) ||
        Number(b.tool.called) - Number(a.tool.called) ||
        Number(b.tool.wide) - Number(a.tool.wide) ||
        b.tool.radius - a.tool.radius,
    );
  const layout = tools.map(() => 0);
  const fault = (i: number, pocket: number) => {
    const next = [...layout];
    next[i] = pocket;
    return partFault(prepared, next);
  };
  const called = tools.filter((tool) => tool.called);
  const free = called.filter((tool) => tool.locked === null);
  let reason: string | null = null;
  for (const { tool, i } of order) {
    const home = tool.locked ?? (tool.now || null);
    const choices =
      tool.locked !== null
        ? [tool.locked]
        : [
            ...(home === null ? [] : [home]),
            ...(tool.called || isRandom(question.shape) ? question.usable : []),
          ];
    const place = choices.find((pocket) => fault(i, pocket) === null);
    if (place !== undefined) layout[i] = place;
    else if (tool.called) {
      reason ??= `No pocket is left for T${tool.tool}${tool.wide ? ', which needs its neighbours empty' : ''}: ${called.length} tools are called, and ${usable.length} pockets may be used. Choose fewer jobs, or look under Jobs what to swap between them.`;
      layout[i] = choices.find((pocket) => !layout.includes(pocket)) ?? choices[0] ?? 0;
    }
  }
  return { layout, reason, enough: free.length <= usable.length };
}

/** The fault of what is placed so far; tools without a pocket yet do not count. */
function partFault(prepared: Prepared, layout: Layout): string | null {
  const { question } = prepared;
  return layoutFault(
    {
      ...prepared,
      question: {
        ...question,
        tools: question.tools.map((tool, i) => (layout[i] === 0 ? { ...tool, called: false } : tool)),
      },
    },
    layout,
  );
}
