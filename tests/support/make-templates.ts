// Makes the two databases that tests copy: tin_empty (migrated) and tin_demo (with the made-up cell).
import { spawnSync } from 'node:child_process';
import { asSuperuser, freshDatabase } from './databases.ts';
import { migrate } from '../../scripts/migrate.ts';

await asSuperuser((client) => client.query('CREATE DATABASE tin_empty OWNER tin_owner'));
await migrate(new URL('/tin_empty', process.env.TIN_TEST_OWNER_URL).href);
const demo = await freshDatabase('tin_empty');
const loaded = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/prepare-database.ts', '--demo'], {
  encoding: 'utf8',
  env: { ...process.env, DATABASE_URL: demo.appUrl, DATABASE_OWNER_URL: demo.ownerUrl, POOL_SIZE: '1' },
});
if (loaded.status !== 0) throw new Error(loaded.stderr);
// what the planner knows of a cell that has stood for a while
await asSuperuser((client) => client.query('VACUUM ANALYZE'), demo.name);
await asSuperuser((client) => client.query(`ALTER DATABASE ${demo.name} RENAME TO tin_demo`));
