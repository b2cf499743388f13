import { placeKey, type InCycle } from './cycle-place.ts';
import type { FeatureKind, Limits } from './feature.ts';
import { standing, type Standing } from './feature.ts';
import { conformity } from './gauge.ts';
import type { Length } from '../units/length.ts';

/**
 * On which side of its limits a size still has material to take away (common practice, no source): there a part can be cut again;
 * on the other it is scrap. Null: cutting again helps on neither side.
 */
const MATERIAL_LEFT: Readonly<Record<FeatureKind, 'over' | 'under' | null>> = {
  outsideDiameter: 'over',
  bore: 'under',
  faceLength: 'over',
  shoulder: 'under',
  partedLength: 'over',
  grooveWidth: 'under',
  height: 'over',
  depth: 'under',
  outsideWidth: 'over',
  pocketWidth: 'under',
  wall: 'over',
  cutHole: 'under',
  dialledBore: 'under',
  position: null,
};

export const fateOf = (kind: FeatureKind, side: Exclude<Standing, 'in'>): 'rework' | 'scrap' =>
  MATERIAL_LEFT[kind] === side ? 'rework' : 'scrap';

export interface MeasuredPart {
  part: number;
  measured: Length;
}

/** Parts of one series that may be bad: from the one after the last good reading to the one before the next, by the same edge in the same set-up. */
export interface Suspect {
  /** The first bad reading among them, and its side. */
  part: number;
  measured: Length;
  side: Exclude<Standing, 'in'>;
  fate: 'rework' | 'scrap';
  first: number;
  /** Null: no good part was measured since, all that was cut is suspect. */
  last: number | null;
  /** Nothing good was measured before: all from the first part on is suspect. */
  fromStart: boolean;
  /** The first of them is the first by a new edge, or in a new set-up. */
  anew: boolean;
  /** Parts among them that were measured within their limits, nearer to one than the gauge is sure: they are told neither good nor bad. */
  unsure: number[];
}

/** A size and how sure its gauge is: expanded uncertainty, nought where nobody has said it. */
export interface Judged extends Limits {
  kind: FeatureKind;
  uncertainty: number;
}

/** Whether a reading tells that its part is in its limits, that it is out, or neither (`conformity`). One that is out by little is no good part. */
function told(measured: Length, size: Judged): Standing | 'unsure' {
  const side = standing(measured, size);
  return side === 'in' && conformity(measured, size, size.uncertainty) !== 'conforms' ? 'unsure' : side;
}

/**
 * What to set aside after readings that are out of limits, newest last; readings in the order of their parts. One that is nearer to a limit
 * than its gauge is sure clears nothing (ISO 14253-1).
 *
 * @param begins the first parts that were cut by another edge or in another set-up: a reading tells nothing of parts beyond
 */
export function suspectParts(
  readings: readonly MeasuredPart[],
  size: Judged,
  begins: readonly number[] = [],
): Suspect[] {
  const found: Suspect[] = [];
  let unsure: number[] = [];
  let [good, open] = [null as number | null, null as Suspect | null];
  let before = 0;
  const nextBegin = () => Math.min(...begins.filter((begun) => begun > before));
  for (const { part, measured } of readings) {
    const anew = Math.max(0, ...begins.filter((begun) => begun > before && begun <= part));
    if (anew > 0) {
      if (open) open.last = nextBegin() - 1;
      [good, open, unsure] = [anew - 1, null, []];
    }
    before = part;
    const side = told(measured, size);
    if (side === 'unsure') (open?.unsure ?? unsure).push(part);
    else if (side === 'in') {
      if (open) open.last = Math.max(open.part, part - 1);
      [good, open, unsure] = [part, null, []];
    } else if (!open) {
      open = {
        part,
        measured,
        side,
        fate: fateOf(size.kind, side),
        first: good === null ? 1 : Math.min(part, good + 1),
        last: null,
        fromStart: good === null,
        anew: good !== null && begins.includes(good + 1),
        unsure,
      };
      found.push(open);
    } else if (side !== open.side) open.fate = 'scrap';
  }
  if (open && nextBegin() < Infinity) open.last = nextBegin() - 1;
  return found;
}

/** Parts of one place that may be bad; `place` null: of all, or nobody knows of which. */
export interface SuspectInPlace extends Suspect {
  place: InCycle | null;
  /** They are those of all places that nothing was measured in. */
  rest: boolean;
  /** It is in doubt by what was found in another place alone. */
  byOther: boolean;
}

/**
 * The same where several come off together, cut with the same rows: a good part of one place clears nothing of another. And where one
 * place goes out another may be out as well: its parts are suspect from when the one was last good until it is good again, or until a
 * later part of their own place was measured.
 *
 * @param rest there are other places, or pallets, in which nothing was measured
 */
export function suspectsByPlace(
  readings: readonly (MeasuredPart & { place: InCycle | null })[],
  size: Judged,
  begins: readonly number[] = [],
  rest = false,
): SuspectInPlace[] {
  const places = new Map(readings.map(({ place }) => [placeKey(place), place]));
  if (places.size < 2)
    return suspectParts(readings, size, begins).map((each) => ({
      ...each,
      place: null,
      rest: false,
      byOther: false,
    }));
  const own = [...places].map(([key, place]) => {
    const measured = readings.filter((each) => placeKey(each.place) === key);
    return { place, rest: false, measured, found: suspectParts(measured, size, begins) };
  });
  if (rest) own.push({ place: null, rest, measured: [], found: [] });
  const epoch = (part: number) => begins.filter((begun) => begun <= part).length;
  return own
    .flatMap(({ place, rest: others, measured, found }) => [
      ...found.map((each): SuspectInPlace => ({ ...each, place, rest: others, byOther: false })),
      ...own
        .filter((other) => other.found.length > 0 && (others || other.place !== place))
        .flatMap((other) => other.found.map((out) => ({ out, other })))
        .flatMap(({ out, other }): SuspectInPlace[] => {
          const last = measured.findLast(
            (each) => epoch(each.part) === epoch(out.part) && told(each.measured, size) !== 'unsure',
          );
          const isBad = (each: MeasuredPart) => standing(each.measured, size) !== 'in';
          // what was measured here since the other was last found out speaks for itself
          const goneSince = other.measured.some(
            (each) => each.part > (last?.part ?? 0) && each.part <= (out.last ?? Infinity) && isBad(each),
          );
          if (!goneSince || (last && isBad(last))) return [];
          const first = Math.max(out.first, (last?.part ?? 0) + 1);
          if (out.last !== null && first > out.last) return [];
          const later = first > out.first;
          return [
            {
              ...out,
              place,
              rest: others,
              byOther: true,
              first,
              fromStart: out.fromStart && !later,
              anew: out.anew && !later,
              unsure: measured
                .filter((each) => told(each.measured, size) === 'unsure')
                .map((each) => each.part)
                .filter((part) => part >= first && part <= (out.last ?? Infinity)),
            },
          ];
        }),
    ])
    .sort((a, b) => a.part - b.part || a.first - b.first);
}
