import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { interruptionsOf, logInterruption } from '$server/interruptions';
import { machineById } from '$server/machines';
import { restartOf } from '$server/program-reading';
import { linesOf, programById } from '$server/programs';
import { act, ticked, words } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

/** Lines that are shown before and behind the one that was asked for. */
const AROUND = 6;

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const db = pool();
  const program = /^\d{1,9}$/.test(params.id) ? await programById(db, Number(params.id)) : null;
  if (!program) error(404, 'There is no such program.');
  const typed = (url.searchParams.get('line') ?? '').trim();
  const line = /^\d{1,9}$/.test(typed) ? Number(typed) : null;
  const within = line !== null && line >= 1 && line <= program.lines;
  const from = Math.max(1, (line ?? 1) - AROUND);
  const lines = within ? await linesOf(db, program.id, from, line + AROUND - from + 1) : [];
  return {
    program,
    machine: (await machineById(db, program.machineId))!,
    typed,
    problem: typed !== '' && !within ? `A line from 1 to ${program.lines}.` : null,
    around: lines.map((text, i) => ({ line: from + i, text })),
    before: await interruptionsOf(db, program.id),
    mayLog: may(locals.person!.role, 'recordParts'),
    answer: within ? await restartOf(db, program.id, line) : null,
  };
};

export const actions: Actions = {
  log: act(
    z.object({
      line: z.coerce.number().int().min(1),
      why: words('Why it stopped', 200),
      doubt: ticked,
    }),
    ({ input, asking, event }) => logInterruption(asking, { programId: Number(event.params.id), ...input }),
  ),
};
