// npm run restore -- FILE: a backup becomes the cell again. What was there before is kept under another name.
//   --beside      only into a database of its own, and say which; the cell stays as it is
import { readdirSync } from 'node:fs';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { dumpIn, read, type Manifest } from './backup/file.ts';
import { databaseOf, inDatabase, placeOf, programEnv, withClient } from './backup/place.ts';
import { saying } from './backup/saying.ts';
import { differing, sumsOf } from './backup/sums.ts';
import { Plain, postgresPrograms } from './cluster.mjs';
import { migrate } from './migrate.ts';
import { ROOT } from './project.mjs';

const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;

/** Whether this program knows what a backup stands on. */
function mustKnow({ version, postgres }: Manifest, server: number): void {
  const known = readdirSync(join(ROOT, 'migrations')).map((name) => name.replace(/\.sql$/, ''));
  if (!known.includes(version))
    throw new Plain(
      `This backup stands on ${version}, which this version of the program does not know: it was made by a newer one. Restore it with that.`,
    );
  if (postgres > server)
    throw new Plain(
      `This backup comes from PostgreSQL ${postgres}, and this one is ${server}: restore it on ${postgres} or newer.`,
    );
}

/**
 * Puts a backup into a new database, and holds every table and every register's sum against what was saved.
 *
 * @returns the database's name; it is gone again where anything was not as saved
 */
export async function restoreBeside(url: string, file: string): Promise<{ name: string; about: Manifest }> {
  const about = await read(file);
  const base = databaseOf(url);
  const name = `${base}_from_${about.madeAt.slice(0, 19).replace(/\D/g, '')}_${Date.now().toString(36)}`;
  const admin = inDatabase(url, 'postgres');
  const owner = await withClient(admin, async (client) => {
    const {
      rows: [server],
    } = await client.query<{ major: number; roles: number; owner: string | null }>(
      `SELECT current_setting('server_version_num')::integer / 10000 AS major,
         (SELECT count(*)::integer FROM pg_roles WHERE rolname IN ('tin_app', 'tin_owner')) AS roles,
         (SELECT pg_get_userbyid(datdba) FROM pg_database WHERE datname = $1) AS owner`,
      [base],
    );
    mustKnow(about, server!.major);
    if (server!.roles < 2)
      throw new Plain(
        'The roles of the cell are not here. As the administrator:\n  CREATE ROLE tin_app NOLOGIN; CREATE ROLE tin_owner NOLOGIN;',
      );
    const owns = server!.owner ?? 'tin_owner';
    await client.query(`CREATE DATABASE ${quoted(name)} OWNER ${quoted(owns)}`);
    return owns;
  });
  try {
    const out = dumpIn(file);
    const into = spawn(join(postgresPrograms()!, 'pg_restore'), ['--exit-on-error', '-d', name], {
      env: programEnv(inDatabase(url, name)),
      stdio: ['pipe', 'ignore', 'pipe'],
    });
    out.stdout.pipe(into.stdin!);
    // one that ends early says why by itself
    into.stdin!.on('error', () => {});
    let said = '';
    into.stderr!.on('data', (piece) => (said += String(piece)));
    const [code] = (await once(into, 'close')) as [number];
    if (code !== 0) throw new Plain(`pg_restore failed: ${said.trim()}`);
    const wrong = await withClient(inDatabase(url, name), async (client) => {
      const different = differing(about.sums, await sumsOf(client));
      const { rows } = await client.query<{ kind: string; id: number }>(
        'SELECT kind, id FROM ledger_disagreement',
      );
      return [...different, ...rows.map(({ kind, id }) => `${kind} ${id} is not the sum of its entries`)];
    });
    if (wrong.length > 0) throw new Plain(`What came back is not what was saved:\n  ${wrong.join('\n  ')}`);
    await migrate(inDatabase(url, name), owner);
    return { name, about };
  } catch (error) {
    await withClient(admin, (client) => client.query(`DROP DATABASE IF EXISTS ${quoted(name)} WITH (FORCE)`));
    throw error;
  }
}

/** Whoever hung up a moment ago may still be on the list, milliseconds. */
const GOING = 2000;

/** The restored database takes the cell's name, and the cell another, which is returned. Whoever is still connected is asked to go first. */
export async function takePlace(url: string, name: string): Promise<string> {
  const base = databaseOf(url);
  const kept = `${base}_before_${Date.now().toString(36)}`;
  await withClient(inDatabase(url, 'postgres'), async (client) => {
    // the database's own workers are nobody, and go by themselves
    const connected = async () =>
      (
        await client.query<{ who: string }>(
          `SELECT DISTINCT application_name AS who FROM pg_stat_activity WHERE datname = $1 AND backend_type = 'client backend'`,
          [base],
        )
      ).rows;
    const end = Date.now() + GOING;
    let rows = await connected();
    while (rows.length > 0 && Date.now() < end) {
      await setTimeout(100);
      rows = await connected();
    }
    if (rows.length > 0)
      throw new Plain(
        `Somebody is connected to the cell (${rows.map(({ who }) => who || 'without a name').join(', ')}): stop it first. The backup stands in the database ${name} meanwhile.`,
      );
    await client.query(`ALTER DATABASE ${quoted(base)} RENAME TO ${quoted(kept)}`);
    await client.query(`ALTER DATABASE ${quoted(name)} RENAME TO ${quoted(base)}`);
  });
  return kept;
}

if (import.meta.filename === process.argv[1])
  await saying(async () => {
    const args = process.argv.slice(2);
    const files = args.filter((arg) => !arg.startsWith('--'));
    const beside = args.includes('--beside');
    if (files.length !== 1 || args.length !== (beside ? 2 : 1))
      throw new Plain('npm run restore -- FILE [--beside]');
    const place = await placeOf();
    try {
      if (place.serving && !beside)
        throw new Plain(
          'The cell is running: stop it first (Ctrl-C where it was started), or restore with --beside.',
        );
      const { name, about } = await restoreBeside(place.url, files[0]!);
      const tables = Object.keys(about.sums).length;
      console.log(
        `${about.cell} as it was on ${about.madeAt}, up to entry ${about.entry}: ${tables} tables and every register held against what was saved.`,
      );
      if (beside) return console.log(`It stands in the database ${name}; the cell is as it was.`);
      const kept = await takePlace(place.url, name);
      console.log(`It is the cell now. What was the cell before is kept in the database ${kept}.`);
    } finally {
      place.close();
    }
  });
