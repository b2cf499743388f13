import type { ChangeTimes } from './change-time.ts';
import { withinReach } from './clearance.ts';
import { changerLayout, isRandom, livesByNumber, turnsAsRing, type ChangerShape } from './layout.ts';
import { indexSteps, neighbours } from './neighbours.ts';

/** A tool that the chosen jobs call, or that stands in the machine now. */
export interface PlanTool {
  /** T now; on a changer where T n lives in pocket n the plan may give it another. */
  tool: number;
  /** The pocket where it stands, 0 in the spindle without a pocket of its own; null: it is not in the machine. */
  now: number | null;
  /** Half its largest width, millimetres. */
  radius: number;
  /** Grams; null when nobody knows. */
  mass: number | null;
  /** Both neighbours must stay empty. */
  wide: boolean;
  heavy: boolean;
  /** The only pocket it may have: kept for it, tied to it, or locked by somebody; null: any. */
  locked: number | null;
  /** Pockets whose cell is too small for it. */
  barred: readonly number[];
  /** A chosen job calls it; any other may be taken out. */
  called: boolean;
}

/** A job's changes, in the order of its program. */
export interface PlanRun {
  name: string;
  /** How many times the program will run. */
  cycles: number;
  /** T called, and the seconds it cuts until the next call. */
  calls: readonly { tool: number; cutting: number }[];
}

/** How much each wish counts; nothing: not at all. */
export interface PlanWeights {
  hands: number;
  time: number;
  balance: number;
  gaps: number;
}

export interface PlanQuestion {
  shape: ChangerShape;
  times: ChangeTimes;
  /** Pockets that may hold a tool: in service, not kept for another, not beside a declared wide one. */
  usable: readonly number[];
  tools: readonly PlanTool[];
  runs: readonly PlanRun[];
  weights: PlanWeights;
}

/** The pocket of each tool, in the order of the question's tools; 0: it is taken out. */
export type Layout = readonly number[];

/** What a layout costs, each wish in its own measure. */
export interface PlanMeasure {
  /** Tools brought in, taken out, or carried to another pocket by hand (which is both). */
  hands: number;
  /** Tools that get another pocket by calls of the machine. */
  calls: number;
  /** Tools that programs must call by another T, where T n lives in pocket n. */
  edits: number;
  /** Changes of all runs together, seconds. */
  seconds: number;
  /** Out of balance, kilogram millimetres: the greatest of sixteen directions, within 2 % of the true sum. */
  unbalance: number;
  /** Pockets that must stay empty beside wide tools. */
  gaps: number;
  /** All of it in minutes, by the weights. */
  cost: number;
}

/** What a hand move, a call, a T changed in the programs, a kilogram millimetre and a pocket kept empty count for, minutes. */
export const MINUTES = { hand: 2, call: 1, edit: 5, unbalance: 0.01, gap: 1 } as const;
export const DIRECTIONS = 16;

/** What of a question does not change from layout to layout. */
export interface Prepared {
  question: PlanQuestion;
  beside: ReadonlyMap<number, readonly number[]>;
  reach: ReturnType<typeof withinReach>;
  usable: ReadonlySet<number>;
  /** Per tool and pocket, its pull in each direction: kilogram millimetres. */
  pull: (tool: number, pocket: number, direction: number) => number;
  /** Changes from one tool to the next over all runs, by the tools' places in the question. */
  pairs: readonly { from: number; to: number; times: number }[];
  /** Seconds of all changes that no layout can spare. */
  leastSeconds: number;
  runs: readonly PreparedRun[];
  /** By tool: changed slowly, and put back into its own pocket; by pocket: it may hold a tool. */
  slow: readonly boolean[];
  tied: readonly boolean[];
  mayHold: Uint8Array;
  /** Pockets to index from one to another, row by row. */
  steps: Uint16Array;
}

/** A run by the tools' places in the question; a tool called again while it is in the spindle just cuts on. */
interface PreparedRun {
  cycles: number;
  calls: readonly { tool: number; cutting: number }[];
}

export function prepare(question: PlanQuestion): Prepared {
  const { shape, tools, runs } = question;
  const spots = new Map(changerLayout(shape).map((spot) => [spot.number, spot]));
  const index = new Map(tools.map((tool, i) => [tool.tool, i]));
  const counts = new Map<string, { from: number; to: number; times: number }>();
  let least = 0;
  for (const run of runs)
    run.calls.forEach(({ tool }, i) => {
      const before = run.calls[(i + run.calls.length - 1) % run.calls.length]!.tool;
      const [from, to] = [index.get(before), index.get(tool)];
      if (from === undefined || to === undefined || from === to) return;
      const key = `${from} ${to}`;
      const pair = counts.get(key) ?? { from, to, times: 0 };
      counts.set(key, { ...pair, times: pair.times + run.cycles });
      least += run.cycles * leastChange(question, tools[from]!, tools[to]!);
    });
  // how far each pocket stands out in each direction, millimetres
  const arms = Array.from({ length: DIRECTIONS }, (_, direction) => {
    const angle = (2 * Math.PI * direction) / DIRECTIONS;
    const arm = new Float64Array(shape.places + 1);
    if (turnsAsRing(shape))
      for (const [pocket, { x, y }] of spots) arm[pocket] = x * Math.cos(angle) + y * Math.sin(angle);
    return arm;
  });
  const masses = tools.map((tool) => (tool.mass ?? 0) / 1000);
  return {
    question,
    beside: neighbours(shape),
    reach: withinReach(shape, Math.max(0, ...tools.map((tool) => tool.radius)), 0),
    usable: new Set(question.usable),
    pull: (tool, pocket, direction) => masses[tool]! * arms[direction]![pocket]!,
    pairs: [...counts.values()],
    leastSeconds: least,
    runs: runs.map((run) => preparedRun(run, index)).filter((run) => run.calls.length > 0),
    slow: tools.map((tool) => tool.heavy || tool.wide),
    tied: tools.map(isTied),
    mayHold: Uint8Array.from({ length: shape.places + 1 }, (_, pocket) =>
      Number(question.usable.includes(pocket)),
    ),
    steps: Uint16Array.from({ length: (shape.places + 1) ** 2 }, (_, i) =>
      indexSteps(shape, Math.floor(i / (shape.places + 1)), i % (shape.places + 1)),
    ),
  };
}

/** The arm's part of a change, twice where a tool that is tied must be put away or fetched by itself. */
function leastChange({ shape, times }: PlanQuestion, from: PlanTool, to: PlanTool): number {
  const arm = (tool: PlanTool) => times.arm * (tool.heavy || tool.wide ? times.heavyFactor : 1);
  if (isRandom(shape) && isTied(from) !== isTied(to)) return arm(from) + arm(to);
  if (isRandom(shape) && isTied(from)) return arm(from) + arm(to);
  return Math.max(arm(from), arm(to));
}

/** Wide tools and those with a pocket of their own go back to it; all others go where the arm is. */
const isTied = (tool: PlanTool) => tool.wide || tool.locked !== null;

/** Why a layout cannot be, in a few words; null when it can. */
export const layoutFault = (prepared: Prepared, layout: Layout): string | null =>
  layoutFaults(prepared, layout)[0] ?? null;

/** Everything that is wrong with a layout. */
export function layoutFaults({ question, beside, reach, usable }: Prepared, layout: Layout): string[] {
  const standing = new Map<number, number>();
  const said: string[] = [];
  for (const [i, pocket] of layout.entries()) {
    const tool = question.tools[i]!;
    if (tool.locked !== null && pocket !== tool.locked && (pocket !== 0 || tool.called))
      said.push(`T${tool.tool} belongs into pocket ${tool.locked}`);
    if (pocket === 0) {
      if (tool.called) said.push(`T${tool.tool} is called and has no pocket`);
      continue;
    }
    if (tool.locked === null && !usable.has(pocket)) said.push(`pocket ${pocket} is not to be used`);
    if (tool.barred.includes(pocket))
      said.push(`T${tool.tool} does not go into the cell of pocket ${pocket}`);
    if (!isRandom(question.shape) && !tool.called && pocket !== tool.now)
      said.push(`T${tool.tool} is called by no job: it stays or goes out`);
    if (standing.has(pocket)) said.push(`two tools in pocket ${pocket}`);
    standing.set(pocket, i);
  }
  for (const [pocket, i] of standing) {
    const tool = question.tools[i]!;
    if (tool.wide && beside.get(pocket)!.some((other) => standing.has(other)))
      said.push(`T${tool.tool} is wide and has a neighbour`);
    for (const { number, apart } of reach.get(pocket) ?? []) {
      const other = standing.get(number);
      if (other !== undefined && apart < tool.radius + question.tools[other]!.radius)
        said.push(`T${tool.tool} would strike T${question.tools[other]!.tool}`);
    }
  }
  return said;
}

/** What a layout costs; it must be one that can be. */
export function measureLayout(prepared: Prepared, layout: Layout): PlanMeasure {
  const { question, beside } = prepared;
  let [hands, calls, edits] = [0, 0, 0];
  const kept = new Set<number>();
  layout.forEach((pocket, i) => {
    const tool = question.tools[i]!;
    if (livesByNumber(question.shape) && tool.called && pocket !== tool.tool) edits += 1;
    if (pocket === 0 || tool.now === null) hands += pocket === 0 && tool.now === null ? 0 : 1;
    else if (tool.now !== pocket && tool.now !== 0) {
      if (isRandom(question.shape)) calls += 1;
      else hands += 2;
    }
    if (tool.wide && pocket > 0) for (const other of beside.get(pocket)!) kept.add(other);
  });
  const seconds = secondsOf(prepared, layout);
  const unbalance = unbalanceOf(prepared, layout);
  const { weights } = question;
  const cost =
    weights.hands * (hands * MINUTES.hand + calls * MINUTES.call + edits * MINUTES.edit) +
    weights.time * (seconds / 60) +
    weights.balance * unbalance * MINUTES.unbalance +
    weights.gaps * kept.size * MINUTES.gap;
  return { hands, calls, edits, seconds, unbalance, gaps: kept.size, cost };
}

function unbalanceOf({ pull }: Prepared, layout: Layout): number {
  let most = 0;
  for (let direction = 0; direction < DIRECTIONS; direction += 1) {
    let sum = 0;
    for (let i = 0; i < layout.length; i += 1) if (layout[i]! > 0) sum += pull(i, layout[i]!, direction);
    most = Math.max(most, sum);
  }
  return most;
}

function secondsOf(prepared: Prepared, layout: Layout): number {
  const { question, pairs, leastSeconds, runs } = prepared;
  const { shape, times } = question;
  if (isRandom(shape)) return runs.reduce((sum, run) => sum + runSeconds(prepared, layout, run), 0);
  return pairs.reduce(
    (sum, { from, to, times: often }) =>
      sum + often * indexSteps(shape, layout[from]!, layout[to]!) * times.perPocket,
    leastSeconds,
  );
}

function preparedRun({ cycles, calls }: PlanRun, index: ReadonlyMap<number, number>): PreparedRun {
  const kept: { tool: number; cutting: number }[] = [];
  for (const { tool, cutting } of calls) {
    const i = index.get(tool);
    const last = kept.at(-1);
    if (i !== undefined && i !== last?.tool) kept.push({ tool: i, cutting });
    else if (last) last.cutting += cutting;
  }
  return { cycles, calls: kept };
}

/** Cycles of a run that are gone through change by change; the map of a swing arm turns over meanwhile. */
const FOLLOWED = 6;

/**
 * Changes of one run on a swing arm, followed as they happen: the tool put away takes the place of the tool fetched, so the
 * map changes with every change, and only tied tools go home. A tied tool is put away, or fetched, by a motion of its own.
 */
function runSeconds(prepared: Prepared, layout: Layout, { cycles, calls }: PreparedRun): number {
  const { slow, tied, steps, question } = prepared;
  const { times, shape } = question;
  const followed = Math.min(cycles, FOLLOWED);
  if (followed === 0) return 0;
  const row = shape.places + 1;
  const at = Uint16Array.from(layout);
  const taken = new Uint8Array(row);
  for (const pocket of layout) taken[pocket] = 1;
  const slowArm = times.arm * times.heavyFactor;
  let spindle = calls.at(-1)!.tool;
  let place = at[spindle]!;
  taken[place] = 0;
  let [cutting, seconds] = [calls.at(-1)!.cutting, 0];
  const change = (from: number, to: number, heavy: boolean, hidden: number) => {
    const index = steps[from * row + to]! * times.perPocket;
    seconds += (times.preStaging ? Math.max(0, index - hidden) : index) + (heavy ? slowArm : times.arm);
  };
  for (let cycle = 0; cycle < followed; cycle += 1)
    for (const call of calls) {
      const next = call.tool;
      if (next === spindle) {
        cutting += call.cutting;
        continue;
      }
      const fetched = at[next]!;
      if (tied[spindle] || tied[next]) {
        const away = tied[spindle] ? layout[spindle]! : nearestEmpty(prepared, taken, fetched);
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
  return (seconds * cycles) / followed;
}

/** The empty pocket nearest to one on a ring or chain; the lower side of two as near. */
function nearestEmpty({ mayHold, question }: Prepared, taken: Uint8Array, near: number): number {
  const { places } = question.shape;
  for (let apart = 0; apart <= places / 2; apart += 1) {
    const low = ((near - 1 - apart + places) % places) + 1;
    const high = ((near - 1 + apart) % places) + 1;
    const [first, second] = low < high ? [low, high] : [high, low];
    if (mayHold[first] && !taken[first]) return first;
    if (mayHold[second] && !taken[second]) return second;
  }
  return near;
}
