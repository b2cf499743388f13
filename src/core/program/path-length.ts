/** Positions are millimetres, three axes, as plain numbers: for time and distance, never for keeping. */
/** Millimetres below which a move is none, and two places are one. */
export const STILL = 1e-6;

export interface Point {
  x: number;
  y: number;
  z: number;
}

export const straight = (a: Point, b: Point) => Math.hypot(b.x - a.x, b.y - a.y, b.z - a.z);

/** The plane of an arc as [first axis, second axis, axis across], in the order ISO 841 turns them. */
export type Plane = readonly ['x', 'y', 'z'] | readonly ['z', 'x', 'y'] | readonly ['y', 'z', 'x'];
export const PLANES: Readonly<Record<17 | 18 | 19, Plane>> = {
  17: ['x', 'y', 'z'],
  18: ['z', 'x', 'y'],
  19: ['y', 'z', 'x'],
};

/**
 * Length of a circular (or helical) move from `a` to `b`. The centre is given as an offset from `a`, or by a
 * radius, negative for the arc past half a turn. A full circle is one whose ends meet with a centre given.
 * Returns the chord where no circle fits.
 */
export function arcLength(
  a: Point,
  b: Point,
  clockwise: boolean,
  plane: Plane,
  centre: { first: number; second: number } | null,
  radius: number | null,
): number {
  const [first, second, across] = plane;
  const rise = b[across] - a[across];
  const du = b[first] - a[first];
  const dv = b[second] - a[second];
  const chord = Math.hypot(du, dv);
  let turn: number;
  let r: number;
  if (centre) {
    r = Math.hypot(centre.first, centre.second);
    const from = Math.atan2(-centre.second, -centre.first);
    const to = Math.atan2(dv - centre.second, du - centre.first);
    turn = clockwise ? from - to : to - from;
    if (chord < 1e-9) turn = 2 * Math.PI;
    else if (turn <= 1e-12) turn += 2 * Math.PI;
  } else if (radius !== null && Math.abs(radius) > 0) {
    r = Math.abs(radius);
    const half = Math.asin(Math.min(1, chord / (2 * r)));
    turn = radius > 0 ? 2 * half : 2 * Math.PI - 2 * half;
  } else return straight(a, b);
  return Math.hypot(r * turn, rise);
}

/** Length of a straight move by its parts. */
export const straightLength = (x: number, y: number, z: number) => Math.sqrt(x * x + y * y + z * z);
