import { afterAll, beforeEach, expect, it } from 'vitest';
import { cellOf } from '../../src/server/cell.ts';
import { recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { forecast } from '../../src/server/forecast.ts';
import { spokenSince } from '../../src/server/handover.ts';
import { runningJob } from '../../src/server/jobs.ts';
import { scrapParts } from '../../src/server/scrapped.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

/** 51 of 90. */
const avocet = async () => (await runningJob(pool(), await cell.machine('Avocet')))!;
const scrap = async (scrapped: number, over: { shown?: number; again?: boolean; why?: string } = {}) => {
  const job = await avocet();
  return scrapParts(as(cell.operator), {
    jobId: job.id,
    shown: job.scrapped,
    scrapped,
    again: true,
    why: 'pocket too deep',
    ...over,
  });
};

it('scrap was cut and is made again: the job goes on for as many more, its parts keep their numbers', async () => {
  const ends = async () =>
    (await forecast(pool(), await cellOf(pool()), now)).find(({ machine }) => machine === 'Avocet')!.ends!;
  const now = new Date();
  const before = await ends();
  done(await scrap(2));
  expect(await avocet()).toMatchObject({ made: 51, scrapped: 2, quantity: 92 });
  // two more parts of working time; a shift that ends between them makes it later
  expect((await ends()).getTime() - before.getTime()).toBeGreaterThanOrEqual(2 * 24 * 60_000 - 1000);
  done(await scrap(3, { again: false }));
  expect(await avocet()).toMatchObject({ made: 51, scrapped: 3, quantity: 92 });
  expect(
    await cell.count(`FROM ledger WHERE kind = 'parts' AND stage = 'scrapped' AND why = 'pocket too deep'`),
  ).toBe(2);
});
it('what was no scrap after all is not made again, and never fewer than are made', async () => {
  done(await scrap(2));
  done(await scrap(0, { why: 'the gauge was off' }));
  expect(await avocet()).toMatchObject({ scrapped: 0, quantity: 90 });
  const job = await avocet();
  done(await scrap(5));
  done(await recordParts(as(cell.operator), { jobId: job.id, before: 51, parts: 43, source: 'typed' }));
  done(await scrap(0, { why: 'all good' }));
  expect(await avocet()).toMatchObject({ made: 94, scrapped: 0, quantity: 94 });
});
it('more than were made, without a word, or on a number that somebody else changed is refused; nothing moves', async () => {
  expect(refused(await scrap(52))).toMatch(/more than the 51/);
  expect(refused(await scrap(1, { why: ' ' }))).toMatch(/what was wrong/);
  done(await scrap(1));
  expect(refused(await scrap(4, { shown: 0 }))).toMatch(/1 of O2301 are on record as scrap/);
  expect(await avocet()).toMatchObject({ scrapped: 1, quantity: 91 });
});
it('two who write it down at once: one does', async () => {
  const outcomes = await Promise.all([scrap(1, { shown: 0 }), scrap(2, { shown: 0 })]);
  expect(outcomes.filter(({ ok }) => ok)).toHaveLength(1);
});
it('a count is not taken back to fewer than are scrap', async () => {
  const { id, made } = await avocet();
  done(await recordParts(as(cell.operator), { jobId: id, before: made, parts: 4, source: 'typed' }));
  done(await scrap(53));
  const back = async () =>
    takeBackCount(as(cell.operator), {
      jobId: id,
      count: (await lastCount(pool(), id))!.id,
      before: 55,
      why: 'typed twice',
    });
  expect(refused(await back())).toMatch(/53 of O2301 are on record as scrap/);
  done(await scrap(3));
  done(await back());
  expect(await avocet()).toMatchObject({ made: 51, scrapped: 3 });
});
it('is read out at the handover', async () => {
  const from = new Date();
  done(await scrap(2));
  const told = await spokenSince(pool(), await cellOf(pool()), from, new Date(), new Date());
  expect(told.join(' ')).toContain('Avocet 2 scrapped');
});
