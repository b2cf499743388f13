import { lengthOf, NM_PER, nanometres, type Length } from '../units/length.ts';
import { parseLength } from '../units/parse-length.ts';

/** Number drills 1 to 80, ten-thousandths of an inch (ASME B94.11M, from memory). */
const NUMBERS = [
  2280, 2210, 2130, 2090, 2055, 2040, 2010, 1990, 1960, 1935, 1910, 1890, 1850, 1820, 1800, 1770, 1730, 1695,
  1660, 1610, 1590, 1570, 1540, 1520, 1495, 1470, 1440, 1405, 1360, 1285, 1200, 1160, 1130, 1110, 1100, 1065,
  1040, 1015, 995, 980, 960, 935, 890, 860, 820, 810, 785, 760, 730, 700, 670, 635, 595, 550, 520, 465, 430,
  420, 410, 400, 390, 380, 370, 360, 350, 330, 320, 310, 292, 280, 260, 250, 240, 225, 210, 200, 180, 160,
  145, 135,
];
/** Letter drills A to Z, thousandths of an inch (ASME B94.11M, from memory). */
const LETTERS = [
  234, 238, 242, 246, 250, 257, 261, 266, 272, 277, 281, 290, 295, 302, 316, 323, 332, 339, 348, 358, 368,
  377, 386, 397, 404, 413,
];
const LETTER_A = 'A'.charCodeAt(0);

export interface DrillSize {
  /** As it is stamped: "#7", "F", "27/64", "6.8 mm". */
  name: string;
  diameter: Length;
}

const inches = (value: number) => lengthOf(value, 'in');
const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));
/** "27/64", "1/4", "1 1/2" in lowest terms. */
const fractionName = (sixtyFourths: number) => {
  const whole = Math.floor(sixtyFourths / 64);
  const rest = sixtyFourths % 64;
  if (rest === 0) return String(whole);
  const by = common(rest, 64);
  return `${whole > 0 ? `${whole} ` : ''}${rest / by}/${64 / by}`;
};

/** Every inch drill up to one inch: fractions by 1/64, numbers and letters, smallest first. */
export const INCH_DRILLS: readonly DrillSize[] = [
  ...NUMBERS.map((size, i) => ({ name: `#${i + 1}`, diameter: inches(size / 10_000) })),
  ...LETTERS.map((size, i) => ({ name: String.fromCharCode(LETTER_A + i), diameter: inches(size / 1000) })),
  ...Array.from({ length: 64 }, (_, i) => ({
    name: fractionName(i + 1),
    diameter: nanometres(((i + 1) * NM_PER.in) / 64),
  })),
].sort((a, b) => a.diameter - b.diameter);

export type DrillResult = { ok: true; size: DrillSize } | { ok: false; reason: string };

/**
 * Reads a drill size as it is called across the counter: a number ("#7", "no 7"), a letter ("F"), a fraction
 * ("27/64", "1 1/8 in") or millimetres ("6.8", "6,8 mm"). A bare whole number is millimetres.
 */
export function readDrillSize(text: string): DrillResult {
  const word = text.trim().replace(',', '.');
  const number = /^(?:#|no\.?\s*|number\s+)(\d{1,2})$/i.exec(word);
  if (number) {
    const size = NUMBERS[Number(number[1]) - 1];
    return size === undefined
      ? { ok: false, reason: 'Number drills run from #1 to #80.' }
      : { ok: true, size: { name: `#${Number(number[1])}`, diameter: inches(size / 10_000) } };
  }
  const letter = /^(?:letter\s+)?([a-z])$/i.exec(word)?.[1]?.toUpperCase();
  if (letter)
    return {
      ok: true,
      size: { name: letter, diameter: inches(LETTERS[letter.charCodeAt(0) - LETTER_A]! / 1000) },
    };
  const fraction = /^(?:(\d+)[\s-]+)?(\d+)\/(\d+)\s*(?:in|"|″)?$/i.exec(word);
  if (fraction) {
    const [whole, above, below] = [Number(fraction[1] ?? 0), Number(fraction[2]), Number(fraction[3])];
    if (below === 0 || 64 % below !== 0)
      return { ok: false, reason: 'A fraction drill is in 64ths or a part of them.' };
    const sixtyFourths = whole * 64 + (above * 64) / below;
    return {
      ok: true,
      size: { name: fractionName(sixtyFourths), diameter: nanometres((sixtyFourths * NM_PER.in) / 64) },
    };
  }
  const length = parseLength(word, 'mm');
  if (!length.ok || length.value <= 0)
    return { ok: false, reason: 'A drill is written as #7, F, 27/64 or 6.8 mm.' };
  return { ok: true, size: { name: word, diameter: length.value } };
}

/** The inch drill nearest to a diameter. */
export const nearestInchDrill = (diameter: number): DrillSize =>
  INCH_DRILLS.reduce((best, drill) =>
    Math.abs(drill.diameter - diameter) < Math.abs(best.diameter - diameter) ? drill : best,
  );
