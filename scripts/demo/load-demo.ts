import { readOffControl } from './control.ts';
import { foundTwice, pageTurns, promises, shiftKey } from './shifts.ts';
import { machineById } from '../../src/server/machines.ts';
import { beginFirstPart, keyFirst, openFirstPart } from '../../src/server/first-parts.ts';
import { basename } from 'node:path';
import { randomUUID } from 'node:crypto';
import type { Person } from '../../src/core/people/roles.ts';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import { answerParts } from '../../src/server/quarantine.ts';
import { checkedBy } from './checks.ts';
import { kindOfFile, takeFile, type Brought } from '../../src/server/bring-in.ts';
import { makeCell } from '../../src/server/cell.ts';
import { readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { writeGauge } from '../../src/server/gauges.ts';
import { calibrateProbe } from '../../src/server/oriented.ts';
import { lastWith } from '../../src/core/inspection/cycle-place.ts';
import { cycleOf } from '../../src/server/cycle-places.ts';
import { takeReading } from '../../src/server/readings.ts';
import { pool, row, rows, transaction } from '../../src/server/db.ts';
import { countParts } from '../../src/server/counts.ts';
import { insertJob, setJobState } from '../../src/server/jobs.ts';
import { recordLabels } from '../../src/server/label.ts';
import { keepNet } from '../../src/server/safety-net.ts';
import { startRenewal } from '../../src/server/renewals.ts';
import { bringChanged, bringPrograms } from './programs.ts';
import { demoFile, filesIn, must } from './files.ts';
import { loadMachines, setRows } from './machines.ts';
import { fortnight } from './fortnight.ts';
import { family } from './family.ts';
import { edgeHistory } from './edges.ts';
import { groups, nightQueue } from './groups.ts';
import { quarter } from './quarter.ts';
import { cribWork } from './crib.ts';
import { addPeople } from './people.ts';



/** What the demo's sizes are measured with: step, uncertainty, mm; months until it is calibrated again. */
const GAUGES = [
  ['micrometer 0-25', 0.001, 0.002, 5],
  ['micrometer 150-175', 0.001, 0.004, 8],
  ['bore gauge 40', 0.001, 0.003, 3],
  ['height gauge', 0.01, 0.015, 2],
  ['caliper 300', 0.01, 0.02, -1],
] as const;

/**
 * Loads Weirside through the importers and the acts that its people use, told over three months, two weeks and a day and a half, so that
 * there are leaves to turn back to. Works on one connection: POOL_SIZE must be 1.
 */
export async function loadDemo(now = new Date()): Promise<void> {
  const at = (hoursAgo: number) =>
    pool().query(`SELECT set_config('tin.at', $1, false)`, [
      new Date(now.getTime() - hoursAgo * 3_600_000).toISOString(),
    ]);
  await transaction((db) => makeCell(db, 'Weirside', 'Europe/Paris', true));
  const [lead, setter, operator, inspector, crib, , second] = await addPeople();
  const as = (person: Person) => ({ key: randomUUID(), personId: person.id });
  const bring = (path: string, who: Person, over: Partial<Brought> = {}) =>
    transaction((db) => {
      const text = demoFile(path);
      return takeFile(db, who.id, kindOfFile(text), {
        fileName: basename(path),
        text,
        machineId: null,
        programId: null,
        partsPerCycle: 1,
        ...over,
      });
    });

  const DAYS = 14 * 24;
  const BEGUN = 104 * 24;
  await at(BEGUN);
  for (const name of filesIn('machines')) await bring(`machines/${name}`, lead!);
  await bring('components.csv', crib!);
  await bring('assemblies.csv', crib!);
  const machine = new Map(
    (await rows<{ id: number; name: string }>(pool(), 'SELECT id, name FROM machine')).map(({ id, name }) => [
      name,
      id,
    ]),
  );
  const assembly = new Map(
    (await rows<{ id: number; number: string }>(pool(), 'SELECT id, number FROM assembly')).map(
      ({ id, number }) => [number, id],
    ),
  );

  const programs = await bringPrograms({ bring, as, lead: lead!, setter: setter!, machine });
  for (const name of filesIn('plans'))
    await bring(`plans/${name}`, inspector!, { programId: programs.get(name.split('-')[0]!)! });

  for (const [name, resolution, uncertainty, months] of GAUGES)
    await must(
      writeGauge(
        as(inspector!),
        {
          name,
          resolution: lengthOf(resolution, 'mm'),
          uncertainty: lengthOf(uncertainty, 'mm'),
          due: new Date(now.getTime() + months * 30 * 86_400_000).toISOString().slice(0, 10),
        },
        'mm',
      ),
    );

  await at(BEGUN - 2);
  const loaded = await loadMachines(setter!, machine, assembly);
  await at(BEGUN - 2.2);
  await setRows(setter!, loaded, machine.get('Curlew')!);

  // all that came with the cell have their labels; what is built later has none yet
  await must(recordLabels(as(crib!), [...assembly.keys()]));
  await quarter({
    at,
    lead: lead!,
    setter: setter!,
    operator: second!,
    machineId: machine.get('Fulmar')!,
    programId: programs.get('O6105')!,
  });
  await fortnight(
    { now, at, lead: lead!, setter: setter!, operators: [operator!, second!, setter!], machines: machine, programs },
    new Date(now.getTime() - (DAYS + 35) * 3_600_000),
    new Date(now.getTime() - 35.5 * 3_600_000),
  );
  await cribWork(crib!, assembly, at);

  await edgeHistory([setter!, operator!, second!], at);
  await at(31);
  await groups(setter!, (await machineById(pool(), machine.get('Egret')!))!, (await machineById(pool(), machine.get('Curlew')!))!);

  await at(30);
  await bringChanged({ bring, as, lead: lead!, setter: setter!, machine }, programs);
  const parts = await family({ bring, as, lead: lead!, inspector: inspector!, machine });
  const pin = await transaction((db) =>
    insertJob(db, lead!.id, {
      programId: programs.get('O1402')!,
      quantity: 240,
      cycleMilliseconds: 19 * 60_000,
    }),
  );
  const carrier = await transaction((db) =>
    insertJob(db, lead!.id, {
      programId: programs.get('O2301')!,
      quantity: 90,
      cycleMilliseconds: 24 * 60_000,
    }),
  );
  await transaction((db) =>
    insertJob(db, lead!.id, {
      programId: programs.get('O2310')!,
      quantity: 40,
      cycleMilliseconds: 15 * 60_000,
    }),
  );
  await transaction((db) =>
    insertJob(db, lead!.id, {
      programId: programs.get('O2205')!,
      quantity: 12,
      cycleMilliseconds: 52 * 60_000,
    }),
  );
  await transaction((db) =>
    insertJob(db, lead!.id, {
      programId: programs.get('O1421')!,
      quantity: 120,
      cycleMilliseconds: 11 * 60_000,
    }),
  );
  const others = new Map<string, number>();
  for (const [number, quantity, minutes] of [
    ['O3104', 30, 21],
    ['O4102', 80, 9],
    ['O5103', 48, 62],
    ['O6105', 60, 14],
  ] as const)
    others.set(
      number,
      await transaction((db) =>
        insertJob(db, lead!.id, {
          programId: programs.get(number)!,
          quantity,
          cycleMilliseconds: minutes * 60_000,
        }),
      ),
    );
  for (const job of [pin, carrier, ...others.values()])
    await transaction((db) => setJobState(db, setter!.id, { jobId: job, move: 'start' }));

  const read = async (
    program: string,
    job: number,
    name: string,
    size: Length,
    who: Person,
    over: { part?: number; firstOff?: boolean; confirmed?: boolean } = {},
  ) => {
    const feature = (await row<{ id: number; tool: number; row: number }>(
      pool(),
      'SELECT f.id, f.tool, f.row FROM feature f WHERE f.program_number = $1 AND f.name = $2',
      [program, name],
    ))!;
    const { made: last } = (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [job]))!;
    return must(
      takeReading(as(who), {
        featureId: feature.id,
        programId: programs.get(program)!,
        jobId: job,
        // the last part made that the size is on is measured, as at a machine
        part: over.part ?? lastWith(last, (await cycleOf(pool(), job)).rowOf(feature)),
        measured: size,
        confirmed: over.confirmed ?? false,
        firstOff: over.firstOff ?? false,
      }),
    );
  };
  const keyed = async ([proposal]: number[], approver: Person, keyer: Person) => {
    if (proposal === undefined) throw new Error('demo: a correction was expected');
    await must(approve(as(approver), approver, proposal));
    const { to } = (await row<{ to: Length }>(pool(), 'SELECT to_value AS "to" FROM proposal WHERE id = $1', [
      proposal,
    ]))!;
    await must(readBack(as(keyer), proposal, { shown: to, again: to }));
  };
  const made = (job: number, parts: number, who: Person) =>
    transaction(async (db) => {
      const { made: before } = (await row<{ made: number }>(db, 'SELECT made FROM job WHERE id = $1', [
        job,
      ]))!;
      await countParts(db, who.id, { jobId: job, before, parts, source: "from the control's count" });
    });
  const inch = (value: number) => lengthOf(value, 'in');
  const mm = (value: number) => lengthOf(value, 'mm');

  await at(29);
  const firstOff = await read('O1402', pin, 'Journal OD', inch(1.2521), inspector!, { part: 1, firstOff: true });
  await keyed(firstOff.proposalIds, lead!, setter!);
  await at(28.5);
  await made(pin, 4, operator!);
  await read('O1402', pin, 'Journal OD', inch(1.2495), inspector!, { firstOff: true });
  const width = await read('O2301', carrier, 'Body width', mm(150.026), inspector!, { part: 1, firstOff: true });
  await keyed(width.proposalIds, lead!, operator!);
  await at(27);
  await made(carrier, 3, operator!);
  await read('O2301', carrier, 'Body width', mm(150.001), operator!);
  const pocket = (size: number) =>
    read('O4102', others.get('O4102')!, 'Pocket depth', mm(size), second!, { confirmed: true });
  const drift: [number, number, number][] = [
    [26, 10, 1.3779],
    [24, 16, 1.3781],
    [21, 18, 1.3781],
    [18, 20, 1.378],
    [14, 18, 1.3781],
    [10, 20, 1.3781],
  ];
  for (const [hours, parts, size] of drift) {
    await at(hours);
    await made(pin, parts, operator!);
    await read('O1402', pin, 'Bearing seat OD', inch(size), operator!);
    for (const [number, more] of [
      ['O4102', 5],
      ['O5103', 4],
      ['O6105', 2],
    ] as const)
      await made(others.get(number)!, more, second!);
    if (hours === 24) await pocket(4.022);
    if (hours === 21) await keyed((await pocket(4.024)).proposalIds, lead!, second!);
    if (hours === 14) await foundTwice(operator!, machine.get('Dunlin')!, 2);
    if (hours === 10) await pocket(3.979);
  }
  for (const [hours, parts, size] of [
    [25, 8, 40.011],
    [20, 10, 40.013],
    [15, 9, 40.016],
    [9, 8, 40.015],
  ] as const) {
    await at(hours);
    await made(carrier, parts, operator!);
    await read('O2301', carrier, 'Bearing pocket', mm(size), operator!);
  }
  await pageTurns(now, second!, setter!, lead!, at);

  const check = (name: string, tool: number, change: number, who: Person, lastPart: number | null = null) =>
    checkedBy(who, machine.get(name)!, tool, mm(change), lastPart);
  await must(
    calibrateProbe(as(setter!), {
      machineId: machine.get('Avocet')!,
      assemblyId: assembly.get('A-130')!,
      x: mm(0.006),
      y: mm(-0.008),
      mark: 'towards the operator',
    }),
  );
  await at(6.3);
  await must(keepNet(as(setter!), (await machineById(pool(), machine.get('Avocet')!))!, mm(0.2)));
  await at(6.25);
  await parts();
  await at(6.2);
  await check('Avocet', 12, -0.008, setter!);
  await at(6);
  await made(pin, 20, operator!);
  const bore = await read('O1402', pin, 'Bore', inch(0.5902), operator!);
  await at(5.9);
  await must(approve(as(operator!), operator!, bore.proposalIds[0]!));
  await must(readBack(as(operator!), bore.proposalIds[0]!, { shown: inch(-0.0005) }));
  await must(readBack(as(operator!), bore.proposalIds[0]!, { shown: inch(0.0005) }));
  await at(5.5);
  await made(pin, 6, operator!);
  await read('O1402', pin, 'Bore', inch(0.5907), operator!);
  await at(4);
  await made(carrier, 9, operator!);
  await made(others.get('O3104')!, 3, second!);
  await made(others.get('O4102')!, 10, second!);
  await made(others.get('O5103')!, 4, second!);
  await made(others.get('O6105')!, 6, second!);
  await read('O5103', others.get('O5103')!, 'Body width', mm(287.611), inspector!);
  // what is counted from now on is cut on these
  await nightQueue(
    setter!,
    (await machineById(pool(), machine.get('Egret')!))!,
    programs.get('O5103')!,
  );
  const ring = others.get('O3104')!;
  await read('O3104', ring, 'Ring width', inch(9.0004), operator!);
  await check('Bittern', 7, -0.012, second!, 3);
  const height = await read('O3104', ring, 'Ring height', inch(1.1289), operator!, { firstOff: true });
  await keyed(height.proposalIds, lead!, second!);
  await read('O2301', carrier, 'Reamed bore', mm(12.011), inspector!);
  const flag = (number: string, why: string) =>
    must(flagAssembly(as(operator!), { assemblyId: assembly.get(number)!, flag: 'broken', why }));
  await flag('A-112', 'Tip gone at a check of Avocet’s length setter; it was not in a cut.');
  await at(2.5);
  await made(pin, 18, operator!);
  await made(ring, 2, second!);
  // what was keyed did nothing: nothing more on that row until somebody has read it
  await read('O3104', ring, 'Ring height', inch(1.1288), operator!, { part: 4, confirmed: true });
  await read('O3104', ring, 'Ring height', inch(1.1289), operator!, { part: 5, confirmed: true });
  const depth = await read('O2301', carrier, 'Pocket depth', mm(24.052), operator!);
  await must(approve(as(lead!), lead!, depth.proposalIds[0]!));
  await at(1.2);
  await made(carrier, 4, operator!);
  await must(startRenewal(as(crib!), assembly.get('A-142')!));
  // a drill broke two parts after its last good check; the tap went on after it
  await at(1);
  await check('Bittern', 7, -9.4, second!);
  await at(0.9);
  await must(
    answerParts(as(inspector!), {
      assemblyId: assembly.get('B-303')!,
      job: ring,
      from: 4,
      to: 4,
      outcome: 'good',
      found: 'all eight holes to depth, threads gauged',
      again: false,
      allBefore: false,
    }),
  );
  await at(0.8);
  await bringIn(as(setter!), machine.get('Bittern')!, programs.get('O3104')!, inch(0.004));
  await at(0.6);
  await read('O1402', pin, 'Bearing seat OD', inch(1.3783), operator!);
  await read('O1402', pin, 'Bearing seat OD', inch(1.3784), operator!);
  await promises(operator!, setter!, machine, await shiftKey(now));
  await at(0.4);
  await read('O2301', carrier, 'Body depth (Y)', mm(110.012), operator!);
  await pool().query(`SELECT set_config('tin.at', '', false)`);
  await readOffControl(setter!.id, machine.get('Egret')!);
}

/** The ring's end mill was changed: its width is brought to size, and has been cut once on the safe side. */
async function bringIn(asking: { key: string; personId: number }, machineId: number, programId: number, allowance: Length) {
  const again = () => ({ ...asking, key: randomUUID() });
  const machine = (await machineById(pool(), machineId))!;
  const { id: featureId } = (await row<{ id: number }>(
    pool(),
    `SELECT id FROM feature WHERE program_number = 'O3104' AND name = 'Ring width'`,
  ))!;
  await must(beginFirstPart(again(), machine, { programId, school: 'safeSide', sizes: [{ featureId, allowance }] }));
  const { id, toKey } = (await openFirstPart(pool(), machine))!;
  const shown = toKey.map(({ registerId, to }) => ({ registerId, value: to }));
  await must(keyFirst(again(), machine, { id, shown }));
}
