import { traitsOf } from '$core/changer/traits';
import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { OPENINGS, RACK_STEPS } from '$core/changer/rack';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { captureFork, confirmRackStep, rackOf, setRack } from '$server/racks';
import { act, actAtMachine, lengthIn, lengthOrNone, shownBefore, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  if (!traitsOf({ kind: machine.changerKind }).commissioned)
    error(404, `${machine.name} has no linear rack.`);
  return { rack: await rackOf(pool(), machine), mayCommission: may(locals.person!.role, 'editMachines') };
};

export const actions: Actions = {
  capture: actAtMachine(
    ({ unit }) => {
      const axis = (name: string) =>
        z.string({ error: `${name}: Type a number.` }).transform((text, context) => {
          const length = lengthIn(unit).safeParse(text);
          if (length.success) return length.data;
          context.addIssue({ code: 'custom', message: `${name}: ${length.error.issues[0]!.message}` });
          return z.NEVER;
        });
      return z.object({ fork: whole('The fork', 1, 999), x: axis('X'), y: axis('Y'), z: axis('Z') });
    },
    ({ input, asking, on }) => captureFork(asking, { machineId: on.id, ...input }),
  ),
  set: actAtMachine(
    ({ unit }) => {
      const length = lengthOrNone(unit).default(null);
      return z.object({
        shown: shownBefore,
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
      });
    },
    ({ input: { shown, ...typed }, asking, on }) => setRack(asking, { machineId: on.id, typed, shown }),
  ),
  confirm: act(z.object({ step: z.enum(RACK_STEPS.map((step) => step.name)) }), ({ input, asking, event }) =>
    confirmRackStep(asking, { machineId: Number(event.params.id), step: input.step }),
  ),
};
