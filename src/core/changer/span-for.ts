import type { Interface } from '../assembly/silhouette.ts';
import { inUnit, type Length } from '../units/length.ts';
import { LEAST_GAP, metRadius, strikes } from './clearance.ts';
import { changerLayout, type ChangerShape } from './layout.ts';
import type { RoomState } from './room.ts';

/**
 * Pockets in a row that must be free for a tool of a radius, itself in the middle one: one where it clears whatever hangs beside it,
 * three where its neighbours must be empty (H5), more where it would reach past them. `widest`: half the largest width of
 * what hangs in the magazine; `declared`: the plate asks for empty neighbours. All in millimetres.
 */
export function spanFor(shape: ChangerShape, radius: number, widest: number, declared: boolean): number {
  const spots = changerLayout(shape);
  const first = spots[0]!;
  for (let span = declared ? 3 : 1; span < spots.length; span += 2) {
    const next = spots[(span + 1) / 2]!;
    if (!strikes(Math.hypot(next.x - first.x, next.y - first.y), radius, widest, LEAST_GAP)) return span;
  }
  return spots.length;
}

/**
 * The same for a tool that is known by its diameter alone: as wide as its flange at least, beside the widest that hangs there now.
 *
 * @param plate the widest tool beside which neighbours may hang, as the plate says; null when it does not
 */
export function spanForDiameter(
  { shape, pockets }: Pick<RoomState, 'shape' | 'pockets'>,
  end: Interface,
  plate: Length | null,
  diameter: Length,
): number {
  const widest = Math.max(0, ...pockets.map((pocket) => pocket.content?.radius ?? 0));
  return spanFor(
    shape,
    metRadius(shape, end, inUnit(diameter, 'mm') / 2),
    widest,
    plate !== null && diameter > plate,
  );
}
