import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { decodeText } from '$core/formats/decode-text';
import { may, type Act } from '$core/people/roles';
import { bringIn, FILE_KINDS, kindOfFile, type FileKind } from '$server/bring-in';
import { pool } from '$server/db';
import { machines } from '$server/machines';
import { programs } from '$server/programs';
import { lookAtPlan, lookAtReadingsFile, takeReadingsFile } from '$server/program-files';
import { act, id, whole } from '../action';
import type { Actions, PageServerLoad } from './$types';

const NEEDS: Record<FileKind, Act> = {
  program: 'bringInPrograms',
  assemblies: 'bringInTools',
  components: 'bringInTools',
  plan: 'bringInPlans',
  readings: 'takeReadings',
  machine: 'bringInMachines',
};

export const load: PageServerLoad = async ({ locals }) => {
  const { role } = locals.person!;
  return {
    programs: await programs(pool()),
    machines: (await machines(pool())).map(({ id: machineId, name }) => ({ id: machineId, name })),
    kinds: FILE_KINDS.filter((kind) => may(role, NEEDS[kind])),
  };
};

const optionalId = z.union([z.literal('').transform(() => null), id]);
const schema = z.object({
  key: z.uuid('The form came without its key. Reload the page.'),
  file: z
    .instanceof(File, { error: 'Choose a file.' })
    .refine((file) => file.size > 0, 'Choose a file that is not empty.')
    .refine((file) => file.size <= 32 * 1024 * 1024, 'The file is over 32 MB.'),
  machine: optionalId.default(null),
  program: optionalId.default(null),
  partsPerCycle: whole('Parts per cycle', 1, 100).default(1),
  part: z.union([z.literal('').transform(() => null), whole('The part', 0, 10_000_000)]).default(null),
});
/** A file that was looked at comes again with what was decided by it. */
const looked = { program: id, text: z.string().min(1).max(40_000_000) };

export const actions: Actions = {
  bringIn: async ({ request, locals }) => {
    const form = schema.safeParse(Object.fromEntries(await request.formData()));
    if (!form.success)
      return fail(400, { problem: form.error.issues.map((issue) => issue.message).join(' ') });
    const { key, file, machine, program, partsPerCycle, part } = form.data;
    const { text } = decodeText(new Uint8Array(await file.arrayBuffer()));
    const kind = kindOfFile(text);
    const person = locals.person!;
    if (!may(person.role, NEEDS[kind]))
      return fail(403, {
        problem: `This looks like ${WORDS[kind]}. Your role does not bring those in; ask the cell lead.`,
      });
    if (kind === 'plan') {
      const look = await lookAtPlan(pool(), { programId: program, text });
      return look.ok ? { done: { kind, look: look.value, text } } : fail(409, { problem: look.reason });
    }
    if (kind === 'readings') {
      const look = await lookAtReadingsFile(pool(), { programId: program, text, part });
      return look.ok ? { done: { kind, look: look.value, text, part } } : fail(409, { problem: look.reason });
    }
    const outcome = await bringIn({ key, personId: person.id }, kind, {
      fileName: file.name.slice(0, 120),
      text,
      machineId: machine,
      programId: program,
      partsPerCycle,
    });
    return outcome.ok ? { done: outcome.value } : fail(409, { problem: outcome.reason });
  },
  takePlan: act(z.object(looked), ({ input, asking }) =>
    bringIn(asking, 'plan', {
      fileName: '',
      text: input.text,
      machineId: null,
      programId: input.program,
      partsPerCycle: 1,
    }),
  ),
  takeReadings: act(z.object({ ...looked, part: schema.shape.part }), ({ input, asking }) =>
    takeReadingsFile(asking, { programId: input.program, text: input.text, part: input.part }),
  ),
};

const WORDS: Record<FileKind, string> = {
  program: 'an NC program',
  assemblies: 'a list of assemblies',
  components: 'a list of components',
  plan: 'a measuring plan',
  readings: 'readings',
  machine: 'a machine',
};
