import { z } from 'zod';
import { may } from '$core/people/roles';
import { netProfileSchema } from '$core/program/net-profile';
import { toolCount } from '$core/safety-net/net';
import { pool } from '$server/db';
import { geometryKinds } from '$server/machines';
import { changeDialect } from '$server/program-reading';
import { keepNet, netCalls, netFrom, netOf, netTools, sinceNet } from '$server/safety-net';
import { work } from '$server/worker';
import { actAtMachine, lengthIn } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  const db = pool();
  const net = machine.dialect.net ?? null;
  const [kept, tools] = [await netOf(db, machine.id), await netTools(db, machine)];
  const { role } = locals.person!;
  return {
    profile: net,
    kinds: geometryKinds(machine.kind),
    kept: kept && {
      text: kept.text,
      tolerance: kept.tolerance,
      person: kept.person,
      at: kept.at,
      tools: toolCount(kept.tools),
      // of a tool that was not measured there is no length to hold it against
      unmeasured: [...new Set(kept.tools.filter(({ measured }) => !measured).map(({ tool }) => tool))],
    },
    since: kept ? sinceNet(machine, kept, tools) : [],
    tried:
      net && kept
        ? await work('tryAll', [
            { ...machine.dialect, net },
            netFrom(machine, '', kept.tolerance, kept.tools),
          ])
        : null,
    programs: net ? await netCalls(db, machine.id, net) : [],
    inMachine: toolCount(tools),
    mayWrite: may(role, 'measureTools'),
    mayEdit: may(role, 'editMachines'),
  };
};

const text = z.string().trim();

export const actions: Actions = {
  write: actAtMachine(
    (machine) =>
      z.object({
        tolerance: lengthIn(machine.unit).refine((length) => length > 0, 'A tolerance must be above zero.'),
      }),
    ({ input, asking, on }) => keepNet(asking, on, input.tolerance),
  ),
  profile: actAtMachine(
    () =>
      z.record(z.string(), text).transform((form, context) => {
        const parsed = netProfileSchema.safeParse({
          program: Number(form.program?.replace(/^O/i, '')),
          call: form.call?.toUpperCase(),
          activeTool: form.activeTool,
          registers: Object.fromEntries(
            Object.entries(form)
              .filter(([name, value]) => name.startsWith('register.') && value !== '')
              .map(([name, value]) => [name.slice('register.'.length), value]),
          ),
          inches: form.inches ? form.inches.toUpperCase().replace(/\s+/g, ' ') : null,
          alarm: form.alarm,
          longestText: Number(form.longestText),
        });
        if (parsed.success) return parsed.data;
        for (const issue of parsed.error.issues) {
          const [name, kind] = issue.path.map(String);
          context.addIssue({
            code: 'custom',
            path: [kind ? `register.${kind}` : name!],
            message: `${issue.message}.`,
          });
        }
        return z.NEVER;
      }),
    ({ input, asking, on }) => changeDialect(asking, { machineId: on.id, dialect: { net: input } }),
  ),
};
