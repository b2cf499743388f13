import { createHash } from 'node:crypto';
import { createReadStream, existsSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { spawn, spawnSync } from 'node:child_process';
import { z } from 'zod';
import { Plain } from '../cluster.mjs';
import type { Sums } from './sums.ts';

/** A backup is one file: an uncompressed tar of what it is, as JSON, and PostgreSQL's own dump. Both can be had out without this program. */
const manifest = z.object({
  of: z.literal('Tin Almanac'),
  format: z.literal(1),
  cell: z.string(),
  madeAt: z.iso.datetime(),
  /** The newest migration that it stands on. */
  version: z.string(),
  /** The major version of the PostgreSQL that it came from. */
  postgres: z.int(),
  /** The last entry of the ledger in it. */
  entry: z.int(),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  sums: z.record(z.string(), z.object({ rows: z.number(), sum: z.string() })),
});
export type Manifest = Omit<z.infer<typeof manifest>, 'sums'> & { sums: Sums };

const [ABOUT, DUMP] = ['about.json', 'cell.dump'];

export async function hashOf(stream: NodeJS.ReadableStream): Promise<string> {
  const hash = createHash('sha256');
  for await (const piece of stream) hash.update(piece as Buffer);
  return hash.digest('hex');
}

/** Makes the file from a dump, whole or not at all. */
export async function pack(file: string, dump: string, about: Omit<Manifest, 'sha256'>): Promise<Manifest> {
  const whole: Manifest = { ...about, sha256: await hashOf(createReadStream(dump)) };
  const folder = dirname(dump);
  writeFileSync(join(folder, ABOUT), JSON.stringify(whole, null, 1));
  const half = `${file}.half`;
  const done = spawnSync('tar', ['-cf', half, '-C', folder, ABOUT, DUMP], { encoding: 'utf8' });
  if (done.status !== 0) {
    rmSync(half, { force: true });
    throw new Plain(`${file} could not be written: ${done.stderr.trim()}`);
  }
  // what is on the disk is read again before it is called a backup
  const again = await read(half);
  if (again.sha256 !== whole.sha256)
    throw new Plain(`${half} was not written as it should be: is the disk sound?`);
  spawnSync('sync', [half]);
  spawnSync('mv', ['-n', half, file]);
  return whole;
}

/**
 * What a backup is, with its dump held against its hash.
 *
 * @throws Plain for what is none, and for one that is cut off or changed
 */
export async function read(file: string): Promise<Manifest> {
  if (!existsSync(file)) throw new Plain(`There is no ${file}.`);
  const out = spawnSync('tar', ['-xOf', file, ABOUT], { encoding: 'utf8', maxBuffer: 16 * 1024 * 1024 });
  // a file that is cut off further on still has its head: what is missing is found by the hash
  const told = manifest.safeParse(asJson(out.stdout));
  if (!told.success) throw new Plain(`${file} is no backup of this program, or its head is damaged.`);
  const inside = spawn('tar', ['-xOf', file, DUMP], { stdio: ['ignore', 'pipe', 'ignore'] });
  if ((await hashOf(inside.stdout)) !== told.data.sha256)
    throw new Plain(
      `${file} is cut off or was changed: its hash is not the one in its head. Nothing was restored.`,
    );
  return told.data;
}

function asJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** The dump out of a backup, as a stream for pg_restore. */
export const dumpIn = (file: string) =>
  spawn('tar', ['-xOf', file, DUMP], { stdio: ['ignore', 'pipe', 'inherit'] });

export const bytesOf = (file: string): number => statSync(file).size;

/** A folder beside the file that is to come, on the same disk. */
export const roomBeside = (file: string): { folder: string; dump: string } => {
  const folder = mkdtempSync(join(dirname(file), '.half-'));
  return { folder, dump: join(folder, DUMP) };
};
