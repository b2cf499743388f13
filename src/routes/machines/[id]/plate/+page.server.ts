import { traitsOf } from '$core/changer/traits';
import { z } from 'zod';
import { widestOf } from '$core/assembly/silhouette';
import { weighed } from '$core/assembly/weighed';
import { capacitiesOf, cellRanges } from '$core/changer/tray-cells';
import { may } from '$core/people/roles';
import { changeDialect } from '$server/program-reading';
import { dialectSchema } from '$core/program/dialect';
import type { LengthUnit } from '$core/units/length';
import { pool } from '$server/db';
import { shapeOf, type Machine } from '$server/machines';
import { calibrateChanges } from '$server/magazines';
import { bearingOf, placesOf } from '$server/places';
import { plateOf, recordCells, recordPlate } from '$server/plates';
import { act, actAtMachine, INCOMPLETE, lengthOrNone, shownBefore, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  const places = await placesOf(pool(), machine.id);
  const shape = shapeOf(machine);
  return {
    bearing: bearingOf(machine, places),
    /** What stands in it, as it is held against the plate. */
    standing: places.flatMap(({ tool, assembly }) =>
      assembly
        ? [
            {
              tool: tool!,
              number: assembly.number,
              gaugeLength: assembly.gaugeLength,
              widest: widestOf(assembly),
              ...weighed(assembly),
            },
          ]
        : [],
    ),
    cells: cellRanges(places.filter((place) => place.kind === 'pocket')),
    capacities: traitsOf(shape).order === 'grid' ? capacitiesOf(shape) : [],
    plate: plateOf(machine),
    mayRecord: may(locals.person!.role, 'editMachines'),
  };
};

/** A figure of the plate: a number above nothing, or left out when the plate does not say it. */
const figure = (name: string) =>
  z
    .string()
    .trim()
    .transform((text) => (text === '' ? null : Number(text.replace(',', '.'))))
    .refine(
      (value) => value === null || (Number.isFinite(value) && value > 0),
      `${name} is a number above zero.`,
    );
const grams = (name: string) => figure(name).transform((value) => (value === null ? null : value * 1000));
const widthOrNone = (name: string, unit: LengthUnit) =>
  lengthOrNone(unit).refine((value) => value === null || value > 0, `${name} must be above zero.`);

/** What the form of a kind of machine asks for; what it does not ask for is left out. */
const plateSchema = ({ unit }: Machine) =>
  z
    .object({
      highestTool: whole('The highest T', 1, 9999),
      knob: z.string().trim().max(20, 'The knob’s name is longer than 20 characters.'),
      longest: widthOrNone('The longest tool', unit),
      widest: widthOrNone('The widest tool', unit),
      widestAlone: widthOrNone('The widest tool alone', unit),
      heaviest: grams('The heaviest tool'),
      moment: figure('The moment'),
      heaviestAll: grams('The mass of all tools'),
      unbalance: grams('The unbalance'),
      swing: widthOrNone('The swing', unit),
      travelX: widthOrNone('The travel in X', unit),
      travelY: widthOrNone('The travel in Y', unit),
    })
    .partial()
    .extend({ shown: shownBefore })
    .transform(({ shown, ...plate }) => ({
      shown,
      plate: Object.fromEntries(Object.entries(plate).filter(([, value]) => value !== undefined)) as Partial<
        typeof plate
      >,
    }));

const list = z.string().transform((text) =>
  text
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((word) => word.toUpperCase()),
);
/** The texts of a profile that stand for one kind of register each. */
const byKind = (form: Record<string, string>, prefix: string) =>
  Object.fromEntries(
    Object.entries(form)
      .filter(([name, text]) => name.startsWith(prefix) && text.trim() !== '')
      .map(([name, text]) => [name.slice(prefix.length), text.trim()]),
  );
const dialectForm = z.record(z.string(), z.string()).transform((form, context) => {
  const number = (text: string | undefined) =>
    text === undefined || text.trim() === '' ? null : Number(text);
  // how a check of lengths is written is said on a page of its own, and stays
  const parsed = dialectSchema.omit({ net: true }).safeParse({
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
    throughCodes: list.parse(form.throughCodes ?? ''),
    harmlessCodes: list.parse(form.harmlessCodes ?? ''),
    setRegister: byKind(form, 'set.'),
    guardRegister: byKind(form, 'guard.'),
    guardEnd: (form.guardEnd ?? '')
      .split(/\r\n|\r|\n/)
      .map((line) => line.trim())
      .filter(Boolean),
    unitCodes: { mm: form.codeMm?.trim().toUpperCase(), in: form.codeIn?.trim().toUpperCase() },
  });
  const shown = shownBefore.safeParse(form.shown);
  if (parsed.success && shown.success) return { dialect: parsed.data, shown: shown.data };
  if (!shown.success) context.addIssue({ code: 'custom', message: INCOMPLETE });
  for (const issue of parsed.error?.issues ?? [])
    context.addIssue({ code: 'custom', message: `${issue.path.join('.')}: ${issue.message}.` });
  return z.NEVER;
});

const seconds = (name: string) =>
  z.coerce
    .number({ error: `${name} must be a number.` })
    .positive(`${name} must be above zero.`)
    .max(600);

export const actions: Actions = {
  dialect: act(dialectForm, ({ input, asking, event }) =>
    changeDialect(asking, {
      machineId: Number(event.params.id),
      dialect: input.dialect,
      shown: input.shown,
    }),
  ),
  times: act(
    z.object({
      pocketsA: whole('Pockets', 0, 999),
      secondsA: seconds('Seconds'),
      pocketsB: whole('Pockets', 0, 999),
      secondsB: seconds('Seconds'),
      heavyFactor: z.coerce.number().min(1, 'A heavy tool cannot be quicker.').max(10),
    }),
    ({ input, asking, event }) =>
      calibrateChanges(asking, {
        machineId: Number(event.params.id),
        a: { pockets: input.pocketsA, seconds: input.secondsA },
        b: { pockets: input.pocketsB, seconds: input.secondsB },
        heavyFactor: input.heavyFactor,
      }),
  ),

  record: actAtMachine(plateSchema, ({ input, asking, on }) =>
    recordPlate(asking, { machineId: on.id, plate: input.plate, shown: input.shown }),
  ),
  cells: actAtMachine(
    ({ unit }) =>
      z.object({
        from: whole('The first pocket', 1, 999),
        to: whole('The last pocket', 1, 999),
        cell: z.string().trim().pipe(widthOrNone('The holder', unit)),
      }),
    ({ input, asking, on }) => recordCells(asking, { machineId: on.id, ...input }),
  ),
};
