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
}

export type ThreadResult = { ok: true; thread: Thread } | { ok: false; reason: string };

/** Reads "M8", "M10x1.25", "5/16-18", "#10-24 UNC". */
export function readThread(text: string): ThreadResult {
  const word = text.trim().replace(',', '.');
  const metric = /^m\s*(\d+(?:\.\d+)?)(?:\s*[x×*]\s*(\d+(?:\.\d+)?))?$/i.exec(word);
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
      },
    };
  }
  const unified =
    /^(?:#\s*(\d{1,2})|(?:(\d)[\s-]+)?(\d+)\/(\d+)|(\d{1,2}))\s*-\s*(\d{1,2})(?:\s*un[cf]?)?$/i.exec(word);
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
      name: `${gauge !== undefined && numbered === undefined ? '#' : ''}${word.replace(/\s*un[cf]?$/i, '').replace(/\s+/g, ' ')}`,
      diameter: lengthOf(inches, 'in'),
      pitch: nanometres(Math.round(25_400_000 / threads)),
      inch: true,
      perInch: threads,
    },
  };
}

/** Share of a full thread that a tap leaves in a drilled hole: (D − d) / (1.299 P). */
export const threadEngagement = (thread: Thread, drill: Length) =>
  (thread.diameter - drill) / (FULL_DEPTH * thread.pitch);

/** The drill for a cutting tap: metric D − P to the listed size; unified the stock drill nearest to 75 % thread. */
export function tapDrill(thread: Thread): DrillSize {
  if (thread.inch) return nearestInchDrill(thread.diameter - USUAL_SHARE * FULL_DEPTH * thread.pitch);
  const listed = ROUNDED[thread.name.slice(1)];
  const diameter = listed === undefined ? nanometres(thread.diameter - thread.pitch) : lengthOf(listed, 'mm');
  return { name: `${diameter / 1e6} mm`, diameter };
}

/** The hole for a forming tap, which moves metal instead of cutting it: D − P/2 (common practice, no source). */
export const formingDrill = (thread: Thread): Length =>
  nanometres(Math.round(thread.diameter - thread.pitch / 2));
