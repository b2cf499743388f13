// npm run archive: months of long ago go out of the database into files that can still be read, here and by any other program.
//   --older-than N      months that stay, this one not counted (default 24)
//   --into FOLDER       where the files are kept (default TIN_ARCHIVE, else .data/archive)
//   --show              only says what would go
//   --back FILE         what a file holds goes into the database again
import { createHash, type Hash } from 'node:crypto';
import {
  closeSync,
  createWriteStream,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { stringify } from 'csv-stringify/sync';
import type pg from 'pg';
import { HEADINGS, hashOfFile, linesOf, type ArchiveKind } from '../src/server/archive.ts';
import { READINGS } from '../src/server/evidence-rows.ts';
import { plainCell } from '../src/core/formats/plain-cell.ts';
import { plainDecimal } from '../src/core/units/format-length.ts';
import type { Length, LengthUnit } from '../src/core/units/length.ts';
import { placeOf, withClient } from './backup/place.ts';
import { saying } from './backup/saying.ts';
import { Plain } from './cluster.mjs';
import { DATA } from './project.mjs';

/** A month that can go: of what, and how many lines. */
interface Month {
  kind: ArchiveKind;
  month: string;
  lines: number;
}

/**
 * Which lines can go, as SQL of their number and month: `$1` the cell's time zone, `$2` months that stay.
 *
 * Whatever its age, a reading stays while a rule may still ask for it: one that a correction was worked out from, the newest of each
 * size (as many as are ever looked at), each first-off (they are counted), all of a job that goes on, and the highest part of each job and program, from which parts
 * are counted. Of the looks at a control the newest two of each machine stay, and the last in which a register differs.
 */
const CAN_GO: Record<ArchiveKind, string> = {
  readings: `SELECT r.id, to_char(r.at AT TIME ZONE $1, 'YYYY-MM') AS month FROM reading r
    WHERE r.at < date_trunc('month', tin_now() AT TIME ZONE $1) AT TIME ZONE $1 - make_interval(months => $2)
      AND r.first_off IS NULL
      AND NOT EXISTS (SELECT 1 FROM proposal p WHERE p.reading_id = r.id)
      AND NOT EXISTS (SELECT 1 FROM job j WHERE j.id = r.job_id AND j.state IN ('waiting', 'running', 'paused'))
      AND r.id NOT IN (SELECT n.id FROM feature f CROSS JOIN LATERAL (
        SELECT q.id FROM reading q WHERE q.feature_id = f.id AND q.doubt IS NULL ORDER BY q.id DESC LIMIT ${READINGS}) n)
      AND r.id NOT IN (SELECT DISTINCT ON (coalesce(q.job_id, 0), CASE WHEN q.job_id IS NULL THEN q.program_id END) q.id FROM reading q
        ORDER BY coalesce(q.job_id, 0), CASE WHEN q.job_id IS NULL THEN q.program_id END, q.part DESC, q.id DESC)`,
  looks: `SELECT k.id, to_char(k.at AT TIME ZONE $1, 'YYYY-MM') AS month FROM control_look k
    WHERE k.at < date_trunc('month', tin_now() AT TIME ZONE $1) AT TIME ZONE $1 - make_interval(months => $2)
      AND k.id NOT IN (SELECT n.id FROM machine m CROSS JOIN LATERAL (
        SELECT q.id FROM control_look q WHERE q.machine_id = m.id ORDER BY q.id DESC LIMIT 2) n)
      AND NOT EXISTS (SELECT 1 FROM control_seen s JOIN register r ON r.id = s.register_id WHERE s.look_id = k.id AND r.value <> s.value)`,
};

/** The lines of a file, by the numbers that go, oldest first. The last column is the whole row as JSON, from which it comes back. */
const LINES: Record<ArchiveKind, string> = {
  readings: `SELECT m.name AS machine, g.number AS program, g.revision, r.job_id AS job, r.part, f.name AS feature, r.measured AS value, m.unit,
      p.name AS person, r.at, r.doubt AS question, to_jsonb(r)::text AS row
    FROM reading r JOIN feature f ON f.id = r.feature_id JOIN machine m ON m.id = f.machine_id JOIN program g ON g.id = r.program_id
      JOIN person p ON p.id = r.person_id WHERE r.id = ANY($1) ORDER BY r.id`,
  looks: `SELECT m.name AS machine, k.file_name AS file, p.name AS person, k.at, jsonb_array_length(k.held) AS registers,
      (to_jsonb(k) || jsonb_build_object('answers', coalesce((SELECT jsonb_agg(to_jsonb(a) ORDER BY a.register_id) FROM control_answer a
        WHERE a.look_id = k.id), '[]')))::text AS row
    FROM control_look k JOIN machine m ON m.id = k.machine_id JOIN person p ON p.id = k.person_id WHERE k.id = ANY($1) ORDER BY k.id`,
};
const TAKEN_OUT: Record<ArchiveKind, readonly string[]> = {
  readings: ['DELETE FROM reading WHERE id = ANY($1)'],
  looks: [
    'DELETE FROM control_answer WHERE look_id = ANY($1)',
    'DELETE FROM control_seen WHERE look_id = ANY($1)',
    'DELETE FROM control_look WHERE id = ANY($1)',
  ],
};
/** Rows at a time: a look is a table of a thousand rows and more. */
const AT_ONCE: Record<ArchiveKind, number> = { readings: 2000, looks: 50 };
const KINDS = Object.keys(HEADINGS) as ArchiveKind[];

const zoneOf = async (client: pg.Client): Promise<string> => {
  const found = await client.query<{ zone: string }>('SELECT time_zone AS zone FROM cell LIMIT 1');
  if (!found.rows[0]) throw new Plain('There is no cell in this database.');
  return found.rows[0].zone;
};

/** What could go, by month, the oldest first. */
export async function monthsToGo(client: pg.Client, staying: number): Promise<Month[]> {
  const zone = await zoneOf(client);
  const months: Month[] = [];
  for (const kind of KINDS) {
    const found = await client.query<{ month: string; lines: number }>(
      `SELECT month, count(*)::integer AS lines FROM (${CAN_GO[kind]}) g GROUP BY month ORDER BY month`,
      [zone, staying],
    );
    months.push(...found.rows.map((each) => ({ kind, ...each })));
  }
  return months;
}

type Cells = Record<string, string | number | Date | null>;
const cell = (line: Cells, name: string): string => {
  const value = line[name];
  if (value === null || value === undefined) return '';
  if (name === 'value') return plainDecimal(Number(value) as Length, line.unit as LengthUnit);
  if (value instanceof Date) return value.toISOString();
  return name === 'row' ? String(value) : plainCell(String(value));
};

/** The text of a file, piece by piece; what each row was goes into the hash on the way. */
async function* textOf(client: pg.Client, kind: ArchiveKind, ids: readonly string[], was: Hash) {
  yield stringify([HEADINGS[kind] as string[]], { record_delimiter: 'windows' });
  for (let from = 0; from < ids.length; from += AT_ONCE[kind]) {
    const { rows } = await client.query<Cells>(LINES[kind], [ids.slice(from, from + AT_ONCE[kind])]);
    for (const line of rows) was.update(`${String(line.row)}\n`);
    yield stringify(
      rows.map((line) => HEADINGS[kind].map((name) => cell(line, name))),
      { record_delimiter: 'windows' },
    );
  }
}

const onDisk = (path: string) => {
  const handle = openSync(path, 'r');
  fsyncSync(handle);
  closeSync(handle);
};

/** The name of a month's file; a month of which more goes later has several. */
function freeName(folder: string, { kind, month }: Month): string {
  for (let n = 1; ; n += 1) {
    const name = `${kind}-${month}${n === 1 ? '' : `-${n}`}.csv.gz`;
    if (!existsSync(join(folder, name))) return name;
  }
}

/**
 * Puts a month into a file and takes it out of the database: both, or neither. The file is read again, row by row, and is on the disk
 * before anything is taken out.
 */
export async function archiveMonth(client: pg.Client, month: Month, staying: number, folder: string) {
  mkdirSync(folder, { recursive: true, mode: 0o750 });
  const { kind } = month;
  const name = freeName(folder, month);
  const [file, half] = [join(folder, name), join(folder, `${name}.half`)];
  await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ');
  try {
    const { rows } = await client.query<{ id: string }>(
      `SELECT id::text AS id FROM (${CAN_GO[kind]}) g WHERE month = $3 ORDER BY g.id`,
      [await zoneOf(client), staying, month.month],
    );
    const ids = rows.map(({ id }) => id);
    if (ids.length === 0) throw new Plain(`Nothing of ${month.month} can go any more.`);
    const was = createHash('sha256');
    await pipeline(
      Readable.from(textOf(client, kind, ids, was)),
      createGzip({ level: 9 }),
      createWriteStream(half, { mode: 0o640 }),
    );
    onDisk(half);
    const is = createHash('sha256');
    let lines = 0;
    for await (const line of linesOf(half)) {
      is.update(`${line.row}\n`);
      lines += 1;
    }
    if (lines !== ids.length || is.digest('hex') !== was.digest('hex'))
      throw new Plain(`${half} was not written as it should be: is the disk sound? Nothing was taken out.`);
    const made = { file, name, lines, bytes: statSync(half).size, sha256: await hashOfFile(half) };
    for (const [at, statement] of TAKEN_OUT[kind].entries()) {
      const { rowCount } = await client.query(statement, [ids]);
      if (at === TAKEN_OUT[kind].length - 1 && rowCount !== lines)
        throw new Plain(`Somebody changed ${month.month} meanwhile. Nothing was taken out.`);
    }
    await client.query(
      'INSERT INTO archive (kind, month, file, lines, bytes, sha256) VALUES ($1, $2, $3, $4, $5, $6)',
      [kind, month.month, name, lines, made.bytes, made.sha256],
    );
    renameSync(half, file);
    onDisk(dirname(file));
    // from here on the file stands, whatever the database says: there may be a row too many somewhere, never one too few
    await client.query('COMMIT');
    return made;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    rmSync(half, { force: true, recursive: true });
    throw error;
  }
}

/** Rows of a file into the database again; those that are there already stay as they are. */
const BACK: Record<ArchiveKind, readonly string[]> = {
  readings: [
    'INSERT INTO reading OVERRIDING SYSTEM VALUE SELECT * FROM jsonb_populate_recordset(null::reading, $1::jsonb) ON CONFLICT (id) DO NOTHING',
  ],
  looks: [
    'INSERT INTO control_look OVERRIDING SYSTEM VALUE SELECT * FROM jsonb_populate_recordset(null::control_look, $1::jsonb) ON CONFLICT (id) DO NOTHING',
    `INSERT INTO control_answer SELECT a.* FROM jsonb_array_elements($1::jsonb) k CROSS JOIN LATERAL
       jsonb_populate_recordset(null::control_answer, k -> 'answers') a ON CONFLICT DO NOTHING`,
  ],
};

/**
 * Brings a file's rows back, as they were.
 *
 * @throws Plain for a file that the database does not know, that is not there, or was changed
 */
export async function bringBack(client: pg.Client, folder: string, name: string): Promise<number> {
  const known = await client.query<{ kind: ArchiveKind; sha256: string; lines: number }>(
    'SELECT kind, sha256, lines FROM archive WHERE file = $1',
    [name],
  );
  const about = known.rows[0];
  if (!about) throw new Plain(`${name} is no file of this cell's archive.`);
  const file = join(folder, name);
  if (!existsSync(file)) throw new Plain(`There is no ${file}.`);
  if ((await hashOfFile(file)) !== about.sha256)
    throw new Plain(`${file} was changed or is damaged: its hash is another. Nothing was brought back.`);
  await client.query('BEGIN');
  try {
    // a reading comes back with its old place in the order of the ledger
    if (about.kind === 'readings') await client.query('ALTER TABLE reading DISABLE TRIGGER next_in_order');
    let held: string[] = [];
    const take = async () => {
      for (const statement of BACK[about.kind]) await client.query(statement, [`[${held.join(',')}]`]);
      held = [];
    };
    for await (const line of linesOf(file)) if (held.push(line.row!) >= AT_ONCE[about.kind]) await take();
    await take();
    if (about.kind === 'readings') await client.query('ALTER TABLE reading ENABLE TRIGGER next_in_order');
    await client.query('UPDATE archive SET back_at = tin_now() WHERE file = $1', [name]);
    await client.query('COMMIT');
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    throw error;
  }
  return about.lines;
}

if (import.meta.filename === process.argv[1])
  await saying(async () => {
    const args = process.argv.slice(2);
    const option = (name: string) => {
      const at = args.indexOf(name);
      return at < 0 ? null : (args.splice(at, 2)[1] ?? '');
    };
    const [older, into, back] = [option('--older-than'), option('--into'), option('--back')];
    const show = args[0] === '--show' && args.shift() !== undefined;
    const staying = older === null ? 24 : Number(older);
    if (args.length > 0 || !Number.isInteger(staying) || staying < 1 || into === '' || back === '')
      throw new Plain('npm run archive [-- [--older-than MONTHS] [--into FOLDER] [--show | --back FILE]]');
    const folder = into ?? process.env.TIN_ARCHIVE ?? join(DATA, 'archive');
    const place = await placeOf();
    try {
      await withClient(place.url, async (client) => {
        if (back !== null) {
          console.log(`${await bringBack(client, folder, back)} lines of ${back} are in the database again.`);
          return;
        }
        const months = await monthsToGo(client, staying);
        if (months.length === 0)
          console.log(`Nothing is older than ${staying} months that nobody may still ask for.`);
        for (const month of months) {
          if (show) console.log(`${month.month}: ${month.lines} ${month.kind}`);
          else {
            const made = await archiveMonth(client, month, staying, folder);
            console.log(
              `${month.month}: ${made.lines} ${month.kind}, ${Math.ceil(made.bytes / 1000)} kB, read again: ${made.file}`,
            );
          }
        }
        if (!show && months.length > 0)
          console.log('Keep a copy on another machine: a backup holds them no more.');
      });
    } finally {
      place.close();
    }
  });
