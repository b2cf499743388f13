import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { perPart } from '../../src/core/shift/job.ts';
import type { Ask } from '../../src/core/words/ask.ts';
import { answering, typedAgo } from '../../src/server/asked.ts';
import { cellOf } from '../../src/server/cell.ts';
import { cycleBrokenOff, recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { cutUntil } from '../../src/server/cut-until.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { runningJob } from '../../src/server/jobs.ts';
import { likelyOf, perhapsCut } from '../../src/server/likely-made.ts';
import { placesOf, takeOut } from '../../src/server/places.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

/** 150 of 240, two from a bar in 19 minutes, counted some hours ago. */
const curlew = async () => (await runningJob(pool(), await cell.machine('Curlew')))!;
const HOUR = 3_600_000;

/** Types a count as the page sends it, some seconds before it arrives. */
async function type(parts: number, { ago = 0, sure = null as number | null } = {}) {
  const { id, made } = await curlew();
  return answering('test', typedAgo(ago === 0 ? null : String(ago)), () =>
    recordParts(as(cell.operator), {
      jobId: id,
      before: made,
      parts,
      source: 'typed',
      doubted: sure !== parts,
    }),
  );
}
const asked = (outcome: { ok: boolean; ask?: Ask }) => (outcome.ok ? null : (outcome.ask ?? []));
/** Lets the last count have been made so long ago. */
const counted = async (milliseconds: number, parts = 1) => {
  await type(parts, { sure: parts });
  const { id } = (await lastCount(pool(), (await curlew()).id))!;
  await cell.asOwner(async (db) => {
    await db.query('ALTER TABLE ledger DISABLE TRIGGER USER');
    await db.query(`UPDATE ledger SET at = tin_now() - make_interval(secs => $2) WHERE id = $1`, [
      id,
      milliseconds / 1000,
    ]);
    await db.query('ALTER TABLE ledger ENABLE TRIGGER USER');
  });
};

describe('a count that cannot be', () => {
  it('is asked about before anything is recorded, and taken once somebody says that it is right', async () => {
    await counted(HOUR);
    const { made } = await curlew();
    const life = await cell.count(`FROM ledger WHERE kind = 'life'`);
    const outcome = await type(60);
    expect(refused(outcome)).toContain(`${made + 60} of 240`);
    expect(asked(outcome)!.map(({ name, value }) => [name, value])).toEqual([['sure', '60']]);
    expect((await curlew()).made).toBe(made);
    expect(await cell.count(`FROM ledger WHERE kind = 'life'`)).toBe(life);
    done(await type(60, { sure: 60 }));
    expect((await curlew()).made).toBe(made + 60);
  });
  it('another number than the one that was looked at is asked about anew', async () => {
    await counted(HOUR);
    expect(refused(await type(70, { sure: 60 }))).toContain('70 more');
  });
  it('who types all parts for the new ones is offered the new ones first', async () => {
    await counted(HOUR);
    const { made } = await curlew();
    expect(asked(await type(made + 6))!.map(({ name, value }) => [name, value])).toEqual([
      ['parts', '6'],
      ['sure', String(made + 6)],
    ]);
  });
  it('what can be is taken without a word', async () => {
    await counted(HOUR);
    done(await type(8));
    done(await type(2));
  });
  it('a count that was taken back is no count to reckon from', async () => {
    await counted(5 * HOUR);
    done(await type(30));
    const { id, made } = await curlew();
    done(
      await takeBackCount(as(cell.operator), {
        jobId: id,
        count: (await lastCount(pool(), id))!.id,
        before: made,
        why: 'Typed 30 for 31.',
      }),
    );
    done(await type(31));
  });
  it('is asked about where an edge goes, too', async () => {
    await counted(HOUR);
    const { made } = await curlew();
    const place = (await placesOf(pool(), await cell.machine('Curlew'))).find(({ tool }) => tool === 3)!;
    const out = (said: number, sure: number | null = null) =>
      takeOut(as(cell.setter), {
        placeId: place.id,
        assemblyId: place.assembly!.id,
        why: '',
        made: said,
        sure,
      });
    const outcome = await out(made + 60);
    expect(asked(outcome)!.map(({ name, value }) => [name, value])).toEqual([['sure', String(made + 60)]]);
    expect((await curlew()).made).toBe(made);
    done(await out(made + 60, made + 60));
    expect((await curlew()).made).toBe(made + 60);
  });
});

describe('counts that a device kept', () => {
  it('each stand for when they were typed: none is asked about, and the forecast goes on from then', async () => {
    await counted(9 * HOUR);
    // typed eight, four and two hours ago; all arrive now
    for (const [parts, hours] of [
      [6, 8],
      [24, 4],
      [12, 2],
    ] as const)
      done(await type(parts, { ago: hours * 3600 }));
    const job = await curlew();
    const now = new Date();
    const { from } = await likelyOf(pool(), await cellOf(pool()), job, now);
    expect(from.parts).toBe(job.made);
    expect(Math.abs(now.getTime() - from.at.getTime() - 2 * HOUR)).toBeLessThan(60_000);
  });
  it('one that arrives late and cannot be of then is asked about', async () => {
    await counted(9 * HOUR);
    expect(refused(await type(60, { ago: 8 * 3600 }))).toContain('60 more');
    done(await type(60, { ago: 3600 }));
  });
});

describe('a cycle time that is not right', () => {
  it('is told by the counts, and what comes is reckoned by the faster of the two', async () => {
    // no count but these
    const own = (await curlew()).id;
    await cell.asOwner(async (db) => {
      await db.query('ALTER TABLE ledger DISABLE TRIGGER USER');
      await db.query(`DELETE FROM ledger WHERE kind = 'parts' AND job_id = $1`, [own]);
      await db.query('ALTER TABLE ledger ENABLE TRIGGER USER');
    });
    // four parts each half hour: a cycle of two in fifteen minutes, where nineteen were typed
    for (let nth = 12; nth >= 1; nth -= 1) await counted(nth * 0.5 * HOUR, 4);
    done(await type(4));
    const job = await curlew();
    expect(job.cycleMilliseconds).toBe(19 * 60_000);
    expect(job.pace! / 60_000).toBeCloseTo(15, 1);
    expect(perPart(job) / 60_000).toBeCloseTo(7.5, 1);
    // a count that nobody made says nothing any more
    done(
      await takeBackCount(as(cell.operator), {
        jobId: job.id,
        count: (await lastCount(pool(), job.id))!.id,
        before: job.made,
        why: 'there was none',
      }),
    );
    expect((await curlew()).pace! / 60_000).toBeCloseTo(15, 1);
  });
});

describe('how far a job may be', () => {
  it('a cycle that was broken off says nothing of how many parts are made', async () => {
    await counted(3 * HOUR);
    const job = await curlew();
    done(
      await cycleBrokenOff(as(cell.operator), { jobId: job.id, before: job.made, tool: 2, why: 'a chip' }),
    );
    const { from } = await likelyOf(pool(), await cellOf(pool()), job, new Date());
    expect(Math.abs(Date.now() - from.at.getTime() - 3 * HOUR)).toBeLessThan(60_000);
  });
  it('is reckoned as it is asked, whatever a page showed this morning', async () => {
    await counted(3 * HOUR);
    const job = (await cutUntil(pool(), await cell.machine('Curlew')))!;
    const { parts } = await likelyOf(pool(), await cellOf(pool()), job, new Date());
    // with the two on the bar that is in the machine
    expect(await perhapsCut(pool(), job, job.cut)).toBe(Math.floor(parts) + 2);
    expect(await perhapsCut(pool(), job, 230)).toBe(232);
  });
});
