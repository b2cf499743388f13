import { z } from 'zod';
import { pool } from '$server/db';
import { readingsOf, takeReading } from '$server/readings';
import { runningJob } from '$server/jobs';
import { machineById } from '$server/machines';
import { featuresOf, programById, programs } from '$server/programs';
import { act, id, lengthIn, whole } from '../../../action';
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

const takeSchema = z.object({
  feature: id,
  program: id,
  job: z.union([z.literal('').transform(() => null), id]),
  part: whole('The part', 0, 10_000_000),
  measured: z.string(),
  confirmed: z.string().optional(),
  firstOff: z.string().optional(),
});

export const actions: Actions = {
  take: act(takeSchema, async ({ input, asking, event }) => {
    const machine = await machineById(pool(), Number(event.params.id));
    const measured = lengthIn(machine?.unit ?? 'mm').safeParse(input.measured);
    if (!measured.success) return { ok: false, reason: measured.error.issues[0]!.message };
    return takeReading(asking, {
      featureId: input.feature,
      programId: input.program,
      jobId: input.job,
      part: input.part,
      measured: measured.data,
      confirmed: input.confirmed === 'on',
      firstOff: input.firstOff === 'on',
    });
  }),
};
