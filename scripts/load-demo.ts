import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { basename } from 'node:path';
import { randomUUID } from 'node:crypto';
import type { Person, Role } from '../src/core/people/roles.ts';
import { shiftAt, neighbours } from '../src/core/shift/calendar.ts';
import { lengthOf, nanometres, type Length } from '../src/core/units/length.ts';
import { flagAssembly } from '../src/server/assemblies.ts';
import { kindOfFile, takeFile, type Brought } from '../src/server/bring-in.ts';
import { cellOf, makeCell } from '../src/server/cell.ts';
import { approve, foundAtControl, readBack, takeReading } from '../src/server/corrections.ts';
import { pool, row, rows, transaction } from '../src/server/db.ts';
import { countParts, insertJob, setJobState } from '../src/server/jobs.ts';
import { signLeaf, writeNote } from '../src/server/leaf.ts';
import { placeIn, writeMeasurement } from '../src/server/machines.ts';
import type { Outcome } from '../src/server/outcome.ts';
import { hashPin, insertPerson } from '../src/server/people.ts';
import { startRenewal } from '../src/server/renewals.ts';
import type { Db } from '../src/server/db.ts';

/** The people of the made-up cell. Their PINs are for the demo only and are printed at start. */
export const DEMO_PEOPLE: readonly { badge: string; name: string; role: Role; pin: string }[] = [
  { badge: '1001', name: 'Maren Holt', role: 'lead', pin: '2580' },
  { badge: '1002', name: 'Ilya Brandt', role: 'setter', pin: '1470' },
  { badge: '1003', name: 'Dede Okafor', role: 'operator', pin: '3690' },
  { badge: '1004', name: 'Sunniva Reyes', role: 'inspector', pin: '7410' },
  { badge: '1005', name: 'Piet Lindqvist', role: 'crib', pin: '8520' },
  { badge: '1006', name: 'Anouk Farrow', role: 'viewer', pin: '9630' },
  { badge: '1007', name: 'Tomas Weller', role: 'lead', pin: '1590' },
];

const file = (path: string) => readFileSync(new URL(`../demo/${path}`, import.meta.url), 'utf8');
const filesIn = (folder: string) =>
  readdirSync(fileURLToPath(new URL(`../demo/${folder}`, import.meta.url))).sort();

/** What a step of the demo is refused would be a fault of the demo. */
async function must<T>(outcome: Promise<Outcome<T>>): Promise<T> {
  const answer = await outcome;
  if (!answer.ok) throw new Error(`demo: ${answer.reason}`);
  return answer.value;
}

/**
 * Loads Weirside through the importers and the acts that its people use, told over the last day and a half so that
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
      const text = file(path);
      return takeFile(db, who.id, kindOfFile(text), {
        fileName: basename(path),
        text,
        machineId: null,
        programId: null,
        partsPerCycle: 1,
        ...over,
      });
    });

  await at(36);
  for (const name of filesIn('machines')) await bring(`machines/${name}`, lead!);
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

  const programs = new Map<string, number>();
  for (const name of filesIn('programs')) {
    const [number] = name.split('-') as [string];
    const { id } = await bring(`programs/${name}`, lead!, {
      machineId: machine.get(number.startsWith('O1') ? 'Curlew' : 'Avocet')!,
      partsPerCycle: number === 'O1402' ? 2 : 1,
    });
    programs.set(number, id!);
  }
  for (const name of filesIn('plans'))
    await bring(`plans/${name}`, inspector!, { programId: programs.get(name.split('-')[0]!)! });

  await at(34);
  const loaded = await loadMachines(setter!, machine, assembly);
  await at(33.8);
  await setRows(setter!, loaded, machine.get('Curlew')!);

  await at(30);
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
  await transaction((db) => setJobState(db, setter!.id, { jobId: pin, to: 'running' }));
  await transaction((db) => setJobState(db, setter!.id, { jobId: carrier, to: 'running' }));

  const read = async (
    program: string,
    job: number,
    name: string,
    part: number,
    size: Length,
    who: Person,
    firstOff = false,
  ) => {
    const feature = (await row<{ id: number }>(
      pool(),
      'SELECT f.id FROM feature f WHERE f.program_number = $1 AND f.name = $2',
      [program, name],
    ))!;
    return must(
      takeReading(as(who), {
        featureId: feature.id,
        programId: programs.get(program)!,
        jobId: job,
        part,
        measured: size,
        confirmed: false,
        firstOff,
      }),
    );
  };
  const keyed = async (proposal: number | null, approver: Person, keyer: Person) => {
    if (proposal === null) throw new Error('demo: a correction was expected');
    await must(approve(as(approver), approver, proposal));
    const { to } = (await row<{ to: Length }>(pool(), 'SELECT to_value AS "to" FROM proposal WHERE id = $1', [
      proposal,
    ]))!;
    await must(readBack(as(keyer), proposal, to));
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
  const firstOff = await read('O1402', pin, 'Journal OD', 1, inch(1.2521), inspector!, true);
  await keyed(firstOff.proposalId, lead!, setter!);
  await at(28.5);
  await made(pin, 2, operator!);
  await read('O1402', pin, 'Journal OD', 2, inch(1.2495), inspector!, true);
  const width = await read('O2301', carrier, 'Body width', 1, mm(150.026), inspector!, true);
  await keyed(width.proposalId, lead!, operator!);
  await at(27);
  await made(carrier, 3, operator!);
  await read('O2301', carrier, 'Body width', 2, mm(150.001), operator!);
  const drift: [number, number, number][] = [
    [26, 12, 1.3779],
    [24, 16, 1.3781],
    [21, 18, 1.3781],
    [18, 20, 1.378],
    [14, 18, 1.3781],
    [10, 20, 1.3781],
  ];
  for (const [hours, parts, size] of drift) {
    await at(hours);
    await made(pin, parts, operator!);
    await read('O1402', pin, 'Bearing seat OD', 0 + parts, inch(size), operator!);
  }
  for (const [hours, parts, size] of [
    [25, 8, 40.011],
    [20, 10, 40.013],
    [15, 9, 40.016],
    [9, 8, 40.015],
  ] as const) {
    await at(hours);
    await made(carrier, parts, operator!);
    await read('O2301', carrier, 'Bearing pocket', 1 + parts, mm(size), operator!);
  }
  await pageTurns(now, second!, setter!, lead!, at);

  await at(6);
  await made(pin, 20, operator!);
  const bore = await read('O1402', pin, 'Bore', 110, inch(0.5902), operator!);
  await at(5.9);
  await must(approve(as(operator!), operator!, bore.proposalId!));
  await must(readBack(as(operator!), bore.proposalId!, inch(-0.0005)));
  await must(readBack(as(operator!), bore.proposalId!, inch(0.0005)));
  await at(5.5);
  await made(pin, 6, operator!);
  await read('O1402', pin, 'Bore', 116, inch(0.5907), operator!);
  await at(4);
  await made(carrier, 9, operator!);
  await read('O2301', carrier, 'Reamed bore', 44, mm(12.011), inspector!);
  const flag = (number: string, why: string) =>
    must(flagAssembly(as(operator!), { assemblyId: assembly.get(number)!, flag: 'broken', why }));
  await flag('A-112', 'Tip gone at a check of Avocet’s length setter; it was not in a cut.');
  await at(2.5);
  await made(pin, 18, operator!);
  const depth = await read('O2301', carrier, 'Pocket depth', 47, mm(24.052), operator!);
  await must(approve(as(lead!), lead!, depth.proposalId!));
  await at(1.2);
  await made(carrier, 4, operator!);
  await must(startRenewal(as(crib!), assembly.get('A-142')!));
  await at(0.6);
  await read('O1402', pin, 'Bearing seat OD', 150, inch(1.3783), operator!);
  await read('O1402', pin, 'Bearing seat OD', 152, inch(1.3784), operator!);
  const here = await shiftKey(now);
  await must(
    writeNote(as(operator!), {
      leaf: here,
      kind: 'question',
      machineId: machine.get('Curlew')!,
      text: 'Row 22 held −0.0004 X wear when the second part was set. Nobody remembers keying it.',
    }),
  );
  await must(
    writeNote(as(setter!), {
      leaf: here,
      kind: 'note',
      machineId: machine.get('Avocet')!,
      text: 'Pocket 17 is out of service: the gripper finger is bent, spares are ordered.',
    }),
  );
  await at(0.4);
  await read('O2301', carrier, 'Body depth (Y)', 51, mm(110.012), operator!);
  await pool().query(`SELECT set_config('tin.at', '', false)`);
}

async function addPeople(): Promise<Person[]> {
  const added: Person[] = [];
  for (const { pin, ...person } of DEMO_PEOPLE) {
    const pinHash = await hashPin(pin);
    const { id } = (await transaction((db) => insertPerson(db, person, pinHash)))!;
    added.push({ ...person, id });
  }
  return added;
}

const shiftKey = async (at: Date) => {
  const cell = await cellOf(pool());
  return shiftAt(at, cell.patterns, cell.timeZone)!.key;
};

/** The shift before the present one was handed over by two signatures. */
async function pageTurns(
  now: Date,
  leaver: Person,
  comer: Person,
  lead: Person,
  at: (hours: number) => Promise<unknown>,
) {
  const cell = await cellOf(pool());
  const present = shiftAt(now, cell.patterns, cell.timeZone)!;
  const { before } = neighbours(present, cell.patterns, cell.timeZone);
  if (!before) return;
  const hoursAgo = (now.getTime() - present.start.getTime()) / 3_600_000 + 0.05;
  if (hoursAgo > 8.9) return;
  await at(Math.max(hoursAgo, 6.1));
  for (const [side, person] of [
    ['leaving', leaver],
    ['coming', comer],
  ] as const)
    await must(signLeaf({ key: randomUUID(), personId: lead.id }, person, before.key, side, now));
}

/** Puts the tools into the machines and sets their rows, as the setter did. */
interface Loaded {
  machineId: number;
  machine: string;
  tool: number;
  assemblyId: number;
}

async function loadMachines(
  setter: Person,
  machine: Map<string, number>,
  assembly: Map<string, number>,
): Promise<Loaded[]> {
  const pocketed: [string, [number, string, number][]][] = [
    [
      'Avocet',
      [
        [1, 'A-101', 3],
        [2, 'A-102', 5],
        [3, 'A-103', 8],
        [4, 'A-104', 9],
        [5, 'A-105', 10],
        [6, 'A-106', 12],
        [7, 'A-107', 14],
        [8, 'A-108', 20],
        [9, 'A-109', 22],
        [11, 'A-111', 24],
        [12, 'A-112', 25],
        [14, 'A-114', 27],
        [30, 'A-130', 30],
      ],
    ],
    [
      'Curlew',
      [
        [1, 'L-201', 1],
        [2, 'L-202', 2],
        [3, 'L-203', 3],
        [4, 'L-204', 4],
        [5, 'L-205', 5],
        [6, 'L-206', 6],
        [7, 'L-207', 7],
        [8, 'L-208', 8],
        [9, 'L-209', 9],
        [12, 'L-212', 12],
      ],
    ],
    [
      'Bittern',
      [
        [1, 'B-301', 1],
        [4, 'B-302', 4],
        [7, 'B-303', 7],
        [8, 'B-304', 8],
        [12, 'B-305', 12],
        [15, 'B-306', 15],
      ],
    ],
    [
      'Dunlin',
      [
        [1, 'D-401', 1],
        [2, 'D-402', 2],
        [6, 'D-403', 6],
        [9, 'D-404', 9],
      ],
    ],
    [
      'Egret',
      [
        [1, 'E-501', 2],
        [2, 'E-502', 6],
        [3, 'E-503', 7],
        [4, 'E-504', 15],
        [5, 'E-505', 16],
        [6, 'E-506', 17],
        [7, 'E-507', 30],
        [8, 'E-508', 44],
        [60, 'E-509', 60],
      ],
    ],
    [
      'Fulmar',
      Array.from({ length: 14 }, (_, i): [number, string, number] => [i + 1, `F-${601 + i}`, i * 3 + 1]),
    ],
  ];
  const loaded: Loaded[] = [];
  for (const [name, tools] of pocketed)
    for (const [tool, number, pocket] of tools) {
      const place = (await row<{ id: number }>(
        pool(),
        'SELECT id FROM place WHERE machine_id = $1 AND number = $2',
        [machine.get(name), pocket],
      ))!;
      const each = { machineId: machine.get(name)!, machine: name, tool, assemblyId: assembly.get(number)! };
      await transaction((db) => placeIn(db, setter.id, { ...each, placeId: place.id }));
      loaded.push(each);
    }
  return loaded;
}

async function setRows(setter: Person, loaded: readonly Loaded[], lathe: number) {
  for (const each of loaded)
    await transaction((db) => setRow(db, setter, each.machineId, each.machine, each.tool, each.assemblyId));
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
                ? nanometres(gauge + lengthOf(-20.5, 'in'))
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
