import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { ASSEMBLY_KINDS } from '$core/assembly/silhouette';
import { readThread } from '$core/component/thread';
import { may } from '$core/people/roles';
import { parseSize } from '$core/units/parse-length';
import type { Length, LengthUnit } from '$core/units/length';
import { askedTools, writeDefinition } from '$server/definitions';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { programById } from '$server/programs';
import { act, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

const found = (id: string) => (/^\d{1,9}$/.test(id) ? programById(pool(), Number(id)) : null);

export const load: PageServerLoad = async ({ params, locals }) => {
  const program = await found(params.id);
  if (!program) error(404, 'There is no such program.');
  return {
    program,
    machine: (await machineById(pool(), program.machineId))!,
    asked: await askedTools(pool(), program),
    mayWrite: may(locals.person!.role, 'bringInPrograms'),
  };
};

const text = z.string().trim().max(40).default('');

/** A length that may be left out; a fault is a sentence. */
function size(
  value: string,
  name: string,
  unit: LengthUnit,
): { ok: true; value: Length | null } | { ok: false; reason: string } {
  if (value === '') return { ok: true, value: null };
  const parsed = parseSize(value, unit);
  if (!parsed.ok) return { ok: false, reason: `${name}: ${parsed.reason}` };
  return parsed.value > 0 ? parsed : { ok: false, reason: `${name} must be above zero.` };
}

export const actions: Actions = {
  write: act(
    z.object({
      tool: whole('T', 1, 9999),
      kind: z.enum(ASSEMBLY_KINDS),
      diameter: text,
      cornerRadius: text,
      reach: text,
      teeth: z.union([z.literal('').transform(() => null), whole('Teeth', 1, 99)]).default(null),
      thread: text,
      hand: z.enum(['', 'left', 'right']).default(''),
      leastLife: z
        .union([z.literal('').transform(() => null), whole('The least life', 0, 100)])
        .default(null),
    }),
    async ({ input, asking, event }) => {
      const program = await found(event.params.id!);
      if (!program) return { ok: false, reason: 'There is no such program.' };
      const { unit } = program;
      const [diameter, cornerRadius, reach] = [
        size(input.diameter, 'The diameter', unit),
        size(input.cornerRadius, 'The corner radius', unit),
        size(input.reach, 'The reach', unit),
      ];
      for (const each of [diameter, cornerRadius, reach]) if (!each.ok) return each;
      const thread = input.thread ? readThread(input.thread) : null;
      if (thread && !thread.ok) return thread;
      return writeDefinition(asking, {
        programId: program.id,
        tool: input.tool,
        kind: input.kind,
        diameter: thread ? thread.thread.diameter : diameter.ok ? diameter.value : null,
        cornerRadius: cornerRadius.ok ? cornerRadius.value : null,
        reach: reach.ok ? reach.value : null,
        teeth: input.teeth,
        thread: thread ? thread.thread.name : '',
        leftHand: input.hand === '' ? null : input.hand === 'left',
        leastLife: input.leastLife === null ? null : input.leastLife / 100,
      });
    },
  ),
};
