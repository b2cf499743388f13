import { z } from 'zod';
import { may } from '$core/people/roles';
import { nextBetween } from '$core/shift/calendar';
import { minuteOfDay, wallClock } from '$core/shift/written-time';
import { cellNow } from '$server/clock';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { runningJob } from '$server/jobs';
import { nightOf } from '$server/night';
import {
  isolatePallet,
  movePallet,
  orderPallets,
  putPallet,
  setNightSchool,
  takePallet,
} from '$server/pallets';
import { setRunsOn } from '$server/machine-hours';
import { programs } from '$server/programs';
import { actAtMachine, id, INCOMPLETE, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals, url }) => {
  const { machine } = await parent();
  const db = pool();
  const now = cellNow();
  const [cell, all, running] = await Promise.all([
    cellOf(db),
    programs(db, machine.id),
    runningJob(db, machine.id),
  ]);
  const { role } = locals.person!;
  // hours with nobody at the machine that are asked about, by the wall clock
  const [from, to] = ['from', 'to'].map((name) => minuteOfDay(url.searchParams.get(name) ?? '')) as [
    number | null,
    number | null,
  ];
  const alone = from === null || to === null ? null : nextBetween(now, from, to, cell.timeZone);
  return {
    ...(await nightOf(db, machine, cell, now, alone)),
    alone: alone && { from: wallClock(from!), to: wallClock(to!) },
    made: running && { programId: running.programId, parts: running.made },
    mayRun: may(role, 'runJobs'),
    maySchool: may(role, 'editMachines'),
    programs: all
      .filter((program) => program.newest)
      .map(({ id: programId, number, title }) => ({ id: programId, words: `${number} ${title}` })),
  };
};

const ids = z
  .string()
  .regex(/^\d+( \d+)*$/, INCOMPLETE)
  .transform((text) => text.split(' ').map(Number));

export const actions: Actions = {
  put: actAtMachine(
    () =>
      z.object({
        number: whole('The number of the pallet', 1, 999),
        program: id,
        parts: whole('The number of parts', 1, 1000),
      }),
    ({ input, asking, on }) =>
      putPallet(asking, on, { number: input.number, programId: input.program, parts: input.parts }),
  ),
  move: actAtMachine(
    () => z.object({ pallet: id, by: z.enum(['-1', '1']) }),
    ({ input, asking, on }) => movePallet(asking, on, { id: input.pallet, by: input.by === '1' ? 1 : -1 }),
  ),
  order: actAtMachine(
    () => z.object({ ids, seen: ids }),
    ({ input, asking, on }) => orderPallets(asking, on, input),
  ),
  isolate: actAtMachine(
    () => z.object({ pallet: id, aside: z.enum(['yes', 'no']), why: z.string().max(200).default('') }),
    ({ input, asking, on }) =>
      isolatePallet(asking, on, { id: input.pallet, why: input.aside === 'yes' ? input.why : null }),
  ),
  take: actAtMachine(
    () =>
      z.object({
        pallet: id,
        made: z.union([z.literal('').transform(() => null), whole('Parts made', 0, 1000)]).default(null),
        before: z.coerce.number().int().min(0).default(0),
      }),
    ({ input: { pallet, made, before }, asking, on }) =>
      takePallet(asking, on, { id: pallet, made: made ? { parts: made, before } : null }),
  ),
  school: actAtMachine(
    () => z.object({ school: z.enum(['stop', 'isolate']) }),
    ({ input, asking, on }) => setNightSchool(asking, on, input),
  ),
  runsOn: actAtMachine(
    () => z.object({ hours: whole('The hours', 0, 168) }),
    ({ input, asking, on }) => setRunsOn(asking, on, input),
  ),
};
