import { registerFromGaugeLength } from '$core/length/schools';
import type { Length } from '$core/units/length';
import { geometryKinds, type Machine } from '$server/machines';
import { lengthIn } from './action';

/** What was typed at a measurement, as the registers of the machine take it. */
export type MeasuredValues =
  | {
      ok: true;
      values: { kind: string; value: Length; before: Length }[];
      /** On a mill; a lathe is touched off in X and Z. */
      gaugeLength: Length | null;
    }
  | { ok: false; reason: string };

/** A mill takes a gauge length and works out the register by the machine's school; a lathe takes X and Z as touched off. */
export function readMeasured(machine: Machine, input: Record<string, unknown>): MeasuredValues {
  const mill = machine.kind === 'mill';
  const values: { kind: string; value: Length; before: Length }[] = [];
  let gaugeLength: Length | null = null;
  for (const field of mill ? ['gaugeLength'] : geometryKinds('lathe')) {
    const typed = lengthIn(machine.unit).safeParse(input[field]);
    if (!typed.success) return { ok: false, reason: typed.error.issues[0]!.message };
    const before = Number(input[`before.${field}`] ?? 0) as Length;
    if (!mill) {
      values.push({ kind: field, value: typed.data, before });
      continue;
    }
    if (typed.data <= 0) return { ok: false, reason: 'A gauge length is above zero.' };
    gaugeLength = typed.data;
    const value = registerFromGaugeLength(typed.data, {
      school: machine.lengthSchool,
      planeConstant: machine.planeConstant,
      masterLength: machine.masterLength,
    });
    values.push({ kind: 'lengthGeometry', value, before });
  }
  return { ok: true, values, gaugeLength };
}
