import { z } from 'zod';
import { FIRST_SCHOOLS } from '$core/correction/first-part-plan';
import { movesOf } from '$core/inspection/feature';
import { may } from '$core/people/roles';
import { parseLength } from '$core/units/parse-length';
import { nanometres } from '$core/units/length';
import { pool } from '$server/db';
import {
  beginFirstPart,
  endFirstPart,
  keyFirst,
  lookedFirst,
  measureFirst,
  openFirstPart,
} from '$server/first-parts';
import { runningJob } from '$server/jobs';
import type { Machine } from '$server/machines';
import { featuresOf, programs } from '$server/programs';
import { actAtMachine, id, lengthIn, shownRows, ticked, warmFields, warmOf, words } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals, url }) => {
  const { machine } = await parent();
  const { role } = locals.person!;
  return {
    open: await openFirstPart(pool(), machine),
    begin: await beginning(machine, Number(url.searchParams.get('program')) || null),
    may: { run: may(role, 'runJobs'), measure: may(role, 'takeReadings') },
  };
};

/** What a first part could be begun with: the programs that have a measuring plan, and the sizes of one of them. */
async function beginning(machine: Machine, asked: number | null) {
  const db = pool();
  const own = (await programs(db, machine.id)).filter((each) => each.newest && each.features > 0);
  const running = await runningJob(db, machine.id);
  const program =
    own.find((each) => each.id === asked) ?? own.find((each) => each.id === running?.programId) ?? own[0];
  return {
    programs: own.map(({ id: programId, number, title }) => ({ id: programId, number, title })),
    program: program ? { id: program.id, number: program.number } : null,
    sizes: program
      ? (await featuresOf(db, machine.id, program.number)).map((feature) => ({
          ...feature,
          held: movesOf(feature, machine).length > 0,
        }))
      : [],
  };
}

const stage = z.enum(['rough', 'finish', 'off']);
const place = z.coerce.number().int().min(0).max(200);

export const actions: Actions = {
  /** `size.28`: size 28 is brought in; `allowance.28`: by how much its tool stays away. */
  begin: actAtMachine(
    ({ unit }) =>
      z
        .object({ program: id, school: z.enum(FIRST_SCHOOLS, { error: 'Choose how.' }) })
        .catchall(z.string())
        .transform((form, context) => ({
          programId: form.program,
          school: form.school,
          sizes: Object.keys(form).flatMap((name) => {
            const featureId = Number(/^size\.(\d{1,9})$/.exec(name)?.[1]);
            if (!featureId) return [];
            const text = String(form[`allowance.${featureId}`] ?? '').trim();
            const read = text === '' ? { ok: true as const, value: nanometres(0) } : parseLength(text, unit);
            if (read.ok && read.value >= 0) return [{ featureId, allowance: read.value }];
            context.addIssue({
              code: 'custom',
              message: read.ok ? 'An allowance is not below zero.' : read.reason,
            });
            return [];
          }),
        })),
    ({ input, asking, on }) => beginFirstPart(asking, on, input),
  ),
  measure: actAtMachine(
    ({ unit }) =>
      z.object({ id, size: place, stage, measured: lengthIn(unit), confirmed: ticked, ...warmFields }),
    ({ input, asking, on }) =>
      measureFirst(asking, on, {
        id: input.id,
        size: input.size,
        stage: input.stage,
        measured: input.measured,
        confirmed: input.confirmed,
        warm: warmOf(input),
      }),
  ),
  skip: actAtMachine(
    () => z.object({ id, size: place, stage }),
    ({ input, asking, on }) => measureFirst(asking, on, { ...input, measured: null, confirmed: false }),
  ),
  readBack: actAtMachine(
    ({ unit }) =>
      z
        .object({ id })
        .catchall(z.string())
        .transform((form, context) => ({
          id: form.id,
          shown: shownRows(form, unit, (message) => context.addIssue({ code: 'custom', message })),
        })),
    ({ input, asking, on }) => keyFirst(asking, on, input),
  ),
  looked: actAtMachine(
    () => z.object({ id, found: words('What was found', 300) }),
    ({ input, asking, on }) => lookedFirst(asking, on, input),
  ),
  end: actAtMachine(
    () => z.object({ id, dropped: ticked, why: z.string().trim().max(300).default('') }),
    ({ input, asking, on }) => {
      if (input.dropped && input.why === '')
        return Promise.resolve({ ok: false as const, reason: 'Say why it is dropped.' });
      return endFirstPart(asking, on, { id: input.id, why: input.dropped ? input.why : null });
    },
  ),
};
