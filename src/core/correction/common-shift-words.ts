import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import type { CommonShift } from './common-shift.ts';

/** What is looked at first where a whole set-up is off, by the direction of its rows (common practice, no source). */
const LOOK: Readonly<Record<string, string>> = {
  lengthWear: 'the work offset in Z, whether the part sits down, and what the tools were measured to',
  zWear: 'the work shift in Z, whether the part sits against its stop, and what the tools were measured to',
  xWear:
    'whether the machine is as warm as when its tools were measured, the zero of its X, and what they were measured to',
};

/** What a setter would say of a set-up that is off as a whole; amounts to the machine's increment. */
export function shiftWords(
  { role, by, rows }: CommonShift,
  unit: LengthUnit,
  increment: Length,
): { found: string; look: string } {
  const tools = [...new Set(rows.map(({ tool }) => tool))].sort((a, b) => a - b).map((tool) => `T${tool}`);
  const amount = nanometres(Math.round(by / increment) * increment);
  const named = rows.length === 2 && tools.length === 2 ? 'both' : 'all';
  return {
    found: `${tools.slice(0, -1).join(', ')} and ${tools.at(-1)} ${named} need about ${formatLength(amount, unit, { sign: 'always' })} ${unit}${role === 'xWear' ? ' in X' : role === 'zWear' ? ' in Z' : ' in length'}: that many tools are seldom off alike.`,
    look: `Before you move each row, look at ${LOOK[role]}; and at the zero of the gauge, if one measured them all.`,
  };
}
