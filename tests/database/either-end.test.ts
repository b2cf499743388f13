import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { nanometres } from '../../src/core/units/length.ts';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { approve, refuse } from '../../src/server/decided-corrections.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { withEnds } from '../../src/server/edge-at-end.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import { runningJob } from '../../src/server/jobs.ts';
import { featureById } from '../../src/server/programs.ts';
import { takeReading } from '../../src/server/readings.ts';
import { foundAtControl, measureTool } from '../../src/server/registers.ts';
import { startRenewal, takeStep, type StepData } from '../../src/server/renewals.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

/** A size of Avocet's body, micrometres off its target; the depth of the pocket is between the face that T1 cuts and the floor that T3 cuts. */
const take = async (name: string, off: number, part: number) => {
  const feature = (await featureById(pool(), await cell.feature('O2301', name)))!;
  return done(
    await takeReading(as(cell.operator), {
      featureId: feature.id,
      programId: await cell.program('O2301'),
      jobId: await cell.job('O2301'),
      part,
      measured: nanometres(feature.target + off * 1000),
      confirmed: true,
      firstOff: false,
    }),
  );
};
const approved = async (id: number) => done(await approve(as(cell.lead), cell.lead, id));
const state = async (id: number) => (await correctionById(pool(), id))!.state;
/** The one that waits from the demo is keyed, and of the pocket's depth another is worked out: the floor goes by so much. */
const waiting = async (off = 20, part = 60) => {
  for (const { id, to } of await waits())
    done(await readBack(as(cell.operator), id, { shown: to, again: to }));
  const { proposalIds } = await take('Pocket depth', off, part);
  const rows = await Promise.all(proposalIds.map((id) => correctionById(pool(), id)));
  return rows.find((each) => each!.row === 3)!;
};
const waits = async () => {
  const ids = await pool().query<{ id: number }>(
    `SELECT p.id FROM proposal p JOIN proposal_state s ON s.id = p.id JOIN register g ON g.id = p.register_id
     WHERE p.open AND s.state = 'approved' AND g.machine_id = $1`,
    [await cell.machine('Avocet')],
  );
  return Promise.all(ids.rows.map(async ({ id }) => (await correctionById(pool(), id))!));
};
const t1 = () => cell.assembly('A-101');
const step = async (name: StepData['step'], more: Partial<StepData> = {}) =>
  done(
    await takeStep(as(cell.setter), {
      assemblyId: await t1(),
      step: name,
      what: 'A fresh insert.',
      life: 100,
      row: null,
      values: [],
      gaugeLength: null,
      others: [],
      shown: [],
      ...more,
    }),
  );

describe('a correction of a size between two tools', () => {
  it('ends with the edge at its other end: of the new one nothing is known', async () => {
    const { id } = await waiting();
    await approved(id);
    done(await startRenewal(as(cell.setter), await t1()));
    expect(await state(id)).toBe('approved');
    await step('changed');
    expect(await state(id)).toBe('superseded');
  });
  it('is not to be keyed while the tool at its other end is broken', async () => {
    const { id } = await waiting();
    await approved(id);
    const machineId = await cell.machine('Avocet');
    const ending = async () =>
      (await withEnds(pool(), machineId, [(await correctionById(pool(), id))!]))[0]!.ending;
    expect(await ending()).toBeNull();
    done(
      await flagAssembly(as(cell.operator), { assemblyId: await t1(), flag: 'broken', why: 'It was heard.' }),
    );
    expect(await ending()).toMatch(/T1 \(A-101\) is flagged broken/);
  });
  it('is not accused by parts that the fresh edge cut while its renewal is half done', async () => {
    const { id } = await waiting();
    await approved(id);
    const { to } = (await correctionById(pool(), id))!;
    done(await readBack(as(cell.operator), id, { shown: to, again: to, first: 61 }));
    await take('Pocket depth', 0, 61);
    done(await startRenewal(as(cell.setter), await t1()));
    const { made } = (await runningJob(pool(), await cell.machine('Avocet')))!;
    await step('changed', { made: Math.max(made, 61), sure: Math.max(made, 61) });
    // the machine runs on with the old wear in the row
    for (const part of [62, 63, 64]) {
      const { took, answer } = await take('Pocket depth', 40, part);
      expect(took === null || took.against < 1).toBe(true);
      expect(answer.verdict).toBe('leave');
    }
  });
  it('is not worked out from what a broken tool left at the other end', async () => {
    await waiting(0, 59);
    done(
      await flagAssembly(as(cell.operator), { assemblyId: await t1(), flag: 'broken', why: 'It was heard.' }),
    );
    const { answer } = await take('Pocket depth', 25, 60);
    expect(answer).toMatchObject({
      verdict: 'leave',
      reason: expect.stringMatching(/T1 .* is flagged broken/),
    });
  });
  it('ends when somebody finds another number in the row of its other end', async () => {
    const { id } = await waiting();
    const { id: registerId, value } = await cell.register('Avocet', 1, 'lengthWear');
    done(
      await foundAtControl(as(cell.setter), {
        registerId,
        before: nanometres(value),
        after: nanometres(value + 9000),
        why: 'the night shift nudged it',
      }),
    );
    expect(await state(id)).toBe('superseded');
  });
  it('ends when the length of its own row is measured anew', async () => {
    const { id } = await waiting();
    const { value } = await cell.register('Avocet', 3, 'lengthGeometry');
    done(
      await measureTool(as(cell.setter), {
        machineId: await cell.machine('Avocet'),
        assemblyId: await cell.assembly('A-103'),
        row: 3,
        values: [{ kind: 'lengthGeometry', before: nanometres(value), value: nanometres(value + 6000) }],
        gaugeLength: null,
        how: 'touched off again',
        method: 'touchOff',
      }),
    );
    expect(await state(id)).toBe('superseded');
  });
  it('ends when the other row is corrected by a size that knew nothing of it', async () => {
    const { id } = await waiting();
    // proposed, and not approved: the height of the body is worked out without it
    const height = (await take('Body height', 30, 60)).proposalIds[0]!;
    await approved(id);
    await approved(height);
    const { to } = (await correctionById(pool(), height))!;
    done(await readBack(as(cell.operator), height, { shown: to, again: to }));
    expect(await state(height)).toBe('applied');
    expect(await state(id)).toBe('superseded');
  });
  it('stands when the other row is corrected by a size that was weighed with it', async () => {
    const { id } = await waiting();
    await approved(id);
    const height = (await take('Body height', 48, 60)).proposalIds[0]!;
    await approved(height);
    const { to } = (await correctionById(pool(), height))!;
    done(await readBack(as(cell.operator), height, { shown: to, again: to }));
    expect(await state(height)).toBe('applied');
    expect(await state(id)).toBe('approved');
  });
  it('stands with its own other half: those of one reading belong together', async () => {
    await waiting(0, 58);
    await take('Body height', -12, 59);
    const { proposalIds } = await take('Pocket depth', -20, 60);
    expect(proposalIds).toHaveLength(2);
    // approved as one
    await approved(proposalIds[0]!);
    expect(await state(proposalIds[1]!)).toBe('approved');
    for (const id of proposalIds) {
      const { to } = (await correctionById(pool(), id))!;
      expect(done(await readBack(as(cell.operator), id, { shown: to, again: to }))).toEqual({ kept: true });
    }
  });
  it('is turned down with its other half, and ends with it: one alone would do harm', async () => {
    await waiting(0, 58);
    await take('Body height', -12, 59);
    const both = async () => (await take('Pocket depth', -20, 60)).proposalIds;
    const down = await both();
    done(await refuse(as(cell.lead), down[1]!, 'looked at first'));
    expect(await Promise.all(down.map(state))).toEqual(['superseded', 'refused']);
    const [id, other] = await both();
    await approved(other!);
    await cell.asOwner((client) =>
      client.query("UPDATE assembly SET flag = 'expired' WHERE number = 'A-101'"),
    );
    const open = await Promise.all([id!, other!].map(async (each) => (await correctionById(pool(), each))!));
    const ended = await withEnds(pool(), await cell.machine('Avocet'), open);
    expect(ended.map(({ ending }) => ending)).toEqual(Array(2).fill(expect.stringContaining('T1 (A-101)')));
  });
  it('is approved only by whoever may approve both', async () => {
    await waiting(0, 58);
    await take('Body height', -12, 59);
    await cell.asOwner((client) =>
      client.query(
        "UPDATE feature SET operator_limit = 8000 WHERE name = 'Pocket depth' AND program_number = 'O2301'",
      ),
    );
    const { proposalIds } = await take('Pocket depth', -20, 60);
    const all = await Promise.all(proposalIds.map(async (id) => (await correctionById(pool(), id))!));
    const small = all.find(({ change }) => Math.abs(change) <= 8000)!;
    expect(small).toBeDefined();
    expect(refused(await approve(as(cell.operator), cell.operator, small.id))).toMatch(
      /of row \d, which belongs together with it, is over/,
    );
    await approved(small.id);
  });
  it('of another size of the machine, that answers to neither row, is left alone', async () => {
    const { id } = await waiting();
    const { id: registerId, value } = await cell.register('Avocet', 2, 'lengthWear');
    done(
      await foundAtControl(as(cell.setter), {
        registerId,
        before: nanometres(value),
        after: nanometres(value + 9000),
        why: 'the night shift nudged it',
      }),
    );
    expect(await state(id)).toBe('proposed');
  });
});
