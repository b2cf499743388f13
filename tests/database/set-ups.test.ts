import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { correctionById, openCorrections, readBack } from '../../src/server/corrections.ts';
import { approve, refuse } from '../../src/server/decided-corrections.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { driftPage } from '../../src/server/drift.ts';
import { moveJob, runningJob } from '../../src/server/jobs.ts';
import { machineById } from '../../src/server/machines.ts';
import { measuringOn } from '../../src/server/now.ts';
import { featureById } from '../../src/server/programs.ts';
import { takeReading } from '../../src/server/readings.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

/** A reading of the height of Avocet's O2301, which answers to row 1 as does the thickness of O2310. */
const take = async (
  size: number,
  part: number,
  { firstOff = false, confirmed = false, program = 'O2301', name = 'Body height' } = {},
) =>
  done(
    await takeReading(as(cell.operator), {
      featureId: await cell.feature(program, name),
      programId: await cell.program(program),
      jobId: await cell.job(program),
      part,
      measured: lengthOf(size, 'mm'),
      confirmed,
      firstOff,
      recut: false,
    }),
  );
const move = async (program: string, what: 'start' | 'pause') =>
  done(
    await moveJob(as(cell.lead), {
      jobId: await cell.job(program),
      move: what,
      why: 'the other is wanted first',
    }),
  );
/** Another job is put in between. */
async function between() {
  await move('O2301', 'pause');
  await move('O2310', 'start');
  await move('O2310', 'pause');
  await move('O2301', 'start');
}
const changes = ({ answer }: Awaited<ReturnType<typeof take>>) =>
  answer.verdict === 'change' ? answer.rows.map(({ row, change }) => [row, change / 1000]) : answer.reason;
/** Parts on target, one after another. */
async function onTarget(from = 52, parts = 8) {
  for (let i = 0; i < parts; i += 1) await take(36 + [0.001, -0.002, 0, 0.002][i % 4]!, from + i);
}

describe('a new set-up begins a new story (H14)', () => {
  it('a job that is taken up after another ran is set up anew: the first part is taken out whole, and not questioned', async () => {
    await onTarget();
    await between();
    expect(changes(await take(36.03, 60))).toEqual([[1, -30]]);
  });
  it('paused and taken up again with nothing in between it is the same: so far off is asked about', async () => {
    await onTarget();
    await move('O2301', 'pause');
    await move('O2301', 'start');
    expect((await take(36.03, 60)).answer.verdict).toBe('measureAgain');
  });
  it('where fixtures stay on their pallets another job between is no new set-up, a tick is', async () => {
    await cell.asOwner((client) =>
      client.query(
        `INSERT INTO pallet (machine_id, number, program_id, parts, ord) SELECT m.id, 1, g.id, 4, 1 FROM machine m JOIN program g ON g.machine_id = m.id WHERE m.name = 'Avocet' AND g.number = 'O2301'`,
      ),
    );
    await onTarget();
    await between();
    expect((await take(36.03, 60)).answer.verdict).toBe('measureAgain');
    expect(changes(await take(36.03, 61, { firstOff: true }))).toEqual([[1, -30]]);
  });
  it('another revision is cut as nobody has seen it yet', async () => {
    const [older, newer] = await cell.asOwner(async (client) =>
      (
        await client.query<{ id: number }>("SELECT id FROM program WHERE number = 'O4102' ORDER BY revision")
      ).rows.map(({ id }) => id),
    );
    const of = async (programId: number, size: number, part: number) =>
      done(
        await takeReading(as(cell.operator), {
          featureId: await cell.feature('O4102', 'Pocket depth'),
          programId,
          jobId: null,
          part,
          measured: lengthOf(size, 'mm'),
          confirmed: false,
          firstOff: false,
          recut: false,
        }),
      );
    for (let part = 1; part <= 8; part += 1) await of(older!, 4 + [0.001, -0.002, 0, 0.002][part % 4]!, part);
    expect((await of(older!, 4.04, 9)).answer.verdict).toBe('measureAgain');
    expect((await of(newer!, 4.04, 1)).answer.verdict).toBe('change');
  });
  it('what waits for the set-up before ends with it, of the program that is set up and no other', async () => {
    // the height's row cuts the pocket too, which waits to be corrected in the demo: by itself it is another matter
    for (const { id, program } of await openCorrections(pool()))
      if (program === 'O2301') done(await refuse(as(cell.lead), id, 'the pocket is looked at first'));
    const own = (await take(36.03, 52)).proposalIds[0]!;
    await between();
    expect(await correctionById(pool(), own)).toMatchObject({
      state: 'superseded',
      withdrawn: expect.stringMatching(/^Withdrawn, a new set-up: O2301 .* was taken up again/),
    });
    const next = (await take(36.03, 60)).proposalIds[0]!;
    await move('O2301', 'pause');
    await move('O2310', 'start');
    expect((await correctionById(pool(), next))!.state).toBe('proposed');
  });
  it('parts of the next set-up tell nothing of a correction keyed in the one before', async () => {
    await onTarget();
    const id = (await take(36.03, 60, { firstOff: true, confirmed: true })).proposalIds[0]!;
    done(await approve(as(cell.lead), cell.lead, id));
    const { to } = (await correctionById(pool(), id))!;
    done(await readBack(as(cell.operator), id, { shown: to, again: to }));
    await between();
    // set up 0.03 off the other way: as if the correction had never been keyed
    for (const part of [62, 63, 64]) expect((await take(36.03, part, { confirmed: true })).took).toBeNull();
    const { took, movedOn } = (await correctionById(pool(), id))!;
    expect(took).toBeNull();
    expect(movedOn).toMatch(/^O2301 .* was taken up again/);
  });
  it('its page says that it was not measured since, and tells of the set-up before', async () => {
    await onTarget();
    const page = async () => {
      const feature = (await featureById(pool(), await cell.feature('O2301', 'Body height')))!;
      return (await driftPage(
        pool(),
        (await machineById(pool(), feature.machineId))!,
        feature,
        0.001,
        null,
      ))!;
    };
    const before = await page();
    expect(before.setUpSince).toBe(false);
    await between();
    const since = await page();
    expect(since.setUpSince).toBe(true);
    expect(since.drift.state.mean).toBeCloseTo(before.drift.state.mean, 0);
    expect(since.drift.state.error).toBeCloseTo(before.drift.state.error, 0);
    await take(36.03, 60);
    const now = await page();
    expect(now.setUpSince).toBe(false);
    expect(now.drift.now).toBeGreaterThan(25_000);
    expect(now.steps.map(({ words }) => words)).toContain('set up anew');
    // a bad first part of a set-up says nothing of the parts before it
    await take(36.06, 61, { confirmed: true });
    expect((await page()).suspects).toEqual([expect.objectContaining({ part: 61, first: 61, last: null })]);
    await take(36.07, 60, { confirmed: true });
    expect((await page()).suspects).toEqual([
      expect.objectContaining({ part: 60, first: 60, last: null, anew: true }),
    ]);
    // what a set-up throws off is no spread of single parts
    expect(now.drift.state.noise).toBeLessThan(5000);
  });
});

describe('what is measured of a job that was set up anew', () => {
  const measured = async () => {
    const machine = (await machineById(pool(), await cell.machine('Avocet')))!;
    const job = (await runningJob(pool(), machine.id))!;
    return (await measuringOn(pool(), machine, job, job.programId))!;
  };
  it('is everything, though it was measured before; and the first part of it is proposed as a first-off', async () => {
    await onTarget();
    const height = async () => (await measured()).features.find(({ name }) => name === 'Body height')!;
    expect(await height()).toMatchObject({ ago: 0 });
    expect((await measured()).setUp).toBeNull();
    await move('O2301', 'pause');
    await move('O2301', 'start');
    expect((await measured()).setUp).toBeNull();
    await between();
    expect(await height()).toMatchObject({ why: 'notYet', ago: null });
    expect((await measured()).setUp).toEqual({ parts: null });
    await take(36.03, 60);
    expect(await height()).toMatchObject({ ago: 0 });
    // the other sizes of the same part are first-offs too, those of the next are not
    expect((await measured()).setUp).toEqual({ parts: ['60'] });
    await take(40.01, 61, { name: 'Bearing pocket' });
    expect((await measured()).setUp).toBeNull();
  });
});
