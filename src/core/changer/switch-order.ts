import { seeded } from '../units/seeded.ts';

/** Jobs as tools by number from 0, places that are left for them, and the tools that stand at first; all tools of one size. */
export interface OrderProblem {
  jobs: readonly (readonly number[])[];
  tools: number;
  places: number;
  loaded: readonly number[];
}

/** Tools to bring in for an order, told from what can be kept from use to use: some tools a job adds, nothing is tried. */
export interface OrderCount {
  /** Of a whole order. */
  of: (order: readonly number[]) => number;
}

/**
 * The fewest tools to bring in for an order: each use of a tool is one, less each that can be kept since its use before, which needs
 * a free place during every job between; the shortest wait first (as the pipes of Y. Crama and others 1994, from memory). As good
 * as keeping what is needed soonest, and quick enough to be asked tens of thousands of times.
 */
export function orderCount({ jobs, tools, places, loaded }: OrderProblem): OrderCount {
  const free = new Int32Array(jobs.length);
  const last = new Int32Array(tools);
  const waits = new Int32Array(tools);
  return {
    of(order) {
      last.fill(-2);
      for (const tool of loaded) last[tool] = -1;
      let [total, full] = [0, -1];
      for (let e = 0; e < order.length; e += 1) {
        const here = jobs[order[e]!]!;
        free[e] = places - here.length;
        let count = 0;
        for (const tool of here) {
          const since = last[tool]!;
          last[tool] = e;
          total += 1;
          if (since >= -1 && since >= full) waits[count++] = since;
        }
        // full: the last job before this one that has no place left; what was used before it cannot be kept
        const since = waits.subarray(0, count).sort();
        for (let nth = count - 1; nth >= 0; nth -= 1) {
          const from = since[nth]!;
          if (from < full) break;
          total -= 1;
          for (let i = from + 1; i < e; i += 1) {
            free[i]! -= 1;
            if (free[i] === 0 && i > full) full = i;
          }
        }
        if (free[e] === 0) full = Math.max(full, e);
      }
      return total;
    },
  };
}

/** How far an order search is, from 0 to 1, and the best order so far. */
export interface OrderNews {
  share: number;
  order: number[];
  switches: number;
}

/** Orders tried beyond the descent, so that an answer comes within about a second. */
const STEPS = 60_000;
const PER_NEWS = 2_000;

/**
 * A good order, by local search begun again and again from the best with two cuts rejoined (H. R. Lourenço and others 2003): one to
 * three jobs in a row are moved, turned round or not, or a longer row is turned. Stops at `bound`.
 */
export function* improveOrder(
  problem: OrderProblem,
  from: readonly number[],
  bound: number,
): Generator<OrderNews> {
  const count = orderCount(problem);
  const n = from.length;
  const random = seeded(20_011);
  const below = (limit: number) => Math.floor(random() * limit);
  let [now, cost] = [[...from], count.of(from)];
  let [kept, keptCost] = [now, cost];
  let [best, bestCost] = [now, cost];
  let idle = 0;
  for (let step = 0; step < STEPS && bestCost > bound && n > 1; step += 1) {
    if (step % PER_NEWS === 0) yield { share: step / STEPS, order: best, switches: bestCost };
    const next = random() < 0.7 ? moved(now, below) : turned(now, below);
    const there = count.of(next);
    idle = there < cost ? 0 : idle + 1;
    if (there <= cost) [now, cost] = [next, there];
    if (cost < bestCost) [best, bestCost] = [now, cost];
    if (idle <= n * 8) continue;
    if (cost <= keptCost) [kept, keptCost] = [now, cost];
    now = rejoined(kept, below);
    [cost, idle] = [count.of(now), 0];
  }
  yield { share: 1, order: best, switches: bestCost };
}

/** One to three jobs in a row put elsewhere, turned round now and then. */
function moved(order: readonly number[], below: (limit: number) => number): number[] {
  const rest = [...order];
  const block = rest.splice(below(rest.length), 1 + below(3));
  if (below(3) === 0) block.reverse();
  rest.splice(below(rest.length + 1), 0, ...block);
  return rest;
}

function turned(order: readonly number[], below: (limit: number) => number): number[] {
  const [a, b] = [below(order.length), below(order.length)].sort((x, y) => x - y) as [number, number];
  return [...order.slice(0, a), ...order.slice(a, b + 1).reverse(), ...order.slice(b + 1)];
}

/** Two rows in the middle exchanged. */
function rejoined(order: readonly number[], below: (limit: number) => number): number[] {
  const [a, b, c] = [1, 2, 3].map(() => below(order.length + 1)).sort((x, y) => x - y) as [
    number,
    number,
    number,
  ];
  return [...order.slice(0, a), ...order.slice(b, c), ...order.slice(a, b), ...order.slice(c)];
}

/** Beginnings of orders looked at before a proof is given up: about a second. */
const MOST_BEGINNINGS = 400_000;

/**
 * Whether any order needs fewer than `best`: every beginning is gone on from as long as what it has brought in, and what the jobs
 * left must still bring in (each tool that is not there and could not have been kept), stays below. A better order, or `null` when
 * there is none; `cannot tell` when patience ran out.
 */
export function betterOrder(problem: OrderProblem, best: number): number[] | null | 'cannot tell' {
  const { jobs, tools, places, loaded } = problem;
  const n = jobs.length;
  const order: number[] = [];
  let [found, fewest] = [null as number[] | null, best];
  let patience = MOST_BEGINNINGS;
  const used = new Uint8Array(n);
  const needs = new Int32Array(tools);
  for (const job of jobs) for (const tool of job) needs[tool]! += 1;
  interface At {
    free: Int32Array;
    last: Int32Array;
    full: number;
    total: number;
  }
  const begin: At = { free: new Int32Array(n), last: new Int32Array(tools).fill(-2), full: -1, total: 0 };
  for (const tool of loaded) begin.last[tool] = -1;
  function appended(at: At, job: number): At {
    const e = order.length;
    const [free, last] = [at.free.slice(), at.last.slice()];
    let { full, total } = at;
    free[e] = places - jobs[job]!.length;
    const since = jobs[job]!.map((tool) => at.last[tool]!)
      .filter((use) => use >= -1)
      .sort((a, b) => b - a);
    for (const tool of jobs[job]!) last[tool] = e;
    total += jobs[job]!.length;
    for (const from of since) {
      if (from < full) break;
      total -= 1;
      for (let i = from + 1; i < e; i += 1) {
        free[i]! -= 1;
        if (free[i] === 0 && i > full) full = i;
      }
    }
    if (free[e] === 0) full = e;
    return { free, last, full, total };
  }
  /** Tools that the jobs left need and that cannot be there any more. */
  function stillIn({ last, full }: At): number {
    let sum = 0;
    for (let tool = 0; tool < tools; tool += 1)
      if (needs[tool]! > 0 && (last[tool] === -2 || last[tool]! < full)) sum += 1;
    return sum;
  }
  function go(at: At): void {
    if (order.length === n) {
      if (at.total < fewest) [found, fewest] = [[...order], at.total];
      return;
    }
    const ways: { job: number; next: At; least: number }[] = [];
    for (let job = 0; job < n; job += 1) {
      if (used[job] === 1) continue;
      const next = appended(at, job);
      for (const tool of jobs[job]!) needs[tool]! -= 1;
      const least = next.total + stillIn(next);
      for (const tool of jobs[job]!) needs[tool]! += 1;
      if (least < fewest) ways.push({ job, next, least });
    }
    ways.sort((a, b) => a.least - b.least);
    for (const { job, next, least } of ways) {
      if (least >= fewest) continue;
      if ((patience -= 1) < 0) return;
      used[job] = 1;
      order.push(job);
      for (const tool of jobs[job]!) needs[tool]! -= 1;
      go(next);
      for (const tool of jobs[job]!) needs[tool]! += 1;
      order.pop();
      used[job] = 0;
    }
  }
  go(begin);
  if (found) return found;
  return patience < 0 ? 'cannot tell' : null;
}

/** Rounds in which the prices of jobs are moved towards a path. */
const PRICE_ROUNDS = 300;

/**
 * What no order can do with fewer than: between two jobs run one after the other as many tools must go as both need beyond the
 * places there are, so the cheapest path through all jobs (from what stands) is the least of all that goes, bounded by trees under
 * prices (M. Held, R. M. Karp 1970); and what comes in is what goes, and what fills the places that were empty.
 */
export function orderBound({ jobs, tools, places, loaded }: OrderProblem): number {
  const all = new Set([...loaded, ...jobs.flat()]);
  const once = [...all].length - new Set(loaded).size;
  const nodes = [loaded, ...jobs];
  const member = nodes.map((node) => {
    const has = new Uint8Array(tools);
    for (const tool of node) has[tool] = 1;
    return has;
  });
  const size = member.map((has) => has.reduce((sum, each) => sum + each, 0));
  const n = nodes.length;
  const goes = new Float64Array(n * n);
  for (let i = 0; i < n; i += 1)
    for (let j = 0; j < n; j += 1) {
      let both = 0;
      for (const tool of nodes[j]!) both += member[i]![tool]!;
      goes[i * n + j] = Math.max(0, size[i]! + size[j]! - both - places);
    }
  const price = new Float64Array(n);
  let [path, step] = [0, 1];
  for (let round = 0; round < PRICE_ROUNDS && n > 2; round += 1) {
    const degree = new Int32Array(n);
    const key = new Float64Array(n).fill(Infinity);
    const from = new Int32Array(n).fill(-1);
    const inTree = new Uint8Array(n);
    key[0] = 0;
    let weight = 0;
    for (let k = 0; k < n; k += 1) {
      let next = -1;
      for (let i = 0; i < n; i += 1) if (inTree[i] === 0 && (next < 0 || key[i]! < key[next]!)) next = i;
      inTree[next] = 1;
      if (from[next]! >= 0) {
        weight += key[next]!;
        degree[next]! += 1;
        degree[from[next]!]! += 1;
      }
      for (let i = 0; i < n; i += 1) {
        const cost = goes[next * n + i]! + price[next]! + price[i]!;
        if (inTree[i] === 0 && cost < key[i]!) [key[i], from[i]] = [cost, next];
      }
    }
    // a path has two ends, which have one neighbour only
    const ends = [...price.keys()].sort((a, b) => price[a]! - price[b]!).slice(0, 2);
    const value =
      weight + ends.reduce((sum, i) => sum + price[i]!, 0) - 2 * price.reduce((sum, each) => sum + each, 0);
    path = Math.max(path, value);
    for (const i of ends) degree[i]! += 1;
    if (degree.every((each) => each === 2)) break;
    for (let i = 0; i < n; i += 1) price[i]! += step * (degree[i]! - 2);
    step *= 0.985;
  }
  return Math.max(once, Math.ceil(path - 1e-6) + Math.min(places, all.size) - new Set(loaded).size);
}
