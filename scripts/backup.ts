// npm run backup: the whole cell as one file, with its hash and what it stands on, while everything goes on.
//   --to FOLDER   where (default .data/backups)
import { mkdirSync, rmSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { join, resolve } from 'node:path';
import { bytesOf, pack, roomBeside, type Manifest } from './backup/file.ts';
import { placeOf, programEnv, withClient } from './backup/place.ts';
import { sumsOf } from './backup/sums.ts';
import { saying } from './backup/saying.ts';
import { Plain, postgresPrograms } from './cluster.mjs';
import { DATA } from './project.mjs';

export async function backup(url: string, folder: string): Promise<{ file: string; about: Manifest }> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const made = await withClient(url, async (client) => {
    // one moment for the sums and for the dump, whatever is written meanwhile
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    const [{ snapshot }] = (
      await client.query<{ snapshot: string }>('SELECT pg_export_snapshot() AS snapshot')
    ).rows as [{ snapshot: string }];
    const [head] = (
      await client.query<{ cell: string; version: string; postgres: number; entry: number; at: Date }>(
        `SELECT (SELECT name FROM cell LIMIT 1) AS cell, (SELECT name FROM migration ORDER BY id DESC LIMIT 1) AS version,
           current_setting('server_version_num')::integer / 10000 AS postgres, (SELECT coalesce(max(id), 0)::float8 FROM ledger) AS entry, now() AS at`,
      )
    ).rows;
    if (!head) throw new Plain('There is no cell in this database.');
    const stamp = head.at.toISOString().slice(0, 19).replaceAll(':', '');
    const file = resolve(
      folder,
      `${head.cell.toLowerCase().replace(/[^a-z0-9]+/g, '-') || 'cell'}-${stamp}Z.tar`,
    );
    const { folder: room, dump } = roomBeside(file);
    try {
      const run = spawnSync(
        join(postgresPrograms()!, 'pg_dump'),
        ['-Fc', `--snapshot=${snapshot}`, '-f', dump],
        { encoding: 'utf8', env: programEnv(url) },
      );
      if (run.status !== 0) throw new Plain(`pg_dump failed: ${run.stderr.trim()}`);
      const about = await pack(file, dump, {
        of: 'Tin Almanac',
        format: 1,
        cell: head.cell,
        madeAt: head.at.toISOString(),
        version: head.version,
        postgres: head.postgres,
        entry: head.entry,
        sums: await sumsOf(client),
      });
      return { file, about };
    } finally {
      rmSync(room, { recursive: true, force: true });
    }
  });
  await withClient(url, (client) =>
    client.query('INSERT INTO backup (file, bytes, sha256, entry) VALUES ($1, $2, $3, $4)', [
      made.file,
      bytesOf(made.file),
      made.about.sha256,
      made.about.entry,
    ]),
  );
  return made;
}

if (import.meta.filename === process.argv[1])
  await saying(async () => {
    const args = process.argv.slice(2);
    if (args.length > 0 && !(args.length === 2 && args[0] === '--to'))
      throw new Plain('npm run backup [-- --to FOLDER]');
    const place = await placeOf();
    try {
      const { file, about } = await backup(place.url, args[1] ?? join(DATA, 'backups'));
      const rows = Object.values(about.sums).reduce((sum, each) => sum + each.rows, 0);
      console.log(
        `${about.cell}: ${rows} rows of ${Object.keys(about.sums).length} tables, up to entry ${about.entry}, ${(bytesOf(file) / 1e6).toFixed(1)} MB, read again and held against its hash.\n${file}\nKeep a copy on another machine.`,
      );
    } finally {
      place.close();
    }
  });
