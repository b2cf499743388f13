import { z } from 'zod';
import { may } from '$core/people/roles';
import { dialectSchema } from '$core/program/dialect';
import { foundAtControl } from '$server/registers';
import { pool } from '$server/db';
import { editDialect } from '$server/machines';
import { placesOf } from '$server/places';
import { registersOf } from '$server/registers';
import { act, actAtMachine, id, lengthIn, shownLength, words } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals, url }) => {
  const { machine } = await parent();
  const [registers, places] = await Promise.all([
    registersOf(pool(), machine.id),
    placesOf(pool(), machine.id),
  ]);
  const tools = new Map(
    places.filter((place) => place.assembly).map((place) => [place.tool!, place.assembly!.number]),
  );
  const kinds = [...new Set(registers.map((register) => register.kind))];
  const byRow = new Map<number, typeof registers>();
  for (const register of registers) byRow.set(register.row, [...(byRow.get(register.row) ?? []), register]);
  const rows = [...byRow].map(([row, cells]) => ({ row, tool: tools.get(row) ?? null, cells }));
  const all = url.searchParams.has('all');
  return {
    kinds,
    rows: all ? rows : rows.filter((row) => row.tool !== null || row.cells.some((cell) => cell.value !== 0)),
    all,
    mayEdit: may(locals.person!.role, 'placeTools'),
    mayDialect: may(locals.person!.role, 'editMachines'),
  };
};

const list = z.string().transform((text) =>
  text
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((word) => word.toUpperCase()),
);
const dialectForm = z.record(z.string(), z.string()).transform((form, context) => {
  const number = (text: string | undefined) =>
    text === undefined || text.trim() === '' ? null : Number(text);
  const parsed = dialectSchema.safeParse({
    kind: form.kind,
    units: form.units,
    feed: form.feed,
    pointless: form.pointless,
    boringShift: form.boringShift,
    turningCycles: form.turningCycles === 'on',
    rowDigits: number(form.rowDigits) ?? 0,
    toolCallMacro: number(form.toolCallMacro),
    automaticRow: number(form.automaticRow),
    toolCallCodes: list.parse(form.toolCallCodes ?? ''),
    lengthCodes: list.parse(form.lengthCodes ?? ''),
    lifeCodes: list.parse(form.lifeCodes ?? ''),
    setRegister: Object.fromEntries(
      Object.entries(form)
        .filter(([name, text]) => name.startsWith('set.') && text.trim() !== '')
        .map(([name, text]) => [name.slice(4), text.trim()]),
    ),
  });
  if (parsed.success) return parsed.data;
  for (const issue of parsed.error.issues)
    context.addIssue({ code: 'custom', message: `${issue.path.join('.')}: ${issue.message}.` });
  return z.NEVER;
});

export const actions: Actions = {
  found: actAtMachine(
    ({ unit }) =>
      z.object({
        register: id,
        before: shownLength,
        shown: lengthIn(unit),
        why: words('The reason', 300),
      }),
    ({ input, asking }) =>
      foundAtControl(asking, {
        registerId: input.register,
        before: input.before,
        after: input.shown,
        why: input.why,
      }),
  ),
  dialect: act(dialectForm, ({ input, asking, event }) =>
    editDialect(asking, { machineId: Number(event.params.id), dialect: input }),
  ),
};
