import { traitsOf } from './traits.ts';
import { changerLayout, type ChangerShape } from './layout.ts';

/** Pockets whose centres stand no further apart than this many pitches are neighbours; a ring's next but one is nearly two. */
const NEXT = 1.25;

const known = new Map<string, ReadonlyMap<number, readonly number[]>>();

/** The pockets beside each pocket, along ring, chain and rack, and around it in a tray; in the order of their numbers. */
export function neighbours(shape: ChangerShape): ReadonlyMap<number, readonly number[]> {
  const key = `${shape.kind} ${shape.places} ${shape.pitch}`;
  const ready = known.get(key);
  if (ready) return ready;
  const spots = changerLayout(shape);
  const found = new Map(
    spots.map((spot) => [
      spot.number,
      spots
        .filter(
          (other) =>
            other.number !== spot.number &&
            Math.hypot(other.x - spot.x, other.y - spot.y) < NEXT * shape.pitch,
        )
        .map((other) => other.number),
    ]),
  );
  known.set(key, found);
  return found;
}

/** Pockets to index from one to another: the shorter way round a ring or chain, along a rack, none where a shuttle fetches. */
export function indexSteps({ kind, places }: ChangerShape, from: number, to: number): number {
  const apart = Math.abs(from - to);
  const { order } = traitsOf({ kind });
  if (order === 'grid') return 0;
  return order === 'line' ? apart : Math.min(apart, places - apart);
}

/** The pockets of a window of this many about a centre, in the order along the magazine; null where a rack ends. */
export function windowAbout(shape: ChangerShape, centre: number, span: number): number[] | null {
  const first = centre - Math.floor((span - 1) / 2);
  const pockets = Array.from({ length: span }, (_, i) => first + i);
  if (span > shape.places) return null;
  if (traitsOf(shape).order !== 'ring')
    return pockets.every((each) => each >= 1 && each <= shape.places) ? pockets : null;
  return pockets.map((each) => ((each - 1 + shape.places) % shape.places) + 1);
}
