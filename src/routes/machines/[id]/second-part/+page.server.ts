import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { registerProgram, screenOrder } from '$core/correction/register-text';
import { may } from '$core/people/roles';
import { parseLength } from '$core/units/parse-length';
import { nanometres } from '$core/units/length';
import type { Machine } from '$server/machines';
import { pool } from '$server/db';
import { readCopies, secondPart, type Family } from '$server/second-part';
import { actAtMachine, shownRows } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

const FIELDS = ['rows', 'block', 'length', 'parting', 'facing'] as const;
type Asked = Record<(typeof FIELDS)[number], string>;

/** The family that a form names; or what is wrong with it. */
function familyOf(
  asked: Asked,
  machine: Machine,
): { ok: true; family: Family } | { ok: false; reason: string } {
  const rows = asked.rows
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  if (!rows.every((row) => Number.isInteger(row) && row > 0))
    return { ok: false, reason: 'Rows are whole numbers, such as 1 2 9.' };
  const block = Number(asked.block);
  if (!Number.isInteger(block) || block < 1)
    return { ok: false, reason: 'The block is a whole number, such as 20.' };
  const lengths = { partLength: asked.length, parting: asked.parting, facing: asked.facing || '0' };
  const read = Object.entries(lengths).map(
    ([name, text]) => [name, parseLength(text, machine.unit)] as const,
  );
  for (const [, each] of read) {
    if (!each.ok) return { ok: false, reason: each.reason };
    if (each.value < 0)
      return { ok: false, reason: 'Lengths of part, parting and facing are not below zero.' };
  }
  const value = (name: keyof typeof lengths) => {
    const found = read.find(([each]) => each === name)![1];
    return found.ok ? found.value : nanometres(0);
  };
  return {
    ok: true,
    family: {
      rows: [...new Set(rows)],
      block,
      partLength: value('partLength'),
      parting: value('parting'),
      facing: value('facing'),
    },
  };
}

export const load: PageServerLoad = async ({ parent, url, locals }) => {
  const { machine } = await parent();
  if (machine.kind !== 'lathe') error(404, 'A second part on one bar is a matter of lathes.');
  const asked = Object.fromEntries(
    FIELDS.map((name) => [name, url.searchParams.get(name) ?? (name === 'block' ? '20' : '')]),
  ) as Asked;
  const begun = url.searchParams.has('rows');
  const read = begun ? familyOf(asked, machine) : null;
  const found = read?.ok ? await secondPart(pool(), machine, read.family) : read;
  const copied = found && 'copied' in found ? found.copied : [];
  const change = copied.filter(({ before, after }) => before !== after);
  return {
    asked,
    problem: found && !found.ok ? found.reason : null,
    copied,
    change: change
      .map(({ registerId, row, kind, from, before, after }) => ({
        id: registerId,
        registerId,
        row,
        registerKind: kind,
        copied: from,
        from: before,
        to: after,
      }))
      .sort(screenOrder),
    text:
      registerProgram(
        machine.dialect,
        machine.unit,
        change
          .map((each) => ({ registerKind: each.kind, row: each.row, from: each.before, to: each.after }))
          .sort(screenOrder),
      )?.join('\n') ?? null,
    mayKey: may(locals.person!.role, 'measureTools'),
  };
};

export const actions: Actions = {
  /** `shown.7`: what register 7 shows; those left empty are not answered. */
  readBack: actAtMachine(
    (machine) =>
      z
        .object(Object.fromEntries(FIELDS.map((name) => [name, z.string().max(200).default('')])))
        .catchall(z.string())
        .transform((form, context) => {
          const read = familyOf(form as Asked, machine);
          if (!read.ok) {
            context.addIssue({ code: 'custom', message: read.reason });
            return z.NEVER;
          }
          const shown = shownRows(form, machine.unit, (message) =>
            context.addIssue({ code: 'custom', message }),
          );
          return { family: read.family, shown };
        }),
    ({ input, asking, on }) => readCopies(asking, on, input.family, input.shown),
  ),
};
