import { createGunzip } from 'node:zlib';
import {
  appendFileSync,
  createReadStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parse } from 'csv-parse';
import type pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { archiveMonth, bringBack, monthsToGo } from '../../scripts/archive.ts';
import { differing, sumsOf } from '../../scripts/backup/sums.ts';
import { archivedMonths, fileOf, found } from '../../src/server/archive.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { evidenceOf } from '../../src/server/evidence.ts';
import { READINGS } from '../../src/server/evidence-rows.ts';
import { machines } from '../../src/server/machines.ts';
import { featuresOn } from '../../src/server/programs.ts';
import { chance as chances } from '../support/chance.ts';
import { asSuperuser, freshDatabase } from '../support/databases.ts';
import { PINS, startServer, Visitor } from '../support/server.ts';

let name: string;
let appUrl: string;
let folder: string;
const STAYING = 24;
const READINGS_MADE = 6000;

/** Four years of readings and of looks before the cell's first day, as they would have been recorded. */
async function past(client: pg.Client): Promise<void> {
  const { next } = chances(19);
  const below = (n: number) => Math.floor(next() * n);
  const { rows: features } = await client.query<{ id: number; program: number }>(
    `SELECT f.id, g.id AS program FROM feature f JOIN program g ON g.machine_id = f.machine_id AND g.number = f.program_number ORDER BY f.id`,
  );
  const { rows: jobs } = await client.query<{ id: number; program: number; state: string }>(
    'SELECT id, program_id AS program, state FROM job ORDER BY id',
  );
  await client.query('ALTER TABLE reading DISABLE TRIGGER next_in_order');
  const readings = Array.from({ length: READINGS_MADE }, (_, i) => {
    const feature = features[below(features.length)]!;
    const fitting = jobs.filter(({ program }) => program === feature.program);
    const job = below(3) === 0 ? fitting[below(fitting.length + 1)] : undefined;
    return {
      id: i - READINGS_MADE,
      feature: feature.id,
      program: feature.program,
      job: job?.id ?? null,
      part: below(400),
      measured: 10_000_000 + below(40_000),
      first: below(25) === 0 ? 1 : null,
      minutes: Math.round((1 - i / READINGS_MADE) * 4 * 525_600) + 1440,
      doubt: below(20) === 0 ? '12.5, "as typed"\nand never measured again' : null,
    };
  });
  await client.query(
    `INSERT INTO reading (id, feature_id, program_id, job_id, part, measured, confirmed, person_id, at, entry, doubt, first_off) OVERRIDING SYSTEM VALUE
     SELECT r.id, r.feature, r.program, r.job, r.part, r.measured, true, 1, tin_now() - make_interval(mins => r.minutes), 0, r.doubt, r.first
     FROM jsonb_to_recordset($1) AS r (id bigint, feature integer, program integer, job integer, part integer, measured bigint, minutes integer, doubt text, first integer)`,
    [JSON.stringify(readings)],
  );
  await client.query('ALTER TABLE reading ENABLE TRIGGER next_in_order');
  for (let i = 0; i < 60; i += 1)
    await client.query(
      `INSERT INTO control_look (id, machine_id, person_id, at, file_name, held, entry_id) OVERRIDING SYSTEM VALUE
       SELECT $1::integer, m.id, 1, tin_now() - make_interval(days => $2), 'table ' || $1::integer, jsonb_agg(jsonb_build_object('register', g.id, 'value', g.value)), 0
       FROM machine m JOIN register g ON g.machine_id = m.id WHERE m.id = 1 + $3::integer % 3 GROUP BY m.id`,
      [i - 60, (60 - i) * 24, i],
    );
  await client.query(
    `INSERT INTO control_answer (look_id, register_id, answer, why, person_id)
     SELECT k.id, (k.held -> 0 ->> 'register')::integer, 'open', 'asked', 1 FROM control_look k WHERE k.id < 0`,
  );
}

beforeAll(async () => {
  ({ name, appUrl } = await freshDatabase('tin_demo'));
  folder = mkdtempSync(join(tmpdir(), 'tin archive '));
  process.env.TIN_ARCHIVE = folder;
  await asSuperuser(past, name);
});
afterAll(async () => {
  await closePool();
  rmSync(folder, { recursive: true });
});

const admin = <T>(work: (client: pg.Client) => Promise<T>) => asSuperuser(work, name);

/** By hand and slowly: which readings nobody asks for any more. */
async function mayGo(client: pg.Client): Promise<number[]> {
  interface Row {
    id: number;
    feature: number;
    program: number;
    job: number | null;
    part: number;
    doubt: string | null;
    old: boolean;
    used: boolean;
    goes: boolean;
    first: number | null;
  }
  const { rows } = await client.query<Row>(
    `SELECT r.id::float8 AS id, r.feature_id AS feature, r.program_id AS program, r.job_id AS job, r.part, r.doubt, r.first_off AS first,
       to_char(r.at AT TIME ZONE c.time_zone, 'YYYY-MM') < to_char((tin_now() AT TIME ZONE c.time_zone) - interval '2 years', 'YYYY-MM') AS old,
       r.id IN (SELECT reading_id FROM proposal) AS used, coalesce(j.state IN ('waiting', 'running', 'paused'), false) AS goes
     FROM reading r LEFT JOIN job j ON j.id = r.job_id CROSS JOIN cell c ORDER BY r.id DESC`,
  );
  const seen = new Map<number, number>();
  const newest = new Set<number>();
  const highest = new Map<string, Row>();
  for (const row of rows) {
    if (row.doubt === null) {
      const before = seen.get(row.feature) ?? 0;
      if (before < READINGS) newest.add(row.id);
      seen.set(row.feature, before + 1);
    }
    const key = row.job === null ? `p${row.program}` : String(row.job);
    if (row.part > (highest.get(key)?.part ?? -1)) highest.set(key, row);
  }
  const top = new Set([...highest.values()].map(({ id }) => id));
  return rows
    .filter(
      ({ id, old, used, goes, first }) =>
        old && !used && !goes && first === null && !newest.has(id) && !top.has(id),
    )
    .map(({ id }) => id)
    .sort((a, b) => a - b);
}

/** What the rules see: the evidence of each size, and how many parts each job has. */
async function seen() {
  const all: unknown[] = [];
  for (const machine of await machines(pool()))
    for (const feature of await featuresOn(pool(), machine.id))
      all.push(await evidenceOf(pool(), machine, feature));
  const parts = await pool().query(
    'SELECT j.id, (SELECT max(r.part) FROM reading r WHERE r.job_id = j.id) AS part FROM job j ORDER BY j.id',
  );
  const bare = await pool().query(
    'SELECT program_id, max(part) AS part FROM reading WHERE job_id IS NULL GROUP BY 1 ORDER BY 1',
  );
  // a first-off without a job is counted among all there ever were
  const firsts = await pool().query(
    'SELECT feature_id, job_id, count(*)::integer AS n FROM reading WHERE first_off IS NOT NULL AND doubt IS NULL GROUP BY 1, 2 ORDER BY 1, 2',
  );
  return {
    all,
    parts: parts.rows as unknown[],
    bare: bare.rows as unknown[],
    firsts: firsts.rows as unknown[],
  };
}

describe('months of long ago', () => {
  it('go where no rule may ask for them any more, into files that any program reads; nothing that is worked out changes', async () => {
    await admin(async (client) => {
      const should = await mayGo(client);
      expect(should.length).toBeGreaterThan(500);
      const before = await seen();
      const months = await monthsToGo(client, STAYING);
      expect(
        months.filter(({ kind }) => kind === 'readings').reduce((sum, { lines }) => sum + lines, 0),
      ).toBe(should.length);
      // a month is taken out when it is over and two years more: none of them goes in part
      expect(new Set(months.map(({ month, kind }) => `${month} ${kind}`)).size).toBe(months.length);
      const { rows: rowsBefore } = await client.query<{ id: number; row: string }>(
        'SELECT id::float8 AS id, to_jsonb(r)::text AS row FROM reading r',
      );
      const were = new Map(rowsBefore.map(({ id, row }) => [id, row]));
      for (const month of months) await archiveMonth(client, month, STAYING, folder);

      const { rows: stay } = await client.query<{ id: number }>('SELECT id::float8 AS id FROM reading');
      const left = new Set(stay.map(({ id }) => id));
      expect([...were.keys()].filter((id) => !left.has(id)).sort((a, b) => a - b)).toEqual(should);
      expect(await seen()).toEqual(before);
      expect(await monthsToGo(client, STAYING)).toEqual([]);

      // read by somebody else's means: gzip, CSV, JSON
      const written = new Map<number, string>();
      for (const file of readdirSync(folder).filter((each) => each.startsWith('readings')))
        for await (const line of createReadStream(join(folder, file))
          .pipe(createGunzip())
          .pipe(parse({ columns: true })) as AsyncIterable<Record<string, string>>) {
          const row = JSON.parse(line.row!) as { id: number; part: number; measured: number; at: string };
          written.set(row.id, line.row!);
          expect(Number(line.part)).toBe(row.part);
          expect(new Date(line.at!).getTime()).toBeCloseTo(new Date(row.at).getTime(), -1);
          // a length of 10 to 10.04 mm, as the machine says it
          expect(Number(line.value) * (line.unit === 'mm' ? 1 : 25.4)).toBeCloseTo(row.measured / 1e6, 2);
        }
      expect([...written.keys()].sort((a, b) => a - b)).toEqual(should);
      for (const [id, row] of written) expect(row).toBe(were.get(id));
    });
    // of the looks the newest two of each machine stay, and what was answered to the others went along
    const { rows: looks } = await pool().query<{ n: number; answers: number }>(
      "SELECT (SELECT count(*)::integer FROM control_look WHERE at < tin_now() - interval '25 months') AS n, (SELECT count(*)::integer FROM control_answer a LEFT JOIN control_look k ON k.id = a.look_id WHERE k.id IS NULL) AS answers",
    );
    expect(looks[0]).toEqual({ n: 0, answers: 0 });
  });

  it('are shown, found in, and handed out as they are kept; a file that is gone or was changed is said to be', async () => {
    const server = await startServer(appUrl, { TIN_ARCHIVE: folder });
    try {
      const operator = new Visitor(server.url);
      await operator.enter(...PINS.operator!);
      const [newest] = (await archivedMonths(pool())).filter(({ kind }) => kind === 'readings');
      const list = await (await operator.get('/ledger/archive')).text();
      expect(list).toContain(newest!.file);
      const page = await (await operator.get(`/ledger/archive/${newest!.id}`)).text();
      expect(page).toMatch(new RegExp(`All\\s+${newest!.lines}\\.`));
      const answer = await operator.get(`/ledger/archive/${newest!.id}/file`);
      expect(answer.status).toBe(200);
      expect((await answer.arrayBuffer()).byteLength).toBe(newest!.bytes);
      expect((await operator.get('/ledger/archive/999')).status).toBe(404);
      expect(await (await operator.get('/programs/4')).text()).toContain('may be in the archive');

      const of = (await fileOf(newest!)) as { path: string };
      const all = await found(of.path, {}, 10_000);
      expect(all.count).toBe(newest!.lines);
      const one = all.first[0]!;
      const same = await found(of.path, { part: one.part!, feature: one.feature!.toUpperCase() }, 5);
      expect(same.count).toBe(
        all.first.filter(({ part, feature }) => part === one.part && feature!.includes(one.feature!)).length,
      );

      const other = (await archivedMonths(pool())).find(({ kind }) => kind === 'looks')!;
      appendFileSync(join(folder, other.file), 'x');
      expect(await (await operator.get(`/ledger/archive/${other.id}`)).text()).toContain(
        'was changed since it was made',
      );
      expect((await operator.get(`/ledger/archive/${other.id}/file`)).status).toBe(410);
      await expect(admin((client) => bringBack(client, folder, other.file))).rejects.toThrow(
        /its hash is another/,
      );
      rmSync(join(folder, other.file));
      expect(await (await operator.get(`/ledger/archive/${other.id}`)).text()).toContain(
        'is not in the archive’s folder',
      );
      await expect(admin((client) => bringBack(client, folder, other.file))).rejects.toThrow(/There is no/);
    } finally {
      await server.stop();
    }
  });

  it('come back as they were, row for row', async () => {
    const fresh = await freshDatabase('tin_demo');
    const shelf = mkdtempSync(join(tmpdir(), 'tin-shelf-'));
    await closePool();
    await asSuperuser(async (client) => {
      await past(client);
      const before = await sumsOf(client);
      for (const month of await monthsToGo(client, STAYING))
        await archiveMonth(client, month, STAYING, shelf);
      expect((await sumsOf(client)).reading).not.toEqual(before.reading);
      const files = readdirSync(shelf);
      expect(files.length).toBeGreaterThan(20);
      for (const file of files) await bringBack(client, shelf, file);
      // asked twice, nothing comes twice
      await bringBack(client, shelf, files[0]!);
      expect(differing(before, await sumsOf(client))).toEqual([
        'archive: 0 rows were saved, ' + files.length + ' came back',
      ]);
      // and may go again, into files of another name
      const [again] = await monthsToGo(client, STAYING);
      expect((await archiveMonth(client, again!, STAYING, shelf)).name).toMatch(/-2\.csv\.gz$/);
    }, fresh.name);
    rmSync(shelf, { recursive: true });
  });

  it('stay where the file cannot be written, and an entry of the ledger names no reading that never was', async () => {
    const fresh = await freshDatabase('tin_demo');
    const shelf = mkdtempSync(join(tmpdir(), 'tin-shelf-'));
    await asSuperuser(async (client) => {
      await past(client);
      const before = await sumsOf(client);
      const [month] = await monthsToGo(client, STAYING);
      writeFileSync(join(shelf, 'a file'), '');
      await expect(archiveMonth(client, month!, STAYING, join(shelf, 'a file'))).rejects.toThrow();
      // the name of the half is taken by a folder: begun, and given up
      rmSync(join(shelf, 'a file'));
      const half = join(shelf, `${month!.kind}-${month!.month}.csv.gz.half`);
      mkdirSync(half);
      await expect(archiveMonth(client, month!, STAYING, shelf)).rejects.toThrow();
      expect(existsSync(join(shelf, `${month!.kind}-${month!.month}.csv.gz`))).toBe(false);
      expect(await sumsOf(client)).toEqual(before);
      await expect(
        client.query(
          `INSERT INTO ledger (kind, stage, person_id, reading_id, said) VALUES ('reading', 'measured', 1, 987654321, 'never')`,
        ),
      ).rejects.toMatchObject({ code: '23503' });
    }, fresh.name);
    rmSync(shelf, { recursive: true, force: true });
  });

  it('a look in which a register still differs stays, until that register is read again', async () => {
    const fresh = await freshDatabase('tin_demo');
    await asSuperuser(async (client) => {
      /** Machine 4: its first register was read long ago, and after that only the second, twice. */
      const look = (id: number, register: number, off: number, days: number) =>
        client.query(
          `INSERT INTO control_look (id, machine_id, person_id, at, file_name, held, entry_id) OVERRIDING SYSTEM VALUE
           SELECT $1::integer, 4, 1, tin_now() - make_interval(days => $4), 'a few rows', jsonb_build_array(jsonb_build_object('register', g.id, 'value', g.value + $3)), 0
           FROM (SELECT id, value FROM register WHERE machine_id = 4 ORDER BY id OFFSET $2 LIMIT 1) g`,
          [id, register, off, days],
        );
      const going = async () =>
        (await monthsToGo(client, STAYING))
          .filter(({ kind }) => kind === 'looks')
          .reduce((sum, { lines }) => sum + lines, 0);
      await look(-9, 0, 1000, 1000);
      await look(-8, 1, 0, 950);
      await look(-7, 1, 0, 940);
      expect(await going()).toBe(0);
      await look(-6, 0, 0, 930);
      expect(await going()).toBe(2);
      const folderOfIt = mkdtempSync(join(tmpdir(), 'tin-shelf-'));
      for (const month of await monthsToGo(client, STAYING))
        await archiveMonth(client, month, STAYING, folderOfIt);
      const { rows } = await client.query<{ id: number }>(
        'SELECT id FROM control_look WHERE machine_id = 4 ORDER BY id',
      );
      expect(rows.map(({ id }) => id)).toEqual([-7, -6]);
      rmSync(folderOfIt, { recursive: true, force: true });
    }, fresh.name);
  });
});
