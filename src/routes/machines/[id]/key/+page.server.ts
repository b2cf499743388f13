import { z } from 'zod';
import { may } from '$core/people/roles';
import { screenOrder } from '$core/correction/register-text';
import { isLarge, keyText, openCorrections, readBackAll } from '$server/corrections';
import { cutByNow } from '$server/made-now';
import { withEnds } from '$server/edge-at-end';
import { pool } from '$server/db';
import { actAtMachine, lengthIn } from '../../../action';
import { firstFields, firstPart } from '../../../first-part';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  const open = await withEnds(pool(), machine.id, await openCorrections(pool(), machine.id));
  const all = open.filter((each) => each.state === 'approved').sort(screenOrder);
  // what parts since speak against, or whose edge is to be renewed, is not keyed with the others
  const approved = all.filter((each) => each.held === null && each.ending === null);
  return {
    apart: all.filter((each) => !approved.includes(each)),
    corrections: approved.map((each) => ({ ...each, twice: isLarge(each) })),
    waiting: open.length - all.length,
    text: keyText(machine, approved),
    cut: await cutByNow(pool(), machine),
    mayKey: may(locals.person!.role, 'keyCorrections'),
  };
};

export const actions: Actions = {
  /** `shown.7`, and `again.7` where it is asked: what the row of correction 7 shows. Rows left empty are not answered. */
  readBack: actAtMachine(
    ({ unit }) =>
      z
        .object(firstFields)
        .catchall(z.string())
        .transform((form, context) => {
          const read = (name: string) => {
            const text = form[name];
            if (text === undefined || String(text).trim() === '') return null;
            const parsed = lengthIn(unit).safeParse(text);
            if (parsed.success) return parsed.data;
            context.addIssue({
              code: 'custom',
              message: `"${String(text)}": ${parsed.error.issues[0]!.message}`,
            });
            return null;
          };
          const first = firstPart(form);
          const reads = Object.keys(form).flatMap((name) => {
            const proposalId = Number(/^shown\.(\d{1,12})$/.exec(name)?.[1]);
            const shown = proposalId ? read(name) : null;
            return shown === null
              ? []
              : [
                  {
                    proposalId,
                    shown,
                    again: read(`again.${proposalId}`),
                    first,
                    job: form.job,
                    until: form.until,
                  },
                ];
          });
          if (reads.length === 0 && context.issues.length === 0)
            context.addIssue({ code: 'custom', message: 'Type what at least one row shows.' });
          return reads;
        }),
    ({ input, asking }) => readBackAll(asking, input),
  ),
};
