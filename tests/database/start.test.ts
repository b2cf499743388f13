import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { asSuperuser, freshDatabase } from '../support/databases.ts';
import { freePort, until, Visitor } from '../support/server.ts';

/** A start of a checkout: what it has said so far, and whether it is over. */
function starting(
  args: string[],
  { cwd = process.cwd(), env = {}, uid }: { cwd?: string; env?: NodeJS.ProcessEnv; uid?: number } = {},
) {
  const child: ChildProcess = spawn(process.execPath, ['scripts/start.mjs', ...args], {
    cwd,
    env: {
      ...process.env,
      DATABASE_URL: undefined,
      DATABASE_OWNER_URL: undefined,
      LOG_LEVEL: 'fatal',
      ...env,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
    ...(uid === undefined ? {} : { uid }),
  });
  const run = { child, said: '', over: once(child, 'exit').then(([code]) => code as number) };
  for (const stream of [child.stdout, child.stderr])
    stream!.on('data', (part) => {
      run.said += String(part);
    });
  return run;
}

/** What a start that cannot go on says, and that it ends with 1. */
async function refusal(...what: Parameters<typeof starting>): Promise<string> {
  const run = starting(...what);
  expect(await run.over, run.said).toBe(1);
  expect(run.said).not.toMatch(/^\s+at /m);
  return run.said;
}

describe('a start that cannot go on says so in a sentence, with a way out', () => {
  let bare: string;
  beforeAll(() => {
    bare = mkdtempSync(join(tmpdir(), 'tin start '));
    for (const name of ['scripts', 'package.json', 'package-lock.json'])
      cpSync(resolve(name), join(bare, name), { recursive: true });
  });
  afterAll(() => rmSync(bare, { recursive: true, force: true }));

  it('an unknown option', async () => {
    expect(await refusal(['--demo'], { cwd: bare })).toMatch(/"--demo" is not known. Known are --fresh/);
  });
  it.each(['nine', '0', '70000'])('port %s', async (port) => {
    expect(await refusal(['--port', port], { cwd: bare })).toMatch(/--port takes a number from 1 to 65535/);
  });
  it('a port that another program has', async () => {
    const holder = createServer().listen(0, '127.0.0.1');
    await once(holder, 'listening');
    const { port } = holder.address() as { port: number };
    try {
      expect(await refusal(['--port', String(port)], { cwd: bare })).toContain(
        `Port ${port} is taken by another program. Choose another: npm start -- --port ${port + 1}`,
      );
    } finally {
      holder.close();
    }
  });
  it('an address that this machine does not have', async () => {
    // 203.0.113.0/24 is kept for examples (RFC 5737)
    expect(
      await refusal(['--port', String(await freePort()), '--host', '203.0.113.9'], { cwd: bare }),
    ).toContain(
      'This machine has no address 203.0.113.9. --host takes one of its own, or 0.0.0.0 for all of them.',
    );
  });
  it('a folder that may not be written to', async () => {
    chmodSync(bare, 0o555);
    const root = process.getuid?.() === 0;
    const said = await refusal(['--port', String(await freePort())], {
      cwd: bare,
      ...(root ? { uid: 65_534 } : {}),
    });
    chmodSync(bare, 0o755);
    expect(said).toMatch(/cannot be written to \(EACCES\).*chown/);
  });
  it('a full disk', async () => {
    // the fault is put in below node:fs, as the disk would
    const fault = join(bare, 'full.mjs');
    writeFileSync(
      fault,
      `import fs from 'node:fs'; import { syncBuiltinESMExports } from 'node:module';
       fs.writeFileSync = (path) => { throw Object.assign(new Error('ENOSPC: no space left on device, write'), { code: 'ENOSPC', path }); };
       syncBuiltinESMExports();`,
    );
    expect(
      await refusal(['--port', String(await freePort())], {
        cwd: bare,
        env: { NODE_OPTIONS: `--import "${fault}"` },
      }),
    ).toMatch(/The disk is full. Make room and start again; nothing that was kept is lost/);
  });
  it('throwing away data that are not its own', async () => {
    const { appUrl } = await freshDatabase('tin_empty');
    expect(
      await refusal(['--fresh', '--port', String(await freePort())], { env: { DATABASE_URL: appUrl } }),
    ).toMatch(/--fresh throws away the private database only/);
  });
  it('a database that is not there', async () => {
    expect(
      await refusal(['--port', String(await freePort())], {
        env: { DATABASE_URL: `postgres://nobody@127.0.0.1:${await freePort()}/none` },
      }),
    ).toMatch(/could not be brought up to date: .*ECONNREFUSED/);
  });
});

it('a database of the user’s own is brought up to date, served, and left alone at the end', async () => {
  const database = await freshDatabase('tin_empty');
  const port = await freePort();
  const run = starting(['--no-demo', '--port', String(port)], {
    env: { DATABASE_URL: database.appUrl, DATABASE_OWNER_URL: database.ownerUrl },
  });
  await until(() => run.said.includes('Ctrl-C stops') || run.child.exitCode !== null, 25_000);
  expect(run.said).toContain(`The cell is at  http://localhost:${port}`);
  // an empty cell has one first lead, whose PIN is told once
  const [, badge, pin] = /badge (\d+)\s+PIN (\d{6})/.exec(run.said)!;
  expect(badge).toBe('1001');
  expect(run.said).toContain('It is not shown again.');
  const lead = new Visitor(`http://127.0.0.1:${port}`);
  await lead.signIn(badge!, pin!);
  expect((await lead.get('/people')).status).toBe(200);
  run.child.kill('SIGINT');
  expect(await run.over).toBe(0);
  await expect(fetch(`http://127.0.0.1:${port}/healthz`)).rejects.toThrow();
  expect(
    await asSuperuser(
      async (client) => (await client.query('SELECT count(*)::integer AS n FROM person')).rows[0].n,
      database.name,
    ),
  ).toBe(1);
});

it('a server told to listen on one address of this machine is reached there, and nowhere else', async () => {
  const database = await freshDatabase('tin_empty');
  const port = await freePort();
  const run = starting(['--no-demo', '--port', String(port), '--host', '127.0.0.2'], {
    env: { DATABASE_URL: database.appUrl, DATABASE_OWNER_URL: database.ownerUrl },
  });
  await until(() => run.said.includes('Ctrl-C stops') || run.child.exitCode !== null, 25_000);
  expect(run.said).toContain(`The cell is at  http://127.0.0.2:${port}`);
  expect((await fetch(`http://127.0.0.2:${port}/readyz`)).status).toBe(200);
  await expect(fetch(`http://127.0.0.1:${port}/readyz`)).rejects.toThrow();
  run.child.kill('SIGINT');
  expect(await run.over).toBe(0);
});
