import { sweptRadius } from '../assembly/silhouette.ts';
import { turningFiguresStanding } from '../assembly/turning-figure.ts';
import { litPath, shareLeft } from '../life/phase.ts';
import { clashes, hangingRadius } from './clearance.ts';
import type { ChangerShape } from './layout.ts';
import { drawnRadius, drawnText, picture } from './picture.ts';
import type { PlaceRow } from './place.ts';
import { traitsOf } from './traits.ts';
import { pocketsTaken } from './wide.ts';

/** Discs of one size: a path of points, each drawn by a round line end as wide as the disc. */
export interface Dots {
  /** Millimetres. */
  radius: number;
  path: string;
}

/**
 * A changer as a small picture without words of its own: what is alike in it is one path, so that forty machines fit a page. Millimetres from
 * the changer's middle, to a tenth.
 */
export interface Glance {
  box: string;
  pitch: number;
  turret: boolean;
  hub: number | null;
  pockets: Dots[];
  /** Kept for the probe, and empty. */
  reserved: string;
  /** Out of service: the pockets, and the cross over each. */
  out: Dots[];
  crosses: string;
  /** Declared wide: a dashed ring about the pocket. */
  wide: string;
  /** Kept free beside a wide tool. */
  beside: string;
  tools: Dots[];
  /** On a turret tools are seen from the side. */
  figures: string;
  heavy: string;
  /** Life left of what is counted: the disc, and what of it is lit. */
  dials: Dots[];
  lit: string;
  flagged: string;
  /** Not measured since it was put there: a dashed ring about its disc. */
  unmeasured: string;
  struck: string;
  loading: { places: number; top: number } | null;
  /** What may be written where it is shown large enough. */
  names: { x: number; y: number; tool: number; size: number }[];
}

const short = (value: number): string => String(Math.round(value * 10) / 10);
const at = (x: number, y: number): string => `${short(x)} ${short(y)}`;
const point = (x: number, y: number): string => `M${at(x, y)}h0`;
const ring = (x: number, y: number, radius: number): string => {
  const [r, d] = [short(radius), short(2 * radius)];
  return `M${at(x - radius, y)}a${r} ${r} 0 1 0 ${d} 0a${r} ${r} 0 1 0 -${d} 0Z`;
};
const closed = (points: readonly (readonly [number, number])[]): string =>
  `M${points.map(([x, y]) => at(x, y)).join('L')}Z`;
const cross = (x: number, y: number, arm: number): string =>
  `M${at(x - arm, y - arm)}L${at(x + arm, y + arm)}M${at(x + arm, y - arm)}L${at(x - arm, y + arm)}`;

/** Discs by their radius, each radius once. */
function dots(discs: readonly { x: number; y: number; radius: number }[]): Dots[] {
  const found = new Map<string, string>();
  for (const { x, y, radius } of discs)
    found.set(short(radius), (found.get(short(radius)) ?? '') + point(x, y));
  return [...found].map(([radius, path]) => ({ radius: Number(radius), path }));
}

/** The picture of a changer with what stands in it, and of the tray that feeds it, if it has one. */
export function glanceOf(
  shape: ChangerShape,
  places: readonly PlaceRow[],
  loadingPlaces: number | null,
): Glance {
  const laid = picture(shape, { still: true, loading: loadingPlaces !== null, side: null });
  const [turret, { pitch }] = [traitsOf(shape).drawn === 'spokes', shape];
  const byNumber = new Map(places.map((place) => [place.number, place]));
  const all = laid.spots.flatMap((spot) => {
    const place = byNumber.get(spot.number);
    return place ? [{ ...spot, place, tool: place.assembly }] : [];
  });
  const spotOf = new Map(all.map((each) => [each.number, each]));
  const wide = all.filter(({ place }) => place.wide).map(({ number }) => number);
  const beside = new Set([...pocketsTaken(shape, wide)].filter((number) => !wide.includes(number)));
  const radiusOf = ({ number, place }: (typeof all)[number]) => drawnRadius(shape, number, place.cell);
  const pocket = (each: (typeof all)[number]) => ({ x: each.x, y: each.y, radius: radiusOf(each) });
  const held = all.flatMap((each) => (each.tool ? [{ ...each, tool: each.tool }] : []));
  /** Of a word under the middle; the disc of its life stands below it. */
  const text = drawnText(shape);
  const dial = text * 0.36;
  const low = (y: number) => y + text * 0.75;
  const counted = held.filter(({ tool }) => !tool.flag && tool.fullLife);
  const struck = clashes(
    shape,
    held.flatMap(({ number, tool, place }) =>
      place.kind === 'pocket'
        ? [{ pocket: number, tool: place.tool!, radius: hangingRadius(shape, tool), mass: null }]
        : [],
    ),
    0,
  );
  const joined = <T>(of: readonly T[], draw: (each: T) => string) => of.map(draw).join('');
  const kept = all.filter(({ place, tool }) => place.reserved && !tool && place.inService && !turret);
  const { box } = laid;
  return {
    box: [box.left, box.top, box.width, box.height].map(short).join(' '),
    pitch,
    turret,
    hub: laid.hub,
    pockets: dots(all.filter((each) => each.place.inService && !kept.includes(each)).map(pocket)),
    reserved: joined(kept, (each) => ring(each.x, each.y, radiusOf(each))),
    out: dots(all.filter(({ place }) => !place.inService).map(pocket)),
    crosses: joined(
      all.filter(({ place }) => !place.inService),
      ({ x, y }) => cross(x, y, text),
    ),
    wide: turret
      ? ''
      : joined(
          all.filter(({ place }) => place.wide),
          ({ x, y }) => ring(x, y, pitch * 0.62),
        ),
    beside: joined(
      all.filter(({ number }) => beside.has(number)),
      ({ x, y }) =>
        [
          [-0.28, 0.28],
          [-0.36, 0.05],
          [-0.05, 0.36],
        ]
          .map(([from, to]) => [from! * pitch, to! * pitch] as const)
          .map(([from, to]) => `M${at(x + from, y + to)}L${at(x + to, y + from)}`)
          .join(''),
    ),
    tools: turret ? [] : dots(held.map(({ x, y, tool }) => ({ x, y, radius: sweptRadius(tool) }))),
    figures: turret
      ? joined(held, ({ x, y, outward, tool }) => {
          const [cos, sin] = [Math.cos(outward), Math.sin(outward)];
          return joined(turningFiguresStanding(tool), (figure) =>
            closed(
              figure.map(([along, across]) => [
                x + along * cos - across * sin,
                y + along * sin + across * cos,
              ]),
            ),
          );
        })
      : '',
    heavy: turret
      ? ''
      : joined(
          all.filter(({ place }) => place.heavy),
          ({ x, y }) => {
            const [left, top, unit] = [x + pitch * 0.34, y - pitch * 0.34, pitch * 0.12];
            const corners = [
              [-0.9, -0.6],
              [0.9, -0.6],
              [1.4, 1.1],
              [-1.4, 1.1],
            ] as const;
            return (
              ring(left, top - unit, unit * 0.55) +
              closed(corners.map(([dx, dy]) => [left + dx * unit, top + dy * unit]))
            );
          },
        ),
    dials: dots(counted.map(({ x, y }) => ({ x, y: low(y), radius: dial }))),
    lit: joined(counted, ({ x, y, tool }) =>
      litPath(shareLeft(tool.remaining ?? 0, tool.fullLife!), { x, y: low(y), radius: dial }),
    ),
    flagged: joined(
      held.filter(({ tool }) => tool.flag),
      ({ x, y }) => cross(x, low(y), dial),
    ),
    unmeasured: joined(
      held.filter(({ tool }) => !tool.measured),
      ({ x, y }) => ring(x, low(y), dial * 1.35),
    ),
    struck: joined(struck, ({ a, b }) => {
      const [p, q] = [spotOf.get(a.pocket)!, spotOf.get(b.pocket)!];
      return `M${at(p.x, p.y)}L${at(q.x, q.y)}`;
    }),
    loading:
      loadingPlaces === null || laid.loadingTop === null
        ? null
        : { places: loadingPlaces, top: laid.loadingTop },
    names: held.map(({ x, y, place }) => ({
      x: Number(short(x)),
      y: Number(short(y + text * 0.12)),
      tool: place.tool!,
      size: text * 1.05,
    })),
  };
}
