import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { PART_OUTCOMES } from '$core/breakage/quarantine';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { answerParts, clearQuarantine, withdrawQuarantine } from '$server/quarantine';
import { quarantineSheet } from '$server/quarantine-sheet';
import { openRenewal } from '$server/renewals';
import { act, id, ticked, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
  const db = pool();
  const sheet = /^\d{1,9}$/.test(params.id) ? await quarantineSheet(db, Number(params.id)) : null;
  if (!sheet) error(404, 'This tool has never been called broken.');
  const { role } = locals.person!;
  return {
    ...sheet,
    machine: sheet.of.machineId === null ? null : await machineById(db, sheet.of.machineId),
    renewing: (await openRenewal(db, sheet.assembly.id)) !== null,
    mayInspect: may(role, 'takeReadings'),
    mayRenew: may(role, 'renewTools'),
    mayClear: may(role, 'clearBroken'),
  };
};

export const actions: Actions = {
  parts: act(
    z.object({
      job: id,
      from: whole('The first part', 1, 1_000_000),
      to: whole('The last part', 1, 1_000_000),
      outcome: z.enum(PART_OUTCOMES, { error: 'Choose good, rework or scrap.' }),
      found: z.string().max(300, 'What was found: up to 300 letters.').default(''),
      again: ticked,
      allBefore: ticked,
    }),
    ({ input, asking, event }) => answerParts(asking, { assemblyId: Number(event.params.id), ...input }),
  ),
  clear: act(z.object({}), ({ asking, event }) =>
    clearQuarantine(asking, { assemblyId: Number(event.params.id) }),
  ),
  withdraw: act(z.object({ why: z.string().max(300).default('') }), ({ input, asking, event }) =>
    withdrawQuarantine(asking, { assemblyId: Number(event.params.id), why: input.why }),
  ),
};
