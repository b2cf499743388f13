import { searchCalls, type Stand } from './call-search.ts';
import { strikes, withinReach } from './clearance.ts';
import type { ChangerShape } from './layout.ts';
import { indexSteps } from './neighbours.ts';
import { rearrange, type Arrangement } from './rearrange.ts';
import type { Call } from './room.ts';
import { noArmWords, type NoArm } from './where.ts';

/** A tool that is carried about by calls. */
export interface CarriedTool {
  tool: number;
  /** Half its largest width, millimetres. */
  radius: number;
  /** The only pocket it may be put into; null: any that may be used. */
  home: number | null;
  /** Why the changer must not carry it; nothing: it may. */
  noArm?: NoArm | null;
}

/** A random-access magazine as it stands, for carrying; `at` is the pocket called last. */
export interface CarryState {
  shape: ChangerShape;
  pockets: readonly { number: number; content: CarriedTool | null; usable: boolean }[];
  spindle: CarriedTool | null;
  at: number | null;
}

export type CarryAnswer =
  /** `proven`: there are no fewer calls. */
  | { ok: true; calls: Call[]; proven: boolean }
  /** `proven`: no row of calls does it; otherwise it cannot be told. */
  | { ok: false; proven: boolean; reason: string };

/** Arrangements reached in looking for the fewest calls, and then for any row of them. */
const MOST_REACHED = 60_000;
/** How much more what is left counts than what was done, when any row of calls will do. */
const EAGER = 3;

/**
 * The fewest pocket calls from what stands to what is wanted (by T; index 0 is the spindle), none of which puts a tool where it
 * may not be or would strike what hangs there (H5). The count of cycles, which knows of no strikes, is the bound: where its own row
 * of calls may be called it is proven at once; otherwise the arrangements are searched best first.
 */
export function carry(state: CarryState, wanted: Arrangement, reached = MOST_REACHED): CarryAnswer {
  const now = [state.spindle?.tool ?? null, ...state.pockets.map((pocket) => pocket.content?.tool ?? null)];
  const plain = rearrange(now, wanted);
  const kept = plain.ok && plain.calls.length > 0 ? keptWhere(state, wanted) : null;
  if (kept !== null) return { ok: false, proven: true, reason: kept };
  if (!plain.ok) return { ok: false, proven: true, reason: plain.reason };
  const rules = rulesOf(state);
  if (allowed(rules, plain.calls)) return { ok: true, calls: plain.calls, proven: true };
  const { start, numbers, mayCall } = rules;
  const goal = Uint16Array.from(wanted, (tool) => (tool === null ? 0 : numbers.get(tool)!));
  const problem = {
    start,
    leastLeft: distanceTo(goal),
    mayCall,
    order: (pocket: number, before: number | null) =>
      indexSteps(state.shape, before ?? state.at ?? pocket, pocket),
  };
  const called = (pockets: readonly number[]) => asCalls(now, pockets);
  const search = searchCalls(problem, { left: reached });
  const found = search.upTo(Infinity);
  if (found) return { ok: true, calls: called(found), proven: true };
  if (search.exhausted())
    return {
      ok: false,
      proven: true,
      reason: state.pockets.some(({ content }) => content?.noArm)
        ? 'No sequence of calls does it without hanging a tool beside one it would strike, or carrying one that the changer must not take. Take one of the two out by hand.'
        : 'No sequence of calls does it without hanging a tool beside one it would strike. Take one of the two out by hand.',
    };
  const any = searchCalls(problem, { left: reached }, EAGER).upTo(Infinity);
  return any
    ? { ok: true, calls: called(any), proven: false }
    : {
        ok: false,
        proven: false,
        reason:
          'In the time allowed, no sequence of calls was found that keeps tools from striking; there may be one. Take one of the two out by hand.',
      };
}

/** What must be moved and may not be carried: it is taken out by hand first. */
function keptWhere({ spindle, pockets }: CarryState, wanted: Arrangement): string | null {
  // any call at all would put away what is in the spindle
  if (spindle?.noArm)
    return `${noArmWords(spindle.noArm, `T${spindle.tool} in the spindle`)} Take it out by hand first.`;
  const kept = pockets.find(({ number, content }) => content?.noArm && wanted[number] !== content.tool);
  return kept
    ? `${noArmWords(kept.content!.noArm!, `T${kept.content!.tool} in pocket ${kept.number}`)} Take it out by hand.`
    : null;
}

interface CarryRules {
  start: Stand;
  /** The number of each T in an arrangement. */
  numbers: ReadonlyMap<number, number>;
  mayCall: (stand: Stand, pocket: number) => boolean;
}

function rulesOf({ shape, pockets, spindle }: CarryState): CarryRules {
  const tools = [spindle, ...pockets.map((pocket) => pocket.content)].filter((tool) => tool !== null);
  const numbers = new Map(tools.map((tool, i) => [tool.tool, i + 1]));
  const numberOf = (tool: CarriedTool | null) => (tool ? numbers.get(tool.tool)! : 0);
  const start = new Uint16Array(shape.places + 1);
  start[0] = numberOf(spindle);
  for (const { number, content } of pockets) start[number] = numberOf(content);
  const usable = new Uint8Array(shape.places + 1);
  for (const pocket of pockets) usable[pocket.number] = Number(pocket.usable);
  const reach = withinReach(shape, Math.max(0, ...tools.map((tool) => tool.radius)), 0);
  const near = Array.from({ length: shape.places + 1 }, (_, pocket) => reach.get(pocket) ?? []);
  const mayCall = (stand: Stand, pocket: number): boolean => {
    const held = stand[0]!;
    if (stand[pocket]! > 0 && tools[stand[pocket]! - 1]!.noArm) return false;
    // what stands in a pocket of its own comes from there, and only to an empty spindle
    if (held === 0) return usable[pocket] === 1 || stand[pocket]! > 0;
    const { radius, home } = tools[held - 1]!;
    if (home !== null ? home !== pocket : usable[pocket] === 0) return false;
    for (const { number, apart } of near[pocket]!) {
      const other = stand[number]!;
      if (other > 0 && strikes(apart, radius, tools[other - 1]!.radius)) return false;
    }
    return true;
  };
  return { start, numbers, mayCall };
}

/** Whether each of a row of calls may be made at its turn. */
function allowed({ start, mayCall }: CarryRules, calls: readonly { pocket: number }[]): boolean {
  const stand = start.slice();
  return calls.every(({ pocket }) => {
    if (!mayCall(stand, pocket)) return false;
    [stand[0], stand[pocket]] = [stand[pocket]!, stand[0]!];
    return true;
  });
}

function asCalls(now: Arrangement, pockets: readonly number[]): Call[] {
  const content = [...now];
  return pockets.map((pocket) => {
    const call = { pocket, puts: content[0] ?? null, takes: content[pocket] ?? null };
    [content[0], content[pocket]] = [content[pocket]!, content[0]!];
    return call;
  });
}

/**
 * The calls that an arrangement is from another when nothing strikes, as `fewestCalls` counts them, told in one walk: places that
 * are wrong and the cycles they form, all chains between empties being one of them.
 */
function distanceTo(goal: Stand): (stand: Stand) => number {
  const wantedAt = new Uint16Array(goal.length + 1);
  for (let place = 0; place < goal.length; place += 1) if (goal[place]! > 0) wantedAt[goal[place]!] = place;
  const seen = new Uint8Array(goal.length);
  return (stand) => {
    seen.fill(0);
    let [wrong, cycles, chained, spindleWrong] = [0, 0, 0, false];
    /** From a place on to where its tool is wanted, until an empty or a place that was seen. */
    const walk = (first: number) => {
      let [place, length] = [first, 0];
      for (;;) {
        if (seen[place] === 1) break;
        seen[place] = 1;
        length += 1;
        if (place === 0) spindleWrong = true;
        const tool = stand[place]!;
        if (tool === 0) break;
        place = wantedAt[tool]!;
      }
      return length;
    };
    // chains begin where a tool stands that is to go, and nothing comes
    for (let place = 0; place < stand.length; place += 1)
      if (goal[place] === 0 && stand[place]! > 0) chained += walk(place);
    for (let place = 0; place < stand.length; place += 1) {
      const tool = stand[place]!;
      if (seen[place] === 1 || tool === 0 || wantedAt[tool] === place) continue;
      wrong += walk(place);
      cycles += 1;
    }
    if (chained > 0) {
      if (stand[0] === 0 && goal[0] === 0) [chained, spindleWrong] = [chained + 1, true];
      [wrong, cycles] = [wrong + chained, cycles + 1];
    }
    return wrong === 0 ? 0 : wrong + cycles - (spindleWrong ? 2 : 0);
  };
}
