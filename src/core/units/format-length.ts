import { NM_PER, type Length, type LengthUnit } from './length.ts';

/** Digits a shop writes after the point: a micrometre, or a tenth (0.0001 in). Common practice, no source. */
export const USUAL_DECIMALS: Readonly<Record<LengthUnit, number>> = { mm: 3, in: 4 };

const MINUS = '−';

/**
 * A length as decimal text in a unit, rounded half away from zero to `decimals`.
 * Integer arithmetic throughout, so the text is right to its last digit.
 * @param sign 'always' shows + as well, as a correction is written
 * @param minus the minus sign; a real one for people, a hyphen for files and controls
 */
export function formatLength(
  length: Length,
  unit: LengthUnit,
  { decimals = USUAL_DECIMALS[unit], sign = 'negative' as 'negative' | 'always', minus = MINUS } = {},
): string {
  const scale = 10n ** BigInt(decimals);
  const per = BigInt(NM_PER[unit]);
  const magnitude = BigInt(Math.abs(length));
  const rounded = (magnitude * scale * 2n + per) / (per * 2n);
  const digits = rounded.toString().padStart(decimals + 1, '0');
  const whole = digits.slice(0, digits.length - decimals);
  const text = decimals === 0 ? whole : `${whole}.${digits.slice(-decimals)}`;
  if (rounded === 0n) return text;
  if (length < 0) return minus + text;
  return sign === 'always' ? `+${text}` : text;
}

/** The same with its unit behind it: `37.985 mm`, `1.4955 in`. */
export function formatWithUnit(
  length: Length,
  unit: LengthUnit,
  options?: Parameters<typeof formatLength>[2],
) {
  return `${formatLength(length, unit, options)} ${unit}`;
}

/** For files and controls: plain hyphen, no loss of any digit that matters, no needless zeros beyond `atLeast`. */
export function plainDecimal(length: Length, unit: LengthUnit, atLeast = USUAL_DECIMALS[unit]): string {
  const exact = formatLength(length, unit, { decimals: Math.max(6, atLeast), minus: '-' });
  const [whole, fraction = ''] = exact.split('.');
  const kept = fraction.replace(/0+$/, '').padEnd(atLeast, '0');
  return kept === '' ? whole! : `${whole}.${kept}`;
}
