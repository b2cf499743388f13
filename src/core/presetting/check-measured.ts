import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';

/** What a measurement is held against: what the pieces give, or what was measured before. */
export interface Expected {
  number: string;
  gaugeLength: Length;
  diameter: Length;
}
export interface MeasuredTool {
  gaugeLength: Length;
  /** Null: not measured. */
  diameter: Length | null;
}

export type PresetSlip =
  | 'lengthAndDiameterSwapped'
  | 'decimalPoint'
  | 'units'
  | 'digitsSwapped'
  | 'wrongTool'
  | 'otherBuild';

export interface PresetFault {
  slip: PresetSlip;
  value: 'gauge length' | 'diameter';
  reason: string;
}

/** A build may differ from its nominal gauge length by this much without a word: collets draw in, stick-outs are set by hand. */
const LENGTH_PLAY = nanometres(2_000_000);
/** A diameter may differ by this share, or by 0.15 mm where that is more: worn or reground a little. */
const DIAMETER_SHARE = 0.015;
const DIAMETER_PLAY = nanometres(150_000);

/** Within this a measurement is that of another tool. */
export const TWIN = { length: nanometres(60_000), diameter: nanometres(30_000) } as const;

export const lengthPlausible = (measured: number, expected: number) =>
  Math.abs(measured - expected) <= LENGTH_PLAY;
export const diameterPlausible = (measured: number, expected: number) =>
  Math.abs(measured - expected) <= Math.max(DIAMETER_PLAY, DIAMETER_SHARE * expected);

/**
 * Holds a presetter's or a typed measurement against what is expected and names the slip that explains a difference
 * (H1.6, H18): length and diameter exchanged, the decimal point, inches for millimetres, two digits swapped, another
 * tool in the fixture. Nothing is returned when both are plausible.
 */
export function checkMeasured(
  measured: MeasuredTool,
  expected: Expected,
  others: readonly Expected[],
  unit: LengthUnit,
): PresetFault[] {
  const { gaugeLength, diameter } = measured;
  const goodLength = lengthPlausible(gaugeLength, expected.gaugeLength);
  const goodDiameter =
    diameter === null || expected.diameter === 0 || diameterPlausible(diameter, expected.diameter);
  if (goodLength && goodDiameter) return [];
  const show = (value: number) => `${formatLength(nanometres(Math.round(value)), unit)} ${unit}`;
  if (
    diameter !== null &&
    lengthPlausible(diameter, expected.gaugeLength) &&
    diameterPlausible(gaugeLength, expected.diameter)
  )
    return [
      {
        slip: 'lengthAndDiameterSwapped',
        value: 'gauge length',
        reason: `Length and diameter are swapped: ${show(gaugeLength)} is its diameter, ${show(diameter)} its length.`,
      },
    ];
  const twin = others.find(
    (other) =>
      other.number !== expected.number &&
      Math.abs(other.gaugeLength - gaugeLength) <= TWIN.length &&
      (diameter === null || Math.abs(other.diameter - diameter) <= TWIN.diameter),
  );
  if (twin && !goodLength)
    return [
      {
        slip: 'wrongTool',
        value: 'gauge length',
        reason: `These are the sizes of ${twin.number}: is ${twin.number} in the fixture, or ${expected.number}?`,
      },
    ];
  const faults: PresetFault[] = [];
  if (!goodLength)
    faults.push(
      slipOf(gaugeLength, expected.gaugeLength, lengthPlausible, 'gauge length', unit, show) ?? {
        slip: 'otherBuild',
        value: 'gauge length',
        reason: `${show(gaugeLength)} is ${show(Math.abs(gaugeLength - expected.gaugeLength))} from the ${show(expected.gaugeLength)} that its pieces give: another tool is in the fixture, or it was built to another stick-out.`,
      },
    );
  if (!goodDiameter)
    faults.push(
      slipOf(diameter!, expected.diameter, diameterPlausible, 'diameter', unit, show) ?? {
        slip: 'otherBuild',
        value: 'diameter',
        reason: `${show(diameter!)} is not the ${show(expected.diameter)} of its cutter: another cutter is in it, or it was reground.`,
      },
    );
  return faults;
}

function slipOf(
  measured: Length,
  expected: Length,
  plausible: (measured: number, expected: number) => boolean,
  value: PresetFault['value'],
  unit: LengthUnit,
  show: (value: number) => string,
): PresetFault | null {
  for (const factor of [10, 100, 0.1, 0.01])
    if (plausible(measured * factor, expected))
      return {
        slip: 'decimalPoint',
        value,
        reason: `${show(measured)} looks like ${show(measured * factor)} with the decimal point moved.`,
      };
  for (const factor of [25.4, 1 / 25.4])
    if (plausible(measured * factor, expected))
      return {
        slip: 'units',
        value,
        reason: `${show(measured)} multiplied or divided by 25.4 is ${show(measured * factor)}, near the ${show(expected)} expected: inches and millimetres were mixed.`,
      };
  const meant = swaps(measured, unit).find((each) => plausible(each, expected));
  return meant === undefined
    ? null
    : {
        slip: 'digitsSwapped',
        value,
        reason: `${show(measured)} has two digits swapped: ${show(meant)} would be near the ${show(expected)} expected.`,
      };
}

/** Every number that two neighbouring digits of this one, exchanged, make. */
function swaps(value: Length, unit: LengthUnit): number[] {
  const decimals = unit === 'mm' ? 3 : 4;
  const digits = formatLength(value, unit, { decimals, minus: '-' }).replace('.', '');
  const step = unit === 'mm' ? 1000 : 2540;
  return Array.from({ length: digits.length - 1 }, (_, i) => i)
    .filter((i) => digits[i] !== digits[i + 1])
    .map((i) => Number(digits.slice(0, i) + digits[i + 1] + digits[i] + digits.slice(i + 2)) * step);
}
