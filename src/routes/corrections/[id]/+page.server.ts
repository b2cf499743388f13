import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { approve, clearRow, correctionById, cutUntil, keyText, readBack, refuse } from '$server/corrections';
import { pool } from '$server/db';
import { act, actOn, lengthIn, ticked, words } from '../../action';
import type { Actions, PageServerLoad } from './$types';

const found = async (id: string | undefined) =>
  id && /^\d{1,12}$/.test(id) ? correctionById(pool(), Number(id)) : null;

export const load: PageServerLoad = async ({ params, locals }) => {
  const correction = await found(params.id);
  if (!correction) error(404, 'There is no such correction.');
  const { role } = locals.person!;
  const within = Math.abs(correction.change) <= correction.operatorLimit;
  return {
    correction,
    text: await keyText(pool(), correction),
    cut: await cutUntil(pool(), correction.machineId),
    mayApprove: may(role, 'approveAnyCorrection') || (may(role, 'approveCorrections') && within),
    mayRefuse: may(role, 'approveCorrections'),
    mayKey: may(role, 'keyCorrections'),
  };
};

export const actions: Actions = {
  approve: act(z.object({}), ({ asking, person, event }) => approve(asking, person, Number(event.params.id))),
  refuse: act(z.object({ why: words('The reason', 300) }), ({ input, asking, event }) =>
    refuse(asking, Number(event.params.id), input.why),
  ),
  readBack: actOn(
    (event) => found(event.params.id),
    'There is no such correction.',
    ({ unit }) => z.object({ shown: lengthIn(unit), first: z.string().default(''), unsure: ticked }),
    ({ input, asking, on }) => {
      const first = Number(input.first);
      return readBack(
        asking,
        on.id,
        input.shown,
        input.unsure
          ? 'unsure'
          : input.first.trim() !== '' && Number.isInteger(first) && first > 0
            ? first
            : 'next',
      );
    },
  ),
  clear: actOn(
    (event) => found(event.params.id),
    'There is no such correction.',
    ({ unit }) => z.object({ shown: lengthIn(unit) }),
    ({ input, asking, on }) => clearRow(asking, on.id, input.shown),
  ),
};
