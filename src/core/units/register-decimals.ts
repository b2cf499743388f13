import { USUAL_DECIMALS } from './format-length.ts';
import { NM_PER, type Length, type LengthUnit } from './length.ts';

/** How many digits after the point a register of this least step is written with: as many as the step has, and never fewer than usual. */
export function registerDecimals(unit: LengthUnit, increment: Length): number {
  let decimals = USUAL_DECIMALS[unit];
  const step = (places: number) => NM_PER[unit] / 10 ** places;
  while (decimals < 6 && increment % step(decimals) !== 0) decimals += 1;
  return decimals;
}
