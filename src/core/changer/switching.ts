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

/**
 * For a given order, the fewest tools to bring in by hand: before each job what it lacks comes in, and when room is needed
 * the tools that are needed again soonest stay (C. S. Tang, E. V. Denardo 1988, from memory). `places` are pockets that
 * may be used; `loaded` stands in them now; `locked` tools never leave, and take their places.
 */
export function keepNeededSoonest(
  jobs: readonly SwitchJob[],
  places: number,
  loaded: readonly number[],
  locked: readonly number[] = [],
): { ok: true; plan: SwitchPlan } | { ok: false; reason: string } {
  const kept = new Set(locked);
  for (const { name, tools } of jobs) {
    const wanted = new Set([...tools, ...kept]).size;
    if (wanted > places)
      return {
        ok: false,
        reason: `${name} alone needs ${wanted} places${kept.size > 0 ? ' with the tools that stay' : ''}, and there are ${places}.`,
      };
  }
  const standing = new Set([...loaded, ...locked]);
  if (standing.size > places)
    return { ok: false, reason: `${standing.size} tools cannot stand in ${places} places.` };
  const nextUse = nextUses(jobs);
  const steps = jobs.map(({ name, tools }, i) => {
    const needed = new Set(tools);
    const coming = [...needed].filter((tool) => !standing.has(tool)).sort((a, b) => a - b);
    const leaving: number[] = [];
    const over = standing.size + coming.length - places;
    if (over > 0)
      leaving.push(
        ...[...standing]
          .filter((tool) => !needed.has(tool) && !kept.has(tool))
          .sort((a, b) => nextUse(b, i) - nextUse(a, i) || b - a)
          .slice(0, over),
      );
    for (const tool of leaving) standing.delete(tool);
    for (const tool of coming) standing.add(tool);
    return { job: name, out: leaving.sort((a, b) => a - b), in: coming };
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

/**
 * The order of jobs with the fewest switches: every order for a few jobs; for many the best of a greedy order from each job
 * and of moving one job at a time while that helps, as many as fit into about a second, beside the bound that no order can
 * pass. `told` hears how far it is, and the best so far.
 */
export function bestOrder(
  jobs: readonly SwitchJob[],
  places: number,
  loaded: readonly number[],
  locked: readonly number[] = [],
  told: (share: number, answer: SwitchAnswer) => void = () => {},
): { ok: true; answer: SwitchAnswer } | { ok: false; reason: string } {
  const given = keepNeededSoonest(jobs, places, loaded, locked);
  if (!given.ok) return given;
  const bound = leastSwitches(jobs, [...loaded, ...locked]);
  let best = given.plan;
  let count = 0;
  const tried = (order: readonly SwitchJob[]) => {
    count += 1;
    if (count % 100 === 0)
      told(Math.min(1, count / MOST_TRIED), { plan: best, bound, proven: best.switches === bound });
    const answer = keepNeededSoonest(order, places, loaded, locked);
    if (!answer.ok || answer.plan.switches >= best.switches) return false;
    best = answer.plan;
    return true;
  };
  const exact = jobs.length <= EXACT_JOBS;
  if (exact) {
    for (const order of permutations(jobs)) {
      if (best.switches === bound) break;
      tried(order);
    }
  } else {
    for (const first of jobs) {
      if (best.switches === bound || count > MOST_TRIED) break;
      let order = greedyFrom(first, jobs);
      tried(order);
      for (let improved = true; improved && count <= MOST_TRIED;) {
        improved = false;
        for (let from = 0; from < order.length && !improved; from += 1)
          for (let to = 0; to < order.length && !improved; to += 1) {
            const moved = [...order];
            moved.splice(to, 0, moved.splice(from, 1)[0]!);
            if (tried(moved)) [order, improved] = [moved, true];
          }
      }
    }
  }
  return { ok: true, answer: { plan: best, bound, proven: exact || best.switches === bound } };
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
