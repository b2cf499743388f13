import { assemblyCells, assemblyReader, type AssemblyRow } from '../core/formats/assembly-file.ts';
import { COLUMNS, type FileKind } from '../core/formats/columns.ts';
import { componentCells, componentReader, type ComponentRow } from '../core/formats/component-file.ts';
import {
  countVerdicts,
  planImport,
  type ImportCounts,
  type PlannedRow,
} from '../core/formats/import-plan.ts';
import { importComponentBatch } from './components.ts';
import { pool, row, rows, transaction, type Db } from './db.ts';
import { takeAssemblies } from './imported.ts';
import { keptLast } from './kept-last.ts';
import { log } from './log.ts';
import { once, type Asking } from './once.ts';
import { attempt, Refused } from './outcome.ts';
import { unanswered, type Question, type Reading } from '../core/formats/headings.ts';
import { readCells } from '../core/formats/row-reader.ts';
import type { ToolFile } from '../core/formats/tool-file.ts';
import { knownCells, otherCapitals } from './tool-files.ts';
import { work } from './worker.ts';

export interface Draft {
  id: number;
  kind: FileKind;
  fileName: string;
  state: 'looked' | 'running' | 'cancelling' | 'done' | 'cancelled' | 'failed';
  rowsDone: number;
  rowsAll: number;
  answer: string;
  personId: number;
  /** How its columns and numbers are read; null when nobody had to be asked, or nobody has answered. */
  reading: Reading | null;
}

const DRAFT = `SELECT id, kind, file_name AS "fileName", state, rows_done AS "rowsDone", rows_all AS "rowsAll", answer, person_id AS "personId", reading
  FROM import_draft`;
export const draftById = (db: Db, id: number) => row<Draft>(db, `${DRAFT} WHERE id = $1`, [id]);

const MOST_SHOWN = 300;

export interface Look {
  counts: ImportCounts;
  /** Tools that lack something and are left out: somebody completes them. */
  open: OpenRow[];
  /** What would be refused and changed first, then the rest; the first of them. */
  rows: PlannedRow[];
}

export interface OpenRow {
  line: number;
  number: string;
  name: string;
  /** What is missing, in words. */
  missing: string[];
}
const MOST_OPEN = 100;

/** A file of many thousand rows takes some seconds; one that takes longer is none of ours. */
const READING_SECONDS = 60;

type Read = Exclude<ToolFile, { asks: Question }>;
type ReadFile = Read & { result: { ok: true } };

const read = (content: string, reading: Reading | null) =>
  work('readToolFile', [content, reading], { seconds: READING_SECONDS });

function orRefuse(file: Read): ReadFile {
  if (file.result.ok) return file as ReadFile;
  const { issues } = file.result;
  throw new Refused(
    issues
      .slice(0, 12)
      .map(({ line, column, message }) => `Line ${line}${column ? `, ${column}` : ''}: ${message}`)
      .join('\n') + (issues.length > 12 ? `\n… and ${issues.length - 12} more.` : ''),
  );
}

async function readWhole(draft: Pick<Draft, 'reading'>, content: string): Promise<ReadFile> {
  const file = await read(content, draft.reading);
  if (file.asks) throw new Refused('Say first what its columns are.');
  return orRefuse(file);
}

const LOOKED_THROUGH = 300_000;
const readLast = keptLast<ReadFile>(LOOKED_THROUGH);
/** A draft's file as it reads, once for all looks at it within minutes: the text of a draft is never another. */
const wholeOf = (db: Db, draft: Pick<Draft, 'id' | 'reading'>): Promise<ReadFile> =>
  readLast(JSON.stringify([draft.id, draft.reading]), async () =>
    readWhole(draft, await contentOf(db, draft.id)),
  );

/** The rows of a file as they would be taken: what it has no column for stays as it is on record. */
async function planOf(
  db: Db,
  file: ReadFile,
): Promise<{ plan: PlannedRow[]; rows: ReadFile['result']['rows'] }> {
  const cellsOf = (each: AssemblyRow | ComponentRow) =>
    file.kind === 'assemblies' ? assemblyCells(each as AssemblyRow) : componentCells(each as ComponentRow);
  const written = file.result.rows.map(cellsOf);
  const known = await knownCells(
    db,
    file.kind,
    written.map((each) => each.number!),
  );
  const capitals = await otherCapitals(
    db,
    file.kind,
    written.map((each) => each.number!),
  );
  const absent =
    file.columns && Object.keys(written[0] ?? {}).filter((name) => !file.columns!.includes(name));
  if (!absent || absent.length === 0)
    return {
      plan: planImport(file.kind, written, known, file.firstLine, capitals).map((planned, i) => ({
        ...planned,
        line: file.lines?.[i] ?? planned.line,
        doubt: remarked(planned, file.remarks?.get(i)),
      })),
      rows: file.result.rows,
    };
  const cells = written.map((each) => {
    const there = known.get(each.number!)?.cells;
    return there ? { ...each, ...Object.fromEntries(absent.map((name) => [name, there[name] ?? ''])) } : each;
  });
  const lines = cells.map((each, i) => ({ line: file.firstLine + i, cells: each }));
  const again: Read =
    file.kind === 'assemblies'
      ? { kind: file.kind, firstLine: file.firstLine, result: readCells(lines, assemblyReader()) }
      : { kind: file.kind, firstLine: file.firstLine, result: readCells(lines, componentReader()) };
  return {
    plan: planImport(file.kind, cells, known, file.firstLine, capitals),
    rows: orRefuse(again).result.rows,
  };
}

/** What is said beside a row, together with what speaks against it; of a row that changes nothing it does not matter. */
const remarked = ({ verdict, doubt }: PlannedRow, remark: string | undefined) =>
  remark === undefined || (verdict !== 'added' && verdict !== 'changed')
    ? doubt
    : [doubt, remark].filter((each) => each !== null).join('; ');

const WEIGHT = { refused: 0, changed: 2, added: 3, left: 4, same: 5 };
/** What needs a look comes first: what is refused, then what looks wrong. */
const weightOf = ({ verdict, doubt }: PlannedRow) => (doubt !== null ? 1 : WEIGHT[verdict]);

/** Looks at a file without taking it: what would be added, changed and refused, row by row. Keeps it for an hour. */
export function lookAt(asking: Asking, file: { fileName: string; content: string }) {
  return attempt(async () => {
    const first = await read(file.content, null);
    const before = first.asks ? await rememberedReading(pool(), first.asks.signature) : null;
    const again = before && (await read(file.content, before));
    // what was said the last time does not fit this file: it is asked again
    const kept = again && !again.asks && again.result.ok ? before : null;
    const found = kept ? again! : first;
    const rowsAll = found.asks ? 0 : orRefuse(found).result.rows.length;
    await pool().query(
      `DELETE FROM import_draft WHERE (state = 'looked' AND touched_at < now() - interval '1 hour') OR touched_at < now() - interval '1 year'`,
    );
    const { id } = (await row<{ id: number }>(
      pool(),
      'INSERT INTO import_draft (person_id, kind, file_name, content, rows_all, reading) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id',
      [asking.personId, found.kind, file.fileName, file.content, rowsAll, kept && JSON.stringify(kept)],
    ))!;
    return { id };
  });
}

/** How a table with these headings was read the last time. */
const rememberedReading = async (db: Db, signature: string) =>
  (await row<{ reading: Reading }>(db, 'SELECT reading FROM column_map WHERE signature = $1', [signature]))
    ?.reading ?? null;

const contentOf = async (db: Db, id: number) =>
  (await row<{ content: string }>(db, 'SELECT content FROM import_draft WHERE id = $1', [id]))!.content;

/** What is asked of a file that waits, by what somebody said it is; null when it can be read as it is. */
export async function questionOfDraft(db: Db, draft: Draft, kind: FileKind | null): Promise<Question | null> {
  if (draft.reading) return null;
  // one that reads as it is asks nothing
  const reads = await wholeOf(db, draft).then(
    () => true,
    () => false,
  );
  if (reads) return null;
  const found = await read(await contentOf(db, draft.id), null);
  if (!found.asks) return null;
  return kind && kind !== found.asks.kind
    ? work('askAgain', [await contentOf(db, draft.id), kind], { seconds: READING_SECONDS })
    : found.asks;
}

/** Reads a file that waits as somebody said; the answer is remembered for the next file with these headings. */
export const readDraftBy = (asking: Asking, id: number, reading: Reading) =>
  attempt(async () => {
    const draft = await draftById(pool(), id);
    if (draft?.state !== 'looked' || draft.personId !== asking.personId)
      throw new Refused('This file is no longer waiting. Bring it in again.');
    const missing = unanswered(reading.kind, Object.values(reading.columns));
    if (missing.length > 0)
      throw new Refused(
        `No column was given for ${missing.map((column) => column.words.toLowerCase()).join(', ')}.`,
      );
    const given = Object.values(reading.columns).filter(Boolean);
    const twice = given.find((name, i) => given.indexOf(name) < i);
    if (twice) throw new Refused(`Two columns were given for ${twice}.`);
    const content = await contentOf(pool(), id);
    const asked = await read(content, null);
    const found = await read(content, reading);
    if (found.asks) throw new Refused('Say first what its columns are.');
    const rowsAll = orRefuse(found).result.rows.length;
    await pool().query(
      'UPDATE import_draft SET reading = $2, kind = $3, rows_all = $4, touched_at = now() WHERE id = $1',
      [id, JSON.stringify(reading), reading.kind, rowsAll],
    );
    if (asked.asks)
      await pool().query(
        `INSERT INTO column_map (signature, reading, person_id) VALUES ($1, $2, $3)
         ON CONFLICT (signature) DO UPDATE SET reading = excluded.reading, person_id = excluded.person_id, at = now()`,
        [asked.asks.signature, JSON.stringify(reading), asking.personId],
      );
  });

/** Asks again how a file is read whose columns were told before. */
export const askAgainFor = (asking: Asking, id: number) =>
  attempt(async () => {
    await pool().query(
      `UPDATE import_draft SET reading = NULL WHERE id = $1 AND person_id = $2 AND state = 'looked'`,
      [id, asking.personId],
    );
  });

export interface PastImport {
  id: number;
  kind: FileKind;
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

/** What a file says of a tool that lacks something; null: it has none in that line. */
export async function openOfDraft(
  db: Db,
  id: number,
  personId: number,
  line: number,
): Promise<Readonly<Record<string, string>> | null> {
  const draft = await draftById(db, id);
  if (draft?.state !== 'looked' || draft.personId !== personId) return null;
  const file = await wholeOf(db, draft);
  return file.open?.find((each) => each.line === line)?.cells ?? null;
}

/** The plan of a file that waits; worked out anew each time, since the cell goes on meanwhile. */
export async function lookOf(db: Db, draft: Draft): Promise<Look> {
  const file = await wholeOf(db, draft);
  const { plan } = await planOf(db, file);
  return {
    open: (file.open ?? []).slice(0, MOST_OPEN).map(({ line, cells, missing }) => ({
      line,
      number: cells.number ?? '',
      name: cells.name ?? '',
      missing: missing.map((name) =>
        COLUMNS.assemblies.find((column) => column.name === name)!.words.toLowerCase(),
      ),
    })),
    counts: countVerdicts(plan),
    rows: plan.toSorted((a, b) => weightOf(a) - weightOf(b) || a.line - b.line).slice(0, MOST_SHOWN),
  };
}

/** Begins to take a file that was looked at: all of it or nothing, beside the requests, with progress and a way to stop. */
export async function takeDraft(asking: Asking, id: number, sure = false) {
  const begun = await once(asking, 'takeDraft', { id, sure }, async (db) => {
    const draft = await row(
      db,
      `UPDATE import_draft SET state = 'running', rows_done = 0, touched_at = now() WHERE id = $1 AND person_id = $2 AND state = 'looked' RETURNING id`,
      [id, asking.personId],
    );
    if (!draft) throw new Refused('This file is no longer waiting. Check it again.');
    return { id };
  });
  if (begun.ok) void takeInBackground(asking.personId, id, sure);
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

async function takeInBackground(personId: number, id: number, sure: boolean): Promise<void> {
  const end = (state: string, answer: string) =>
    pool().query(
      `UPDATE import_draft SET state = $2, answer = $3, content = '', touched_at = now() WHERE id = $1`,
      [id, state, answer],
    );
  try {
    const draft = (await draftById(pool(), id))!;
    const file = await readWhole(draft, await contentOf(pool(), id));
    const counts = await transaction((db) => takeAll(db, personId, id, file, sure));
    await end(
      'done',
      `${counts.added} added, ${counts.changed} changed, ${counts.same + counts.left} were already the same.`,
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
async function takeAll(
  db: Db,
  personId: number,
  id: number,
  file: ReadFile,
  sure: boolean,
): Promise<ImportCounts> {
  const { plan, rows: found } = await planOf(db, file);
  const counts = countVerdicts(plan);
  if (counts.refused > 0)
    throw new Refused(
      `${counts.refused === 1 ? 'One row is' : `${counts.refused} rows are`} refused, so nothing was saved. Check the file again.`,
    );
  if (counts.doubtful > 0 && !sure)
    throw new Refused(
      `${counts.doubtful === 1 ? 'One row looks' : `${counts.doubtful} rows look`} wrong, and nobody said that it is right: nothing was saved. Look at the file again.`,
    );
  for (let from = 0; from < plan.length; from += BATCH) {
    const part = plan.slice(from, from + BATCH);
    const pick = (verdict: PlannedRow['verdict']) =>
      part.flatMap((planned, i) => (planned.verdict === verdict ? [found[from + i]!] : []));
    const words = part.filter((planned) => planned.verdict === 'changed').map((planned) => planned.words);
    if (file.kind === 'assemblies')
      await takeAssemblies(
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
