import { traitsOf } from './traits.ts';
import type { ChangeTimes } from './change-time.ts';
import { strikes, withinReach } from './clearance.ts';
import { changerLayout, type ChangerShape } from './layout.ts';
import { indexSteps, neighbours } from './neighbours.ts';
import { followRuns, type RunFollower } from './plan-followed.ts';
import { planTimes, secondsOfPlan, type PlanTimes } from './plan-time.ts';

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
  /** It must be taken out: it is broken, and another takes its T. */
  leaves?: boolean;
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
  /** How far each pocket stands out of the ring's middle along each direction, millimetres; nothing where nothing turns. */
  arms: readonly Float64Array[];
  /** Kilograms by tool. */
  masses: readonly number[];
  times: PlanTimes;
  follow: RunFollower;
  /** Pockets to index from one to another. */
  steps: (from: number, to: number) => number;
}

export function prepare(question: PlanQuestion): Prepared {
  const { shape, tools } = question;
  const spots = changerLayout(shape);
  const arms = Array.from({ length: DIRECTIONS }, (_, direction) => {
    const angle = (2 * Math.PI * direction) / DIRECTIONS;
    const arm = new Float64Array(shape.places + 1);
    if (traitsOf(shape).balances)
      for (const { number, x, y } of spots) arm[number] = x * Math.cos(angle) + y * Math.sin(angle);
    return arm;
  });
  const times = planTimes(question);
  return {
    question,
    beside: neighbours(shape),
    reach: withinReach(shape, Math.max(0, ...tools.map((tool) => tool.radius)), 0),
    usable: new Set(question.usable),
    arms,
    masses: tools.map((tool) => (tool.mass ?? 0) / 1000),
    times,
    follow: followRuns(question, times.followed),
    steps: (from, to) => indexSteps(shape, from, to),
  };
}

/**
 * The pockets that a tool may have, 0 for taken out: one with a pocket of its own (kept for it, tied to it, or told to stay)
 * has that and no other, whether a job calls it or not; what no job calls may go out, and is carried about only by calls.
 */
export function choicesFor({ shape, usable }: PlanQuestion, tool: PlanTool): number[] {
  if (tool.leaves) return [0];
  if (tool.locked !== null) return [tool.locked];
  const out = tool.called ? [] : [0];
  const mayHave = usable.filter((pocket) => !tool.barred.includes(pocket));
  if (tool.called || traitsOf(shape).exchanges) return [...out, ...mayHave];
  return [...out, ...mayHave.filter((pocket) => pocket === tool.now)];
}

/** Why a layout cannot be, in a few words; null when it can. */
export const layoutFault = (prepared: Prepared, layout: Layout): string | null =>
  layoutFaults(prepared, layout)[0] ?? null;

/** Everything that is wrong with a layout. */
export function layoutFaults({ question, beside, reach, usable }: Prepared, layout: Layout): string[] {
  const standing = new Map<number, number>();
  const said: string[] = [];
  for (const [i, pocket] of layout.entries()) {
    const tool = question.tools[i]!;
    if (tool.leaves && pocket !== 0) said.push(`T${tool.tool} is broken and must be taken out`);
    if (tool.locked !== null && pocket !== tool.locked)
      said.push(`T${tool.tool} belongs in pocket ${tool.locked}`);
    if (pocket === 0) {
      if (tool.called && tool.locked === null) said.push(`T${tool.tool} is called and has no pocket`);
      continue;
    }
    if (tool.locked === null && !usable.has(pocket)) said.push(`pocket ${pocket} must not be used`);
    if (tool.barred.includes(pocket)) said.push(`T${tool.tool} does not fit the cell of pocket ${pocket}`);
    if (!traitsOf(question.shape).exchanges && !tool.called && tool.locked === null && pocket !== tool.now)
      said.push(`T${tool.tool} is called by no job: it must stay or go out`);
    if (standing.has(pocket)) said.push(`two tools in pocket ${pocket}`);
    standing.set(pocket, i);
  }
  for (const [pocket, i] of standing) {
    const tool = question.tools[i]!;
    if (tool.wide && beside.get(pocket)!.some((other) => standing.has(other)))
      said.push(`T${tool.tool} is wide and has a neighbour`);
    for (const { number, apart } of reach.get(pocket) ?? []) {
      const other = standing.get(number);
      if (other !== undefined && strikes(apart, tool.radius, question.tools[other]!.radius))
        said.push(`T${tool.tool} would strike T${question.tools[other]!.tool}`);
    }
  }
  return said;
}

/** What it takes to give a tool a pocket (0: to take it out), each in its own measure. */
export function movesFor({ shape }: PlanQuestion, tool: PlanTool, pocket: number) {
  const edits = Number(traitsOf(shape).ownPlaces && tool.called && pocket !== tool.tool);
  if (pocket === 0) return { hands: Number(tool.now !== null), calls: 0, edits };
  if (tool.now === null) return { hands: 1, calls: 0, edits };
  const carried = tool.now !== 0 && tool.now !== pocket;
  if (traitsOf(shape).exchanges) return { hands: 0, calls: Number(carried), edits };
  return { hands: carried ? 2 : 0, calls: 0, edits };
}

/** What the moves of one tool count for, minutes. */
export function moveMinutes(question: PlanQuestion, tool: PlanTool, pocket: number): number {
  const { hands, calls, edits } = movesFor(question, tool, pocket);
  return question.weights.hands * (hands * MINUTES.hand + calls * MINUTES.call + edits * MINUTES.edit);
}

/** What a layout costs; it must be one that can be. */
export function measureLayout(prepared: Prepared, layout: Layout): PlanMeasure {
  const { question, beside } = prepared;
  let [hands, calls, edits, moves] = [0, 0, 0, 0];
  const kept = new Set<number>();
  layout.forEach((pocket, i) => {
    const tool = question.tools[i]!;
    const move = movesFor(question, tool, pocket);
    [hands, calls, edits] = [hands + move.hands, calls + move.calls, edits + move.edits];
    moves += moveMinutes(question, tool, pocket);
    if (tool.wide && pocket > 0) for (const other of beside.get(pocket)!) kept.add(other);
  });
  const seconds = secondsOfPlan(prepared.times, prepared.follow.all, prepared.steps, layout);
  const unbalance = unbalanceOf(prepared, layout);
  const { weights } = question;
  const cost =
    moves +
    weights.time * (seconds / 60) +
    weights.balance * unbalance * MINUTES.unbalance +
    weights.gaps * kept.size * MINUTES.gap;
  return { hands, calls, edits, seconds, unbalance, gaps: kept.size, cost };
}

function unbalanceOf({ arms, masses }: Prepared, layout: Layout): number {
  let most = 0;
  for (const arm of arms) {
    let sum = 0;
    for (let i = 0; i < layout.length; i += 1) sum += masses[i]! * arm[layout[i]!]!;
    most = Math.max(most, sum);
  }
  return most;
}
