import { z } from 'zod';
import { LEDGER_KINDS } from '../ledger/entry.ts';

/** What a token may do, each on its own. */
export const SCOPES = {
  'readings:write': 'send readings of parts',
  'parts:write': 'record parts made',
  'tables:write': 'send tables of controls',
  'tools:read': 'read tools and what the machines do',
  'registers:read': 'read registers',
  'corrections:read': 'read corrections',
  'forecast:read': 'read what runs out and when',
  'ledger:read': 'read the ledger',
  'figures:read': 'read the figures of the server (/metrics)',
} as const;
export type Scope = keyof typeof SCOPES;
export const SCOPE_NAMES = Object.keys(SCOPES) as [Scope, ...Scope[]];

/** Lengths are written as decimal text: exact, in the unit that stands beside them. */
const length = z
  .string()
  .regex(/^[+-]?\d{1,6}(\.\d{1,9})?$/, 'A length is decimal text, such as "12.345".')
  .describe('Decimal text, exact, in the unit beside it.');
const unit = z.enum(['mm', 'in']);
const at = z.iso.datetime();
const count = z.int().min(0).max(1_000_000);
const machine = z.string().min(1).max(60).describe('The name of the machine.');
const cursor = z.int().min(0).describe('Go on from here: what comes after it.');
const page = {
  after: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(100),
};

export const fault = z.object({ message: z.string() });

interface Endpoint {
  method: 'get' | 'post';
  path: string;
  scope: Scope;
  summary: string;
  /** What stands in the address, of a question; what is sent, of a write. */
  takes: z.ZodObject;
  gives: z.ZodObject;
}

/** Every way in and out for other systems; the OpenAPI description is made of this table and so is the answering. */
export const ENDPOINTS = {
  takeReading: {
    method: 'post',
    path: '/readings',
    scope: 'readings:write',
    summary:
      'A reading of a size on a part of the running job. It is questioned as one that is typed would be.',
    takes: z.object({
      machine,
      program: z.string().min(1).max(60).describe('Its number, such as O2301.'),
      feature: z.string().min(1).max(80),
      part: count.describe('Which part of the job it was.'),
      value: length,
      unit,
      place: z
        .int()
        .min(1)
        .max(99)
        .optional()
        .describe(
          'Where several parts come off together, cut with the same rows: in which place. Left out: as its number has it.',
        ),
      pallet: z
        .int()
        .min(1)
        .max(999)
        .optional()
        .describe('The number of the pallet that it was cut on. Left out: as the parts were counted.'),
      firstOff: z.boolean().default(false),
      confirmed: z.boolean().default(false).describe('Measured again, after a question.'),
      measuredAt: z.iso
        .datetime({ offset: true })
        .optional()
        .describe('When, if not just now. One from before the job began is of another part, and refused.'),
    }),
    gives: z.object({
      reading: z
        .int()
        .nullable()
        .describe('Null: it was questioned, and counts for nothing until it is confirmed.'),
      verdict: z.string(),
      reason: z.string(),
      partOut: z.boolean(),
      corrections: z.array(z.int()).describe('Corrections that wait for somebody because of it.'),
    }),
  },
  recordParts: {
    method: 'post',
    path: '/parts',
    scope: 'parts:write',
    summary:
      'The count of parts of the running job, as the control has it. Tools are used up by what is new.',
    takes: z.object({
      machine,
      program: z.string().min(1).max(60),
      count: count.describe('All parts of the job until now, not only the new ones.'),
      confirmed: z
        .boolean()
        .default(false)
        .describe(
          'Somebody has looked at it: a count that the machine can hardly have made by now is refused without.',
        ),
    }),
    gives: z.object({ before: count, recorded: count, ranOut: z.array(z.string()) }),
  },
  bringTable: {
    method: 'post',
    path: '/tables',
    scope: 'tables:write',
    summary:
      'The offset table of a control, as text. It is taken whole or not at all, and laid beside the record.',
    takes: z.object({
      machine,
      text: z.string().min(1).max(500_000),
      layout: z
        .string()
        .max(60)
        .nullable()
        .default(null)
        .describe('The name of a layout that was kept; null: in the words of the machine.'),
      part: z.boolean().default(false).describe('Only a part of the table.'),
    }),
    gives: z.object({ look: z.int(), agree: count, differ: count }),
  },
  machines: {
    method: 'get',
    path: '/machines',
    scope: 'tools:read',
    summary: 'The machines, with what each does as its control says.',
    takes: z.object({}),
    gives: z.object({
      items: z.array(
        z.object({
          machine: z.string(),
          unit,
          job: z.string().nullable(),
          execution: z.string().nullable(),
          tool: z.int().nullable(),
          parts: z.int().nullable(),
          problem: z.string().nullable(),
        }),
      ),
    }),
  },
  tools: {
    method: 'get',
    path: '/tools',
    scope: 'tools:read',
    summary: 'The tools that stand in a machine, with what is left of their lives.',
    takes: z.object({ machine }),
    gives: z.object({
      items: z.array(
        z.object({
          tool: z.int(),
          pocket: z.int().describe('0 is the spindle.'),
          number: z.string(),
          name: z.string(),
          flag: z.string().nullable(),
          basis: z.string().nullable(),
          remaining: z
            .int()
            .nullable()
            .describe('Pieces, holes, thousandths of a second, or nanometres of wear.'),
          limit: z.int().nullable(),
        }),
      ),
    }),
  },
  registers: {
    method: 'get',
    path: '/registers',
    scope: 'registers:read',
    summary: 'The registers of a machine that hold something, as the record has them.',
    takes: z.object({ machine }),
    gives: z.object({
      unit,
      items: z.array(z.object({ row: z.int(), kind: z.string(), value: length })),
    }),
  },
  corrections: {
    method: 'get',
    path: '/corrections',
    scope: 'corrections:read',
    summary: 'Corrections that wait for approval or for being keyed.',
    takes: z.object({}),
    gives: z.object({
      items: z.array(
        z.object({
          id: z.int(),
          state: z.string(),
          machine: z.string(),
          tool: z.int(),
          feature: z.string(),
          row: z.int(),
          kind: z.string(),
          unit,
          from: length,
          to: length,
          held: z
            .string()
            .nullable()
            .describe('Why an approved one is not to be keyed before its row was read off the control.'),
          reason: z.string(),
        }),
      ),
    }),
  },
  forecast: {
    method: 'get',
    path: '/forecast',
    scope: 'forecast:read',
    summary: 'Which tools run out on the running jobs, soonest first.',
    takes: z.object({}),
    gives: z.object({
      items: z.array(
        z.object({
          machine: z.string(),
          tool: z.int(),
          number: z.string(),
          afterParts: z.int().describe('Parts more than are on record.'),
          at: at
            .nullable()
            .describe('At the earliest: as if the machine had run on since its parts were counted.'),
          byNow: z.boolean().describe('It may have run out since then.'),
          gone: at.nullable().describe('It runs out while nobody is there: when they went.'),
          flag: z.string().nullable(),
          sister: z.string().nullable(),
        }),
      ),
    }),
  },
  ledger: {
    method: 'get',
    path: '/ledger',
    scope: 'ledger:read',
    summary: 'Entries of the ledger in their order. Ask again with `next` to follow it.',
    takes: z.object({ ...page, kind: z.enum(LEDGER_KINDS).optional() }),
    gives: z.object({
      items: z.array(
        z.object({
          id: z.int(),
          at,
          kind: z.enum(LEDGER_KINDS),
          stage: z.string(),
          person: z.string(),
          machine: z.string().nullable(),
          tool: z.int().nullable(),
          said: z.string(),
          why: z.string(),
        }),
      ),
      next: cursor,
      more: z.boolean().describe('There is more now.'),
    }),
  },
} as const satisfies Record<string, Endpoint>;

export type EndpointName = keyof typeof ENDPOINTS;
export type Takes<N extends EndpointName> = z.infer<(typeof ENDPOINTS)[N]['takes']>;
export type Gives<N extends EndpointName> = z.infer<(typeof ENDPOINTS)[N]['gives']>;

/** What a webhook is sent, one entry of the ledger at a time. */
export const event = ENDPOINTS.ledger.gives.shape.items.element;
