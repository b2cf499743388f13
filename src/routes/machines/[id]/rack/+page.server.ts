import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { OPENINGS, RACK_STEPS } from '$core/changer/rack';
import { may } from '$core/people/roles';
import type { LengthUnit } from '$core/units/length';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { captureFork, confirmRackStep, rackOf, setRack } from '$server/racks';
import { act, lengthIn, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  if (machine.changerKind !== 'rack') error(404, `${machine.name} has no linear rack.`);
  return { rack: await rackOf(pool(), machine), mayCommission: may(locals.person!.role, 'editMachines') };
};

const fields = z.record(z.string(), z.string());
const emptyLength = (unit: LengthUnit) =>
  z.union([z.literal('').transform(() => null), lengthIn(unit)]).default(null);

export const actions: Actions = {
  capture: act(fields, async ({ input, asking, event }) => {
    const machine = await machineById(pool(), Number(event.params.id));
    if (!machine) return { ok: false, reason: 'There is no such machine.' };
    const length = lengthIn(machine.unit);
    const spot = z
      .object({ fork: whole('The fork', 1, 999), x: length, y: length, z: length })
      .safeParse(input);
    if (!spot.success)
      return {
        ok: false,
        reason: spot.error.issues
          .map((issue) => `${String(issue.path[0]).toUpperCase()}: ${issue.message}`)
          .join(' '),
      };
    return captureFork(asking, { machineId: machine.id, ...spot.data });
  }),
  set: act(fields, async ({ input, asking, event }) => {
    const machine = await machineById(pool(), Number(event.params.id));
    if (!machine) return { ok: false, reason: 'There is no such machine.' };
    const length = emptyLength(machine.unit);
    const setting = z
      .object({
        opening: z.enum(['', ...OPENINGS]).default(''),
        slideIn: length,
        slideClear: length,
        clearance: length,
        bump: length,
        spindleSeconds: z
          .union([
            z.literal('').transform(() => null),
            z.coerce.number({ error: 'Seconds must be a number.' }).positive().max(120),
          ])
          .default(null),
      })
      .safeParse(input);
    if (!setting.success)
      return { ok: false, reason: setting.error.issues.map((issue) => issue.message).join(' ') };
    return setRack(asking, { machineId: machine.id, ...setting.data });
  }),
  confirm: act(z.object({ step: z.enum(RACK_STEPS.map((step) => step.name)) }), ({ input, asking, event }) =>
    confirmRackStep(asking, { machineId: Number(event.params.id), step: input.step }),
  ),
};
