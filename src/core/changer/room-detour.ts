import { searchCalls, type CallSearch, type Patience, type Stand } from './call-search.ts';
import { LEAST_GAP, strikes, type withinReach } from './clearance.ts';
import { indexSteps } from './neighbours.ts';
import type { RoomState, RoomTool, RoomWish } from './room.ts';

/** Arrangements reached before a detour is given up: some seconds on a large magazine. */
export const MOST_ARRANGEMENTS = 300_000;

/** Tools of one kind: they may be taken for one another, since they hang alike and belong nowhere. */
interface Kind {
  radius: number;
  home: number | null;
}

/**
 * Looks for rows of calls that empty a window when tools outside it must make way too: because a tool of the window clears the
 * others in none of the empty pockets. Asked for one call more each time, it finds the fewest.
 *
 * What is left to do is never less than two calls for each tool in the window and one for a full spindle, less one where the
 * spindle may keep the last. A tool that clears nowhere needs more: wherever it goes, each tool beside that place must come to
 * the spindle and leave it, which is two calls (one, where a slimmer tool may take its place by the same call), and one that
 * stands in the place itself must be put somewhere, which is one.
 */
export function detour(
  state: RoomState,
  reach: ReturnType<typeof withinReach>,
  window: readonly number[],
  wish: RoomWish,
  patience: Patience,
): CallSearch {
  const places = state.shape.places;
  const inWindow = new Uint8Array(places + 1);
  for (const pocket of window) inWindow[pocket] = 1;
  const usable = new Uint8Array(places + 1);
  for (const pocket of state.pockets) usable[pocket.number] = Number(pocket.usable);
  const { kinds, start } = byKinds(state);
  const near = Array.from({ length: places + 1 }, (_, pocket) => reach.get(pocket) ?? []);
  const strike = (apart: number, a: number, b: number) => strikes(apart, a, b, LEAST_GAP);
  const slimmest = Math.min(...kinds.slice(1).map((kind) => kind.radius));

  const mayHang = (stand: Stand, kind: number, pocket: number) => {
    const { radius, home } = kinds[kind]!;
    if (home !== null ? home !== pocket : usable[pocket] === 0) return false;
    for (const { number, apart } of near[pocket]!) {
      const other = stand[number]!;
      if (other > 0 && strike(apart, radius, kinds[other]!.radius)) return false;
    }
    return true;
  };
  const counted = (tools: number, full: boolean) =>
    tools === 0 ? Number(full && wish.spindleEmpty) : 2 * tools + Number(full) - Number(!wish.spindleEmpty);
  /** Calls beyond the count that a tool of this kind needs, wherever it goes. */
  function beyond(stand: Stand, kind: number): number {
    const { radius, home } = kinds[kind]!;
    let fewest = Infinity;
    for (let pocket = 1; pocket <= places && fewest > 0; pocket += 1) {
      if (home !== null ? home !== pocket : usable[pocket] === 0 || inWindow[pocket] === 1) continue;
      let calls = stand[pocket]! > 0 ? 1 : 0;
      for (const { number, apart } of near[pocket]!) {
        const other = stand[number]!;
        // what hangs in the window leaves it anyway
        if (other === 0 || inWindow[number] === 1 || !strike(apart, radius, kinds[other]!.radius)) continue;
        if (kinds[other]!.home !== null || usable[number] === 0) calls = Infinity;
        else calls += strike(apart, radius, slimmest) ? 2 : 1;
      }
      fewest = Math.min(fewest, calls);
    }
    return fewest;
  }
  function leastLeft(stand: Stand): number {
    const waiting = window.filter((pocket) => stand[pocket]! > 0);
    const count = counted(waiting.length, stand[0]! > 0);
    if (count === 0) return 0;
    const own = [...new Set([0, ...waiting].map((place) => stand[place]!))].flatMap((kind) =>
      kind > 0 ? [beyond(stand, kind)] : [],
    );
    if (wish.spindleEmpty) return count + Math.max(...own);
    // one of them may stay in the spindle, with all of its kind counted once
    own.sort((a, b) => b - a);
    return count + (own[1] ?? 0);
  }
  return searchCalls(
    {
      start,
      leastLeft,
      mayCall: (stand, pocket) =>
        stand[0] === 0
          ? usable[pocket] === 1
          : mayHang(stand, stand[0]!, pocket) &&
            (stand[pocket] === 0 || kinds[stand[pocket]!]!.home === null),
      order: (pocket, before) => indexSteps(state.shape, before ?? state.at, pocket),
    },
    patience,
  );
}

function byKinds(state: RoomState): { kinds: Kind[]; start: Stand } {
  const kinds: Kind[] = [{ radius: 0, home: null }];
  const known = new Map<string, number>();
  const kindOf = (tool: RoomTool | null) => {
    if (!tool) return 0;
    const key = `${tool.radius} ${tool.heavy} ${tool.home}`;
    const kind = known.get(key) ?? kinds.push({ radius: tool.radius, home: tool.home }) - 1;
    known.set(key, kind);
    return kind;
  };
  const start = new Uint16Array(state.shape.places + 1);
  start[0] = kindOf(state.spindle);
  for (const { number, content } of state.pockets) start[number] = kindOf(content);
  return { kinds, start };
}
