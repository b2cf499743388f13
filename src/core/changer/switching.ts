import { fitTogether, type FitGround, type FitTool } from './fit-together.ts';
import { betterOrder, improveOrder, orderBound, orderCount, type OrderProblem } from './switch-order.ts';

/** A job and the tools it calls. */
export interface SwitchJob {
  name: string;
  tools: readonly number[];
}

export interface SwitchStep {
  job: string;
  out: number[];
  in: number[];
}

export interface SwitchPlan {
  order: string[];
  steps: SwitchStep[];
  /** Tools brought in by hand over all, those that the first job lacks among them. */
  switches: number;
}

/** Where the jobs are to run. */
export interface SwitchRoom {
  /** Pockets that may be used. */
  places: number;
  /** Tools that stand in them now. */
  loaded: readonly number[];
  /** Tools that never leave, and take their places. */
  locked: readonly number[];
  /** Tools that take more than one pocket, and share those between them. */
  wide: readonly number[];
  /** Where tools could be in each other's way: the pockets as they lie, and how large each T is. By the planner's own rule. */
  ground?: { pockets: FitGround; sizes: readonly (FitTool & { tool: number })[] };
}

/** Whether tools can stand together in a room: by its pockets as they lie where that matters, and within its number of places. */
function fitter(room: SwitchRoom): (tools: Iterable<number>) => boolean {
  const wide = new Set(room.wide);
  const { ground } = room;
  if (!ground) return (tools) => placesTaken(tools, wide) <= room.places;
  const sizes = new Map(ground.sizes.map((each) => [each.tool, each]));
  const kept = new Set(room.locked);
  const plain: FitTool = { radius: 0, wide: false, barred: [] };
  const known = new Map<string, boolean>();
  return (tools) => {
    const all = [...tools];
    if (all.length > room.places) return false;
    const free = all.filter((tool) => !kept.has(tool)).map((tool) => sizes.get(tool % SISTER) ?? plain);
    const key = free
      .map(({ radius, wide: broad, barred }) => `${radius} ${broad} ${barred.join()}`)
      .sort()
      .join(';');
    const before = known.get(key);
    if (before !== undefined) return before;
    const fits = fitTogether(ground.pockets, free).fits;
    known.set(key, fits);
    return fits;
  };
}

/** Places that so many tools take: a wide one takes those beside it too, three by itself, five for two that share (H5). */
export const placesTaken = (tools: Iterable<number>, wide: ReadonlySet<number>): number => {
  let [all, broad] = [0, 0];
  for (const tool of tools) {
    all += 1;
    if (wide.has(tool)) broad += 1;
  }
  return all + (broad > 0 ? broad + 1 : 0);
};

/**
 * For a given order, the fewest tools to bring in by hand: before each job what it lacks comes in, and when room is needed
 * the tools that are needed again soonest stay (C. S. Tang, E. V. Denardo 1988, from memory). With tools of several sizes the rule is a
 * good one and no longer always the best.
 */
export function keepNeededSoonest(
  jobs: readonly SwitchJob[],
  room: SwitchRoom,
  fits = fitter(room),
): { ok: true; plan: SwitchPlan } | { ok: false; reason: string } {
  const { places, loaded, locked } = room;
  const wide = new Set(room.wide);
  const kept = new Set(locked);
  for (const { name, tools } of jobs) {
    const together = new Set([...tools, ...kept]);
    if (fits(together)) continue;
    const wanted = placesTaken(together, wide);
    const staying = kept.size > 0 ? ' with the tools that stay' : '';
    return {
      ok: false,
      reason:
        wanted > places
          ? `${name} alone needs ${wanted} places${staying}, and there are ${places}.`
          : `${name} alone does not fit${staying}: its wide tools leave no room for the others in the pockets as they lie.`,
    };
  }
  const standing = new Set([...loaded, ...locked]);
  if (!fits(kept) || standing.size > places)
    return { ok: false, reason: `${standing.size} tools cannot stand in ${places} places.` };
  const nextUse = nextUses(jobs);
  const steps = jobs.map(({ name, tools }, i) => {
    const needed = new Set(tools);
    const coming = [...needed].filter((tool) => !standing.has(tool)).sort((a, b) => a - b);
    for (const tool of coming) standing.add(tool);
    const leaving = makeWay(standing, needed, kept, fits, wide, (tool) => nextUse(tool, i));
    return { job: name, out: leaving, in: coming };
  });
  return {
    ok: true,
    plan: {
      order: jobs.map((job) => job.name),
      steps,
      switches: steps.reduce((sum, step) => sum + step.in.length, 0),
    },
  };
}

/** Takes out what is needed last until the rest fits; what then has room after all, because a wide tool went, stays. */
function makeWay(
  standing: Set<number>,
  needed: ReadonlySet<number>,
  kept: ReadonlySet<number>,
  fits: (tools: Iterable<number>) => boolean,
  wide: ReadonlySet<number>,
  nextUse: (tool: number) => number,
): number[] {
  const leaving: number[] = [];
  const mayGo = [...standing]
    .filter((tool) => !needed.has(tool) && !kept.has(tool))
    .sort((a, b) => nextUse(b) - nextUse(a) || Number(wide.has(b)) - Number(wide.has(a)) || b - a);
  for (const tool of mayGo) {
    if (fits(standing)) break;
    standing.delete(tool);
    leaving.push(tool);
  }
  for (const tool of [...leaving].reverse())
    if (fits([...standing, tool])) {
      standing.add(tool);
      leaving.splice(leaving.indexOf(tool), 1);
    }
  return leaving.sort((a, b) => a - b);
}

/** Jobs that run from one loading of the magazine, and what is done by hand before the first of them. */
export interface Loading {
  jobs: string[];
  out: number[];
  in: number[];
}

/** The loadings of a plan: a job that nothing is brought in for shares the loading of the one before. */
export function loadings(steps: readonly SwitchStep[]): Loading[] {
  const all: Loading[] = [];
  for (const { job, out, in: coming } of steps) {
    const last = all.at(-1);
    if (last && coming.length === 0) last.jobs.push(job);
    else all.push({ jobs: [job], out, in: coming });
  }
  return all;
}

/** How many jobs ahead a tool is called again; infinite when it is not. */
function nextUses(jobs: readonly SwitchJob[]): (tool: number, after: number) => number {
  const uses = new Map<number, number[]>();
  jobs.forEach(({ tools }, i) => {
    for (const tool of new Set(tools)) uses.set(tool, [...(uses.get(tool) ?? []), i]);
  });
  return (tool, after) => uses.get(tool)?.find((i) => i > after) ?? Infinity;
}

/** No order can do with fewer: every tool that is called and does not stand there now must come in once. */
export const leastSwitches = (jobs: readonly SwitchJob[], loaded: readonly number[]): number =>
  [...new Set(jobs.flatMap((job) => job.tools))].filter((tool) => !loaded.includes(tool)).length;

/** Up to this many jobs every order is tried, whatever the tools take. */
export const EXACT_JOBS = 7;
/** Orders tried where tools take more than one place each, so that an answer comes within about a second. */
const MOST_TRIED = 2500;
/** Up to this many jobs of tools of one size a proof is looked for. */
const PROVEN_JOBS = 16;

export interface SwitchAnswer {
  plan: SwitchPlan;
  bound: number;
  /** It was shown that no order needs fewer. */
  proven: boolean;
}

/** Plans an order; whether it is better than the best before. */
type Tried = (order: readonly SwitchJob[]) => boolean;

/**
 * The order of jobs with the fewest switches. With tools of one size a local search begun again and again, beside a bound, and up
 * to about fifteen jobs held against every order that could be better. Where wide tools come and go every order for a few jobs, and
 * for many the best of a greedy order from each job and of moving one job at a time; there only the bound is a proof. `told` hears
 * how far it is, and the best so far.
 */
export function bestOrder(
  jobs: readonly SwitchJob[],
  room: SwitchRoom,
  told: (share: number, answer: SwitchAnswer) => void = () => {},
  exactUpTo = EXACT_JOBS,
): { ok: true; answer: SwitchAnswer } | { ok: false; reason: string } {
  const { loaded, locked, wide } = room;
  const fits = fitter(room);
  const given = keepNeededSoonest(jobs, room, fits);
  if (!given.ok) return given;
  const oneSize =
    !room.ground &&
    jobs.every((job) => job.tools.every((tool) => !wide.includes(tool) || locked.includes(tool))) &&
    loaded.every((tool) => !wide.includes(tool) || locked.includes(tool));
  if (oneSize) return { ok: true, answer: ofOneSize(jobs, room, given.plan, told) };
  const bound = leastSwitches(jobs, [...loaded, ...locked]);
  let best = given.plan;
  let count = 0;
  const tried: Tried = (order) => {
    count += 1;
    if (count % 100 === 0)
      told(Math.min(1, count / MOST_TRIED), { plan: best, bound, proven: best.switches === bound });
    const answer = keepNeededSoonest(order, room, fits);
    if (!answer.ok || answer.plan.switches >= best.switches) return false;
    best = answer.plan;
    return true;
  };
  const done = () => best.switches === bound;
  if (jobs.length <= exactUpTo) everyOrder(jobs, tried, done);
  else improved(jobs, tried, () => done() || count > MOST_TRIED);
  return { ok: true, answer: { plan: best, bound, proven: done() } };
}

function ofOneSize(
  jobs: readonly SwitchJob[],
  room: SwitchRoom,
  given: SwitchPlan,
  told: (share: number, answer: SwitchAnswer) => void,
): SwitchAnswer {
  const kept = new Set(room.locked);
  const free = (tools: readonly number[]) => [...new Set(tools)].filter((tool) => !kept.has(tool));
  const all = [...new Set([...room.loaded, ...jobs.flatMap((job) => job.tools)])];
  const number = new Map(all.map((tool, i) => [tool, i]));
  const numbers = (tools: readonly number[]) => free(tools).map((tool) => number.get(tool)!);
  // locked tools that do not stand come in once, whatever the order
  const problem: OrderProblem = {
    jobs: jobs.map((job) => numbers(job.tools)),
    tools: all.length,
    places: room.places - placesTaken(kept, new Set(room.wide)),
    loaded: numbers(room.loaded),
  };
  const planOf = (order: readonly number[]) => {
    const answer = keepNeededSoonest(
      order.map((i) => jobs[i]!),
      room,
    );
    return answer.ok ? answer.plan : given;
  };
  const bound = Math.max(leastSwitches(jobs, [...room.loaded, ...room.locked]), orderBound(problem));
  const starts = jobs.map((job) => greedyFrom(job, jobs).map((each) => jobs.indexOf(each)));
  const count = orderCount(problem);
  let best = jobs.map((_, i) => i);
  for (const start of starts) if (count.of(start) < count.of(best)) best = start;
  for (const news of improveOrder(problem, best, bound)) {
    best = news.order;
    const plan = planOf(best);
    told(news.share, { plan, bound, proven: plan.switches === bound });
  }
  let proven = false;
  if (count.of(best) > bound && jobs.length <= PROVEN_JOBS) {
    const better = betterOrder(problem, count.of(best));
    if (Array.isArray(better)) best = better;
    proven = better !== 'cannot tell';
  }
  const plan = planOf(best);
  return { plan, bound: proven ? plan.switches : bound, proven: proven || plan.switches === bound };
}

function everyOrder(jobs: readonly SwitchJob[], tried: Tried, done: () => boolean): void {
  for (const order of permutations(jobs)) {
    if (done()) return;
    tried(order);
  }
}

/** From each job a greedy order, and of that single jobs moved while it helps. */
function improved(jobs: readonly SwitchJob[], tried: Tried, done: () => boolean): void {
  for (const first of jobs) {
    let order = greedyFrom(first, jobs);
    tried(order);
    for (let better = true; better && !done();) {
      better = false;
      for (let from = 0; from < order.length && !better; from += 1)
        for (let to = 0; to < order.length && !better; to += 1) {
          const moved = [...order];
          moved.splice(to, 0, moved.splice(from, 1)[0]!);
          if (tried(moved)) [order, better] = [moved, true];
        }
    }
    if (done()) return;
  }
}

/** Next the job that shares the most tools with the one before. */
function greedyFrom(first: SwitchJob, jobs: readonly SwitchJob[]): SwitchJob[] {
  const order = [first];
  const left = jobs.filter((job) => job !== first);
  while (left.length > 0) {
    const last = new Set(order.at(-1)!.tools);
    const shared = (job: SwitchJob) => job.tools.filter((tool) => last.has(tool)).length;
    const next = left.reduce((best, job) => (shared(job) > shared(best) ? job : best));
    order.push(next);
    left.splice(left.indexOf(next), 1);
  }
  return order;
}

function* permutations<T>(items: readonly T[]): Generator<T[]> {
  if (items.length < 2) yield [...items];
  else
    for (let i = 0; i < items.length; i += 1)
      for (const rest of permutations([...items.slice(0, i), ...items.slice(i + 1)]))
        yield [items[i]!, ...rest];
}

/** A sister of a T: the next of the same kind, under a number of its own. */
export const SISTER = 10_000;

/** T of a tool, and which of its kind it is: 0 the first, 1 its first sister. */
export const sisterOf = (tool: number): { tool: number; sister: number } => ({
  tool: tool % SISTER,
  sister: Math.floor(tool / SISTER),
});

/** The T that a job needs, each with the sisters that it takes to last the job: what is used over what one lasts. */
export const withSisters = (
  tools: readonly { tool: number; used: number; lasts: number | null }[],
): number[] =>
  tools.flatMap(({ tool, used, lasts }) =>
    Array.from(
      { length: lasts === null || lasts <= 0 ? 1 : Math.max(1, Math.ceil(used / lasts)) },
      (_, i) => tool + i * SISTER,
    ),
  );
