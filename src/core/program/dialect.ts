import { z } from 'zod';
import { SHIFTS } from './boring-shift.ts';
import { netProfileSchema } from './net-profile.ts';

/**
 * A machine's way of writing programs. Nothing of the reader is hard-wired to one control: the tool call,
 * the words that apply a length, how a lathe splits T0101, and the text that sets a register are all
 * properties that the cell lead edits (H9).
 */
export const dialectSchema = z.object({
  kind: z.enum(['mill', 'lathe']),
  units: z.enum(['mm', 'in']).describe('in force until G20 or G21 says otherwise'),
  toolCallCodes: z
    .array(z.string().regex(/^[MG]\d{1,3}$/, 'a code such as M6'))
    .max(8)
    .describe('codes that change the tool; empty where the T word itself does, as on a turret'),
  toolCallMacro: z.number().int().positive().nullable().describe('O number of a macro called with G65 P… T…'),
  rowDigits: z
    .number()
    .int()
    .min(0)
    .max(3)
    .describe('digits of a T word that are the offset row: 2 in T0101'),
  lengthCodes: z.array(z.string().regex(/^G\d{1,3}(\.\d)?$/, 'a code such as G43 or G43.4')).max(6),
  automaticRow: z
    .number()
    .int()
    .nullable()
    .describe('the H or D number that means "the row of the tool in the spindle"; null where there is none'),
  feed: z.enum(['perMinute', 'perRevolution']).describe('in force at the start'),
  turningCycles: z.boolean().describe('G70…G76, G90, G92, G94 are turning cycles, G98 and G99 feed modes'),
  boringShift: z
    .enum(SHIFTS)
    .default('X+')
    .describe('which way Q shifts a fine boring bar off the wall: a setting of the machine'),
  pointless: z.enum(['asWritten', 'leastIncrement']).describe('what X100 without a decimal point means'),
  lifeCodes: z.array(z.string().regex(/^M\d{1,3}$/, 'a code such as M120')).max(4),
  throughCodes: z
    .array(z.string().regex(/^M\d{1,3}$/, 'a code such as M88'))
    .max(4)
    .default([])
    .describe('codes that turn on coolant through the spindle and the tool'),
  harmlessCodes: z
    .array(z.string().regex(/^[GM]\d{1,3}(\.\d)?$/, 'a code such as M88'))
    .max(100)
    .default([])
    .describe('codes that change no tool, row, speed, depth or life: doors, chip conveyors, clamps'),
  setRegister: z
    .record(z.string(), z.string().max(80))
    .describe('text that sets a register: {row} and {value}; one line for each kind of register'),
  unitCodes: z
    .object({ mm: z.string().regex(/^G\d{1,3}$/), in: z.string().regex(/^G\d{1,3}$/) })
    .default({ mm: 'G21', in: 'G20' })
    .describe('codes that say in which unit a line is meant'),
  guardRegister: z
    .record(z.string(), z.string().max(80))
    .default({})
    .describe('text that leaves the program unless a register shows {value}; one line for each kind'),
  guardEnd: z
    .array(z.string().max(80))
    .max(4)
    .default([])
    .describe('lines that such a program ends with: where a guard leads to'),
  net: netProfileSchema
    .nullable()
    .default(null)
    .describe('what a check of lengths after each tool change needs; null: none is written for this machine'),
});

export type Dialect = z.infer<typeof dialectSchema>;

/**
 * What most controls of a kind speak (common practice, no source), to begin with: the manual of the machine decides, and the profile
 * is edited under Machine. Nothing sets a register until somebody writes the text for it.
 */
export function usualDialect(kind: 'mill' | 'lathe', units: 'mm' | 'in'): Dialect {
  const mill = kind === 'mill';
  return {
    kind,
    units,
    toolCallCodes: mill ? ['M6'] : [],
    toolCallMacro: null,
    rowDigits: mill ? 0 : 2,
    lengthCodes: mill ? ['G43'] : [],
    automaticRow: null,
    feed: mill ? 'perMinute' : 'perRevolution',
    turningCycles: !mill,
    boringShift: 'X+',
    pointless: 'asWritten',
    lifeCodes: [],
    throughCodes: mill ? ['M88'] : [],
    harmlessCodes: [],
    setRegister: {},
    unitCodes: { mm: 'G21', in: 'G20' },
    guardRegister: {},
    guardEnd: [],
    net: null,
  };
}
