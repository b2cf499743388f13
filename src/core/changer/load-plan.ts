import { traitsOf } from './traits.ts';
import { carry, type CarriedTool } from './carry.ts';
import { comesOut, heldBack, mayHang, ownPocket, type HeldTool } from './load-held.ts';
import { neighbours } from './neighbours.ts';
import { type ChangerShape } from './layout.ts';
import { blockedBy } from './wide.ts';
import type { NoArm } from './where.ts';
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
  /** Why the changer must not carry it; nothing: it may. */
  noArm?: NoArm | null;
  /** Its neighbours must stay empty by the plate, on a changer where nothing is declared. */
  alone?: boolean;
  /** The pocket that is kept for it: a probe's; nothing: none but what is declared for its T. */
  home?: number | null;
}

export interface FoundPocket {
  number: number;
  wide: boolean;
  /** The T that a declared pocket is tied to, where that is known. */
  tied?: number | null;
  inService: boolean;
  reserved: boolean;
  content: FoundTool | null;
}

/** The machine as it really stands. */
export interface FoundState {
  shape: ChangerShape;
  pockets: readonly FoundPocket[];
  spindle: FoundTool | null;
  /** The pocket that was called last, where the magazine stands; null when nobody knows. */
  at?: number | null;
}

/** Whether tools go into their places through the spindle; into a turret or a tray outside they go directly. */

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

export type LoadPlan =
  | {
      ok: true;
      steps: LoadStep[];
      /** Tools that wait, and why: what they need is not to be had as the machine stands. All else goes on. */
      held: HeldTool[];
    }
  | { ok: false; reason: string };

/** Arrangements reached in looking for a way round at one step: a load plan is worked out at each look. */
const MOST_REACHED = 6_000;

/** No machine needs as many; a plan that does goes round in circles, which is a fault of ours. */
const MOST_STEPS = 4000;

/**
 * From the machine as it stands to the machine as it is wanted, one thing after the other (H5, H6): what goes is taken out
 * first, then room is made in the fewest calls, wide pockets are declared while they and their neighbours are empty, wide
 * tools are loaded before the others, each is measured in the spindle straight after loading and then put away. What must be
 * built comes last, so that it holds up nothing; what cannot come to its place as things are (a broken pocket, a stranger in
 * it or beside it) waits with its reason, and holds up nothing either. Worked out from the present state alone: ask again after
 * any surprise.
 */
export function loadPlan(found: FoundState, wanted: Wanted): LoadPlan {
  const held = heldBack(found, wanted);
  let state = found;
  const steps: LoadStep[] = [];
  const told = new Set<string>();
  const loaded = new Set<number>();
  const way: number[] = [];
  while (steps.length < MOST_STEPS) {
    const waits = new Set(held.map((each) => each.wanted));
    const aim = { ...wanted, tools: wanted.tools.filter((each) => !waits.has(each)) };
    const next = nextStep(state, aim, { told, way });
    if (next === null) return { ok: true, steps, held };
    if ('reason' in next) return { ok: false, reason: next.reason };
    // what was loaded and has nowhere to go would come out again: it waits outside
    if (next.act === 'unload' && next.comesBack && loaded.has(next.tool.assemblyId) && state.spindle) {
      const wish = wanted.tools.find((each) => each.assemblyId === next.tool.assemblyId)!;
      if (!waits.has(wish)) {
        held.push({
          wanted: wish,
          reason: `T${wish.tool} cannot hang in pocket ${wish.pocket} as things stand.`,
        });
        // begun anew, without it
        steps.length = 0;
        state = found;
        told.clear();
        loaded.clear();
        way.length = 0;
        continue;
      }
    }
    steps.push(next);
    if (next.act === 'load') loaded.add(next.wanted.assemblyId!);
    if (next.act === 'build') told.add(stepKey(next));
    else state = after(state, next);
    // what was carried about stays so while it is measured; anything else makes another way
    if (next.act !== 'call' && next.act !== 'measure') way.length = 0;
  }
  return { ok: false, reason: 'No way was found from what is there to what is wanted.' };
}

/** What is kept in mind from step to step. */
interface UnderWay {
  /** Build steps that were told already. */
  told: ReadonlySet<string>;
  /** Pockets still to be called of a row of calls that was worked out. */
  way: number[];
}

/** What is to be done next; null when all is as wanted. */
function nextStep(
  state: FoundState,
  wanted: Wanted,
  { told, way }: UnderWay,
): LoadStep | { reason: string } | null {
  const random = traitsOf(state.shape).exchanges;
  const target = new Map(
    wanted.tools.flatMap((each) => (each.assemblyId === null ? [] : [[each.assemblyId, each]])),
  );
  const out = new Set(wanted.out);
  const standing = state.pockets.filter((pocket) => pocket.content);
  /** Whether it leaves the machine: for good, or to come back. */
  const leaves = (tool: FoundTool, pocket: number) =>
    out.has(tool.assemblyId) || comesOut(state, target.get(tool.assemblyId), tool, pocket);

  if (state.spindle) {
    const tool = state.spindle;
    const wish = target.get(tool.assemblyId);
    const byHand: LoadStep = {
      act: 'unload',
      pocket: 0,
      tool,
      comesBack: wish !== undefined,
    };
    if (leaves(tool, 0)) return byHand;
    // the changer never takes it
    if (tool.noArm) return byHand;
    if (wish && !tool.measured) return { act: 'measure', pocket: 0, tool };
    const home =
      wish?.pocket ?? ownPocket(state, tool) ?? (random ? emptyFor(state, wanted, tool) : tool.tool);
    const hangs = home !== null && state.pockets[home - 1]?.inService && mayHang(state, home, tool);
    const there = hangs ? callOf(state, home, 'putAway') : null;
    const round = random ? carriedTo(state, target, home) : null;
    // straight home, unless it would only have to come out again
    if (there && !(round?.proven && leftOf(after(state, there), target) >= round.calls.length)) {
      if (round?.proven || way.length === 0) return there;
    }
    const pocket = onTheWay(way, round);
    // by hand instead of into a neighbour or a broken pocket: it comes back when there is room
    return pocket === null ? byHand : callOf(state, pocket, 'putAway');
  }
  const gone = standing.find((pocket) => leaves(pocket.content!, pocket.number));
  if (gone && (!traitsOf(state.shape).throughSpindle || gone.content!.noArm?.comes === false))
    return {
      act: 'unload',
      pocket: gone.number,
      tool: gone.content!,
      comesBack: target.has(gone.content!.assemblyId),
    };
  if (gone) return callOf(state, gone.number, 'toUnload');
  if (random) {
    const pocket = onTheWay(way, carriedTo(state, target, null));
    if (pocket !== null) return callOf(state, pocket, 'makeRoom');
    // no row of calls does it: one that is in the wrong place comes out by hand and goes in at the end
    const wrong = standing.find((pocket) => {
      const wish = target.get(pocket.content!.assemblyId);
      return wish !== undefined && wish.pocket !== pocket.number;
    });
    if (wrong) return callOf(state, wrong.number, 'makeRoom');
  }
  const lacking = wanted.tools.filter(
    (each) =>
      each.assemblyId === null || !standing.some((pocket) => pocket.content!.assemblyId === each.assemblyId),
  );
  const toLoad = lacking
    .filter((each) => each.assemblyId !== null)
    .sort((a, b) => Number(b.wide) - Number(a.wide) || a.tool - b.tool);
  const undeclared = toLoad.find((each) => random && each.wide && !state.pockets[each.pocket - 1]!.wide);
  if (undeclared) {
    // the pocket at the spindle may not be declared: another is called first (H5)
    const other = state.at === undeclared.pocket ? elsewhere(state, undeclared.pocket) : null;
    if (other !== null) return callOf(state, other, 'makeRoom');
    return { act: 'declare', pocket: undeclared.pocket, wanted: undeclared };
  }
  const load = toLoad[0];
  if (load)
    return { act: 'load', pocket: traitsOf(state.shape).throughSpindle ? 0 : load.pocket, wanted: load };
  const unmeasured = standing.find(
    (pocket) => target.has(pocket.content!.assemblyId) && !pocket.content!.measured,
  );
  if (unmeasured) return { act: 'measure', pocket: unmeasured.number, tool: unmeasured.content! };
  const toBuild = lacking.find(
    (each) => each.assemblyId === null && !told.has(stepKey({ act: 'build', wanted: each })),
  );
  return toBuild ? { act: 'build', wanted: toBuild } : null;
}

/**
 * The pocket to call next. What is proven is worked out anew at each step, so that whoever asks again in the middle is told the same;
 * what is not is gone on with to its end, or it might go round in circles.
 */
function onTheWay(way: number[], round: Carrying | null): number | null {
  if (round && (round.proven || way.length === 0)) way.splice(0, way.length, ...round.calls);
  return way.shift() ?? null;
}

/** Calls that are left with an empty spindle; none are said of what is not proven. */
function leftOf(state: FoundState, target: ReadonlyMap<number, WantedTool>): number {
  const round = carriedTo(state, target, null);
  return round?.proven ? round.calls.length : -1;
}

const callOf = (state: FoundState, pocket: number, why: 'toUnload' | 'makeRoom' | 'putAway'): LoadStep => ({
  act: 'call',
  pocket,
  puts: state.spindle,
  takes: state.pockets.find((each) => each.number === pocket)?.content ?? null,
  why,
});

/** An empty pocket that no tool of the plan is to have: for what the plan does not name. One where it clears comes first. */
function emptyFor(state: FoundState, wanted: Wanted, tool: FoundTool): number | null {
  const kept = new Set(wanted.tools.map((each) => each.pocket));
  const empties = state.pockets.filter(
    (each) => each.inService && !each.reserved && !each.content && !each.wide && !kept.has(each.number),
  );
  // as it will stand: what the plan wants is in its pockets
  const then = {
    ...state,
    pockets: state.pockets.map((pocket) => {
      const wish = wanted.tools.find((each) => each.pocket === pocket.number);
      return wish && !pocket.content
        ? { ...pocket, wide: pocket.wide || wish.wide, content: { ...tool, radius: wish.radius } }
        : pocket;
    }),
  };
  return (
    (
      empties.find((each) => mayHang(state, each.number, tool) && mayHang(then, each.number, tool)) ??
      empties.find((each) => mayHang(state, each.number, tool))
    )?.number ?? null
  );
}

/**
 * A pocket to call with an empty spindle, so that the magazine stands elsewhere: not beside the one. An empty one; where there is none, one
 * whose tool comes out and goes back.
 */
function elsewhere(state: FoundState, pocket: number): number | null {
  const beside = neighbours(state.shape).get(pocket)!;
  const may = state.pockets.filter(
    (each) =>
      each.number !== pocket &&
      each.inService &&
      !each.wide &&
      !beside.includes(each.number) &&
      !each.content?.noArm,
  );
  return (may.find((each) => !each.content) ?? may[0])?.number ?? null;
}

interface Carrying {
  calls: number[];
  /** There are no fewer. */
  proven: boolean;
}

/**
 * The pockets to call that bring every standing tool to where it is wanted, and what is in the spindle to a pocket (`spare` for
 * what nobody wants anywhere); null when no row of calls was found, empty when each is there.
 */
function carriedTo(
  state: FoundState,
  target: ReadonlyMap<number, WantedTool>,
  spare: number | null,
): Carrying | null {
  const wide = new Set(state.pockets.filter((pocket) => pocket.wide).map((pocket) => pocket.number));
  const goes = (tool: FoundTool, place: number) => target.get(tool.assemblyId)?.pocket ?? (place || spare);
  const places = [state.spindle, ...state.pockets.map((pocket) => pocket.content)];
  const then = places.map(() => null as number | null);
  for (const [place, tool] of places.entries()) {
    if (!tool) continue;
    const pocket = goes(tool, place);
    // an aim that cannot be is no matter of calls
    if (pocket === null || then[pocket] !== null) return null;
    if (pocket !== place && blockedBy(state.shape, wide, pocket) !== null) return null;
    if (pocket !== place && state.pockets[pocket - 1]?.inService === false) return null;
    then[pocket] = tool.tool;
  }
  const usable = ({ number, inService, reserved }: FoundPocket) =>
    inService && !reserved && !wide.has(number) && blockedBy(state.shape, wide, number) === null;
  const mayBe = new Set(state.pockets.filter(usable).map((pocket) => pocket.number));
  const carried = (tool: FoundTool | null, place: number): CarriedTool | null => {
    if (!tool) return null;
    const pocket = goes(tool, place);
    const home = pocket !== null && !mayBe.has(pocket) ? pocket : null;
    return { tool: tool.tool, radius: tool.radius ?? 0, home, noArm: tool.noArm ?? null };
  };
  const answer = carry(
    {
      shape: state.shape,
      at: state.at ?? null,
      spindle: carried(state.spindle, 0),
      pockets: state.pockets.map((pocket) => ({
        number: pocket.number,
        usable: mayBe.has(pocket.number),
        content: carried(pocket.content, pocket.number),
      })),
    },
    then,
    MOST_REACHED,
  );
  return answer.ok ? { calls: answer.calls.map((call) => call.pocket), proven: answer.proven } : null;
}

/** The machine after a step. */
export function after(state: FoundState, step: LoadStep): FoundState {
  const withContent = (pocket: number, content: FoundTool | null) =>
    state.pockets.map((each) => (each.number === pocket ? { ...each, content } : each));
  switch (step.act) {
    case 'call':
      return {
        ...state,
        pockets: withContent(step.pocket, step.puts),
        spindle: step.takes,
        at: step.pocket,
      };
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

/** A step of a plan that somebody answered for: done as said, or found otherwise. */
export interface LoadTick {
  id: number;
  said: string;
  outcome: 'done' | 'wrong';
  why: string;
  person: string;
  at: Date;
}
