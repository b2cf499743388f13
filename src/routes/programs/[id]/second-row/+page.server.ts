import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { featureById, programById } from '$server/programs';
import { readSecondRow, secondRow } from '$server/second-row';
import { actOn, id, shownRows } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

const programOf = (text: string | undefined) =>
  /^\d{1,9}$/.test(text ?? '') ? programById(pool(), Number(text)) : Promise.resolve(null);

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const program = await programOf(params.id);
  if (!program) error(404, 'There is no such program.');
  const machine = (await machineById(pool(), program.machineId))!;
  const feature = await featureById(pool(), Number(url.searchParams.get('feature')) || 0);
  if (feature?.machineId !== machine.id || feature.programNumber !== program.number)
    error(404, 'There is no such feature.');
  return {
    program,
    machine,
    answer: await secondRow(pool(), machine, program, feature),
    mayKey: may(locals.person!.role, 'runJobs'),
  };
};

export const actions: Actions = {
  readBack: actOn(
    ({ params }) => programOf(params.id),
    'There is no such program.',
    (program) =>
      z
        .object({ feature: id })
        .catchall(z.string())
        .transform((form, context) => ({
          featureId: form.feature,
          shown: shownRows(form, program.unit, (message) => context.addIssue({ code: 'custom', message })),
        })),
    ({ input, asking, on }) => readSecondRow(asking, on, input),
  ),
};
