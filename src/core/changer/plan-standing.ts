import { strikes } from './clearance.ts';
import { choicesFor, MINUTES, moveMinutes } from './plan-layout.ts';
import type { Layout, Prepared } from './plan-layout.ts';

/** A layout that is changed tool by tool, with what it costs kept up to date; costs in minutes. */
export interface Standing {
  /** Pocket of each tool, 0 for out; and the tool in each pocket, −1 for none. */
  pocketOf: Int16Array;
  toolAt: Int16Array;
  /** Pairs that cannot stand as they do. */
  faults: () => number;
  /** What it costs by the weights of the question; of a layout with faults too. */
  cost: () => number;
  /**
   * What the cost and the faults would become by carrying a tool to an empty pocket (or out), or by exchanging two (`other`, −1
   * for none), without doing it. Into `would`; a change whose cost, with its faults at a price, is sure to pass the limit is not gone
   * through to its end and costs infinitely much.
   */
  ask: (tool: number, pocket: number, other: number, price: number, limit: number) => void;
  would: { cost: number; faults: number };
  /** Carries a tool to a pocket that is empty, or out of the machine. */
  move: (tool: number, pocket: number) => void;
  /** Exchanges the pockets of two tools. */
  swap: (tool: number, other: number) => void;
}

/**
 * Keeps the cost of a layout while tools are moved: each change touches what is near the pockets, the ways to and from the tool,
 * and the pull on the ring; only runs that must be followed are gone through anew. Every tool has a pocket or is out.
 */
export function standing(prepared: Prepared, layout: Layout): Standing {
  const { question, beside, arms, masses, times, follow, steps } = prepared;
  const { shape, tools, weights } = question;
  const row = shape.places + 1;
  const pocketOf = Int16Array.from(layout);
  const toolAt = new Int16Array(row).fill(-1);
  for (const [i, pocket] of layout.entries()) if (pocket > 0) toolAt[pocket] = i;

  const moveCost = tools.map((tool) => {
    const costs = new Float64Array(row).fill(Infinity);
    for (const pocket of choicesFor(question, tool)) costs[pocket] = moveMinutes(question, tool, pocket);
    return costs;
  });
  const near = nearPockets(prepared);
  const clash = clashTable(prepared, near);
  const stepTable = Uint16Array.from({ length: row * row }, (_, i) => {
    const [from, to] = [Math.floor(i / row), i % row];
    return from === 0 || to === 0 ? 0 : steps(from, to);
  });
  const timeWeight = weights.time / 60;
  const waysOf: { other: number; bySteps: Float64Array }[][] = tools.map(() => []);
  if (timeWeight > 0)
    for (const { from, to, bySteps } of times.ways) {
      const minutes = bySteps.map((seconds) => seconds * timeWeight);
      waysOf[from]!.push({ other: to, bySteps: minutes });
      waysOf[to]!.push({ other: from, bySteps: minutes });
    }
  const balanceWeight = weights.balance * MINUTES.unbalance;
  const pull = new Float64Array(arms.length);
  const gapWeight = weights.gaps * MINUTES.gap;
  const keptBy = new Int16Array(row);
  let [moves, ways, gaps, wrong] = [0, 0, 0, 0];

  /** A wide tool's neighbours are kept empty, or no more: how many pockets more (or fewer) that is. */
  function keptEmpty(i: number, pocket: number, by: 1 | -1): number {
    if (!tools[i]!.wide || pocket === 0) return 0;
    let more = 0;
    for (const kept of beside.get(pocket)!) {
      if (by > 0 && keptBy[kept] === 0) more += 1;
      keptBy[kept]! += by;
      if (by < 0 && keptBy[kept] === 0) more -= 1;
    }
    return more;
  }
  /** Adds (or takes away) all that a tool in its pocket costs, against the others that stand. */
  function count(i: number, by: 1 | -1): void {
    const pocket = pocketOf[i]!;
    moves += by * moveCost[i]![pocket]!;
    if (pocket === 0) return;
    for (const { other, bySteps } of waysOf[i]!) {
      const there = pocketOf[other]!;
      if (there > 0) ways += by * bySteps[stepTable[pocket * row + there]!]!;
    }
    const around = near[pocket]!;
    for (let nth = 0; nth < around.length; nth += 1) {
      const there = toolAt[around[nth]!]!;
      if (there >= 0 && clash(i, pocket, nth, there)) wrong += by;
    }
    gaps += keptEmpty(i, pocket, by);
    if (balanceWeight > 0)
      for (const [direction, arm] of arms.entries()) pull[direction]! += by * masses[i]! * arm[pocket]!;
  }
  const lift = (i: number) => {
    count(i, -1);
    if (pocketOf[i]! > 0) toolAt[pocketOf[i]!] = -1;
    pocketOf[i] = 0;
  };
  const put = (i: number, pocket: number) => {
    pocketOf[i] = pocket;
    count(i, 1);
    if (pocket > 0) toolAt[pocket] = i;
  };
  // begun from nothing: each tool is counted against those before it
  for (let i = 0; i < layout.length; i += 1) {
    toolAt[layout[i]!] = -1;
    pocketOf[i] = 0;
  }
  layout.forEach((pocket, i) => put(i, pocket));

  const isFollowed = times.followed.length > 0 && timeWeight > 0;
  const runs = isFollowed ? follow.keep(pocketOf) : null;
  const unbalanceBy = (tool: number, from: number, to: number, other: number): number => {
    if (balanceWeight === 0) return 0;
    let most = 0;
    for (let direction = 0; direction < arms.length; direction += 1) {
      const arm = arms[direction]!;
      const along = arm[to]! - arm[from]!;
      const sum = pull[direction]! + (masses[tool]! - (other < 0 ? 0 : masses[other]!)) * along;
      if (sum > most) most = sum;
    }
    return most;
  };
  const cost = () =>
    moves +
    ways +
    gaps * gapWeight +
    unbalanceBy(0, 0, 0, -1) * balanceWeight +
    (runs ? runs.seconds() * timeWeight : 0);
  const move = (tool: number, pocket: number) => {
    const from = pocketOf[tool]!;
    lift(tool);
    put(tool, pocket);
    runs?.take(pocketOf, { tool, from, to: pocket, other: -1 });
  };
  const swap = (tool: number, other: number) => {
    const [first, second] = [pocketOf[tool]!, pocketOf[other]!];
    lift(tool);
    lift(other);
    put(tool, second);
    put(other, first);
    runs?.take(pocketOf, { tool, from: first, to: second, other });
  };

  /** By how much the ways of a tool change when it goes from one pocket to another; those to `besides` are left out. */
  function waysBy(tool: number, from: number, to: number, besides: number): number {
    let sum = 0;
    const list = waysOf[tool]!;
    for (let nth = 0; nth < list.length; nth += 1) {
      const { other, bySteps } = list[nth]!;
      const there = pocketOf[other]!;
      if (there === 0 || other === besides) continue;
      if (to > 0) sum += bySteps[stepTable[to * row + there]!]!;
      if (from > 0) sum -= bySteps[stepTable[from * row + there]!]!;
    }
    return sum;
  }
  /** Faults of a tool in a pocket, with two tools taken as lifted. */
  function faultsAt(tool: number, pocket: number, besides: number): number {
    if (pocket === 0) return 0;
    let sum = 0;
    const around = near[pocket]!;
    for (let nth = 0; nth < around.length; nth += 1) {
      const there = toolAt[around[nth]!]!;
      if (there >= 0 && there !== tool && there !== besides && clash(tool, pocket, nth, there)) sum += 1;
    }
    return sum;
  }
  const faultBetween = (tool: number, pocket: number, other: number, there: number): number => {
    const nth = pocket === 0 || there === 0 ? -1 : near[pocket]!.indexOf(there);
    return nth >= 0 && clash(tool, pocket, nth, other) ? 1 : 0;
  };
  /** By how many more pockets wide tools keep empty. */
  function gapsBy(tool: number, here: number, pocket: number, other: number): number {
    let more = keptEmpty(tool, here, -1);
    if (other >= 0) more += keptEmpty(other, pocket, -1);
    more += keptEmpty(tool, pocket, 1);
    if (other >= 0) more += keptEmpty(other, here, 1);
    // and back as they were
    if (other >= 0) keptEmpty(other, here, -1);
    keptEmpty(tool, pocket, -1);
    if (other >= 0) keptEmpty(other, pocket, 1);
    keptEmpty(tool, here, 1);
    return more;
  }
  const would = { cost: 0, faults: 0 };

  return {
    pocketOf,
    toolAt,
    would,
    faults: () => wrong,
    cost,
    move,
    swap,
    ask: (tool, pocket, other, price, limit) => {
      const here = pocketOf[tool]!;
      const gapsChange = gapWeight > 0 && (tools[tool]!.wide || (other >= 0 && tools[other]!.wide));
      let moved = moveCost[tool]![pocket]! - moveCost[tool]![here]!;
      let way = waysBy(tool, here, pocket, other);
      let faults = faultsAt(tool, pocket, other) - faultsAt(tool, here, other);
      if (other >= 0) {
        moved += moveCost[other]![here]! - moveCost[other]![pocket]!;
        way += waysBy(other, pocket, here, tool);
        faults += faultsAt(other, here, tool) - faultsAt(other, pocket, tool);
        faults += faultBetween(tool, pocket, other, here) - faultBetween(tool, here, other, pocket);
      }
      would.faults = wrong + faults;
      would.cost =
        moves +
        moved +
        ways +
        way +
        gaps * gapWeight +
        unbalanceBy(tool, here, pocket, other) * balanceWeight;
      if (gapsChange) would.cost += gapsBy(tool, here, pocket, other) * gapWeight;
      if (!runs) return;
      const change = { tool, from: here, to: pocket, other };
      if (would.cost + runs.least(change) * timeWeight + would.faults * price > limit) {
        would.cost = Infinity;
        return;
      }
      pocketOf[tool] = pocket;
      if (other >= 0) pocketOf[other] = here;
      would.cost +=
        runs.ask(pocketOf, change, (limit - would.faults * price - would.cost) / timeWeight) * timeWeight;
      pocketOf[tool] = here;
      if (other >= 0) pocketOf[other] = pocket;
    },
  };
}

/** For each pocket the others where something could be in the way of what stands in it. */
function nearPockets({ question, beside, reach }: Prepared): readonly (readonly number[])[] {
  return Array.from({ length: question.shape.places + 1 }, (_, pocket) => [
    ...new Set([...(beside.get(pocket) ?? []), ...(reach.get(pocket) ?? []).map(({ number }) => number)]),
  ]);
}

/** Whether a tool in a pocket is in the way of another in the n-th of the pockets near it. */
function clashTable(
  { question, beside, reach }: Prepared,
  near: readonly (readonly number[])[],
): (tool: number, pocket: number, nth: number, other: number) => boolean {
  const kinds: { radius: number; wide: boolean }[] = [];
  const kindOf = question.tools.map(({ radius, wide }) => {
    const known = kinds.findIndex((kind) => kind.radius === radius && kind.wide === wide);
    return known >= 0 ? known : kinds.push({ radius, wide }) - 1;
  });
  const table = near.map((others, pocket) =>
    others.map((other) => {
      const apart = reach.get(pocket)?.find((each) => each.number === other)?.apart;
      const isBeside = beside.get(pocket)?.includes(other) ?? false;
      return Uint8Array.from({ length: kinds.length ** 2 }, (_, pair) => {
        const [a, b] = [kinds[Math.floor(pair / kinds.length)]!, kinds[pair % kinds.length]!];
        return Number(
          (isBeside && (a.wide || b.wide)) || (apart !== undefined && strikes(apart, a.radius, b.radius)),
        );
      });
    }),
  );
  return (tool, pocket, nth, other) =>
    table[pocket]![nth]![kindOf[tool]! * kinds.length + kindOf[other]!] === 1;
}
