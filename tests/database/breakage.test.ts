import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf, nanometres, type Length } from '../../src/core/units/length.ts';
import { assemblyById } from '../../src/server/assemblies.ts';
import { recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { answering, typedAgo } from '../../src/server/asked.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { palletsOf, setNightSchool } from '../../src/server/pallets.ts';
import { placeTool, takeOut } from '../../src/server/places.ts';
import { programById } from '../../src/server/programs.ts';
import {
  answerParts,
  clearQuarantine,
  heldBack,
  quarantineOf,
  standOf,
  withdrawQuarantine,
} from '../../src/server/quarantine.ts';
import { quarantineSheet } from '../../src/server/quarantine-sheet.ts';
import { scrapParts } from '../../src/server/scrapped.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { startRenewal, takeStep } from '../../src/server/renewals.ts';
import { checksOf, decideCheck, takeCheck } from '../../src/server/tool-checks.ts';
import { UNKNOWN } from '../../src/core/agent/machine-state.ts';
import { unheard } from '../../src/server/agents/poll.ts';
import { keepHeard } from '../../src/server/agents/states.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => {
  cell = await weirside();
});
afterAll(closePool);

const machine = async (name: string) => (await machineById(pool(), await cell.machine(name)))!;
const mm = (value: number) => lengthOf(value, 'mm');
const flagOf = async (number: string) => (await assemblyById(pool(), await cell.assembly(number)))!.flag;

/** A check on the setter, of a tool that has changed by so much. */
async function check(
  on: Machine,
  tool: number,
  change: Length,
  lastPart: number | null = null,
  who = cell.setter,
) {
  const there = (await checksOf(pool(), on)).find((each) => each.tool === tool)!;
  return takeCheck(as(who), on, {
    tool,
    assemblyId: there.assemblyId,
    method: 'setter',
    measured: nanometres(there.reference! + change),
    lastPart,
    source: 'typed',
  });
}
const stand = async (number: string) => {
  const id = await cell.assembly(number);
  return standOf(pool(), (await quarantineOf(pool(), id))!);
};
const answer = async (
  number: string,
  job: number,
  [from, to]: readonly [number, number],
  outcome: 'good' | 'rework' | 'scrap' = 'good',
  over: { found?: string; again?: boolean; allBefore?: boolean } = {},
  who = cell.inspector,
) =>
  answerParts(as(who), {
    assemblyId: await cell.assembly(number),
    job,
    from,
    to,
    outcome,
    found: '',
    again: false,
    allBefore: false,
    ...over,
  });
async function record(program: string, parts: number) {
  const jobId = await cell.job(program);
  const { made } = (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [jobId]))!;
  done(await recordParts(as(cell.operator), { jobId, before: made, parts, source: 'typed' }));
  return { jobId, made: made + parts };
}
/** Changed, life set, flag step, measured, wear zeroed. */
async function renew(number: string, to: 'changed' | 'measured' | 'all' = 'all') {
  const assemblyId = await cell.assembly(number);
  const tool = (await assemblyById(pool(), assemblyId))!;
  const on = await machineById(pool(), tool.machineId!);
  const base = {
    assemblyId,
    what: 'a new one',
    ended: { end: 'broken' as const, sign: null, flank: null },
    row: tool.tool,
    life: tool.fullLife,
    values: [],
    gaugeLength: null,
    others: [],
    shown: [],
  };
  if (
    !(await row(pool(), 'SELECT 1 FROM renewal WHERE assembly_id = $1 AND finished_at IS NULL', [assemblyId]))
  ) {
    done(await startRenewal(as(cell.setter), assemblyId));
    done(await takeStep(as(cell.setter), { ...base, step: 'changed' }));
  }
  if (to === 'changed') return;
  done(await takeStep(as(cell.setter), { ...base, step: 'lifeSet' }));
  done(await takeStep(as(cell.setter), { ...base, step: 'flagCleared' }));
  const kind = on!.kind === 'mill' ? 'lengthGeometry' : 'zGeometry';
  const register = await cell.register(on!.name, tool.tool!, kind);
  done(
    await takeStep(as(cell.setter), {
      ...base,
      step: 'measured',
      values: [{ kind, value: nanometres(register.value + 20_000), before: nanometres(register.value) }],
    }),
  );
  if (to === 'measured') return;
  const wear = await cell.register(on!.name, tool.tool!, 'lengthWear');
  done(
    await takeStep(as(cell.setter), {
      ...base,
      step: 'wearZeroed',
      shown: [{ registerId: wear.id, value: nanometres(0) }],
    }),
  );
}

describe('the broken drill of the demo', () => {
  it('of a tool that came and was not measured yet nothing says that it broke: its row holds the one before', async () => {
    const avocet = await machine('Avocet');
    const five = async () => (await checksOf(pool(), avocet)).find(({ tool }) => tool === 5)!;
    const place = (await row<{ id: number }>(
      pool(),
      'SELECT place_id AS id FROM placement WHERE machine_id = $1 AND tool = 5',
      [avocet.id],
    ))!;
    const before = await five();
    expect(before.reference).not.toBeNull();
    done(await takeOut(as(cell.setter), { placeId: place.id, assemblyId: before.assemblyId, why: 'worn' }));
    const assemblyId = await cell.assembly('A-142');
    done(await placeTool(as(cell.setter), { placeId: place.id, assemblyId, tool: 5, knob: avocet.knob }));
    expect((await five()).reference).toBeNull();
    // as long as it is, and shorter than the one that stood there
    const told = done(
      await takeCheck(as(cell.setter), avocet, {
        tool: 5,
        assemblyId,
        method: 'setter',
        measured: nanometres(before.reference! - mm(2)),
        lastPart: null,
        source: 'typed',
      }),
    );
    expect(told).toMatchObject({ verdict: 'cannotTell' });
    expect(await flagOf('A-142')).toBeNull();
  });
  it('holds back the parts since its last good check, one of them answered; the tap after it is named', async () => {
    const sheet = (await quarantineSheet(pool(), await cell.assembly('B-303')))!;
    const job = await cell.job('O3104');
    expect(sheet.ranges).toEqual([{ job, from: 4, to: 6 }]);
    expect(sheet.lastGood).toMatchObject({ how: 'setter', afterPart: 3 });
    expect(sheet.open).toBe(2);
    expect(sheet.lacks).toEqual(['2 parts are not inspected yet.', 'The tool is not replaced yet.']);
    const [after] = sheet.later;
    expect(after!.cuts[0]).toMatchObject({ tool: 8, hurt: true });
    expect(after!.cuts.map(({ tool }) => tool)).toEqual([8, 12, 15]);
    expect(sheet.callers.programs.map(({ number, running }) => [number, running])).toEqual([['O3104', true]]);
    // the part in the machine comes first
    expect(sheet.listed.map(({ part, inMachine }) => [part, inMachine])).toEqual([
      [6, true],
      [5, false],
      [4, false],
    ]);
  });
  it('parts that are found to be scrap are asked for with their job, until they are on record there', async () => {
    const job = await cell.job('O3104');
    const scrap = async () => (await quarantineSheet(pool(), await cell.assembly('B-303')))!.scrap;
    const before = (await scrap())[0]?.here ?? 0;
    done(await answer('B-303', job, [5, 5], 'scrap', { found: 'tap broke in it', again: true }));
    expect(await scrap()).toMatchObject([{ number: 'O3104', scrapped: 0, here: before + 1 }]);
    done(
      await scrapParts(as(cell.operator), {
        jobId: job,
        shown: 0,
        scrapped: before + 1,
        again: true,
        why: 'the tap broke in it',
      }),
    );
    expect(await scrap()).toEqual([]);
  });
  it('what was found broken out of a cut since it was last whole holds nothing back', async () => {
    expect(await stand('A-112')).toMatchObject({ ranges: [], lacks: ['The tool is not replaced yet.'] });
  });
  it('stands on the lists of the cell with what is to be done', async () => {
    expect(
      (await heldBack(pool())).map(({ number, parts, open, replaced }) => [number, parts, open, replaced]),
    ).toEqual([
      ['A-112', 0, 0, false],
      ['B-303', 3, 2, false],
    ]);
  });
});

describe('a quarantine', () => {
  it('ends only when every part is answered, the tool replaced and measured, by somebody; then it may cut again', async () => {
    const id = await cell.assembly('B-303');
    const job = await cell.job('O3104');
    const clear = () => clearQuarantine(as(cell.inspector), { assemblyId: id });
    expect(refused(await answer('B-303', job, [5, 5], 'scrap'))).toBe('Say what was found.');
    done(await answer('B-303', job, [5, 5], 'scrap', { found: 'two holes blind, a tap’s end in one' }));
    expect(refused(await clear())).toBe('One part is not inspected yet. The tool is not replaced yet.');
    done(await answer('B-303', job, [6, 6], 'rework', { found: 'stub drilled out' }));
    await renew('B-303', 'changed');
    expect(refused(await clear())).toBe('The new tool is not measured yet.');
    expect(await flagOf('B-303')).toBe('broken');
    await renew('B-303');
    expect(await flagOf('B-303')).toBe('broken');
    const ready = async () =>
      (await readinessOf(pool(), (await programById(pool(), await cell.program('O3104')))!, 5, [])).map(
        ({ code, tool }) => `${code} T${tool}`,
      );
    expect(await ready()).toContain('broken T7');
    done(await clear());
    expect(await flagOf('B-303')).toBeNull();
    expect(await ready()).not.toContain('broken T7');
    expect(await quarantineOf(pool(), id)).toMatchObject({
      outcome: 'cleared',
      closedBy: cell.inspector.name,
    });
    expect(refused(await clear())).toMatch(/not in quarantine/);
  });
  it('is not got round: neither by the flag, nor by the database, nor by putting the tool elsewhere', async () => {
    const id = await cell.assembly('B-303');
    expect(refused(await flagAssembly(as(cell.lead), { assemblyId: id, flag: null, why: 'fine' }))).toMatch(
      /stays flagged until/,
    );
    await expect(
      pool().query(
        `INSERT INTO ledger (kind, stage, person_id, assembly_id, said, detail) VALUES ('assembly', 'flag', $1, $2, 'x', '{"flag": null}')`,
        [cell.lead.id, id],
      ),
    ).rejects.toMatchObject({ code: 'TA010' });
    const there = (await assemblyById(pool(), id))!;
    done(
      await takeOut(as(cell.setter), {
        placeId: there.placeId!,
        assemblyId: id,
        why: 'to be looked at',
      }),
    );
    const place = await cell.place('Bittern', there.place!);
    expect(refused(await placeTool(as(cell.setter), { placeId: place, assemblyId: id, tool: 7 }))).toMatch(
      /flagged broken/,
    );
  });
  it('parts that are counted late come under it, as long as the tool is not replaced; those taken back go', async () => {
    const { jobId } = await record('O3104', 3);
    expect((await stand('B-303')).ranges).toEqual([{ job: jobId, from: 4, to: 8 }]);
    const count = (await lastCount(pool(), jobId))!;
    done(
      await takeBackCount(as(cell.operator), {
        jobId,
        count: count.id,
        before: 8,
        why: 'they were not made',
      }),
    );
    expect((await stand('B-303')).ranges).toEqual([{ job: jobId, from: 4, to: 6 }]);
    await renew('B-303', 'changed');
    // a device kept it for an hour: those parts were cut with the tool that was changed meanwhile
    await answering('late', typedAgo('3600'), () => record('O3104', 2));
    expect((await stand('B-303')).ranges).toEqual([{ job: jobId, from: 4, to: 7 }]);
    await record('O3104', 3);
    expect((await stand('B-303')).ranges).toEqual([{ job: jobId, from: 4, to: 7 }]);
  });
  it('two who answer one part differently: the second is told who was first, and may change it with intent', async () => {
    const job = await cell.job('O3104');
    const outcomes = await Promise.all([
      answer('B-303', job, [5, 5], 'good'),
      answer('B-303', job, [5, 5], 'scrap', { found: 'blind hole' }, cell.setter),
    ]);
    expect(outcomes.filter(({ ok }) => ok)).toHaveLength(1);
    expect(outcomes.map(refused).join()).toMatch(/Part 5 was answered already by .*: (good|scrap)/);
    done(await answer('B-303', job, [5, 5], 'rework', { found: 'looked at again', again: true }));
    expect((await stand('B-303')).answers.find(({ part }) => part === 5)).toMatchObject({
      outcome: 'rework',
    });
  });
  it('parts that are not held back are not answered for', async () => {
    const job = await cell.job('O3104');
    expect(refused(await answer('B-303', job, [3, 5]))).toBe(
      'Part 3 is not one of those that are held back.',
    );
    expect(refused(await answer('B-303', job, [6, 5]))).toMatch(/before the first/);
    expect(refused(await answer('B-303', job, [5, 2_000_000]))).toMatch(/at once/);
  });
  it('of a tool that nobody ever checked holds back hundreds, and ten looks or so find where it broke: one that is good clears all before it', async () => {
    const avocet = await machine('Avocet');
    done(await check(avocet, 5, mm(-6.1)));
    const begun = await stand('A-105');
    expect(begun.open.length).toBeGreaterThan(500);
    const order = begun.parts.map(({ job, part }) => `${job}/${part}`);
    // hidden from the record: it broke here
    const broke = order.length - 7;
    let looks = 0;
    for (let next = begun.next; next; next = (await stand('A-105')).next) {
      looks += 1;
      const spoilt = order.indexOf(`${next.part.job}/${next.part.part}`) >= broke;
      done(
        await answer('A-105', next.part.job, [next.part.part, next.part.part], spoilt ? 'scrap' : 'good', {
          found: spoilt ? 'blind hole' : '',
          allBefore: true,
        }),
      );
    }
    expect(looks).toBeLessThanOrEqual(7 + Math.ceil(Math.log2(order.length)) + 1);
    const { answers } = await stand('A-105');
    const spoilt = answers.filter(({ outcome }) => outcome !== 'good');
    expect(spoilt.map(({ job, part }) => order.indexOf(`${job}/${part}`)).sort((a, b) => a - b)[0]).toBe(
      broke,
    );
    expect(answers).toHaveLength(order.length);
  });
  it('a good part clears nothing before it where one of those was found spoilt', async () => {
    const job = await cell.job('O3104');
    done(await answer('B-303', job, [5, 5], 'scrap', { found: 'blind hole' }));
    expect(refused(await answer('B-303', job, [6, 6], 'good', { allBefore: true }))).toMatch(
      /Part 5 was cut before it and was found spoilt/,
    );
  });
  it('that was a mistake is withdrawn only after a check that finds the tool whole', async () => {
    const id = await cell.assembly('B-303');
    const bittern = await machine('Bittern');
    const withdraw = (why: string) => withdrawQuarantine(as(cell.setter), { assemblyId: id, why });
    expect(refused(await withdraw('a chip on the setter'))).toMatch(/Check it again first/);
    done(await check(bittern, 7, mm(-0.012)));
    expect(refused(await withdraw(' '))).toMatch(/what had looked like/);
    done(await check(bittern, 7, mm(-9.4)));
    expect(refused(await withdraw('a chip on the setter'))).toMatch(/Check it again first/);
    done(await check(bittern, 7, mm(-0.01)));
    done(await withdraw('a chip on the setter'));
    expect(await flagOf('B-303')).toBeNull();
    expect(await quarantineOf(pool(), id)).toMatchObject({ outcome: 'mistaken' });
  });
});

describe('a check', () => {
  it('as expected keeps the tool going and moves the boundary; broken stops it from there', async () => {
    const avocet = await machine('Avocet');
    const { jobId, made } = await record('O2301', 2);
    expect(done(await check(avocet, 5, mm(-0.02), made)).verdict).toBe('asExpected');
    expect(await flagOf('A-105')).toBeNull();
    await record('O2301', 4);
    expect(done(await check(avocet, 5, mm(-6.1))).said).toContain('broken, 6.100 mm short');
    expect(await flagOf('A-105')).toBe('broken');
    expect((await stand('A-105')).ranges).toEqual([{ job: jobId, from: made + 1, to: made + 5 }]);
  });
  it('too long is pulling out: it is held back as well, and the words say so', async () => {
    const avocet = await machine('Avocet');
    expect(done(await check(avocet, 3, mm(0.3))).verdict).toBe('pullingOut');
    expect(await quarantineOf(pool(), await cell.assembly('A-103'))).toMatchObject({ verdict: 'pullingOut' });
  });
  it('that is a slip says so and stops nothing', async () => {
    const avocet = await machine('Avocet');
    // the tap's length under the drill's T
    const told = done(await check(avocet, 5, mm(130.046 - 138.114)));
    expect(told.verdict).toBe('cannotTell');
    expect(told.said).toContain('That is the length of T6');
    expect(await flagOf('A-105')).toBeNull();
    expect(refused(await check(avocet, 5, mm(0), 5000))).toMatch(/part 5000 cannot have been cut/);
  });
  it('of a tool that was swapped meanwhile is refused', async () => {
    const avocet = await machine('Avocet');
    expect(
      refused(
        await takeCheck(as(cell.setter), avocet, {
          tool: 5,
          assemblyId: await cell.assembly('A-142'),
          method: 'setter',
          measured: mm(137),
          lastPart: null,
          source: 'typed',
        }),
      ),
    ).toMatch(/Another tool stands under T5/);
  });
  it('is proposed from kind, size and how earlier edges ended; what the lead decides holds, and its limits with it', async () => {
    const avocet = await machine('Avocet');
    const of = async (tool: number) => (await checksOf(pool(), avocet)).find((each) => each.tool === tool)!;
    expect((await of(1)).moment).toBe('none');
    const drill = await of(5);
    expect(drill.moment).not.toBe('none');
    expect(drill.proposal.reasons.join()).toContain('T6 would go into what it did not open');
    done(
      await decideCheck(as(cell.lead), avocet, {
        tool: 5,
        moment: 'before',
        method: 'laser',
        limits: { short: mm(0.5), long: mm(0.1) },
      }),
    );
    expect(await of(5)).toMatchObject({ moment: 'before', method: 'laser', decidedBy: cell.lead.name });
    const told = done(
      await takeCheck(as(cell.setter), avocet, {
        tool: 5,
        assemblyId: drill.assemblyId,
        method: 'laser',
        measured: nanometres(drill.reference! - 300_000),
        lastPart: null,
        source: 'typed',
      }),
    );
    expect(told.verdict).toBe('asExpected');
  });
  it('of a sister holds back only the counts that she was used in', async () => {
    const egret = await machine('Egret');
    const { jobId, made } = await record('O5103', 2);
    // T4 cuts; T24 has cut nothing
    done(await check(egret, 24, mm(-7)));
    const sheet = (await quarantineSheet(pool(), await cell.assembly('E-524')))!;
    // the part in the machine is the group's: nobody can tell which of the two cuts it
    expect(sheet.ranges.filter(({ to }) => to <= made)).toEqual([]);
    done(await check(egret, 4, mm(-7)));
    expect((await stand('E-504')).ranges.some(({ job, to }) => job === jobId && to >= made)).toBe(true);
  });
  it('on a machine that goes on with the next pallet sets the one in work aside with the reason', async () => {
    const egret = await machine('Egret');
    done(await setNightSchool(as(cell.lead), egret, { school: 'isolate' }));
    done(await check(egret, 5, mm(-9)));
    const [first, second] = await palletsOf(pool(), egret.id);
    expect(first).toMatchObject({ isolated: true });
    expect(first!.why).toContain('T5 (E-505) is broken');
    expect(second).toMatchObject({ isolated: false });
  });
  it('keeps the pallets where the machine stops', async () => {
    const egret = await machine('Egret');
    done(await check(egret, 5, mm(-9)));
    expect((await palletsOf(pool(), egret.id)).every(({ isolated }) => !isolated)).toBe(true);
  });
});

it('what the control has counted was cut with a broken tool as well, whoever has recorded it', async () => {
  const egret = await machine('Egret');
  const { made } = await record('O5103', 2);
  const at = new Date();
  await keepHeard(
    pool(),
    { ...unheard(egret.id, at), state: { ...UNKNOWN, execution: 'ACTIVE', parts: made + 4 } },
    false,
  );
  done(await check(egret, 7, mm(0.002), made));
  done(
    await flagAssembly(as(cell.operator), {
      assemblyId: await cell.assembly('E-507'),
      flag: 'broken',
      why: 'no reamer in the hole',
    }),
  );
  // two cycles that nobody recorded, and the two parts that are in the machine
  const held = (await stand('E-507')).parts.map(({ part }) => part);
  expect(held).toEqual([1, 2, 3, 4, 5, 6].map((n) => made + n));
  const { listed } = (await quarantineSheet(pool(), await cell.assembly('E-507')))!;
  expect(listed.filter(({ inMachine }) => inMachine).map(({ part }) => part)).toEqual([made + 6, made + 5]);
});
