/** A stretch of time in which the cell works. */
export interface Working {
  start: Date;
  end: Date;
}

/**
 * The instant at which `milliseconds` of working time have passed since `from`. Time outside the stretches does
 * not count. Null when the stretches end before it.
 */
export function afterWorking(from: Date, milliseconds: number, stretches: readonly Working[]): Date | null {
  let left = milliseconds;
  let at = from.getTime();
  for (const { start, end } of stretches) {
    if (end.getTime() <= at) continue;
    at = Math.max(at, start.getTime());
    const room = end.getTime() - at;
    if (left <= room) return new Date(at + left);
    left -= room;
    at = end.getTime();
  }
  return null;
}

/** Working time, in milliseconds, that lies between two instants; nothing where the second is not after the first. */
export const workedBetween = (from: Date, to: Date, stretches: readonly Working[]): number =>
  stretches.reduce(
    (sum, { start, end }) =>
      sum + Math.max(0, Math.min(end.getTime(), to.getTime()) - Math.max(start.getTime(), from.getTime())),
    0,
  );
