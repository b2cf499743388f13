import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { programEnv } from '../../scripts/backup/place.ts';
import { asPostgres, freePort, ownFolder, postgresPrograms } from '../../scripts/cluster.mjs';
import type { Line } from './line.ts';
import type { ownCluster } from './own-cluster.ts';

/** A streaming replica of a test's own cluster, by the name that the cluster may wait for, and over which line it is copied. */
export async function standbyOf(
  cluster: Awaited<ReturnType<typeof ownCluster>>,
  { name = 'standby', over }: { name?: string; over?: Line } = {},
) {
  const room = ownFolder(mkdtempSync(join(cluster.folder, 'standby ')));
  const data = join(room, 'data');
  const port = await freePort();
  asPostgres(
    join(postgresPrograms()!, 'pg_basebackup'),
    ['-D', data, '-R', '-X', 'stream', '--checkpoint=fast', '-d', `application_name=${name}`],
    { env: programEnv(cluster.superUrl) },
  );
  if (over) {
    // the copy itself is made in one go, while which nothing goes over a line of this process
    const settings = join(data, 'postgresql.auto.conf');
    writeFileSync(settings, readFileSync(settings, 'utf8').replace(/\bport=\d+/, `port=${over.port}`));
  }
  const control = (...args: string[]) =>
    asPostgres(join(postgresPrograms()!, 'pg_ctl'), ['-D', data, ...args], {
      stdio: ['ignore', 'ignore', 'ignore'],
    });
  const there = (url: string) => {
    const moved = new URL(url);
    moved.port = String(port);
    return moved.href;
  };
  const standby = {
    port,
    /** The application's way to it. */
    appUrl: there(cluster.appUrl),
    start: () =>
      control(
        '-l',
        join(room, 'log'),
        '-w',
        '-t',
        '60',
        '-o',
        `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c hot_standby=on`,
        'start',
      ),
    stop: () => control('-m', 'immediate', '-w', 'stop'),
    /** Makes it a database of its own. */
    promote: () => control('-w', 'promote'),
    async rows<R>(sql: string, values: unknown[] = []): Promise<R[]> {
      const url = new URL(there(cluster.superUrl));
      url.pathname = '/tin';
      const client = new pg.Client({ connectionString: url.href });
      await client.connect();
      try {
        return (await client.query(sql, values)).rows as R[];
      } finally {
        await client.end();
      }
    },
    remove() {
      try {
        standby.stop();
      } catch {
        // it was stopped already
      }
      rmSync(room, { recursive: true, force: true });
    },
  };
  standby.start();
  return standby;
}
