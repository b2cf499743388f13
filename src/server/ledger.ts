import type { Db } from './db.ts';
import { row, rows } from './db.ts';

export type LedgerKind =
  | 'register'
  | 'life'
  | 'placement'
  | 'correction'
  | 'reading'
  | 'assembly'
  | 'parts'
  | 'program'
  | 'machine'
  | 'leaf'
  | 'people'
  | 'component'
  | 'stock'
  | 'pocket';

export interface Entry {
  kind: LedgerKind;
  stage: string;
  personId: number;
  said: string;
  why?: string;
  machineId?: number | null;
  assemblyId?: number | null;
  programId?: number | null;
  jobId?: number | null;
  proposalId?: number | null;
  readingId?: number | null;
  registerId?: number;
  counterId?: number;
  placeId?: number;
  componentId?: number;
  tool?: number | null;
  before?: number;
  after?: number;
  detail?: object;
}

/** Appends an entry. A register, counter or placement moves by it and by nothing else. */
export async function append(db: Db, entry: Entry): Promise<number> {
  const change = entry.before === undefined || entry.after === undefined ? null : entry.after - entry.before;
  const made = await row<{ id: number }>(
    db,
    `INSERT INTO ledger (kind, stage, person_id, machine_id, assembly_id, program_id, job_id, proposal_id, reading_id,
                         register_id, counter_id, place_id, tool, before_value, change_value, after_value, said, why, detail, component_id)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19, $20) RETURNING id`,
    [
      entry.kind,
      entry.stage,
      entry.personId,
      entry.machineId ?? null,
      entry.assemblyId ?? null,
      entry.programId ?? null,
      entry.jobId ?? null,
      entry.proposalId ?? null,
      entry.readingId ?? null,
      entry.registerId ?? null,
      entry.counterId ?? null,
      entry.placeId ?? null,
      entry.tool ?? null,
      entry.before ?? null,
      change,
      entry.after ?? null,
      entry.said,
      entry.why ?? '',
      JSON.stringify(entry.detail ?? {}),
      entry.componentId ?? null,
    ],
  );
  return made!.id;
}

export interface LedgerFilter {
  machine?: number | undefined;
  assembly?: number | undefined;
  tool?: number | undefined;
  person?: number | undefined;
  kind?: string | undefined;
  from?: Date | undefined;
  to?: Date | undefined;
  register?: number | undefined;
  component?: number | undefined;
  /** Entries older than this id: the next page. */
  before?: number | undefined;
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
  basis: string | null;
  before: number | null;
  change: number | null;
  after: number | null;
  said: string;
  why: string;
}

/** Entries, newest first. */
export function ledgerEntries(db: Db, filter: LedgerFilter, limit: number): Promise<LedgerRow[]> {
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
     WHERE ($1::integer IS NULL OR l.machine_id = $1)
       AND ($2::integer IS NULL OR l.assembly_id = $2)
       AND ($3::integer IS NULL OR l.tool = $3)
       AND ($4::integer IS NULL OR l.person_id = $4)
       AND ($5::text IS NULL OR l.kind = $5)
       AND ($6::timestamptz IS NULL OR l.at >= $6)
       AND ($7::timestamptz IS NULL OR l.at < $7)
       AND ($8::integer IS NULL OR l.register_id = $8)
       AND ($9::bigint IS NULL OR l.id < $9)
       AND ($11::integer IS NULL OR l.component_id = $11)
     ORDER BY l.id DESC LIMIT $10`,
    [
      filter.machine ?? null,
      filter.assembly ?? null,
      filter.tool ?? null,
      filter.person ?? null,
      filter.kind ?? null,
      filter.from ?? null,
      filter.to ?? null,
      filter.register ?? null,
      filter.before ?? null,
      limit,
      filter.component ?? null,
    ],
  );
}

/** Every register and counter whose kept value is not the sum of its entries. Empty, or something is badly wrong. */
export const disagreements = (db: Db) =>
  rows<{ kind: string; id: number; value: number; summed: number }>(
    db,
    'SELECT kind, id, value, summed FROM ledger_disagreement',
  );
