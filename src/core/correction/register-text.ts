import type { Dialect } from '../program/dialect.ts';
import { plainDecimal } from '../units/format-length.ts';
import type { Length, LengthUnit } from '../units/length.ts';

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
