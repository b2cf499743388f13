import { registerDecimals } from '$core/units/register-decimals';
import { formatLength } from '$core/units/format-length';
import type { Length, LengthUnit } from '$core/units/length';

/** Writes what a register holds as its control shows it: its sign, and as many digits as its least step has. */
export const registerShow =
  ({ unit, increment }: { unit: LengthUnit; increment: Length }) =>
  (value: Length) =>
    formatLength(value, unit, { sign: 'always', decimals: registerDecimals(unit, increment) });
