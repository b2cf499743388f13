import { capital } from '../core/words/capital.ts';
import { setTimeout } from 'node:timers/promises';
import { asked } from './asked.ts';
import { holds, type Db } from './db.ts';
import { log } from './log.ts';
import { cellNow } from './clock.ts';
import { rows } from './db.ts';
import { insertRecord } from './insert.ts';
import type { LifeBasis } from '../core/life/count.ts';
import type { Entry, LedgerKind } from '../core/ledger/entry.ts';

/** What was written by somebody who did not hold what it is about was worked out from what others may have changed by then: a fault of ours. */
const unheld = (what: string, said: string) => {
  const fault = new Error(`of a ${what} that is not held: ${said}`);
  if (process.env.TIN_STRICT) throw fault;
  log.error({ stack: fault.stack }, 'an entry was written of what was not held');
};

/**
 * Appends an entry. A register, counter, stock or placement moves by it and by nothing else. Whoever writes of a machine, or moves what is
 * on a shelf, holds it first.
 */
export function append(db: Db, written: Entry): Promise<number> {
  const { machineId, componentId } = written as { machineId?: number | null; componentId?: number | null };
  if (typeof machineId === 'number' && !holds(db, `machine ${machineId}`)) unheld('machine', written.said);
  if (typeof componentId === 'number' && !holds(db, `component ${componentId}`))
    unheld('line of the catalogue', written.said);
  const { before, after, ...said } = written as Entry & { before?: number; after?: number };
  const typed = asked()?.typed;
  const moved =
    before === undefined || after === undefined
      ? {}
      : { beforeValue: before, changeValue: after - before, afterValue: after };
  return insertRecord(db, 'ledger', {
    ...said,
    said: capital(said.said) + (typed?.words ?? ''),
    // what it says was so then, not when it arrived
    ...(typed && typed.ago > 0 ? { detail: { ...said.detail, ago: typed.ago } } : {}),
    ...moved,
  });
}

export interface LedgerFilter {
  machine?: number | undefined;
  assembly?: number | undefined;
  tool?: number | undefined;
  person?: number | undefined;
  kind?: LedgerKind | undefined;
  from?: Date | undefined;
  to?: Date | undefined;
  register?: number | undefined;
  component?: number | undefined;
  /** Entries older than this id: the next page. */
  before?: number | undefined;
  /** Entries newer than this id. */
  after?: number | undefined;
  /**
   * Without what follows from another entry that stands there itself: of a thing what parts used up of it; of a shift also the counts,
   * which `countedIn` tells together, what a renewal and a correction say in their other entries, and labels.
   */
  told?: 'thing' | 'shift' | undefined;
}

export interface LedgerRow {
  id: number;
  at: Date;
  kind: LedgerKind;
  stage: string;
  person: string;
  machine: string | null;
  unit: 'mm' | 'in' | null;
  assembly: string | null;
  tool: number | null;
  program: string | null;
  proposalId: number | null;
  registerRow: number | null;
  registerKind: string | null;
  basis: LifeBasis | null;
  before: number | null;
  change: number | null;
  after: number | null;
  said: string;
  why: string;
}

/** What each part of a filter asks of an entry, with the value it is given. */
const FILTERS: Readonly<Record<Exclude<keyof LedgerFilter, 'told'>, (value: string) => string>> = {
  machine: (value) => `l.machine_id = ${value}::integer`,
  assembly: (value) => `l.assembly_id = ${value}::integer`,
  tool: (value) => `l.tool = ${value}::integer`,
  person: (value) => `l.person_id = ${value}::integer`,
  kind: (value) => `l.kind = ${value}::text`,
  from: (value) => `l.at >= ${value}::timestamptz`,
  to: (value) => `l.at < ${value}::timestamptz`,
  register: (value) => `l.register_id = ${value}::integer`,
  before: (value) => `l.id < ${value}::bigint`,
  component: (value) => `l.component_id = ${value}::integer`,
  after: (value) => `l.id > ${value}::bigint`,
};
/** What parts used up of each tool is not told of a thing, and of a shift not what is told by the counts themselves. */
const UNTOLD = {
  thing: [`NOT (l.kind = 'life' AND l.stage IN ('used', 'given back'))`],
  shift: [
    `NOT (l.kind = 'life' AND l.stage IN ('used', 'given back', 'renewed'))`,
    `NOT (l.kind = 'correction' AND l.stage = 'applied' OR l.kind = 'assembly' AND l.stage = 'labelled' OR l.kind = 'parts' AND l.stage = 'made')`,
  ],
};

/** Entries, newest first. A statement asks for what the filter names and nothing else: one for all filters would be planned for none. */
export function ledgerEntries(db: Db, filter: LedgerFilter, limit: number): Promise<LedgerRow[]> {
  const { told, ...named } = filter;
  const values: unknown[] = [limit];
  const asks = Object.entries(named).flatMap(([name, value]) =>
    value === undefined || value === null
      ? []
      : [FILTERS[name as keyof typeof named](`$${values.push(value)}`)],
  );
  const where = [...asks, ...(told ? UNTOLD[told] : [])];
  return rows<LedgerRow>(
    db,
    `SELECT l.id, l.at, l.kind, l.stage, p.name AS person, m.name AS machine, m.unit, a.number AS assembly, l.tool,
            g.number AS program, l.proposal_id AS "proposalId", r.row AS "registerRow", r.kind AS "registerKind", c.basis,
            l.before_value AS before, l.change_value AS change, l.after_value AS after, l.said, l.why
     FROM ledger l
     JOIN person p ON p.id = l.person_id
     LEFT JOIN machine m ON m.id = l.machine_id
     LEFT JOIN assembly a ON a.id = l.assembly_id
     LEFT JOIN program g ON g.id = l.program_id
     LEFT JOIN register r ON r.id = l.register_id
     LEFT JOIN life_counter c ON c.id = l.counter_id
     ${where.length === 0 ? '' : `WHERE ${where.join(' AND ')}`}
     ORDER BY l.id DESC LIMIT $1`,
    values,
  );
}

/** How long an answer about all entries stands before they are read again, and how long a page waits for that, milliseconds. */
const [CHECKED, WAITED] = [10 * 60_000, 50];
interface Checked {
  at: Date;
  wrong: number;
}
let known: (Checked & { until: number }) | null = null;
let checking: Promise<Checked> | null = null;

/**
 * How many registers and counters are not the sum of their entries, as this process found when it last read all of them: of ten million
 * that takes seconds, and a page shows what was found before rather than wait. Null: they are being read for the first time.
 */
export async function lastChecked(db: Db): Promise<Checked | null> {
  if (known && Date.now() < known.until) return known;
  if (!checking) {
    checking = disagreements(db).then(({ length: wrong }) => {
      // one that found something is looked at anew until it is mended
      known = { at: cellNow(), wrong, until: wrong > 0 ? 0 : Date.now() + CHECKED };
      return known;
    });
    const ended = () => (checking = null);
    checking.then(ended, ended);
  }
  const late = new AbortController();
  try {
    return await Promise.race([checking, setTimeout(WAITED, known, { signal: late.signal })]);
  } finally {
    late.abort();
  }
}

/** Every register and counter whose kept value is not the sum of its entries. Empty, or something is badly wrong. */
export const disagreements = (db: Db) =>
  rows<{ kind: string; id: number; value: number; summed: number }>(
    db,
    'SELECT kind, id, value, summed FROM ledger_disagreement',
  );
