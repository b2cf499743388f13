import { readInsert } from '../component/insert-designation.ts';
import { readDrillSize } from '../component/drill-size.ts';
import { readThread, type Thread } from '../component/thread.ts';
import type { AssemblyKind } from '../assembly/silhouette.ts';
import { lengthOf, type Length, type LengthUnit } from '../units/length.ts';

/** No name of a tool is longer; what is, is no name, and would be looked through many times over. */
const LONGEST = 200;

/** A comment in one way of writing: capitals, decimal points, one sign for times and for across; without the number of the tool. */
export const plainComment = (comment: string): string =>
  comment
    .slice(0, LONGEST)
    .replace(/^\s*T\d+\s*[-:=]?\s*/i, '')
    .toUpperCase()
    .replace(/[×*]/g, 'X')
    .replace(/⌀/g, 'Ø')
    .replace(/[″”]/g, '"')
    .replace(/(\d),(\d)/g, '$1.$2');

/** Nothing of the kind is so large, and nothing stands out so far, millimetres: the number is no size, or not in the unit of the program. */
const LARGEST = 130;
const FURTHEST = 1500;

const NUMBER = String.raw`\d*\.?\d+`;
const FRACTION = String.raw`(?:\d+[\s-]+)?\d+\/\d+`;
const PIPE = String.raw`(?:NPT|NPTF|NPS|NPSM|NPSF|BSP|BSPP|BSPT)`;
/** Threads as programmers write them; those of pipes by their letters. */
const THREADS: readonly RegExp[] = [
  new RegExp(String.raw`\b(?:${PIPE}|G|RC)\s*${FRACTION}`, 'g'),
  new RegExp(String.raw`(?<![\d./])(?:${FRACTION}|[12])\s*(?:-\s*[\d.]+\s*)?${PIPE}\b`, 'g'),
  /\bMF?\d+(?:\.\d+)?(?:\s*X\s*\d*\.?\d+|-\d*\.?\d+(?![\d.]*\s?[GH](?![A-Z])))?/g,
  new RegExp(
    String.raw`(?:#\s*\d{1,2}|(?<![\d./])${FRACTION}|(?<![\d.])\d?\.\d{2,4}|(?<![\d./])\d{1,2})\s*-\s*\d{1,2}(?![\d./])(?:\s*UN(?:[CFSJ]|EF|JF)?\b)?`,
    'g',
  ),
];

/**
 * The first thread that a comment names, whether it names one at all, and the comment without. Where no tap is spoken of, "8 - 2" is a
 * size and a number of holes sooner than a thread.
 */
export function threadIn(
  text: string,
  tap: boolean,
): { thread: Thread | null; named: boolean; rest: string } {
  const found: { at: number; thread: Thread | null }[] = [];
  const rest = THREADS.reduce(
    (left, words) =>
      left.replace(words, (word: string, ...more: unknown[]) => {
        const read = readThread(word.replace(/^MF/, 'M'));
        const at = more.find((each) => typeof each === 'number')!;
        if (!tap && (!read.ok || /\s-|-\s/.test(word))) return word;
        found.push({ at, thread: read.ok ? read.thread : null });
        return ' '.repeat(word.length);
      }),
    text,
  );
  const first = found.sort((a, b) => a.at - b.at).find(({ thread }) => thread !== null);
  return { thread: first?.thread ?? null, named: found.length > 0, rest };
}

const TEETH =
  /\b(\d{1,2})\s*-?\s*(?:EDGED?S?|FLUTES?D?|FLT?S?|TEETH|TOOTH)\b\.?|\bZ\s*=?\s*(\d{1,2})\b|\b(\d{1,2})F\b/;
/** How many edges it has, by any of the ways to say it. */
export function teethIn(text: string): number | null {
  const found = TEETH.exec(text);
  const said = found?.[1] ?? found?.[2] ?? found?.[3];
  return said === undefined ? null : Number(said);
}

const CORNER = String.raw`(?:C?R|C\.R\.|C?RAD(?:IUS)?(?:\.(?=\s))?)`;
/** "R0.5" even behind a size, "R 0.5" by itself, and "0.5R". */
const RADIUS = new RegExp(
  String.raw`(?<![A-Z])${CORNER}(?:\s*=\s*)?(${FRACTION}|${NUMBER})\b|(?<![A-Z\d.])${CORNER}\s+(${FRACTION}|${NUMBER})\b|(?<![\d.])(\d*\.\d+)R(?:AD)?\b(?!\s*=)`,
);
/** The radius at its corner, or of the insert that a lathe's comment names. */
export function cornerIn(text: string, unit: LengthUnit, lathe: boolean): Length | null {
  const found = RADIUS.exec(text);
  const said = found?.slice(1).find((each) => each !== undefined);
  if (said !== undefined) return said.includes('/') ? fraction(said) : upTo(LARGEST, Number(said), unit);
  const insert = lathe ? /\b[A-Z]{4}[\s-]?\d[\dT.]{2,5}/.exec(text)?.[0] : undefined;
  const read = insert === undefined ? null : readInsert(insert);
  return read?.ok && read.insert.noseRadius !== null ? lengthOf(read.insert.noseRadius, 'mm') : null;
}

/** How far it is to stand out at least, where the comment says that. */
export function reachIn(text: string, unit: LengthUnit): Length | null {
  const said = new RegExp(String.raw`\bREACH\s*[:=]?\s*(${NUMBER})\b`).exec(text)?.[1];
  return said === undefined || Number(said) === 0 ? null : upTo(FURTHEST, Number(said), unit);
}

/** A number as a length, where it can be one of its kind: up to so many millimetres. */
const upTo = (most: number, value: number, unit: LengthUnit): Length | null =>
  value * (unit === 'mm' ? 1 : 25.4) <= most ? lengthOf(value, unit) : null;

/** What has a number and is no size across: edges, angles, corners, lengths, times its diameter, how many, fits, pitches, other tools. */
const NO_SIZE: readonly RegExp[] = [
  TEETH,
  new RegExp(String.raw`(?:\bX\s*)?\b${NUMBER}X?D\b(?!\s*=)|(?:\bX\s*)?\b${NUMBER}\s*X?\s*D\b(?!\s*[=.\d])`),
  /(?<![\d./])\d+X(?=\s)|(?<![\d./])\d+\s*X(?!\s*[\d.])/,
  /\b\d+(?:\.\d+)?\s*-?\s*(?:DEG\w*|°)/,
  RADIUS,
  new RegExp(
    String.raw`\b(?:L|LG|LEN|LENGTH|LOC|OAL|LCF|H|HT|REACH|STICK[\s-]?OUT|DP|DEPTH|DEEP|P|PITCH)\s*[:=]?\s*${NUMBER}\b`,
  ),
  /\b\d+\s*(?:HOLES?|PLACES?|PLCS?|TIMES)\b/,
  new RegExp(String.raw`\b${NUMBER}\s*P\b`),
  /(?<=\d)\s*(?:[FGHKNP]|JS)\d{1,2}\b/,
  /\bT\d+\b/,
  new RegExp(String.raw`\b(?!D\s*=|DIA)[A-Z]+\s*=\s*-?${NUMBER}`),
];

/** Body of combined centre drills by their number, inches (ASME B94.11M plain type, from memory). */
const CENTRE_DRILLS = [1 / 8, 3 / 16, 1 / 4, 5 / 16, 7 / 16, 1 / 2, 5 / 8, 3 / 4];

const SIZE = String.raw`#\s*\d{1,2}|${FRACTION}|${NUMBER}`;
const UNIT = String.raw`(?:\s*(?<unit>MM|INCH|IN|")(?![A-Z]))?`;
/** A size that is marked as one goes before any number that is not. */
const SIZES = [
  new RegExp(
    String.raw`(?:Ø|(?<![A-Z])DIA(?:METER)?(?:(?<point>\.)(?=\d)|\.?)|(?<![A-Z])D)\s*=?\s*(?<size>${SIZE})${UNIT}`,
  ),
  new RegExp(String.raw`(?<![A-Z\d.])(?<size>${SIZE})${UNIT}\s*(?:Ø|DIA\b)`),
  new RegExp(String.raw`(?<![A-Z\d.])(?<size>${SIZE})${UNIT}`),
];
const LARGE: ReadonlySet<AssemblyKind> = new Set(['faceMill', 'boringBar', 'reamer', 'threadMill']);
const LARGEST_OF_THEM = 600;

const fraction = (text: string): Length | null => {
  const read = readDrillSize(text.replace(/-/g, ' '));
  return read.ok ? read.size.diameter : null;
};

/** How large it is across, by its comment; null where that says nothing, or could be either of two. */
export function sizeIn(text: string, kind: AssemblyKind, unit: LengthUnit): Length | null {
  const drills = kind === 'drill' || kind === 'spotDrill';
  const plain = drills
    ? text.replace(/\b(?:NO\.?|NUMBER)\s*(?=\d{1,2}\b(?!\.))/g, unit === 'in' ? '#' : 'NO')
    : text;
  const rest = NO_SIZE.reduce((left, words) => left.replace(new RegExp(words.source, 'g'), ' '), plain);
  for (const words of SIZES) {
    const found = words.exec(rest);
    if (found) return sizeOf(found.groups as unknown as Written, rest, kind, unit);
  }
  const letter =
    /\b(?:LETTER|LTR)\.?\s*([A-Z])\b/.exec(rest)?.[1] ??
    (unit === 'in' && kind === 'drill'
      ? (/\bDRILL\s+([A-Z])\b(?!\s*[-/&])/.exec(rest)?.[1] ?? /(?:^|\s)([ABD-Z])\s+DRILL\b/.exec(rest)?.[1])
      : undefined);
  return letter !== undefined && drills ? fraction(letter) : null;
}

interface Written {
  size: string;
  unit?: string;
  /** "DIA.5": the point may end the word, or begin the number. */
  point?: string;
}

function sizeOf(
  { size, unit: said, point }: Written,
  text: string,
  kind: AssemblyKind,
  unit: LengthUnit,
): Length | null {
  if (size.startsWith('#')) {
    if (kind === 'drill') return fraction(size.replace(/\s/g, ''));
    const centre = /\bCENT|\bCTR/.test(text) ? CENTRE_DRILLS[Number(size.slice(1)) - 1] : undefined;
    return centre === undefined ? null : lengthOf(centre, 'in');
  }
  if (size.includes('/')) return fraction(size);
  if (point && unit === 'mm') return null;
  const number = Number(`${point ?? ''}${size}`);
  const own = said === undefined ? unit : said === 'MM' ? 'mm' : 'in';
  const most = LARGE.has(kind) ? LARGEST_OF_THEM : LARGEST;
  return number > 0 ? upTo(most, number, own) : null;
}
