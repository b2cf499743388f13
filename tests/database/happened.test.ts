import { afterAll, beforeEach, expect, it } from 'vitest';
import { answering, typedAgo } from '../../src/server/asked.ts';
import { cellOf } from '../../src/server/cell.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import { recordParts } from '../../src/server/counts.ts';
import { takeBackCount } from '../../src/server/wrong-counts.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { spokenSince } from '../../src/server/handover.ts';
import { happenedIn } from '../../src/server/happened.ts';
import { ledgerEntries } from '../../src/server/ledger.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let from: Date;
beforeEach(async () => {
  cell = await weirside();
  from = (await row<{ now: Date }>(pool(), 'SELECT tin_now() AS now'))!.now;
});
afterAll(closePool);

const counted = async (job: number, before: number, parts: number, person = cell.operator) =>
  done(await recordParts(as(person), { jobId: job, before, parts, source: 'typed' }));
const happened = (most = 200) => happenedIn(pool(), from, new Date(Date.now() + 60_000), most);

it('a tool that broke is told on the leaf and on its page, however many parts were counted after it', async () => {
  const { id, number } = (await row<{ id: number; number: string }>(
    pool(),
    "SELECT a.id, a.number FROM assembly a WHERE a.number = 'A-105'",
  ))!;
  done(await flagAssembly(as(cell.operator), { assemblyId: id, flag: 'broken', why: 'Tip gone.' }));
  const job = await cell.job('O5103');
  const { made } = (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [job]))!;
  for (let nth = 0; nth < 20; nth += 1) await counted(job, made + nth, 1);
  // twenty counts leave entries of each tool of the program: more than a leaf once read
  const used = (await row<{ n: number }>(
    pool(),
    `SELECT count(*)::integer AS n FROM ledger WHERE kind = 'life' AND stage = 'used' AND at >= $1`,
    [from],
  ))!;
  expect(used.n).toBeGreaterThan(120);
  const { entries, more } = await happened();
  expect(more).toBe(false);
  expect(
    entries
      .filter(({ stage }) => stage === 'flag')
      .map(({ said }) => said)
      .join(),
  ).toContain(number);
  expect(entries.filter(({ kind }) => kind === 'parts')).toMatchObject([
    { said: '20 parts of O5103 made, in 20 counts.', machine: 'Egret' },
  ]);
});

it('on the page of a tool that was in all of them stands what was done to it', async () => {
  const job = await cell.job('O5103');
  const { made } = (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [job]))!;
  const own = (await row<{ id: number }>(
    pool(),
    `SELECT s.assembly_id AS id FROM placement s JOIN machine m ON m.id = s.machine_id WHERE m.name = 'Egret' AND s.tool = 1`,
  ))!;
  done(
    await flagAssembly(as(cell.lead), { assemblyId: own.id, flag: 'locked', why: 'Runs out by hundredths.' }),
  );
  const entries = async (told?: 'thing') =>
    (await ledgerEntries(pool(), { assembly: own.id, told }, 10)).map(({ said }) => said).join(' ');
  for (let nth = 0; nth < 12; nth += 1) await counted(job, made + nth, 1);
  expect(await entries()).not.toContain('locked');
  expect(await entries('thing')).toContain('locked');
});

it('counts of one job are told together, by whom, without those that were taken back', async () => {
  const job = await cell.job('O4102');
  const { made } = (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [job]))!;
  await counted(job, made, 2);
  await counted(job, made + 2, 3, cell.setter);
  await counted(job, made + 5, 4);
  const { id: last } = (await row<{ id: number }>(
    pool(),
    "SELECT max(id) AS id FROM ledger WHERE kind = 'parts' AND job_id = $1",
    [job],
  ))!;
  done(
    await takeBackCount(as(cell.operator), { jobId: job, count: last, before: made + 9, why: 'typed twice' }),
  );
  const { entries } = await happened();
  const parts = entries.filter(({ kind }) => kind === 'parts');
  expect(parts.map(({ stage }) => stage)).toEqual(['taken back', 'made']);
  expect(parts[1]!.said).toBe('5 parts of O4102 made, in 2 counts.');
  expect(parts[1]!.person.split(', ')).toHaveLength(2);
});

it('what a device kept for hours was made in the shift in which it was typed', async () => {
  const job = await cell.job('O4102');
  const { made } = (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [job]))!;
  await counted(job, made, 2);
  const hours = (ago: number) => new Date(from.getTime() - ago * 3_600_000);
  await answering('late', typedAgo(String(3 * 3600)), () => counted(job, made + 2, 5));
  const now = new Date(Date.now() + 60_000);
  const told = async (since: Date, until: Date) =>
    (await happenedIn(pool(), since, until, 200)).entries
      .map(({ said }) => said)
      .filter((said) => said.includes('of O4102 made,'));
  expect(await told(hours(4), hours(2))).toEqual(['5 parts of O4102 made, in one count.']);
  expect(await told(hours(2), now)).toEqual(['2 parts of O4102 made, in one count.']);
  const cellNow = await cellOf(pool());
  const spoken = async (since: Date) =>
    (await spokenSince(pool(), cellNow, since, now, now)).filter((said) => said.startsWith('Made')).join(' ');
  expect(await spoken(hours(2))).toMatch(/Dunlin 2\b/);
});

it('says that there is more than it shows', async () => {
  const since = new Date(from.getTime() - 40 * 86_400_000);
  const { entries, more } = await happenedIn(pool(), since, from, 30);
  expect(more).toBe(true);
  expect(entries.filter(({ kind }) => kind !== 'parts')).toHaveLength(30);
});
