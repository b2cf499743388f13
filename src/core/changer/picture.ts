import { traitsOf } from './traits.ts';
import { inUnit, type Length } from '../units/length.ts';
import { changerLayout, ringRadius, type ChangerShape, type PlaceSpot } from './layout.ts';

/** How a changer is laid out as a drawing, everything in millimetres at one scale. */
export interface Picture {
  /** Every pocket, and the spindle as number 0 where there is one. */
  spots: PlaceSpot[];
  box: { left: number; top: number; width: number; height: number };
  /** Where the pockets to both sides of one are drawn from the side: the gauge line of the middle one; null: nowhere. */
  side: { x: number; y: number; toEachSide: number } | null;
  /** Middle line of the loading tray before an outside tray; null where there is none. */
  loadingTop: number | null;
  hub: number | null;
}

export interface PictureWish {
  /** The longest tool, from gauge line to tip, and half the widest; null: no view from the side. */
  side: { tallest: number; halfWidest: number } | null;
  loading: boolean;
  /** A small drawing without words: no room is left for them. */
  still: boolean;
}

/** Half of what a place is drawn as wide as, millimetres: a cell as large as it is, every other by the pitch; 0 is the spindle. */
export const drawnRadius = (shape: ChangerShape, number: number, cell: Length | null): number =>
  traitsOf(shape).drawn === 'spokes'
    ? shape.pitch * 0.26
    : cell === null
      ? shape.pitch * (number === 0 ? 0.46 : 0.4)
      : inUnit(cell, 'mm') / 2;

/** The size of a word in a place, millimetres; the disc of its tool's life stands below it by the same measure. */
export const drawnText = (shape: ChangerShape): number =>
  shape.pitch * { spokes: 0.2, wheels: 0.34, row: 0.27, grid: 0.27, circle: 0.27 }[traitsOf(shape).drawn];

/** How far a tool on a turret may stand out of the drawing's circle, millimetres. */
const TURRET_REACH = 95;

/**
 * Lays a changer out for drawing. The spindle stands in the middle of a ring, and below everything else. The view from the side
 * goes into a ring, above the spindle, when it fits there at the same scale; else below. A rack shows all of its forks.
 */
export function picture(shape: ChangerShape, { side, loading, still }: PictureWish): Picture {
  const { pitch, places } = shape;
  const pockets = changerLayout(shape);
  const { drawn } = traitsOf(shape);
  const turret = drawn === 'spokes';
  const ring = drawn === 'circle';
  const radius = ring || turret ? ringRadius(places, pitch) : 0;
  const bottom = Math.max(...pockets.map((spot) => spot.y));
  const loadingTop = loading ? bottom + 1.4 * pitch : null;
  const below = loadingTop === null ? bottom : loadingTop + 0.3 * pitch;
  const inside = side && insideOf(shape, pockets, radius, side);
  // each fork has its tool below it, and the spindle stands below them
  const hanging = drawn === 'row' && side ? { x: 0, y: 0.95 * pitch, toEachSide: places } : null;
  const spindle: PlaceSpot = {
    number: 0,
    x: 0,
    y: ring
      ? inside
        ? SPINDLE_DOWN * radius
        : 0
      : hanging
        ? hanging.y + side!.tallest + 0.7 * pitch
        : below + (loading ? 1.2 : 1.5) * pitch,
    outward: -Math.PI / 2,
  };
  const spots = turret ? pockets : [...pockets, spindle];
  const reach = turret ? TURRET_REACH : pitch * 0.62;
  const xs = spots.map((spot) => spot.x);
  const ys = spots.map((spot) => spot.y);
  const words = turret || ring || still ? 0 : pitch * 0.35;
  const [left, right, top] = [
    Math.min(...xs) - reach,
    Math.max(...xs) + reach,
    Math.min(...ys) - reach - (drawn === 'row' && !still ? 0.1 * pitch : 0),
  ];
  let lowest = Math.max(...ys) + reach + words;
  let view = inside ?? hanging;
  if (side && !view && !turret) {
    const room = Math.floor((right - left - 2 * side.halfWidest) / (2 * pitch));
    view = { x: 0, y: lowest + 0.5 * pitch, toEachSide: Math.max(1, Math.min(room, 6)) };
    lowest = view.y + side.tallest + 0.75 * pitch;
  }
  return {
    spots,
    box: { left, top, width: right - left, height: lowest - top },
    side: view,
    loadingTop,
    hub: turret ? radius : ring ? radius - 0.7 * pitch : null,
  };
}

/** Shares of the ring's radius: gauge line above the middle, spindle below it. */
const GAUGE_UP = 0.25;
const SPINDLE_DOWN = 0.62;

function insideOf(
  { kind, pitch }: ChangerShape,
  pockets: readonly PlaceSpot[],
  radius: number,
  side: NonNullable<PictureWish['side']>,
): Picture['side'] {
  const { drawn } = traitsOf({ kind });
  if (drawn === 'circle') return insideRing(radius, pitch, side);
  if (drawn !== 'wheels') return null;
  // between the upper and the lower run
  const upper = Math.min(...pockets.map((spot) => spot.y));
  const y = upper + 0.9 * pitch;
  if (y + side.tallest + 0.5 * pitch > -upper) return null;
  const straight = Math.max(...pockets.filter((spot) => spot.y === upper).map((spot) => spot.x));
  const toEachSide = Math.floor((straight - side.halfWidest) / pitch);
  return toEachSide >= 1 ? { x: 0, y, toEachSide: Math.min(8, toEachSide) } : null;
}

function insideRing(radius: number, pitch: number, side: NonNullable<PictureWish['side']>): Picture['side'] {
  const y = -GAUGE_UP * radius;
  const free = radius - 0.62 * pitch;
  const deepest = SPINDLE_DOWN * radius - 0.5 * pitch;
  if (y + side.tallest + 0.3 * pitch > deepest) return null;
  const half = Math.sqrt(Math.max(0, free ** 2 - (y - 0.1 * pitch) ** 2));
  const toEachSide = Math.min(4, Math.floor((half - side.halfWidest) / pitch));
  return toEachSide >= 1 ? { x: 0, y, toEachSide } : null;
}
