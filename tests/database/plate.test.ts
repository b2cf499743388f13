import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf } from '../../src/core/units/length.ts';
import { weighed } from '../../src/core/assembly/weighed.ts';
import { assembliesOf, looseAssemblies } from '../../src/server/assemblies.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { makeLoadPlan } from '../../src/server/loads.ts';
import { changePocket } from '../../src/server/magazines.ts';
import { editDialect, machineById } from '../../src/server/machines.ts';
import { codeIsHarmless } from '../../src/server/program-reading.ts';
import { placeTool, takeOut, bearingOf, placesOf } from '../../src/server/places.ts';
import { layoutTask } from '../../src/server/planning.ts';
import { plateOf, recordCells, recordPlate, type Plate } from '../../src/server/plates.ts';
import { switchingFor } from '../../src/server/switching.ts';
import { as, done, entered, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const mm = (value: number) => lengthOf(value, 'mm');
const named = async (name: string) => (await machineById(pool(), await cell.machine(name)))!;
const record = async (name: string, change: Partial<Plate>) => {
  const machine = await named(name);
  return recordPlate(as(cell.lead), {
    machineId: machine.id,
    plate: { ...plateOf(machine), ...change },
    shown: plateOf(machine),
  });
};
const put = async (machine: string, pocket: number, assembly: string, tool: number) =>
  placeTool(as(cell.setter), {
    placeId: await cell.place(machine, pocket),
    assemblyId: await cell.assembly(assembly),
    tool,
  });
const lastSaid = async () =>
  (await row<{ said: string }>(pool(), 'SELECT said FROM ledger ORDER BY id DESC LIMIT 1', []))!.said;

describe('what the plate says', () => {
  it('is recorded with what it was, and nothing else of the machine moves', async () => {
    const before = await named('Avocet');
    done(await record('Avocet', { longest: mm(260), heaviestAll: null }));
    expect(await lastSaid()).toBe(
      'The plate of Avocet was recorded: longest tool 260.000 mm (was 280.000 mm), all tools together not recorded (was 60 kg).',
    );
    expect(await named('Avocet')).toEqual({ ...before, longest: mm(260), heaviestAll: null });
  });
  it('two widths the wrong way round, or less for all than for one, are refused', async () => {
    expect(refused(await record('Avocet', { widest: mm(150) }))).toMatch(/the wrong way round/);
    expect(refused(await record('Avocet', { heaviestAll: 5000 }))).toMatch(
      /weigh more than the heaviest one/,
    );
    expect(refused(await record('Avocet', {}))).toBe('Nothing was changed.');
  });
  it('a T beyond the control’s range is refused while such a tool stands there', async () => {
    expect(refused(await record('Avocet', { highestTool: 20 }))).toMatch(
      /T30 stands in Avocet, whose control goes to T20/,
    );
    expect((await named('Avocet')).highestTool).toBe(200);
    done(await record('Avocet', { highestTool: 30 }));
    expect(refused(await put('Avocet', 19, 'A-141', 31))).toMatch(/from 1 to 30/);
  });
});

describe('what the changer bears', () => {
  it('a tool that makes all of them too heavy together is refused, into a pocket and into the spindle', async () => {
    const machine = await named('Avocet');
    const { total } = bearingOf(machine, await placesOf(pool(), machine.id));
    done(await record('Avocet', { heaviestAll: Math.ceil(total) + 100 }));
    expect(refused(await put('Avocet', 19, 'A-141', 41))).toMatch(
      /The changer would bear 2\d\.\d kg; its plate says 2\d\.\d kg/,
    );
    expect(refused(await put('Avocet', 0, 'A-141', 41))).toMatch(/The changer would bear/);
    done(await record('Avocet', { heaviestAll: 60_000 }));
    done(await put('Avocet', 0, 'A-141', 41));
  });
  it('a turning tool that would swing too far is refused', async () => {
    const out = { placeId: await cell.place('Curlew', 3), assemblyId: await cell.assembly('L-203'), why: '' };
    done(await takeOut(as(cell.setter), out));
    done(await record('Curlew', { swing: lengthOf(24, 'in') }));
    expect(refused(await put('Curlew', 3, 'L-203', 3))).toMatch(
      /The turret would swing 25\.71 in across; its plate says 24\.00 in/,
    );
  });
  it('what is over the plate already is no reason against a tool that makes it no worse', async () => {
    const out = await cell.assembly('L-212');
    done(
      await takeOut(as(cell.setter), { placeId: await cell.place('Curlew', 12), assemblyId: out, why: '' }),
    );
    // the drill in station 3 stands out further than the bar stop
    done(await record('Curlew', { swing: lengthOf(25.5, 'in') }));
    const machine = await named('Curlew');
    expect(bearingOf(machine, await placesOf(pool(), machine.id)).over).toHaveLength(1);
    done(await put('Curlew', 12, 'L-212', 12));
  });
  it('a load plan that would end too heavy is not made', async () => {
    const machine = await named('Avocet');
    const { total } = bearingOf(machine, await placesOf(pool(), machine.id));
    done(await record('Avocet', { heaviestAll: Math.ceil(total) + 100 }));
    const aim = {
      assemblyId: await cell.assembly('A-110'),
      number: 'A-110',
      name: 'Tap M10',
      tool: 10,
      pocket: 16,
      wide: false,
      heavy: false,
      radius: null,
      orientation: null,
    };
    const make = (out: number[]) =>
      makeLoadPlan(as(cell.lead), { machineId: machine.id, wanted: { tools: [aim], out } });
    expect(refused(await make([]))).toMatch(/The changer would bear/);
    done(await make([await cell.assembly('A-102')]));
  });
  it('jobs whose tools are too heavy together are said so in the plan', async () => {
    const remarks = async () =>
      (await layoutTask(pool(), await named('Avocet'), [await cell.program('O2301')], [])).remarks.join(' ');
    expect(await remarks()).not.toMatch(/All these tools weigh/);
    done(await record('Avocet', { heaviestAll: 8000 }));
    expect(await remarks()).toMatch(/All these tools weigh 2\d\.\d kg together; .* says 8\.0 kg/);
  });
});

describe('cells of a tray by holder size', () => {
  it('a holder goes into its own cell and no smaller one, by the rule and by the database', async () => {
    const face = await cell.assembly('F-620');
    const tray = await cell.place('Fulmar', 75);
    done(await takeOut(as(cell.setter), { placeId: tray, assemblyId: face, why: '' }));
    expect(refused(await put('Fulmar', 50, 'F-620', 20))).toBe(
      'Pocket 50 takes holders up to 32.0 mm, and this is 36.0 mm across.',
    );
    await expect(
      entered({
        kind: 'placement',
        stage: 'in',
        personId: cell.setter.id,
        machineId: (await named('Fulmar')).id,
        placeId: await cell.place('Fulmar', 50),
        assemblyId: face,
        tool: 20,
        said: 'past the code',
      }),
    ).rejects.toMatchObject({ code: 'TA009', message: 'F-620 is larger than the cell of pocket 50' });
    done(await put('Fulmar', 90, 'F-620', 20));
  });
  it('cells are not made smaller than what stands in them', async () => {
    const machineId = (await named('Fulmar')).id;
    const cells = (from: number, to: number, size: number | null) =>
      recordCells(as(cell.lead), { machineId, from, to, cell: size === null ? null : mm(size) });
    expect(refused(await cells(70, 80, 34))).toMatch(/F-620 is larger than the cell of pocket 75/);
    expect(refused(await cells(9, 3, 34))).toMatch(/the lower one first/);
    expect(refused(await cells(90, 97, 34))).toMatch(/Pockets go from 1 to 96/);
    done(await cells(90, 96, 34));
    expect(await lastSaid()).toBe('Pockets 90 to 96 of Fulmar take holders up to 34.000 mm.');
    done(await cells(1, 96, null));
    done(
      await takeOut(as(cell.setter), {
        placeId: await cell.place('Fulmar', 75),
        assemblyId: await cell.assembly('F-620'),
        why: '',
      }),
    );
    done(await put('Fulmar', 50, 'F-620', 20));
  });
});

describe('wide tools among the places', () => {
  it('one that a job calls and that is not declared yet takes the pockets beside it too', async () => {
    const machine = await named('Avocet');
    const chosen = [await cell.program('O2301')];
    const asked = () => switchingFor(pool(), machine, chosen, null);
    const declared = await asked();
    expect(declared.room.wide).toEqual([]);
    const face = {
      placeId: await cell.place('Avocet', 3),
      assemblyId: await cell.assembly('A-101'),
      why: '',
    };
    done(await takeOut(as(cell.setter), face));
    done(
      await changePocket(as(cell.setter), {
        placeId: face.placeId,
        change: 'undeclared',
        why: 'for the test',
      }),
    );
    const free = await asked();
    expect(free.room.wide).toEqual([1]);
    // the pocket and its neighbours are free again, and the tool takes three
    expect(free.count).toBe(declared.count + 2);
    expect(free.together).toBe(declared.together + 2);
  });
});

describe('two people at once', () => {
  it('do not pass the plate’s limit for all tools together: one of the two is refused', async () => {
    const machineId = await cell.machine('Avocet');
    const machine = (await machineById(pool(), machineId))!;
    const places = await placesOf(pool(), machineId);
    const empty = places.filter(
      (place) =>
        place.kind === 'pocket' && !place.assembly && place.inService && !place.reserved && !place.wide,
    );
    const { list } = await looseAssemblies(pool(), machine.interface);
    const loose = (
      await assembliesOf(
        pool(),
        list.map(({ id }) => id),
      )
    ).filter((each) => each.flag === null);
    // the plate bears what stands and one more, not two
    const heaviest = loose.map((each) => weighed(each).mass).sort((a, b) => b - a);
    const total = bearingOf(machine, places).total + Math.max(heaviest[0]!, heaviest[1]!) + 1;
    await cell.asOwner((client) =>
      client.query('UPDATE machine SET heaviest_all = $2 WHERE id = $1', [machineId, total]),
    );
    const pair = [...loose].sort((a, b) => weighed(b).mass - weighed(a).mass).slice(0, 2);
    const answers = await Promise.all(
      pair.map((assembly, i) =>
        placeTool(as(i === 0 ? cell.setter : cell.lead), {
          placeId: empty[3 * i]!.id,
          assemblyId: assembly.id,
          tool: 91 + i,
        }),
      ),
    );
    expect(answers.filter((answer) => answer.ok)).toHaveLength(1);
  });
  it('what one recorded since the other’s page was shown stays; the same figure is refused', async () => {
    const shown = plateOf(await named('Avocet'));
    const machineId = await cell.machine('Avocet');
    const say = (change: Partial<Plate>) =>
      recordPlate(as(cell.lead), { machineId, plate: { ...shown, ...change }, shown });
    done(await say({ longest: mm(281) }));
    done(await say({ heaviest: 6_500 }));
    expect(plateOf(await named('Avocet'))).toEqual({ ...shown, longest: mm(281), heaviest: 6_500 });
    expect(refused(await say({ longest: mm(290) }))).toBe(
      'Somebody else recorded it meanwhile: longest tool 281.000 mm. Look at the plate again.',
    );
    expect(refused(await say({ longest: mm(281) }))).toBe('Nothing was changed.');
  });
  it('codes that both say are harmless are both known, and the profile that was open meanwhile keeps them', async () => {
    const programId = await cell.program('O2301');
    const machineId = await cell.machine('Avocet');
    const profile = async () => (await named('Avocet')).dialect;
    const shown = await profile();
    await Promise.all(
      ['M71', 'M72'].map(async (code) => done(await codeIsHarmless(as(cell.lead), { programId, code }))),
    );
    expect((await profile()).harmlessCodes?.toSorted()).toEqual(
      [...(shown.harmlessCodes ?? []), 'M71', 'M72'].sort(),
    );
    expect(refused(await codeIsHarmless(as(cell.lead), { programId, code: 'M71' }))).toMatch(
      /says so already/,
    );
    done(await editDialect(as(cell.lead), { machineId, shown, dialect: { ...shown, lifeCodes: ['M98'] } }));
    expect(await profile()).toMatchObject({ lifeCodes: ['M98'] });
    expect((await profile()).harmlessCodes).toContain('M72');
    const over = { ...shown, harmlessCodes: ['M73'] };
    expect(refused(await editDialect(as(cell.lead), { machineId, shown, dialect: over }))).toMatch(
      /meanwhile/,
    );
  });
});
