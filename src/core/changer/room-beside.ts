import type { Length } from '../units/length.ts';
import { lengthOf } from '../units/length.ts';
import { hangingRadius, LEAST_GAP, withinReach } from './clearance.ts';
import type { ChangerShape } from './layout.ts';
import type { PlaceRow } from './place.ts';
import { widestThatHangs } from './side-view.ts';
import { traitsOf } from './traits.ts';

/** How much room an empty pocket has: the widest that may hang there, and whose neighbour sets that. */
export interface RoomBeside {
  widest: Length;
  beside: number;
  tool: number | null;
}

/**
 * What hangs beside an empty pocket, and what that leaves across. Null where nothing hangs near enough to matter, and on
 * changers whose tools do not hang beside each other.
 */
export function roomBeside(
  shape: ChangerShape,
  places: readonly PlaceRow[],
  empty: PlaceRow,
): RoomBeside | null {
  if (empty.kind !== 'pocket' || !traitsOf(shape).hangs) return null;
  const pockets = new Map(
    places.filter((each) => each.kind === 'pocket').map((each) => [each.number, each] as const),
  );
  const free = widestThatHangs(
    withinReach(shape, 1.5 * shape.pitch),
    empty.number,
    (number) => {
      const assembly = pockets.get(number)?.assembly;
      return assembly ? hangingRadius(shape, assembly) : undefined;
    },
    LEAST_GAP,
  );
  return (
    free && {
      widest: lengthOf(Math.max(0, free.widest), 'mm'),
      beside: free.beside,
      tool: pockets.get(free.beside)!.tool,
    }
  );
}
