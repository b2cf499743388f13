import { lengthOf, nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { parseLength } from '../units/parse-length.ts';
import type { Limits } from './feature.ts';

/** Upper ends of the ranges of nominal sizes, mm; each range is over the end before and up to its own. */
const RANGES = [3, 6, 10, 18, 30, 50, 80, 120, 180];

/** Standard tolerances, micrometres, by range. Source: ISO 286-1 (memory). */
const GRADES: Readonly<Record<number, readonly number[]>> = {
  5: [4, 5, 6, 8, 9, 11, 13, 15, 18],
  6: [6, 8, 9, 11, 13, 16, 19, 22, 25],
  7: [10, 12, 15, 18, 21, 25, 30, 35, 40],
  8: [14, 18, 22, 27, 33, 39, 46, 54, 63],
  9: [25, 30, 36, 43, 52, 62, 74, 87, 100],
  10: [40, 48, 58, 70, 84, 100, 120, 140, 160],
  11: [60, 75, 90, 110, 130, 160, 190, 220, 250],
};

/** Fundamental deviations of shafts, micrometres: the one nearer to the nominal. Source: ISO 286-1 (memory). */
const UPPER: Readonly<Record<string, readonly number[]>> = {
  d: [-20, -30, -40, -50, -65, -80, -100, -120, -145],
  e: [-14, -20, -25, -32, -40, -50, -60, -72, -85],
  f: [-6, -10, -13, -16, -20, -25, -30, -36, -43],
  g: [-2, -4, -5, -6, -7, -9, -10, -12, -14],
  h: [0, 0, 0, 0, 0, 0, 0, 0, 0],
};
const LOWER: Readonly<Record<string, readonly number[]>> = {
  k: [0, 1, 1, 1, 2, 2, 2, 3, 3],
  m: [2, 4, 6, 7, 8, 9, 11, 13, 15],
  n: [4, 8, 10, 12, 15, 17, 20, 23, 27],
  p: [6, 12, 15, 18, 22, 26, 32, 37, 43],
};
/** k has its deviation from grade 4 to 7 only; above it is nought. */
const K_UP_TO = 7;

const SHAFTS = [...Object.keys(UPPER), 'js', ...Object.keys(LOWER)];
const HOLES = [...Object.keys(UPPER), 'js'].map((each) => each.toUpperCase());
const FIT = /^([\d.,]+)\s*(?:mm)?\s*([A-Za-z]{1,2})\s*(\d{1,2})$/;

export type FitRead = { ok: true; limits: Limits } | { ok: false; reason: string };

/**
 * Limits of a fit as a drawing gives it: "25 H7", "40 f7". Fits are in millimetres, whatever the machine's unit.
 *
 * @returns null where the text is no fit at all.
 * Source: ISO 286-1 and -2 (memory).
 */
export function readFit(text: string): FitRead | null {
  const found = FIT.exec(text.trim());
  if (!found) return null;
  const [, size, letters, number] = found as unknown as [string, string, string, string];
  if (size.includes(','))
    return { ok: false, reason: `"${size}" has a comma: write the decimal point as ".".` };
  const nominal = Number(size);
  const grade = Number(number);
  const range = RANGES.findIndex((to) => nominal <= to);
  if (!(nominal > 0) || range < 0)
    return { ok: false, reason: `Fits are known here up to ${RANGES.at(-1)} mm: type the limits instead.` };
  const width = GRADES[grade]?.[range];
  if (width === undefined)
    return { ok: false, reason: `Grades 5 to 11 are known here, not ${grade}: type the limits instead.` };
  const hole = letters === letters.toUpperCase();
  if (!(hole ? HOLES : SHAFTS).includes(letters))
    return {
      ok: false,
      reason: `Of ${hole ? 'holes' : 'shafts'} ${(hole ? HOLES : SHAFTS).join(', ')} are known here, not ${letters}: type the limits instead.`,
    };
  const [upper, lower] = deviations(letters.toLowerCase(), grade, range, width);
  const micrometres = (value: number) => nanometres(Math.round(value * 1000));
  return {
    ok: true,
    limits: {
      nominal: lengthOf(nominal, 'mm'),
      // a hole is the mirror of the shaft of its letter
      upper: micrometres(hole ? -lower : upper),
      lower: micrometres(hole ? -upper : lower),
    },
  };
}

function deviations(letter: string, grade: number, range: number, width: number): [number, number] {
  if (letter === 'js') return [width / 2, -width / 2];
  const upper = UPPER[letter]?.[range];
  if (upper !== undefined) return [upper, upper - width];
  const lower = letter === 'k' && grade > K_UP_TO ? 0 : LOWER[letter]![range]!;
  return [lower + width, lower];
}

/** What was written for a size: its nominal, and its deviations or nothing. */
export interface WrittenLimits {
  nominal: string;
  upper: string;
  lower: string;
}

/**
 * Limits as they are written: a fit ("25 H7"), one tolerance for both sides ("25 ±0.02", or ± in the upper cell), or nominal with
 * two deviations.
 *
 * @returns the limits, or what is wrong with which cell.
 */
export function readLimits(
  { nominal, upper, lower }: WrittenLimits,
  unit: LengthUnit,
): { ok: true; limits: Limits } | { ok: false; column: keyof WrittenLimits; reason: string } {
  const bare = upper.trim() === '' && lower.trim() === '';
  const fit = readFit(nominal);
  if (fit && !bare)
    return { ok: false, column: 'upper', reason: 'A fit has its limits: leave the deviations empty.' };
  if (fit) return fit.ok ? fit : { ...fit, column: 'nominal' };
  const [size, both] = nominal.includes('±') ? (nominal.split('±', 2) as [string, string]) : [nominal, null];
  const even = bare && both !== null ? both : upper.trim().startsWith('±') ? upper.trim().slice(1) : null;
  const read = { nominal: parseLength(size, unit), ...deviationsOf(even, { upper, lower }, unit) };
  for (const column of ['nominal', 'upper', 'lower'] as const) {
    const each = read[column];
    if (!each.ok) return { ok: false, column, reason: each.reason };
  }
  const value = (each: ReturnType<typeof parseLength>): Length => (each.ok ? each.value : nanometres(0));
  return {
    ok: true,
    limits: { nominal: value(read.nominal), upper: value(read.upper), lower: value(read.lower) },
  };
}

function deviationsOf(
  even: string | null,
  { upper, lower }: { upper: string; lower: string },
  unit: LengthUnit,
) {
  if (even === null) return { upper: parseLength(upper, unit), lower: parseLength(lower, unit) };
  const read = parseLength(even, unit);
  return { upper: read, lower: read.ok ? { ...read, value: nanometres(-read.value) } : read };
}
