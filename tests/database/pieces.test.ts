import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { INTERFACES } from '../../src/core/assembly/silhouette.ts';
import { massOf, stretches } from '../../src/core/assembly/solid.ts';
import { weighed } from '../../src/core/assembly/weighed.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { assemblyById } from '../../src/server/assemblies.ts';
import { buildAssembly, edgeCostOf, indexInserts, partsOf } from '../../src/server/builds.ts';
import { componentsByNumber, regrind } from '../../src/server/components.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { askedTools, writeDefinition } from '../../src/server/definitions.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { machineById } from '../../src/server/machines.ts';
import { placesOf, placeTool } from '../../src/server/places.ts';
import { programById } from '../../src/server/programs.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeAll(async () => void (cell = await weirside()));
afterAll(closePool);

const mm = (value: number) => lengthOf(value, 'mm');
const item = async (number: string) => (await componentsByNumber(pool(), [number]))[0]!;
const stock = async (number: string) => (await item(number)).stock;
/** An assembly to be built from catalogue numbers. */
const build = async (number: string, stickOut: number, named: Record<string, string>) => ({
  number,
  name: 'A test of pieces',
  parts: Object.fromEntries(
    await Promise.all(Object.entries(named).map(async ([role, of]) => [role, (await item(of)).id] as const)),
  ),
  stickOut: mm(stickOut),
  machineId: null,
  override: '',
});
const SLIM = { cutter: 'EM-6S', holder: 'H40-CC20', adapter: 'C20-6', knob: 'KN-45C' };

describe('pieces between and beside', () => {
  it('a double turning holder goes out with both its tools and their inserts, and all are issued', async () => {
    const pieces = ['T25-D', 'TT-80', 'TG-3', 'IN-CNMG08', 'IN-GR3'];
    const before = await Promise.all(pieces.map(stock));
    const double = { holder: 'T25-D', cutter: 'TT-80', second: 'TG-3' };
    expect(refused(await buildAssembly(as(cell.setter), await build('L-250', 32, double), false))).toMatch(
      /seats for inserts CNMG 1204: choose them. The second tool: It has seats for inserts GR-3/,
    );
    const { id } = done(
      await buildAssembly(
        as(cell.setter),
        await build('L-250', 32, { ...double, insert: 'IN-CNMG08', second_insert: 'IN-GR3' }),
        false,
      ),
    );
    expect((await partsOf(pool(), id)).map((part) => `${part.role} ${part.number}`)).toEqual([
      'holder T25-D',
      'cutter TT-80',
      'second TG-3',
      'insert IN-CNMG08',
      'second_insert IN-GR3',
    ]);
    expect((await assemblyById(pool(), id))!.cornerRadius).toBe(mm(0.8));
    expect(await Promise.all(pieces.map(stock))).toEqual(before.map((n) => n - 1));
    // four edges and two: the third turn takes the second's new insert, the fourth both, and what an edge costs is of both
    const edges = async () =>
      (await partsOf(pool(), id)).flatMap(({ role, edgesUsed }) =>
        role.endsWith('insert') ? [edgesUsed] : [],
      );
    const seen: number[][] = [];
    for (let turn = 0; turn < 4; turn += 1) {
      done(await indexInserts(as(cell.setter), id));
      seen.push(await edges());
    }
    expect(seen).toEqual([
      [1, 1],
      [2, 0],
      [3, 1],
      [0, 0],
    ]);
    expect(await stock('IN-CNMG08')).toBe(before[3]! - 2);
    expect(await stock('IN-GR3')).toBe(before[4]! - 3);
    expect(edgeCostOf(await partsOf(pool(), id))).toBe(820 / 4 + 1340 / 2);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('two tools of one line in it come off the shelf one after the other, and their inserts too', async () => {
    const before = await Promise.all(['TT-80', 'IN-CNMG08'].map(stock));
    const both = { cutter: 'TT-80', second: 'TT-80', insert: 'IN-CNMG08', second_insert: 'IN-CNMG08' };
    const { id } = done(
      await buildAssembly(as(cell.setter), await build('L-251', 32, { holder: 'T25-D', ...both }), false),
    );
    expect(await Promise.all(['TT-80', 'IN-CNMG08'].map(stock))).toEqual(before.map((n) => n - 2));
    for (let turn = 0; turn < 4; turn += 1) done(await indexInserts(as(cell.setter), id));
    expect(await stock('IN-CNMG08')).toBe(before[1]! - 4);
  });
  it('a nut of another series is refused with both series', async () => {
    const wrong = await build('X-9', 18, { ...SLIM, nut: 'C32-NUT' });
    expect(refused(await buildAssembly(as(cell.setter), wrong, false))).toMatch(
      /nut is of series C32, the chuck takes C20/,
    );
    expect(await stock('C32-NUT')).toBe(6);
  });
  it('an extension takes one shank only, whatever the collet would', async () => {
    const wrong = await build('X-9', 18, { ...SLIM, extension: 'EX-16' });
    expect(refused(await buildAssembly(as(cell.setter), wrong, false))).toMatch(
      /extension takes a shank of 10.000 mm, the cutter's is 6.000 mm/,
    );
  });
});

describe('what a built assembly weighs', () => {
  const built = async (number: string) => {
    const { id } = done(await buildAssembly(as(cell.setter), await build(number, 30, SLIM), false));
    return (await assemblyById(pool(), id))!;
  };
  it('is the sum of its pieces where each was weighed', async () => {
    const weights = await Promise.all(
      Object.values(SLIM).map(async (number) => (await item(number)).dimensions.WT!),
    );
    const assembly = await built('M-201');
    expect(assembly.mass).toBe(weights.reduce((sum, each) => sum + each, 0));
    expect(weighed(assembly).reckoned).toBe(false);
  });
  it('is reckoned with its taper where one was not, and the machine’s page counts it among those', async () => {
    await cell.asOwner((client) =>
      client.query("UPDATE component SET dimensions = dimensions - 'WT' WHERE number = 'EM-6S'"),
    );
    const assembly = await built('M-202');
    const solids = stretches(assembly.outline!, 100, 'carbide');
    expect(assembly.mass).toBeCloseTo(massOf(solids) + INTERFACES['steep 40'].taperGrams, 3);
    expect(weighed(assembly)).toMatchObject({ mass: assembly.mass, reckoned: true });
    const machine = (await machineById(pool(), await cell.machine('Avocet')))!;
    const free = (await placesOf(pool(), machine.id)).find(
      (place) => place.kind === 'pocket' && !place.assembly && place.inService && !place.reserved,
    )!;
    done(await placeTool(as(cell.setter), { placeId: free.id, assemblyId: assembly.id, tool: 88 }));
    const standing = (await placesOf(pool(), machine.id)).find(({ id }) => id === free.id)!.assembly!;
    expect(weighed(standing)).toMatchObject({ mass: assembly.mass, reckoned: true });
  });
});

describe('a regrind', () => {
  it('is told where a program asks for the old size, and only there', async () => {
    const { id, stock: before } = await item('EM-10R02');
    done(
      await regrind(as(cell.crib), {
        componentId: id,
        before,
        pieces: 2,
        diameter: mm(9.7),
        overall: mm(71),
      }),
    );
    const program = (await programById(pool(), await cell.program('O2205')))!;
    done(
      await writeDefinition(as(cell.lead), {
        programId: program.id,
        tool: 9,
        kind: 'drill',
        diameter: mm(10),
        cornerRadius: null,
        reach: null,
        teeth: null,
        thread: '',
        leftHand: null,
        leastLife: null,
      }),
    );
    const told = (await askedTools(pool(), program)).map(({ tool, reground }) => ({
      tool,
      numbers: reground.map((each) => each.number),
    }));
    expect(told.filter((each) => each.numbers.length > 0)).toEqual([{ tool: 3, numbers: ['EM-10R02-R1'] }]);
  });
});
