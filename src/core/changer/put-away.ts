import type { RoomState } from './room.ts';
import { struckAt } from './standing.ts';
import { traitsOf } from './traits.ts';

/**
 * The pocket into which the spindle's tool can be put away (H18): its own where it has one, otherwise the nearest that is in
 * service, empty, kept for no other tool, and in which it strikes no neighbour. Null: there is none, the changer must not take it, or the
 * spindle is empty.
 */
export function putAway({ shape, pockets, spindle, at }: RoomState): number | null {
  if (!spindle || spindle.noArm) return null;
  const standing = new Map(
    pockets.flatMap(({ number, content }) => (content ? [[number, content.radius] as const] : [])),
  );
  const free = (number: number) => struckAt(shape, number, spindle.radius, standing) === null;
  const own = spindle.home ?? (traitsOf(shape).ownPlaces ? spindle.tool : null);
  if (own !== null) {
    const home = pockets.find(({ number }) => number === own);
    return home && home.content === null && free(own) ? own : null;
  }
  const away = (number: number) => {
    const apart = Math.abs(number - at);
    return Math.min(apart, pockets.length - apart);
  };
  const found = pockets
    .filter(({ number, content, usable }) => usable && content === null && free(number))
    .sort((a, b) => away(a.number) - away(b.number) || a.number - b.number);
  return found[0]?.number ?? null;
}
