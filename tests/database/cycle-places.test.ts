import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { palletOf } from '../../src/core/inspection/cycle-place.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { closePool, pool, rows } from '../../src/server/db.ts';
import { runningJob, setUpAgain } from '../../src/server/jobs.ts';
import { machineById } from '../../src/server/machines.ts';
import { palletsOf, takePallet } from '../../src/server/pallets.ts';
import { measuringOn } from '../../src/server/now.ts';
import { palletsCut } from '../../src/server/pallet-counts.ts';
import { lookAtReadingsFile } from '../../src/server/program-files.ts';
import { takeReading } from '../../src/server/readings.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

/** O1402 makes two pins from one bar: the first with rows 1 to 9, the second with 21 to 29. */
let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const take = async (name: string, part: number, size: number, over: object = {}, program = 'O1402') =>
  done(
    await takeReading(as(cell.operator), {
      featureId: await cell.feature(program, name),
      programId: await cell.program(program),
      jobId: await cell.job(program),
      part,
      measured: lengthOf(size, program === 'O1402' ? 'in' : 'mm'),
      confirmed: false,
      firstOff: false,
      ...over,
    }),
  );
const proposed = async () => {
  const machine = (await machineById(pool(), await cell.machine('Curlew')))!;
  const job = (await runningJob(pool(), machine.id))!;
  const measuring = await measuringOn(pool(), machine, job, job.programId);
  return new Map(measuring!.features.map(({ name, part }) => [name, part]));
};

describe('two parts that come off together', () => {
  it('each size is proposed on the last part that its row cut', async () => {
    const { made } = (await runningJob(pool(), await cell.machine('Curlew')))!;
    expect(made % 2).toBe(0);
    const parts = await proposed();
    expect(parts.get('Bearing seat OD')).toBe(made - 1);
    expect(parts.get('Bearing seat OD (2nd)')).toBe(made);
  });
  it('a size typed for the part that another row cut is asked about, and counts for nothing by then', async () => {
    const { made } = (await runningJob(pool(), await cell.machine('Curlew')))!;
    // the second pin of the bar is large: its row 22 has to go, and row 2 is right
    const asked = await take('Bearing seat OD', made, 1.3786);
    expect(asked).toMatchObject({
      readingId: null,
      proposalIds: [],
      answer: { verdict: 'measureAgain', about: 'part' },
    });
    expect(asked.answer.reason).toContain('another row (22)');
    expect(asked.answer.reason).toContain(`Is it part ${made - 1}, or "Bearing seat OD (2nd)"?`);
    expect((await take('Bearing seat OD (2nd)', made, 1.3781)).readingId).not.toBeNull();
    // it was measured before, and is not asked about for its number
    const again = (await take('Bearing seat OD', made - 1, 1.3781)).answer;
    expect(again).toMatchObject({
      verdict: 'measureAgain',
      reason: expect.stringContaining('was measured before'),
    });
    expect(again.about).toBeUndefined();
    expect((await take('Bearing seat OD', made - 1, 1.3781, { confirmed: true })).readingId).not.toBeNull();
    // whoever numbers the pins otherwise says so
    expect((await take('Bearing seat OD', made, 1.3781, { partSure: true })).readingId).not.toBeNull();
  });
  it('after half a cycle nobody can tell, and nobody is asked', async () => {
    const jobId = await cell.job('O1402');
    const { made } = (await runningJob(pool(), await cell.machine('Curlew')))!;
    done(await recordParts(as(cell.operator), { jobId, before: made, parts: 1, source: 'typed' }));
    expect((await proposed()).get('Bearing seat OD')).toBe(made + 1);
    expect((await take('Bearing seat OD', made, 1.3781)).readingId).not.toBeNull();
  });
  it('is said of a file before it is taken', async () => {
    const { made } = (await runningJob(pool(), await cell.machine('Curlew')))!;
    const text = `feature,part,value\nBearing seat OD,${made - 1},1.3781\nBearing seat OD,${made},1.3782\n`;
    const look = done(
      await lookAtReadingsFile(pool(), { programId: await cell.program('O1402'), text, part: null }),
    );
    expect(look.readings.map(({ words }) => words)).toEqual([
      '',
      expect.stringContaining('another row (22)'),
    ]);
  });
});

/** O5103 makes two hubs a cycle, in two places, with the same rows. */
describe('two parts that the same rows cut', () => {
  const height = (part: number, size: number, over: object = {}) =>
    take('Face height', part, size, over, 'O5103');
  const egret = async () => {
    const machine = (await machineById(pool(), await cell.machine('Egret')))!;
    const job = (await runningJob(pool(), machine.id))!;
    const measuring = await measuringOn(pool(), machine, job, job.programId);
    return { made: job.made, size: measuring!.features.find(({ name }) => name === 'Face height')! };
  };
  const places = async () =>
    rows<{ part: number; place: number | null; places: number | null }>(
      pool(),
      `SELECT r.part, r.place, r.places FROM reading r WHERE r.feature_id = $1 ORDER BY r.id DESC LIMIT 3`,
      [await cell.feature('O5103', 'Face height')],
    );
  it('neither is asked about, and each is kept with the place it was cut in', async () => {
    const { made } = await egret();
    expect((await height(made - 1, 80.011)).readingId).not.toBeNull();
    expect((await height(made, 80.01)).readingId).not.toBeNull();
    // who has it in the hand knows better than its number; or not at all
    expect((await height(made, 80.01, { place: 1, confirmed: true })).readingId).not.toBeNull();
    expect(await places()).toEqual([
      { part: made, place: 1, places: 2 },
      { part: made, place: 2, places: 2 },
      { part: made - 1, place: 1, places: 2 },
    ]);
    await height(made, 80.01, { place: null, confirmed: true });
    expect((await places())[0]).toEqual({ part: made, place: null, places: null });
  });
  it('a place that there is none of is refused', async () => {
    const answer = await takeReading(as(cell.operator), {
      featureId: await cell.feature('O5103', 'Face height'),
      programId: await cell.program('O5103'),
      jobId: await cell.job('O5103'),
      part: 28,
      measured: lengthOf(80.001, 'mm'),
      confirmed: false,
      firstOff: false,
      place: 3,
    });
    expect(refused(answer)).toBe('2 parts come off together here: there is no place 3.');
  });
  it('they are measured in turn, and after half a cycle nobody can tell which is which', async () => {
    const { made } = await egret();
    await height(made, 80.001);
    let { size } = await egret();
    // a place that was not measured yet does not wait for its interval
    expect(size).toMatchObject({
      why: 'placeNotYet',
      part: made - 1,
      inCycle: { place: 1, parts: 2 },
      inTurn: true,
      places: 2,
    });
    await height(made - 1, 80.001);
    ({ size } = await egret());
    // both of a cycle: the first of it is the older part
    expect(size).toMatchObject({ why: 'longestAgo', part: made - 1, inCycle: { place: 1, parts: 2 } });
    await height(made + 1, 80.001);
    ({ size } = await egret());
    expect(size).toMatchObject({ inCycle: { place: 2, parts: 2 } });
    const jobId = await cell.job('O5103');
    done(await recordParts(as(cell.operator), { jobId, before: made, parts: 1, source: 'typed' }));
    ({ size } = await egret());
    expect(size).toMatchObject({ part: made + 1, inCycle: { place: 1, parts: 1 }, inTurn: false, places: 2 });
    await height(made + 2, 80.001);
    expect((await places())[0]).toEqual({ part: made + 2, place: null, places: null });
  });
  it('after a set-up the first part of each place is a first-off', async () => {
    const jobId = await cell.job('O5103');
    done(await setUpAgain(as(cell.setter), { jobId, why: 'fixture changed' }));
    const setUp = async () => {
      const machine = (await machineById(pool(), await cell.machine('Egret')))!;
      const job = (await runningJob(pool(), machine.id))!;
      return (await measuringOn(pool(), machine, job, job.programId))!.setUp;
    };
    const { made } = await egret();
    expect(await setUp()).toEqual({ parts: null });
    await height(made + 2, 80.012, { firstOff: true });
    expect(await setUp()).toEqual({ parts: [String(made + 1), String(made + 2)] });
    // both of the cycle are off by the set-up: it comes out at once, by the middle of them
    const { answer } = await height(made + 1, 80.006, { firstOff: true });
    if (answer.verdict !== 'change') throw new Error(answer.reason);
    expect(answer.rows[0]!.change / 1000).toBeLessThanOrEqual(-8);
    expect(answer.rows[0]!.change / 1000).toBeGreaterThanOrEqual(-10);
    expect(await setUp()).toEqual({ parts: [String(made + 1), String(made + 2)] });
    await height(made + 3, 80.001);
    expect(await setUp()).toBeNull();
  });
  it('the part that tells whether a correction took is of the place it was worked out from', async () => {
    const { made } = await egret();
    const { proposalIds } = await height(made, 80.03, { confirmed: true, firstOff: true });
    done(await approve(as(cell.lead), cell.lead, proposalIds[0]!));
    const { to } = (await correctionById(pool(), proposalIds[0]!))!;
    done(await readBack(as(cell.operator), proposalIds[0]!, { shown: to, again: to }));
    const { size } = await egret();
    expect(size.why).toBe('afterCorrection');
    expect(size.inCycle).toEqual({ place: 2, parts: 2 });
    expect(size.part % 2).toBe(0);
    expect(size.part).toBeGreaterThan(made);
  });
  it('one place that stands off the other is not taken for a correction keyed twice, nor chased', async () => {
    const { made } = await egret();
    // the second place stands 0.024 above the first, with parts that differ by a few micrometres
    for (const [part, size] of [
      [made - 3, 79.99],
      [made - 2, 80.014],
      [made - 1, 79.987],
      [made, 80.011],
    ] as const)
      await height(part, size, { confirmed: true });
    const answer = await height(made + 1, 79.989, { confirmed: true });
    expect(answer.proposalIds).toEqual([]);
    const last = await height(made + 2, 80.013, { confirmed: true });
    expect(last.proposalIds).toEqual([]);
    expect(last.answer.reason).toMatch(
      /The second of the two measures about 0\.02\d mm more than the first of the two/,
    );
  });

  describe('on pallets, each with its own two places', () => {
    const machine = async () => (await machineById(pool(), await cell.machine('Egret')))!;
    const pallets = async () =>
      (
        await rows<{ pallet: number | null }>(
          pool(),
          'SELECT pallet FROM reading WHERE feature_id = $1 ORDER BY id DESC LIMIT 6',
          [await cell.feature('O5103', 'Face height')],
        )
      ).map(({ pallet }) => pallet);
    const record = async (parts: number) => {
      const { id, made } = (await runningJob(pool(), await cell.machine('Egret')))!;
      done(await recordParts(as(cell.operator), { jobId: id, before: made, parts, source: 'typed' }));
      return made + parts;
    };
    const cut = async () => palletsCut(pool(), await cell.job('O5103'));

    it('a count says which parts were cut on which, in the order of the queue; one that is taken back takes that back', async () => {
      const { made } = await egret();
      const on = (pallet: number, first: number, last: number) => ({
        pallet,
        first: made + first,
        last: made + last,
      });
      const queue = async () => palletsOf(pool(), (await machine()).id);
      const [one, two] = (await queue()).map(({ number }) => number) as [number, number];
      expect((await queue()).slice(0, 2).map(({ parts, cut }) => [parts, cut])).toEqual([
        [2, 0],
        [4, 0],
      ]);
      // nothing is counted yet: as the queue stands
      expect((await cut()).slice(0, 2)).toEqual([on(one, 1, 2), on(two, 3, 6)]);
      await record(3);
      expect((await cut()).slice(0, 3)).toEqual([on(one, 1, 2), on(two, 3, 3), on(two, 4, 6)]);
      // the first comes off: what was cut on it stands
      const first = (await queue())[0]!;
      done(await takePallet(as(cell.setter), await machine(), { id: first.id, made: null }));
      expect((await cut())[0]).toEqual(on(one, 1, 2));
      const { id } = (await runningJob(pool(), (await machine()).id))!;
      done(
        await takeBackCount(as(cell.operator), {
          jobId: id,
          count: (await lastCount(pool(), id))!.id,
          before: made + 3,
          why: 'typed twice',
        }),
      );
      expect((await cut())[0]).toEqual(on(two, 1, 4));
      const second = (await queue())[0]!;
      done(
        await takePallet(as(cell.setter), await machine(), {
          id: second.id,
          made: { parts: 3, before: made },
        }),
      );
      expect((await cut())[0]).toEqual(on(two, 1, 3));
      expect((await cut())[1]).toMatchObject({ first: made + 4 });
    });
    it('a reading is of the pallet that its part was cut on, unless somebody says another', async () => {
      const made = await record(4);
      const on = await cut();
      await height(made - 3, 80.001);
      await height(made, 80.001);
      await height(made, 80.001, { pallet: 5, confirmed: true });
      await height(made, 80.001, { pallet: null, confirmed: true });
      // of what was cut before it was kept nobody knows
      await height(made - 4, 80.001);
      const [first, last] = [made - 3, made].map((part) => palletOf(on, part));
      expect(new Set([first, last, null]).size).toBe(3);
      expect((await pallets()).slice(0, 5)).toEqual([null, null, 5, last, first]);
    });
    it('where none was cut none is told', async () => {
      const { made } = (await runningJob(pool(), await cell.machine('Curlew')))!;
      const answer = await takeReading(as(cell.operator), {
        featureId: await cell.feature('O1402', 'Bearing seat OD'),
        programId: await cell.program('O1402'),
        jobId: await cell.job('O1402'),
        part: made - 1,
        measured: lengthOf(1.3781, 'in'),
        confirmed: false,
        firstOff: false,
        pallet: 2,
      });
      expect(refused(answer)).toBe(
        'No part of this job was cut on a pallet: put pallet 2 in the queue first.',
      );
    });
    it('a size that was not measured on the pallet that is cut now is proposed on it, its places in turn', async () => {
      let made = await record(2);
      await height(made, 80.001);
      expect((await egret()).size).toMatchObject({ why: 'placeNotYet', inCycle: { place: 1, parts: 2 } });
      await height(made - 1, 80.001);
      expect((await egret()).size.why).toBe('longestAgo');
      made = await record(2);
      expect((await egret()).size).toMatchObject({ why: 'palletNotYet', part: made });
      await height(made, 80.001);
      expect((await egret()).size).toMatchObject({ why: 'longestAgo', part: made - 1 });
    });
    it('one pallet that stands off the others is said, and not chased', async () => {
      // parts of pallet 3 are 0.03 larger than those of 1 and 2
      let reason = '';
      for (let part = 5; part <= 28; part += 1) {
        const pallet = 1 + (Math.ceil(part / 2) % 3);
        const size = (pallet === 3 ? 80.02 : 79.99) + ((part * 7) % 5) * 0.001;
        const answer = await height(part, size, { confirmed: true, pallet });
        if (part > 12) expect(answer.proposalIds, answer.answer.reason).toEqual([]);
        ({ reason } = answer.answer);
      }
      expect(reason).toMatch(/of the two on pallet 3 measures about 0\.02\d mm more than the/);
    });
  });
});
