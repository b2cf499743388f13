// npm start: everything from a bare checkout to a running cell, with nothing but Node and npm given.
//   --fresh     throw the data away first        --no-demo   do not load the made-up cell
//   --port N    listen there (default 4177)      --host A    listen on this address (default 127.0.0.1)
//   --play N    play the made-up cell, N times as fast as the clock (60 where it is left out), --seed M for another story
// DATABASE_URL in the environment uses a PostgreSQL of your own instead of the private one.
import { mkdirSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { freePort, Plain, start, startCluster, stopGroup } from './cluster.mjs';
import {
  alone,
  begunAt,
  DATA,
  needBuild,
  needModules,
  needNode,
  readState,
  ROOMY,
  ROOT,
  stillRuns,
  writeWhole,
} from './project.mjs';

const KNOWN = ['--fresh', '--no-demo', '--port', '--host', '--play', '--seed'];
const args = process.argv.slice(2);

function option(name, fallback) {
  const at = args.indexOf(name);
  return at < 0 ? fallback : args[at + 1];
}

function readOptions() {
  const values = ['--port', '--host', '--seed'].map((name) => args.indexOf(name) + 1).filter((at) => at > 0);
  const play = args.indexOf('--play');
  // how fast may be left out
  if (play >= 0 && /^\d/.test(args[play + 1] ?? '')) values.push(play + 1);
  const stray = args.find((arg, i) => !KNOWN.includes(arg) && !values.includes(i));
  if (stray) throw new Plain(`"${stray}" is not known. Known are ${KNOWN.join(', ')}.`);
  const port = Number(option('--port', process.env.PORT ?? 4177));
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Plain('--port takes a number from 1 to 65535.');
  const rate = play < 0 ? null : values.includes(play + 1) ? Number(args[play + 1]) : 60;
  if (rate !== null && !(rate >= 1 && rate <= 600))
    throw new Plain('--play takes how many times as fast, from 1 to 600.');
  const seed = Number(option('--seed', 1));
  if (!Number.isInteger(seed)) throw new Plain('--seed takes a whole number.');
  if (play >= 0 && args.includes('--no-demo'))
    throw new Plain('--play plays the made-up cell: leave --no-demo out.');
  return {
    play: rate === null ? null : { rate, seed },
    port,
    host: option('--host', '127.0.0.1'),
    fresh: args.includes('--fresh'),
    demo: !args.includes('--no-demo'),
  };
}

async function needPort(port, host) {
  await freePort(port, host).catch((error) => {
    if (error.code === 'EADDRINUSE')
      throw new Plain(
        `Port ${port} is taken by another program. Choose another: npm start -- --port ${port + 1}`,
      );
    if (error.code === 'EACCES')
      throw new Plain(
        `Port ${port} needs more rights than you have. Choose one above 1024: npm start -- --port 4177`,
      );
    if (error.code === 'EADDRNOTAVAIL' || error.code === 'ENOTFOUND')
      throw new Plain(
        `This machine has no address ${host}. --host takes one of its own, or 0.0.0.0 for all of them.`,
      );
    throw new Plain(`Port ${port} on ${host} cannot be used: ${error.message}.`);
  });
}

/** What a second start of this checkout needs to know of the first. */
const RUNNING = join(DATA, 'running.json');

/** What is running, so that it can all be stopped, in order. */
const stops = [];
let stopping = false;
async function stopAll(code) {
  if (stopping) return;
  stopping = true;
  for (const stop of stops.reverse()) await stop();
  process.exit(code);
}

async function database(fresh) {
  if (process.env.DATABASE_URL) {
    if (fresh)
      throw new Plain(
        '--fresh throws away the private database only. Empty your own (DATABASE_URL) yourself.',
      );
    return {
      DATABASE_URL: process.env.DATABASE_URL,
      DATABASE_OWNER_URL: process.env.DATABASE_OWNER_URL ?? process.env.DATABASE_URL,
    };
  }
  const pidFile = join(DATA, 'start.pid');
  const other = readState(pidFile);
  if (stillRuns(other) && other.pid !== process.pid) return besideAnother(other, fresh);
  rmSync(RUNNING, { force: true });
  writeWhole(pidFile, JSON.stringify({ pid: process.pid, begun: begunAt(process.pid) }));
  endOrphans();
  stops.push(() => {
    rmSync(pidFile, { force: true });
    rmSync(RUNNING, { force: true });
  });
  if (fresh) throwAway();
  console.log('Starting PostgreSQL …');
  const cluster = await startCluster(DATA);
  stops.push(() => cluster.stop('fast'));
  return { DATABASE_URL: cluster.appUrl, DATABASE_OWNER_URL: cluster.ownerUrl, cluster: cluster.folder };
}

/** This checkout runs already: a second start is one more server on the same database, and stops only itself. */
async function besideAnother(other, fresh) {
  if (fresh)
    throw new Plain(
      `This checkout is running already (process ${other.pid}); its data are not thrown away under it. Stop that one first.`,
    );
  console.log(`Joining what process ${other.pid} started …`);
  for (let tries = 0; tries < 240 && stillRuns(other); tries += 1) {
    const running = readState(RUNNING);
    if (running) return { ...running, joined: true };
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  throw new Plain('The other start did not get ready. See what it says, and start again.');
}

/** Children that a killed start left running: their numbers were noted, and none is another's that got its number later. */
const CHILDREN = join(DATA, 'children.json');
function endOrphans() {
  for (const child of readState(CHILDREN) ?? []) {
    if (!stillRuns(child)) continue;
    console.log(`Ending what an earlier start left running (process ${child.pid}) …`);
    stopGroup(child, 'SIGKILL');
  }
  rmSync(CHILDREN, { force: true });
}
const children = [];
function noteChild(child) {
  children.push({ pid: child.pid, begun: begunAt(child.pid) });
  writeWhole(CHILDREN, JSON.stringify(children));
}

function throwAway() {
  const place = join(DATA, 'place.json');
  const folder = readState(place)?.folder ?? join(DATA, 'pg');
  for (const path of [
    folder,
    join(DATA, 'pg'),
    join(DATA, 'secrets.json'),
    join(DATA, 'stand-in.json'),
    place,
  ])
    rmSync(path, { recursive: true, force: true });
}

function prepare(env, demo) {
  const run = spawnSync(
    process.execPath,
    ['--import', 'tsx', 'scripts/prepare-database.ts', ...(demo ? ['--demo'] : [])],
    { cwd: ROOT, encoding: 'utf8', env: { ...env, POOL_SIZE: '1' } },
  );
  if (run.status !== 0) {
    const said = (run.stderr || run.stdout).trim();
    const short = said.split('\n').find((line) => /error:|Error:/.test(line)) ?? said;
    if (/tin_app|permission denied to create role|must be (member|able)/.test(said))
      throw new Plain(
        `The database user of DATABASE_URL may not make or use the role tin_app. As its administrator:\n  CREATE ROLE tin_app NOLOGIN; GRANT tin_app TO <that user>;`,
      );
    throw new Plain(`The database could not be brought up to date: ${short.trim()}`);
  }
  return JSON.parse(run.stdout.trim().split('\n').at(-1));
}

/** The outside devices of the made-up cell, as processes of their own; answers with where they are. */
async function standIns(env, { jobs, tools, cutters, tables }, play) {
  const listening = async (name, more) => {
    const child = start(process.execPath, ['--import', 'tsx', `sim/${name}.ts`], {
      cwd: ROOT,
      env: { ...env, ...more },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    noteChild(child);
    stops.push(() => stopGroup(child));
    const [line] = await once(child.stdout, 'data');
    return JSON.parse(String(line).split('\n')[0]).port;
  };
  const [presetter, gauges] = await Promise.all([
    listening('presetter', { SIM_TOOLS: JSON.stringify(tools) }),
    listening('gauge', {}),
  ]);
  const control = play
    ? await listening('play', {
        SIM_RATE: String(play.rate),
        SIM_SEED: String(play.seed),
        SIM_CUTTERS: JSON.stringify(cutters),
        SIM_GAUGES: `127.0.0.1:${gauges}`,
        POOL_SIZE: '4',
      })
    : await listening('control', {
        SIM_JOBS: JSON.stringify(jobs),
        SIM_CUTTERS: JSON.stringify(cutters),
        SIM_TABLES: JSON.stringify(tables),
        SIM_STATE: join(DATA, 'stand-in.json'),
      });
  return {
    TIN_STAND_IN: `http://127.0.0.1:${control}`,
    TIN_PRESETTER: `127.0.0.1:${presetter}`,
    TIN_GAUGES: `127.0.0.1:${gauges}`,
  };
}

/** Where this machine reaches a server that listens on an address: itself, when that is all of them. */
const reached = (host) =>
  host === '0.0.0.0' || host === '::' ? '127.0.0.1' : host.includes(':') ? `[${host}]` : host;

async function serve(env, { port, host }, devices, own) {
  const child = start(process.execPath, [ROOMY, 'build/index.js'], {
    cwd: ROOT,
    env: {
      ...env,
      NODE_ENV: 'production',
      PORT: String(port),
      HOST: host,
      SHUTDOWN_TIMEOUT: '2',
      BODY_SIZE_LIMIT: '140M',
      TIN_ARCHIVE: env.TIN_ARCHIVE ?? join(DATA, 'archive'),
      ...devices,
    },
    stdio: 'inherit',
  });
  if (own) noteChild(child);
  stops.push(async () => {
    stopGroup(child);
    if (child.exitCode === null)
      await Promise.race([once(child, 'exit'), new Promise((resolve) => setTimeout(resolve, 5000))]);
    stopGroup(child, 'SIGKILL');
  });
  child.on('exit', (code) => {
    if (stopping) return;
    console.error(`The server stopped by itself (${code}). What it said stands above.`);
    void stopAll(1);
  });
  for (let tries = 0; tries < 150; tries += 1) {
    const ready = await fetch(`http://${reached(host)}:${port}/readyz`).catch(() => null);
    if (ready?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Plain('The server did not become ready in fifteen seconds. What it said stands above.');
}

async function main() {
  const began = Date.now();
  const options = readOptions();
  needNode();
  mkdirSync(DATA, { recursive: true });
  await needPort(options.port, options.host);
  await alone('make', async () => {
    needModules();
    await needBuild();
  });
  const { cluster, joined, devices: known, ...urls } = await database(options.fresh);
  if (cluster) writeWhole(join(DATA, 'place.json'), JSON.stringify({ folder: cluster }));
  const env = { ...process.env, ...urls };
  const state = prepare(env, options.demo);
  if (options.play && (joined || !state.demo))
    throw new Plain(
      joined
        ? 'This checkout is running already: stop that start first, and play then.'
        : 'Only the made-up cell can be played. Start with --fresh --play on data of its own.',
    );
  const devices = joined ? known : state.demo ? await standIns(env, state, options.play) : {};
  await serve(env, options, devices, Boolean(cluster));
  if (cluster) writeWhole(RUNNING, JSON.stringify({ ...urls, devices }), 0o600);
  console.log(
    `\n  ${state.cell} is at  http://${options.host === '127.0.0.1' || options.host === '0.0.0.0' ? 'localhost' : reached(options.host)}:${options.port}   (${((Date.now() - began) / 1000).toFixed(1)} s)\n`,
  );
  for (const { badge, pin, name, role } of state.signIns)
    console.log(`    badge ${badge}   PIN ${pin}   ${name}, ${role}`);
  if (state.signIns.length > 0 && !state.demo)
    console.log('\n  Sign in, and change this PIN under People. It is not shown again.');
  if (options.play) {
    await fetch(`${devices.TIN_STAND_IN}/begin`, { method: 'POST' });
    console.log(
      `\n  A shift is played, ${options.play.rate} times as fast. Panels of the machines, and in the end what was true:  ${devices.TIN_STAND_IN}`,
    );
  }
  console.log('\n  Ctrl-C stops everything that was started here; the data stay.\n');
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stopAll(0));
/** Faults of the place it runs in, as a sentence and a way out. */
function plainly(error) {
  if (error instanceof Plain) return error.message;
  if (error.code === 'ENOSPC')
    return 'The disk is full. Make room and start again; nothing that was kept is lost.';
  if (error.code === 'EACCES' || error.code === 'EPERM' || error.code === 'EROFS')
    return `${error.path ?? ROOT} cannot be written to (${error.code}). Give yourself the right to it (chown -R "$USER" .), or work on a copy of the checkout.`;
  return error.stack ?? String(error);
}

main().catch((error) => {
  console.error(`\n${plainly(error)}\n`);
  void stopAll(1);
});
