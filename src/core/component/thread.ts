import { lengthOf, nanometres, type Length } from '../units/length.ts';
import { nearestInchDrill, type DrillSize } from './drill-size.ts';

/** Coarse pitches (ISO 261, from memory), hundredths of a millimetre by nominal diameter. */
const COARSE: Readonly<Record<string, number>> = {
  '1': 25,
  '1.2': 25,
  '1.4': 30,
  '1.6': 35,
  '2': 40,
  '2.5': 45,
  '3': 50,
  '3.5': 60,
  '4': 70,
  '5': 80,
  '6': 100,
  '7': 100,
  '8': 125,
  '10': 150,
  '12': 175,
  '14': 200,
  '16': 200,
  '18': 250,
  '20': 250,
  '22': 250,
  '24': 300,
  '27': 300,
  '30': 350,
};
/** Tap drills of the coarse series where D − P does not fall on a tenth (ISO 2306, from memory), millimetres. */
const ROUNDED: Readonly<Record<string, number>> = {
  '4': 3.3,
  '8': 6.8,
  '12': 10.2,
  '1.6': 1.25,
  '2.5': 2.05,
};
/** Parallel pipe threads (ISO 228-1, from memory): diameter, threads per inch, and the drill (common practice, from memory). Millimetres. */
const PIPE: Readonly<Record<string, readonly [diameter: number, perInch: number, drill: number | null]>> = {
  '1/16': [7.723, 28, 6.8],
  '1/8': [9.728, 28, 8.8],
  '1/4': [13.157, 19, 11.8],
  '3/8': [16.662, 19, 15.25],
  '1/2': [20.955, 14, 19],
  '5/8': [22.911, 14, 21],
  '3/4': [26.441, 14, 24.5],
  '7/8': [30.201, 14, 28.25],
  '1': [33.249, 11, 30.75],
  '1 1/4': [41.91, 11, null],
  '1 1/2': [47.803, 11, null],
  '2': [59.614, 11, null],
};
/** American pipe threads (ASME B1.20.1, from memory): outside diameter of the pipe, inches, and threads per inch. */
const AMERICAN_PIPE: Readonly<Record<string, readonly [diameter: number, perInch: number]>> = {
  '1/16': [0.3125, 27],
  '1/8': [0.405, 27],
  '1/4': [0.54, 18],
  '3/8': [0.675, 18],
  '1/2': [0.84, 14],
  '3/4': [1.05, 14],
  '1': [1.315, 11.5],
  '1 1/4': [1.66, 11.5],
  '1 1/2': [1.9, 11.5],
  '2': [2.375, 11.5],
};
/** Full depth of thread on both sides, over the pitch, that thread percentages are reckoned from (handbook, from memory). */
const FULL_DEPTH = 1.299;
/** What unified taps are drilled for. */
const USUAL_SHARE = 0.75;

export interface Thread {
  name: string;
  diameter: Length;
  pitch: Length;
  inch: boolean;
  /** Threads per inch; null for metric. */
  perInch: number | null;
  /** Called by the bore of a pipe. */
  pipe: boolean;
}

const PIPE_SIZE = String.raw`(?<size>(?:[12][\s-]+)?\d+\/\d+|[12])`;
const PIPES = [
  // parallel and tapered by ISO, the same sizes; tapered, dry-seal and straight by ASME
  { name: (size: string) => `G${size}`, words: new RegExp(`^(?:G|BSPP?)\\s*${PIPE_SIZE}$`), iso: true },
  {
    name: (size: string) => `G${size}`,
    words: new RegExp(`^${PIPE_SIZE}\\s*(?:-\\s*\\d+\\s*)?BSPP?$`),
    iso: true,
  },
  { name: (size: string) => `Rc${size}`, words: new RegExp(`^(?:RC|BSPT)\\s*${PIPE_SIZE}$`), iso: true },
  {
    name: (size: string) => `Rc${size}`,
    words: new RegExp(`^${PIPE_SIZE}\\s*(?:-\\s*\\d+\\s*)?BSPT$`),
    iso: true,
  },
  ...['NPT', 'NPTF', 'NPS', 'NPSF', 'NPSM'].flatMap((kind) => [
    {
      name: (size: string) => `${size} ${kind}`,
      words: new RegExp(`^${PIPE_SIZE}\\s*(?:-\\s*[\\d.]+\\s*)?${kind}$`),
      iso: false,
    },
    { name: (size: string) => `${size} ${kind}`, words: new RegExp(`^${kind}\\s*${PIPE_SIZE}$`), iso: false },
  ]),
];

/** Pipe threads are called by the bore of the pipe, which is not their diameter; null: it is none. */
function pipeThread(word: string): Thread | null {
  for (const { name, words, iso } of PIPES) {
    const size = words.exec(word.toUpperCase())?.groups?.size?.replace(/[\s-]+/, ' ');
    const found = size === undefined ? undefined : (iso ? PIPE : AMERICAN_PIPE)[size];
    if (!found) continue;
    const [diameter, perInch] = found;
    return {
      name: name(size!),
      diameter: lengthOf(diameter, iso ? 'mm' : 'in'),
      pitch: nanometres(Math.round(25_400_000 / perInch)),
      inch: true,
      perInch,
      pipe: true,
    };
  }
  return null;
}

/** A unified size written as a decimal, ".250-20" or "0.190-32", as it is called; the text itself where it is none. */
function calledBySize(word: string): string {
  const decimal = /^(\d?\.\d{2,4})\s*-\s*(\d{1,2})\b(.*)$/.exec(word);
  if (!decimal) return word;
  const [, inches, perInch, rest] = decimal as unknown as [string, string, string, string];
  const value = Number(inches);
  const gauge = Math.round((value - 0.06) / 0.013);
  if (gauge >= 0 && gauge <= 12 && Math.abs(0.06 + 0.013 * gauge - value) < 0.0006)
    return `#${gauge}-${perInch}${rest}`;
  const sixteenths = Math.round(value * 16);
  if (sixteenths === 0 || Math.abs(sixteenths / 16 - value) > 0.0006) return word;
  const [whole, part] = [Math.floor(sixteenths / 16), sixteenths % 16];
  const by = [8, 4, 2, 1].find((each) => part % each === 0)!;
  const fraction = part === 0 ? '' : `${part / by}/${16 / by}`;
  return `${[whole || '', fraction].filter(Boolean).join(' ')}-${perInch}${rest}`;
}

/** Class of fit and series behind a thread: "-2B", "6H", "UNC", "UNEF". They are no part of what it is called. */
const CLASS = /\s*[-\s]\s*(?:[1-3][AB]|[4-9][GHgh](?:[4-9][GHgh])?)$/;

export type ThreadResult = { ok: true; thread: Thread } | { ok: false; reason: string };

/** Reads "M8", "M10x1.25", "M10-1.25", "5/16-18", ".250-20", "#10-24 UNC", "G1/4", "1/8-27 NPT", with or without the class of fit. */
export function readThread(text: string): ThreadResult {
  const plain = text.trim().replace(',', '.').replace(CLASS, '');
  const pipe = pipeThread(plain);
  if (pipe) return { ok: true, thread: pipe };
  const word = calledBySize(plain);
  const metric = /^m\s*(\d+(?:\.\d+)?)(?:(?:\s*[x×*]\s*|-)(\d*\.?\d+))?$/i.exec(word);
  if (metric) {
    const size = String(Number(metric[1]));
    const coarse = COARSE[size];
    const pitch = metric[2] ? Number(metric[2]) : coarse === undefined ? null : coarse / 100;
    if (pitch === null)
      return { ok: false, reason: `M${size} has no coarse pitch here: write the pitch, as M${size}x1.` };
    if (pitch <= 0 || pitch >= Number(size) / 2)
      return { ok: false, reason: `A pitch of ${pitch} mm does not belong to M${size}.` };
    return {
      ok: true,
      thread: {
        name: pitch * 100 === coarse ? `M${size}` : `M${size}x${pitch}`,
        diameter: lengthOf(Number(size), 'mm'),
        pitch: lengthOf(pitch, 'mm'),
        inch: false,
        perInch: null,
        pipe: false,
      },
    };
  }
  const unified =
    /^(?:#\s*(\d{1,2})|(?:(\d)[\s-]+)?(\d+)\/(\d+)|(\d{1,2}))\s*-\s*(\d{1,2})(?:\s*un(?:[cfsj]|ef|jf)?)?$/i.exec(
      word,
    );
  if (!unified) return { ok: false, reason: 'A thread is written as M8, M10x1.25, 5/16-18 or #10-24.' };
  const [, numbered, whole, above, below, bare, perInch] = unified;
  const threads = Number(perInch);
  // "8-32" is called without its #; a bare number is inches only where so few threads could be meant (1-8, 2-4)
  const gauge = numbered ?? (bare !== undefined && threads >= 20 ? bare : undefined);
  const full = gauge === undefined ? bare : undefined;
  // screw gauge numbers: 0.060 in and 0.013 in for each number (ASME B1.1, from memory)
  const inches =
    gauge !== undefined
      ? 0.06 + 0.013 * Number(gauge)
      : full !== undefined
        ? Number(full)
        : Number(whole ?? 0) + Number(above) / Number(below);
  if (!Number.isFinite(inches) || inches <= 0 || inches > 4)
    return { ok: false, reason: 'That is not a unified thread size up to 4 in.' };
  if (threads < 3 || 2 / threads >= inches)
    return { ok: false, reason: `${threads} threads per inch do not belong to that size.` };
  return {
    ok: true,
    thread: {
      name: `${gauge !== undefined && numbered === undefined ? '#' : ''}${word.replace(/\s*un(?:[cfsj]|ef|jf)?$/i, '').replace(/\s+/g, ' ')}`,
      diameter: lengthOf(inches, 'in'),
      pitch: nanometres(Math.round(25_400_000 / threads)),
      inch: true,
      perInch: threads,
      pipe: false,
    },
  };
}

/** What a thread is called, however it is written: "M8x1.25" and "M8" are one. What is no thread stays as it is. */
export function threadName(text: string): string {
  const read = readThread(text);
  return read.ok ? read.thread.name : text;
}

/** Share of a full thread that a tap leaves in a drilled hole: (D − d) / (1.299 P). */
export const threadEngagement = (thread: Thread, drill: Length) =>
  (thread.diameter - drill) / (FULL_DEPTH * thread.pitch);

/**
 * The drill for a cutting tap: metric D − P to the listed size; unified the stock drill nearest to 75 % thread; of parallel pipe threads
 * the listed one. Null for tapered ones: it depends on whether the hole is reamed.
 */
export function tapDrill(thread: Thread): DrillSize | null {
  if (thread.pipe) {
    const drill = thread.name.startsWith('G') ? (PIPE[thread.name.slice(1)]?.[2] ?? null) : null;
    return drill === null ? null : { name: `${drill} mm`, diameter: lengthOf(drill, 'mm') };
  }
  if (thread.inch) return nearestInchDrill(thread.diameter - USUAL_SHARE * FULL_DEPTH * thread.pitch);
  const listed = ROUNDED[thread.name.slice(1)];
  const diameter = listed === undefined ? nanometres(thread.diameter - thread.pitch) : lengthOf(listed, 'mm');
  return { name: `${diameter / 1e6} mm`, diameter };
}

/** The hole for a forming tap, which moves metal instead of cutting it: D − P/2 (common practice, no source). */
export const formingDrill = (thread: Thread): Length =>
  nanometres(Math.round(thread.diameter - thread.pitch / 2));
