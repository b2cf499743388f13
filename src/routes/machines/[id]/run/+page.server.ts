import { z } from 'zod';
import { may } from '$core/people/roles';
import { partsLeft } from '$core/life/count';
import { controlCount } from '$server/control-link';
import { pool } from '$server/db';
import { addJob, countedTools, jobsOf, moveJob, recordParts } from '$server/jobs';
import { programs } from '$server/programs';
import { act, id, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  const db = pool();
  const [jobs, control, all] = await Promise.all([
    jobsOf(db, machine.id),
    controlCount(machine),
    programs(db),
  ]);
  const job = jobs.find((each) => each.state === 'running') ?? null;
  const tools = job ? await countedTools(db, job) : [];
  const { role } = locals.person!;
  return {
    job,
    waiting: jobs.filter((each) => each.state === 'waiting'),
    control,
    tools: tools
      .map((tool) => ({
        ...tool,
        parts: tool.flag ? 0 : partsLeft(tool.remaining, tool.basis, tool.use, tool.rule),
      }))
      .filter((tool) => Number.isFinite(tool.parts))
      .sort((a, b) => a.parts - b.parts),
    programs: all
      .filter((program) => program.machineId === machine.id && program.newest)
      .map(({ id: programId, number, title }) => ({ id: programId, number, title })),
    mayRecord: may(role, 'recordParts'),
    mayRun: may(role, 'runJobs'),
  };
};

const cycle = z
  .string()
  .regex(/^\d{1,4}(:[0-5]\d)?$/, 'Write the cycle time as minutes:seconds, such as 9:30.')
  .transform((text) => {
    const [minutes, seconds = '0'] = text.split(':');
    return (Number(minutes) * 60 + Number(seconds)) * 1000;
  })
  .refine((milliseconds) => milliseconds > 0, 'A cycle takes longer than zero.');

export const actions: Actions = {
  parts: act(
    z.object({
      job: id,
      before: z.coerce.number().int().min(0),
      parts: whole('The number of parts', 1, 500),
      source: z.string().max(60),
    }),
    ({ input, asking }) =>
      recordParts(asking, {
        jobId: input.job,
        before: input.before,
        parts: input.parts,
        source: input.source,
      }),
  ),
  job: act(
    z.object({ program: id, quantity: whole('The quantity', 1, 100_000), cycle }),
    ({ input, asking }) =>
      addJob(asking, { programId: input.program, quantity: input.quantity, cycleMilliseconds: input.cycle }),
  ),
  move: act(z.object({ job: id, to: z.enum(['running', 'done']) }), ({ input, asking }) =>
    moveJob(asking, { jobId: input.job, to: input.to }),
  ),
};
