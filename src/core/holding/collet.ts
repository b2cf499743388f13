import { lengthOf, type Length } from '../units/length.ts';

/**
 * How far a common collet closes below its nominal size: 1 mm, small sizes 0.5 mm (common practice, no source).
 * "Small" is taken as nominal sizes up to 3 mm.
 */
const SMALL = lengthOf(3, 'mm');
export const closesBy = (nominal: number): Length => lengthOf(nominal <= SMALL ? 0.5 : 1, 'mm');

/** Whether a collet of this nominal size grips this shank. */
export const colletGrips = (nominal: number, shank: number) =>
  shank <= nominal && shank >= nominal - closesBy(nominal);

/** The collet for a shank: the same size or the next above; of those that grip, the one that closes least (H3). */
export function chooseCollet<C extends { nominal: number }>(shank: number, collets: readonly C[]): C | null {
  const gripping = collets.filter(({ nominal }) => colletGrips(nominal, shank));
  return gripping.reduce<C | null>(
    (best, each) => (best && best.nominal <= each.nominal ? best : each),
    null,
  );
}
