import { z } from 'zod';
import { REGISTER_WORDS } from '$core/inspection/register-words';
import { askedRows, bringRead, lastEntry } from '$server/control-roads';
import { pool } from '$server/db';
import { act } from '../../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent }) => {
  const { machine } = await parent();
  return {
    entry: await lastEntry(pool()),
    asked: (await askedRows(pool(), machine.id)).map(({ id, kind, row }) => ({
      id,
      row,
      kind: REGISTER_WORDS[kind] ?? kind,
    })),
  };
};

const read = z
  .string()
  .max(60_000)
  .transform((text, context) => {
    try {
      return z.record(z.string().regex(/^\d{1,9}$/), z.string().max(40)).parse(JSON.parse(text));
    } catch {
      context.addIssue({ code: 'custom', message: 'What was read did not arrive whole. Send it again.' });
      return z.NEVER;
    }
  });

export const actions: Actions = {
  bring: act(z.object({ read, since: z.coerce.number().int().min(0) }), async ({ input, asking, event }) =>
    bringRead(asking, { machineId: Number(event.params.id), read: input.read, since: input.since }),
  ),
};
