import { z } from 'zod';
import { may } from '$core/people/roles';
import { SHIFTS } from '$core/program/boring-shift';
import { assembliesOf, looseAssemblies } from '$server/assemblies';
import { pool } from '$server/db';
import {
  dropLoadPlan,
  lastLoadPlan,
  makeLoadPlan,
  openLoadPlan,
  pocketBroken,
  stepWrong,
  tickBuilt,
  tickMeasured,
  tickStep,
} from '$server/loads';
import { kitsToBuild } from '$server/load-steps';
import { geometryKinds } from '$server/machines';
import { placesOf } from '$server/places';
import { registersOf } from '$server/registers';
import { toolRows } from '$server/tool-rows';
import { lackedNext } from '$server/today';
import { act, actAtMachine, id, whole } from '../../../action';
import { measurementOn } from '../../../measured';
import { spindleActs } from '../../spindle-acts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  const db = pool();
  const plan = await openLoadPlan(db, machine);
  const kinds = geometryKinds(machine.kind);
  const { role } = locals.person!;
  return {
    plan,
    kits: plan ? await kitsToBuild(db, machine, plan.wanted) : [],
    last: plan ? null : await lastLoadPlan(db, machine.id),
    lacking: plan ? null : await lackedNext(db, machine.id),
    places: await placesOf(db, machine.id),
    loose: await looseAssemblies(db, machine.interface),
    /** What of the plan still stands on the rack, to be drawn where it goes. */
    shapes: plan
      ? (
          await assembliesOf(
            db,
            plan.wanted.tools.flatMap(({ assemblyId }) => (assemblyId === null ? [] : [assemblyId])),
          )
        ).filter(({ machineId }) => machineId === null)
      : [],
    geometry: (await registersOf(db, machine.id)).filter((register) => kinds.includes(register.kind)),
    used: await toolRows(db, machine),
    mayPlace: may(role, 'placeTools'),
    mayMeasure: may(role, 'measureTools'),
  };
};

const wantedTool = z.object({
  assemblyId: z.number().int().positive().nullable(),
  number: z.string().max(80),
  name: z.string().max(200),
  tool: z.number().int().min(1).max(9999),
  pocket: z.number().int().min(1).max(999),
  wide: z.boolean(),
  heavy: z.boolean(),
  radius: z.number().positive().max(2000).nullable(),
  orientation: z.enum(['tip', 'probe']).nullable(),
  asked: z
    .object({ program: z.number().int().positive(), tool: z.number().int().min(1).max(9999) })
    .nullable()
    .default(null),
});
const wantedText = z
  .string()
  .max(200_000)
  .transform((text, context) => {
    try {
      return z
        .object({ tools: z.array(wantedTool).max(999), out: z.array(z.number().int().positive()).max(999) })
        .parse(JSON.parse(text));
    } catch {
      context.addIssue({ code: 'custom', message: 'The plan did not arrive complete. Plan again.' });
      return z.NEVER;
    }
  });
const stepOf = { plan: id, step: z.string().min(1).max(200) };

export const actions: Actions = {
  make: act(z.object({ wanted: wantedText }), ({ input, asking, event }) =>
    makeLoadPlan(asking, { machineId: Number(event.params.id), wanted: input.wanted }),
  ),
  tick: act(
    z.looseObject({ ...stepOf, turned: z.enum([...SHIFTS, 'mark', '']).default('') }),
    ({ input, asking }) =>
      tickStep(asking, {
        planId: input.plan,
        key: input.step,
        confirmed: Object.keys(input).filter((name) => name.startsWith('confirm')).length,
        ...(input.turned !== '' && { turned: input.turned }),
      }),
  ),
  measure: actAtMachine(
    (machine) => measurementOn(machine).and(z.object(stepOf)),
    ({ input, asking, on }) =>
      tickMeasured(asking, {
        planId: input.plan,
        key: input.step,
        measuring: {
          machineId: on.id,
          assemblyId: input.assembly,
          row: input.row,
          values: input.values,
          gaugeLength: input.gaugeLength,
          how: on.kind === 'mill' ? 'Measured straight after loading.' : 'Touched off.',
          method: input.method,
        },
      }),
  ),
  built: act(z.object({ ...stepOf, assembly: id }), ({ input, asking }) =>
    tickBuilt(asking, { planId: input.plan, key: input.step, assemblyId: input.assembly }),
  ),
  wrong: act(z.object({ ...stepOf, why: z.string().max(200).default('') }), ({ input, asking }) =>
    stepWrong(asking, { planId: input.plan, key: input.step, why: input.why }),
  ),
  broken: act(
    z.object({
      ...stepOf,
      pocket: whole('The pocket', 1, 999),
      why: z.string().max(200).default(''),
      out: z.literal('yes').optional(),
    }),
    ({ input, asking }) =>
      pocketBroken(asking, {
        planId: input.plan,
        key: input.step,
        pocket: input.pocket,
        why: input.why,
        takenOut: input.out === 'yes',
      }),
  ),
  drop: act(z.object({ plan: id }), ({ input, asking }) => dropLoadPlan(asking, input.plan)),
  doubt: spindleActs.doubt,
  found: spindleActs.found,
};
