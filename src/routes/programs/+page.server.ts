import { z } from 'zod';
import { may, type Act } from '$core/people/roles';
import { bringIn, FILE_KINDS, kindOfFile, type FileKind } from '$server/bring-in';
import { pool } from '$server/db';
import { fileText } from '$server/file-text';
import type { Outcome } from '$server/outcome';
import { stopWork } from '$server/worker';
import { machines } from '$server/machines';
import { findPrograms, programChoices } from '$server/program-list';
import { lookAtPlan, lookAtReadingsFile, takeReadingsFile } from '$server/program-files';
import { act, id, whole } from '../action';
import type { Actions, PageServerLoad } from './$types';

/** A program of a mould may be large; a table that large is none. */
const [PROGRAM_BYTES, TABLE_BYTES] = [128 * 1024 * 1024, 32 * 1024 * 1024] as const;

const no = (reason: string): { ok: false; reason: string } => ({ ok: false, reason });

const NEEDS: Record<FileKind, Act> = {
  program: 'bringInPrograms',
  assemblies: 'bringInTools',
  components: 'bringInTools',
  plan: 'bringInPlans',
  readings: 'takeReadings',
  machine: 'bringInMachines',
};

export const load: PageServerLoad = async ({ locals, url }) => {
  const { role } = locals.person!;
  const words = (url.searchParams.get('words') ?? '').slice(0, 100);
  const kinds = FILE_KINDS.filter((kind) => may(role, NEEDS[kind]) && !(kind in TOOLS));
  const [found, choices, all] = await Promise.all([
    findPrograms(pool(), words, 100),
    kinds.length > 0 ? programChoices(pool()) : [],
    machines(pool()),
  ]);
  return {
    words,
    found,
    total: found[0]?.total ?? 0,
    choices,
    machines: all.map(({ id: machineId, name }) => ({ id: machineId, name })),
    kinds,
  };
};

const optionalId = z.union([z.literal('').transform(() => null), id]);
const schema = z.object({
  file: z
    .instanceof(File, { error: 'Choose a file.' })
    .refine((file) => file.size > 0, 'Choose a file that is not empty.')
    .refine((file) => file.size <= PROGRAM_BYTES, 'The file is over 128 MB: split it.'),
  machine: optionalId.default(null),
  program: optionalId.default(null),
  partsPerCycle: whole('Parts per cycle', 1, 100).default(1),
  part: z.union([z.literal('').transform(() => null), whole('The part', 0, 10_000_000)]).default(null),
});
/** A file that was looked at comes again with what was decided by it. */
const looked = { program: id, text: z.string().min(1).max(40_000_000) };

export const actions: Actions = {
  bringIn: act(schema, async ({ input, person, asking }): Promise<Outcome<object>> => {
    const { file, machine, program, partsPerCycle, part } = input;
    const read = await fileText(file);
    if (!read.ok) return read;
    const { text, fileName } = read.value;
    const kind = kindOfFile(text);
    if (!may(person.role, NEEDS[kind]))
      return no(`This looks like ${WORDS[kind]}. Your role does not bring those in; ask the cell lead.`);
    if (kind in TOOLS)
      return no(
        `This looks like ${WORDS[kind]}: bring it in under Tools, In and out, where it is looked at before it is taken.`,
      );
    if (kind !== 'program' && file.size > TABLE_BYTES)
      return no(`This looks like ${WORDS[kind]}, and it is over 32 MB: split it.`);
    if (kind === 'plan') {
      const look = await lookAtPlan(pool(), { programId: program, text });
      return look.ok ? { ok: true, value: { kind, look: look.value, text } } : look;
    }
    if (kind === 'readings') {
      const look = await lookAtReadingsFile(pool(), { programId: program, text, part });
      return look.ok ? { ok: true, value: { kind, look: look.value, text, part } } : look;
    }
    return bringIn(asking, kind, {
      fileName,
      text,
      machineId: machine,
      programId: program,
      partsPerCycle,
    });
  }),
  stop: act(z.object({ of: z.uuid() }), ({ input }) =>
    Promise.resolve<Outcome<null>>(
      stopWork(input.of)
        ? { ok: true, value: null }
        : no('It could not be stopped: it is all but done. Look at the list.'),
    ),
  ),
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

/** Lists of tools have a page of their own, where they are looked at first. */
const TOOLS: Readonly<Partial<Record<FileKind, true>>> = { assemblies: true, components: true };

const WORDS: Record<FileKind, string> = {
  program: 'an NC program',
  assemblies: 'a list of assemblies',
  components: 'a list of components',
  plan: 'a measuring plan',
  readings: 'readings',
  machine: 'a machine',
};
