import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { parse } from 'csv-parse';
import { row, rows, type Db } from './db.ts';

/** Readings of parts, or tables that controls held. */
export type ArchiveKind = 'readings' | 'looks';

/** The columns of a file of the archive; `row` is the whole row as JSON. */
export const HEADINGS: Record<ArchiveKind, readonly string[]> = {
  readings: [
    'machine',
    'program',
    'revision',
    'job',
    'part',
    'feature',
    'value',
    'unit',
    'person',
    'at',
    'question',
    'row',
  ],
  looks: ['machine', 'file', 'person', 'at', 'registers', 'row'],
};

/** A month of long ago that stands in a file. */
export interface Archived {
  id: number;
  kind: ArchiveKind;
  /** 2024-03, by the cell's clock. */
  month: string;
  file: string;
  lines: number;
  bytes: number;
  sha256: string;
  madeAt: Date;
  /** Since when its rows are in the database again. */
  backAt: Date | null;
}

const ARCHIVED = `SELECT id, kind, month, file, lines, bytes, sha256, made_at AS "madeAt", back_at AS "backAt" FROM archive`;

/** All that stands in files, the newest month first. */
export const archivedMonths = (db: Db) =>
  rows<Archived>(db, `${ARCHIVED} ORDER BY month DESC, kind, id DESC`);
export const archivedById = (db: Db, id: number) => row<Archived>(db, `${ARCHIVED} WHERE id = $1`, [id]);

/** How many readings stand in files, not in the database, and up to which month: what a table of all readings leaves out. */
export const readingsInFiles = async (db: Db) =>
  (await row<{ lines: number; to: string | null }>(
    db,
    `SELECT coalesce(sum(lines), 0)::integer AS lines, max(month) AS to FROM archive WHERE kind = 'readings' AND back_at IS NULL`,
  ))!;

/** Where the files are; null where this process was not told. */
export const archiveFolder = (): string | null => process.env.TIN_ARCHIVE ?? null;

/** The lines of a file, one after the other. */
export async function* linesOf(file: string): AsyncGenerator<Record<string, string>> {
  const lines = parse({ columns: true, bom: true });
  // what fails on the way is thrown by whoever reads
  const read = pipeline(createReadStream(file), createGunzip(), lines).catch(() => undefined);
  for await (const line of lines) yield line as Record<string, string>;
  await read;
}

export async function hashOfFile(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

/** Why a file cannot be read. */
export type Unread = 'no folder' | 'not there' | 'changed';

/** Where a month's file is, held against its hash. */
export async function fileOf(archived: Archived): Promise<{ path: string } | Unread> {
  const folder = archiveFolder();
  if (folder === null) return 'no folder';
  const path = join(folder, archived.file);
  if (!(await stat(path).catch(() => null))) return 'not there';
  return (await hashOfFile(path)) === archived.sha256 ? { path } : 'changed';
}

/** Columns that are asked for whole: part 1 is not part 12. */
const WHOLE = new Set(['part', 'job', 'revision']);

/** Lines of a file, but their last column, by what stands in some of the others: how many there are, and the first. */
export async function found(
  path: string,
  asked: Readonly<Record<string, string>>,
  most: number,
): Promise<{ count: number; first: Record<string, string>[] }> {
  const wanted = Object.entries(asked)
    .map(([name, text]) => [name, text.trim().toLowerCase()] as const)
    .filter(([, text]) => text !== '');
  const first: Record<string, string>[] = [];
  let count = 0;
  for await (const line of linesOf(path)) {
    delete line.row;
    const meant = wanted.every(([name, text]) => {
      const cell = (line[name] ?? '').toLowerCase();
      return WHOLE.has(name) ? cell === text : cell.includes(text);
    });
    if (!meant) continue;
    count += 1;
    if (first.length < most) first.push(line);
  }
  return { count, first };
}
