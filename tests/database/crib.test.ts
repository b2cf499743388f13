import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { entry } from '../../src/core/ledger/entry.ts';
import { lengthOf, nanometres, type Length } from '../../src/core/units/length.ts';
import { assemblyById, looseAssembliesToMeasure } from '../../src/server/assemblies.ts';
import { bringIn } from '../../src/server/bring-in.ts';
import { buildAssembly, indexInserts, kitFor, partsOf, type Build } from '../../src/server/builds.ts';
import {
  belowMinimum,
  componentById,
  componentsByNumber,
  regrind,
  stockMoved,
  whereUsed,
  type StockMove,
} from '../../src/server/components.ts';
import { correctionById } from '../../src/server/corrections.ts';
import { lastEntry } from '../../src/server/control-roads.ts';
import { closePool, pool, transaction } from '../../src/server/db.ts';
import { append, disagreements, ledgerEntries } from '../../src/server/ledger.ts';
import { rebase, rebaseTable, toolLengths, transferCard, transferLengths } from '../../src/server/lengths.ts';
import { lockMachine, machineById } from '../../src/server/machines.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { presettingsOf, recordPresetting } from '../../src/server/presettings.ts';
import { takeReading } from '../../src/server/readings.ts';
import { callsOf, programById } from '../../src/server/programs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { foundTyped, registersOf } from '../../src/server/registers.ts';
import { cellsOf, writeRecord } from '../../src/server/records.ts';
import { startRenewal } from '../../src/server/renewals.ts';
import { as, done, refused, weirside } from '../support/cell.ts';
import { stepOf } from '../support/egret.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeAll(async () => void (cell = await weirside()));
afterAll(async () => {
  expect(await disagreements(pool())).toEqual([]);
  await closePool();
});

const mm = (value: number) => lengthOf(value, 'mm');
const item = async (number: string) => (await componentsByNumber(pool(), [number]))[0]!;
const stock = async (number: string) => (await item(number)).stock;
const move = async (number: string, over: Partial<StockMove> = {}): Promise<StockMove> => {
  const { id, stock: before } = await item(number);
  return { componentId: id, before, move: 'issued', pieces: 1, why: '', ...over };
};
const build = async (
  over: Partial<Omit<Build, 'parts'>> & { parts?: Record<string, string | null> } = {},
): Promise<Build> => {
  const named: Record<string, string | null> = {
    cutter: 'EM-6S',
    holder: 'H40-CC20',
    adapter: 'C20-6',
    knob: 'KN-45C',
    extension: null,
    insert: null,
    ...over.parts,
  };
  const parts = Object.fromEntries(
    await Promise.all(
      Object.entries(named).map(async ([role, number]) => [role, number && (await item(number)).id]),
    ),
  ) as Build['parts'];
  return {
    number: 'X-1',
    name: 'End mill 6',
    stickOut: mm(18),
    machineId: null,
    override: '',
    ...over,
    parts,
  };
};

describe('the shelf', () => {
  it('what is issued is gone once, and an entry says who took it', async () => {
    const before = await stock('IN-WNMG08');
    done(await stockMoved(as(cell.crib), await move('IN-WNMG08', { pieces: 4, why: 'Curlew T1' })));
    expect(await stock('IN-WNMG08')).toBe(before - 4);
    const [entry] = await ledgerEntries(pool(), { component: (await item('IN-WNMG08')).id }, 1);
    expect(entry).toMatchObject({ person: cell.crib.name, change: -4, why: 'Curlew T1' });
  });
  it('two people take the last piece at once: one gets it, the other is told', async () => {
    const asked = await move('EM-12F');
    const outcomes = await Promise.all([
      stockMoved(as(cell.crib), asked),
      stockMoved(as(cell.setter), asked),
    ]);
    expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
    expect(outcomes.map(refused).join()).toMatch(/0 are on the shelf|count on the shelf|another number/);
    expect(await stock('EM-12F')).toBe(0);
  });
  it('never goes below nothing', async () => {
    expect(refused(await stockMoved(as(cell.crib), await move('RM-12H7', { pieces: 99 })))).toMatch(
      /Only 2 of RM-12H7 are on the shelf/,
    );
  });
  it('a count that differs needs a reason', async () => {
    const asked = await move('DJ-5', { move: 'counted', pieces: 20 });
    expect(refused(await stockMoved(as(cell.crib), asked))).toMatch(/why the count differs/);
    done(await stockMoved(as(cell.crib), { ...asked, why: 'Two broken ones were in the drawer.' }));
    expect(await stock('DJ-5')).toBe(20);
  });
  it('what falls below its minimum is listed', async () => {
    const short = (await belowMinimum(pool())).map((each) => each.number);
    expect(short).toContain('EM-12F');
    expect(short).not.toContain('DJ-5');
  });
  it('cannot be moved past the ledger', async () => {
    await expect(pool().query('UPDATE component SET stock = 100')).rejects.toMatchObject({ code: '42501' });
    await expect(pool().query('UPDATE assembly SET changed_at = NULL')).rejects.toMatchObject({
      code: '42501',
    });
    await expect(pool().query('DELETE FROM presetting')).rejects.toMatchObject({ code: '42501' });
  });
  it('a regrind comes back as a smaller cutter of its own number; the old one keeps its size', async () => {
    const { id, stock: before, regrinds } = await item('EM-10R02');
    const answer = done(
      await regrind(as(cell.crib), {
        componentId: id,
        before,
        pieces: 2,
        diameter: mm(9.7),
        overall: mm(71),
      }),
    );
    expect(answer.number).toBe('EM-10R02-R1');
    const smaller = (await componentById(pool(), answer.id))!;
    expect(smaller).toMatchObject({ stock: 2, regrinds: regrinds! - 1, regroundFrom: id });
    expect(smaller.dimensions).toMatchObject({ DC: mm(9.7), OAL: mm(71), LCF: mm(25) });
    expect(await item('EM-10R02')).toMatchObject({
      stock: before - 2,
      dimensions: expect.objectContaining({ DC: mm(10) }),
    });
    expect(
      refused(
        await regrind(as(cell.crib), {
          componentId: id,
          before: before - 2,
          pieces: 1,
          diameter: mm(11),
          overall: mm(70),
        }),
      ),
    ).toMatch(/never larger/);
  });
});

describe('two numbers that are the same', () => {
  it('two people build under one number from other pieces: one builds, the other is told that it is taken', async () => {
    const other = await build({
      number: 'X-77',
      parts: { cutter: 'RM-12H7', holder: 'H40-SL12', adapter: null, knob: null },
    });
    const drill = await build({
      number: 'X-77',
      parts: { cutter: 'DS-8.5', holder: 'H40-CC32', adapter: 'C32-10' },
    });
    const outcomes = await Promise.all([
      buildAssembly(as(cell.lead), { ...drill, override: 'as it was' }, true),
      buildAssembly(as(cell.lead), { ...other, override: 'as it was' }, true),
    ]);
    expect(outcomes.filter(({ ok }) => ok)).toHaveLength(1);
    expect(outcomes.map(refused).join('')).toMatch(/X-77 already exists/);
  });
  it('cutters of one family that come back at once get two numbers, whatever numbers there are', async () => {
    const from = await item('EM-10R02-R1');
    const first = await item('EM-10R02');
    done(
      await writeRecord(as(cell.crib), {
        kind: 'components',
        cells: { ...(await cellsOf(pool(), 'components', 'EM-10R02'))!.cells, number: 'EM-10R02-R7' },
        shown: null,
      }),
    );
    const back = (of: typeof first, diameter: number) =>
      regrind(as(cell.crib), {
        componentId: of.id,
        before: of.stock,
        pieces: 1,
        diameter: mm(diameter),
        overall: mm(70),
      });
    const both = (await Promise.all([back(first, 9.5), back(from, 9.4)])).map(done);
    expect(both.map(({ number }) => number).sort()).toEqual(['EM-10R02-R8', 'EM-10R02-R9']);
  });
});

describe('components from a file', () => {
  const file = (text: string) =>
    bringIn(as(cell.crib), 'components', {
      fileName: 'c.csv',
      text,
      machineId: null,
      programId: null,
      partsPerCycle: 1,
    });
  it('are read: thread, insert and drill size say their own dimensions', async () => {
    done(
      await file(
        'number,name,kind,dc,dconms,oal,lcf,sig,series,stock\nN-1,Tap,tapCutting,,6,80,20,,5/16-18,2\nN-2,Insert,insert,,,,,,CNMG 160612,10\nN-3,Drill,drillJobber,#10,0.1935in,3.625in,2in,118,,1\n',
      ),
    );
    expect((await item('N-1')).dimensions).toMatchObject({ DC: lengthOf(0.3125, 'in') });
    expect(await item('N-2')).toMatchObject({ edges: 4, stock: 10, dimensions: { RE: mm(1.2), CEDC: 4 } });
    expect((await item('N-3')).dimensions.DC).toBe(lengthOf(0.1935, 'in'));
  });
  it('with one fault are not taken at all, and each fault has its line and column', async () => {
    const outcome = await file(
      'number,name,kind,dc,dconms,oal,lcf,zefp,series\nN-4,Mill,endMillSharp,10,10,72,22,4,\nN-5,Mill,endMillSharp,10,10,72,,4,\nN-6,Insert,insert,,,,,,CQMG 120408\n',
    );
    expect(refused(outcome)).toMatch(/Line 3, lcf: end mill, sharp corner needs LCF/);
    expect(refused(outcome)).toMatch(/Line 4, series: "Q" in the second place/);
    expect(await cell.count("FROM component WHERE number = 'N-4'")).toBe(0);
  });
});

describe('building', () => {
  it('issues the pieces, works out the length and leaves a tool that waits to be measured', async () => {
    const [cutters, holders] = [await stock('EM-6S'), await stock('H40-CC20')];
    const { id } = done(await buildAssembly(as(cell.crib), await build(), false));
    const made = (await assemblyById(pool(), id))!;
    expect(made).toMatchObject({
      number: 'X-1',
      kind: 'endMill',
      interface: 'steep 40',
      gaugeLength: mm(118),
      diameter: mm(6),
      speedLimit: 20000,
    });
    expect(made.outline!.at(-1)![0]).toBeCloseTo(118, 6);
    expect([await stock('EM-6S'), await stock('H40-CC20')]).toEqual([cutters - 1, holders - 1]);
    expect((await looseAssembliesToMeasure(pool())).map((each) => each.number)).toContain('X-1');
    expect((await whereUsed(pool(), (await item('EM-6S')).id)).map((each) => each.number)).toContain('X-1');
  });
  it('an end mill in a drill chuck is refused with the reason, and nothing is issued', async () => {
    const before = await stock('H40-DC13');
    const asked = await build({ number: 'X-2', parts: { holder: 'H40-DC13', adapter: null } });
    expect(refused(await buildAssembly(as(cell.crib), asked, false))).toMatch(
      /drill chuck is for drills only/,
    );
    expect(refused(await buildAssembly(as(cell.crib), { ...asked, override: 'in a hurry' }, false))).toMatch(
      /drills only/,
    );
    expect(await stock('H40-DC13')).toBe(before);
    expect(await cell.count("FROM assembly WHERE number = 'X-2'")).toBe(0);
  });
  it('the lead may override with a reason, which stays on the tool', async () => {
    const asked = await build({
      number: 'X-3',
      parts: { cutter: 'EM-10S', adapter: 'C20-10' },
      stickOut: mm(18),
    });
    expect(refused(await buildAssembly(as(cell.lead), asked, true))).toMatch(
      /flutes are 22.000 mm long.*write the reason/,
    );
    const { id } = done(
      await buildAssembly(as(cell.lead), { ...asked, override: 'Shank relieved by hand.' }, true),
    );
    expect((await assemblyById(pool(), id))!.override).toBe('Shank relieved by hand.');
  });
  it('a knob that is not the machine’s is refused', async () => {
    const asked = await build({
      number: 'X-4',
      machineId: await cell.machine('Bittern'),
      parts: { knob: 'KN-45C' },
    });
    expect(refused(await buildAssembly(as(cell.crib), asked, false))).toMatch(/Bittern needs K-60/);
  });
  it('the same build pressed twice is one tool', async () => {
    const asked = await build({
      number: 'X-5',
      parts: { cutter: 'DS-8.5', holder: 'H40-CC32', adapter: 'C32-10' },
      stickOut: mm(60),
    });
    const asking = as(cell.crib);
    const before = await stock('C32-10');
    const [one, two] = [
      done(await buildAssembly(asking, asked, false)),
      done(await buildAssembly(asking, asked, false)),
    ];
    expect(two).toEqual(one);
    expect(await stock('C32-10')).toBe(before - 1);
  });
  it('a kit of several tools is one walk along the shelves', async () => {
    const lines = await kitFor(pool(), [await cell.assembly('A-103'), await cell.assembly('A-104')]);
    expect(lines.find((line) => line.number === 'H40-CC32')).toMatchObject({
      pieces: 2,
      assemblies: 'A-103, A-104',
    });
    expect(lines.map((line) => line.shelf)).toEqual(lines.map((line) => line.shelf).toSorted());
  });
});

describe('edges', () => {
  it('are used one after the other; after the last, new inserts are issued', async () => {
    const id = await cell.assembly('A-108');
    const pocket = (await placesOf(pool(), await cell.machine('Avocet'))).find(({ tool }) => tool === 8)!;
    done(await takeOut(as(cell.setter), { placeId: pocket.id, assemblyId: id, why: '' }));
    const inserts = async () => (await partsOf(pool(), id)).find((part) => part.role === 'insert')!;
    const { edges } = await inserts();
    const before = await stock('IN-CCMT02');
    for (let edge = 1; edge < edges!; edge += 1)
      expect(done(await indexInserts(as(cell.setter), id)).fresh).toBe(false);
    expect(await stock('IN-CCMT02')).toBe(before);
    expect(done(await indexInserts(as(cell.setter), id)).fresh).toBe(true);
    expect(await stock('IN-CCMT02')).toBe(before - 1);
    expect((await inserts()).edgesUsed).toBe(0);
    done(await placeTool(as(cell.setter), { placeId: pocket.id, assemblyId: id, tool: 8 }));
  });
  it('an indexed tool in a machine is not measured any more', async () => {
    const machine = await cell.machine('Avocet');
    const measured = async () =>
      (await placesOf(pool(), machine)).find((place) => place.tool === 1)!.assembly!.measured;
    expect(await measured()).toBe(true);
    const assemblyId = await cell.assembly('A-101');
    // what cuts with a new edge is measured again and its wear zeroed: that is a renewal
    expect(refused(await indexInserts(as(cell.setter), assemblyId))).toMatch(
      /index its inserts in a renewal/,
    );
    const id = (
      await takeReading(as(cell.operator), {
        featureId: await cell.feature('O2301', 'Body height'),
        programId: await cell.program('O2301'),
        jobId: await cell.job('O2301'),
        part: 52,
        measured: mm(36.03),
        confirmed: true,
        firstOff: true,
      }).then(done)
    ).proposalIds[0]!;
    expect((await correctionById(pool(), id))!.state).toBe('proposed');
    const used = async () =>
      (await partsOf(pool(), assemblyId)).find(({ role }) => role === 'insert')!.edgesUsed;
    const before = await used();
    done(await startRenewal(as(cell.setter), assemblyId));
    done(await stepOf(cell, assemblyId, 'changed', { what: '', index: true }));
    expect(await measured()).toBe(false);
    expect(await used()).toBe(before + 1);
    expect((await correctionById(pool(), id))!).toMatchObject({
      state: 'superseded',
      withdrawn: expect.stringContaining('A-101 was indexed: IN-SEKT to edge'),
    });
  });
});

describe('measuring on the presetter', () => {
  const measured = async (
    number: string,
    length: number,
    diameter: number | null = null,
    confirmed = false,
  ) =>
    recordPresetting(as(cell.crib), {
      assemblyId: await cell.assembly(number),
      gaugeLength: mm(length),
      diameter: diameter === null ? null : mm(diameter),
      cornerRadius: null,
      runOut: null,
      instrument: 'typed',
      confirmed,
    });
  it('what looks like a slip is not recorded until somebody stands behind it', async () => {
    const answer = done(await measured('X-1', 11.82, 6.001));
    expect(answer).toMatchObject({ kept: false, faults: [{ slip: 'decimalPoint' }] });
    expect(await presettingsOf(pool(), await cell.assembly('X-1'))).toEqual([]);
    expect(done(await measured('X-1', 118.21, 6.001)).kept).toBe(true);
    expect((await assemblyById(pool(), await cell.assembly('X-1')))!.gaugeLength).toBe(mm(118.21));
    expect((await looseAssembliesToMeasure(pool())).map((each) => each.number)).not.toContain('X-1');
  });
  it('a confirmed one is kept, with what spoke against it', async () => {
    expect(done(await measured('X-5', 148.6, null, true)).kept).toBe(true);
    const [entry] = await ledgerEntries(pool(), { assembly: await cell.assembly('X-5') }, 1);
    expect(entry!.why).toMatch(/Kept against: .*from the 140.000 mm/);
  });
  it('a tool that stands in a machine is not on the presetter', async () => {
    expect(refused(await measured('A-103', 118.2))).toMatch(/stands in Avocet/);
  });
});

describe('lengths across machines', () => {
  it('are carried from gauge length in millimetres to touch-off in inches, row by row as they are read back', async () => {
    const [from, to] = [
      await machineById(pool(), await cell.machine('Avocet')),
      await machineById(pool(), await cell.machine('Bittern')),
    ];
    const card = await transferCard(pool(), from!, to!);
    const two = card.find((line) => line.tool === 2)!;
    // 121.508 mm is 4.78378 in; −20.5 + 4.78378 rounds to −15.7162 in
    expect(two).toMatchObject({ number: 'A-102', before: 0, after: lengthOf(-15.7162, 'in'), takenBy: null });
    const three = card.find((line) => line.tool === 3)!;
    const answer = done(
      await transferLengths(as(cell.setter), from!.id, to!.id, [
        { tool: 2, before: two.before, shown: two.after },
        { tool: 3, before: three.before, shown: nanometres(-three.after) },
      ]),
    );
    expect(answer).toMatchObject({ written: [2], stopped: [{ tool: 3, reading: { fault: 'sign' } }] });
    expect((await cell.register('Bittern', 2, 'lengthGeometry')).value).toBe(two.after);
    expect((await cell.register('Bittern', 3, 'lengthGeometry')).value).toBe(0);
  });
  it('never over the row of another tool that stands there', async () => {
    const [from, to] = [
      await machineById(pool(), await cell.machine('Avocet')),
      await machineById(pool(), await cell.machine('Bittern')),
    ];
    const one = (await transferCard(pool(), from!, to!)).find((line) => line.tool === 1)!;
    expect(one.takenBy).toBe('B-301');
    expect(
      refused(
        await transferLengths(as(cell.setter), from!.id, to!.id, [
          { tool: 1, before: one.before, shown: one.after },
        ]),
      ),
    ).toMatch(/T1 on Bittern is B-301/);
  });
  it('a plane that moved re-bases every filled row as one act, and only from what was shown', async () => {
    const bittern = (await machineById(pool(), await cell.machine('Bittern')))!;
    const value = lengthOf(-20.45, 'in');
    const lines = await rebaseTable(pool(), bittern, value);
    const change = {
      machineId: bittern.id,
      before: bittern.planeConstant,
      value,
      why: 'The setter’s face was ground.',
      entry: await lastEntry(pool()),
    };
    expect(lines.every((line) => line.after - line.before === lengthOf(0.05, 'in'))).toBe(true);
    const gauges = (await toolLengths(pool(), bittern)).map((each) => each.gaugeLength);
    expect(done(await rebase(as(cell.lead), change)).rows).toBe(lines.length);
    const after = (await machineById(pool(), bittern.id))!;
    expect(after.planeConstant).toBe(value);
    // the tools are what they were
    expect((await toolLengths(pool(), after)).map((each) => each.gaugeLength)).toEqual(gauges);
    expect(refused(await rebase(as(cell.lead), change))).toMatch(/changed/);
  });
  it('a machine that keeps gauge lengths has nothing to re-base', async () => {
    expect(
      refused(
        await rebase(as(cell.lead), {
          machineId: await cell.machine('Avocet'),
          before: nanometres(0),
          value: mm(1),
          why: 'x',
          entry: 0,
        }),
      ),
    ).toMatch(/depend on no plane/);
  });
  it('the master that goes keeps its length, a row at zero that nobody measured stays, and a length recorded meanwhile is not passed over', async () => {
    const fulmar = () =>
      cell.machine('Fulmar').then(async (machineId) => (await machineById(pool(), machineId))!);
    const before = await fulmar();
    const of = async (tool: number, on = before) =>
      (await toolLengths(pool(), on)).find((each) => each.tool === tool)!;
    const [own, empty] = [await of(20), await of(10)];
    const write = (registerId: number, value: Length, stage: 'measured' | 'found') =>
      transaction(async (db) => {
        await lockMachine(db, before.id);
        const held = (await registersOf(db, before.id)).find((each) => each.id === registerId)!;
        await append(
          db,
          entry.register(stage, {
            personId: cell.setter.id,
            machineId: before.id,
            registerId,
            before: held.value as Length,
            after: value,
            said: 'Measured.',
          }),
        );
      });
    // the master itself, and a row that was found empty
    await write(own.registerId, nanometres(0), 'measured');
    await write(empty.registerId, nanometres(0), 'found');
    const program = (await programById(pool(), await cell.program('O6105')))!;
    const zero = (await readinessOf(pool(), program, 1, [])).filter(({ code }) => code === 'zeroLength');
    expect(zero.map(({ tool }) => tool)).toEqual([10]);
    const value = nanometres(before.masterLength + 3 * before.increment);
    const seen = await lastEntry(pool());
    const lines = await rebaseTable(pool(), before, value);
    expect(lines.find(({ registerId }) => registerId === own.registerId)).toMatchObject({
      before: 0,
      after: -3 * before.increment,
    });
    expect(lines.some(({ registerId }) => registerId === empty.registerId)).toBe(false);
    const change = { machineId: before.id, before: before.masterLength, value, why: 'It was reground.' };
    await write(empty.registerId, mm(12), 'measured');
    expect(refused(await rebase(as(cell.lead), { ...change, entry: seen }))).toMatch(
      `recorded the length of row ${empty.tool} since the table was shown`,
    );
    done(await rebase(as(cell.lead), { ...change, entry: await lastEntry(pool()) }));
    const now = await fulmar();
    expect(await of(20, now)).toMatchObject({
      register: -3 * before.increment,
      gaugeLength: before.masterLength,
    });
    expect((await of(10, now)).gaugeLength).toBe(before.masterLength + mm(12));
  });
});

it('a row is written as it shows: a length, or the direction of a tip, and a compensated tool without it is found', async () => {
  const curlew = (await machineById(pool(), await cell.machine('Curlew')))!;
  const program = (await programById(pool(), await cell.program('O1402')))!;
  const noses = async (of = program) =>
    (await readinessOf(pool(), of, 1, []))
      .filter(({ code }) => code === 'noseRow')
      .map(({ weight, tool }) => [weight, tool]);
  // each program of the lathe finds what it needs, in the rows of its second part too
  expect(await noses()).toEqual([]);
  expect(await noses((await programById(pool(), await cell.program('O1421')))!)).toEqual([]);
  const calls = await callsOf(pool(), program.id);
  const { tool } = calls.find(({ usesRadiusCompensation }) => usesRadiusCompensation)!;
  const type = async (kind: string, shown: string, on = curlew) => {
    const register = (await registersOf(pool(), curlew.id)).find(
      (each) => each.row === tool && each.kind === kind,
    )!;
    const given = { registerId: register.id, before: register.value, shown, why: 'Read off the screen.' };
    return foundTyped(as(cell.setter), on, given);
  };
  expect(refused(await type('tipDirection', '0.8'))).toMatch(/no direction of a tip/);
  expect(refused(await type('tipDirection', '3', (await machineById(pool(), 1))!))).toMatch(
    /no such register/,
  );
  done(await type('tipDirection', '0'));
  expect(await noses()).toEqual([['look', tool]]);
  done(await type('noseRadius', '0'));
  expect(await noses()).toEqual([['stop', tool]]);
  done(await type('noseRadius', '0.4mm'));
  done(await type('tipDirection', '3'));
  expect(await noses()).toEqual([]);
});

it('a built tool goes into a machine and out again, and its history is one list', async () => {
  const assemblyId = await cell.assembly('X-1');
  const placeId = await cell.place('Avocet', 1);
  done(await placeTool(as(cell.setter), { placeId, assemblyId, tool: 50 }));
  done(await takeOut(as(cell.setter), { placeId, assemblyId, why: '' }));
  const stages = (await ledgerEntries(pool(), { assembly: assemblyId }, 50)).map(
    (entry) => `${entry.kind} ${entry.stage}`,
  );
  expect(stages).toEqual(
    expect.arrayContaining([
      'assembly built',
      'assembly preset',
      'placement in',
      'placement out',
      'stock issued',
    ]),
  );
});
