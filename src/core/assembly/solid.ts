import type { OutlinePoint } from './silhouette.ts';

/** Grams in a cubic millimetre (handbook, from memory). */
const DENSITY = { carbide: 0.0145, steel: 0.00785 } as const;
const GRAVITY = 9.80665;
type Material = keyof typeof DENSITY;

/** A stretch of an outline: millimetres along from the gauge line, radii at both ends, and what it is of. */
export interface Stretch {
  from: number;
  to: number;
  r0: number;
  r1: number;
  material: Material;
}

/** The stretches of half an outline: steel up to `nose`, the cutter's material beyond. */
export function stretches(outline: readonly OutlinePoint[], nose: number, material: Material): Stretch[] {
  return outline.slice(1).flatMap(([to, r1], i) => {
    const [from, r0] = outline[i]!;
    return to > from
      ? [{ from, to, r0, r1, material: from >= nose - 1e-9 ? material : ('steel' as const) }]
      : [];
  });
}

/** Mass in grams, and centre in millimetres from the gauge line, of a truncated cone. */
function solid({ from, to, r0, r1, material }: Stretch) {
  const h = to - from;
  const q = r0 * r0 + r0 * r1 + r1 * r1;
  const mass = ((Math.PI * h * q) / 3) * DENSITY[material];
  const centre = q === 0 ? from : from + (h * (r0 * r0 + 2 * r0 * r1 + 3 * r1 * r1)) / (4 * q);
  return { mass, centre };
}

/** Grams of all stretches together. */
export const massOf = (all: readonly Stretch[]): number =>
  all.reduce((sum, each) => sum + solid(each).mass, 0);

/** Newton metres about the gauge line. */
export const momentOf = (all: readonly Stretch[]): number =>
  all.reduce((sum, each) => {
    const { mass, centre } = solid(each);
    return sum + (mass / 1000) * GRAVITY * (centre / 1000);
  }, 0);
