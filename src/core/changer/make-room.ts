import { changeSeconds, type ChangeTimes } from './change-time.ts';
import { clears, withinReach } from './clearance.ts';
import type { ChangerShape } from './layout.ts';
import { windowAbout } from './neighbours.ts';

/** A tool in the magazine or the spindle. */
export interface RoomTool {
  tool: number;
  heavy: boolean;
  /** Half its largest width, millimetres. */
  radius: number;
  /** The only pocket it may be put into (declared wide, or kept for the probe); null: any. */
  home: number | null;
}

export interface RoomPocket {
  number: number;
  content: RoomTool | null;
  /** In service, not reserved, not beside a declared wide pocket, and not declared itself. */
  usable: boolean;
}

/** A random-access magazine as it stands. */
export interface RoomState {
  shape: ChangerShape;
  pockets: readonly RoomPocket[];
  spindle: RoomTool | null;
  /** The pocket that was called last: where the magazine stands. */
  at: number;
}

/** One call of a pocket: the spindle's content and the pocket's change places; nothing else moves (H5). */
export interface Call {
  pocket: number;
  /** T that goes from the spindle into the pocket; null: the spindle was empty. */
  puts: number | null;
  /** T that comes to the spindle; null: the pocket was empty. */
  takes: number | null;
}

export interface RoomWish {
  /** Middle of the window; null: the best of all. */
  centre: number | null;
  /** Pockets in a row: three for a wide tool, five for two that share the gap. */
  span: number;
  /** The spindle must be empty at the end, to load through it. */
  spindleEmpty: boolean;
}

export interface RoomPlan {
  centre: number;
  window: number[];
  calls: Call[];
  seconds: number;
  heavyMoved: number;
}

export type RoomAnswer = { ok: true; plan: RoomPlan; compared: number } | { ok: false; reason: string };

/**
 * The provably fewest pocket calls that empty a window. Each tool in the window must come to the spindle and leave it again
 * outside, and a call does at most one of each: with k tools in it that is 2k calls from an empty spindle, one more when the
 * spindle has to be emptied first, one less when it may keep the last tool. Every such plan has this shape, so among them the
 * shortest time is a choice of order and of empties, which is searched in full; then the fewest heavy tools decide.
 */
export function makeRoom(state: RoomState, wish: RoomWish, times: ChangeTimes): RoomAnswer {
  const centres = wish.centre === null ? state.pockets.map((pocket) => pocket.number) : [wish.centre];
  const reasons: string[] = [];
  const windows: { centre: number; window: number[]; calls: number; heavy: number }[] = [];
  for (const centre of centres) {
    const window = windowAbout(state.shape, centre, wish.span);
    const refusal = window
      ? windowRefusal(state, window, wish)
      : `There are not ${wish.span} pockets in a row around ${centre}.`;
    if (refusal || !window) reasons.push(refusal ?? '');
    else windows.push({ centre, window, ...costOf(state, window, wish) });
  }
  const radii = [state.spindle, ...state.pockets.map((pocket) => pocket.content)].map(
    (tool) => tool?.radius ?? 0,
  );
  const reach = withinReach(state.shape, Math.max(...radii));
  const fewest = Math.min(...windows.map((each) => each.calls));
  let best: RoomPlan | null = null;
  for (const { centre, window } of windows
    .filter((each) => each.calls === fewest)
    .sort((a, b) => a.heavy - b.heavy)) {
    const plan = quickest(state, reach, centre, window, wish, times, best?.seconds ?? Infinity);
    if (plan && (best === null || better(plan, best))) best = plan;
  }
  if (best) return { ok: true, plan: best, compared: windows.length };
  return {
    ok: false,
    reason:
      wish.centre === null && reasons.length === centres.length
        ? `No ${wish.span} pockets in a row can be emptied: ${commonest(reasons)}`
        : (reasons[0] ??
          'The tools of the window clear the others in none of the empty pockets: take one out by hand first.'),
  };
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
    const plan = written(state, centre, window, carried, into, times);
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
  const choices = puts.map(({ tool }, i) =>
    allowed
      .get(tool.tool)!
      .map((empty) => ({ empty, cost: costs[i]!(empty) }))
      .sort((a, b) => a.cost - b.cost),
  );
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

function written(
  state: RoomState,
  centre: number,
  window: number[],
  carried: readonly Carried[],
  into: readonly number[],
  times: ChangeTimes,
): RoomPlan {
  const calls: Call[] = [];
  let [at, seconds] = [state.at, 0];
  const call = (pocket: number, puts: RoomTool | null, takes: RoomTool | null) => {
    calls.push({ pocket, puts: puts?.tool ?? null, takes: takes?.tool ?? null });
    seconds += changeSeconds(
      state.shape,
      { ...times, preStaging: false },
      at,
      pocket,
      Boolean(puts?.heavy || takes?.heavy),
    );
    at = pocket;
  };
  carried.forEach(({ pocket, tool }, i) => {
    if (pocket !== null) call(pocket, null, tool);
    if (i < into.length) call(into[i]!, tool, null);
  });
  return { centre, window, calls, seconds, heavyMoved: carried.filter((each) => each.tool.heavy).length };
}

function* orders<T>(items: readonly T[]): Generator<T[]> {
  if (items.length === 0) yield [];
  for (let i = 0; i < items.length; i += 1)
    for (const rest of orders([...items.slice(0, i), ...items.slice(i + 1)])) yield [items[i]!, ...rest];
}
