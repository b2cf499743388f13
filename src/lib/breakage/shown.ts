import { VERDICT_WORDS, type CheckVerdict } from '$core/breakage/check-verdict';
import { formatWithUnit } from '$core/units/format-length';
import type { Length, LengthUnit } from '$core/units/length';

/** A check in few words: what it said, and by how much the tool had changed. */
export function checkWords(
  check: { verdict: CheckVerdict; measured: Length; reference: Length | null },
  unit: LengthUnit,
): string {
  const change = check.reference === null ? null : check.measured - check.reference;
  const by =
    change === null
      ? ''
      : change === 0
        ? ', as long as it was'
        : `, ${formatWithUnit(Math.abs(change) as Length, unit)} ${change < 0 ? 'short' : 'long'}`;
  return `${VERDICT_WORDS[check.verdict]}${by}`;
}
