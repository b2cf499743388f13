import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import type { WrittenGroup } from '../../src/core/life/group-check.ts';
import { countedTools, cycleBrokenOff, recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import {
  asSeen,
  groupsOf,
  initialiseGroup,
  readLives,
  removeGroup,
  writeGroup,
  type Group,
} from '../../src/server/groups.ts';
import { runningJob } from '../../src/server/jobs.ts';
import { layoutTask } from '../../src/server/planning.ts';
import { switchingFor } from '../../src/server/switching.ts';
import { forecast } from '../../src/server/forecast.ts';
import { cellOf } from '../../src/server/cell.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { setLifeLimit } from '../../src/server/lives.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { programById, type Program } from '../../src/server/programs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let egret: Machine;
beforeEach(async () => {
  cell = await weirside();
  egret = (await machineById(pool(), await cell.machine('Egret')))!;
});
afterAll(closePool);

/** The drills of Egret's hub: four holes a cycle of two parts, called as group 4. */
const drills = async () => (await groupsOf(pool(), egret.id))[0]!;
const left = async () =>
  Object.fromEntries((await drills()).members.map(({ tool, assembly }) => [tool, assembly!.life!.remaining]));
const setLeft = (tool: number, remaining: number) =>
  cell.asOwner((client) =>
    client.query(
      `INSERT INTO ledger (kind, stage, person_id, assembly_id, counter_id, before_value, after_value, change_value, said)
       SELECT 'life', 'set', $3, a.id, c.id, c.value, $2, $2 - c.value, 'for the test' FROM placement s JOIN assembly a ON a.id = s.assembly_id
       JOIN life_counter c ON c.assembly_id = a.id WHERE s.machine_id = $4 AND s.tool = $1`,
      [tool, remaining, cell.lead.id, egret.id],
    ),
  );
/** What is said of the group; that the demo's control was read off with slips in it is another matter. */
const said = async (program: Program, quantity: number) =>
  (await readinessOf(pool(), program, quantity, []))
    .filter(({ tool, code }) => tool === 4 && code !== 'controlDiffers')
    .map(({ code }) => code);
const make = async (parts: number) => {
  const job = (await runningJob(pool(), egret.id))!;
  return recordParts(as(cell.operator), { jobId: job.id, before: job.made, parts, source: 'typed' });
};
const written = ({ members, rules, number, purpose, initialise }: Group): WrittenGroup => ({
  ...rules,
  number,
  purpose,
  initialise,
  members,
});
const change = async (over: Partial<WrittenGroup>, person = cell.setter) => {
  const group = await drills();
  return writeGroup(as(person), egret, {
    id: group.id,
    seen: asSeen(group),
    group: { ...written(group), ...over },
  });
};

describe('parts of a program that calls a group', () => {
  it('count against whichever member the control takes: one after the other, in the same count', async () => {
    await setLeft(4, 6);
    await setLeft(24, 100);
    // two holes a part: T4 cuts three parts and expires, T24 the other five
    expect(done(await make(8)).expired).toEqual(['T4 (E-504)']);
    expect(await left()).toEqual({ 4: 0, 24: 90 });
    expect((await drills()).inUse).toBe(24);
    expect(await cell.count(`FROM ledger WHERE said = 'T24 took over from T4 in group 4.'`)).toBe(1);
    expect(await disagreements(pool())).toEqual([]);
    done(await make(1));
    expect(await left()).toEqual({ 4: 0, 24: 88 });
  });
  it('taken back, every member has what it had, and the one that cut before cuts again', async () => {
    await setLeft(4, 6);
    await setLeft(24, 100);
    done(await make(2));
    expect((await drills()).inUse).toBe(4);
    done(await make(6));
    const job = (await runningJob(pool(), egret.id))!;
    const last = (await lastCount(pool(), job.id))!;
    done(
      await takeBackCount(as(cell.operator), {
        jobId: job.id,
        count: last.id,
        before: job.made,
        why: 'Typed 6 for 0.',
      }),
    );
    expect(await left()).toEqual({ 4: 2, 24: 100 });
    const group = await drills();
    expect(group.inUse).toBe(4);
    expect(group.members[0]!.assembly!.flag).toBeNull();
    expect(await disagreements(pool())).toEqual([]);
  });
  it('that the group should not have lasted for were cut all the same: they count against the last', async () => {
    await setLeft(4, 2);
    await setLeft(24, 4);
    done(await make(6));
    expect(await left()).toEqual({ 4: 0, 24: -6 });
  });
  it('the run-out of its T is that of the group, and it stands once on the leaf', async () => {
    await setLeft(4, 6);
    await setLeft(24, 10);
    const now = new Date();
    const foreseen = (await forecast(pool(), await cellOf(pool()), now)).find(
      ({ machineId }) => machineId === egret.id,
    )!;
    const ours = foreseen.runsOut.filter(({ tool }) => [4, 24].includes(tool));
    expect(ours.map(({ tool, afterParts }) => [tool, afterParts])).toEqual([[4, 8]]);
    const tools = await countedTools(pool(), (await runningJob(pool(), egret.id))!);
    expect(tools.filter(({ group }) => group).map(({ tool, group }) => [tool, group!.next])).toEqual([
      [4, true],
      [24, false],
    ]);
  });
  it('is not ready for more than the group lasts', async () => {
    await setLeft(4, 6);
    await setLeft(24, 10);
    const program = (await programById(pool(), await cell.program('O5103')))!;
    const of = (quantity: number) => said(program, quantity);
    expect(await of(8)).toEqual([]);
    expect(await of(9)).toEqual(['runsOut']);
  });
});

describe('a member that the program also calls by its own T', () => {
  /** As if the program went on with T24 by itself: three holes more a cycle of two parts. */
  const alsoBy24 = () =>
    cell.asOwner((client) =>
      client.query(
        `INSERT INTO program_call (program_id, ord, tool, line, last_line, holes, cut_milliseconds, reading)
         SELECT program_id, (SELECT max(ord) + 1 FROM program_call o WHERE o.program_id = c.program_id), 24, line, last_line, 3, cut_milliseconds,
                reading || jsonb_build_object('tool', 24, 'holes', 3, 'order', (SELECT max(ord) + 1 FROM program_call o WHERE o.program_id = c.program_id))
         FROM program_call c JOIN program p ON p.id = c.program_id WHERE p.number = 'O5103' AND c.tool = 4 ORDER BY ord LIMIT 1`,
      ),
    );
  it('is worn by both, and takes over the sooner spent', async () => {
    await alsoBy24();
    await setLeft(4, 6);
    await setLeft(24, 100);
    // T4 cuts three parts of the group, T24 the other five, and of all eight the holes of its own call: 10 and 12
    expect(done(await make(8)).expired).toEqual(['T4 (E-504)']);
    expect(await left()).toEqual({ 4: 0, 24: 100 - 10 - 12 });
  });
  it('stops the machine when it is spent, whatever its sister has left; it is said on the leaf and before the job', async () => {
    await alsoBy24();
    await setLeft(4, 100);
    await setLeft(24, 9);
    const foreseen = (await forecast(pool(), await cellOf(pool()), new Date())).find(
      ({ machineId }) => machineId === egret.id,
    )!;
    const ours = foreseen.runsOut.filter(({ tool }) => [4, 24].includes(tool));
    expect(ours.map(({ afterParts }) => afterParts)).toEqual([6]);
    const program = (await programById(pool(), await cell.program('O5103')))!;
    const findings = async (quantity: number) =>
      (await readinessOf(pool(), program, quantity, []))
        .filter(({ code }) => code === 'runsOut')
        .map(({ tool, afterPart }) => [tool, afterPart])
        .filter(([tool]) => tool === 4 || tool === 24);
    expect(await findings(6)).toEqual([]);
    expect(await findings(7)).toEqual([[4, 6]]);
  });
  it('a cycle that is broken off after both calls takes both', async () => {
    await alsoBy24();
    await setLeft(4, 0);
    await setLeft(24, 100);
    const job = (await runningJob(pool(), egret.id))!;
    done(
      await cycleBrokenOff(as(cell.operator), { jobId: job.id, before: job.made, tool: 24, why: 'a chip' }),
    );
    expect((await left())[24]).toBe(100 - 4 - 3);
  });
});

describe('what the control knows of a member', () => {
  it('a new life makes it new: passed over until its number was read back and the group initialised', async () => {
    await setLeft(4, 6);
    await setLeft(24, 100);
    done(
      await setLifeLimit(as(cell.setter), {
        assemblyId: await cell.assembly('E-524'),
        basis: 'holes',
        fullLife: 200,
        left: null,
        why: 'Experience.',
      }),
    );
    const group = await drills();
    expect(group.members.map(({ fresh }) => fresh)).toEqual([false, true]);
    const program = (await programById(pool(), await cell.program('O5103')))!;
    expect(await said(program, 4)).toEqual(['groupMember', 'runsOut']);
    const life = group.members[1]!.assembly!.life!.remaining;
    const read = async (value: number) =>
      done(await readLives(as(cell.setter), egret, { id: group.id, shown: [{ tool: 24, value }] }))[0]!;
    expect(await read(200)).toMatchObject({ kept: false, said: expect.stringMatching(/full life/) });
    expect(await read(life)).toEqual({ tool: 24, kept: true, said: '' });
    // another one was renewed while the page was open
    expect(refused(await initialiseGroup(as(cell.setter), egret, { id: group.id, tools: [4] }))).toMatch(
      /meanwhile/,
    );
    done(await initialiseGroup(as(cell.setter), egret, { id: group.id, tools: [24] }));
    expect((await drills()).members.map(({ fresh }) => fresh)).toEqual([false, false]);
    expect(refused(await initialiseGroup(as(cell.setter), egret, { id: group.id, tools: [24] }))).toMatch(
      /Nothing/,
    );
  });
  it('two people at one group: read back and initialised once each, and a renewal in between is not passed over', async () => {
    await setLeft(4, 6);
    await setLeft(24, 100);
    const renew = async (number: string) =>
      done(
        await setLifeLimit(as(cell.setter), {
          assemblyId: await cell.assembly(number),
          basis: 'holes',
          fullLife: 200,
          left: null,
          why: 'Experience.',
        }),
      );
    await renew('E-524');
    const group = await drills();
    const value = group.members[1]!.assembly!.life!.remaining;
    const shown = [{ tool: 24, value }];
    const read = await Promise.all([
      readLives(as(cell.setter), egret, { id: group.id, shown }),
      readLives(as(cell.lead), egret, { id: group.id, shown }),
    ]);
    expect(read.map((each) => done(each)[0]!.kept)).toEqual([true, true]);
    const both = await Promise.all([
      initialiseGroup(as(cell.setter), egret, { id: group.id, tools: [24] }),
      initialiseGroup(as(cell.lead), egret, { id: group.id, tools: [24] }),
    ]);
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    expect((await drills()).members.map(({ fresh }) => fresh)).toEqual([false, false]);
    // one records parts while the other renews: both are in the record, and the new life is whole
    const [, parts] = await Promise.all([renew('E-504'), make(4)]);
    expect(parts).toMatchObject({ ok: true });
    const after = await drills();
    expect(after.members.map(({ tool, fresh }) => [tool, fresh])).toEqual([
      [4, true],
      [24, false],
    ]);
    // eight holes, whoever came first: what was cut stays cut under another limit
    const limited = 200 - (group.members[0]!.assembly!.life!.limit - 6);
    const taken = limited + value - Object.values(await left()).reduce((sum, each) => sum + each, 0);
    expect(taken).toBe(8);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('where nothing is initialised, reading back is all there is to do', async () => {
    done(await change({ initialise: false }));
    done(
      await setLifeLimit(as(cell.setter), {
        assemblyId: await cell.assembly('E-524'),
        basis: 'holes',
        fullLife: 200,
        left: null,
        why: 'Experience.',
      }),
    );
    const group = await drills();
    expect(group.members[1]).toMatchObject({ fresh: false, unkeyed: true });
    const { remaining } = group.members[1]!.assembly!.life!;
    done(await readLives(as(cell.setter), egret, { id: group.id, shown: [{ tool: 24, value: remaining }] }));
    expect((await drills()).members[1]).toMatchObject({ unkeyed: false });
  });
});

describe('writing groups down', () => {
  const members = (...tools: number[]): WrittenGroup['members'] =>
    tools.map((tool) => ({ tool, role: 'original', lengthRows: [tool], radiusRows: [] }));
  it('two people who change one at once: the second looks again', async () => {
    const group = await drills();
    const seen = asSeen(group);
    const to = (purpose: string) =>
      writeGroup(as(cell.setter), egret, { id: group.id, seen, group: { ...written(group), purpose } });
    const outcomes = await Promise.all([to('by one'), to('by the other')]);
    expect(outcomes.filter(({ ok }) => ok)).toHaveLength(1);
    expect(outcomes.map(refused).join('')).toMatch(/changed this group meanwhile/);
  });
  it('members that stay as they were are not new to the control', async () => {
    done(await change({ members: [...written(await drills()).members, ...members(5)] }));
    expect((await drills()).members.map(({ tool, fresh }) => [tool, fresh])).toEqual([
      [4, false],
      [24, false],
      [5, true],
    ]);
  });
  it('two people who make one of the same tool at once: one is refused', async () => {
    const make = (number: number) =>
      writeGroup(as(cell.setter), egret, {
        id: null,
        seen: '',
        group: { ...written({ ...(group as Group), number }), members: members(6) },
      });
    const group = await drills();
    const outcomes = await Promise.all([make(70), make(71)]);
    expect(outcomes.filter(({ ok }) => ok)).toHaveLength(1);
    expect(outcomes.map(refused).join('')).toMatch(/T6 is in group 7[01] already/);
  });
  it('taken apart, its tools are tools by themselves again', async () => {
    const group = await drills();
    done(await removeGroup(as(cell.setter), egret, { id: group.id }));
    expect(await groupsOf(pool(), egret.id)).toEqual([]);
    expect(refused(await removeGroup(as(cell.setter), egret, { id: group.id }))).toMatch(/removed/);
    done(await make(2));
    expect(
      (await row<{ n: number }>(
        pool(),
        `SELECT count(*)::integer AS n FROM ledger WHERE kind = 'life' AND stage = 'used' AND tool = 4 AND id > (SELECT max(id) FROM ledger WHERE stage = 'groupRemoved')`,
      ))!.n,
    ).toBe(1);
  });
  it('what does not go is refused with all that is wrong', async () => {
    const said = refused(await change({ members: [...members(4, 999), ...members(4)] }))!;
    expect(said).toMatch(/T1 to T400/);
    expect(said).toMatch(/in it twice/);
  });
});

describe('what else asks which tools a program calls', () => {
  it('a sister is called as its group is: it is not taken out as if nobody needed it', async () => {
    const program = await cell.program('O5103');
    const { question } = await layoutTask(pool(), egret, [program], []);
    expect(
      question.tools.filter(({ tool }) => [4, 24].includes(tool)).map(({ tool, called }) => [tool, called]),
    ).toEqual([
      [4, true],
      [24, true],
    ]);
    const { jobs } = await switchingFor(pool(), egret, [program], null);
    expect(jobs.flatMap(({ tools }) => tools)).toEqual(expect.arrayContaining([4, 24]));
  });
});
