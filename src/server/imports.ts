import { assemblyCells, type AssemblyRow } from '../core/formats/assembly-file.ts';
import { componentCells, type ComponentRow } from '../core/formats/component-file.ts';
import {
  countVerdicts,
  planImport,
  type ImportCounts,
  type PlannedRow,
} from '../core/formats/import-plan.ts';
import { importAssemblyBatch } from './assemblies.ts';
import { importComponentBatch } from './components.ts';
import { pool, row, rows, transaction, type Db } from './db.ts';
import { log } from './log.ts';
import { once, type Asking } from './once.ts';
import { attempt, Refused } from './outcome.ts';
import type { ToolFile } from '../core/formats/tool-file.ts';
import { knownCells } from './tool-files.ts';
import { work } from './worker.ts';

export interface Draft {
  id: number;
  kind: ToolFile['kind'];
  fileName: string;
  state: 'looked' | 'running' | 'cancelling' | 'done' | 'cancelled' | 'failed';
  rowsDone: number;
  rowsAll: number;
  answer: string;
  personId: number;
}

const DRAFT = `SELECT id, kind, file_name AS "fileName", state, rows_done AS "rowsDone", rows_all AS "rowsAll", answer, person_id AS "personId"
  FROM import_draft`;
export const draftById = (db: Db, id: number) => row<Draft>(db, `${DRAFT} WHERE id = $1`, [id]);

const MOST_SHOWN = 300;

export interface Look {
  counts: ImportCounts;
  /** What would be refused and changed first, then the rest; the first of them. */
  rows: PlannedRow[];
}

/** A file of many thousand rows takes some seconds; one that takes longer is none of ours. */
const READING_SECONDS = 60;

type ReadFile = ToolFile & { result: { ok: true } };

async function readOrRefuse(content: string): Promise<ReadFile> {
  const file = await work('readToolFile', [content], READING_SECONDS);
  if (file.result.ok) return file as ReadFile;
  const { issues } = file.result;
  throw new Refused(
    issues
      .slice(0, 12)
      .map(({ line, column, message }) => `Line ${line}${column ? `, ${column}` : ''}: ${message}`)
      .join('\n') + (issues.length > 12 ? `\n… and ${issues.length - 12} more.` : ''),
  );
}

async function planOf(db: Db, file: ReadFile): Promise<PlannedRow[]> {
  const cells =
    file.kind === 'assemblies'
      ? (file.result.rows as AssemblyRow[]).map(assemblyCells)
      : (file.result.rows as ComponentRow[]).map(componentCells);
  const known = await knownCells(
    db,
    file.kind,
    cells.map((each) => each.number!),
  );
  return planImport(cells, known, file.firstLine);
}

const WEIGHT = { refused: 0, changed: 1, added: 2, same: 3 };

/** Looks at a file without taking it: what would be added, changed and refused, row by row. Keeps it for an hour. */
export function lookAt(asking: Asking, file: { fileName: string; content: string }) {
  return attempt(async () => {
    const read = await readOrRefuse(file.content);
    await pool().query(
      `DELETE FROM import_draft WHERE (state = 'looked' AND touched_at < now() - interval '1 hour') OR touched_at < now() - interval '1 year'`,
    );
    const { id } = (await row<{ id: number }>(
      pool(),
      'INSERT INTO import_draft (person_id, kind, file_name, content, rows_all) VALUES ($1, $2, $3, $4, $5) RETURNING id',
      [asking.personId, read.kind, file.fileName, file.content, read.result.rows.length],
    ))!;
    return { id };
  });
}

export interface PastImport {
  id: number;
  kind: ToolFile['kind'];
  fileName: string;
  state: Draft['state'];
  rowsAll: number;
  answer: string;
  person: string;
  at: Date;
}

/** The files that were taken, stopped or given up lately. */
export const lastImports = (db: Db) =>
  rows<PastImport>(
    db,
    `SELECT d.id, d.kind, d.file_name AS "fileName", d.state, d.rows_all AS "rowsAll", d.answer, p.name AS person, d.touched_at AS at
     FROM import_draft d JOIN person p ON p.id = d.person_id WHERE d.state IN ('done', 'cancelled', 'failed') ORDER BY d.id DESC LIMIT 12`,
    [],
  );

/** The plan of a file that waits; worked out anew each time, since the cell goes on meanwhile. */
export async function lookOf(db: Db, draft: Draft): Promise<Look> {
  const { content } = (await row<{ content: string }>(db, 'SELECT content FROM import_draft WHERE id = $1', [
    draft.id,
  ]))!;
  const plan = await planOf(db, await readOrRefuse(content));
  return {
    counts: countVerdicts(plan),
    rows: plan
      .toSorted((a, b) => WEIGHT[a.verdict] - WEIGHT[b.verdict] || a.line - b.line)
      .slice(0, MOST_SHOWN),
  };
}

/** Begins to take a file that was looked at: all of it or nothing, beside the requests, with progress and a way to stop. */
export async function takeDraft(asking: Asking, id: number) {
  const begun = await once(asking, 'takeDraft', { id }, async (db) => {
    const draft = await row(
      db,
      `UPDATE import_draft SET state = 'running', rows_done = 0, touched_at = now() WHERE id = $1 AND person_id = $2 AND state = 'looked' RETURNING id`,
      [id, asking.personId],
    );
    if (!draft) throw new Refused('This file is no longer waiting. Check it again.');
    return { id };
  });
  if (begun.ok) void takeInBackground(asking.personId, id);
  return begun;
}

export const cancelDraft = (asking: Asking, id: number) =>
  attempt(async () => {
    await pool().query(
      `UPDATE import_draft SET state = CASE state WHEN 'running' THEN 'cancelling' ELSE 'cancelled' END, touched_at = now()
       WHERE id = $1 AND person_id = $2 AND state IN ('looked', 'running')`,
      [id, asking.personId],
    );
  });

const BATCH = 500;
class Cancelled extends Error {}

async function takeInBackground(personId: number, id: number): Promise<void> {
  const end = (state: string, answer: string) =>
    pool().query(
      `UPDATE import_draft SET state = $2, answer = $3, content = '', touched_at = now() WHERE id = $1`,
      [id, state, answer],
    );
  try {
    const { content } = (await row<{ content: string }>(
      pool(),
      'SELECT content FROM import_draft WHERE id = $1',
      [id],
    ))!;
    const read = await readOrRefuse(content);
    const counts = await transaction((db) => takeAll(db, personId, id, read));
    await end(
      'done',
      `${counts.added} added, ${counts.changed} changed, ${counts.same} were already the same.`,
    );
  } catch (error) {
    const stopped = error instanceof Cancelled;
    const said = stopped
      ? 'Stopped. None of the file was saved.'
      : error instanceof Refused
        ? error.message
        : 'The file could not be saved; none of it was. Try again.';
    if (!stopped && !(error instanceof Refused)) log.error({ err: error }, 'an import failed');
    await end(stopped ? 'cancelled' : 'failed', said).catch(() => undefined);
  }
}

/** Takes every row in one transaction; between batches it tells how far it is, and looks whether it should stop. */
async function takeAll(db: Db, personId: number, id: number, file: ReadFile): Promise<ImportCounts> {
  const plan = await planOf(db, file);
  const counts = countVerdicts(plan);
  if (counts.refused > 0)
    throw new Refused(
      `${counts.refused === 1 ? 'One row is' : `${counts.refused} rows are`} refused, so nothing was saved. Check the file again.`,
    );
  for (let from = 0; from < plan.length; from += BATCH) {
    const part = plan.slice(from, from + BATCH);
    const pick = (verdict: PlannedRow['verdict']) =>
      part.flatMap((planned, i) => (planned.verdict === verdict ? [file.result.rows[from + i]!] : []));
    const words = part.filter((planned) => planned.verdict === 'changed').map((planned) => planned.words);
    if (file.kind === 'assemblies')
      await importAssemblyBatch(
        db,
        personId,
        pick('added') as AssemblyRow[],
        pick('changed') as AssemblyRow[],
        words,
      );
    else
      await importComponentBatch(
        db,
        personId,
        pick('added') as ComponentRow[],
        pick('changed') as ComponentRow[],
        words,
      );
    // on another connection, so that it is seen before the end
    const state = await row<{ state: string }>(
      pool(),
      'UPDATE import_draft SET rows_done = $2, touched_at = now() WHERE id = $1 RETURNING state',
      [id, Math.min(from + BATCH, plan.length)],
    );
    if (state?.state !== 'running') throw new Cancelled();
  }
  return counts;
}

/** Imports that a killed server left running are over: their transaction went with it. */
export const forgetBrokenImports = () =>
  pool().query(
    `UPDATE import_draft SET state = 'failed', answer = 'The server stopped in the middle; nothing of the file was taken.', content = ''
     WHERE state IN ('running', 'cancelling') AND touched_at < now() - interval '2 minutes'`,
  );
