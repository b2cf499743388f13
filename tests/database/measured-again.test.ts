import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf, nanometres } from '../../src/core/units/length.ts';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { driftPage } from '../../src/server/drift.ts';
import { evidenceOf } from '../../src/server/evidence.ts';
import { machineById } from '../../src/server/machines.ts';
import { featureById } from '../../src/server/programs.ts';
import { takeReading } from '../../src/server/readings.ts';
import { takeBackReading } from '../../src/server/wrong-readings.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const take = async (
  size: number,
  part: number,
  over: { confirmed?: boolean; recut?: boolean; who?: 'operator' | 'inspector' } = {},
) =>
  done(
    await takeReading(as(cell[over.who ?? 'operator']), {
      featureId: await cell.feature('O5103', 'Face height'),
      programId: await cell.program('O5103'),
      jobId: await cell.job('O5103'),
      part,
      measured: lengthOf(size, 'mm'),
      confirmed: over.confirmed ?? false,
      firstOff: false,
      recut: over.recut ?? false,
    }),
  );
const machine = async () => (await machineById(pool(), await cell.machine('Egret')))!;
const size = async () => (await featureById(pool(), await cell.feature('O5103', 'Face height')))!;
const evidence = async () => evidenceOf(pool(), await machine(), await size());
/** A size of Avocet's body, one part at a time and on average of three; micrometres off its target. */
const bodyDepth = async () => {
  const [featureId, programId, jobId] = await Promise.all([
    cell.feature('O2301', 'Body depth (Y)'),
    cell.program('O2301'),
    cell.job('O2301'),
  ]);
  const feature = (await featureById(pool(), featureId))!;
  const avocet = (await machineById(pool(), feature.machineId))!;
  return {
    feature,
    avocet,
    take: async (off: number, part: number) =>
      done(
        await takeReading(as(cell.operator), {
          featureId,
          programId,
          jobId,
          part,
          measured: nanometres(feature.target + off * 1000),
          confirmed: true,
          firstOff: false,
        }),
      ),
  };
};

describe('one part that is measured again', () => {
  it('is one part: operator, inspector and operator again say no more of the edge than once', async () => {
    const first = await take(80.004, 40);
    const of = (await evidence()).readings.length;
    for (const who of ['inspector', 'operator', 'inspector'] as const) {
      const again = await take(80.004, 40, { who });
      expect(again.readingId).not.toBeNull();
      expect(again.answer.reason).toBe(first.answer.reason);
    }
    const { readings } = await evidence();
    expect(readings).toHaveLength(of);
    expect(readings.at(-1)!.typed).toHaveLength(4);
  });
  it('counts with the mean, and says so', async () => {
    await take(80.004, 40);
    const { answer } = await take(80.006, 40);
    expect(answer.arithmetic[0]).toMatchObject({
      label: 'mean of 2 readings of this part',
      sum: '(80.004 + 80.006) ÷ 2 = 80.005 mm',
    });
  });
  it('fills no average of three parts', async () => {
    const { take: measure } = await bodyDepth();
    const once = await measure(14, 61);
    expect(once.answer.reason).toMatch(/2 of the 3 parts this feature is averaged over/);
    for (let i = 0; i < 4; i += 1) expect((await measure(14, 61)).answer.reason).toBe(once.answer.reason);
    expect((await measure(14, 62)).answer.reason).toMatch(/the mean of 3 parts/);
  });
  it('does not accuse whoever keyed: what one part says once it says three times', async () => {
    const id = (await take(80.024, 40)).proposalIds[0]!;
    done(await approve(as(cell.lead), cell.lead, id));
    const { to } = (await correctionById(pool(), id))!;
    done(await readBack(as(cell.operator), id, { shown: to, again: to }));
    // one part came out as if nothing had moved
    const once = await take(80.012, 41, { confirmed: true });
    for (let i = 0; i < 4; i += 1)
      expect((await take(80.012, 41, { confirmed: true })).took!.against).toBeCloseTo(once.took!.against, 6);
  });
  it('its digits are its own: only other parts that show the same are a wonder', async () => {
    for (let i = 0; i < 6; i += 1) expect((await take(80.001, 50)).readingId).not.toBeNull();
  });
  it('and makes no control limits narrow', async () => {
    const { feature, avocet, take: measure } = await bodyDepth();
    const range = async () => (await driftPage(pool(), avocet, feature, 0.01, null))!.charts!.ranges.centre;
    for (const [i, off] of [1, -2, 2, 0, -1, 1].entries()) await measure(off, 55 + i);
    const before = await range();
    for (let i = 0; i < 8; i += 1) await measure(1, 60);
    expect(await range()).toBeCloseTo(before, 6);
  });
});

describe('one that was of another size before', () => {
  it('is asked about; whoever measures again and stands by it is believed', async () => {
    await take(80.001, 40);
    const of = (await evidence()).readings.length;
    const asked = await take(80.025, 40);
    expect(asked).toMatchObject({ readingId: null, proposalIds: [], answer: { verdict: 'measureAgain' } });
    expect(asked.answer.reason).toMatch(
      /Part 40 was measured before: 80.001 mm, which is 0.024 mm from this/,
    );
    const sure = await take(80.025, 40, { confirmed: true });
    expect(sure.readingId).not.toBeNull();
    const { readings } = await evidence();
    expect(readings).toHaveLength(of);
    expect(readings.at(-1)).toMatchObject({ id: sure.readingId, measured: lengthOf(80.025, 'mm') });
    // and taken back, what was measured first stands again
    done(
      await takeBackReading(as(cell.operator), {
        machineId: await cell.machine('Egret'),
        readingId: sure.readingId!,
        why: 'of another part',
      }),
    );
    expect((await evidence()).readings.at(-1)!.measured).toBe(lengthOf(80.001, 'mm'));
  });
  it('a slip is named by what was typed, not by the mean', async () => {
    await take(80.001, 40);
    expect((await take(800.02, 40)).answer.reason).toMatch(/slipped decimal point/);
  });
  it('cut again it may be, and what is measured afterwards is of the part as it is now', async () => {
    const id = (await take(80.024, 40)).proposalIds[0]!;
    done(await approve(as(cell.lead), cell.lead, id));
    const { to } = (await correctionById(pool(), id))!;
    done(await readBack(as(cell.operator), id, { shown: to, again: to, first: 'next' }));
    const recut = await take(80.002, 40, { recut: true });
    expect(recut.readingId).not.toBeNull();
    // somebody else measures it once more, and ticks nothing
    const again = await take(80.002, 40, { who: 'inspector' });
    expect(again.readingId).not.toBeNull();
    const last = (await evidence()).readings.at(-1)!;
    expect(last).toMatchObject({ id: again.readingId, held: [to] });
    expect(last.typed).toHaveLength(2);
  });
});
