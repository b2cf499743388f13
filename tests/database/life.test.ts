import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { assemblyById } from '../../src/server/assemblies.ts';
import { correctionById, openCorrections } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { withEnds } from '../../src/server/edge-at-end.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import { keepLifeCosts, lifeCostsOf } from '../../src/server/life-costs.ts';
import { foundAtControl } from '../../src/server/registers.ts';
import { writeDefinition } from '../../src/server/definitions.ts';
import { placeTool } from '../../src/server/places.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { setLifeLimit, stopCounting } from '../../src/server/lives.ts';
import { addJob, moveJob } from '../../src/server/jobs.ts';
import { disagreements } from '../../src/server/ledger.ts';
import {
  callsOf,
  importProgram,
  materials,
  programById,
  programText,
  setMaterial,
} from '../../src/server/programs.ts';
import { ranOf } from '../../src/server/edge-ends.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { takeReading } from '../../src/server/readings.ts';
import {
  openRenewal,
  otherGeometry,
  startRenewal,
  wearOf,
  type StepData,
} from '../../src/server/renewals.ts';
import { as, done, refused, weirside } from '../support/cell.ts';
import { stepOf } from '../support/egret.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const left = async (number: string) => (await assemblyById(pool(), await cell.assembly(number)))!.remaining!;
const made = async (program: string) =>
  (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [await cell.job(program)]))!
    .made;
const record = async (program: string, parts: number) =>
  recordParts(as(cell.operator), {
    jobId: await cell.job(program),
    before: await made(program),
    parts,
    source: 'typed',
  });

describe('a tool that is not managed', () => {
  const stop = async (number: string, why = 'seldom used') =>
    stopCounting(as(cell.lead), { assemblyId: await cell.assembly(number), why });
  const standing = async (number: string) => (await assemblyById(pool(), await cell.assembly(number)))!;

  it('is not counted and not expired any more; what it counted stays in the ledger', async () => {
    await cell.asOwner((db) => db.query(`UPDATE assembly SET flag = 'expired' WHERE number = 'A-105'`));
    const entries = async () =>
      cell.count(`FROM ledger WHERE kind = 'life' AND assembly_id = $1`, await cell.assembly('A-105'));
    done(await record('O2301', 1));
    const before = await entries();
    done(await stop('A-105'));
    expect(await standing('A-105')).toMatchObject({ basis: null, remaining: null, flag: null });
    // a count from before that is taken back gives it nothing, and the others theirs
    const jobId = await cell.job('O2301');
    const { id } = (await lastCount(pool(), jobId))!;
    const other = await left('A-114');
    done(
      await takeBackCount(as(cell.operator), { jobId, count: id, before: await made('O2301'), why: 'twice' }),
    );
    expect(await left('A-114')).toBeGreaterThan(other);
    done(await record('O2301', 1));
    expect(await entries()).toBe(before);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('is counted anew by another counter, with what somebody says is left of it', async () => {
    const old = (await standing('A-105')).counterId;
    done(await stop('A-105'));
    expect(refused(await stop('A-105'))).toMatch(/not counted as it is/);
    done(
      await setLifeLimit(as(cell.lead), {
        assemblyId: await cell.assembly('A-105'),
        basis: 'holes',
        fullLife: 500,
        left: 200,
        why: 'counted again',
      }),
    );
    const now = await standing('A-105');
    expect(now).toMatchObject({ basis: 'holes', fullLife: 500, remaining: 200 });
    expect(now.counterId).not.toBe(old);
  });
  it('is so once by two people at once, and for a reason', async () => {
    expect(refused(await stop('A-105', ' '))).toMatch(/Say why/);
    const both = await Promise.all([stop('A-105'), stop('A-105')]);
    expect(both.filter(({ ok }) => ok).length).toBe(1);
  });
  it('no counter passes from one tool to another, not even past the application', async () => {
    const counter = (await standing('A-105')).counterId;
    await expect(
      pool().query('UPDATE life_counter SET assembly_id = $2 WHERE id = $1', [
        counter,
        await cell.assembly('A-103'),
      ]),
    ).rejects.toThrow(/counts one tool/);
  });
});

describe('parts made', () => {
  it('take from every counter of the program: holes by holes, pieces by pieces, minutes by time in cut', async () => {
    const before = {
      drill: await left('A-105'),
      reamer: await left('A-114'),
      boring: await left('A-108'),
      mill: await left('A-101'),
    };
    const cut = (await row<{ ms: number }>(
      pool(),
      'SELECT cut_milliseconds AS ms FROM program_call WHERE program_id = $1 AND tool = 1',
      [await cell.program('O2301')],
    ))!.ms;
    done(await record('O2301', 3));
    expect(await left('A-105')).toBe(before.drill - 3 * 8);
    expect(await left('A-114')).toBe(before.reamer - 3 * 4);
    expect(await left('A-108')).toBe(before.boring - 3);
    expect(await left('A-101')).toBe(before.mill - 3 * cut);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('two a bar: two parts take one cycle of holes', async () => {
    const before = await left('L-203');
    done(await record('O1402', 2));
    expect(await left('L-203')).toBe(before - 2);
  });
  it('two people record the same parts: one counts, the other is told', async () => {
    const jobId = await cell.job('O2301');
    const before = await made('O2301');
    const outcomes = await Promise.all(
      [cell.operator, cell.setter].map((person) =>
        recordParts(as(person), { jobId, before, parts: 2, source: 'typed' }),
      ),
    );
    expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
    expect(outcomes.map(refused).join()).toMatch(/Somebody recorded parts|moved since/);
    expect(await made('O2301')).toBe(before + 2);
  });
  it('eight uses left make eight parts, on Curlew too: that its control expires below zero is a matter of keying', async () => {
    expect(await left('L-202')).toBe(8);
    expect(done(await record('O1402', 7)).expired).toEqual([]);
    expect((await assemblyById(pool(), await cell.assembly('L-202')))!.flag).toBeNull();
    expect(done(await record('O1402', 1)).expired).toEqual(['T2 (L-202)']);
    expect(await assemblyById(pool(), await cell.assembly('L-202'))).toMatchObject({
      flag: 'expired',
      remaining: 0,
    });
  });
  it('at zero on Avocet; the part in which it expires is finished, and the overrun stays in the record', async () => {
    const parts = Math.ceil((await left('A-102')) / 436_000) + 1;
    const outcome = done(await record('O2301', parts));
    expect(outcome.expired).toContain('T2 (A-102)');
    expect(await left('A-102')).toBeLessThan(0);
  });
  it('are not recorded on a job that does not run', async () => {
    expect(refused(await record('O2310', 1))).toMatch(/not running/);
  });
  it('one job runs on a machine at a time', async () => {
    const fresh = done(
      await addJob(as(cell.lead), {
        programId: await cell.program('O2310'),
        quantity: 5,
        cycleMilliseconds: 60_000,
      }),
    );
    expect(refused(await moveJob(as(cell.setter), { jobId: fresh, move: 'start' }))).toMatch(
      /O2301 is running/,
    );
  });
});

describe('readiness on real data', () => {
  it('finds the slip in the cover plate, the broken ball mill and the tool that runs out', async () => {
    const program = (await programById(pool(), await cell.program('O2310')))!;
    const found = (await readinessOf(pool(), program, 40, [])).map(
      (finding) => `T${finding.tool} ${finding.code}`,
    );
    expect(found).toContain('T14 rowDoesNotFollow');
    expect(found).toContain('T12 broken');
    expect(found).toContain('T2 runsOut');
  });
  it('says when what stands under a T is not what is asked for', async () => {
    const program = (await programById(pool(), await cell.program('O2205')))!;
    const found = async () =>
      (await readinessOf(pool(), program, 12, [])).filter((finding) => finding.code === 'notAsAsked');
    expect(await found()).toEqual([]);
    done(
      await writeDefinition(as(cell.lead), {
        programId: program.id,
        tool: 9,
        kind: 'drill',
        diameter: lengthOf(7.1, 'mm'),
        cornerRadius: null,
        reach: null,
        teeth: null,
        thread: '',
        leftHand: null,
        leastLife: null,
      }),
    );
    expect(await found()).toEqual([
      expect.objectContaining({
        tool: 9,
        weight: 'look',
        sentence: expect.stringMatching(/^T9, assembly .* across, 7.100 mm is asked for/),
      }),
    ]);
  });
  it('finds the drill that was never measured', async () => {
    const program = (await programById(pool(), await cell.program('O2205')))!;
    expect(
      (await readinessOf(pool(), program, 12, [])).map((finding) => `T${finding.tool} ${finding.code}`),
    ).toContain('T9 zeroLength');
  });
});

describe('how an edge ran', () => {
  it('its speed, minutes and material come from the programs it was counted for; two speeds are none', async () => {
    const id = await cell.program('O2301');
    done(await setMaterial(as(cell.lead), { programId: id, material: 'C45' }));
    expect(refused(await setMaterial(as(cell.lead), { programId: id, material: 'C45' }))).toMatch(/already/);
    const reamer = await cell.assembly('A-114');
    const edge = async () => ranOf(pool(), (await assemblyById(pool(), reamer))!);
    // a renewal long ago began it anew
    await cell.asOwner((db) =>
      db.query(
        `INSERT INTO ledger (kind, stage, person_id, counter_id, assembly_id, said, why, before_value, after_value, change_value)
         SELECT 'life', 'renewed', 1, c.id, c.assembly_id, 'renewed', '', c.value, c.value, 0 FROM life_counter c WHERE assembly_id = $1`,
        [reamer],
      ),
    );
    expect(await edge()).toEqual({ program: null, material: null, speed: null, cutMilliseconds: null });
    done(await record('O2301', 3));
    const call = (await callsOf(pool(), id)).find(({ tool }) => tool === 14)!;
    const diameter = (await assemblyById(pool(), reamer))!.diameter / 1e6;
    expect(await edge()).toEqual({
      program: 'O2301',
      material: 'C45',
      speed: expect.closeTo((Math.PI * diameter * call.speeds!.most) / 1000, 6),
      cutMilliseconds: 3 * call.cutMilliseconds,
    });
    // the next revision turns it faster: the edge has seen both
    const text = (await programText(pool(), id)).replace(/(T14 M6[^]*?S)\d+/, `$1${2 * call.speeds!.most}`);
    const revision = await importProgram(pool(), cell.lead.id, {
      machineId: await cell.machine('Avocet'),
      fileName: 'O2301.nc',
      text,
      partsPerCycle: 1,
    });
    expect((await programById(pool(), revision))!.material).toBe('C45');
    await cell.asOwner((db) =>
      db.query('UPDATE job SET program_id = $1 WHERE program_id = $2', [revision, id]),
    );
    done(await record('O2301', 1));
    expect(await edge()).toMatchObject({ program: 'O2301', material: 'C45', speed: null });
  });
  it('materials are spelt one way', async () => {
    const [one, other] = [await cell.program('O2301'), await cell.program('O2205')];
    done(await setMaterial(as(cell.lead), { programId: one, material: 'Ck 45' }));
    done(await setMaterial(as(cell.lead), { programId: other, material: 'CK 45' }));
    expect((await programById(pool(), other))!.material).toBe('Ck 45');
    expect((await materials(pool())).filter((each) => /ck 45/i.test(each))).toEqual(['Ck 45']);
  });
});

describe('renewal', () => {
  const step = async (
    number: string,
    over: Partial<StepData> & Pick<StepData, 'step'>,
    person = cell.setter,
  ) => stepOf(cell, await cell.assembly(number), over.step, { what: '', ...over }, person);
  const seat = async (part: number) =>
    done(
      await takeReading(as(cell.operator), {
        featureId: await cell.feature('O1402', 'Bearing seat OD'),
        programId: await cell.program('O1402'),
        jobId: await cell.job('O1402'),
        part,
        measured: lengthOf(1.3788, 'in'),
        confirmed: true,
        firstOff: false,
      }),
    );
  it('a correction that was approved before its edge came to its end says so beside what is to be keyed', async () => {
    const proposalId = (await seat(150)).proposalIds[0]!;
    const { machineId } = (await correctionById(pool(), proposalId))!;
    const ending = async () =>
      (await withEnds(pool(), machineId, await openCorrections(pool(), machineId))).find(
        ({ id }) => id === proposalId,
      )!.ending;
    done(await record('O1402', 6));
    // what nobody approved is nobody's to key
    expect(await ending()).toBeNull();
    done(await approve(as(cell.lead), cell.lead, proposalId));
    expect(await ending()).toContain('T2 (L-202) has 2 parts left: renew it now');
    done(await record('O1402', 2));
    expect(await ending()).toContain('is at the end of its edge');
  });
  it('a part that was measured was cut with it, whoever has counted it', async () => {
    // eight parts are left by the record, two after the one that is measured
    const few = await seat(156);
    expect(few).toMatchObject({ proposalIds: [], answer: { verdict: 'leave' } });
    expect(few.answer.reason).toContain('T2 (L-202) has 2 parts left: renew it now');
    expect((await seat(158)).answer.reason).toContain('T2 (L-202) is at the end of its edge: renew it');
  });
  it('an edge at its end is renewed, not corrected; half renewed, or broken, it is corrected by nobody', async () => {
    // eight parts are left
    expect((await seat(150)).proposalIds).toHaveLength(1);
    done(await record('O1402', 6));
    const few = await seat(156);
    expect(few).toMatchObject({ proposalIds: [], answer: { verdict: 'leave' } });
    expect(few.answer.reason).toContain('T2 (L-202) has 2 parts left: renew it now');
    done(await record('O1402', 2));
    expect((await seat(158)).answer.reason).toContain('T2 (L-202) is at the end of its edge: renew it');
    const id = await cell.assembly('L-202');
    done(await startRenewal(as(cell.setter), id));
    expect((await seat(158)).answer.reason).toContain('is at the end of its edge');
    done(await step('L-202', { step: 'changed', what: 'fresh edge 2 of 2' }));
    expect((await seat(159)).answer.reason).toContain('T2 (L-202) is half renewed');
  });
  it('goes through its five steps in order, by several people, and leaves a full, clean, measured tool without wear', async () => {
    done(await record('O1402', 9));
    const id = await cell.assembly('L-202');
    done(await startRenewal(as(cell.setter), id));
    expect(refused(await startRenewal(as(cell.crib), id))).toMatch(/under way/);
    expect(refused(await step('L-202', { step: 'flagCleared' }))).toMatch(/comes first/);
    expect(refused(await step('L-202', { step: 'changed' }))).toMatch(/Say what was changed/);
    done(await step('L-202', { step: 'changed', what: 'fresh edge 2 of 2' }));
    expect(refused(await step('L-202', { step: 'lifeSet', life: 159 }))).toMatch(/more than its full life/);
    done(await step('L-202', { step: 'lifeSet', life: 158 }, cell.crib));
    done(await step('L-202', { step: 'flagCleared' }));
    const [x, z] = [
      await cell.register('Curlew', 2, 'xGeometry'),
      await cell.register('Curlew', 2, 'zGeometry'),
    ];
    const values = [
      { kind: 'xGeometry', before: x.value as Length, value: lengthOf(-8.4751, 'in') },
      { kind: 'zGeometry', before: z.value as Length, value: lengthOf(-19.8217, 'in') },
    ];
    expect(
      refused(
        await step('L-202', { step: 'measured', row: 2, values: [{ ...values[0]!, value: 0 as Length }] }),
      ),
    ).toMatch(/zero is not a measurement/);
    // the second part on the bar is cut by the same edge, with row 22
    expect(refused(await step('L-202', { step: 'measured', row: 2, values }))).toMatch(
      /called with row 22 too: measure its X geometry/,
    );
    const second = await otherGeometry(pool(), await cell.machine('Curlew'), 2);
    expect(second.map(({ row: at, kind }) => `${at} ${kind}`)).toEqual(['22 xGeometry', '22 zGeometry']);
    const others = second.map(({ id: registerId, value: before }) => ({
      registerId,
      before,
      value: (before + 2540) as Length,
    }));
    done(await step('L-202', { step: 'measured', row: 2, values, others }));
    expect((await cell.register('Curlew', 22, 'zGeometry')).value).toBe(others[1]!.value);
    expect((await cell.register('Curlew', 2, 'xWear')).value).not.toBe(0);
    const worn = await wearOf(pool(), await cell.machine('Curlew'), 2);
    const shown = worn.map(({ id: registerId }) => ({ registerId, value: 0 as Length }));
    expect(refused(await step('L-202', { step: 'wearZeroed' }))).toMatch(/Type what X wear of row 2 shows/);
    const still = shown.map((each, i) => (i === 0 ? { ...each, value: worn[0]!.value } : each));
    expect(refused(await step('L-202', { step: 'wearZeroed', shown: still }))).toMatch(
      /still shows the old edge/,
    );
    done(await step('L-202', { step: 'wearZeroed', shown }));
    expect((await cell.register('Curlew', 2, 'xWear')).value).toBe(0);
    expect((await cell.register('Curlew', 2, 'xGeometry')).value).toBe(values[0]!.value);
    expect(await assemblyById(pool(), id)).toMatchObject({ flag: null, remaining: 158 });
    expect(await openRenewal(pool(), id)).toBeNull();
    expect(await disagreements(pool())).toEqual([]);
  });
  it('a second row counts as the tool’s, until another tool is loaded whose own row it is', async () => {
    const machineId = await cell.machine('Avocet');
    const { id: registerId } = await cell.register('Avocet', 22, 'cutterWear');
    done(
      await foundAtControl(as(cell.setter), {
        registerId,
        before: 0 as Length,
        after: 4000 as Length,
        why: 'the rougher’s own allowance',
      }),
    );
    const rowsOf2 = async () => (await wearOf(pool(), machineId, 2)).map((register) => register.row);
    expect(await rowsOf2()).toEqual([22]);
    done(
      await placeTool(as(cell.setter), {
        placeId: await cell.place('Avocet', 1),
        assemblyId: await cell.assembly('A-141'),
        tool: 22,
      }),
    );
    expect(await rowsOf2()).toEqual([]);
  });
  it('a step pressed by two at once is taken once', async () => {
    done(await startRenewal(as(cell.setter), await cell.assembly('A-143')));
    const outcomes = await Promise.all(
      [cell.setter, cell.crib].map((person) => step('A-143', { step: 'changed', what: 'reground' }, person)),
    );
    expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
    expect(await cell.count('FROM renewal_step WHERE step = $1', 'changed')).toBe(1);
  });
  it('a broken tool may be renewed at once, but stays flagged until its quarantine ends', async () => {
    const id = await cell.assembly('A-112');
    expect(
      refused(await flagAssembly(as(cell.operator), { assemblyId: id, flag: null, why: 'parts inspected' })),
    ).toMatch(/end its quarantine/);
    done(await startRenewal(as(cell.crib), id));
    expect((await assemblyById(pool(), id))!.flag).toBe('broken');
  });
});

describe('costs of a machine', () => {
  it('are kept for all its tools by whoever types them last, with an entry', async () => {
    const avocet = await cell.machine('Avocet');
    expect(await lifeCostsOf(pool(), avocet)).toBeNull();
    const costs = { changeMinutes: 7.5, hourCents: 8500, failureCents: 12_000 };
    done(await keepLifeCosts(as(cell.lead), avocet, costs));
    done(await keepLifeCosts(as(cell.setter), avocet, { ...costs, hourCents: 9000 }));
    expect(await lifeCostsOf(pool(), avocet)).toMatchObject({
      ...costs,
      hourCents: 9000,
      person: cell.setter.name,
    });
    expect(await cell.count(`FROM ledger WHERE kind = 'machine' AND stage = 'lifeCosts'`)).toBe(2);
    expect(refused(await keepLifeCosts(as(cell.lead), 999, costs))).toBe('There is no such machine.');
  });
});
