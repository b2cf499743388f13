/** How the spindle and the feed stand while a cut is timed. */
export interface CutState {
  feed: number;
  perRevolution: boolean;
  /** Revolutions a minute (G97). */
  speed: number;
  /** Metres a minute (G96), 0 when G97 is in force. */
  surface: number;
  /** Revolutions a minute set by G50 or G92; Infinity where none is. */
  ceiling: number;
}

/**
 * Seconds for a feed move. Under constant surface speed the spindle turns at v/(π·d): time a millimetre is
 * then linear in the diameter, so the mean of the ends is exact down to the diameter at which the ceiling
 * holds, and below it the speed is the ceiling.
 * @param distance millimetres @param d0 @param d1 diameters at the ends, millimetres (lathe only)
 */
export function cutSeconds(distance: number, state: CutState, d0 = 0, d1 = d0): number {
  if (distance <= 0 || state.feed <= 0) return 0;
  if (!state.perRevolution) return (distance / state.feed) * 60;
  const turns = distance / state.feed;
  if (state.surface <= 0) return state.speed > 0 ? (turns / Math.min(state.speed, state.ceiling)) * 60 : 0;
  return turns * meanMinutesPerTurn(Math.abs(d0), Math.abs(d1), state) * 60;
}

function meanMinutesPerTurn(d0: number, d1: number, { surface, ceiling }: CutState): number {
  const perTurn = (d: number) => (Math.PI * d) / (surface * 1000);
  const least = 1 / ceiling;
  const [low, high] = d0 < d1 ? [d0, d1] : [d1, d0];
  const atCeiling = (surface * 1000) / (Math.PI * ceiling);
  if (high - low < 1e-9) return Math.max(perTurn(high), least);
  if (!Number.isFinite(ceiling) || low >= atCeiling) return (perTurn(low) + perTurn(high)) / 2;
  if (high <= atCeiling) return least;
  const held = (atCeiling - low) * least;
  const free = ((perTurn(atCeiling) + perTurn(high)) / 2) * (high - atCeiling);
  return (held + free) / (high - low);
}
