import { z } from 'zod';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { gaugeAddress, pressGauge } from '$server/gauge-link';
import { runningJob } from '$server/jobs';
import { cutByNow } from '$server/made-now';
import { measuringOn } from '$server/now';
import { oneReading } from '$server/one-reading';
import { featureById, programs } from '$server/programs';
import { actAtMachine, id } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals, url }) => {
  const { machine } = await parent();
  const db = oneReading(pool());
  const job = await runningJob(db, machine.id);
  const own = (await programs(db, machine.id)).filter((each) => each.newest && each.features > 0);
  const wanted = Number(url.searchParams.get('program')) || job?.programId;
  const program = own.find((each) => each.id === wanted) ?? own[0];
  const now = await cutByNow(db, machine);
  const measuring = program
    ? await measuringOn(db, machine, job, program.id, now?.made ?? 0, now?.likely)
    : null;
  return {
    programs: own.map(({ id: programId, number, title }) => ({ id: programId, number, title })),
    measuring: measuring && {
      ...measuring,
      // on a sheet the sizes stand in the order of the plan, so that each is found where it was
      features: measuring.features.toSorted((a, b) => a.id - b.id),
    },
    gauges: gaugeAddress() !== null,
    mayRun: may(locals.person!.role, 'runJobs'),
    mayMeasure: may(locals.person!.role, 'takeReadings'),
  };
};

export const actions: Actions = {
  press: actAtMachine(
    () => z.object({ feature: id }),
    async ({ input, on }) => {
      const feature = await featureById(pool(), input.feature);
      if (feature?.machineId !== on.id) return { ok: false, reason: 'That feature no longer exists.' };
      if (feature.gauge === '') return { ok: false, reason: 'The plan names no gauge for it.' };
      return pressGauge(feature.gauge, feature.target);
    },
  ),
};
