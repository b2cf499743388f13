import { changeSeconds, type ChangeTimes } from './change-time.ts';
import { clears, withinReach } from './clearance.ts';
import { windowAbout } from './neighbours.ts';
import type { CallSearch } from './call-search.ts';
import { detour, MOST_ARRANGEMENTS } from './room-detour.ts';
import { noArmWords } from './where.ts';
import type { Call, RoomPlan, RoomState, RoomTool, RoomWish } from './room.ts';

export type RoomAnswer =
  /** `compared` windows were held against each other; `proven`: there are no fewer calls. */
  { ok: true; plan: RoomPlan; compared: number; proven: boolean } | { ok: false; reason: string };

/** Calls beyond the count of the tools in the way that are looked for when tools outside must make way too. */
const MOST_DETOUR = 12;

/**
 * The provably fewest pocket calls that empty a window. Each tool in the window must come to the spindle and leave it again
 * outside, and a call does at most one of each: with k tools in it that is 2k calls from an empty spindle, one more when the
 * spindle has to be emptied first, one less when it may keep the last tool. Every such plan has this shape, so among them the
 * shortest time is a choice of order and of empties, which is searched in full; then the fewest heavy tools decide. A tool
 * that clears the others in none of the empties at its turn needs a detour: then one call more is tried, and one more.
 */
export function makeRoom(
  state: RoomState,
  wish: RoomWish,
  times: ChangeTimes,
  arrangements = MOST_ARRANGEMENTS,
): RoomAnswer {
  const centres = wish.centre === null ? state.pockets.map((pocket) => pocket.number) : [wish.centre];
  const reasons: string[] = [];
  const windows: Window[] = [];
  for (const centre of centres) {
    const window = windowAbout(state.shape, centre, wish.span);
    const refusal = window
      ? windowRefusal(state, window, wish)
      : `There are no ${wish.span} pockets in a row around ${centre}.`;
    if (refusal || !window) reasons.push(refusal ?? '');
    else windows.push({ centre, window, ...costOf(state, window, wish) });
  }
  if (windows.length === 0)
    return {
      ok: false,
      reason:
        wish.centre === null
          ? `No ${wish.span} pockets in a row can be emptied: ${commonest(reasons)}`
          : reasons[0]!,
    };
  const radii = [state.spindle, ...state.pockets.map((pocket) => pocket.content)].map(
    (tool) => tool?.radius ?? 0,
  );
  const reach = withinReach(state.shape, Math.max(...radii));
  const [fewest, most] = [
    Math.min(...windows.map((each) => each.calls)),
    Math.max(...windows.map((each) => each.calls)),
  ];
  const patience = { left: arrangements };
  const searches = new Map<Window, CallSearch>();
  for (let calls = fewest; calls <= most + MOST_DETOUR; calls += 1) {
    const plan =
      bestOf(
        windows.filter((each) => each.calls === calls).sort((a, b) => a.heavy - b.heavy),
        ({ centre, window }, quicker) => quickest(state, reach, centre, window, wish, times, quicker),
      ) ??
      // windows that fewer calls were not enough for
      bestOf(
        windows.filter((each) => each.calls < calls && each.calls + MOST_DETOUR >= calls),
        (each) => {
          const search = searches.get(each) ?? detour(state, reach, each.window, wish, patience);
          searches.set(each, search);
          const pockets = search.upTo(calls);
          return pockets && called(state, each.centre, each.window, pockets, times);
        },
      );
    if (plan) return { ok: true, plan, compared: windows.length, proven: patience.left >= 0 };
    if (patience.left < 0) break;
    if (calls > most && [...searches.values()].every((search) => search.exhausted())) break;
  }
  const nowhere = 'The tools to be moved would strike in every empty pocket';
  const every =
    [...searches.values()].every((search) => search.exhausted()) && searches.size === windows.length;
  return {
    ok: false,
    reason:
      patience.left >= 0 && every
        ? `${nowhere}, and no sequence of calls changes that: take one out by hand first.`
        : patience.left < 0
          ? `${nowhere}, and no way round was found in the time allowed; there may be one. Take one out by hand first.`
          : `${nowhere}, and no ${fewest + MOST_DETOUR} calls change that: take one out by hand first.`,
  };
}

interface Window {
  centre: number;
  window: number[];
  /** The least that empties it, whatever strikes what. */
  calls: number;
  heavy: number;
}

/** The best of what each window gets; `quicker` is what the best so far takes, seconds. */
function bestOf(
  windows: readonly Window[],
  planFor: (window: Window, quicker: number) => RoomPlan | null,
): RoomPlan | null {
  let best: RoomPlan | null = null;
  for (const each of windows) {
    const plan = planFor(each, best?.seconds ?? Infinity);
    if (plan && (best === null || better(plan, best))) best = plan;
  }
  return best;
}

const better = (a: RoomPlan, b: RoomPlan) =>
  a.seconds < b.seconds - 1e-9 || (a.seconds < b.seconds + 1e-9 && a.heavyMoved < b.heavyMoved);

function commonest(reasons: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const reason of reasons) counts.set(reason, (counts.get(reason) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]![0];
}

const inside = (state: RoomState, window: readonly number[]) =>
  state.pockets.filter((pocket) => window.includes(pocket.number));
const emptiesOutside = (state: RoomState, window: readonly number[]) =>
  state.pockets.filter((pocket) => pocket.usable && !pocket.content && !window.includes(pocket.number));

function windowRefusal(state: RoomState, window: readonly number[], wish: RoomWish): string | null {
  const { spindle } = state;
  const tools = inside(state, window).filter((pocket) => pocket.content).length;
  if (spindle?.noArm && (tools > 0 || wish.spindleEmpty))
    return `${noArmWords(spindle.noArm, `T${spindle.tool} in the spindle`)} Take it out by hand first.`;
  for (const pocket of inside(state, window)) {
    if (pocket.content?.noArm)
      return noArmWords(pocket.content.noArm, `T${pocket.content.tool} in pocket ${pocket.number}`);
    if (pocket.content && pocket.content.home !== null)
      return `T${pocket.content.tool} is tied to pocket ${pocket.number}.`;
    if (!pocket.usable) return `Pocket ${pocket.number} is reserved, out of service, or beside a wide tool.`;
  }
  const home = spindle?.home ?? null;
  if (home !== null && window.includes(home))
    return `T${spindle!.tool} in the spindle belongs in pocket ${home}.`;
  const outside = emptiesOutside(state, window).length;
  const kept = (spindle && home === null ? 1 : 0) + tools - (wish.spindleEmpty ? 0 : 1);
  if (kept > outside)
    return `${outside === 0 ? 'No pocket is' : outside === 1 ? 'One pocket is' : `${outside} pockets are`} empty outside, ${kept} would be needed: take ${kept - outside === 1 ? 'a tool' : `${kept - outside} tools`} out by hand first.`;
  return null;
}

function costOf(state: RoomState, window: readonly number[], wish: RoomWish) {
  const tools = inside(state, window).filter((pocket) => pocket.content);
  const heavy = tools.filter((pocket) => pocket.content!.heavy).length;
  const full = state.spindle !== null;
  if (tools.length === 0) return { calls: full && wish.spindleEmpty ? 1 : 0, heavy };
  return { calls: 2 * tools.length + (full ? 1 : 0) - (wish.spindleEmpty ? 0 : 1), heavy };
}

/**
 * The quickest plan of the fewest calls for one window: every order of its tools and every choice of empties, but for those
 * that the least of what is left shows to be no quicker than `limit` seconds (windows with fewer heavy tools come first, so
 * one as quick is no better). What is put away must clear what hangs there at that moment.
 */
function quickest(
  state: RoomState,
  reach: ReturnType<typeof withinReach>,
  centre: number,
  window: number[],
  wish: RoomWish,
  times: ChangeTimes,
  limit: number,
): RoomPlan | null {
  const unstaged = { ...times, preStaging: false };
  const seconds = (from: number, to: number, { heavy }: RoomTool) =>
    changeSeconds(state.shape, unstaged, from, to, heavy);
  const empties = emptiesOutside(state, window).map((pocket) => pocket.number);
  const outside = new Map(
    state.pockets
      .filter((pocket) => pocket.content && !window.includes(pocket.number))
      .map((pocket) => [pocket.number, pocket.content!.radius]),
  );
  const mayHang = (tool: RoomTool) =>
    (tool.home !== null ? [tool.home] : empties).filter((empty) =>
      clears(reach, empty, tool.radius, outside),
    );
  // where the magazine may stand before a tool of the window is called
  const stops = [state.at, ...empties, ...(state.spindle?.home ? [state.spindle.home] : [])];
  const waiting: Waiting[] = inside(state, window).flatMap(({ number, content }) => {
    if (!content) return [];
    const into = mayHang(content)
      .map((empty) => ({ empty, cost: seconds(number, empty, content) }))
      .sort((one, other) => one.cost - other.cost);
    return [
      {
        pocket: number,
        tool: content,
        into,
        leastOut: into[0]?.cost ?? Infinity,
        leastIn: Math.min(...stops.map((from) => seconds(from, number, content))),
      },
    ];
  });
  // what hangs in the window still, and what was put away already
  const hanging = new Map(waiting.map(({ pocket, tool }) => [pocket, tool.radius]));
  const left = new Set(waiting);
  const calls: number[] = [];
  let best = limit;
  let found: number[] | null = null;
  /** Of all that is still to be taken and put away, the least it can take. */
  const least = () => {
    let [sum, longest] = [0, 0];
    for (const { leastIn, leastOut } of left) {
      sum += leastIn + leastOut;
      longest = Math.max(longest, leastOut);
    }
    return sum - (wish.spindleEmpty ? 0 : longest);
  };
  const done = (spent: number) => {
    [best, found] = [spent, [...calls]];
  };
  function take(at: number, spent: number): void {
    if (left.size === 0) return done(spent);
    if (spent + least() >= best - 1e-9) return;
    const next = [...left]
      .map((each) => ({ each, cost: seconds(at, each.pocket, each.tool) }))
      .sort((one, other) => one.cost - other.cost);
    for (const { each, cost } of next) {
      left.delete(each);
      hanging.delete(each.pocket);
      calls.push(each.pocket);
      if (left.size === 0 && !wish.spindleEmpty) {
        if (spent + cost < best - 1e-9) done(spent + cost);
      } else put(each.tool, each.into, spent + cost);
      calls.pop();
      hanging.set(each.pocket, each.tool.radius);
      left.add(each);
    }
  }
  function put(tool: RoomTool, into: readonly { empty: number; cost: number }[], spent: number): void {
    const rest = left.size === 0 ? 0 : least();
    for (const { empty, cost } of into) {
      if (spent + cost + rest >= best - 1e-9) break;
      if (hanging.has(empty) || !clears(reach, empty, tool.radius, hanging)) continue;
      hanging.set(empty, tool.radius);
      calls.push(empty);
      take(empty, spent + cost);
      calls.pop();
      hanging.delete(empty);
    }
  }
  const { spindle } = state;
  if (spindle && (wish.spindleEmpty || waiting.length > 0))
    put(
      spindle,
      mayHang(spindle)
        .map((empty) => ({ empty, cost: seconds(state.at, empty, spindle) }))
        .sort((one, other) => one.cost - other.cost),
      0,
    );
  else take(state.at, 0);
  return found && called(state, centre, window, found, times);
}

/** A tool of the window that must go. */
interface Waiting {
  pocket: number;
  tool: RoomTool;
  /** Empties that it clears in, the nearest to its pocket first, and the seconds of putting it there. */
  into: readonly { empty: number; cost: number }[];
  leastOut: number;
  leastIn: number;
}

/** A plan from the pockets that are called, in order. */
function called(
  state: RoomState,
  centre: number,
  window: number[],
  pockets: readonly number[],
  times: ChangeTimes,
): RoomPlan {
  const content = new Map(state.pockets.map((pocket) => [pocket.number, pocket.content]));
  const heavy = new Set<number>();
  let [at, seconds, spindle] = [state.at, 0, state.spindle];
  const calls = pockets.map((pocket): Call => {
    const [puts, takes] = [spindle, content.get(pocket)!];
    for (const tool of [puts, takes]) if (tool?.heavy) heavy.add(tool.tool);
    const slow = Boolean(puts?.heavy || takes?.heavy);
    seconds += changeSeconds(state.shape, { ...times, preStaging: false }, at, pocket, slow);
    [at, spindle] = [pocket, takes];
    content.set(pocket, puts);
    return { pocket, puts: puts?.tool ?? null, takes: takes?.tool ?? null };
  });
  return { centre, window, calls, seconds, heavyMoved: heavy.size };
}
