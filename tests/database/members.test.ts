import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { cellNow } from '../../src/server/clock.ts';
import { recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { evidenceOf } from '../../src/server/evidence.ts';
import { groupsOf, writeGroup } from '../../src/server/groups.ts';
import { planFor } from '../../src/server/first-part-plan.ts';
import { runningJob } from '../../src/server/jobs.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { measuringOn, nextOnJob } from '../../src/server/now.ts';
import { featureById, programById, type Feature } from '../../src/server/programs.ts';
import { readingTable } from '../../src/server/reading-table.ts';
import { takeReading } from '../../src/server/readings.ts';
import { otherGeometry, wearOf } from '../../src/server/renewals.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let egret: Machine;
let face: Feature;
/** A tool of the magazine that the hub does not call: the sister of T1 from now on, with a row of its own far from its T. */
let sister: number;
const ROW = 41;

beforeEach(async () => {
  cell = await weirside();
  egret = (await machineById(pool(), await cell.machine('Egret')))!;
  face = (await featureById(pool(), await cell.feature('O5103', 'Face height')))!;
  sister = (await row<{ tool: number }>(
    pool(),
    `SELECT s.tool FROM placement s JOIN life_counter c ON c.assembly_id = s.assembly_id JOIN assembly a ON a.id = s.assembly_id
     WHERE s.machine_id = $1 AND s.tool <> 1 AND a.flag IS NULL AND s.tool NOT IN (SELECT tool FROM group_member WHERE machine_id = $1)
       AND s.tool NOT IN (SELECT c.tool FROM program_call c JOIN program g ON g.id = c.program_id WHERE g.number = 'O5103')
     ORDER BY s.tool LIMIT 1`,
    [egret.id],
  ))!.tool;
  done(
    await writeGroup(as(cell.setter), egret, {
      id: null,
      seen: '',
      group: {
        number: 1,
        purpose: 'Face mill and its sister',
        next: 'lowest',
        renewed: 'spareRuns',
        spares: true,
        initialise: false,
        members: [
          { tool: 1, role: 'original', lengthRows: [1], radiusRows: [] },
          { tool: sister, role: 'spare', lengthRows: [ROW], radiusRows: [] },
        ],
      },
    }),
  );
  // both are counted by the piece: who cuts which part is plain
  await cell.asOwner(async (client) => {
    await client.query(
      `UPDATE life_counter c SET basis = 'pieces', per_part = NULL FROM placement s WHERE s.assembly_id = c.assembly_id AND s.machine_id = $1 AND s.tool = ANY($2)`,
      [egret.id, [1, sister]],
    );
  });
  await setLeft(1, 2);
  await setLeft(sister, 100);
});
afterAll(closePool);

const setLeft = (tool: number, remaining: number) =>
  cell.asOwner((client) =>
    client.query(
      `INSERT INTO ledger (kind, stage, person_id, assembly_id, counter_id, before_value, after_value, change_value, said)
       SELECT 'life', 'set', $3, a.id, c.id, c.value, $2, $2 - c.value, 'for the test' FROM placement s JOIN assembly a ON a.id = s.assembly_id
       JOIN life_counter c ON c.assembly_id = a.id WHERE s.machine_id = $4 AND s.tool = $1`,
      [tool, remaining, cell.lead.id, egret.id],
    ),
  );
const job = async () => (await runningJob(pool(), egret.id))!;
const make = async (parts: number) => {
  const { id, made } = await job();
  done(await recordParts(as(cell.operator), { jobId: id, before: made, parts, source: 'typed' }));
};
const take = async (part: number, millimetres: number) => {
  const { id, programId } = await job();
  return done(
    await takeReading(as(cell.operator), {
      featureId: face.id,
      programId,
      jobId: id,
      part,
      measured: Math.round(millimetres * 1e6) as Feature['nominal'],
      confirmed: true,
      firstOff: false,
    }),
  );
};
/** Why the face is measured next. */
const why = async () => {
  const next = await nextOnJob(pool(), { machineId: egret.id, number: 'O5103' }, await job(), cellNow());
  return next.find(({ id }) => id === face.id)!.why;
};
const off = (by: number) => face.target / 1e6 + by;
/** The row and the tool of a correction. */
const rowOf = async (proposal: number) => {
  const found = (await correctionById(pool(), proposal))!;
  expect(found.tool).toBe(found.row === ROW ? sister : 1);
  return found.row;
};

describe('a part that the spare of a group cut', () => {
  it('is corrected in the spare’s row, and says nothing of the edge that cut before it', async () => {
    const { made } = await job();
    await make(5);
    expect((await groupsOf(pool(), egret.id)).find(({ number }) => number === 1)!.inUse).toBe(sister);
    const own = (await evidenceOf(pool(), egret, face)).readings.length;
    const { answer, proposalIds } = await take(made + 5, off(0.03));
    expect(answer.verdict).toBe('change');
    expect(await rowOf(proposalIds[0]!)).toBe(ROW);
    // what is known of T1’s edge is what its own parts showed
    const [before, spare] = [
      await evidenceOf(pool(), egret, face),
      await evidenceOf(pool(), egret, { ...face, tool: sister, row: ROW }),
    ];
    expect(before.readings.length).toBe(own);
    expect(spare.readings.map(({ measured }) => measured / 1e6)).toEqual([off(0.03)]);
    expect(spare.registers.map((each) => each.row)).toEqual([ROW]);
  });

  it('a part of the one that cut before, measured late, is kept and moves nothing', async () => {
    const { made } = await job();
    await make(5);
    const own = (await evidenceOf(pool(), egret, face)).readings.length;
    const { answer, proposalIds } = await take(made + 2, off(0.03));
    expect(answer.verdict).toBe('leave');
    expect(answer.reason).toContain(`T${sister} cuts now`);
    expect(proposalIds).toEqual([]);
    expect((await evidenceOf(pool(), egret, face)).readings.length).toBe(own + 1);
  });

  it('is known before it is counted: the control takes over without a word', async () => {
    const { made } = await job();
    // two parts are left of T1: the third is the sister’s
    expect(await rowOf((await take(made + 3, off(0.03))).proposalIds[0]!)).toBe(ROW);
    await make(3);
    expect(await rowOf((await take(made + 4, off(0.035))).proposalIds[0]!)).toBe(ROW);
  });

  it('is T1’s again once the count by which it was the spare’s was taken back', async () => {
    const { made } = await job();
    await make(2);
    await make(3);
    const last = (await lastCount(pool(), (await job()).id))!;
    done(
      await takeBackCount(as(cell.operator), {
        jobId: (await job()).id,
        count: last.id,
        before: made + 5,
        why: 'Counted twice.',
      }),
    );
    const own = (await evidenceOf(pool(), egret, face)).readings.length;
    await take(made + 2, off(0.001));
    expect((await evidenceOf(pool(), egret, face)).readings.length).toBe(own + 1);
  });

  it('its correction ends with its edge: a spare that is renewed was not what the parts were cut with', async () => {
    const { made } = await job();
    await make(5);
    const [proposal] = (await take(made + 5, off(0.03))).proposalIds;
    await cell.asOwner((client) =>
      client.query(
        `INSERT INTO ledger (kind, stage, person_id, machine_id, tool, assembly_id, counter_id, before_value, after_value, change_value, said)
         SELECT 'life', 'renewed', $2, s.machine_id, s.tool, c.assembly_id, c.id, c.value, c.value, 0, 'renewed' FROM placement s
         JOIN life_counter c ON c.assembly_id = s.assembly_id WHERE s.machine_id = $3 AND s.tool = $1`,
        [sister, cell.lead.id, egret.id],
      ),
    );
    expect((await correctionById(pool(), proposal!))!.state).toBe('superseded');
  });

  it('is shown with the tool and row that cut next, and a first part is brought in by them', async () => {
    const shown = async () => {
      const running = await job();
      const { features } = (await measuringOn(pool(), egret, running, running.programId))!;
      const { tool, row: at } = features.find(({ id }) => id === face.id)!;
      const { plan } = await planFor(pool(), egret, {
        programId: running.programId,
        school: 'safeSide',
        sizes: [{ featureId: face.id, allowance: 0 as Feature['nominal'] }],
      });
      return [tool, at, plan.sizes[0]!.tool, plan.sizes[0]!.row, plan.registers.map((each) => each.row)];
    };
    expect(await shown()).toEqual([1, 1, 1, 1, [1]]);
    await make(5);
    expect(await shown()).toEqual([sister, ROW, sister, ROW, [ROW]]);
  });

  it('a first part that it roughs is keyed into its row, and is not begun where nobody can tell which that is', async () => {
    const depth = await cell.feature('O5103', 'Body depth');
    const rougher = (at: number) =>
      cell.asOwner((client) =>
        client.query(
          'UPDATE feature SET rough_tool = 1, rough_row = $2, rough_stock = 300000 WHERE id = $1',
          [depth, at],
        ),
      );
    const rough = async (featureId = depth) => {
      const { plan } = await planFor(pool(), egret, {
        programId: (await job()).programId,
        school: 'safeSide',
        sizes: [{ featureId, allowance: 0 as Feature['nominal'] }],
      });
      return plan.sizes[0]!.rough && [plan.sizes[0]!.rough.tool, plan.sizes[0]!.rough.row];
    };
    await rougher(1);
    expect(await rough()).toEqual([1, 1]);
    await make(5);
    expect(await rough()).toEqual([sister, ROW]);
    await rougher(7);
    await expect(rough()).rejects.toThrow(/Body depth: nobody can tell which row/);
    await cell.asOwner((client) => client.query('UPDATE feature SET row = 7 WHERE id = $1', [face.id]));
    await expect(rough(face.id)).rejects.toThrow(/Face height: nobody can tell which row/);
  });

  it('is measured at once where the plan wants that of a new edge', async () => {
    await cell.asOwner((client) =>
      client.query(`UPDATE feature SET also = '{renewal}' WHERE id = $1`, [face.id]),
    );
    const { made } = await job();
    await take(made + 1, off(0));
    await make(2);
    expect(await why()).not.toBe('afterRenewal');
    await make(1);
    expect(await why()).toBe('afterRenewal');
    await take(made + 3, off(0));
    expect(await why()).not.toBe('afterRenewal');
  });

  it('does not wait for a part to tell of a correction that was keyed for the one before', async () => {
    await setLeft(1, 6);
    const { made } = await job();
    const [proposal] = (await take(made + 1, off(0.03))).proposalIds;
    done(await approve(as(cell.lead), cell.lead, proposal!));
    const { to } = (await correctionById(pool(), proposal!))!;
    done(await readBack(as(cell.operator), proposal!, { shown: to, again: to }));
    expect(await why()).toBe('afterCorrection');
    await make(7);
    expect(await why()).not.toBe('afterCorrection');
  });

  it('was told in words alone before: what was typed until then was cut by the one before', async () => {
    const { made } = await job();
    await take(made, off(0));
    const own = (await evidenceOf(pool(), egret, face)).readings.length;
    await cell.asOwner(async (client) => {
      await client.query(
        `INSERT INTO ledger (kind, stage, person_id, machine_id, tool, said, detail)
         VALUES ('machine', 'group', $1, $2, $3, 'T' || $3::integer || ' took over from T1 in group 1.', '{"group": 1}')`,
        [cell.lead.id, egret.id, sister],
      );
      await client.query('UPDATE tool_group SET in_use = $2 WHERE machine_id = $1 AND number = 1', [
        egret.id,
        sister,
      ]);
    });
    expect(own).toBeGreaterThan(0);
    expect((await evidenceOf(pool(), egret, face)).readings).toHaveLength(own);
    expect((await evidenceOf(pool(), egret, { ...face, tool: sister, row: ROW })).readings).toEqual([]);
  });

  it('the table of readings says what the row held that cut it', async () => {
    const wear = (await cell.register('Egret', ROW, 'lengthWear')).value;
    const { made, programId } = await job();
    await make(5);
    await take(made + 2, off(0.001));
    await take(made + 5, off(0.002));
    await cell.asOwner((client) =>
      client.query(
        `INSERT INTO ledger (kind, stage, person_id, machine_id, register_id, before_value, after_value, change_value, said)
         SELECT 'register', 'measured', $1, machine_id, id, value, value + 7000, 7000, 'for the test' FROM register
         WHERE machine_id = $2 AND row = $3 AND kind = 'lengthWear'`,
        [cell.lead.id, egret.id, ROW],
      ),
    );
    const program = (await programById(pool(), programId))!;
    const [head, ...lines] = (await readingTable(pool(), program, null, 'UTC'))
      .split('\r\n')
      .map((line) => line.split(','));
    const cells = (part: number) => {
      const line = lines.find((each) => each[head!.indexOf('part')] === String(part))!;
      return Number(line[head!.indexOf('wear')]);
    };
    expect(cells(made + 5)).toBe(wear / 1e6);
    expect(cells(made + 2)).toBe((await cell.register('Egret', 1, 'lengthWear')).value / 1e6);
  });

  it('with few parts left is not corrected: the next one takes over before anybody could see that it took', async () => {
    const { made } = await job();
    const { proposalIds, answer } = await take(made, off(0.03));
    expect(proposalIds).toEqual([]);
    expect(answer.reason).toContain('has 2 parts left, and then the next of its group cuts');
  });

  it('ends what waited to be keyed for the one that does not cut any more', async () => {
    await setLeft(1, 6);
    const { made } = await job();
    const [proposal] = (await take(made + 1, off(0.03))).proposalIds;
    expect(await rowOf(proposal!)).toBe(1);
    await make(6);
    expect((await correctionById(pool(), proposal!))!.state).toBe('proposed');
    await make(1);
    const ended = (await correctionById(pool(), proposal!))!;
    expect([ended.state, ended.withdrawn]).toEqual([
      'superseded',
      expect.stringContaining(`T${sister} took over from T1`),
    ]);
  });

  it('where its rows do not say which stands for the plan’s, nobody guesses', async () => {
    await cell.asOwner((client) => client.query('UPDATE feature SET row = 7 WHERE id = $1', [face.id]));
    const { made } = await job();
    await make(5);
    const { answer, readingId } = await take(made + 5, off(0.03));
    expect([answer.verdict, readingId === null]).toEqual(['leave', false]);
    expect(answer.reason).toContain('do not say which of them stands for row 7');
  });
});

describe('the rows of a member', () => {
  const hold = (rowNumber: number, kind: string, value: number) =>
    cell.asOwner((client) =>
      client.query('UPDATE register SET value = $3 WHERE machine_id = $4 AND row = $1 AND kind = $2', [
        rowNumber,
        kind,
        value,
        egret.id,
      ]),
    );
  it('are gone over when it is renewed, whatever the programs call', async () => {
    await hold(ROW, 'lengthWear', 12_000);
    await hold(ROW, 'lengthGeometry', 145_000_000);
    expect((await wearOf(pool(), egret.id, sister)).map((each) => each.row)).toContain(ROW);
    expect((await otherGeometry(pool(), egret.id, sister)).map((each) => each.row)).toEqual([ROW]);
    expect((await wearOf(pool(), egret.id, 1)).map((each) => each.row)).not.toContain(ROW);
  });
});
