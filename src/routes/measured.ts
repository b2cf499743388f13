import { z } from 'zod';
import { LENGTH_METHODS } from '$core/length/transfer';
import { referenceOf, registerFromGaugeLength } from '$core/length/schools';
import { nanometres } from '$core/units/length';
import type { Machine } from '$server/machines';
import { id, lengthIn, shownLength, whole } from './action';

const wasShown = shownLength.default(nanometres(0));

/**
 * What is typed at a measurement, as the registers of the machine take it: a mill takes a gauge length and works out the register
 * by the machine's school; a lathe takes X and Z as touched off.
 */
export function measuredOn(machine: Machine) {
  if (machine.kind === 'lathe')
    return z
      .object({
        xGeometry: lengthIn(machine.unit),
        zGeometry: lengthIn(machine.unit),
        'before.xGeometry': wasShown,
        'before.zGeometry': wasShown,
      })
      .transform((typed) => ({
        values: [
          { kind: 'xGeometry', value: typed.xGeometry, before: typed['before.xGeometry'] },
          { kind: 'zGeometry', value: typed.zGeometry, before: typed['before.zGeometry'] },
        ],
        gaugeLength: null,
      }));
  return z
    .object({
      gaugeLength: lengthIn(machine.unit).refine((value) => value > 0, 'A gauge length must be above zero.'),
      'before.gaugeLength': wasShown,
    })
    .transform(({ gaugeLength, 'before.gaugeLength': before }) => ({
      values: [
        { kind: 'lengthGeometry', value: registerFromGaugeLength(gaugeLength, referenceOf(machine)), before },
      ],
      gaugeLength,
    }));
}

/** A measurement of a tool in a row of the machine, and how it was taken. */
export const measurementOn = (machine: Machine) =>
  z
    .object({
      assembly: id,
      row: whole('The row', 1, 999),
      method: z.enum(LENGTH_METHODS).default(machine.kind === 'lathe' ? 'touchOff' : 'typed'),
    })
    .and(measuredOn(machine));
