import { fail, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { MATERIALS, type Material } from '$core/inspection/gauge';
import type { Person } from '$core/people/roles';
import { parseLength, parseSize } from '$core/units/parse-length';
import { nanometres, type Length, type LengthUnit } from '$core/units/length';
import { pool } from '$server/db';
import { machineById, type Machine } from '$server/machines';
import type { Asking } from '$server/once';
import type { Outcome } from '$server/outcome';

/** What is said of a form that lacks what its page puts into it. */
export const INCOMPLETE = 'The form did not arrive complete. Reload the page.';

/** What the page of a form showed of the record that it changes, as it wrote it down in the form. */
export const shownBefore = z.string().transform((text, context): Record<string, unknown> => {
  try {
    const shown: unknown = JSON.parse(text);
    if (typeof shown === 'object' && shown !== null) return shown as Record<string, unknown>;
  } catch {
    // told below
  }
  context.addIssue({ code: 'custom', message: INCOMPLETE });
  return z.NEVER;
});

interface Doing<T> {
  input: T;
  person: Person;
  asking: Asking;
  event: RequestEvent;
}

/**
 * A form action about something in the record: that is fetched first, so that the fields can be read by it (lengths in its
 * unit), and stands in the work as `on`. The work is done under the form's key, and a refusal comes back as a sentence. Who
 * may do it was settled in the hook, by the permission table.
 */
export function actOn<C, S extends z.ZodType>(
  find: (event: RequestEvent) => Promise<C | null>,
  missing: string,
  schema: (on: C, form: Readonly<Record<string, FormDataEntryValue>>) => S,
  work: (doing: Doing<z.infer<S>> & { on: C }) => Promise<Outcome<unknown>>,
) {
  return async (event: RequestEvent) => {
    const fields = await event.request.formData().catch(() => null);
    if (!fields) return fail(400, { problem: INCOMPLETE });
    const form = Object.fromEntries(fields);
    const stray = Object.entries(form).find(([, value]) => typeof value === 'string' && value.includes('\0'));
    if (stray)
      return fail(400, { problem: `"${stray[0]}" contains a character that is not text. Type it again.` });
    const { madeFor } = form;
    if (madeFor !== undefined && Number(madeFor) !== event.locals.person!.id)
      return fail(409, {
        problem: `This page was opened by somebody else, and ${event.locals.person!.name} is signed in now. Nothing was done; what you typed is still here. Sign in again, or reload the page.`,
      });
    delete form.madeFor;
    const seen = Number(/^\d{1,15}$/.exec(typeof form.toldTo === 'string' ? form.toldTo : '')?.[0] ?? 0);
    const meant = form.meant !== undefined;
    delete form.toldTo;
    delete form.meant;
    const key = z.uuid().safeParse(form.key);
    if (!key.success) return fail(400, { problem: 'The form came without its key. Reload the page.' });
    const on = await find(event);
    if (on === null) return fail(409, { problem: missing });
    const parsed = schema(on, form).safeParse(form);
    if (!parsed.success)
      return fail(400, {
        problem: parsed.error.issues.map((issue) => issue.message).join(' '),
        fields: parsed.error.issues.map((issue) => String(issue.path[0] ?? '')),
      });
    const person = event.locals.person!;
    const outcome = await work({
      input: parsed.data,
      person,
      asking: { key: key.data, personId: person.id, seen, meant },
      event,
      on,
    });
    return outcome.ok ? { done: outcome.value } : fail(409, { problem: outcome.reason, ask: outcome.ask });
  };
}

/** A form action about nothing in particular. */
export const act = <S extends z.ZodType>(
  schema: S,
  work: (doing: Doing<z.infer<S>>) => Promise<Outcome<unknown>>,
) =>
  actOn(
    () => Promise.resolve({}),
    '',
    () => schema,
    work,
  );

/** A form action on a page of a machine, which stands in the work as `on`. */
export const actAtMachine = <S extends z.ZodType>(
  schema: (machine: Machine) => S,
  work: (doing: Doing<z.infer<S>> & { on: Machine }) => Promise<Outcome<unknown>>,
) =>
  actOn((event) => machineById(pool(), Number(event.params.id)), 'There is no such machine.', schema, work);

/** A length field: a number in the unit, with a suffix, or a simple sum. */
export const lengthIn = (unit: LengthUnit) =>
  z.string({ error: 'Type a number.' }).transform((text, context) => {
    const parsed = parseSize(text, unit);
    if (parsed.ok) return parsed.value;
    context.addIssue({ code: 'custom', message: parsed.reason });
    return z.NEVER;
  });

/** One reading, or several of the same size parted by semicolons: their mean, and all of them where there are several. */
export const readingIn = (unit: LengthUnit) =>
  z.string({ error: 'Type a number.' }).transform((text, context) => {
    const parts = text.split(';').filter((each, i) => i === 0 || each.trim() !== '');
    if (parts.length > 20) {
      context.addIssue({ code: 'custom', message: 'Up to 20 readings of one size.' });
      return z.NEVER;
    }
    const values: Length[] = [];
    for (const part of parts) {
      const parsed = parseLength(part, unit);
      if (parsed.ok) values.push(parsed.value);
      else {
        context.addIssue({ code: 'custom', message: parsed.reason });
        return z.NEVER;
      }
    }
    return {
      measured: nanometres(Math.round(values.reduce((sum, each) => sum + each, 0) / values.length)),
      several: values.length > 1 ? values : null,
    };
  });

/** A length as it was shown, which the form brings back: whole nanometres. */
export const shownLength = z.coerce.number({ error: INCOMPLETE }).int(INCOMPLETE).transform(nanometres);
export const lengthOrNone = (unit: LengthUnit) =>
  z.union([z.literal('').transform(() => null), lengthIn(unit)]);

/** A whole number from a form. */
export const whole = (name: string, least: number, most: number) =>
  z.coerce
    .number({ error: `${name} must be a number.` })
    .int(`${name} must be a whole number.`)
    .min(least, `${name} must be at least ${least}.`)
    .max(most, `${name} must be at most ${most}.`);

const countOrNone = z
  .union([z.literal('').transform(() => null), whole('The number of parts made', 0, 1_000_000)])
  .default(null);
/** The number of parts that was asked about, and is right. */
export const sureOf = { sure: countOrNone };
/** Parts of the running job made until now; empty: as recorded. */
export const madeUntilNow = { made: countOrNone, ...sureOf };

export const id = whole('The number', 1, 2_147_483_647);
/** A number that may be left out. */
export const orEmpty = z.union([z.literal('').transform(() => null), id]).default(null);
/** A number that is known unless somebody says it: undefined, as it is known; null, nobody knows. */
const unlessSaid = (name: string, most: number) =>
  z
    .union([
      z.literal('').transform(() => undefined),
      z.literal('unknown').transform(() => null),
      whole(name, 1, most),
    ])
    .optional();
/** In which place of the cycle a part was cut, and on which pallet. */
export const placeIn = unlessSaid('The place', 99);
export const palletOn = unlessSaid('The pallet', 999);
/** A box that may be ticked. */
export const ticked = z
  .string()
  .optional()
  .transform((value) => value !== undefined);
export const words = (name: string, most = 1000) =>
  z
    .string({ error: `${name} is missing.` })
    .trim()
    .min(1, `${name} is missing.`)
    .max(most, `${name} is longer than ${most} characters.`);

/** `shown.7` in a form: what register 7 shows, in the unit; those left empty are not answered. */
export function shownRows(
  form: Readonly<Record<string, unknown>>,
  unit: LengthUnit,
  issue: (message: string) => void,
): { registerId: number; value: Length }[] {
  const shown = Object.entries(form).flatMap(([name, text]) => {
    const registerId = Number(/^shown\.(\d{1,9})$/.exec(name)?.[1]);
    if (!registerId || String(text).trim() === '') return [];
    const value = parseLength(String(text), unit);
    if (value.ok) return [{ registerId, value: value.value }];
    issue(`"${String(text)}": ${value.reason}`);
    return [];
  });
  if (shown.length === 0) issue('Type what at least one row shows.');
  return shown;
}

/** Temperature and materials of a reading that was taken warm, as `Warm.svelte` asks for them. */
export const warmFields = {
  celsius: z
    .string()
    .default('')
    .transform((text) => (text.trim() === '' ? null : Number(text.replace(',', '.'))))
    .refine(
      (each) => each === null || (each >= -10 && each <= 80),
      'The temperature is a number of °C from −10 to 80.',
    ),
  part_of: z.enum(MATERIALS).default('steel'),
  gauge_of: z.enum(MATERIALS).default('steel'),
};
export const warmOf = (form: { celsius: number | null; part_of: Material; gauge_of: Material }) =>
  form.celsius === null ? null : { celsius: form.celsius, part: form.part_of, gauge: form.gauge_of };
