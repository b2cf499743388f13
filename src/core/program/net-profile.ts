import { z } from 'zod';

/**
 * How a control lets a program look at its own tables: what a subprogram needs that is called after each tool change and raises an alarm
 * where a length is wrong (H7). Variables, alarms and calls differ from control to control; all of it is edited in the profile.
 */
export const netProfileSchema = z.object({
  program: z.number().int().min(1).max(99_999_999).describe('number of the subprogram'),
  call: z
    .string()
    .trim()
    .min(2)
    .max(40)
    .describe('the line that calls it after each tool change: G65 P9100, or an alias such as M150'),
  activeTool: z
    .string()
    .regex(/^#\d{1,5}$/, 'a variable such as #4120')
    .describe('variable that shows the T that was called last'),
  registers: z
    .record(
      z.string(),
      z
        .string()
        .max(40)
        .regex(/\{row\}/, 'a variable with {row} in it, such as #[8000+{row}]'),
    )
    .describe('variable of each kind of register'),
  inches: z
    .string()
    .regex(/^#\d{1,5} EQ \d{1,5}$/, 'a variable and its value, such as #4006 EQ 20')
    .nullable()
    .describe(
      'condition that holds while registers are shown in inches, such as #4006 EQ 20; null: their unit is the machine’s',
    ),
  alarm: z
    .string()
    .max(60)
    .regex(/\{text\}/, 'text with {text} in it, such as #3000={number} ({text})')
    .describe('what raises an alarm'),
  longestText: z.number().int().min(10).max(80).describe('characters of an alarm that the control shows'),
});

export type NetProfile = z.infer<typeof netProfileSchema>;

/** The code that calls the net, where it is an alias; null: a call with a number. */
export const aliasOf = (net: NetProfile | null | undefined): string | null =>
  /^[GM]\d{1,3}$/.exec(net?.call.replace(/\s/g, '').toUpperCase() ?? '')?.[0] ?? null;
