import { nanometres, type Length } from '../units/length.ts';
import type { Parsed } from '../units/parse-length.ts';

/**
 * Where the imaginary tip stands as seen from the middle of the nose circle, by the number that is usual on lathes
 * with X+ away from the operator's side of the axis (common practice, no source). 9 is the middle itself.
 */
export const TIP_DIRECTIONS: readonly { number: number; x: number; z: number }[] = [
  { number: 1, x: 1, z: 1 },
  { number: 2, x: 1, z: -1 },
  { number: 3, x: -1, z: -1 },
  { number: 4, x: -1, z: 1 },
  { number: 5, x: 0, z: 1 },
  { number: 6, x: 1, z: 0 },
  { number: 7, x: 0, z: -1 },
  { number: 8, x: -1, z: 0 },
  { number: 9, x: 0, z: 0 },
];

/** A tip's direction as a control shows it: a number from 0 to 9, and no length, though a register holds it as one. */
export const readDirection = (text: string): Parsed<Length> =>
  /^\+?0?\d([.,]0*)?$/.test(text.trim())
    ? { ok: true, value: nanometres(Number.parseInt(text.trim(), 10)) }
    : { ok: false, reason: `"${text.trim().slice(0, 30)}" is no direction of a tip.` };

/** A tip direction in words: where the tip points. */
export function tipWords(number: number): string {
  const tip = TIP_DIRECTIONS.find((each) => each.number === number);
  if (!tip) return 'not set';
  const parts = [tip.x > 0 ? 'X+' : tip.x < 0 ? 'X−' : '', tip.z > 0 ? 'Z+' : tip.z < 0 ? 'Z−' : ''].filter(
    Boolean,
  );
  return parts.length === 0 ? 'the middle of the nose' : `points to ${parts.join(' and ')}`;
}
