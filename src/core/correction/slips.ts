import type { Length, LengthUnit } from '../units/length.ts';
import { formatLength } from '../units/format-length.ts';

/**
 * The slips that people make when they copy a number by hand (H1.6, H18): the sign turned, the decimal point
 * moved, inches for millimetres, two digits swapped. Each compares what was written with what was meant.
 */
export type Slip = 'sign' | 'decimalPoint' | 'units' | 'digitsSwapped';

/** Every slip that turns `meant` into `written`: now and then it is two of them. `decimals` digits are compared for swapped ones. */
export function slipsBetween(written: Length, meant: Length, unit: LengthUnit, decimals: number): Slip[] {
  if (written === meant || meant === 0 || written === 0) return [];
  const found: Slip[] = [];
  if (written === -meant) found.push('sign');
  if ([10, 100].some((by) => near(written, meant * by) || near(written * by, meant)))
    found.push('decimalPoint');
  if (near(written, meant * 25.4) || near(written * 25.4, meant)) found.push('units');
  if (swapped(written, meant, unit, decimals)) found.push('digitsSwapped');
  return found;
}

/** The likeliest slip that turns `meant` into `written`, or null. */
export const slipBetween = (
  written: Length,
  meant: Length,
  unit: LengthUnit,
  decimals: number,
): Slip | null => slipsBetween(written, meant, unit, decimals)[0] ?? null;

const near = (a: number, b: number) => Math.abs(a - b) <= Math.max(2000, Math.abs(b) * 0.0005);

function swapped(written: Length, meant: Length, unit: LengthUnit, decimals: number): boolean {
  const [a, b] = [written, meant].map((value) =>
    formatLength(value, unit, { decimals, minus: '-' }).replace('.', ''),
  );
  if (a!.length !== b!.length) return false;
  const differing = [...a!].flatMap((digit, i) => (digit === b![i] ? [] : [i]));
  const [i, j] = differing;
  return differing.length === 2 && j === i! + 1 && a![i!] === b![j] && a![j] === b![i!];
}
