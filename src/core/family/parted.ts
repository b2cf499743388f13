/** One value of something over time: from each moment on it was so. `null`: nobody knows what it was before the next one. */
export interface Change<T> {
  at: Date;
  value: T | null;
}

/**
 * Since when things that should be equal have not been, from what each of them was over time. Told exactly where the record goes back
 * to a moment at which they still were equal; where it does not, that they have differed at least since the moment from which all of
 * them are known.
 *
 * @param sides what each was, the oldest change first; the last one holds now
 * @returns null where they are equal now
 */
export function partedSince<T>(
  sides: readonly (readonly Change<T>[])[],
  alike: (values: readonly T[]) => boolean,
): { since: Date; atLeast: boolean } | null {
  const known = sides.filter((side) => side.length > 0);
  if (known.length < 2) return null;
  const at = (side: readonly Change<T>[], moment: number) =>
    side.findLast((change) => change.at.getTime() <= moment)?.value ?? null;
  const moments = [...new Set(known.flatMap((side) => side.map((change) => change.at.getTime())))].sort(
    (a, b) => b - a,
  );
  let since: number | null = null;
  for (const moment of moments) {
    const values = known.map((side) => at(side, moment));
    if (values.includes(null)) return since === null ? null : { since: new Date(since), atLeast: true };
    if (alike(values as T[])) return since === null ? null : { since: new Date(since), atLeast: false };
    since = moment;
  }
  return since === null ? null : { since: new Date(since), atLeast: true };
}
