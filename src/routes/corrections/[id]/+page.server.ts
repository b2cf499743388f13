import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { clearRow, correctionById, isLarge, keyText, readBack, togetherWith } from '$server/corrections';
import { approve, refuse } from '$server/decided-corrections';
import { cutByNow } from '$server/made-now';
import { pool } from '$server/db';
import { withEnds } from '$server/edge-at-end';
import { machineById } from '$server/machines';
import { setUpsOff } from '$server/set-up-shift';
import { act, actOn, lengthIn, words } from '../../action';
import { firstFields, firstPart } from '../../first-part';
import type { Actions, PageServerLoad } from './$types';

const found = async (id: string | undefined) =>
  id && /^\d{1,12}$/.test(id) ? correctionById(pool(), Number(id)) : null;

export const load: PageServerLoad = async ({ params, locals }) => {
  const known = await found(params.id);
  if (!known) error(404, 'There is no such correction.');
  const correction = (await withEnds(pool(), known.machineId, [known]))[0]!;
  const machine = (await machineById(pool(), correction.machineId))!;
  const { role } = locals.person!;
  // whoever approves one of several that are alike is told so
  const [off] =
    correction.state === 'proposed' ? await setUpsOff(pool(), [correction.machineId]) : [undefined];
  const together =
    correction.state === 'proposed' || correction.state === 'approved'
      ? await togetherWith(pool(), correction.id)
      : [];
  const within = ![correction, ...together].some(isLarge);
  return {
    correction,
    together,
    off: off?.tools.includes(correction.tool) ? off : null,
    text: correction.held !== null ? null : keyText(machine, [correction]),
    cut: await cutByNow(pool(), machine),
    twice: isLarge(correction),
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
    ({ unit }) =>
      z.object({ shown: lengthIn(unit), again: lengthIn(unit).nullable().default(null), ...firstFields }),
    ({ input, asking, on }) =>
      readBack(asking, on.id, {
        shown: input.shown,
        again: input.again,
        first: firstPart(input),
        job: input.job,
        until: input.until,
      }),
  ),
  clear: actOn(
    (event) => found(event.params.id),
    'There is no such correction.',
    ({ unit }) => z.object({ shown: lengthIn(unit) }),
    ({ input, asking, on }) => clearRow(asking, on.id, input.shown),
  ),
};
