import { randomUUID } from 'node:crypto';
import { parse } from 'csv-parse/sync';
import type { Person } from '../../src/core/people/roles.ts';
import { lengthOf, nanometres, type Length } from '../../src/core/units/length.ts';
import { roundToIncrement } from '../../src/core/units/round-to-increment.ts';
import { pool, row, rows, transaction, type Db } from '../../src/server/db.ts';
import { declareIn } from '../../src/server/magazines.ts';
import { placeIn } from '../../src/server/places.ts';
import { foundAtControl, writeMeasurement } from '../../src/server/registers.ts';
import { demoFile, must } from './files.ts';

/** Nose radius in inches and tip direction of the lathe's inserts. */
const NOSES: readonly (readonly [tool: number, radius: number, tip: number])[] = [
  [1, 0.0315, 3],
  [2, 0.0157, 3],
  [4, 0.0157, 2],
  [5, 0.0079, 2],
];

interface Loaded {
  machineId: number;
  machine: string;
  tool: number;
  assemblyId: number;
}

/** Puts the tools into the machines, as the setter did. */
export async function loadMachines(
  setter: Person,
  machine: Map<string, number>,
  assembly: Map<string, number>,
): Promise<Loaded[]> {
  const loaded: Loaded[] = [];
  for (const line of parse(demoFile('loading.csv'), { columns: true }) as Record<string, string>[]) {
      const [name, tool] = [line.machine!, Number(line.tool)];
      const place = (await row<{ id: number }>(
        pool(),
        'SELECT id FROM place WHERE machine_id = $1 AND number = $2',
        [machine.get(name), Number(line.pocket)],
      ))!;
      const each = { machineId: machine.get(name)!, machine: name, tool, assemblyId: assembly.get(line.assembly!)! };
      await transaction(async (db) => {
        if (line.declared) await declareIn(db, setter.id, { placeId: place.id, tool, seenEmpty: true });
        await placeIn(db, setter.id, { ...each, placeId: place.id });
      });
      loaded.push(each);
    }
  return loaded;
}

/** Sets the rows of the tools that were loaded. */
export async function setRows(setter: Person, loaded: readonly Loaded[], lathe: number) {
  for (const each of loaded)
    await transaction((db) => setRow(db, setter, each.machineId, each.machine, each.tool, each.assemblyId));
  // the rows of the second part on the bar serve the same inserts
  for (const [tool, radius, tip] of NOSES)
    for (const at of [tool, tool + 20]) await noseOf(setter, lathe, at, radius, tip);
  for (const tool of [1, 2, 3, 4, 5, 6, 7, 8, 9]) await copySecondPart(setter, lathe, tool);
}

/** Geometry of a tool's own row. One tool of Avocet is left unmeasured, as happens. */
async function setRow(
  db: Db,
  setter: Person,
  machineId: number,
  name: string,
  tool: number,
  assemblyId: number,
) {
  if (name === 'Avocet' && tool === 9) return;
  const { gauge } = (await row<{ gauge: Length }>(
    db,
    'SELECT gauge_length AS gauge FROM assembly WHERE id = $1',
    [assemblyId],
  ))!;
  const values =
    name === 'Curlew'
      ? [
          { kind: 'xGeometry', value: lengthOf(-(8.2 + tool * 0.137), 'in') },
          { kind: 'zGeometry', value: lengthOf(-(19.4 + tool * 0.211), 'in') },
        ]
      : [
          {
            kind: 'lengthGeometry',
            value:
              name === 'Bittern'
                ? roundToIncrement(nanometres(gauge + lengthOf(-20.5, 'in')), nanometres(2540))
                : name === 'Dunlin'
                  ? nanometres(gauge + lengthOf(-310, 'mm'))
                  : name === 'Fulmar'
                    ? nanometres(gauge - lengthOf(87.25, 'mm'))
                    : gauge,
          },
        ];
  await writeMeasurement(db, setter.id, {
    machineId,
    assemblyId,
    row: tool,
    values: values.filter(({ value }) => value !== 0).map((each) => ({ ...each, before: nanometres(0) })),
    gaugeLength: null,
    how: name === 'Curlew' ? 'Touched off on the bar.' : 'From the presetter, after loading.',
    method: name === 'Curlew' || (name === 'Bittern' && tool === 12) ? 'touchOff' : 'presetter',
  });
}

/** Rows 21 to 29 serve the second part of a bar: the first part's rows, shifted towards the chuck. */
async function copySecondPart(setter: Person, machineId: number, tool: number) {
  const registers = await rows<{ kind: string; value: Length; id: number; target: number }>(
    pool(),
    `SELECT a.kind, a.value, b.id, b.value AS target FROM register a JOIN register b ON b.machine_id = a.machine_id AND b.kind = a.kind AND b.row = a.row + 20
     WHERE a.machine_id = $1 AND a.row = $2 AND a.kind IN ('xGeometry', 'zGeometry')`,
    [machineId, tool],
  );
  for (const { kind, value, id } of registers)
    await must(
      foundAtControl(
        { key: randomUUID(), personId: setter.id },
        {
          registerId: id,
          before: nanometres(0),
          after: kind === 'zGeometry' ? nanometres(value + lengthOf(-3.77, 'in')) : value,
          why: 'Copied from the first part’s row and shifted in Z for the second part on the bar.',
        },
      ),
    );
}

async function noseOf(setter: Person, machineId: number, at: number, radius: number, tip: number) {
  for (const [kind, after] of [
    ['noseRadius', lengthOf(radius, 'in')],
    ['tipDirection', nanometres(tip)],
  ] as const) {
    const { id } = (await row<{ id: number }>(
      pool(),
      'SELECT id FROM register WHERE machine_id = $1 AND row = $2 AND kind = $3',
      [machineId, at, kind],
    ))!;
    await must(
      foundAtControl(
        { key: randomUUID(), personId: setter.id },
        { registerId: id, before: nanometres(0), after, why: 'Set with the insert.' },
      ),
    );
  }
}
