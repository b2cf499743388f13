import type { Length, LengthUnit } from '../units/length.ts';
import { formatLength } from '../units/format-length.ts';

/**
 * The slips that people make when they copy a number by hand (H1.6, H18): the sign turned, the decimal point
 * moved, inches for millimetres, two digits swapped. Each compares what was written with what was meant.
 */
export type Slip = 'sign' | 'decimalPoint' | 'units' | 'digitsSwapped';

/** Which slip turns `meant` into `written`, or null. `decimals` digits are compared for swapped ones. */
export function slipBetween(written: Length, meant: Length, unit: LengthUnit, decimals: number): Slip | null {
  if (written === meant || meant === 0 || written === 0) return null;
  if (written === -meant) return 'sign';
  if (
    near(written, meant * 10) ||
    near(written * 10, meant) ||
    near(written, meant * 100) ||
    near(written * 100, meant)
  )
    return 'decimalPoint';
  if (near(written, meant * 25.4) || near(written * 25.4, meant)) return 'units';
  return swapped(written, meant, unit, decimals) ? 'digitsSwapped' : null;
}

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
