import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { programEnv } from '../../scripts/backup/place.ts';
import { postgresPrograms } from '../../scripts/cluster.mjs';
import { migrate } from '../../scripts/migrate.ts';
import { closePool } from '../../src/server/db.ts';
import { asSuperuser, freshDatabase } from '../support/databases.ts';
import { ONE_LINE, PINS, startServer, Visitor } from '../support/server.ts';

afterAll(closePool);

it('a database of an earlier version is brought up to date, and is then as a new one', async () => {
  const dump = readFileSync(new URL('../upgrade/schema-0021.sql', import.meta.url), 'utf8');
  const old = await freshDatabase('tin_empty');
  await asSuperuser(async (client) => {
    await client.query('DROP SCHEMA public CASCADE');
    await client.query('CREATE SCHEMA public AUTHORIZATION tin_owner');
    await client.query('CREATE EXTENSION pg_trgm SCHEMA public');
    await client.query(dump);
    await client.query(`SET search_path = public`);
  }, old.name);
  await migrate(old.ownerUrl);
  const fresh = await freshDatabase('tin_empty');
  const columns = (name: string) =>
    asSuperuser(
      async (client) =>
        (
          await client.query<{ is: string }>(
            `SELECT table_name || '.' || column_name || ' ' || data_type || ' ' || is_nullable AS is FROM information_schema.columns
             WHERE table_schema = 'public' ORDER BY 1`,
          )
        ).rows.map((each) => each.is),
      name,
    );
  expect(await columns(old.name)).toEqual(await columns(fresh.name));
});

/** Cells as earlier versions of this program left them, with what was recorded in them: the number is their last migration. */
const KEPT = readdirSync('tests/upgrade').filter((each) => each.endsWith('.dump'));
/** What an upgrade must not touch: each row by its number, and all that was in it then. */
/** The profile of a control, which later versions ask more of. */
const PROFILE = 'machine.dialect';
const LASTING = ['ledger', 'reading', 'proposal', 'assembly', 'machine', 'person', 'job', 'leaf_note'];

it.each(KEPT)(
  '%s, with all that was recorded in it, is brought up to date: nothing of it is lost, and it serves',
  async (file) => {
    const cell = await freshDatabase('tin_empty');
    await asSuperuser(async (client) => {
      await client.query('DROP SCHEMA public CASCADE');
      await client.query('CREATE SCHEMA public AUTHORIZATION tin_owner');
    }, cell.name);
    const url = new URL(process.env.TIN_TEST_SUPER_URL!);
    url.pathname = `/${cell.name}`;
    const restored = spawnSync(
      join(postgresPrograms()!, 'pg_restore'),
      ['--no-owner', '--role=tin_owner', '-d', cell.name, join('tests/upgrade', file)],
      { encoding: 'utf8', env: programEnv(url.href) },
    );
    // the schema itself is there already
    expect(
      restored.stderr.replaceAll(
        /.*schema "public" already exists.*\n|.*errors ignored.*\n|Command was.*\n/g,
        '',
      ),
    ).not.toMatch(/error:/);
    interface Held {
      rows: number;
      sums: Record<string, string>;
    }
    const held = (columns: Map<string, string[]>) =>
      asSuperuser(async (client) => {
        const sums: Record<string, string> = {};
        let rows = 0;
        for (const [table, names] of columns) {
          const found = await client.query<{ n: number; sum: string }>(
            `SELECT count(*)::integer AS n, coalesce(sum(hashtextextended(jsonb_build_array(${names.map((each) => `"${each}"`).join(', ')})::text, 0)::numeric), 0)::text AS sum FROM "${table}"`,
          );
          rows += found.rows[0]!.n;
          sums[table] = `${found.rows[0]!.n} ${found.rows[0]!.sum}`;
        }
        return { rows, sums } satisfies Held;
      }, cell.name);
    const columnsOf = () =>
      asSuperuser(async (client) => {
        const found = await client.query<{ table: string; column: string }>(
          `SELECT table_name AS table, column_name AS column FROM information_schema.columns
         WHERE table_schema = 'public' AND table_name = ANY($1) ORDER BY 1, 2`,
          [LASTING],
        );
        const columns = new Map<string, string[]>();
        for (const { table, column } of found.rows)
          if (`${table}.${column}` !== PROFILE) columns.set(table, [...(columns.get(table) ?? []), column]);
        return columns;
      }, cell.name);
    const then = await columnsOf();
    const before = await held(then);
    expect(before.rows).toBeGreaterThan(300);
    await migrate(cell.ownerUrl);
    // columns that were taken away or changed their kind since are named, so that nobody forgets one
    const now = await columnsOf();
    const still = new Map(
      [...then].map(([table, names]) => [table, names.filter((each) => now.get(table)!.includes(each))]),
    );
    expect(
      [...then].flatMap(([table, names]) =>
        names.filter((each) => !now.get(table)!.includes(each)).map((each) => `${table}.${each}`),
      ),
    ).toEqual([]);
    expect(await held(still)).toEqual(before);
    expect(
      await asSuperuser(
        async (client) => (await client.query('SELECT * FROM ledger_disagreement')).rows,
        cell.name,
      ),
    ).toEqual([]);

    const server = await startServer(cell.appUrl);
    try {
      const lead = new Visitor(server.url);
      await lead.enter(...PINS.lead!);
      for (const path of [
        '/leaf/2026-11-23/late',
        '/today',
        '/ahead',
        '/machines',
        '/machines/1',
        '/machines/1/now',
        '/machines/1/load',
        '/machines/1/control',
        '/corrections',
        '/programs',
        '/programs/1',
        '/tools',
        '/tools/1',
        '/crib',
        '/ledger',
        '/ledger/archive',
        '/people',
      ])
        expect([path, (await lead.get(path)).status]).toEqual([path, 200]);
      expect(
        (await lead.send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text: 'upgraded' }))
          .status,
      ).toBe(200);
    } finally {
      await server.stop();
    }
  },
);

it('a version that fails half way leaves the database where it stood, and the version that runs goes on', async () => {
  const cell = await freshDatabase('tin_demo');
  const server = await startServer(cell.appUrl);
  const dir = mkdtempSync(join(tmpdir(), 'tin migrations '));
  cpSync('migrations', dir, { recursive: true });
  writeFileSync(join(dir, '9998_good.sql'), '-- Up Migration\nCREATE TABLE half (n integer);\n');
  writeFileSync(
    join(dir, '9999_bad.sql'),
    '-- Up Migration\nALTER TABLE no_such_table ADD COLUMN n integer;\n',
  );
  const standing = () =>
    asSuperuser(
      async (client) =>
        (
          await client.query<{ last: string; half: string | null }>(
            `SELECT (SELECT name FROM migration ORDER BY id DESC LIMIT 1) AS last, to_regclass('half')::text AS half`,
          )
        ).rows[0]!,
      cell.name,
    );
  try {
    const before = await standing();
    await expect(migrate(cell.ownerUrl, undefined, dir)).rejects.toThrow(/no_such_table/);
    expect(await standing()).toEqual(before);
    const lead = new Visitor(server.url);
    await lead.enter(...PINS.lead!);
    expect((await lead.get('/machines')).status).toBe(200);
    expect((await lead.get('/readyz')).status).toBe(200);
    // once the fault is mended all of it is taken, and the older version that still runs is ready all the while
    rmSync(join(dir, '9999_bad.sql'));
    expect(await migrate(cell.ownerUrl, undefined, dir)).toBe(1);
    expect(await standing()).toEqual({ last: '9998_good', half: 'half' });
    expect((await lead.get('/readyz')).status).toBe(200);
  } finally {
    await server.stop();
    rmSync(dir, { recursive: true });
  }
});

it('a process on a database that is too old for it says so, until it is brought up to date', async () => {
  const cell = await freshDatabase('tin_demo');
  const server = await startServer(cell.appUrl);
  const newest = readdirSync('migrations')
    .sort()
    .at(-1)!
    .replace(/\.sql$/, '');
  const asOwner = (sql: string) => asSuperuser((client) => client.query(sql, [newest]), cell.name);
  try {
    await asOwner('DELETE FROM migration WHERE name = $1');
    const answer = await fetch(`${server.url}/readyz`, { headers: ONE_LINE });
    expect([answer.status, await answer.text()]).toEqual([
      503,
      'the database is older than this program: npm run upgrade\n',
    ]);
    await asOwner('INSERT INTO migration (name, run_on) VALUES ($1, now())');
    expect((await fetch(`${server.url}/readyz`, { headers: ONE_LINE })).status).toBe(200);
    const run = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/upgrade.ts'], {
      encoding: 'utf8',
      env: { ...process.env, DATABASE_OWNER_URL: cell.ownerUrl },
    });
    expect([run.status, run.stdout]).toEqual([0, 'The database was up to date.\n']);
  } finally {
    await server.stop();
  }
});
