import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { postgresPrograms } from '../../scripts/cluster.mjs';
import { migrate } from '../../scripts/migrate.ts';
import { closePool } from '../../src/server/db.ts';
import { asSuperuser, freshDatabase } from '../support/databases.ts';
import { PINS, startServer, Visitor } from '../support/server.ts';

afterAll(closePool);

/** The commands of docs/operations.md between two marks, with the names in capitals filled in. */
function documented(heading: string, names: Record<string, string>): string[] {
  const page = readFileSync(new URL('../../docs/operations.md', import.meta.url), 'utf8');
  const block = new RegExp(`${heading}[\\s\\S]*?\`\`\`sh\\n([\\s\\S]*?)\`\`\``).exec(page)?.[1];
  if (!block) throw new Error(`operations.md has no commands after "${heading}"`);
  return block
    .trim()
    .split('\n')
    .map((line) => Object.entries(names).reduce((text, [name, value]) => text.replaceAll(name, value), line));
}

it('a backup made and restored by the documented commands is the same cell, and serves', async () => {
  const shop = await freshDatabase('tin_demo');
  const { hostname, port, password } = new URL(process.env.TIN_TEST_SUPER_URL!);
  const folder = mkdtempSync(join(tmpdir(), 'tin backup '));
  const restored = `${shop.name}_again`;
  const shell = (line: string) => {
    const run = spawnSync('sh', ['-ec', line], {
      cwd: folder,
      encoding: 'utf8',
      env: {
        ...process.env,
        PATH: `${postgresPrograms()}:${process.env.PATH}`,
        PGPASSWORD: password,
        PGHOST: hostname,
      },
    });
    expect(run.status, `${line}\n${run.stderr}`).toBe(0);
    expect(run.stderr).toBe('');
  };
  const names = { PORT: port, OLD: shop.name, NEW: restored };
  for (const line of documented('### Backing up', names)) shell(line);
  for (const line of documented('### Restoring', names)) shell(line);
  rmSync(folder, { recursive: true });

  const counts = (name: string) =>
    asSuperuser(async (client) => {
      const tables = await client.query<{ name: string }>(
        `SELECT table_name AS name FROM information_schema.tables WHERE table_schema = 'public' AND table_type = 'BASE TABLE' ORDER BY 1`,
      );
      const found: Record<string, number> = {};
      for (const table of tables.rows)
        found[table.name] = (
          await client.query<{ n: number }>(`SELECT count(*)::integer AS n FROM public."${table.name}"`)
        ).rows[0]!.n;
      return found;
    }, name);
  const before = await counts(shop.name);
  expect(Object.keys(before).length).toBeGreaterThan(30);
  expect(await counts(restored)).toEqual(before);

  const url = (of: string) => {
    const changed = new URL(of);
    changed.pathname = `/${restored}`;
    return changed.href;
  };
  // nothing is left to bring up to date, and its owner may do that
  expect(await migrate(url(shop.ownerUrl))).toBe(0);
  const server = await startServer(url(shop.appUrl));
  try {
    const lead = new Visitor(server.url);
    await lead.enter(...PINS.lead!);
    const ledger = await lead.get('/ledger');
    expect(ledger.status).toBe(200);
    const note = await lead.send('/leaf/2026-11-23/late?/note', {
      kind: 'note',
      machine: '',
      text: 'restored',
    });
    expect((await note.json()) as object).toMatchObject({ type: 'success' });
    expect(
      await asSuperuser(
        async (client) => (await client.query('SELECT * FROM ledger_disagreement')).rows,
        restored,
      ),
    ).toEqual([]);
  } finally {
    await server.stop();
    await asSuperuser((client) => client.query(`DROP DATABASE ${restored} WITH (FORCE)`));
  }
});
