import { asWord } from './block-words.ts';
import type { Dialect } from './dialect.ts';
import type { Affected } from './doubts.ts';

/**
 * What the codes of this family mean to a reader of tools, rows, speeds, depths and lives. A code is known, harmless or not known; one
 * that is not known may do anything. Common ground of ISO 6983 and what milling and turning controls make of it (common practice, no
 * source): a machine's profile adds to it, and its manual decides.
 */
const numbers = (...codes: number[]): ReadonlySet<number> => new Set(codes);
const from = (first: number, last: number) => Array.from({ length: last - first + 1 }, (_, i) => first + i);

/** Read and followed on both kinds of machine. */
const BOTH_G = [
  0, 1, 2, 3, 4, 10, 11, 17, 18, 19, 20, 21, 28, 30, 40, 41, 42, 50, 52, 53, 54, 55, 56, 57, 58, 59, 65, 66,
  67, 80, 90, 91, 92, 94, 95, 96, 97, 98, 99,
];
/** They change how a path is run, not what is cut, with which tool, row or speed: exact stop, smoothing, plane of work, mirror off. */
const HARMLESS_G = [9, 61, 61.1, 62, 63, 64, 69, 54.1, 15, 5.1, 8, 187, 40.1, 50.1];
const MILL_G = numbers(...BOTH_G, ...HARMLESS_G, 31, 43, 44, 49, 68, 73, 74, 76, ...from(81, 89), 93);
const LATHE_G = numbers(
  ...BOTH_G,
  ...HARMLESS_G,
  31,
  32,
  33,
  ...from(70, 76),
  83,
  84,
  85,
  87,
  88,
  89,
  81,
  82,
  36,
  37,
);
/** Stops, spindle, coolant, ends, calls; orient, rigid tapping, gear ranges, clamps of rotary axes; chucks, tailstocks, part catchers. */
const BOTH_M = [...from(0, 9), 19, 29, 30, 97, 98, 99, 198];
const MILL_M = numbers(...BOTH_M, 10, 11, 12, 13, 88, 89);
const LATHE_M = numbers(
  ...BOTH_M,
  10,
  11,
  12,
  13,
  14,
  15,
  21,
  22,
  23,
  24,
  25,
  26,
  36,
  37,
  40,
  41,
  42,
  43,
  44,
  88,
  89,
);

export function isKnown(letter: 'G' | 'M', code: number, kind: 'mill' | 'lathe'): boolean {
  const known = letter === 'G' ? (kind === 'mill' ? MILL_G : LATHE_G) : kind === 'mill' ? MILL_M : LATHE_M;
  return known.has(code);
}

/** Canned cycles of drilling, by kind of machine. */
export const isDrilling = (code: number, turning: boolean) =>
  turning
    ? code >= 81 && code <= 89
    : code === 73 || code === 74 || code === 76 || (code >= 81 && code <= 89);

/** Cycles of turning: G70 to G76. */
export const isTurning = (code: number, turning: boolean) => turning && code >= 70 && code <= 76;

/** Codes that are known by name and not followed: what they do, and what hangs on it. */
export const NOT_FOLLOWED: Readonly<Record<number, readonly [string, readonly Affected[]]>> = {
  12: ['mills a circular pocket by itself', ['depth', 'life', 'time']],
  13: ['mills a circular pocket by itself', ['depth', 'life', 'time']],
  150: ['mills a pocket by itself', ['depth', 'life', 'time']],
  16: ['turns positions into polar ones', ['depth', 'life', 'time']],
  51: ['scales what follows', ['depth', 'radius', 'life', 'time']],
};

/** A code that applies a length, or one of its family: G43.4 belongs to G43. */
export const isLength = (code: number, dialect: Dialect) =>
  dialect.lengthCodes.some((each) => {
    const known = asWord(each).number;
    return code === known || (Number.isInteger(known) && Math.trunc(code) === known);
  });
