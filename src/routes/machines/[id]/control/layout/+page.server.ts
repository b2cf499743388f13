import { z } from 'zod';
import { may } from '$core/people/roles';
import { dropMapping, keepMapping, mappingsOf } from '$server/control-mappings';
import { pool } from '$server/db';
import { registersOf } from '$server/registers';
import { act, id, words } from '../../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  return {
    kinds: [...new Set((await registersOf(pool(), machine.id)).map(({ kind }) => kind))],
    mappings: await mappingsOf(pool(), machine.id),
    mayKeep: may(locals.person!.role, 'placeTools'),
  };
};

const mappingSchema = z.object({
  separator: z.enum([',', ';', '\t', '|', 'columns']),
  begins: z.array(z.int().min(0).max(2000)).max(60),
  skip: z.int().min(0).max(1000),
  columns: z
    .array(
      z.union([
        z.null(),
        z.object({ what: z.literal('row') }),
        z.object({
          what: z.literal('register'),
          kind: z.string().max(30),
          times: z.union([z.literal(1), z.literal(2), z.literal(0.5)]),
          turned: z.boolean(),
        }),
      ]),
    )
    .min(1)
    .max(60),
  unit: z.enum(['mm', 'in']),
  decimal: z.enum(['point', 'comma']),
});

const mapping = z.string().transform((text, context) => {
  try {
    const read = mappingSchema.safeParse(JSON.parse(text));
    if (read.success) return read.data;
  } catch {
    // the same sentence
  }
  context.addIssue({ code: 'custom', message: 'The layout did not arrive complete. Reload the page.' });
  return z.NEVER;
});

export const actions: Actions = {
  keep: act(
    z.object({ name: words('The name', 60), mapping, sample: z.string().max(500_000) }),
    ({ input, asking, event }) => keepMapping(asking, { machineId: Number(event.params.id), ...input }),
  ),
  drop: act(z.object({ mapping: id }), ({ input, asking, event }) =>
    dropMapping(asking, { machineId: Number(event.params.id), id: input.mapping }),
  ),
};
