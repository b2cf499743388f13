import { countsWhole, numberToKey, PER_SHOWN, type ExpiryRule, type LifeBasis } from './count.ts';

/** What is to be keyed for one tool, as the control of its machine counts. */
export interface LifeKeyed {
  tool: number;
  basis: LifeBasis;
  remaining: number;
  limit: number;
}

/** A number as the control shows it: uses as they are, time in minutes. */
export interface LifeNumbers {
  /** What the full life is set to, and what is left to be counted. */
  set: number;
  left: number;
}

/** How finely a control shows each: minutes to a tenth, wear to a thousandth of a millimetre. */
const STEP: Readonly<Record<LifeBasis, number>> = { pieces: 1, holes: 1, minutes: 0.1, wear: 0.001 };
const asShown = (value: number, basis: LifeBasis) =>
  Number((Math.round(value / PER_SHOWN[basis] / STEP[basis]) * STEP[basis]).toFixed(3));

/** The numbers to key for a tool (H11): uses left, or one less where the control expires below zero and counts whole uses. */
export const lifeNumbers = ({ basis, remaining, limit }: LifeKeyed, rule: ExpiryRule): LifeNumbers => ({
  set: asShown(numberToKey(limit, rule, basis), basis),
  left: asShown(numberToKey(remaining, rule, basis), basis),
});

export type LifeRead = { matches: true } | { matches: false; reason: string };

/**
 * Compares the number left that a control shows after keying with what was to be keyed, and names the slip that explains a difference:
 * the other rule of expiry, the full life, a neighbour's number, two digits swapped (H11, H18). Minutes agree to a tenth, wear to a thousandth.
 */
export function explainLife(
  shown: number,
  keyed: LifeKeyed,
  rule: ExpiryRule,
  others: readonly LifeKeyed[],
): LifeRead {
  const { set, left } = lifeNumbers(keyed, rule);
  const same = (a: number, b: number) =>
    countsWhole(keyed.basis) ? a === b : Math.abs(a - b) < 0.6 * STEP[keyed.basis];
  if (same(shown, left)) return { matches: true };
  const no = (reason: string): LifeRead => ({
    matches: false,
    reason: `T${keyed.tool} shows ${shown}: ${reason}`,
  });
  if (countsWhole(keyed.basis) && same(shown, keyed.remaining))
    return no('that is the uses it has. This control counts below zero: key one less.');
  if (countsWhole(keyed.basis) && rule === 'atZero' && same(shown, keyed.remaining - 1))
    return no('one less than it has. This control expires at zero: key the uses as they are.');
  if (same(shown, set)) return no('that is its full life, and it was used before.');
  const other = others.find((each) => each.tool !== keyed.tool && same(shown, lifeNumbers(each, rule).left));
  if (other) return no(`that is the number of T${other.tool}.`);
  if (keyed.basis === 'minutes' && same(shown * 60, left))
    return no('that is hours where minutes are meant.');
  const digits = String(left);
  for (let i = 0; i + 1 < digits.length; i += 1)
    if (String(shown) === digits.slice(0, i) + digits[i + 1] + digits[i] + digits.slice(i + 2))
      return no('two digits are swapped.');
  if (same(shown, left * 10) || same(shown, left / 10)) return no('a digit too many or too few.');
  return no('that is not what the card asks for. Look at the row, key it again and read it again.');
}
