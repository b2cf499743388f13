import type { LedgerKind, Stage } from '../core/ledger/entry.ts';
import { row, type Db } from './db.ts';
import type { Asking } from './once.ts';
import { Asked } from './outcome.ts';

/** Of what an entry is. */
interface Subject {
  jobId?: number;
  programId?: number;
  assemblyId?: number;
  componentId?: number;
}

/** What another person wrote of the same thing after the page of a form was read, the newest; null: nothing, or nobody knows what the page showed. */
async function toldMeanwhile<K extends LedgerKind>(
  db: Db,
  { seen = 0, personId }: Asking,
  kind: K,
  stage: Stage<K>,
  of: Subject,
) {
  if (seen <= 0) return null;
  return row<{ person: string; said: string }>(
    db,
    `SELECT p.name AS person, l.said FROM ledger l JOIN person p ON p.id = l.person_id
     WHERE l.id > $1 AND l.person_id <> $2 AND l.kind = $3 AND l.stage = $4
       AND ($5::integer IS NULL OR l.job_id = $5) AND ($6::integer IS NULL OR l.program_id = $6)
       AND ($7::integer IS NULL OR l.assembly_id = $7) AND ($8::integer IS NULL OR l.component_id = $8)
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
    ],
  );
}

/**
 * Two people who saw one thing both write it down: the second is asked whether it is another one, where the record cannot tell by itself. Where it
 * can (a count that moved, a step that is taken), it refuses without asking.
 *
 * @param another it was asked, and is another one
 */
export async function askIfTold<K extends LedgerKind>(
  db: Db,
  asking: Asking,
  [kind, stage, of]: readonly [kind: K, stage: Stage<K>, of: Subject],
  another: boolean | undefined,
  words: string,
): Promise<void> {
  const told = another ? null : await toldMeanwhile(db, asking, kind, stage, of);
  if (told)
    throw new Asked(
      `${told.person} wrote down meanwhile: "${told.said}" Nothing was recorded. If yours is another one, say so.`,
      [{ name: 'another', value: 'yes', words }],
    );
}
