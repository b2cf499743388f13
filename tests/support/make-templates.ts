// Makes the two databases that tests copy: tin_empty (migrated) and tin_demo (with the made-up cell).
import { spawnSync } from 'node:child_process';
import { asSuperuser, freshDatabase } from './databases.ts';
import { migrate } from '../../scripts/migrate.ts';

await asSuperuser((client) => client.query('CREATE DATABASE tin_empty OWNER tin_owner'));
await migrate(new URL('/tin_empty', process.env.TIN_TEST_OWNER_URL).href);
const demo = await freshDatabase('tin_empty');
const wall = new Date();
const told = process.env.TIN_TEST_AT ? lastTime(process.env.TIN_TEST_AT) : null;
const loaded = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/prepare-database.ts', '--demo'], {
  encoding: 'utf8',
  env: {
    ...process.env,
    DATABASE_URL: demo.appUrl,
    DATABASE_OWNER_URL: demo.ownerUrl,
    POOL_SIZE: '1',
    ...(told ? { TIN_DEMO_AT: told.toISOString() } : {}),
  },
});
if (loaded.status !== 0) throw new Error(loaded.stderr);
// told by the clock that a played cell has, as fast as the wall's
if (told)
  await asSuperuser(
    (client) => client.query('INSERT INTO play_clock (wall, told, rate) VALUES ($1, $2, 1)', [wall, told]),
    demo.name,
  );
// what the planner knows of a cell that has stood for a while
await asSuperuser((client) => client.query('VACUUM ANALYZE'), demo.name);
await asSuperuser((client) => client.query(`ALTER DATABASE ${demo.name} RENAME TO tin_demo`));

/** The last time that the clocks of the demo's shop showed this, "13:40". */
function lastTime(time: string): Date {
  const shown = new Intl.DateTimeFormat('en-GB', {
    timeZone: 'Europe/Paris',
    hour: '2-digit',
    minute: '2-digit',
  });
  for (let ago = 0; ago < 24 * 60; ago += 1) {
    const at = new Date(wall.getTime() - ago * 60_000);
    if (shown.format(at) === time) return at;
  }
  throw new Error(`"${time}" is no time of the day like 13:40.`);
}
