import { formatLength } from '../units/format-length.ts';
import { nanometres, NM_PER, type Length, type LengthUnit } from '../units/length.ts';

/** How far a reading lies off what was expected of it, and the standard deviation of that. */
export interface OffBy {
  name: string;
  off: number;
  deviation: number;
}

/** Beyond so many standard deviations sizes of one part are taken to be off together. */
const TOGETHER = 4;
/** As long as what is left of each is within so many of its own. */
const ALIKE = 2.5;

/**
 * Whether all sizes that one gauge measured on one part lie off by the same amount: then it is the gauge's zero, or the part was warm,
 * and not the edges (H14). None of them need be surprising by itself. Two at least, that answer to different rows.
 *
 * @returns the sentence to ask with; null: nothing speaks for it.
 */
export function gaugeOff(sizes: readonly OffBy[], gauge: string, unit: LengthUnit): string | null {
  if (sizes.length < 2) return null;
  const weights = sizes.map(({ deviation }) => 1 / deviation ** 2);
  const whole = weights.reduce((sum, each) => sum + each, 0);
  const common = sizes.reduce((sum, { off }, i) => sum + off * weights[i]!, 0) / whole;
  if (Math.abs(common) * Math.sqrt(whole) < TOGETHER) return null;
  // each must be off by as much: one that is far off alone is that size's own matter
  if (
    sizes.some(
      ({ off, deviation }) => Math.abs(off - common) > ALIKE * deviation || Math.abs(off) < deviation,
    )
  )
    return null;
  const names = sizes.map(({ name }) => name);
  return `${names.slice(0, -1).join(', ')} and ${names.at(-1)} of this part all lie about ${formatLength(nanometres(Math.round(common)), unit, { sign: 'always' })} ${unit} off what was expected: check the zero of ${gauge}, and whether the part is warm, then measure again.`;
}

/** The decimal step in which all of these were read: a gauge that shows hundredths is told by what it showed. */
export function shownStep(readings: readonly Length[], unit: LengthUnit): number {
  const steps = [1, 2, 3, 4, 5].map((digits) => NM_PER[unit] / 10 ** digits);
  return steps.find((step) => readings.every((each) => each % step === 0)) ?? steps.at(-1)!;
}

/** So unlikely a row of the same digits is not by chance. */
const BY_CHANCE = 0.002;

/**
 * Whether a size shows the same digits too often in a row: a number that is copied, a gauge that hangs or was not let go. `readings` of
 * one after the other part, the newest last; `step` is what the gauge shows at the finest. The likelihood that two parts read alike is
 * about step / (2 √π σ).
 */
export function sameDigits(
  readings: readonly Length[],
  noise: number,
  step: number,
  unit: LengthUnit,
): string | null {
  const last = readings.at(-1);
  if (last === undefined || noise <= 0) return null;
  let again = 0;
  while (again + 1 < readings.length && readings[readings.length - 2 - again] === last) again += 1;
  const alike = Math.min(1, step / (2 * Math.sqrt(Math.PI) * noise));
  if (again < 2 || alike ** again > BY_CHANCE) return null;
  return `${formatLength(last, unit)} ${unit} is what the last ${again} parts showed too: was it read off this part, and does the gauge move freely? Measure again.`;
}
