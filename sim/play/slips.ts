import { formatLength } from '../../src/core/units/format-length.ts';
import { nanometres, type LengthUnit } from '../../src/core/units/length.ts';
import type { Chance } from './chance.ts';

/** What people do wrong when they copy numbers by hand, and how often at one keying (invented for the play). */
export const KEYING = {
  signTurned: 0.02,
  digitsSwapped: 0.012,
  decimalPoint: 0.008,
  neighbourRow: 0.012,
  keyedTwice: 0.01,
  forgotten: 0.02,
} as const;
export type KeyingSlip = keyof typeof KEYING;

/** Other slips: a reading written down wrongly, wear left in at a change of edge, an end that nobody noticed. */
export const READ_WRONG = 0.015;
export const WEAR_LEFT = 0.06;
export const END_MISSED = 0.08;
/** A number that should have been read off the screen is said from memory. */
export const NOT_LOOKED = 0.02;

/** Which slip is made at one keying; mostly none. */
export function slipAt(luck: Chance): KeyingSlip | null {
  let left = luck.uniform();
  for (const [slip, rate] of Object.entries(KEYING) as [KeyingSlip, number][]) {
    left -= rate;
    if (left < 0) return slip;
  }
  return null;
}

/** Two neighbouring digits swapped, as they stand on a screen; the number itself where all are alike. */
export function swapped(value: number, unit: LengthUnit, decimals: number): number {
  const text = formatLength(nanometres(Math.round(Math.abs(value))), unit, { decimals, minus: '-' });
  for (let i = text.length - 1; i > 0; i -= 1) {
    const [a, b] = [text[i - 1]!, text[i]!];
    if (a === b || a === '.' || b === '.') continue;
    const turned = Number(text.slice(0, i - 1) + b + a + text.slice(i + 1));
    return Math.sign(value) * Math.round(turned * (unit === 'mm' ? 1e6 : 25.4e6));
  }
  return value;
}

/** What the control holds after a register was to be moved from one value to another: null where nothing was keyed there. */
export function keyed(slip: KeyingSlip | null, from: number, to: number, unit: LengthUnit, decimals: number) {
  switch (slip) {
    case null:
      return to;
    case 'signTurned':
      return from - (to - from);
    case 'digitsSwapped':
      return swapped(to, unit, decimals);
    case 'decimalPoint':
      return Math.abs(to) >= 1e6 ? to / 10 : to * 10;
    case 'keyedTwice':
      return to + (to - from);
    case 'neighbourRow':
    case 'forgotten':
      return null;
  }
}
