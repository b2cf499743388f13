import { LEAST_GAP, strikes } from './clearance.ts';
import { changerLayout, type ChangerShape } from './layout.ts';

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
