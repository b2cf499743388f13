import { spawnSync } from 'node:child_process';
import { throwAwayCluster } from '../../scripts/cluster.mjs';
import { migrate } from '../../scripts/migrate.ts';

/**
 * A PostgreSQL of a test's own with the made-up cell in it, because it is killed there. It is filled in a hurry; from then on what is written is
 * on the disk before it is acknowledged, as in the shop.
 */
export async function ownCluster() {
  const cluster = await throwAwayCluster();
  await migrate(cluster.ownerUrl);
  const loaded = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/prepare-database.ts', '--demo'], {
    encoding: 'utf8',
    env: {
      ...process.env,
      DATABASE_URL: cluster.appUrl,
      DATABASE_OWNER_URL: cluster.ownerUrl,
      POOL_SIZE: '1',
    },
  });
  if (loaded.status !== 0) throw new Error(loaded.stderr);
  cluster.stop('fast');
  cluster.start();
  return cluster;
}
