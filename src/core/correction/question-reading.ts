import { formatLength, USUAL_DECIMALS } from '../units/format-length.ts';
import { lengthOf, nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { slipBetween } from './slips.ts';

export interface QuestionedReading {
  measured: Length;
  /** What the size was expected to be, and the standard deviation of a reading about that. */
  expected: Length;
  deviation: number;
  /** Nothing was known beforehand: a first reading of a new edge may lie far off. */
  open: boolean;
  lower: Length;
  upper: Length;
  unit: LengthUnit;
  /** Sizes of the other features of the part, by name: the wrong one may have been measured. */
  others: readonly { name: string; target: Length; width: Length }[];
}

/** Beyond so many standard deviations a reading is measured again before anybody acts on it. */
const SURPRISING = 4;
/** A named slip must bring it within so many. */
const EXPLAINED = 2.5;
/** From so many on a slip is looked for. */
const DOUBTFUL = 3;
/** A first reading further off than this is no set-up error any more (common practice, no source). */
const FAR_OFF = lengthOf(2, 'mm');
/** Off by so much a first reading is a set-up error rather than digits that were swapped (H13 leaves a quarter of a millimetre on; common practice, no source). */
const SET_UP_ERROR = lengthOf(0.3, 'mm');

/**
 * Why a reading should be taken again before anybody acts on it, or null (H14: re-check a surprising reading). It is questioned
 * when the model finds it surprising, or when a slip with a name explains it far better: inches for millimetres, a slipped decimal
 * point, a turned sign, two digits swapped, a whole turn of the thimble (0.5 mm or 0.025 in), another feature of the part. A first
 * reading of a new edge surprises nobody: there only a slip is named, where it leads into the limits.
 */
export function questionReading(asked: QuestionedReading): string | null {
  const { measured, expected, deviation, open, lower, upper, unit } = asked;
  const show = (value: Length) => formatLength(value, unit);
  const off = Math.abs(measured - expected);
  const doubtful = open ? measured < lower || measured > upper : off > DOUBTFUL * deviation;
  if (!doubtful) return null;
  const fits = (value: number) =>
    open
      ? value >= lower && value <= upper
      : Math.abs(value - expected) <= EXPLAINED * deviation && Math.abs(value - expected) < off / 3;
  if (fits(measured * 25.4))
    return `${show(measured)} ${unit} looks like inches read as millimetres: in ${unit} it would be ${show(nanometres(Math.round(measured * 25.4)))}. Write the unit after the number.`;
  if (fits(measured / 25.4))
    return `${show(measured)} ${unit} looks like millimetres read as inches: it would be ${show(nanometres(Math.round(measured / 25.4)))}. Write the unit after the number.`;
  for (const factor of [10, 0.1, 100, 0.01])
    if (fits(measured * factor))
      return `${show(measured)} ${unit} looks like a slipped decimal point: ${show(nanometres(Math.round(measured * factor)))} would be as expected.`;
  if (fits(-measured)) return `${show(measured)} ${unit} has its sign reversed.`;
  const turns: readonly Length[] =
    unit === 'mm' ? [lengthOf(0.5, 'mm'), lengthOf(1, 'mm')] : [lengthOf(0.025, 'in'), lengthOf(0.05, 'in')];
  for (const turn of turns)
    for (const way of [turn, -turn])
      if (fits(measured + way))
        return `${show(measured)} ${unit} is ${show(nanometres(Math.abs(way)))} from what was expected: read the sleeve of the micrometer again, a turn of the thimble may have been missed.`;
  const swapped = open && off <= SET_UP_ERROR ? undefined : swappedDigits(measured, unit).find(fits);
  if (swapped !== undefined)
    return `${show(measured)} ${unit} looks like ${show(nanometres(swapped))} with two digits swapped.`;
  const other = asked.others.find(
    ({ target, width }) => Math.abs(measured - target) <= width / 2 && Math.abs(target - expected) > width,
  );
  if (other)
    return `${show(measured)} ${unit} is what ${other.name} should be: was the right feature measured?`;
  if (open)
    return Math.abs(measured - expected) > FAR_OFF
      ? `${show(measured)} ${unit} is ${formatLength(nanometres(measured - expected), unit, { sign: 'always' })} from target. Check the gauge’s zero, chips, a burr, the right feature, and measure again.`
      : null;
  if (off <= SURPRISING * deviation) return null;
  return `${show(measured)} ${unit} is ${formatLength(nanometres(measured - expected), unit, { sign: 'always' })} from what was expected, more than ${Math.floor(off / deviation)} times its spread. Check the gauge’s zero, chips, a burr, the right feature, and measure again.`;
}

/** A size with each pair of neighbouring digits swapped, as it is written. */
function swappedDigits(value: Length, unit: LengthUnit): Length[] {
  const decimals = USUAL_DECIMALS[unit];
  const text = formatLength(value, unit, { decimals, minus: '-' });
  const found: Length[] = [];
  for (let i = 0; i < text.length; i += 1) {
    const j = text[i + 1] === '.' ? i + 2 : i + 1;
    const [a, b] = [text[i]!, text[j]];
    if (b === undefined || !/\d/.test(a) || !/\d/.test(b) || a === b) continue;
    const digits = [...text];
    [digits[i], digits[j]] = [b, a];
    const swapped = lengthOf(Number(digits.join('')), unit);
    if (slipBetween(value, swapped, unit, decimals) === 'digitsSwapped') found.push(swapped);
  }
  return found;
}
