import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';

/** Readings of one size of one part that differ by more than this share of its tolerance are taken again (common practice, no source). */
export const FAR_APART = 0.25;

export interface Several {
  /** Their mean, which counts as the reading. */
  mean: Length;
  /** Why they are to be taken again before they count; null: they agree. */
  doubt: string | null;
}

/**
 * Several readings of one size of one part: their mean counts, and what lies far apart is questioned (H14: a bore gauge is rocked, a
 * chip or a burr shows as readings that differ). At least one.
 */
export function several(readings: readonly Length[], width: Length, unit: LengthUnit): Several {
  if (readings.length === 0) throw new RangeError('no reading');
  const mean = nanometres(Math.round(readings.reduce((sum, each) => sum + each, 0) / readings.length));
  const [least, most] = [Math.min(...readings), Math.max(...readings)];
  const apart = nanometres(most - least);
  return {
    mean,
    doubt:
      apart > FAR_APART * width
        ? `They differ by ${formatLength(apart, unit)} ${unit}, more than a quarter of the tolerance: wipe the part, rock the gauge, look for a burr or taper, and take them again.`
        : null,
  };
}
