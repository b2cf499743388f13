import { traitsOf } from './traits.ts';
import { INTERFACES, sweptRadius, type AssemblyShape, type Interface } from '../assembly/silhouette.ts';
import { changerLayout, nearestApart, type ChangerShape } from './layout.ts';

/** A tool as its neighbours meet it. */
export interface StandingTool {
  pocket: number;
  tool: number;
  /** Half its largest width, millimetres. */
  radius: number;
  /** Grams; null when nobody weighed it and no outline says it. */
  mass: number | null;
}

export interface Clash {
  a: StandingTool;
  b: StandingTool;
  /** Millimetres between them; below nothing they overlap. */
  gap: number;
}

/** Air that must be left between two tools in their pockets, millimetres (common practice, no source). */
export const LEAST_GAP = 2;
/** Distances are sines and roots: what is nearer than this is the same, millimetres. */
export const SAME = 1e-6;

const inNanometres = (millimetres: number): number => Math.round(millimetres * 1e6);

/**
 * Whether two tools whose pockets stand so far apart strike each other, or leave less than the gap between them: the one
 * comparison for placing, planning and calling. All in millimetres; compared in whole nanometres, as lengths are kept, so that
 * tools that just touch get the same answer wherever on the ring they hang.
 */
export const strikes = (apart: number, radius: number, other: number, leastGap = 0): boolean =>
  inNanometres(apart) < inNanometres(radius) + inNanometres(other) + inNanometres(leastGap);

/**
 * Half the width of a tool as its neighbours in the magazine meet it, millimetres. A holder's own flange is what the pockets
 * are made for: on the common 40-taper changer the pitch is 2.5 in and so is the flange (H5). So a tool no wider than its
 * flange never counts for more than what leaves the least gap; whatever sticks out past the flange counts in full.
 */
export function metRadius(shape: ChangerShape, end: Interface, radius: number): number {
  const madeFor = (nearestApart(shape) - LEAST_GAP) / 2;
  return radius <= INTERFACES[end].flange / 2 + SAME ? Math.min(radius, madeFor) : radius;
}

/** The same of a whole assembly, by its outline. */
export const hangingRadius = (shape: ChangerShape, assembly: AssemblyShape): number =>
  metRadius(shape, assembly.interface, sweptRadius(assembly));

/** Pairs that would strike each other or come too near: the distance of their pockets against both radii (H5). */
export function clashes(shape: ChangerShape, tools: readonly StandingTool[], leastGap = LEAST_GAP): Clash[] {
  if (!traitsOf(shape).hangs) return [];
  const spots = new Map(changerLayout(shape).map((spot) => [spot.number, spot]));
  return tools.flatMap((a, i) =>
    tools.slice(i + 1).flatMap((b) => {
      const [p, q] = [spots.get(a.pocket), spots.get(b.pocket)];
      if (!p || !q) return [];
      const apart = Math.hypot(p.x - q.x, p.y - q.y);
      return strikes(apart, a.radius, b.radius, leastGap) ? [{ a, b, gap: apart - a.radius - b.radius }] : [];
    }),
  );
}

/** For each pocket the others that a tool in it could strike at all, with their distance: tools up to this radius. */
export function withinReach(
  shape: ChangerShape,
  largestRadius: number,
  leastGap = LEAST_GAP,
): ReadonlyMap<number, readonly { number: number; apart: number }[]> {
  const spots = !traitsOf(shape).hangs ? [] : changerLayout(shape);
  return new Map(
    spots.map((here) => [
      here.number,
      spots
        .map((there) => ({ number: there.number, apart: Math.hypot(here.x - there.x, here.y - there.y) }))
        .filter(
          ({ number, apart }) =>
            number !== here.number && strikes(apart, largestRadius, largestRadius, leastGap),
        ),
    ]),
  );
}

/** Whether a tool of this radius clears what stands within its reach; the radius at a pocket, nothing where it is empty. */
export const clearsAmong = (
  reach: ReturnType<typeof withinReach>,
  pocket: number,
  radius: number,
  radiusAt: (pocket: number) => number | undefined,
  leastGap = LEAST_GAP,
): boolean =>
  (reach.get(pocket) ?? []).every(({ number, apart }) => {
    const other = radiusAt(number);
    return other === undefined || !strikes(apart, radius, other, leastGap);
  });

/** Whether a tool of this radius clears what stands within its reach; radii by pocket. */
export const clears = (
  reach: ReturnType<typeof withinReach>,
  pocket: number,
  radius: number,
  standing: ReadonlyMap<number, number>,
  leastGap = LEAST_GAP,
): boolean => clearsAmong(reach, pocket, radius, (number) => standing.get(number), leastGap);

const layouts = new Map<string, ReadonlyMap<number, { x: number; y: number }>>();
function changerLayoutOf(shape: ChangerShape) {
  const key = `${shape.kind} ${shape.places} ${shape.pitch}`;
  const found = layouts.get(key) ?? new Map(changerLayout(shape).map((spot) => [spot.number, spot]));
  layouts.set(key, found);
  return found;
}

/** What the ring carries: the whole mass in grams, what the spindle holds (pocket 0) with it, and how far it is out of balance, in kilogram millimetres, and towards which pocket. */
export function ringLoad(shape: ChangerShape, tools: readonly StandingTool[]) {
  const spots = changerLayoutOf(shape);
  let [total, x, y, unknown] = [0, 0, 0, 0];
  for (const { pocket, mass } of tools) {
    const spot = spots.get(pocket);
    if (mass === null) unknown += 1;
    if (mass === null) continue;
    total += mass;
    if (!spot) continue;
    x += (mass / 1000) * spot.x;
    y += (mass / 1000) * spot.y;
  }
  const towards = [...spots].reduce<{ number: number; along: number } | null>((best, [number, spot]) => {
    const along = (spot.x * x + spot.y * y) / Math.hypot(spot.x, spot.y);
    return best === null || along > best.along ? { number, along } : best;
  }, null);
  const unbalance = Math.hypot(x, y);
  return { total, unbalance, towards: unbalance > 1e-6 ? (towards?.number ?? null) : null, unknown };
}

/** The diameter that a turret's tools swing, millimetres: its radius and the tool that stands out furthest. */
export const turretSwing = (shape: ChangerShape, standOut: readonly number[]): number =>
  2 *
  (Math.max(0, ...changerLayout(shape).map((spot) => Math.hypot(spot.x, spot.y))) + Math.max(0, ...standOut));
