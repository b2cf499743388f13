// What start and test both need of a bare checkout: packages, and a build that is as new as its sources.
import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { spawn, spawnSync } from 'node:child_process';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Plain } from './cluster.mjs';

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
export const DATA = join(ROOT, '.data');
/** How a server runs: a page of a whole plant leaves megabytes behind, which are cheaper swept up seldom. */
export const ROOMY = '--max-semi-space-size=64';

export function needNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Plain(`Node ${process.versions.node} is too old: 20.19 or newer is needed.`);
}

const sum = (/** @type {string} */ text) => createHash('sha256').update(text).digest('hex');

/** Two starts at once from one checkout must not both install or build: the second waits for the first. */
export async function alone(name, work) {
  mkdirSync(DATA, { recursive: true });
  const lock = join(DATA, `${name}.lock`);
  for (let waited = 0; ; waited += 1) {
    try {
      writeFileSync(lock, String(process.pid), { flag: 'wx' });
      break;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
      const holder = Number(readFileSync(lock, 'utf8') || 0);
      if (!alive(holder)) rmSync(lock, { force: true });
      else if (waited > 600)
        throw new Plain(
          `Another start (process ${holder}) has been busy for ten minutes. Stop it, or remove ${lock}.`,
        );
      else await new Promise((resolve) => setTimeout(resolve, 1000));
    }
  }
  try {
    return await work();
  } finally {
    rmSync(lock, { force: true });
  }
}

/** Writes a file whole or not at all: a start that is killed half way leaves the old one. */
export function writeWhole(file, text, mode = 0o644) {
  const half = `${file}.${process.pid}.half`;
  writeFileSync(half, text, { mode });
  renameSync(half, file);
}

/** What a state file says, or null when it is not there, empty, or cut off. */
export function readState(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
}

/** When a process began, as the kernel counts it: a number that is used again belongs to another. Null where nobody tells. */
export function begunAt(pid) {
  try {
    return readFileSync(`/proc/${pid}/stat`, 'utf8')
      .replace(/^.*\) /, '')
      .split(' ')[19];
  } catch {
    return null;
  }
}

/** Whether the process that wrote down its number still runs: the same number, and begun at the same time. */
export const stillRuns = (noted) =>
  noted !== null &&
  Number.isInteger(noted.pid) &&
  alive(noted.pid) &&
  (noted.begun === null || begunAt(noted.pid) === noted.begun);

export function alive(pid) {
  if (!pid) return false;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
}

/** `npm ci` when the lock file is not the one that was installed. */
export function needModules() {
  const wanted = sum(readFileSync(join(ROOT, 'package-lock.json'), 'utf8'));
  const stamp = join(ROOT, 'node_modules/.tin-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  console.log('Installing packages …');
  const result = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (result.status !== 0)
    throw new Plain(
      'npm ci failed; what it said stands above. Is the registry reachable, and is there room on the disk?',
    );
  writeFileSync(stamp, wanted);
}

const SOURCES = [
  'src',
  'static',
  'migrations',
  'package-lock.json',
  'svelte.config.js',
  'vite.config.ts',
  'vite.worker.config.ts',
  'tsconfig.json',
];

function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return `${path.slice(ROOT.length)}:${sum(readFileSync(path, 'latin1'))}`;
  return readdirSync(path)
    .sort()
    .map((name) => newest(join(path, name)))
    .join('\n');
}

/** Builds when a source is not the one that was built. */
export async function needBuild() {
  const wanted = sum(SOURCES.map((name) => newest(join(ROOT, name))).join('\n'));
  const stamp = join(ROOT, 'build/.tin-sources');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  console.log('Building …');
  for (const more of [[], ['--config', 'vite.worker.config.ts']]) {
    const child = spawn(join(ROOT, 'node_modules/.bin/vite'), ['build', '--logLevel', 'error', ...more], {
      cwd: ROOT,
      // whatever whoever starts it works at otherwise: a build for developers is a third heavier
      env: { ...process.env, NODE_ENV: 'production' },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text));
    const code = await new Promise((resolve) => child.on('error', resolve).on('close', resolve));
    if (code !== 0) throw new Plain(`The build failed:\n${said.trim()}`);
  }
  writeFileSync(stamp, wanted);
}
