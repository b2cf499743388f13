import { nanometres, type Length } from './length.ts';

/**
 * Rounds to a register's least increment (0.001 mm or 0.0001 in, H14). A tie goes towards zero: of two
 * equally near corrections the smaller one is keyed. `increment` in nanometres, above zero.
 */
export function roundToIncrement(value: Length, increment: Length): Length {
  if (increment <= 0) throw new RangeError('a least increment must be above zero');
  const steps = Math.abs(value) / increment;
  const whole = Math.floor(steps);
  const kept = steps - whole > 0.5 ? whole + 1 : whole;
  return nanometres(Math.sign(value) * kept * increment);
}
