import { z } from 'zod';
import { registerFromGaugeLength } from '$core/length/schools';
import { LENGTH_METHODS } from '$core/length/transfer';
import { may } from '$core/people/roles';
import { looseAssemblies } from '$server/assemblies';
import { pool } from '$server/db';
import { geometryKinds, machineById } from '$server/machines';
import { placesOf, placeTool, takeOut } from '$server/places';
import { measureTool, registersOf } from '$server/registers';
import { act, id, lengthIn, whole } from '../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  const db = pool();
  const [places, loose, registers] = await Promise.all([
    placesOf(db, machine.id),
    looseAssemblies(db, machine.interface),
    registersOf(db, machine.id),
  ]);
  const kinds = geometryKinds(machine.kind);
  const { role } = locals.person!;
  return {
    places,
    loose: loose.map(({ id: assemblyId, number, name, flag }) => ({ id: assemblyId, number, name, flag })),
    geometry: registers.filter((register) => kinds.includes(register.kind)),
    mayPlace: may(role, 'placeTools'),
    mayMeasure: may(role, 'measureTools'),
  };
};

const placeSchema = z.object({ place: id, assembly: id, tool: whole('T', 1, 9999) });
const takeOutSchema = z.object({ place: id, assembly: id, why: z.string().max(200).default('') });
const measureSchema = z.record(z.string(), z.string());

export const actions: Actions = {
  place: act(placeSchema, ({ input, asking }) =>
    placeTool(asking, { placeId: input.place, assemblyId: input.assembly, tool: input.tool }),
  ),
  takeOut: act(takeOutSchema, ({ input, asking }) =>
    takeOut(asking, { placeId: input.place, assemblyId: input.assembly, why: input.why }),
  ),
  /** A mill takes a gauge length and works out the register by the machine's school; a lathe takes X and Z as touched off. */
  measure: act(measureSchema, async ({ input, asking, event }) => {
    const machine = await machineById(pool(), Number(event.params.id));
    const numbers = z
      .object({
        assembly: id,
        row: whole('The row', 1, 999),
        method: z.enum(LENGTH_METHODS).default('typed'),
      })
      .safeParse(input);
    if (!machine || !numbers.success) return { ok: false, reason: 'Choose a tool first.' };
    const fields = machine.kind === 'mill' ? ['gaugeLength'] : geometryKinds('lathe');
    const typed = fields.map((field) => ({
      field,
      value: lengthIn(machine.unit).safeParse(input[field]),
      before: Number(input[`before.${field}`]),
    }));
    const wrong = typed.find((each) => !each.value.success);
    if (wrong) return { ok: false, reason: wrong.value.error!.issues[0]!.message };
    const values = typed.map(({ field, value, before }) =>
      machine.kind === 'mill'
        ? {
            kind: 'lengthGeometry',
            value: registerFromGaugeLength(value.data!, {
              school: machine.lengthSchool,
              planeConstant: machine.planeConstant,
              masterLength: machine.masterLength,
            }),
            before: before as never,
          }
        : { kind: field, value: value.data!, before: before as never },
    );
    if (machine.kind === 'mill' && typed[0]!.value.data! <= 0)
      return { ok: false, reason: 'A gauge length is above zero.' };
    return measureTool(asking, {
      machineId: machine.id,
      assemblyId: numbers.data.assembly,
      row: numbers.data.row,
      values,
      gaugeLength: machine.kind === 'mill' ? typed[0]!.value.data! : null,
      how: machine.kind === 'mill' ? 'Measured after loading.' : 'Touched off.',
      method: machine.kind === 'lathe' ? 'touchOff' : numbers.data.method,
    });
  }),
};
