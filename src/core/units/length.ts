/**
 * Exact lengths. Everything is kept as a whole number of nanometres, because 0.00001 in is exactly
 * 254 nm (1 in = 25.4 mm exactly, ISO 80000-3 / the 1959 international yard and pound agreement), so a
 * ledger adds up to the last digit in inches and in millimetres alike. A JavaScript number holds whole
 * numbers exactly up to 2^53, which is nine thousand kilometres of nanometres.
 */

/** A signed length in nanometres. */
export type Length = number & { readonly __length: 'nm' };

export type LengthUnit = 'mm' | 'in';

export const NM_PER: Readonly<Record<LengthUnit, number>> = { mm: 1_000_000, in: 25_400_000 };

/** A whole number of nanometres as a length. Throws when it is not a whole number that is held exactly. */
export function nanometres(value: number): Length {
  if (!Number.isSafeInteger(value)) throw new RangeError(`not a whole number of nanometres: ${value}`);
  return (value === 0 ? 0 : value) as Length;
}

/** The nearest whole nanometre to a decimal number of units, e.g. `lengthOf(1.4965, 'in')`. */
export function lengthOf(value: number, unit: LengthUnit): Length {
  return nanometres(Math.round(value * NM_PER[unit]));
}

/** A length as a decimal number of units; for drawing and statistics, never for keeping. */
export const inUnit = (length: number, unit: LengthUnit) => length / NM_PER[unit];

export const add = (a: Length, b: Length) => nanometres(a + b);
export const subtract = (a: Length, b: Length) => nanometres(a - b);
export const otherUnit = (unit: LengthUnit): LengthUnit => (unit === 'mm' ? 'in' : 'mm');
