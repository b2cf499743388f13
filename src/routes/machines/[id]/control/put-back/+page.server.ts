import { z } from 'zod';
import type { PutBackShown } from '$core/control/put-back';
import { registerWords } from '$core/control/words';
import { registerDecimals } from '$core/units/register-decimals';
import { formatLength } from '$core/units/format-length';
import type { Length } from '$core/units/length';
import { fileText } from '$server/file-text';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import type { Outcome } from '$server/outcome';
import { keepPutBack, lookAtKept } from '$server/put-back';
import { act, ticked } from '../../../../action';
import type { Actions } from './$types';

/** Longest text of a table. */
const MOST = 500_000;

export const actions: Actions = {
  look: act(
    z.object({
      file: z.instanceof(File).optional(),
      text: z.string().max(MOST).default(''),
      lost: ticked,
    }),
    async ({ input, asking, event }): Promise<Outcome<PutBackShown>> => {
      const given = input.file && input.file.size > 0 ? await fileText(input.file) : null;
      if (given && !given.ok) return given;
      const text = given?.value.text ?? input.text;
      if (text.trim() === '')
        return { ok: false, reason: 'Choose a file, or paste the table that was kept.' };
      const machineId = Number(event.params.id);
      const machine = await machineById(pool(), machineId);
      const looked = await lookAtKept(asking, { machineId, text, lost: input.lost });
      if (!looked.ok || !machine) return { ok: false, reason: looked.ok ? '' : looked.reason };
      const show = (value: Length) =>
        formatLength(value, machine.unit, {
          decimals: registerDecimals(machine.unit, machine.increment),
          sign: 'always',
        });
      const { rows, left, at, entry, same, seen, lines } = looked.value;
      return {
        ok: true,
        value: {
          text,
          at,
          entry,
          same,
          seen,
          lines,
          left: left.map(registerWords),
          rows: rows.map((each) => ({
            id: each.id,
            words: registerWords(each),
            control: each.control === null ? null : show(each.control),
            record: show(each.record),
            to: show(each.to),
          })),
        },
      };
    },
  ),
  keep: act(
    z.object({
      text: z.string().max(MOST),
      shown: z.string().max(MOST).trim().min(1, 'Paste the table as the control gives it out now.'),
      entry: z.coerce.number().int().min(0),
    }),
    ({ input, asking, event }) => keepPutBack(asking, { machineId: Number(event.params.id), ...input }),
  ),
};
