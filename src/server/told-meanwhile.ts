import type { LedgerKind, Stage } from '../core/ledger/entry.ts';
import { row, type Db } from './db.ts';
import type { Asking } from './once.ts';
import { Asked } from './outcome.ts';

/** Of what an entry is; empty: of all of its kind. */
interface Subject {
  machineId?: number;
  jobId?: number;
  programId?: number;
  assemblyId?: number;
  componentId?: number;
  tool?: number;
}
type What<K extends LedgerKind> = readonly [kind: K, stage: Stage<K>, of: Subject];

/**
 * What another person wrote of the same thing after the page of a form was read, the newest; null: nothing, it was asked about already, or
 * nobody knows what the page showed.
 */
async function toldMeanwhile<K extends LedgerKind>(db: Db, asking: Asking, [kind, stage, of]: What<K>) {
  const { seen = 0, personId, meant } = asking;
  if (seen <= 0 || meant) return null;
  return row<{ person: string; said: string }>(
    db,
    `SELECT p.name AS person, l.said FROM ledger l JOIN person p ON p.id = l.person_id
     WHERE l.id > $1 AND l.person_id <> $2 AND l.kind = $3 AND l.stage = $4
       AND ($5::integer IS NULL OR l.job_id = $5) AND ($6::integer IS NULL OR l.program_id = $6)
       AND ($7::integer IS NULL OR l.assembly_id = $7) AND ($8::integer IS NULL OR l.component_id = $8)
       AND ($9::integer IS NULL OR l.machine_id = $9) AND ($10::integer IS NULL OR l.tool = $10)
     ORDER BY l.id DESC LIMIT 1`,
    [
      seen,
      personId,
      kind,
      stage,
      of.jobId ?? null,
      of.programId ?? null,
      of.assemblyId ?? null,
      of.componentId ?? null,
      of.machineId ?? null,
      of.tool ?? null,
    ],
  );
}
const meant = (words: string) => [{ name: 'meant', value: 'yes', words }];

/**
 * Two people who saw one thing both write it down: the second is asked whether it is another one, where the record cannot tell by itself. Where it
 * can (a count that moved, a step that is taken), it refuses without asking.
 *
 * @param words what the button says of another one
 */
export async function askIfDoubled<K extends LedgerKind>(
  db: Db,
  asking: Asking,
  what: What<K>,
  words: string,
): Promise<void> {
  const told = await toldMeanwhile(db, asking, what);
  if (told)
    throw new Asked(
      `${told.person} wrote down meanwhile: "${told.said}" Nothing was recorded. If yours is another one, say so.`,
      meant(words),
    );
}

/** What somebody else set since the page was read is not written over unseen. */
export async function askBeforeTakingOver<K extends LedgerKind>(
  db: Db,
  asking: Asking,
  what: What<K>,
): Promise<void> {
  const told = await toldMeanwhile(db, asking, what);
  if (told)
    throw new Asked(
      `${told.person} wrote down meanwhile: "${told.said}" Nothing was changed. Is yours to take its place?`,
      meant('Mine takes its place'),
    );
}
