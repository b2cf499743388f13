import type { Dialect } from '../program/dialect.ts';
import { plainDecimal, USUAL_DECIMALS } from '../units/format-length.ts';
import { NM_PER, type Length, type LengthUnit } from '../units/length.ts';

/**
 * The line of NC text that sets a register to a value, from the machine's dialect profile; null when the
 * profile has none. The value is absolute, so running a line twice does no more than running it once.
 */
export function registerText(
  dialect: Dialect,
  registerKind: string,
  row: number,
  value: Length,
  unit: LengthUnit,
): string | null {
  const template = dialect.setRegister[registerKind];
  if (!template) return null;
  return template.replaceAll('{row}', String(row)).replaceAll('{value}', plainDecimal(value, unit));
}

/** How many digits after the point a register of this least step is written with: as many as the step has, and never fewer than usual. */
export function registerDecimals(unit: LengthUnit, increment: Length): number {
  let decimals = USUAL_DECIMALS[unit];
  const step = (places: number) => NM_PER[unit] / 10 ** places;
  while (decimals < 6 && increment % step(decimals) !== 0) decimals += 1;
  return decimals;
}
