import { inUnit, type Length, type LengthUnit } from '../units/length.ts';
import { directionOf, tipFor, type BoringShift, type Shift } from './boring-shift.ts';

export interface BoringView {
  line: number;
  /** Which way the tool is shifted at the bottom; null: along both axes, or not at all. */
  shift: Shift | null;
  length: Length;
  /** Which way the tip points, by whoever looked; null: nobody did since it was put there. */
  tip: Shift | null;
  verdict: 'safe' | 'wall' | 'unknown';
  /** How far the tip comes off the wall; below zero: into it. Null: not known. */
  clears: Length | null;
  overridden: boolean;
}

const VECTOR: Readonly<Record<Shift, readonly [number, number]>> = {
  'X+': [1, 0],
  'X-': [-1, 0],
  'Y+': [0, 1],
  'Y-': [0, -1],
};
export const vectorOf = (way: Shift) => VECTOR[way];

/**
 * A shift at the bottom of a fine bore, as seen from above (H10): the tip stands on the wall, at the bore's radius from its axis, and the
 * whole tool is shifted. It comes off the wall only where the shift is straight away from the tip; across it the tip is drawn along the
 * wall and into it a little, along it straight into it.
 *
 * @param diameter of the bore: of the tool that cuts it
 */
export function boringView(
  shift: BoringShift,
  tip: Shift | null,
  machine: Shift,
  diameter: Length | null,
): BoringView {
  const way = directionOf(shift, machine);
  const known = { line: shift.line, shift: way, length: shift.shift, tip, overridden: shift.overridden };
  if (way === null || shift.shift === 0) return { ...known, verdict: 'wall', clears: null };
  if (tip === null) return { ...known, verdict: 'unknown', clears: null };
  const [tx, ty] = VECTOR[tip];
  const [sx, sy] = VECTOR[way];
  const radius = (diameter ?? 0) / 2;
  const at = Math.hypot(radius * tx + shift.shift * sx, radius * ty + shift.shift * sy);
  return {
    ...known,
    verdict: way === tipFor(tip) ? 'safe' : 'wall',
    clears: diameter === null ? null : (Math.round(radius - at) as Length),
  };
}

/**
 * A boring block whose shift takes this tip off the wall: Q where the machine's own way does, else I or J with its sign and no Q, which
 * would override them. Every other word stays.
 */
export function correctedBlock(
  block: string,
  tip: Shift,
  machine: Shift,
  length: Length,
  unit: LengthUnit,
): string {
  const away = tipFor(tip);
  const size = String(Number(inUnit(length, unit).toFixed(unit === 'mm' ? 3 : 4)));
  const value = size.includes('.') ? size : `${size}.`;
  const word =
    away === machine ? `Q${value}` : `${away[0] === 'X' ? 'I' : 'J'}${away[1] === '+' ? '' : '-'}${value}`;
  const remark = /\s*\([^)]*\)\s*$/.exec(block)?.[0] ?? '';
  const words = block
    .slice(0, block.length - remark.length)
    .replace(/[QIJ]\s*[-+]?\d*\.?\d*/gi, '')
    .replace(/\s+/g, ' ')
    .trim();
  // before F, where it usually stands
  const feed = /\s*F\s*[\d.]+\s*$/i.exec(words);
  const text = feed ? `${words.slice(0, feed.index)} ${word} ${feed[0].trim()}` : `${words} ${word}`;
  return `${text}${remark}`;
}
