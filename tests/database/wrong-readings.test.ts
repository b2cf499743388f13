import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf } from '../../src/core/units/length.ts';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { answering, typedAgo } from '../../src/server/asked.ts';
import { cellOf } from '../../src/server/cell.ts';
import { cutUntil } from '../../src/server/cut-until.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { evidenceOf } from '../../src/server/evidence.ts';
import { runningJob } from '../../src/server/jobs.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { nextOnJob } from '../../src/server/now.ts';
import { machineById } from '../../src/server/machines.ts';
import { featureById, programById } from '../../src/server/programs.ts';
import { takeReading } from '../../src/server/readings.ts';
import { takeBackReading } from '../../src/server/wrong-readings.ts';
import { as, done, refused, weirside } from '../support/cell.ts';
import { asSuperuser } from '../support/databases.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const egret = () => cell.machine('Egret');
const take = async (size: number, part: number, over: { confirmed?: boolean; partSure?: boolean } = {}) =>
  done(
    await takeReading(as(cell.operator), {
      featureId: await cell.feature('O5103', 'Face height'),
      programId: await cell.program('O5103'),
      jobId: await cell.job('O5103'),
      part,
      measured: lengthOf(size, 'mm'),
      confirmed: false,
      firstOff: false,
      ...over,
    }),
  );
const back = async (readingId: number, why = 'of another part', who = cell.operator) =>
  takeBackReading(as(who), { machineId: await egret(), readingId, why });
const cut = async () => (await cutUntil(pool(), await egret()))!.cut;
const evidence = async () => {
  const feature = (await featureById(pool(), await cell.feature('O5103', 'Face height')))!;
  return evidenceOf(pool(), (await machineById(pool(), await egret()))!, feature);
};

describe('the number of a part', () => {
  it('that cannot have been cut by now is asked about, and moves nothing by then', async () => {
    const { made } = (await runningJob(pool(), await egret()))!;
    const before = await cut();
    const asked = await take(80.001, made * 10 + 3);
    expect(asked).toMatchObject({ readingId: null, answer: { verdict: 'measureAgain', about: 'part' } });
    expect(asked.answer.reason).toMatch(/O5103 stands at \d+ of \d+ parts/);
    // it is kept as it was typed, and parts to come are counted from the last that is sure
    expect(await cell.count('FROM reading WHERE part = $1 AND doubt IS NOT NULL', made * 10 + 3)).toBe(1);
    expect(await cut()).toBe(before);
    const id = (await take(80.024, made + 1)).proposalIds[0]!;
    done(await approve(as(cell.lead), cell.lead, id));
    const { to } = (await correctionById(pool(), id))!;
    done(await readBack(as(cell.operator), id, { shown: to, again: to }));
    // what is cut from then on was cut with the correction
    const next = await take(80.001, made + 2);
    expect(next.took).not.toBeNull();
    expect((await evidence()).readings.at(-1)!.held).toEqual([to]);
  });
  it('is taken where somebody looked again, and the size is still asked about by itself', async () => {
    const { made } = (await runningJob(pool(), await egret()))!;
    expect((await take(80.001, made * 10, { partSure: true })).readingId).not.toBeNull();
    expect((await take(85, made * 10 + 1, { partSure: true })).answer).toMatchObject({
      verdict: 'measureAgain',
      reason: expect.not.stringContaining('stands at'),
    });
  });
  it('a few that nobody has recorded yet are no wonder', async () => {
    const { made } = (await runningJob(pool(), await egret()))!;
    expect((await take(80.001, made + 15)).readingId).not.toBeNull();
  });
});

describe('what counts for nothing is not measured', () => {
  const standing = async () => {
    const job = (await runningJob(pool(), await egret()))!;
    const program = (await programById(pool(), job.programId))!;
    const id = await cell.feature('O5103', 'Face height');
    const { why, ago } = (await nextOnJob(pool(), program, job, new Date())).find((each) => each.id === id)!;
    return { why, ago };
  };
  it('a size that is to be measured again, or whose reading was taken back, is as due as before', async () => {
    const { made } = (await runningJob(pool(), await egret()))!;
    const before = await standing();
    expect((await take(85, made)).answer.verdict).toBe('measureAgain');
    expect(await standing()).toEqual(before);
    const { readingId } = await take(80.001, made);
    expect(await standing()).toEqual({ why: expect.anything(), ago: 0 });
    done(await back(readingId!));
    expect(await standing()).toEqual(before);
  });
});

describe('a reading that a device kept', () => {
  it('was measured when it was typed, and the end of this shift asks for another', async () => {
    const job = (await runningJob(pool(), await egret()))!;
    const program = (await programById(pool(), job.programId))!;
    const id = await cell.feature('O5103', 'Face height');
    await asSuperuser(
      (client) =>
        client.query("UPDATE feature SET also = '{shiftEnd}', every_parts = 50 WHERE id = $1", [id]),
      cell.database.name,
    );
    // a shift that ends in ten minutes, whenever this runs
    const begun = new Date(Date.now() - 120 * 60_000);
    const known = {
      ...(await cellOf(pool())),
      timeZone: 'UTC',
      patterns: [
        {
          id: 1,
          name: 'test',
          startMinute: begun.getUTCHours() * 60 + begun.getUTCMinutes(),
          lengthMinutes: 130,
          days: [0, 1, 2, 3, 4, 5, 6],
        },
      ],
    };
    const why = async () =>
      (await nextOnJob(pool(), program, job, new Date(), known)).find((each) => each.id === id)!.why;
    const kept = await answering('late', typedAgo(String(5 * 3600)), () => take(80.001, job.made - 1));
    const { ago } = (await row<{ ago: number }>(
      pool(),
      'SELECT extract(epoch FROM tin_now() - at)::float8 AS ago FROM reading WHERE id = $1',
      [kept.readingId],
    ))!;
    expect(ago / 3600).toBeCloseTo(5, 1);
    // of two that come off together the other was not seen at all yet
    expect(await why()).toBe('placeNotYet');
    await answering('late too', typedAgo(String(5 * 3600)), () => take(80.001, job.made - 2));
    expect(await why()).toBe('shiftEnd');
    await take(80.001, job.made);
    expect(await why()).not.toBe('shiftEnd');
    // one of hours ago that comes after it takes nothing of that back
    await answering('later', typedAgo(String(4 * 3600)), () => take(80.002, job.made - 3));
    expect(await why()).not.toBe('shiftEnd');
  });
});

describe('a reading that was wrong', () => {
  it('is taken back: it counts for nothing, and what was worked out from it is withdrawn', async () => {
    await take(80.001, 40);
    const known = (await evidence()).readings.length;
    const wrong = await take(80.024, 41, { confirmed: true });
    expect(wrong.proposalIds).toHaveLength(1);
    expect(await cut()).toBe(41);
    done(await back(wrong.readingId!));
    expect(await correctionById(pool(), wrong.proposalIds[0]!)).toMatchObject({
      state: 'superseded',
      withdrawn: expect.stringMatching(/^Withdrawn: A reading of Face height of part 41, .* was taken back/),
    });
    expect((await evidence()).readings).toHaveLength(known);
    expect(await cut()).toBe(40);
    expect(
      await cell.count('FROM reading WHERE id = $1 AND measured = $2', wrong.readingId!, 80_024_000),
    ).toBe(1);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('once, with a reason, on its own machine; of two at the same time one', async () => {
    const { readingId } = await take(80.001, 40);
    expect(refused(await back(readingId!, '  '))).toMatch(/Say what was wrong/);
    const elsewhere = await cell.machine('Avocet');
    expect(
      refused(
        await takeBackReading(as(cell.operator), { machineId: elsewhere, readingId: readingId!, why: 'x' }),
      ),
    ).toMatch(/no such reading/);
    const both = await Promise.all([back(readingId!), back(readingId!, 'typed wrong', cell.inspector)]);
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    expect(refused(await back(readingId!))).toMatch(/already/);
  });
});
