import { traitsOf } from './traits.ts';
import { figures, INTERFACES, sweptRadius, type AssemblyShape, type Figure } from '../assembly/silhouette.ts';
import { LEAST_GAP, SAME } from './clearance.ts';
import { changerLayout, type ChangerShape } from './layout.ts';

/** Where two tools that hang side by side come nearest: millimetres between them (below nothing they overlap), and how far below the gauge line. */
export interface Narrowest {
  gap: number;
  depth: number;
}

/** The widest that the figures of a tool reach to one side at a depth; null where nothing of it hangs so deep. */
function widthAt(figures: readonly Figure[], depth: number): number | null {
  let widest: number | null = null;
  for (const figure of figures)
    figure.forEach(([a, p], i) => {
      const [b, q] = figure[(i + 1) % figure.length]!;
      if (depth < Math.min(a, b) || depth > Math.max(a, b)) return;
      // along a level edge both of its ends count
      for (const across of a === b ? [p, q] : [p + ((depth - a) / (b - a)) * (q - p)])
        widest = Math.max(widest ?? 0, Math.abs(across));
    });
  return widest;
}

/**
 * The narrowest place between two tools that hang `apart` millimetres from each other with their gauge lines level: the one
 * number that both radii alone cannot tell, since a wide cutter may pass beside a slim shank. Outlines are straight between
 * their corners, so the narrowest place is at the depth of a corner. Null when one is nowhere as deep as the other.
 */
export function narrowest(a: readonly Figure[], b: readonly Figure[], apart: number): Narrowest | null {
  const depths = [...new Set([...a, ...b].flatMap((figure) => figure.map(([along]) => along)))];
  let best: Narrowest | null = null;
  for (const depth of depths.sort((p, q) => p - q)) {
    const [left, right] = [widthAt(a, depth), widthAt(b, depth)];
    if (left === null || right === null) continue;
    const gap = apart - left - right;
    if (best === null || gap < best.gap - 1e-9) best = { gap, depth };
  }
  return best;
}

/**
 * How two tools hang beside each other: flange beside flange as the pockets are made for, passing with air between, or
 * nearer than the least gap (below nothing they overlap).
 */
export type SideBySide = Narrowest & { how: 'flanges' | 'passes' | 'tooNear' };

/** Null when one is nowhere as deep as the other. */
export function sideBySide(left: AssemblyShape, right: AssemblyShape, apart: number): SideBySide | null {
  const found = narrowest(figures(left), figures(right), apart);
  if (!found) return null;
  if (found.gap >= LEAST_GAP) return { ...found, how: 'passes' };
  const plain = [left, right].every(
    (each) => sweptRadius(each) <= INTERFACES[each.interface].flange / 2 + SAME,
  );
  return { ...found, how: plain ? 'flanges' : 'tooNear' };
}

/** A pocket of a row seen from the side, and how far along the row it hangs, millimetres from the middle one. */
export interface SidePocket {
  number: number;
  along: number;
}

/**
 * The pockets to both sides of one, as one sees them who stands before the magazine: along a ring or chain on and on, along a
 * rack or a row of a tray to its end. A turret is not seen so.
 */
export function sideRow(shape: ChangerShape, centre: number, toEachSide: number): SidePocket[] {
  const { hangs, order } = traitsOf(shape);
  if (!hangs) return [];
  const spots = new Map(changerLayout(shape).map((spot) => [spot.number, spot]));
  const closed = order === 'ring';
  const most = closed ? Math.min(toEachSide, Math.floor((shape.places - 1) / 2)) : toEachSide;
  const go = (direction: 1 | -1): SidePocket[] => {
    const row: SidePocket[] = [];
    let [at, along] = [centre, 0];
    for (let i = 0; i < most; i += 1) {
      const next = closed ? ((at - 1 + direction + shape.places) % shape.places) + 1 : at + direction;
      const [here, there] = [spots.get(at)!, spots.get(next)];
      // a row of a tray ends where the next number stands in another row
      if (!there || (order === 'grid' && here.y !== there.y)) break;
      along += direction * Math.hypot(here.x - there.x, here.y - there.y);
      row.push({ number: next, along });
      at = next;
    }
    return row;
  };
  return [...go(-1).reverse(), { number: centre, along: 0 }, ...go(1)];
}

/**
 * The widest tool that an empty pocket lets hang, millimetres across: what its neighbours leave, each at its widest and with
 * the least gap. Null when nothing stands near enough to matter.
 */
export function widestThatHangs(
  reach: ReadonlyMap<number, readonly { number: number; apart: number }[]>,
  pocket: number,
  radiusAt: (pocket: number) => number | undefined,
  leastGap: number,
): { widest: number; beside: number } | null {
  let found: { widest: number; beside: number } | null = null;
  for (const { number, apart } of reach.get(pocket) ?? []) {
    const radius = radiusAt(number);
    if (radius === undefined) continue;
    const widest = 2 * (apart - radius - leastGap);
    if (found === null || widest < found.widest) found = { widest, beside: number };
  }
  return found;
}
