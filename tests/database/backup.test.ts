import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { backup } from '../../scripts/backup.ts';
import { read } from '../../scripts/backup/file.ts';
import { inDatabase, withClient } from '../../scripts/backup/place.ts';
import { differing, sumsOf } from '../../scripts/backup/sums.ts';
import { restoreBeside, takePlace } from '../../scripts/restore.ts';
import { asSuperuser, freshDatabase, type TestDatabase } from '../support/databases.ts';
import { answerOf, PINS, startServer, Visitor, type RunningServer } from '../support/server.ts';

/** A cell in use: what is saved of it comes back as it was, whatever was done meanwhile. */
let cell: TestDatabase;
let url: string;
let server: RunningServer;
let lead: Visitor;
let folder: string;
const made: string[] = [];

beforeAll(async () => {
  cell = await freshDatabase('tin_demo');
  url = inDatabase(process.env.TIN_TEST_SUPER_URL!, cell.name);
  folder = mkdtempSync(join(tmpdir(), 'tin backups '));
  server = await startServer(cell.appUrl);
  lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
});
afterAll(async () => {
  await server.stop();
  rmSync(folder, { recursive: true });
  for (const name of made)
    await asSuperuser((client) => client.query(`DROP DATABASE IF EXISTS "${name}" WITH (FORCE)`));
});

let written = 0;
const note = async () =>
  answerOf(
    await lead.send('/leaf/2026-11-23/late?/note', {
      kind: 'note',
      machine: '',
      text: `saved ${(written += 1)}`,
    }),
  );
const notes = (of: string) =>
  withClient(of, async (client) =>
    (
      await client.query<{ text: string }>(`SELECT text FROM leaf_note WHERE text LIKE 'saved %' ORDER BY id`)
    ).rows.map(({ text }) => text),
  );

describe('a backup', () => {
  it('is of one moment, though the cell is written to all the while, and comes back table by table', async () => {
    for (let i = 0; i < 3; i += 1) expect(await note()).toMatchObject({ type: 'success' });
    let going = true;
    const writing = (async () => {
      while (going) await note();
    })();
    const { file, about } = await backup(url, folder);
    going = false;
    await writing;
    expect(statSync(file).size).toBeGreaterThan(100_000);
    const { name } = await restoreBeside(url, file);
    made.push(name);
    const there = inDatabase(url, name);
    const [now, then] = [await notes(url), await notes(there)];
    expect(now.length).toBeGreaterThan(then.length);
    // a beginning of what was written, without a hole
    expect(then).toEqual(now.slice(0, then.length));
    expect(then.length).toBeGreaterThanOrEqual(3);
    const entries = await withClient(there, (client) =>
      client.query(`SELECT max(id)::integer AS last FROM ledger`),
    );
    expect(entries.rows).toEqual([{ last: about.entry }]);
    // the same tables by another way: each row of each, as text
    const rows = (of: string) =>
      withClient(of, async (client) => {
        const found: Record<string, string[]> = {};
        for (const table of ['ledger', 'register', 'place', 'assembly', 'reading'])
          found[table] = (
            await client.query<{ t: string }>(
              `SELECT t::text AS t FROM ${table} t WHERE ${table === 'ledger' ? `id <= ${about.entry}` : 'true'} ORDER BY 1`,
            )
          ).rows.map(({ t }) => t);
        return found;
      });
    expect(await rows(there)).toEqual(await rows(url));
    // and the cell says when it was saved
    const kept = await withClient(url, (client) => client.query('SELECT file, sha256 FROM backup'));
    expect(kept.rows).toEqual([{ file, sha256: about.sha256 }]);
  });

  it('that was cut off, changed, or is something else is refused before anything is made of it', async () => {
    const { file } = await backup(url, folder);
    // other tests make databases of their own meanwhile
    const databases = () =>
      asSuperuser(
        async (client) =>
          (
            await client.query<{ n: number }>(
              'SELECT count(*)::integer AS n FROM pg_database WHERE starts_with(datname, $1)',
              [cell.name],
            )
          ).rows[0],
      );
    const before = await databases();
    const bad = join(folder, 'bad.tar');
    cpSync(file, bad);
    truncateSync(bad, statSync(bad).size - 50_000);
    await expect(restoreBeside(url, bad)).rejects.toThrow(/cut off or was changed/);
    const bytes = readFileSync(file);
    bytes[Math.floor(bytes.length / 2)]! ^= 1;
    writeFileSync(bad, bytes);
    await expect(restoreBeside(url, bad)).rejects.toThrow(/cut off or was changed/);
    writeFileSync(bad, 'a shopping list');
    await expect(restoreBeside(url, bad)).rejects.toThrow(/is no backup/);
    await expect(restoreBeside(url, join(folder, 'none.tar'))).rejects.toThrow(/There is no/);
    expect(await databases()).toEqual(before);
  });

  it('of a newer version is not forced into an older one', async () => {
    const { file } = await backup(url, folder);
    const room = mkdtempSync(join(tmpdir(), 'tin newer '));
    const tar = (...args: string[]) => expect(spawnSync('tar', args).status).toBe(0);
    tar('-xf', file, '-C', room);
    const about = JSON.parse(readFileSync(join(room, 'about.json'), 'utf8')) as Record<string, unknown>;
    const changed = async (with_: Record<string, unknown>) => {
      writeFileSync(join(room, 'about.json'), JSON.stringify({ ...about, ...with_ }));
      const other = join(folder, 'other.tar');
      tar('-cf', other, '-C', room, 'about.json', 'cell.dump');
      return restoreBeside(url, other);
    };
    await expect(changed({ version: '9999_what_is_to_come' })).rejects.toThrow(/made by a newer one/);
    await expect(changed({ postgres: 99 })).rejects.toThrow(/PostgreSQL 99/);
    // a table that is not as its sum says is found, and what was restored of it is gone again
    const sums = about.sums as Record<string, { rows: number; sum: string }>;
    await expect(changed({ sums: { ...sums, register: { ...sums.register!, sum: '1' } } })).rejects.toThrow(
      /register: its rows are others/,
    );
    rmSync(room, { recursive: true });
  });

  it('takes the cell’s place when nobody is connected, and what was there is kept', async () => {
    const { file } = await backup(url, folder);
    expect((await read(file)).cell).toBe('Weirside');
    await note();
    const after = await notes(url);
    const { name } = await restoreBeside(url, file);
    await expect(takePlace(url, name)).rejects.toThrow(/connected to the cell.*tin-almanac/);
    await server.stop();
    const kept = await takePlace(url, name);
    made.push(kept);
    expect(await notes(url)).toEqual(after.slice(0, -1));
    expect(await notes(inDatabase(url, kept))).toEqual(after);
    // and it serves: signed in as before, written to as before
    server = await startServer(cell.appUrl);
    lead = new Visitor(server.url);
    await lead.enter(...PINS.lead!);
    expect(await note()).toMatchObject({ type: 'success' });
    expect(await notes(url)).toHaveLength(after.length);
  });
});

it('sums tell any change of a row, and nothing of their order', async () => {
  await withClient(url, async (client: pg.Client) => {
    const before = await sumsOf(client);
    await client.query('BEGIN');
    await client.query('CREATE TABLE twice AS SELECT * FROM leaf_note ORDER BY id DESC');
    expect((await sumsOf(client)).twice).toEqual(before.leaf_note);
    await client.query(`UPDATE register SET value = value + 1 WHERE id = (SELECT min(id) FROM register)`);
    await client.query('DELETE FROM backup');
    const found = differing(before, await sumsOf(client));
    expect(found.map((line) => line.split(':')[0])).toEqual(['backup', 'register', 'twice']);
    await client.query('ROLLBACK');
    expect(differing(before, await sumsOf(client))).toEqual([]);
  });
});
