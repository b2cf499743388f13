import { clears, withinReach } from './clearance.ts';
import { neighbours } from './neighbours.ts';
import { isRandom, type ChangerShape } from './layout.ts';
import { rearrange } from './rearrange.ts';
import type { Wanted, WantedTool } from './wanted.ts';

/** A tool as a load plan finds it in the machine. */
export interface FoundTool {
  tool: number;
  assemblyId: number;
  number: string;
  name: string;
  /** Measured since it was put into the machine. */
  measured: boolean;
  /** Half its largest width, millimetres; null when nobody knows. */
  radius: number | null;
}

export interface FoundPocket {
  number: number;
  wide: boolean;
  inService: boolean;
  reserved: boolean;
  content: FoundTool | null;
}

/** The machine as it really stands. */
export interface FoundState {
  shape: ChangerShape;
  pockets: readonly FoundPocket[];
  spindle: FoundTool | null;
}

/** Whether tools go into their places through the spindle; into a turret or a tray outside they go directly. */
export const throughSpindle = ({ kind }: Pick<ChangerShape, 'kind'>) => kind !== 'turret' && kind !== 'tray';

/** One thing to be done at the machine. */
export type LoadStep =
  | {
      act: 'call';
      pocket: number;
      puts: FoundTool | null;
      takes: FoundTool | null;
      why: 'toUnload' | 'makeRoom' | 'putAway';
    }
  | { act: 'unload'; pocket: number; tool: FoundTool; comesBack: boolean }
  | { act: 'declare'; pocket: number; wanted: WantedTool }
  | { act: 'load'; pocket: number; wanted: WantedTool }
  | { act: 'measure'; pocket: number; tool: FoundTool }
  | { act: 'build'; wanted: WantedTool };

/** A name for a step that stays the same while the machine does: a tick names the step it ticks. */
export const stepKey = (step: LoadStep): string =>
  step.act === 'call'
    ? `call ${step.pocket} ${step.puts?.assemblyId ?? 0} ${step.takes?.assemblyId ?? 0}`
    : step.act === 'unload' || step.act === 'measure'
      ? `${step.act} ${step.pocket} ${step.tool.assemblyId}`
      : `${step.act} ${step.wanted.pocket} ${step.wanted.tool} ${step.wanted.assemblyId ?? 0}`;

export type LoadPlan = { ok: true; steps: LoadStep[] } | { ok: false; reason: string };

/** No machine needs as many; a plan that does goes round in circles. */
const MOST_STEPS = 4000;

/**
 * From the machine as it stands to the machine as it is wanted, one thing after the other (H5, H6): what goes is taken out
 * first, then room is made in the fewest calls, wide pockets are declared while they and their neighbours are empty, wide
 * tools are loaded before the others, each is measured in the spindle straight after loading and then put away. What must be
 * built comes last, so that it holds up nothing. Worked out from the present state alone: ask again after any surprise.
 */
export function loadPlan(found: FoundState, wanted: Wanted): LoadPlan {
  let state = found;
  const steps: LoadStep[] = [];
  const passed = new Set<string>();
  while (steps.length < MOST_STEPS) {
    const next = nextStep(state, wanted, passed);
    if (next === null) return { ok: true, steps };
    if ('reason' in next) return { ok: false, reason: next.reason };
    steps.push(next);
    if (next.act === 'build') passed.add(stepKey(next));
    else state = after(state, next);
  }
  return { ok: false, reason: 'No way was found from what stands to what is wanted.' };
}

/** What is to be done next; null when all is as wanted. `built` are the build steps that were told already. */
function nextStep(
  state: FoundState,
  wanted: Wanted,
  built: ReadonlySet<string>,
): LoadStep | { reason: string } | null {
  const random = isRandom(state.shape);
  const target = new Map(
    wanted.tools.flatMap((each) => (each.assemblyId === null ? [] : [[each.assemblyId, each]])),
  );
  const out = new Set(wanted.out);
  const standing = state.pockets.filter((pocket) => pocket.content);
  /** Whether it leaves the machine: for good, or to come back under another T where T n lives in pocket n. */
  const leaves = (tool: FoundTool, pocket: number) => {
    const wish = target.get(tool.assemblyId);
    return (
      out.has(tool.assemblyId) ||
      (wish !== undefined && (wish.tool !== tool.tool || (!random && pocket > 0 && wish.pocket !== pocket)))
    );
  };

  if (state.spindle) {
    const tool = state.spindle;
    const wish = target.get(tool.assemblyId);
    if (leaves(tool, 0)) return { act: 'unload', pocket: 0, tool, comesBack: wish !== undefined };
    if (wish && !tool.measured) return { act: 'measure', pocket: 0, tool };
    const home = wish?.pocket ?? (random ? emptyFor(state, wanted, tool) : tool.tool);
    if (home === null)
      return { reason: `T${tool.tool} in the spindle is not in the plan, and no pocket is empty for it.` };
    // by hand instead of into a neighbour, or a broken pocket: it comes back when there is room
    if (!state.pockets[home - 1]?.inService || !mayHang(state, home, tool))
      return { act: 'unload', pocket: 0, tool, comesBack: wish !== undefined };
    return callOf(state, home, 'putAway');
  }
  const gone = standing.find((pocket) => leaves(pocket.content!, pocket.number));
  if (gone && !throughSpindle(state.shape))
    return {
      act: 'unload',
      pocket: gone.number,
      tool: gone.content!,
      comesBack: target.has(gone.content!.assemblyId),
    };
  if (gone) return callOf(state, gone.number, 'toUnload');
  if (random) {
    const moved = firstMove(state, target);
    if (moved) return moved;
  }
  const lacking = wanted.tools.filter(
    (each) =>
      each.assemblyId === null || !standing.some((pocket) => pocket.content!.assemblyId === each.assemblyId),
  );
  const toLoad = lacking
    .filter((each) => each.assemblyId !== null)
    .sort((a, b) => Number(b.wide) - Number(a.wide) || a.tool - b.tool);
  for (const each of lacking) {
    const there = state.pockets.find((pocket) => pocket.number === each.pocket);
    if (!there) return { reason: `There is no pocket ${each.pocket} for T${each.tool}.` };
    if (there.content)
      return {
        reason: `T${there.content.tool} (${there.content.number}) stands in pocket ${each.pocket}, where T${each.tool} is wanted, and the plan does not say where it goes. Plan anew.`,
      };
    const same = standing.find((pocket) => pocket.content!.tool === each.tool);
    if (same)
      return {
        reason: `T${each.tool} stands in pocket ${same.number} already, as ${same.content!.number}: a T is unique on a machine. Plan anew.`,
      };
  }
  const undeclared = wanted.tools.find(
    (each) =>
      random &&
      each.wide &&
      each.assemblyId !== null &&
      !state.pockets[each.pocket - 1]!.wide &&
      lacking.includes(each),
  );
  if (undeclared) return { act: 'declare', pocket: undeclared.pocket, wanted: undeclared };
  const load = toLoad[0];
  if (load) return { act: 'load', pocket: throughSpindle(state.shape) ? 0 : load.pocket, wanted: load };
  const unmeasured = standing.find(
    (pocket) => target.has(pocket.content!.assemblyId) && !pocket.content!.measured,
  );
  if (unmeasured) return { act: 'measure', pocket: unmeasured.number, tool: unmeasured.content! };
  const toBuild = lacking.find(
    (each) => each.assemblyId === null && !built.has(stepKey({ act: 'build', wanted: each })),
  );
  return toBuild ? { act: 'build', wanted: toBuild } : null;
}

const callOf = (state: FoundState, pocket: number, why: 'toUnload' | 'makeRoom' | 'putAway'): LoadStep => ({
  act: 'call',
  pocket,
  puts: state.spindle,
  takes: state.pockets.find((each) => each.number === pocket)?.content ?? null,
  why,
});

/** Whether a tool may hang in a pocket as things stand: no wide tool and nothing that it would strike beside it. */
function mayHang(state: FoundState, pocket: number, tool: FoundTool): boolean {
  const beside = neighbours(state.shape).get(pocket)!;
  if (state.pockets.some((each) => each.wide && each.number !== pocket && beside.includes(each.number)))
    return false;
  if (state.pockets[pocket - 1]!.wide && beside.some((number) => state.pockets[number - 1]!.content))
    return false;
  if (tool.radius === null) return true;
  const radii = new Map(
    state.pockets.flatMap(({ number, content }) =>
      content?.radius && number !== pocket ? [[number, content.radius] as const] : [],
    ),
  );
  const reach = withinReach(state.shape, Math.max(tool.radius, ...radii.values()), 0);
  return clears(reach, pocket, tool.radius, radii, 0);
}

/** The first T that a row of calls would hang beside what it strikes; null when none. */
export function strikesOnTheWay(found: FoundState, calls: readonly { pocket: number }[]): number | null {
  let state = found;
  for (const { pocket } of calls) {
    if (state.spindle && !mayHang(state, pocket, state.spindle)) return state.spindle.tool;
    state = after(state, callOf(state, pocket, 'makeRoom'));
  }
  return null;
}

/** An empty pocket that no tool of the plan is to have: for what the plan does not name. One where it clears comes first. */
function emptyFor(state: FoundState, wanted: Wanted, tool: FoundTool): number | null {
  const kept = new Set(wanted.tools.map((each) => each.pocket));
  const empties = state.pockets.filter(
    (each) => each.inService && !each.reserved && !each.content && !each.wide && !kept.has(each.number),
  );
  return (empties.find((each) => mayHang(state, each.number, tool)) ?? empties[0])?.number ?? null;
}

/** The first call of the fewest that bring every standing tool to its pocket; null when each is there. */
function firstMove(
  state: FoundState,
  target: ReadonlyMap<number, WantedTool>,
): LoadStep | { reason: string } | null {
  const now = [null, ...state.pockets.map((pocket) => pocket.content?.assemblyId ?? null)];
  const then = now.map(() => null as number | null);
  for (const [place, assembly] of now.entries()) {
    if (assembly === null) continue;
    const pocket = target.get(assembly)?.pocket ?? place;
    if (then[pocket] !== null && then[pocket] !== undefined)
      return { reason: `Two tools are to stand in pocket ${pocket}. Plan anew.` };
    then[pocket] = assembly;
  }
  const answer = rearrange(now, then);
  if (!answer.ok) return { reason: answer.reason };
  const call = answer.calls[0];
  return call ? callOf(state, call.pocket, 'makeRoom') : null;
}

/** The machine after a step. */
export function after(state: FoundState, step: LoadStep): FoundState {
  const withContent = (pocket: number, content: FoundTool | null) =>
    state.pockets.map((each) => (each.number === pocket ? { ...each, content } : each));
  switch (step.act) {
    case 'call':
      return { ...state, pockets: withContent(step.pocket, step.puts), spindle: step.takes };
    case 'unload':
      return step.pocket === 0
        ? { ...state, spindle: null }
        : { ...state, pockets: withContent(step.pocket, null) };
    case 'declare':
      return {
        ...state,
        pockets: state.pockets.map((each) => (each.number === step.pocket ? { ...each, wide: true } : each)),
      };
    case 'load': {
      const { assemblyId, number, name, tool } = step.wanted;
      const loaded = {
        tool,
        assemblyId: assemblyId!,
        number,
        name,
        measured: false,
        radius: step.wanted.radius,
      };
      return step.pocket === 0
        ? { ...state, spindle: loaded }
        : { ...state, pockets: withContent(step.pocket, loaded) };
    }
    case 'measure': {
      const tool = { ...step.tool, measured: true };
      return step.pocket === 0
        ? { ...state, spindle: tool }
        : { ...state, pockets: withContent(step.pocket, tool) };
    }
    case 'build':
      return state;
  }
}
