import { spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startCluster } from '../../scripts/cluster.mjs';
import { migrate } from '../../scripts/migrate.ts';
import { ONE_LINE, startServer, until } from '../support/server.ts';

/** What a start finds that was stopped in the middle; each is mended without a word from anybody. */
let base: string;
let cluster: Awaited<ReturnType<typeof startCluster>>;
beforeAll(async () => {
  base = mkdtempSync(join(tmpdir(), 'tin half '));
  cluster = await startCluster(base, { quick: true });
});
afterAll(() => {
  cluster.stop('immediate');
  rmSync(cluster.folder, { recursive: true, force: true });
  rmSync(base, { recursive: true, force: true });
});

async function asked<T>(sql: string): Promise<T[]> {
  const client = new pg.Client({ connectionString: cluster.ownerUrl });
  await client.connect();
  try {
    return (await client.query(sql)).rows as T[];
  } finally {
    await client.end();
  }
}

it('a PostgreSQL that was killed with its pid file left behind is started again, with its data', async () => {
  await asked('CREATE TABLE kept (n integer)');
  await asked('INSERT INTO kept VALUES (7)');
  const [pid] = readFileSync(join(cluster.data, 'postmaster.pid'), 'utf8').split('\n');
  process.kill(Number(pid), 'SIGKILL');
  const { port } = cluster;
  cluster = await startCluster(base, { quick: true });
  expect(await asked('SELECT n FROM kept')).toEqual([{ n: 7 }]);
  // whoever joined it finds it where it was
  expect(cluster.port).toBe(port);
});

it('a server that joined it recovers by itself when the first start goes and comes back', async () => {
  await migrate(cluster.ownerUrl);
  const server = await startServer(cluster.appUrl);
  try {
    cluster.stop('fast');
    await until(async () => (await fetch(`${server.url}/readyz`, { headers: ONE_LINE })).status === 503);
    cluster = await startCluster(base, { quick: true });
    await until(async () => (await fetch(`${server.url}/readyz`, { headers: ONE_LINE })).status === 200);
    expect(server.child.exitCode).toBeNull();
  } finally {
    await server.stop();
  }
});

it('a port that another program took meanwhile is given up for a free one', async () => {
  const { port } = cluster;
  cluster.stop('fast');
  const holder = createServer().listen(port, '127.0.0.1');
  await once(holder, 'listening');
  try {
    cluster = await startCluster(base, { quick: true });
    expect(cluster.port).not.toBe(port);
    expect(await asked('SELECT n FROM kept')).toEqual([{ n: 7 }]);
  } finally {
    holder.close();
  }
});

it('a PostgreSQL that still runs from a start that was killed is taken over, with its data', async () => {
  const before = readFileSync(join(cluster.data, 'postmaster.pid'), 'utf8').split('\n')[0];
  cluster = await startCluster(base, { quick: true });
  expect(readFileSync(join(cluster.data, 'postmaster.pid'), 'utf8').split('\n')[0]).not.toBe(before);
  expect(await asked('SELECT n FROM kept')).toEqual([{ n: 7 }]);
});

it('the passwords are readable by their owner alone', () => {
  expect(
    spawnSync('stat', ['-c', '%a', join(base, 'secrets.json')], { encoding: 'utf8' }).stdout.trim(),
  ).toBe('600');
});

it('a cluster whose making was stopped in the middle is made anew', async () => {
  cluster.stop('immediate');
  rmSync(join(cluster.folder, 'initialised'));
  rmSync(join(cluster.data, 'PG_VERSION'));
  cluster = await startCluster(base, { quick: true });
  expect(await asked("SELECT to_regclass('kept') AS kept")).toEqual([{ kept: null }]);
});

it('the lock of a start that died does not hold up the next; that of one that lives does', async () => {
  const bare = mkdtempSync(join(tmpdir(), 'tin lock '));
  cpSync(resolve('scripts'), join(bare, 'scripts'), { recursive: true });
  mkdirSync(join(bare, '.data'));
  const lock = join(bare, '.data/make.lock');
  const alone = (timeout: number) =>
    spawnSync(
      process.execPath,
      ['-e', "import('./scripts/project.mjs').then(({ alone }) => alone('make', () => console.log('mine')))"],
      { cwd: bare, encoding: 'utf8', timeout },
    ).stdout.trim();
  const dead = spawnSync(process.execPath, ['-e', '']).pid;
  writeFileSync(lock, String(dead));
  expect(alone(10_000)).toBe('mine');
  expect(existsSync(lock)).toBe(false);
  writeFileSync(lock, String(process.pid));
  expect(alone(2500)).toBe('');
  expect(readFileSync(lock, 'utf8')).toBe(String(process.pid));
  rmSync(bare, { recursive: true, force: true });
});
