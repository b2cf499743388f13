import { formatLength, USUAL_DECIMALS } from '../units/format-length.ts';
import { inUnit, nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { slipBetween } from './slips.ts';

/**
 * Why a reading should be taken again before anybody acts on it, or null (H14: re-check a surprising reading).
 * Surprising: further from target than four times the whole tolerance. When a known slip explains it,
 * the slip is named.
 */
export function suspect(measured: Length, target: Length, width: Length, unit: LengthUnit): string | null {
  const deviation = nanometres(measured - target);
  if (Math.abs(deviation) <= 4 * width) return null;
  const show = (value: Length) => formatLength(value, unit);
  const tolerance = 4 * width;
  const isNear = (value: number) => Math.abs(value - target) <= tolerance;
  if (isNear(measured * 25.4))
    return `${show(measured)} ${unit} looks like inches read as millimetres: in ${unit} it would be ${show(nanometres(Math.round(measured * 25.4)))}. Write the unit after the number.`;
  if (isNear(measured / 25.4))
    return `${show(measured)} ${unit} looks like millimetres read as inches: it would be ${inUnit(Math.round(measured / 25.4), unit).toFixed(USUAL_DECIMALS[unit])}. Write the unit after the number.`;
  if (isNear(measured * 10) || isNear(measured / 10))
    return `${show(measured)} ${unit} looks like a slipped decimal point: the target is ${show(target)}.`;
  if (isNear(-measured)) return `${show(measured)} ${unit} has its sign reversed.`;
  if (slipBetween(measured, target, unit, USUAL_DECIMALS[unit]) === 'digitsSwapped')
    return `${show(measured)} ${unit} looks like ${show(target)} with two digits swapped.`;
  return `${show(measured)} ${unit} is ${formatLength(deviation, unit, { sign: 'always' })} from target, more than four times the tolerance. Check the gauge's zero, chips, a burr, the right feature, and measure again.`;
}
