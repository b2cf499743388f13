import { z } from 'zod';
import { may } from '$core/people/roles';
import { countersOf, readCounter } from '$server/counters';
import { pool } from '$server/db';
import { actAtMachine, id, ticked, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  return {
    ...(await countersOf(pool(), machine)),
    mayTake: may(locals.person!.role, 'setLives'),
  };
};

export const actions: Actions = {
  read: actAtMachine(
    () =>
      z.object({
        tool: whole('T', 1, 99_999_999),
        assembly: id,
        seen: z.coerce.number().int(),
        shown: z
          .string()
          .trim()
          .transform((text) => Number(text.replace(',', '.').replace('−', '-') || 'x'))
          .refine(Number.isFinite, 'Type the number that the control shows.'),
        take: ticked,
      }),
    ({ input: { assembly, ...rest }, asking, on }) =>
      readCounter(asking, on, { ...rest, assemblyId: assembly }),
  ),
};
