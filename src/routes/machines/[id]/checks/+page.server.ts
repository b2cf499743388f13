import { z } from 'zod';
import { CHECK_METHODS, CHECK_MOMENTS } from '$core/breakage/tool-check';
import { referenceOf, registerFromGaugeLength } from '$core/length/schools';
import { may } from '$core/people/roles';
import { controlTools } from '$server/control-link';
import { pool } from '$server/db';
import { runningJob } from '$server/jobs';
import type { Machine } from '$server/machines';
import { heldBack } from '$server/quarantine';
import { checksOf, decideCheck, takeCheck } from '$server/tool-checks';
import { actAtMachine, id, lengthIn, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

/** Lengths that the control has measured, as they stand in its rows. A lathe's are not lengths. */
async function measuredByControl(machine: Machine) {
  const held = machine.kind === 'mill' ? await controlTools(machine) : null;
  if (!held?.ok) return { problem: held?.reason ?? null, lengths: [] };
  return {
    problem: null,
    lengths: held.tools.flatMap(({ tool, functionalLength }) =>
      functionalLength === null
        ? []
        : [{ tool, length: registerFromGaugeLength(functionalLength, referenceOf(machine)) }],
    ),
  };
}

export const load: PageServerLoad = async ({ parent, locals, url }) => {
  const { machine } = await parent();
  const db = pool();
  const [checks, held, job, control] = await Promise.all([
    checksOf(db, machine),
    heldBack(db, machine.id),
    runningJob(db, machine.id),
    measuredByControl(machine),
  ]);
  const { role } = locals.person!;
  return {
    checks,
    held,
    control,
    job: job && { number: job.number, made: job.made, partsPerCycle: job.partsPerCycle },
    chosen: Number(url.searchParams.get('tool')) || null,
    mayDecide: may(role, 'setLives'),
    mayCheck: may(role, 'flagTools'),
  };
};

const method = z.enum(CHECK_METHODS, { error: 'Choose how it is checked.' });
const tool = whole('T', 1, 99_999_999);

export const actions: Actions = {
  decide: actAtMachine(
    (machine) =>
      z.object({
        tool,
        moment: z.enum(CHECK_MOMENTS, { error: 'Choose when it is checked.' }),
        method,
        short: lengthIn(machine.unit),
        long: lengthIn(machine.unit),
      }),
    ({ input: { short, long, ...rest }, asking, on }) =>
      decideCheck(asking, on, { ...rest, limits: { short, long } }),
  ),
  check: actAtMachine(
    (machine) =>
      z.object({
        tool,
        assembly: id,
        method,
        measured: lengthIn(machine.unit),
        part: z.union([z.literal('').transform(() => null), whole('The part', 0, 1_000_000)]).default(null),
      }),
    ({ input: { assembly, part, ...rest }, asking, on }) =>
      takeCheck(asking, on, { ...rest, assemblyId: assembly, lastPart: part, source: 'typed' }),
  ),
  control: actAtMachine(
    () => z.object({ tool, assembly: id, method }),
    async ({ input, asking, on }) => {
      const { problem, lengths } = await measuredByControl(on);
      const found = lengths.find((each) => each.tool === input.tool);
      if (!found)
        return { ok: false, reason: problem ?? `The control has no measured length of T${input.tool}.` };
      return takeCheck(asking, on, {
        tool: input.tool,
        assemblyId: input.assembly,
        method: input.method,
        measured: found.length,
        lastPart: null,
        source: 'control',
      });
    },
  ),
};
