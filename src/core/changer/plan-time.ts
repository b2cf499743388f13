import { traitsOf } from './traits.ts';
import type { ChangeTimes } from './change-time.ts';
import { type ChangerShape } from './layout.ts';
import type { Layout, PlanQuestion, PlanRun, PlanTool } from './plan-layout.ts';

/** What the way between the pockets of two tools costs over all runs, seconds, by how many pockets it indexes. */
export interface WayCost {
  from: number;
  to: number;
  bySteps: Float64Array;
}

/** Changes of a plan's runs, as far as they do not depend on the layout, and how the rest does. Tools by their places in the question. */
export interface PlanTimes {
  /** Seconds that every layout takes: the arm's part. */
  constant: number;
  /** A sum over pairs: exact for every changer, but for the runs below. */
  ways: readonly WayCost[];
  /** Runs of a swing arm in which tied tools come and go; these are followed change by change. */
  followed: readonly FollowedRun[];
  /** The least that the followed runs can take, seconds: their arm's part. */
  leastFollowed: number;
}

export interface FollowedRun {
  cycles: number;
  calls: readonly { tool: number; cutting: number }[];
  /** The least it can take, seconds: its arm's part. */
  least: number;
}

/** Cycles of a run that are gone through change by change; the map of a swing arm turns over meanwhile. */
export const FOLLOWED = 6;

/** Wide tools and those with a pocket of their own go back to it; all others go where the arm is. */
export const isTied = (tool: PlanTool) => tool.wide || tool.locked !== null;
export const isSlow = (tool: PlanTool) => tool.heavy || tool.wide;

export const armSeconds = (times: ChangeTimes, slow: boolean) => times.arm * (slow ? times.heavyFactor : 1);

/** Most pockets that can be indexed from one to another. */
const mostSteps = ({ kind, places }: ChangerShape): number => {
  const { order } = traitsOf({ kind });
  return order === 'grid' ? 0 : order === 'line' ? places - 1 : Math.floor(places / 2);
};

/**
 * The changes of all runs as a sum over pairs of tools. On a swing arm the tool put away takes the place of the tool fetched,
 * so the map turns over; but which tool's first pocket each change goes to is the same for every layout, and so the waiting is a
 * sum over pairs of first pockets there too. Only where tied tools go home, and others are put into the nearest empty pocket
 * for them, is the row of pockets a matter of the layout; those runs are followed.
 */
export function planTimes({ shape, times, tools, runs }: Omit<PlanQuestion, 'weights'>): PlanTimes {
  const index = new Map(tools.map((tool, i) => [tool.tool, i]));
  const ways = new Map<number, WayCost>();
  const followed: FollowedRun[] = [];
  let [constant, leastFollowed] = [0, 0];
  const addWay = (from: number, to: number, often: number, hidden: number) => {
    if (from === to || times.perPocket === 0) return;
    const [low, high] = from < to ? [from, to] : [to, from];
    const key = low * tools.length + high;
    const way = ways.get(key) ?? { from: low, to: high, bySteps: new Float64Array(mostSteps(shape) + 1) };
    ways.set(key, way);
    for (let steps = 1; steps < way.bySteps.length; steps += 1)
      way.bySteps[steps]! += often * Math.max(0, steps * times.perPocket - hidden);
  };
  for (const run of runs) {
    const calls = runCalls(run, index);
    if (calls.length === 0 || run.cycles === 0) continue;
    if (traitsOf(shape).exchanges && calls.some(({ tool }) => isTied(tools[tool]!))) {
      const least = leastOf(tools, times, { cycles: run.cycles, calls });
      followed.push({ cycles: run.cycles, calls, least });
      leastFollowed += least;
    } else if (traitsOf(shape).exchanges)
      constant += turnedOver(tools, times, { cycles: run.cycles, calls }, addWay);
    else constant += fixedChanges(tools, times, run, index, addWay);
  }
  return { constant, ways: [...ways.values()], followed, leastFollowed };
}

type AddWay = (from: number, to: number, often: number, hidden: number) => void;

/** Changes where each tool stays in its pocket: the arm's seconds; a change that a tool outside the plan has part in is no matter of the layout. */
function fixedChanges(
  tools: readonly PlanTool[],
  times: ChangeTimes,
  { cycles, calls }: PlanRun,
  index: ReadonlyMap<number, number>,
  addWay: AddWay,
): number {
  let seconds = 0;
  calls.forEach(({ tool }, i) => {
    const before = calls[(i + calls.length - 1) % calls.length]!.tool;
    const [from, to] = [index.get(before), index.get(tool)];
    if (from === undefined || to === undefined || from === to) return;
    seconds += cycles * armSeconds(times, isSlow(tools[from]!) || isSlow(tools[to]!));
    addWay(from, to, cycles, 0);
  });
  return seconds;
}

/** Changes of a swing arm without tied tools, on the pockets where the tools stand at first: the arm's seconds. */
function turnedOver(
  tools: readonly PlanTool[],
  times: ChangeTimes,
  { cycles, calls }: Omit<FollowedRun, 'least'>,
  addWay: AddWay,
): number {
  const rounds = Math.min(cycles, FOLLOWED);
  const often = cycles / rounds;
  /** Whose first pocket each tool stands in. */
  const standsWhere = tools.map((_, i) => i);
  let spindle = calls.at(-1)!.tool;
  let at = spindle;
  let [seconds, cutting] = [0, calls.at(-1)!.cutting];
  for (let round = 0; round < rounds; round += 1)
    for (const call of calls) {
      if (call.tool === spindle) {
        cutting += call.cutting;
        continue;
      }
      const fetched = standsWhere[call.tool]!;
      addWay(at, fetched, often, times.preStaging ? cutting : 0);
      seconds += often * armSeconds(times, isSlow(tools[spindle]!) || isSlow(tools[call.tool]!));
      standsWhere[spindle] = fetched;
      at = fetched;
      spindle = call.tool;
      cutting = call.cutting;
    }
  return seconds;
}

/** A run by the tools' places in the question; a tool called again while it is in the spindle just cuts on. */
function runCalls({ calls }: PlanRun, index: ReadonlyMap<number, number>): FollowedRun['calls'] {
  const kept: { tool: number; cutting: number }[] = [];
  for (const { tool, cutting } of calls) {
    const i = index.get(tool);
    const last = kept.at(-1);
    if (i !== undefined && i !== last?.tool) kept.push({ tool: i, cutting });
    else if (last) last.cutting += cutting;
  }
  return kept;
}

/** The arm's part of a followed run: two motions where a tied tool is put away or fetched by itself. */
function leastOf(
  tools: readonly PlanTool[],
  times: ChangeTimes,
  { cycles, calls }: Omit<FollowedRun, 'least'>,
): number {
  let seconds = 0;
  calls.forEach(({ tool }, i) => {
    const [from, to] = [tools[calls[(i + calls.length - 1) % calls.length]!.tool]!, tools[tool]!];
    if (from === to) return;
    const [away, fetched] = [armSeconds(times, isSlow(from)), armSeconds(times, isSlow(to))];
    seconds += isTied(from) || isTied(to) ? away + fetched : Math.max(away, fetched);
  });
  return seconds * cycles;
}

/** Seconds of all changes of a layout: the constant part, the ways between pairs, and the followed runs. */
export function secondsOfPlan(
  { constant, ways, followed }: PlanTimes,
  follow: (layout: ArrayLike<number>) => number,
  steps: (from: number, to: number) => number,
  layout: Layout,
): number {
  let seconds = constant;
  for (const { from, to, bySteps } of ways) seconds += bySteps[steps(layout[from]!, layout[to]!)]!;
  return followed.length > 0 ? seconds + follow(layout) : seconds;
}
