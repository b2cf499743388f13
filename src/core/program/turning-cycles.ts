import { cutSeconds, type CutState } from './cut-time.ts';

/** A corner of a turned contour: diameter and length, millimetres, and the feed that reaches it (0: as before). */
export interface Corner {
  x: number;
  z: number;
  feed: number;
}

/** What a tool went through, and how long it took. */
export interface Swept {
  seconds: number;
  distance: number;
}

/** Passes of one cycle at most: a step of next to nothing would never end. */
export const MOST_PASSES = 100_000;

export const repeated = (once: Swept, times: number): Swept => ({
  seconds: once.seconds * times,
  distance: once.distance * times,
});

const leg = (a: Corner, b: Corner) => Math.hypot((b.x - a.x) / 2, b.z - a.z);

/** Seconds and millimetres to follow a contour once (G70, and the last pass of a roughing cycle). */
export function followContour(contour: readonly Corner[], state: CutState) {
  let seconds = 0;
  let distance = 0;
  for (let i = 1; i < contour.length; i += 1) {
    const [a, b] = [contour[i - 1]!, contour[i]!];
    const length = leg(a, b);
    seconds += cutSeconds(length, b.feed > 0 ? { ...state, feed: b.feed } : state, a.x, b.x);
    distance += length;
  }
  return { seconds, distance };
}

/**
 * Longitudinal roughing (G71) from `start` to a contour: passes of `depth` (on the radius), each from the start
 * in Z to where the contour, less the stock, stands at that diameter; then once along the contour.
 */
export function roughLengthwise(
  start: { x: number; z: number },
  contour: readonly Corner[],
  depth: number,
  stock: { x: number; z: number },
  state: CutState,
) {
  const along = followContour(contour, state);
  if (depth <= 0 || contour.length < 2) return along;
  const extreme = contour.reduce(
    (best, c) => (Math.abs(c.x - start.x) > Math.abs(best - start.x) ? c.x : best),
    start.x,
  );
  const inward = Math.sign(extreme - start.x);
  const goal = extreme - inward * Math.abs(stock.x);
  let { seconds, distance } = along;
  let passes = 0;
  for (let x = start.x + inward * 2 * depth; inward * (goal - x) > 1e-9; x += inward * 2 * depth) {
    if ((passes += contour.length) > MOST_PASSES) break;
    const z = reachAt(contour, x, inward);
    if (z === null) continue;
    const length = Math.abs(z + stock.z - start.z);
    seconds += cutSeconds(length, state, x);
    distance += length;
  }
  return { seconds, distance };
}

/** How far a pass at diameter x goes: the first place where the contour stands in its way. */
function reachAt(contour: readonly Corner[], x: number, inward: number): number | null {
  for (let i = 1; i < contour.length; i += 1) {
    const [a, b] = [contour[i - 1]!, contour[i]!];
    if (inward * (a.x - x) >= 0 && inward * (b.x - x) < 0) {
      const share = b.x === a.x ? 0 : (x - a.x) / (b.x - a.x);
      return a.z + share * (b.z - a.z);
    }
  }
  return contour.at(-1)!.z;
}

/** To which diameter a pass at z goes: where the contour first stands in its way; null: nowhere. What lies at the start itself is the way down to it. */
function facedTo(contour: readonly Corner[], z: number, from: number): number | null {
  let nearest: number | null = null;
  for (let i = 1; i < contour.length; i += 1) {
    const [a, b] = [contour[i - 1]!, contour[i]!];
    const there = (a.x === from && b.x === from) || Math.min(a.z, b.z) > z || Math.max(a.z, b.z) < z;
    if (there || a.z === b.z) continue;
    const x = a.x + ((z - a.z) / (b.z - a.z)) * (b.x - a.x);
    if (nearest === null || Math.abs(x - from) < Math.abs(nearest - from)) nearest = x;
  }
  return nearest;
}

/** Facing in passes (G72): the same with the axes exchanged. `depth` is along Z. */
export function roughFacing(
  start: { x: number; z: number },
  contour: readonly Corner[],
  depth: number,
  state: CutState,
) {
  const along = followContour(contour, state);
  if (depth <= 0 || contour.length < 2) return along;
  let { seconds, distance } = along;
  const goal = Math.min(...contour.map((c) => c.z));
  const innermost = Math.min(...contour.map((c) => c.x));
  let passes = 0;
  for (let z = start.z - depth; z > goal + 1e-9 && passes++ < MOST_PASSES; z -= depth) {
    const to = facedTo(contour, z, start.x) ?? innermost;
    const length = Math.abs(start.x - to) / 2;
    seconds += cutSeconds(length, state, start.x, to);
    distance += length;
  }
  return { seconds, distance };
}

/** Passes of a threading cycle whose chip area stays the same: the k-th pass goes to first × √k (G76). */
export function threadPasses(height: number, first: number, finishing: number): number {
  if (height <= 0 || first <= 0) return Math.max(1, finishing);
  return Math.min(MOST_PASSES, Math.ceil((height / first) ** 2 - 1e-9)) + finishing;
}
