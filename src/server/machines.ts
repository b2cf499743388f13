import type { MachineFile } from '../core/formats/machine-file.ts';
import { placingRefusal } from '../core/changer/place-tool.ts';
import type { ChangerKind } from '../core/changer/layout.ts';
import type { AssemblyShape, Interface } from '../core/assembly/silhouette.ts';
import { INTERFACES } from '../core/assembly/silhouette.ts';
import type { LengthSchool } from '../core/length/schools.ts';
import type { ExpiryRule, LifeBasis } from '../core/life/count.ts';
import type { Dialect } from '../core/program/dialect.ts';
import type { Length, LengthUnit } from '../core/units/length.ts';
import { pool, row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

export interface Machine {
  id: number;
  name: string;
  kind: 'mill' | 'lathe';
  words: string;
  unit: LengthUnit;
  changerKind: ChangerKind;
  places: number;
  pitch: number;
  interface: Interface;
  highestTool: number;
  highestSpeed: number;
  lengthSchool: LengthSchool;
  planeConstant: Length;
  masterLength: Length;
  x: 'diameter' | 'radius';
  cutter: 'diameter' | 'radius';
  increment: Length;
  wearLimit: Length;
  expiry: ExpiryRule;
  dialect: Dialect;
  controlAddress: string | null;
}

const MACHINE = `m.id, m.name, m.kind, m.words, m.unit, m.changer_kind AS "changerKind", m.places, m.pitch_mm AS pitch,
  m.interface, m.highest_tool AS "highestTool", m.highest_speed AS "highestSpeed", m.length_school AS "lengthSchool",
  m.plane_constant AS "planeConstant", m.master_length AS "masterLength", m.x_reckoning AS x, m.cutter_reckoning AS cutter,
  m.increment, m.wear_limit AS "wearLimit", m.expiry, m.dialect, m.control_address AS "controlAddress"`;

export const machines = (db: Db) => rows<Machine>(db, `SELECT ${MACHINE} FROM machine m ORDER BY m.name`);
export const machineById = (db: Db, id: number) =>
  row<Machine>(db, `SELECT ${MACHINE} FROM machine m WHERE m.id = $1`, [id]);

/** Registers that a row of each kind of machine has (H8). */
const ROW_KINDS: Record<'mill' | 'lathe', readonly string[]> = {
  mill: ['lengthGeometry', 'lengthWear', 'cutterGeometry', 'cutterWear'],
  lathe: ['xGeometry', 'zGeometry', 'xWear', 'zWear', 'noseRadius', 'tipDirection'],
};
/** The registers of a row that hold its measured length. */
export const geometryKinds = (kind: 'mill' | 'lathe') =>
  kind === 'mill' ? ['lengthGeometry'] : ['xGeometry', 'zGeometry'];
export const WEAR_KINDS = ['lengthWear', 'cutterWear', 'xWear', 'zWear'];

/** Adds a machine with its pockets and rows. */
export async function importMachine(db: Db, personId: number, file: MachineFile): Promise<number> {
  if (await row(db, 'SELECT 1 FROM machine WHERE name = $1', [file.name]))
    throw new Refused(`There is a machine called ${file.name} already.`);
  const { id } = (await row<{ id: number }>(
    db,
    `INSERT INTO machine (name, kind, words, unit, changer_kind, places, pitch_mm, interface, highest_tool, highest_speed,
       length_school, plane_constant, master_length, x_reckoning, cutter_reckoning, increment, wear_limit, expiry, dialect)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19) RETURNING id`,
    [
      file.name,
      file.kind,
      file.words,
      file.unit,
      file.changer.kind,
      file.changer.places,
      file.changer.pitchMillimetres,
      file.interface,
      file.highestTool,
      file.highestSpeed,
      file.lengthSchool,
      file.planeConstant,
      file.masterLength,
      file.x,
      file.cutter,
      file.increment,
      file.wearLimit,
      file.expiry,
      JSON.stringify(file.dialect),
    ],
  ))!;
  await db.query(
    `INSERT INTO place (machine_id, kind, number, in_service, reserved)
     SELECT $1, 'pocket', n, NOT n = ANY($3::integer[]), n = ANY($4::integer[]) FROM generate_series(1, $2) n`,
    [id, file.changer.places, file.changer.outOfService, file.changer.reserved],
  );
  if (file.changer.kind !== 'turret')
    await db.query(`INSERT INTO place (machine_id, kind, number) VALUES ($1, 'spindle', 0)`, [id]);
  await db.query(
    'INSERT INTO register (machine_id, row, kind) SELECT $1, n, k FROM generate_series(1, $2) n, unnest($3::text[]) k',
    [id, file.rows, ROW_KINDS[file.kind]],
  );
  await append(db, {
    kind: 'machine',
    stage: 'added',
    personId,
    machineId: id,
    said: `${file.name} was added: ${file.words}.`,
  });
  return id;
}

export interface PlaceRow {
  id: number;
  kind: 'pocket' | 'spindle';
  number: number;
  inService: boolean;
  reserved: boolean;
  tool: number | null;
  since: Date | null;
  assembly: PlacedAssembly | null;
}

export interface PlacedAssembly extends AssemblyShape {
  id: number;
  number: string;
  name: string;
  flag: 'broken' | 'expired' | 'locked' | null;
  basis: LifeBasis | null;
  remaining: number | null;
  fullLife: number | null;
  /** Whether its length was written into its row since it was put here. */
  measured: boolean;
}

interface PlaceCells extends Omit<PlaceRow, 'assembly'>, Omit<PlacedAssembly, 'id' | 'number' | 'kind'> {
  assemblyId: number | null;
  assemblyKind: AssemblyShape['kind'];
  assemblyNumber: string;
}

/** Every place of a machine with what stands in it. */
export async function placesOf(db: Db, machineId: number): Promise<PlaceRow[]> {
  const found = await rows<PlaceCells>(
    db,
    `SELECT p.id, p.kind, p.number, p.in_service AS "inService", p.reserved, s.tool, s.since, a.id AS "assemblyId",
            a.number AS "assemblyNumber", a.name, a.kind AS "assemblyKind", a.interface, a.diameter, a.stick_out AS "stickOut",
            a.gauge_length AS "gaugeLength", a.holder_diameter AS "holderDiameter", a.flag, c.basis, c.value AS remaining,
            c.full_life AS "fullLife",
            EXISTS (SELECT 1 FROM ledger l WHERE l.kind = 'register' AND l.stage = 'measured' AND l.assembly_id = a.id
                      AND l.machine_id = p.machine_id AND l.at > s.since) AS measured
     FROM place p LEFT JOIN placement s ON s.place_id = p.id LEFT JOIN assembly a ON a.id = s.assembly_id
     LEFT JOIN life_counter c ON c.assembly_id = a.id
     WHERE p.machine_id = $1 ORDER BY p.number`,
    [machineId],
  );
  return found.map(
    ({
      assemblyId,
      assemblyNumber,
      assemblyKind,
      id,
      kind,
      number,
      inService,
      reserved,
      tool,
      since,
      ...rest
    }) => ({
      id,
      kind,
      number,
      inService,
      reserved,
      tool,
      since,
      assembly:
        assemblyId === null ? null : { ...rest, id: assemblyId, number: assemblyNumber, kind: assemblyKind },
    }),
  );
}

export const placeName = (place: { kind: 'pocket' | 'spindle'; number: number }, changerKind: ChangerKind) =>
  place.kind === 'spindle'
    ? 'the spindle'
    : `${changerKind === 'turret' ? 'station' : changerKind === 'rack' ? 'fork' : 'pocket'} ${place.number}`;

export interface Placing {
  placeId: number;
  assemblyId: number;
  tool: number;
}

/** Puts an assembly into a place under a T number. */
export function placeTool(asking: Asking, placing: Placing) {
  return once(asking, 'placeTool', placing, (db) => placeIn(db, asking.personId, placing));
}

export async function placeIn(db: Db, personId: number, placing: Placing): Promise<void> {
  const place = await row<{
    id: number;
    machineId: number;
    kind: 'pocket' | 'spindle';
    number: number;
    inService: boolean;
    reserved: boolean;
  }>(
    db,
    'SELECT id, machine_id AS "machineId", kind, number, in_service AS "inService", reserved FROM place WHERE id = $1',
    [placing.placeId],
  );
  const assembly = await row<{
    number: string;
    name: string;
    interface: Interface;
    kind: string;
    flag: 'broken' | 'expired' | 'locked' | null;
  }>(db, 'SELECT number, name, interface, kind, flag FROM assembly WHERE id = $1', [placing.assemblyId]);
  if (!place || !assembly) throw new Refused('That pocket or assembly does not exist.');
  const machine = (await machineById(db, place.machineId))!;
  const taken = await rows<{
    tool: number;
    assemblyId: number;
    placeId: number;
    machine: string;
    placeKind: 'pocket' | 'spindle';
    number: number;
    machineId: number;
  }>(
    db,
    `SELECT s.tool, s.assembly_id AS "assemblyId", s.place_id AS "placeId", m.name AS machine, p.kind AS "placeKind", p.number, s.machine_id AS "machineId"
     FROM placement s JOIN place p ON p.id = s.place_id JOIN machine m ON m.id = s.machine_id
     WHERE s.place_id = $1 OR s.assembly_id = $2 OR (s.machine_id = $3 AND s.tool = $4)`,
    [placing.placeId, placing.assemblyId, machine.id, placing.tool],
  );
  const named = (other: (typeof taken)[number] | undefined) =>
    other
      ? `${other.machine}, ${placeName({ kind: other.placeKind, number: other.number }, machine.changerKind)}`
      : null;
  const occupant = taken.find((other) => other.placeId === placing.placeId);
  const refusal = placingRefusal({
    changer: machine.changerKind,
    place: { ...place, reserved: place.reserved && assembly.kind !== 'probe' },
    tool: placing.tool,
    highestTool: machine.highestTool,
    occupant: occupant ? `T${occupant.tool}` : null,
    toolElsewhere: named(
      taken.find((other) => other.tool === placing.tool && other.machineId === machine.id),
    ),
    assemblyElsewhere: named(taken.find((other) => other.assemblyId === placing.assemblyId)),
    assemblyFlag: assembly.flag,
    fits: { assembly: INTERFACES[assembly.interface].words, machine: INTERFACES[machine.interface].words },
  });
  if (refusal) throw new Refused(refusal);
  await append(db, {
    kind: 'placement',
    stage: 'in',
    personId,
    machineId: machine.id,
    assemblyId: placing.assemblyId,
    placeId: place.id,
    tool: placing.tool,
    said: `${assembly.number} (${assembly.name}) was put into ${placeName(place, machine.changerKind)} of ${machine.name} as T${placing.tool}.`,
  });
}

/** Takes an assembly out of the place it stands in. */
export function takeOut(asking: Asking, taking: { placeId: number; assemblyId: number; why: string }) {
  return once(asking, 'takeOut', taking, async (db) => {
    const standing = await row<{
      machineId: number;
      machine: string;
      changerKind: ChangerKind;
      kind: 'pocket' | 'spindle';
      number: number;
      tool: number;
      assembly: string;
    }>(
      db,
      `SELECT m.id AS "machineId", m.name AS machine, m.changer_kind AS "changerKind", p.kind, p.number, s.tool, a.number AS assembly
       FROM placement s JOIN place p ON p.id = s.place_id JOIN machine m ON m.id = s.machine_id JOIN assembly a ON a.id = s.assembly_id
       WHERE s.place_id = $1 AND s.assembly_id = $2`,
      [taking.placeId, taking.assemblyId],
    );
    if (!standing) throw new Refused('That assembly is no longer there. Look at the machine again.');
    await append(db, {
      kind: 'placement',
      stage: 'out',
      personId: asking.personId,
      machineId: standing.machineId,
      assemblyId: taking.assemblyId,
      placeId: taking.placeId,
      tool: standing.tool,
      why: taking.why,
      said: `${standing.assembly} (T${standing.tool}) was taken out of ${placeName(standing, standing.changerKind)} of ${standing.machine}.`,
    });
  });
}

export interface RegisterRow {
  id: number;
  row: number;
  kind: string;
  value: Length;
}

/** All registers of a machine's rows that hold something or serve a tool that is placed or called. */
export const registersOf = (db: Db, machineId: number) =>
  rows<RegisterRow>(db, 'SELECT id, row, kind, value FROM register WHERE machine_id = $1 ORDER BY row, id', [
    machineId,
  ]);

export interface Measuring {
  machineId: number;
  assemblyId: number;
  row: number;
  values: { kind: string; value: Length; before: Length }[];
  gaugeLength: Length | null;
  how: string;
}

/** Writes a measured length into a tool's row: geometry only, so that wear stays what it is (H19). */
export function measureTool(asking: Asking, measuring: Measuring) {
  return once(asking, 'measureTool', measuring, (db) => writeMeasurement(db, asking.personId, measuring));
}

export async function writeMeasurement(db: Db, personId: number, measuring: Measuring): Promise<void> {
  const machine = await machineById(db, measuring.machineId);
  const assembly = await row<{ number: string; tool: number }>(
    db,
    `SELECT a.number, s.tool FROM placement s JOIN assembly a ON a.id = s.assembly_id WHERE s.assembly_id = $1 AND s.machine_id = $2`,
    [measuring.assemblyId, measuring.machineId],
  );
  if (!machine || !assembly) throw new Refused('That assembly is not in this machine any more.');
  for (const { kind, value, before } of measuring.values) {
    if (!geometryKinds(machine.kind).includes(kind))
      throw new Refused('Only a geometry is measured; wear is corrected.');
    if (value === 0)
      throw new Refused('A length of zero is not a measurement: it is what an empty row holds.');
    const register = await row<{ id: number }>(
      db,
      'SELECT id FROM register WHERE machine_id = $1 AND row = $2 AND kind = $3',
      [machine.id, measuring.row, kind],
    );
    if (!register) throw new Refused(`${machine.name} has no row ${measuring.row}.`);
    await append(db, {
      kind: 'register',
      stage: 'measured',
      personId,
      machineId: machine.id,
      assemblyId: measuring.assemblyId,
      tool: assembly.tool,
      registerId: register.id,
      before,
      after: value,
      said: `T${assembly.tool} (${assembly.number}) was measured; row ${measuring.row} was set.`,
      why: measuring.how,
    });
  }
  if (measuring.gaugeLength !== null)
    await db.query('UPDATE assembly SET gauge_length = $2 WHERE id = $1', [
      measuring.assemblyId,
      measuring.gaugeLength,
    ]);
}

/** Changes how a machine's programs are read and its registers are written. */
export function editDialect(asking: Asking, edit: { machineId: number; dialect: Dialect }) {
  return once(asking, 'editDialect', edit, async (db) => {
    const machine = await row<{ name: string }>(
      db,
      'UPDATE machine SET dialect = $2 WHERE id = $1 RETURNING name',
      [edit.machineId, JSON.stringify(edit.dialect)],
    );
    if (!machine) throw new Refused('There is no such machine.');
    await append(db, {
      kind: 'machine',
      stage: 'dialect',
      personId: asking.personId,
      machineId: edit.machineId,
      said: `The dialect profile of ${machine.name} was changed.`,
      detail: edit.dialect,
    });
  });
}

export interface MachineGlance extends Machine {
  loaded: number;
  flagged: number;
  job: string | null;
}

/** The machines with what one sees at a glance. */
export const machinesAtAGlance = () =>
  rows<MachineGlance>(
    pool(),
    `SELECT ${MACHINE},
            (SELECT count(*)::integer FROM placement s WHERE s.machine_id = m.id) AS loaded,
            (SELECT count(*)::integer FROM placement s JOIN assembly a ON a.id = s.assembly_id WHERE s.machine_id = m.id AND a.flag IS NOT NULL) AS flagged,
            (SELECT g.number || ' ' || g.title FROM job j JOIN program g ON g.id = j.program_id WHERE j.machine_id = m.id AND j.state = 'running') AS job
     FROM machine m ORDER BY m.name`,
  );
