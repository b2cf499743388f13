import { changeSeconds, type ChangeTimes } from './change-time.ts';
import { clears, withinReach } from './clearance.ts';
import { windowAbout } from './neighbours.ts';
import { detour, MOST_ARRANGEMENTS } from './room-detour.ts';
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
export function makeRoom(state: RoomState, wish: RoomWish, times: ChangeTimes): RoomAnswer {
  const centres = wish.centre === null ? state.pockets.map((pocket) => pocket.number) : [wish.centre];
  const reasons: string[] = [];
  const windows: Window[] = [];
  for (const centre of centres) {
    const window = windowAbout(state.shape, centre, wish.span);
    const refusal = window
      ? windowRefusal(state, window, wish)
      : `There are not ${wish.span} pockets in a row around ${centre}.`;
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
  const patience = { left: MOST_ARRANGEMENTS };
  for (let calls = fewest; calls <= most + MOST_DETOUR; calls += 1) {
    const plan =
      quickestOf(state, reach, windows, wish, times, calls) ??
      withDetour(state, reach, windows, wish, times, calls, patience);
    if (plan) return { ok: true, plan, compared: windows.length, proven: patience.left >= 0 };
  }
  return {
    ok: false,
    reason:
      patience.left < 0
        ? 'The tools of the window clear the others in none of the empty pockets, and no way round was found in time: take one out by hand first.'
        : `The tools of the window clear the others in none of the empty pockets, and no ${fewest + MOST_DETOUR} calls change that: take one out by hand first.`,
  };
}

interface Window {
  centre: number;
  window: number[];
  /** The least that empties it, whatever strikes what. */
  calls: number;
  heavy: number;
}

/** The quickest plan over all windows that may need so many calls and no more. */
function quickestOf(
  state: RoomState,
  reach: ReturnType<typeof withinReach>,
  windows: readonly Window[],
  wish: RoomWish,
  times: ChangeTimes,
  calls: number,
): RoomPlan | null {
  let best: RoomPlan | null = null;
  for (const { centre, window } of windows
    .filter((each) => each.calls === calls)
    .sort((a, b) => a.heavy - b.heavy)) {
    const plan = quickest(state, reach, centre, window, wish, times, best?.seconds ?? Infinity);
    if (plan && (best === null || better(plan, best))) best = plan;
  }
  return best;
}

/** A plan of so many calls for a window that fewer were not enough for. */
function withDetour(
  state: RoomState,
  reach: ReturnType<typeof withinReach>,
  windows: readonly Window[],
  wish: RoomWish,
  times: ChangeTimes,
  calls: number,
  patience: { left: number },
): RoomPlan | null {
  let best: RoomPlan | null = null;
  for (const { centre, window, calls: least } of windows) {
    if (least >= calls || least + MOST_DETOUR < calls) continue;
    const pockets = detour(state, reach, window, wish, times, calls, patience);
    const plan = pockets && called(state, centre, window, pockets, times);
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
  for (const pocket of inside(state, window)) {
    if (pocket.content && pocket.content.home !== null)
      return `T${pocket.content.tool} is tied to pocket ${pocket.number}.`;
    if (!pocket.usable) return `Pocket ${pocket.number} is reserved, out of service, or beside a wide tool.`;
  }
  const home = state.spindle?.home ?? null;
  if (home !== null && window.includes(home))
    return `T${state.spindle!.tool} in the spindle belongs into pocket ${home}.`;
  const tools = inside(state, window).filter((pocket) => pocket.content).length;
  const outside = emptiesOutside(state, window).length;
  const kept = (state.spindle && home === null ? 1 : 0) + tools - (wish.spindleEmpty ? 0 : 1);
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

/** The quickest plan of the fewest calls for one window: every order of its tools, and for each the best empties. */
function quickest(
  state: RoomState,
  reach: ReturnType<typeof withinReach>,
  centre: number,
  window: number[],
  wish: RoomWish,
  times: ChangeTimes,
  limit: number,
): RoomPlan | null {
  const tools = inside(state, window)
    .filter((pocket) => pocket.content)
    .map((pocket) => ({ pocket: pocket.number, tool: pocket.content! }));
  const empties = emptiesOutside(state, window).map((pocket) => pocket.number);
  const standing = new Map(
    state.pockets
      .filter((pocket) => pocket.content && !window.includes(pocket.number))
      .map((pocket) => [pocket.number, pocket.content!.radius]),
  );
  const allowed = new Map<number, readonly number[]>();
  for (const tool of [...tools.map((each) => each.tool), ...(state.spindle ? [state.spindle] : [])])
    allowed.set(
      tool.tool,
      tool.home !== null
        ? [tool.home]
        : empties.filter((empty) => clears(reach, empty, tool.radius, standing)),
    );
  let best: RoomPlan | null = null;
  for (const order of orders(tools)) {
    const carried = [...(state.spindle ? [{ pocket: null, tool: state.spindle }] : []), ...order];
    const puts = wish.spindleEmpty ? carried : carried.slice(0, -1);
    const into = bestEmpties(state, reach, puts, carried, allowed, times, best?.seconds ?? limit);
    if (!into) continue;
    const pockets = carried.flatMap(({ pocket }, i) => [
      ...(pocket === null ? [] : [pocket]),
      ...(i < into.length ? [into[i]!] : []),
    ]);
    const plan = called(state, centre, window, pockets, times);
    if (best === null || better(plan, best)) best = plan;
  }
  return best;
}

interface Carried {
  pocket: number | null;
  tool: RoomTool;
}

/**
 * For a fixed order, the empties with the least indexing: what one costs does not depend on the others, save that no two take
 * the same. Null when there are none, or when even the least is not quicker than `limit` seconds
 * (windows with fewer heavy tools come first, so one as quick is no better).
 */
function bestEmpties(
  state: RoomState,
  reach: ReturnType<typeof withinReach>,
  puts: readonly Carried[],
  carried: readonly Carried[],
  allowed: ReadonlyMap<number, readonly number[]>,
  times: ChangeTimes,
  limit: number,
): number[] | null {
  const unstaged = { ...times, preStaging: false };
  const seconds = (from: number, to: number, heavy: boolean) =>
    changeSeconds(state.shape, unstaged, from, to, heavy);
  const costs = puts.map(({ pocket, tool }, i) => {
    const next = carried[i + 1];
    return (empty: number) =>
      seconds(pocket ?? state.at, empty, tool.heavy) +
      (next ? seconds(empty, next.pocket!, next.tool.heavy) : 0);
  });
  const first = carried[0];
  const lead = first && first.pocket !== null ? seconds(state.at, first.pocket, first.tool.heavy) : 0;
  const least = puts.map(({ tool }, i) => {
    let lowest = Infinity;
    for (const empty of allowed.get(tool.tool)!) lowest = Math.min(lowest, costs[i]!(empty));
    return lowest;
  });
  const rest = least.map((_, i) => least.slice(i).reduce((sum, cost) => sum + cost, 0));
  if (lead + (rest[0] ?? 0) > limit - 1e-9) return null;
  const choices = puts.map(({ tool }, i) => {
    // what is still to be taken out of the window hangs there when this one is put away
    const stillThere = new Map(carried.slice(i + 1).map((each) => [each.pocket!, each.tool.radius]));
    return allowed
      .get(tool.tool)!
      .filter((empty) => clears(reach, empty, tool.radius, stillThere))
      .map((empty) => ({ empty, cost: costs[i]!(empty) }))
      .sort((a, b) => a.cost - b.cost);
  });
  let best = Infinity;
  let found: number[] | null = null;
  const chosen: number[] = [];
  const search = (i: number, cost: number, taken: ReadonlyMap<number, number>) => {
    if (cost + (rest[i] ?? 0) >= best - 1e-12) return;
    if (i === choices.length) {
      best = cost;
      found = [...chosen];
      return;
    }
    for (const { empty, cost: own } of choices[i]!) {
      if (cost + own + (rest[i + 1] ?? 0) >= best - 1e-12) break;
      if (taken.has(empty) || !clears(reach, empty, puts[i]!.tool.radius, taken)) continue;
      chosen[i] = empty;
      search(i + 1, cost + own, new Map(taken).set(empty, puts[i]!.tool.radius));
      chosen.length = i;
    }
  };
  search(0, 0, new Map());
  return found;
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

function* orders<T>(items: readonly T[]): Generator<T[]> {
  if (items.length === 0) yield [];
  for (let i = 0; i < items.length; i += 1)
    for (const rest of orders([...items.slice(0, i), ...items.slice(i + 1)])) yield [items[i]!, ...rest];
}
