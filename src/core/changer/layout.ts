import { traitsOf, type ChangerKind } from './traits.ts';
export interface ChangerShape {
  kind: ChangerKind;
  places: number;
  /** Distance from one pocket's centre to the next, millimetres. */
  pitch: number;
}

/** Where a pocket stands, millimetres from the changer's middle; `outward` is the direction a tool on a turret points, in radians. */
export interface PlaceSpot {
  number: number;
  x: number;
  y: number;
  outward: number;
}

/** Radius of a ring on which `places` pockets stand a chord of `pitch` apart. */
export const ringRadius = (places: number, pitch: number) => pitch / (2 * Math.sin(Math.PI / places));

/** Every pocket of a changer at true scale. Pocket 1 is at the top (on a rack and a tray, at the left), numbers run clockwise. */
export function changerLayout({ kind, places, pitch }: ChangerShape): PlaceSpot[] {
  const { drawn } = traitsOf({ kind });
  if (drawn === 'row')
    return along(places, (i) => ({ x: (i - (places - 1) / 2) * pitch, y: 0, outward: -Math.PI / 2 }));
  if (drawn === 'grid') return tray(places, pitch);
  if (drawn === 'wheels') return chain(places, pitch);
  const radius = ringRadius(places, pitch);
  return along(places, (i) => {
    const angle = (2 * Math.PI * i) / places - Math.PI / 2;
    return { x: radius * Math.cos(angle), y: radius * Math.sin(angle), outward: angle };
  });
}

const along = (places: number, spot: (index: number) => Omit<PlaceSpot, 'number'>): PlaceSpot[] =>
  Array.from({ length: places }, (_, i) => ({ number: i + 1, ...spot(i) }));

/** Cells in a row of a tray. */
export const trayColumns = (places: number): number => Math.ceil(Math.sqrt(places * 1.8));

function tray(places: number, pitch: number): PlaceSpot[] {
  const columns = trayColumns(places);
  const rows = Math.ceil(places / columns);
  return along(places, (i) => ({
    x: ((i % columns) - (columns - 1) / 2) * pitch,
    y: (Math.floor(i / columns) - (rows - 1) / 2) * pitch,
    outward: -Math.PI / 2,
  }));
}

/** Pockets of a chain in half a turn of its wheels. */
const IN_HALF_RING = 6;
const wheelRadius = (pitch: number) => (IN_HALF_RING * pitch) / Math.PI;

/** The nearest that two pockets stand to each other, millimetres: round a chain's wheel the pitch lies on the arc. */
export const nearestApart = ({ kind, pitch }: ChangerShape): number =>
  traitsOf({ kind }).drawn === 'wheels'
    ? 2 * wheelRadius(pitch) * Math.sin(Math.PI / (2 * IN_HALF_RING))
    : pitch;

/** A chain folded over two wheels: straight runs above and below, half rings at the ends. */
function chain(places: number, pitch: number): PlaceSpot[] {
  const radius = wheelRadius(pitch);
  const straightRun = (places / 2 - IN_HALF_RING) * pitch;
  return along(places, (i) => onOval(i * pitch, straightRun, radius));
}

function onOval(distance: number, run: number, radius: number): Omit<PlaceSpot, 'number'> {
  const half = Math.PI * radius;
  if (distance < run) return { x: distance - run / 2, y: -radius, outward: -Math.PI / 2 };
  if (distance < run + half) {
    const angle = (distance - run) / radius - Math.PI / 2;
    return { x: run / 2 + radius * Math.cos(angle), y: radius * Math.sin(angle), outward: angle };
  }
  if (distance < 2 * run + half)
    return { x: run / 2 - (distance - run - half), y: radius, outward: Math.PI / 2 };
  const angle = (distance - 2 * run - half) / radius + Math.PI / 2;
  return { x: -run / 2 + radius * Math.cos(angle), y: radius * Math.sin(angle), outward: angle };
}

/** With the spindle, a changer holds one tool more than it has pockets; a turret and a tray have no place beside them (H4). */
export const toolsHeld = ({ kind, places }: ChangerShape) =>
  traitsOf({ kind }).spindle ? places + 1 : places;
