import type { ChangeTimes } from './change-time.ts';
import { changeSeconds } from './change-time.ts';
import { clearsAmong, LEAST_GAP, SAME, type withinReach } from './clearance.ts';
import type { RoomState, RoomTool, RoomWish } from './room.ts';

/** Arrangements looked at before a detour is given up, so that an answer comes within about a second. */
export const MOST_ARRANGEMENTS = 30_000;

/** How many arrangements may still be looked at; counted down by every search that shares it. */
export interface Patience {
  left: number;
}

/**
 * Pockets to call, in order, that empty a window in no more than `most` calls, when tools outside it must make way too:
 * because a tool of the window clears the others in none of the empty pockets. Every arrangement that so many calls can
 * reach is tried, the nearest pocket first, until one is found: called with one more each time, it finds the fewest. Null when
 * there is none, or when patience ran out (then nothing is proven).
 *
 * What is left to do is never less than two calls for each tool in the window and one for a full spindle, less one where the
 * spindle may keep the last. A tool that clears nowhere needs more: wherever it goes, each tool beside that place must come to
 * the spindle and leave it, which is two calls (one, where a slimmer tool may take its place by the same call), and one that
 * stands in the place itself must be put somewhere, which is one.
 * Branches that cannot end in time by that count are cut without loss.
 */
export function detour(
  state: RoomState,
  reach: ReturnType<typeof withinReach>,
  window: readonly number[],
  wish: RoomWish,
  times: ChangeTimes,
  most: number,
  patience: Patience,
): number[] | null {
  const inWindow = new Set(window);
  const content = new Map(state.pockets.map((pocket) => [pocket.number, pocket.content]));
  const moved = new Map<number, number>();
  let spindle = state.spindle;
  let waiting = window.filter((number) => content.get(number)).length;
  const calls: number[] = [];
  /** With how many calls left an arrangement was tried in vain. */
  const tried = new Map<string, number>();

  const counted = (tools: number, full: boolean) =>
    tools === 0 ? Number(full && wish.spindleEmpty) : 2 * tools + Number(full) - Number(!wish.spindleEmpty);
  /** Calls beyond the count that this tool needs, wherever it goes. */
  function beyond({ radius, home }: RoomTool): number {
    let fewest = Infinity;
    for (const { number, usable } of state.pockets) {
      if (fewest === 0) break;
      if (home !== null ? home !== number : !usable || inWindow.has(number)) continue;
      let calls = content.get(number) ? 1 : 0;
      for (const beside of reach.get(number) ?? []) {
        const other = content.get(beside.number);
        // what hangs in the window leaves it anyway
        if (!other || inWindow.has(beside.number)) continue;
        if (!strikes(beside.apart, radius, other.radius)) continue;
        if (!mayLeave(beside.number, other)) calls = Infinity;
        else calls += strikes(beside.apart, radius, slimmest) ? 2 : 1;
      }
      fewest = Math.min(fewest, calls);
    }
    return fewest;
  }
  const strikes = (apart: number, a: number, b: number) => apart - a - b < LEAST_GAP - SAME;
  const slimmest = Math.min(
    ...[state.spindle, ...state.pockets.map((pocket) => pocket.content)].map(
      (tool) => tool?.radius ?? Infinity,
    ),
  );
  const mayLeave = (pocket: number, { home }: RoomTool) => home === null && usableAt.has(pocket);
  const usableAt = new Set(state.pockets.flatMap(({ number, usable }) => (usable ? [number] : [])));
  function leastLeft(): number {
    const count = counted(waiting, spindle !== null);
    if (count === 0) return 0;
    const own = [spindle, ...window.map((number) => content.get(number)!)].flatMap((tool) =>
      tool ? [beyond(tool)] : [],
    );
    // one of them may stay in the spindle
    own.sort((a, b) => b - a);
    return count + ((wish.spindleEmpty ? own[0] : own[1]) ?? 0);
  }
  const arrangement = () =>
    `${spindle?.tool ?? 0} ${[...moved]
      .sort((a, b) => a[0] - b[0])
      .map(([pocket, tool]) => `${pocket}:${tool}`)
      .join()}`;
  const mayCall = (number: number, usable: boolean) => {
    if (number === calls.at(-1)) return false;
    if (spindle === null) return usable && content.get(number) !== null;
    if (spindle.home !== null ? spindle.home !== number : !usable) return false;
    return clearsAmong(reach, number, spindle.radius, (pocket) => content.get(pocket)?.radius);
  };
  const call = (number: number) => {
    const [puts, takes] = [spindle, content.get(number)!];
    content.set(number, puts);
    moved.set(number, puts?.tool ?? 0);
    spindle = takes;
    if (inWindow.has(number)) waiting += Number(puts !== null) - Number(takes !== null);
  };
  const start = new Map(state.pockets.map((pocket) => [pocket.number, pocket.content?.tool ?? 0]));

  function search(left: number): boolean {
    const least = leastLeft();
    if (least > left) return false;
    if (least === 0) return true;
    const key = arrangement();
    if ((tried.get(key) ?? -1) >= left || (patience.left -= 1) < 0) return false;
    tried.set(key, left);
    const at = calls.at(-1) ?? state.at;
    const choices = state.pockets
      .filter((pocket) => mayCall(pocket.number, pocket.usable))
      .map(({ number }) => ({
        number,
        after: leastAfter(number),
        seconds: changeSeconds(state.shape, { ...times, preStaging: false }, at, number, false),
      }))
      .filter((choice) => choice.after < left)
      .sort((a, b) => a.after - b.after || a.seconds - b.seconds);
    for (const { number } of choices) {
      const was = moved.get(number);
      call(number);
      if (moved.get(number) === start.get(number)) moved.delete(number);
      calls.push(number);
      if (search(left - 1)) return true;
      calls.pop();
      call(number);
      if (was === undefined) moved.delete(number);
      else moved.set(number, was);
    }
    return false;
  }
  /** What would be left at the least after a call. */
  function leastAfter(number: number): number {
    const takes = content.get(number) !== null;
    const more = inWindow.has(number) ? Number(spindle !== null) - Number(takes) : 0;
    return counted(waiting + more, takes);
  }
  return search(most) ? calls : null;
}
