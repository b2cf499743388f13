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
  { places, loaded, locked, wide: broad }: SwitchRoom,
): { ok: true; plan: SwitchPlan } | { ok: false; reason: string } {
  const wide = new Set(broad);
  const kept = new Set(locked);
  for (const { name, tools } of jobs) {
    const wanted = placesTaken(new Set([...tools, ...kept]), wide);
    if (wanted > places)
      return {
        ok: false,
        reason: `${name} alone needs ${wanted} places${kept.size > 0 ? ' with the tools that stay' : ''}, and there are ${places}.`,
      };
  }
  const standing = new Set([...loaded, ...locked]);
  if (placesTaken(kept, wide) > places || standing.size > places)
    return { ok: false, reason: `${standing.size} tools cannot stand in ${places} places.` };
  const nextUse = nextUses(jobs);
  const steps = jobs.map(({ name, tools }, i) => {
    const needed = new Set(tools);
    const coming = [...needed].filter((tool) => !standing.has(tool)).sort((a, b) => a - b);
    for (const tool of coming) standing.add(tool);
    const leaving = makeWay(standing, needed, kept, places, wide, (tool) => nextUse(tool, i));
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
  places: number,
  wide: ReadonlySet<number>,
  nextUse: (tool: number) => number,
): number[] {
  const leaving: number[] = [];
  const mayGo = [...standing]
    .filter((tool) => !needed.has(tool) && !kept.has(tool))
    .sort((a, b) => nextUse(b) - nextUse(a) || Number(wide.has(b)) - Number(wide.has(a)) || b - a);
  for (const tool of mayGo) {
    if (placesTaken(standing, wide) <= places) break;
    standing.delete(tool);
    leaving.push(tool);
  }
  for (const tool of [...leaving].reverse())
    if (placesTaken([...standing, tool], wide) <= places) {
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

/** Up to this many jobs every order is tried. */
export const EXACT_JOBS = 7;
/** Orders looked at for many jobs, so that an answer comes within about a second. */
const MOST_TRIED = 2500;

export interface SwitchAnswer {
  plan: SwitchPlan;
  bound: number;
  /** Every order was tried, or the bound was met: there is no better. */
  proven: boolean;
}

/** Plans an order; whether it is better than the best before. */
type Tried = (order: readonly SwitchJob[]) => boolean;

/**
 * The order of jobs with the fewest switches: every order for a few jobs; for many the best of a greedy order from each job
 * and of moving one job at a time while that helps, as many as fit into about a second, beside the bound that no order can
 * pass. `told` hears how far it is, and the best so far. Wide tools that come and go leave only the bound as a proof.
 */
export function bestOrder(
  jobs: readonly SwitchJob[],
  room: SwitchRoom,
  told: (share: number, answer: SwitchAnswer) => void = () => {},
  exactUpTo = EXACT_JOBS,
): { ok: true; answer: SwitchAnswer } | { ok: false; reason: string } {
  const { loaded, locked, wide } = room;
  const given = keepNeededSoonest(jobs, room);
  if (!given.ok) return given;
  const bound = leastSwitches(jobs, [...loaded, ...locked]);
  let best = given.plan;
  let count = 0;
  const tried: Tried = (order) => {
    count += 1;
    if (count % 100 === 0)
      told(Math.min(1, count / MOST_TRIED), { plan: best, bound, proven: best.switches === bound });
    const answer = keepNeededSoonest(order, room);
    if (!answer.ok || answer.plan.switches >= best.switches) return false;
    best = answer.plan;
    return true;
  };
  const done = () => best.switches === bound;
  const exact = jobs.length <= exactUpTo;
  if (exact) everyOrder(jobs, tried, done);
  else improved(jobs, tried, () => done() || count > MOST_TRIED);
  const oneSize = jobs.every((job) =>
    job.tools.every((tool) => !wide.includes(tool) || locked.includes(tool)),
  );
  return { ok: true, answer: { plan: best, bound, proven: (exact && oneSize) || done() } };
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
