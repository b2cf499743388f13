import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { inDatabase, withClient } from '../../scripts/backup/place.ts';
import { differing, sumsOf } from '../../scripts/backup/sums.ts';
import { asOf, begin, copy, keptAt, since } from '../../scripts/history.ts';
import { restoreBeside } from '../../scripts/restore.ts';
import { ownCluster } from '../support/own-cluster.ts';
import { answerOf, PINS, startServer, Visitor } from '../support/server.ts';

/** A cluster of this file's own: its history is kept, and it is gone back in. */
let cluster: Awaited<ReturnType<typeof ownCluster>>;
let url: string;
let folder: string;
beforeAll(async () => {
  cluster = await ownCluster();
  url = inDatabase(cluster.superUrl, 'tin');
  folder = mkdtempSync(join(tmpdir(), 'tin as of '));
}, 150_000);
afterAll(() => {
  cluster.remove();
  rmSync(folder, { recursive: true });
});

const moment = () =>
  withClient(url, async (client) => {
    const { rows } = await client.query<{ at: string; wall: string }>(
      `SELECT clock_timestamp()::text AS at, (clock_timestamp() AT TIME ZONE (SELECT time_zone FROM cell))::text AS wall`,
    );
    return rows[0]!;
  });
const notes = (of: string) =>
  withClient(of, async (client) =>
    (
      await client.query<{ text: string }>(`SELECT text FROM leaf_note WHERE text LIKE 'kept %' ORDER BY id`)
    ).rows.map(({ text }) => text),
  );

it('something is deleted at ten: the cell is had as it was a moment before, table by table, and the cell itself goes on', async () => {
  const kept = await keptAt(url, null);
  await expect(copy(kept)).rejects.toThrow('No history is kept yet');
  expect(await begin(kept)).toBe(false);
  cluster.stop('fast');
  cluster.start();
  expect(await begin(kept)).toBe(true);
  await copy(kept);
  expect(since(kept)!.getTime()).toBeGreaterThan(Date.now() - 120_000);

  const server = await startServer(cluster.appUrl);
  const lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
  const note = async (text: string) =>
    expect(
      await answerOf(await lead.send('/leaf/2026-11-23/late?/note', { kind: 'note', machine: '', text })),
    ).toMatchObject({ type: 'success' });
  await note('kept 1');
  await note('kept 2');
  await pause(1100);
  const before = await moment();
  const sums = await withClient(url, sumsOf);
  await pause(1100);
  await note('kept 3');
  // the accident: by hand, past every right that the application has
  await withClient(url, async (client) => {
    await client.query('ALTER TABLE leaf_note DISABLE TRIGGER USER');
    await client.query('DELETE FROM leaf_answer');
    await client.query('DELETE FROM leaf_note');
  });
  expect(await notes(url)).toEqual([]);

  const { file, about } = await asOf(kept, before.wall.slice(0, 23), folder);
  expect(about.cell).not.toBe('');
  const { name } = await restoreBeside(url, file);
  const back = inDatabase(url, name);
  expect(await notes(back)).toEqual(['kept 1', 'kept 2']);
  // the backup notes itself in the copy it is made of, which is none of the cell's
  expect(differing(sums, await withClient(back, sumsOf)).filter((each) => !/^backup\b/.test(each))).toEqual(
    [],
  );
  // the cell goes on as it is
  await note('kept 4');
  expect(await notes(url)).toEqual(['kept 4']);

  // to the very last entry, though nothing was written after it
  await pause(1100);
  const last = await moment();
  await pause(100);
  const now = await asOf(kept, last.at.replace(/\+00$/, '+00:00'), folder);
  const again = await restoreBeside(url, now.file);
  expect(await notes(inDatabase(url, again.name))).toEqual(['kept 4']);
  await server.stop();
}, 240_000);

it.each([
  ['2020-01-01 10:00', 'The history begins at'],
  ['2099-01-01 10:00', 'still to come'],
  ['yesterday', 'is no moment'],
])('a moment that cannot be had (%s) is said to be so', async (typed, said) => {
  await expect(asOf(await keptAt(url, null), typed, folder)).rejects.toThrow(said);
});
