import { traitsOf } from './traits.ts';
import type { ChangeTimes } from './change-time.ts';
import { type ChangerShape } from './layout.ts';
import { indexSteps, neighbours } from './neighbours.ts';
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

interface FollowedRun {
  cycles: number;
  calls: readonly { tool: number; cutting: number }[];
}

/** Cycles of a run that are gone through change by change; the map of a swing arm turns over meanwhile. */
const FOLLOWED = 6;

/** Wide tools and those with a pocket of their own go back to it; all others go where the arm is. */
const isTied = (tool: PlanTool) => tool.wide || tool.locked !== null;
const isSlow = (tool: PlanTool) => tool.heavy || tool.wide;

const armSeconds = (times: ChangeTimes, slow: boolean) => times.arm * (slow ? times.heavyFactor : 1);

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
      followed.push({ cycles: run.cycles, calls });
      leastFollowed += leastOf(tools, times, { cycles: run.cycles, calls });
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
  { cycles, calls }: FollowedRun,
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
function leastOf(tools: readonly PlanTool[], times: ChangeTimes, { cycles, calls }: FollowedRun): number {
  let seconds = 0;
  calls.forEach(({ tool }, i) => {
    const [from, to] = [tools[calls[(i + calls.length - 1) % calls.length]!.tool]!, tools[tool]!];
    if (from === to) return;
    const [away, fetched] = [armSeconds(times, isSlow(from)), armSeconds(times, isSlow(to))];
    seconds += isTied(from) || isTied(to) ? away + fetched : Math.max(away, fetched);
  });
  return seconds * cycles;
}

/** A follower of runs for one question; it keeps its tables between layouts. */
export function followRuns(
  { shape, times, tools, usable }: Omit<PlanQuestion, 'weights' | 'runs'>,
  runs: readonly FollowedRun[],
): (layout: ArrayLike<number>) => number {
  const row = shape.places + 1;
  const slow = tools.map(isSlow);
  const tied = tools.map(isTied);
  const wide = tools.flatMap((tool, i) => (tool.wide ? [i] : []));
  const beside = neighbours(shape);
  const steps = Uint16Array.from({ length: row * row }, (_, i) =>
    indexSteps(shape, Math.floor(i / row), i % row),
  );
  const nearest = Array.from({ length: row }, (_, near) =>
    Uint16Array.from([...usable].sort((a, b) => steps[near * row + a]! - steps[near * row + b]! || a - b)),
  );
  const at = new Uint16Array(tools.length);
  const taken = new Uint8Array(row);
  const kept = new Uint8Array(row);
  const arms = [armSeconds(times, false), armSeconds(times, true)] as const;

  /** The empty pocket nearest to one where the arm may hang a tool: none beside a wide tool's. */
  function emptyNear(near: number): number {
    const list = nearest[near]!;
    for (let nth = 0; nth < list.length; nth += 1)
      if (taken[list[nth]!] === 0 && kept[list[nth]!] === 0) return list[nth]!;
    return near;
  }

  /** Seconds of one run, change by change: only tied tools go home, by a motion of their own. */
  function secondsOf(layout: ArrayLike<number>, { cycles, calls }: FollowedRun): number {
    const rounds = Math.min(cycles, FOLLOWED);
    taken.fill(0);
    for (let i = 0; i < layout.length; i += 1) {
      at[i] = layout[i]!;
      taken[layout[i]!] = 1;
    }
    let spindle = calls.at(-1)!.tool;
    let place = at[spindle]!;
    taken[place] = 0;
    let [cutting, seconds] = [calls.at(-1)!.cutting, 0];
    const change = (from: number, to: number, heavy: boolean, hidden: number) => {
      const index = steps[from * row + to]! * times.perPocket;
      seconds += (times.preStaging ? Math.max(0, index - hidden) : index) + arms[heavy ? 1 : 0];
    };
    for (let round = 0; round < rounds; round += 1)
      for (const call of calls) {
        const next = call.tool;
        if (next === spindle) {
          cutting += call.cutting;
          continue;
        }
        const fetched = at[next]!;
        if (tied[spindle] || tied[next]) {
          const away = tied[spindle] ? layout[spindle]! : emptyNear(fetched);
          change(place, away, slow[spindle]!, cutting);
          change(away, fetched, slow[next]!, 0);
          at[spindle] = away;
          taken[away] = 1;
          taken[fetched] = 0;
        } else {
          change(place, fetched, slow[spindle]! || slow[next]!, cutting);
          at[spindle] = fetched;
        }
        place = fetched;
        spindle = next;
        cutting = call.cutting;
      }
    return (seconds * cycles) / rounds;
  }

  return (layout) => {
    kept.fill(0);
    for (const i of wide) if (layout[i]! > 0) for (const pocket of beside.get(layout[i]!)!) kept[pocket] = 1;
    let sum = 0;
    for (const run of runs) sum += secondsOf(layout, run);
    return sum;
  };
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
