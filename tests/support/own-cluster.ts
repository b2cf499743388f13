import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { spawnSync } from 'node:child_process';
import { inDatabase, programEnv } from '../../scripts/backup/place.ts';
import { postgresPrograms, throwAwayCluster } from '../../scripts/cluster.mjs';

/** Runs one of PostgreSQL's own programs against a database. */
function run(program: string, url: string, args: readonly string[]): void {
  const { status, stderr } = spawnSync(join(postgresPrograms()!, program), args, {
    encoding: 'utf8',
    env: programEnv(url),
  });
  if (status !== 0) throw new Error(`${program}: ${stderr}`);
}

/**
 * A PostgreSQL of a test's own with the made-up cell in it, because it is killed there. The cell comes from the template that the test run made;
 * it is filled in a hurry, and from then on what is written is on the disk before it is acknowledged, as in the shop.
 */
export async function ownCluster() {
  const cluster = await throwAwayCluster();
  const room = mkdtempSync(join(tmpdir(), 'tin own '));
  try {
    const dump = join(room, 'cell.dump');
    run('pg_dump', inDatabase(process.env.TIN_TEST_SUPER_URL!, 'tin_demo'), ['-Fc', '-f', dump]);
    run('pg_restore', inDatabase(cluster.superUrl, 'tin'), ['--exit-on-error', '-d', 'tin', dump]);
  } finally {
    rmSync(room, { recursive: true });
  }
  cluster.stop('fast');
  cluster.start();
  return cluster;
}
