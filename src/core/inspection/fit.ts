import { lengthOf, nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { parseLength, parseSize } from '../units/parse-length.ts';
import type { Limits } from './feature.ts';

/** Upper ends of the ranges of nominal sizes, mm; each range is over the end before and up to its own. */
const RANGES = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500];

/** Standard tolerances, micrometres, by range. Source: ISO 286-1 (memory). */
const GRADES: Readonly<Record<number, readonly number[]>> = {
  5: [4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27],
  6: [6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40],
  7: [10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63],
  8: [14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97],
  9: [25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155],
  10: [40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250],
  11: [60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400],
};

/** Fundamental deviations of shafts, micrometres: the one nearer to the nominal. Source: ISO 286-1 (memory). */
const UPPER: Readonly<Record<string, readonly number[]>> = {
  d: [-20, -30, -40, -50, -65, -80, -100, -120, -145, -170, -190, -210, -230],
  e: [-14, -20, -25, -32, -40, -50, -60, -72, -85, -100, -110, -125, -135],
  f: [-6, -10, -13, -16, -20, -25, -30, -36, -43, -50, -56, -62, -68],
  g: [-2, -4, -5, -6, -7, -9, -10, -12, -14, -15, -17, -18, -20],
  h: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0],
};
const LOWER: Readonly<Record<string, readonly number[]>> = {
  k: [0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5],
  m: [2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23],
  n: [4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40],
  p: [6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68],
};
/** Press fits go by finer ranges. */
const PRESSED_RANGES = [3, 6, 10, 18, 30, 50, 65, 80, 100, 120, 140, 160, 180];
const PRESSED: Readonly<Record<string, readonly number[]>> = {
  r: [10, 15, 19, 23, 28, 34, 41, 43, 51, 54, 63, 65, 68],
  s: [14, 19, 23, 28, 35, 43, 53, 59, 71, 79, 92, 100, 108],
};
/** k has its deviation from grade 4 to 7 only; above it is nought. */
const K_UP_TO = 7;

const SHAFTS = [...Object.keys(UPPER), 'js', ...Object.keys(LOWER), ...Object.keys(PRESSED)];
const FIT = /^([\d.,]+)\s*(?:mm)?\s*([A-Za-z]{1,2})\s*(\d{1,2})$/;

/** What is longer is no size, and would be looked through many times over. */
const LONGEST_DRAWN = 60;

export type FitRead = { ok: true; limits: Limits } | { ok: false; reason: string };

/**
 * Limits of a fit as a drawing gives it: "25 H7", "40 f7". Fits are in millimetres, whatever the machine's unit.
 *
 * @returns null where the text is no fit at all.
 * Source: ISO 286-1 and -2 (memory).
 */
export function readFit(text: string): FitRead | null {
  const found = text.length > LONGEST_DRAWN ? null : FIT.exec(text.trim());
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
  const known = hole ? SHAFTS.map((each) => each.toUpperCase()) : SHAFTS;
  if (!known.includes(letters))
    return {
      ok: false,
      reason: `Of ${hole ? 'holes' : 'shafts'} ${known.join(', ')} are known here, not ${letters}: type the limits instead.`,
    };
  const ends = (hole ? ofHole : ofShaft)(letters.toLowerCase(), grade, nominal, width);
  if (!ends)
    return {
      ok: false,
      reason: `${letters}${grade} of ${nominal} mm is not known here: type the limits instead.`,
    };
  const micrometres = (value: number) => nanometres(Math.round(value * 1000));
  return {
    ok: true,
    limits: { nominal: lengthOf(nominal, 'mm'), upper: micrometres(ends[0]), lower: micrometres(ends[1]) },
  };
}

const rangeOf = (ranges: readonly number[], nominal: number) => ranges.findIndex((to) => nominal <= to);

/** Upper and lower deviation of a shaft, micrometres; null where its letter is not known for its size. */
function ofShaft(letter: string, grade: number, nominal: number, width: number): [number, number] | null {
  if (letter === 'js') return [width / 2, -width / 2];
  const upper = UPPER[letter]?.[rangeOf(RANGES, nominal)];
  if (upper !== undefined) return [upper, upper - width];
  const lower = nearerEnd(letter, nominal);
  if (lower === null) return null;
  const from = letter === 'k' && grade > K_UP_TO ? 0 : lower;
  return [from + width, from];
}

/** The deviation nearer to the nominal of a shaft that is larger than it. */
const nearerEnd = (letter: string, nominal: number): number | null =>
  (PRESSED[letter]
    ? PRESSED[letter][rangeOf(PRESSED_RANGES, nominal)]
    : LOWER[letter]?.[rangeOf(RANGES, nominal)]) ?? null;

/** Grades up to which a hole that is smaller than its nominal is moved by the step to the grade below. */
const MOVED_UP_TO: Readonly<Record<string, number>> = { k: 8, m: 8, n: 8, p: 7, r: 7, s: 7 };

/**
 * Of a hole: its shaft in the mirror, and from K on less the difference to the grade below, so that it pairs with a shaft of that grade
 * (ISO 286-1, memory). K and M are not made above grade 8 here; N above it ends at the nominal.
 */
function ofHole(letter: string, grade: number, nominal: number, width: number): [number, number] | null {
  const last = MOVED_UP_TO[letter];
  if (last === undefined) {
    const shaft = ofShaft(letter, grade, nominal, width);
    return shaft && [0 - shaft[1], 0 - shaft[0]];
  }
  const near = nearerEnd(letter, nominal);
  if (near === null) return null;
  if (grade > last) {
    if (letter === 'k' || letter === 'm') return null;
    const upper = letter === 'n' ? 0 : -near;
    return [upper, upper - width];
  }
  const range = rangeOf(RANGES, nominal);
  const below = GRADES[grade - 1]?.[range];
  if (below === undefined) return null;
  const step = range === 0 ? 0 : width - below;
  // the one exception that the standard makes
  const upper = letter === 'm' && grade === 6 && RANGES[range] === 315 ? -9 : step - near;
  return [upper, upper - width];
}

/** Nominal and both deviations in one, as a drawing has them: "25 +0.02/-0.01", "25 0 -0.013". One at least has a sign. */
const DEVIATION = String.raw`[+\u2212-]\s*[\d.,]+|0(?:\.0*)?`;
const DRAWN = new RegExp(
  String.raw`^(.*?[\dm"n])\s+(?=.*[+\u2212-])(${DEVIATION})\s*[\s/]\s*(${DEVIATION})$`,
);

const asDrawn = (text: string) => (text.length > LONGEST_DRAWN ? null : DRAWN.exec(text));

/** What was written for a size: its nominal, and its deviations or nothing. */
export interface WrittenLimits {
  nominal: string;
  upper: string;
  lower: string;
}

/**
 * Limits as they are written: a fit ("25 H7"), one tolerance for both sides ("25 ±0.02", or ± in the upper cell), or nominal with
 * two deviations, in cells of their own or behind it ("25 +0.02/-0.01").
 *
 * @returns the limits, or what is wrong with which cell.
 */
export function readLimits(
  { nominal, upper, lower }: WrittenLimits,
  unit: LengthUnit,
): { ok: true; limits: Limits } | { ok: false; column: keyof WrittenLimits; reason: string } {
  const bare = upper.trim() === '' && lower.trim() === '';
  const drawn = plainSize(nominal);
  const said = bare ? asDrawn(drawn) : null;
  const own = unitBehind(said?.[1] ?? drawn.split('±', 1)[0]!) ?? unit;
  if (said) return readLimits({ nominal: said[1]!, upper: said[2]!, lower: said[3]! }, own);
  const fit = readFit(drawn);
  if (fit && !bare)
    return { ok: false, column: 'upper', reason: 'A fit has its limits: leave the deviations empty.' };
  if (fit) return fit.ok ? fit : { ...fit, column: 'nominal' };
  const [size, both] = drawn.includes('±') ? (drawn.split('±', 2) as [string, string]) : [drawn, null];
  const even = bare && both !== null ? both : upper.trim().startsWith('±') ? upper.trim().slice(1) : null;
  const read = {
    nominal: parseSize(size, unit),
    ...deviationsOf(even, { upper, lower }, bare ? own : unit),
  };
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

/** Limits that the cell of the nominal says by itself: a fit, ±, or as a drawing has them; null: its deviations stand beside it. */
export function readWhole(nominal: string, unit: LengthUnit): FitRead | null {
  const drawn = plainSize(nominal);
  return readFit(drawn) !== null || nominal.includes('±') || asDrawn(drawn) !== null
    ? readLimits({ nominal, upper: '', lower: '' }, unit)
    : null;
}

/** A size without the sign that it is across. */
const plainSize = (nominal: string) => nominal.trim().replace(/^[Ø⌀]\s*/, '');

/** The unit that is written behind a size; null: none is. */
const unitBehind = (text: string): LengthUnit | null => {
  const said = /\d\s*(mm|inch|in|")\s*$/i.exec(text)?.[1];
  return said === undefined ? null : said.toLowerCase() === 'mm' ? 'mm' : 'in';
};

function deviationsOf(
  even: string | null,
  { upper, lower }: { upper: string; lower: string },
  unit: LengthUnit,
) {
  if (even === null) return { upper: parseLength(upper, unit), lower: parseLength(lower, unit) };
  const read = parseLength(even, unit);
  return { upper: read, lower: read.ok ? { ...read, value: nanometres(-read.value) } : read };
}
