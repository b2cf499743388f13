import { z } from 'zod';
import { may } from '$core/people/roles';
import { spreadOf } from '$core/presetting/spread';
import { parseLength } from '$core/units/parse-length';
import { assembliesByNumber, looseAssembliesToMeasure } from '$server/assemblies';
import { pool } from '$server/db';
import { presetterAddress, measureNow } from '$server/presetter-link';
import { expectedOf, presettingsOf, recordPresetting } from '$server/presettings';
import { act, id, lengthIn } from '../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url, locals }) => {
  const db = pool();
  const number = (url.searchParams.get('number') ?? '').trim().slice(0, 20);
  const [assembly] = number ? await assembliesByNumber(db, [number.toUpperCase(), number]) : [];
  const history = assembly ? await presettingsOf(db, assembly.id) : [];
  const current = history.filter((each) => each.current);
  return {
    number,
    assembly: assembly ?? null,
    expected: assembly ? await expectedOf(db, assembly) : null,
    history,
    spread: {
      gaugeLength: spreadOf(current.map((each) => each.gaugeLength)),
      diameter: spreadOf(current.flatMap((each) => (each.diameter === null ? [] : [each.diameter]))),
    },
    waiting: await looseAssembliesToMeasure(db),
    connected: presetterAddress() !== null,
    mayMeasure: may(locals.person!.role, 'measureTools'),
  };
};

const optionalLength = z
  .string()
  .default('')
  .transform((text, context) => {
    if (text.trim() === '') return null;
    const parsed = parseLength(text, 'mm');
    if (parsed.ok && parsed.value >= 0) return parsed.value;
    context.addIssue({ code: 'custom', message: parsed.ok ? 'A size cannot be below zero.' : parsed.reason });
    return z.NEVER;
  });

export const actions: Actions = {
  ask: act(
    z.object({
      number: z
        .string()
        .trim()
        .regex(/^\S{1,20}$/, 'Scan or type the number of the tool.'),
    }),
    async ({ input }) => {
      const answer = await measureNow(input.number);
      if (!answer.ok) return answer;
      if (answer.reading.number.toLowerCase() !== input.number.toLowerCase())
        return {
          ok: false,
          reason: `The presetter has ${answer.reading.number} in its fixture, not ${input.number}. Change the tool, or scan again.`,
        };
      return { ok: true, value: answer.reading };
    },
  ),
  record: act(
    z.object({
      assembly: id,
      gaugeLength: lengthIn('mm').refine((value) => value > 0, 'A gauge length must be above zero.'),
      diameter: optionalLength,
      cornerRadius: optionalLength,
      runOut: optionalLength,
      instrument: z.string().trim().min(1, 'Say what it was measured with.').max(60),
      confirmed: z.string().optional(),
    }),
    ({ input, asking }) =>
      recordPresetting(asking, {
        assemblyId: input.assembly,
        gaugeLength: input.gaugeLength,
        diameter: input.diameter === 0 ? null : input.diameter,
        cornerRadius: input.cornerRadius,
        runOut: input.runOut,
        instrument: input.instrument,
        confirmed: input.confirmed === 'yes',
      }),
  ),
};
