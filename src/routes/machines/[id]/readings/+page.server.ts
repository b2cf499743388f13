import { z } from 'zod';
import { pool } from '$server/db';
import { readingsOf, takeReading } from '$server/readings';
import { runningJob } from '$server/jobs';
import { featuresOf, programById, programs } from '$server/programs';
import { actAtMachine, id, lengthIn, orEmpty, ticked, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, url }) => {
  const { machine } = await parent();
  const db = pool();
  const job = await runningJob(db, machine.id);
  const measured = (await programs(db)).filter(
    (program) => program.machineId === machine.id && program.newest && program.features > 0,
  );
  const wanted = Number(url.searchParams.get('program')) || job?.programId || measured[0]?.id;
  const program = wanted ? await programById(db, wanted) : null;
  const features = program ? await featuresOf(db, machine.id, program.number) : [];
  return {
    job,
    program: program && { id: program.id, number: program.number, title: program.title },
    programs: measured.map(({ id: programId, number, title }) => ({ id: programId, number, title })),
    features: await Promise.all(
      features.map(async (feature) => ({ ...feature, readings: await readingsOf(db, feature.id) })),
    ),
  };
};

export const actions: Actions = {
  take: actAtMachine(
    ({ unit }) =>
      z.object({
        feature: id,
        program: id,
        job: orEmpty,
        part: whole('The part', 0, 10_000_000),
        measured: lengthIn(unit),
        confirmed: ticked,
        firstOff: ticked,
      }),
    ({ input, asking }) =>
      takeReading(asking, {
        featureId: input.feature,
        programId: input.program,
        jobId: input.job,
        part: input.part,
        measured: input.measured,
        confirmed: input.confirmed,
        firstOff: input.firstOff,
      }),
  ),
};
