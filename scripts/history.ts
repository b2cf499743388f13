// npm run history: what was written, minute by minute, so that the cell can be had as it was at any moment.
//   --on                      begins: every change is kept from then on, beside a full copy
//   (nothing)                 a full copy, from which the way to a moment is short; once a day
//   --at '2026-11-23 09:59'   the cell as it was then (its own clock, or with an offset) as a backup file, which npm run restore takes
//   --keep FOLDER             where the history is, on another disk than the database; default beside it
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { backup } from './backup.ts';
import { inDatabase, placeOf, programEnv, withClient } from './backup/place.ts';
import type { Manifest } from './backup/file.ts';
import { saying } from './backup/saying.ts';
import { asPostgres, freePort, needPackages, ownFolder, Plain, postgresPrograms } from './cluster.mjs';
import { DATA } from './project.mjs';

/** A cluster whose history is kept, and where. */
interface Kept {
  /** The database of the cell, as an administrator. */
  url: string;
  data: string;
  folder: string;
}

const PROGRAM = '/usr/bin/pgbackrest';
const STANZA = 'tin';
const confOf = ({ folder }: Kept) => join(folder, 'pgbackrest.conf');
/** A change is in the history this long after it was made, at the latest, seconds. */
const WITHIN = 60;

const shown = async (url: string, setting: string): Promise<string> =>
  withClient(url, async (client) => {
    const { rows } = await client.query<{ value: string }>('SELECT current_setting($1) AS value', [setting]);
    return rows[0]!.value;
  });

/** Where the history of a cell is kept. */
export async function keptAt(url: string, folder: string | null): Promise<Kept> {
  const data = await shown(url, 'data_directory');
  if (!existsSync(data))
    throw new Plain('The database is on another machine: its history is kept there, by the same command.');
  return { url, data, folder: folder ?? join(dirname(data), 'history') };
}

/** Runs the keeper of the history (pgBackRest of Debian's packages); the password goes by its surroundings. */
function keeper(kept: Kept, args: readonly string[]): string {
  return asPostgres(PROGRAM, [`--config=${confOf(kept)}`, `--stanza=${STANZA}`, ...args], {
    env: { ...programEnv(inDatabase(kept.url, 'postgres')) },
  });
}

/**
 * Sets a cluster up so that every change is kept.
 *
 * @returns whether it does so already; where not, it does from its next start
 */
export async function begin(kept: Kept): Promise<boolean> {
  needPackages(['pgbackrest'], () => existsSync(PROGRAM));
  ownFolder(kept.folder);
  writeFileSync(
    confOf(kept),
    [
      '[global]',
      `repo1-path=${kept.folder}/kept`,
      'repo1-retention-full=7',
      `lock-path=${kept.folder}/lock`,
      `spool-path=${kept.folder}/spool`,
      'log-level-file=off',
      'log-level-console=warn',
      'start-fast=y',
      // a disk that is full there must not stop the cell here: older changes are let go, and the figures say so
      'archive-push-queue-max=4GiB',
      `[${STANZA}]`,
      `pg1-path=${kept.data}`,
      `pg1-port=${new URL(kept.url).port || '5432'}`,
      'pg1-user=postgres',
      '',
    ].join('\n'),
  );
  await withClient(inDatabase(kept.url, 'postgres'), async (client) => {
    const command = `${PROGRAM} --config="${confOf(kept)}" --stanza=${STANZA} archive-push "%p"`;
    for (const [name, value] of [
      ['wal_level', 'replica'],
      ['archive_mode', 'on'],
      ['archive_timeout', String(WITHIN)],
      ['archive_command', command],
    ] as const)
      await client.query(`ALTER SYSTEM SET ${name} = '${value.replaceAll("'", "''")}'`);
    await client.query('SELECT pg_reload_conf()');
  });
  return (await shown(kept.url, 'archive_mode')) === 'on';
}

/** A full copy, after which the way to a moment is short; whatever is older than the seventh is let go. */
export async function copy(kept: Kept): Promise<void> {
  if (!existsSync(confOf(kept)) || (await shown(kept.url, 'archive_mode')) !== 'on')
    throw new Plain('No history is kept yet. Begin with `npm run history -- --on`.');
  keeper(kept, ['stanza-create']);
  keeper(kept, ['check']);
  keeper(kept, ['backup', '--type=full']);
}

/** The first moment that can be gone back to; null: none. */
export function since(kept: Kept): Date | null {
  const [stanza] = JSON.parse(keeper(kept, ['info', '--output=json'])) as {
    backup?: { timestamp: { stop: number } }[];
  }[];
  const first = stanza?.backup?.[0]?.timestamp.stop;
  return first === undefined ? null : new Date(first * 1000);
}

/** A moment as it was typed: of the cell's own clock, or with an offset. */
async function momentOf(url: string, typed: string): Promise<Date> {
  if (!/^\d{4}-\d{2}-\d{2}[ T]\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?$/.test(typed))
    throw new Plain(`"${typed}" is no moment. Write it as 2026-11-23 09:59, by the cell's clock.`);
  if (/(Z|[+-]\d{2}:?\d{2})$/.test(typed)) return new Date(typed.replace(' ', 'T'));
  return withClient(url, async (client) => {
    const { rows } = await client.query<{ at: Date }>(
      'SELECT $1::timestamp AT TIME ZONE (SELECT time_zone FROM cell) AS at',
      [typed],
    );
    return rows[0]!.at;
  });
}

/** The cell as it was at a moment, as a backup file. The cell itself goes on. */
export async function asOf(
  kept: Kept,
  typed: string,
  into: string,
): Promise<{ file: string; about: Manifest }> {
  const at = await momentOf(kept.url, typed);
  const first = since(kept);
  if (first === null) throw new Plain('No full copy is kept yet: `npm run history` makes one.');
  if (at < first)
    throw new Plain(`The history begins at ${first.toISOString()}: before that there are the backups only.`);
  await withClient(inDatabase(kept.url, 'postgres'), async (client) => {
    const {
      rows: [now],
    } = await client.query<{ coming: boolean }>('SELECT $1 > now() AS coming', [at]);
    if (now!.coming) throw new Plain('That moment is still to come.');
    // what was written last is in the history too, with something after it by which it is known to be all
    await client.query('SELECT pg_current_xact_id()');
    await client.query('SELECT pg_switch_wal()');
  });
  const room = ownFolder(mkdtempSync(join(kept.folder, 'as of ')));
  const data = join(room, 'data');
  const port = await freePort();
  const control = (...args: string[]) =>
    asPostgres(join(postgresPrograms()!, 'pg_ctl'), ['-D', data, ...args], {
      stdio: ['ignore', 'ignore', 'ignore'],
    });
  try {
    keeper(kept, ['check']);
    ownFolder(data);
    keeper(kept, [
      `--pg1-path=${data}`,
      'restore',
      '--type=time',
      `--target=${at.toISOString().replace('T', ' ').replace('Z', '+00')}`,
      '--target-action=promote',
      // it is a copy for a look: it writes no history of its own
      '--archive-mode=off',
    ]);
    const settings = `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c fsync=off`;
    control('-l', join(room, 'log'), '-w', '-t', '600', '-o', settings, 'start');
    const there = new URL(kept.url);
    there.hostname = '127.0.0.1';
    there.port = String(port);
    await withClient(there.href, async (client) => {
      for (;;) {
        const { rows } = await client.query<{ still: boolean }>('SELECT pg_is_in_recovery() AS still');
        if (!rows[0]!.still) return;
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    });
    return await backup(there.href, into);
  } finally {
    try {
      control('-m', 'immediate', '-w', 'stop');
    } catch {
      // it had not begun
    }
    rmSync(room, { recursive: true, force: true });
  }
}

function optionsOf(args: string[]) {
  const options = { on: false, at: null as string | null, keep: null as string | null };
  for (let i = 0; i < args.length; i += 1) {
    const value = args[i + 1];
    if (args[i] === '--on') options.on = true;
    else if ((args[i] === '--at' || args[i] === '--keep') && value !== undefined) {
      options[args[i] === '--at' ? 'at' : 'keep'] = value;
      i += 1;
    } else throw new Plain("npm run history [-- --on | --at '2026-11-23 09:59'] [--keep FOLDER]");
  }
  return options;
}

if (import.meta.filename === process.argv[1])
  await saying(async () => {
    const { on, at, keep } = optionsOf(process.argv.slice(2));
    let place = await placeOf();
    try {
      let kept = await keptAt(place.url, keep);
      if (on && !(await begin(kept))) {
        if (place.serving || process.env.DATABASE_ADMIN_URL)
          throw new Plain(
            'Every change is kept from the next start of the database on: start it again, then `npm run history` for the first full copy.',
          );
        place.close();
        place = await placeOf();
        kept = await keptAt(place.url, keep);
      }
      if (at !== null) {
        const { file, about } = await asOf(kept, at, join(DATA, 'backups'));
        console.log(
          `${about.cell} as it was: up to entry ${about.entry}.\n${file}\nThe cell itself is as it was. \`npm run restore -- ${file}\` puts this in its place, and keeps what is there now under another name.`,
        );
        return;
      }
      await copy(kept);
      console.log(
        `A full copy was made; the cell can be had as it was at any moment since ${since(kept)!.toISOString()}, up to ${WITHIN} seconds ago.\n${kept.folder}\nA disk that breaks takes both with it: keep the history on another (--keep), or copy it to another machine.`,
      );
    } finally {
      place.close();
    }
  });
