import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { plant, somebody, type Plant } from '../support/plant.ts';
import { until } from '../support/server.ts';

/** Times the disk of the database runs full; `npm run faults` does it more often. */
const ROUNDS = Math.max(2, Math.round(Number(process.env.FAULT_SECONDS ?? 12) / 15));
/** Large enough for the made-up cell, its log and some minutes of writing, in megabytes. */
const DISK = 700;

// a disk of its own, so that it can run full and nobody else's does; only root may lay one out
const disk = mkdtempSync(join(tmpdir(), 'tin disk '));
const laid = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}m,mode=1777`, 'tmpfs', disk]).status === 0;
let shop: Plant;
beforeAll(async () => {
  if (!laid) return;
  const before = process.env.TMPDIR;
  process.env.TMPDIR = disk;
  try {
    shop = await plant();
  } finally {
    if (before === undefined) delete process.env.TMPDIR;
    else process.env.TMPDIR = before;
  }
  chmodSync(disk, 0o1777);
  await shop.growTo(2);
}, 150_000);
afterAll(async () => {
  await shop?.close();
  if (laid) spawnSync('umount', ['-l', disk]);
  rmSync(disk, { recursive: true, force: true });
});

it.skipIf(!laid)(
  'a disk that runs full while two processes write: what was acknowledged is there once, and it goes on when there is room again',
  async () => {
    const people = await Promise.all(['lead', 'setter'].map((role) => somebody(shop, role)));
    const ballast = join(disk, 'ballast');
    const [notes, unknown]: [string[], string[]] = [[], []];
    let [writes, going] = [0, true];
    const writing = people.map(async (person) => {
      while (going) {
        const text = `disk ${(writes += 1)}`;
        const fields = { kind: 'note', machine: '1', text };
        const said = await person.does({ path: '/leaf/2026-11-23/late?/note', fields }, () => going);
        (said === 'done' ? notes : unknown).push(text);
      }
    });
    let stopped = 0;
    for (let round = 0; round < ROUNDS; round += 1) {
      const before = notes.length;
      await until(() => notes.length > before + 5, 60_000);
      // whatever is left goes to somebody else's files
      const { status } = spawnSync('dd', ['if=/dev/zero', `of=${ballast}`, 'bs=64k'], { stdio: 'ignore' });
      expect(status, 'the disk is full').not.toBe(0);
      // log that is written already is written over: it takes a while until there is no room for more
      for (let waited = 0; waited < 20; waited += 1) {
        const at = notes.length;
        await pause(500);
        if (notes.length === at) break;
        await shop.asked('SELECT pg_switch_wal()').catch(() => []);
      }
      const at = notes.length;
      await pause(1500);
      if (notes.length === at) stopped += 1;
      // somebody makes room, and sees that the database runs
      writeFileSync(ballast, '');
      await shop.startPostgres();
      await until(() => notes.length > at, 60_000);
    }
    going = false;
    await Promise.all(writing);
    expect(stopped, 'rounds in which nothing could be recorded').toBeGreaterThan(0);

    const kept = await shop.asked<{ text: string; entries: number }>(
      `SELECT n.text, (SELECT count(*)::integer FROM ledger l WHERE l.said = 'Note: ' || n.text) AS entries
       FROM leaf_note n WHERE n.text LIKE 'disk %'`,
    );
    const there = new Map(kept.map(({ text, entries }) => [text, entries]));
    expect(there.size).toBe(kept.length);
    for (const text of notes) expect(there.get(text), text).toBe(1);
    for (const [text, entries] of there) {
      expect(entries, text).toBe(1);
      expect([...notes, ...unknown]).toContain(text);
    }
    expect(await shop.asked('SELECT * FROM ledger_disagreement')).toEqual([]);
    console.log(`disk full ${ROUNDS} times, ${stopped} of them to a standstill: ${notes.length} notes kept`);
  },
  ROUNDS * 60_000 + 120_000,
);
