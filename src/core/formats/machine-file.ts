import { CHANGER_KINDS } from '../changer/traits.ts';
import { nanometres } from '../units/length.ts';
import { z } from 'zod';
import { INTERFACE_NAMES } from '../assembly/silhouette.ts';
import { LENGTH_SCHOOLS } from '../length/schools.ts';
import { EXPIRY_RULES } from '../life/count.ts';
import { dialectSchema } from '../program/dialect.ts';
import { parseLength } from '../units/parse-length.ts';
import type { FileResult } from './csv-table.ts';

const length = z.string().transform((text, context) => {
  const parsed = parseLength(text, 'mm');
  if (parsed.ok) return parsed.value;
  context.addIssue({ code: 'custom', message: parsed.reason });
  return z.NEVER;
});

/** A machine as a JSON file: what its plate, its manual and its parameters say. */
export const machineFileSchema = z
  .strictObject({
    name: z.string().trim().min(1).max(40),
    kind: z.enum(['mill', 'lathe']),
    words: z.string().max(200),
    unit: z.enum(['mm', 'in']),
    changer: z.strictObject({
      kind: z.enum(CHANGER_KINDS),
      places: z.number().int().min(1).max(240),
      pitchMillimetres: z.number().positive().max(1000),
      /** Of the small tray before an outside tray. */
      loadingPlaces: z.number().int().min(1).max(20).optional(),
      /** Where pockets differ: from which to which, and the largest diameter that goes in. */
      cells: z
        .array(z.strictObject({ from: z.number().int().min(1), to: z.number().int(), holder: length }))
        .default([]),
      reserved: z.array(z.number().int()).default([]),
      outOfService: z.array(z.number().int()).default([]),
    }),
    interface: z.enum(INTERFACE_NAMES),
    highestTool: z.number().int().min(1).max(9999),
    highestSpeed: z.number().int().positive(),
    /** What the plate on the machine says of its changer (H5); what is left out is not known. */
    limits: z
      .strictObject({
        longest: length.nullable().default(null),
        widest: length.nullable().default(null),
        widestAlone: length.nullable().default(null),
        heaviestGrams: z.number().positive().nullable().default(null),
        momentNewtonMetres: z.number().positive().nullable().default(null),
        heaviestAllGrams: z.number().positive().nullable().default(null),
        unbalanceKilogramMillimetres: z.number().positive().nullable().default(null),
        swing: length.nullable().default(null),
        travelX: length.nullable().default(null),
        travelY: length.nullable().default(null),
      })
      .prefault({}),
    /** Pattern of the retention knob; empty when the spindle takes none. */
    knob: z.string().max(20).default(''),
    throughCoolant: z.boolean().default(false),
    lengthSchool: z.enum(LENGTH_SCHOOLS),
    planeConstant: length.default(nanometres(0)),
    masterLength: length.default(nanometres(0)),
    x: z.enum(['diameter', 'radius']),
    cutter: z.enum(['diameter', 'radius']),
    increment: length.refine((value) => value > 0, 'a least increment must be above zero'),
    wearLimit: length,
    rows: z.number().int().min(1).max(999),
    expiry: z.enum(EXPIRY_RULES),
    dialect: dialectSchema,
  })
  .superRefine(({ changer }, context) => {
    const beyond = (path: (string | number)[], number: number) => {
      if (number >= 1 && number <= changer.places) return;
      context.addIssue({ code: 'custom', path, message: `pockets go from 1 to ${changer.places}` });
    };
    for (const name of ['reserved', 'outOfService'] as const)
      changer[name].forEach((number, i) => beyond(['changer', name, i], number));
    changer.cells.forEach(({ from, to }, i) => {
      beyond(['changer', 'cells', i, 'from'], from);
      beyond(['changer', 'cells', i, 'to'], to);
      if (from > to)
        context.addIssue({
          code: 'custom',
          path: ['changer', 'cells', i],
          message: 'the lower pocket comes first',
        });
    });
  });

export type MachineFile = z.infer<typeof machineFileSchema>;

/** Reads a machine file; every fault is named by its place in the JSON. */
export function readMachineFile(text: string): FileResult<MachineFile> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    return {
      ok: false,
      issues: [{ line: 1, column: '', message: `This is not JSON: ${(error as Error).message}.` }],
    };
  }
  const parsed = machineFileSchema.safeParse(json);
  if (parsed.success) return { ok: true, rows: [parsed.data] };
  return {
    ok: false,
    issues: parsed.error.issues.map((issue) => ({
      line: 0,
      column: issue.path.join('.') || 'file',
      message: issue.message,
    })),
  };
}
