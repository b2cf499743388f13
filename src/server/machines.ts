import { traitsOf, type ChangerKind } from '../core/changer/traits.ts';
import type { MachineFile } from '../core/formats/machine-file.ts';
import type { ChangerShape } from '../core/changer/layout.ts';
import type { Interface } from '../core/assembly/silhouette.ts';
import type { LengthSchool } from '../core/length/schools.ts';
import type { ExpiryRule } from '../core/life/count.ts';
import type { Dialect } from '../core/program/dialect.ts';
import type { Length, LengthUnit } from '../core/units/length.ts';
import { nowHeld, pool, row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { insertRecord } from './insert.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { once, type Asking } from './once.ts';
import { laidOver } from '../core/words/laid-over.ts';
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
  /** Places of the loading tray before an outside tray; null where there is none. */
  loadingPlaces: number | null;
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
  longest: Length | null;
  widest: Length | null;
  widestAlone: Length | null;
  heaviest: number | null;
  moment: number | null;
  heaviestAll: number | null;
  unbalance: number | null;
  swing: Length | null;
  travelX: Length | null;
  travelY: Length | null;
  knob: string;
  throughCoolant: boolean;
  /** What the record says of the spindle is known to be true. */
  spindleSure: boolean;
  /** The pocket called last. */
  atPocket: number | null;
  armSeconds: number;
  pocketSeconds: number;
  heavyFactor: number;
}

export const shapeOf = ({ changerKind, places, pitch }: Machine): ChangerShape => ({
  kind: changerKind,
  places,
  pitch,
});

const MACHINE = `m.id, m.name, m.kind, m.words, m.unit, m.changer_kind AS "changerKind", m.places, m.pitch_mm AS pitch, m.loading_places AS "loadingPlaces",
  m.interface, m.highest_tool AS "highestTool", m.highest_speed AS "highestSpeed", m.length_school AS "lengthSchool",
  m.plane_constant AS "planeConstant", m.master_length AS "masterLength", m.x_reckoning AS x, m.cutter_reckoning AS cutter,
  m.increment, m.wear_limit AS "wearLimit", m.expiry, m.dialect, m.control_address AS "controlAddress", m.longest, m.widest,
  m.widest_alone AS "widestAlone", m.heaviest, m.moment, m.heaviest_all AS "heaviestAll", m.unbalance, m.swing, m.travel_x AS "travelX", m.travel_y AS "travelY", m.knob, m.through_coolant AS "throughCoolant", m.spindle_sure AS "spindleSure", m.at_pocket AS "atPocket",
  m.arm_seconds AS "armSeconds", m.pocket_seconds AS "pocketSeconds", m.heavy_factor AS "heavyFactor"`;

export const machines = (db: Db) => rows<Machine>(db, `SELECT ${MACHINE} FROM machine m ORDER BY m.name`);
const machinesByIds = gathered((db, ids: readonly number[]) =>
  rows<Machine & { of: number }>(db, `SELECT m.id AS "of", ${MACHINE} FROM machine m WHERE m.id = ANY($1)`, [
    ids,
  ]),
);
export const machineById = async (db: Db, id: number): Promise<Machine | null> =>
  (await machinesByIds(db, id))[0] ?? null;

/**
 * Holds a machine until this transaction ends: nobody else writes anything of it meanwhile, and what is read here is so when it is written.
 * Whoever writes of a machine holds it first, before anything else is held; of several, the one that was described first.
 */
export async function lockMachine(db: Db, id: number): Promise<void> {
  await db.query('SELECT 1 FROM machine WHERE id = $1 FOR NO KEY UPDATE', [id]);
  nowHeld(db, `machine ${id}`);
}

/** Holds several machines, in one order for everybody. */
export async function lockMachines(db: Db, ids: readonly (number | null)[]): Promise<void> {
  for (const id of [...new Set(ids)].filter((each) => each !== null).sort((a, b) => a - b))
    await lockMachine(db, id);
}

/** A machine that is held. */
export async function heldMachine(db: Db, id: number): Promise<Machine> {
  await lockMachine(db, id);
  const machine = await machineById(db, id);
  if (!machine) throw new Refused('There is no such machine.');
  return machine;
}

/** Registers that a row of each kind of machine has (H8). */
const ROW_KINDS: Record<'mill' | 'lathe', readonly string[]> = {
  mill: ['lengthGeometry', 'lengthWear', 'cutterGeometry', 'cutterWear'],
  lathe: ['xGeometry', 'zGeometry', 'xWear', 'zWear', 'noseRadius', 'tipDirection'],
};
/** The registers of a row that hold its measured length. */
export const geometryKinds = (kind: 'mill' | 'lathe') =>
  kind === 'mill' ? ['lengthGeometry'] : ['xGeometry', 'zGeometry'];
/** Registers that hold a measured length, on a mill or a lathe. */
export const LENGTH_KINDS = ['lengthGeometry', 'xGeometry', 'zGeometry'];
export const WEAR_KINDS = ['lengthWear', 'cutterWear', 'xWear', 'zWear'];

/** Adds a machine that somebody described. */
export const addMachine = (asking: Asking, file: MachineFile) =>
  once(asking, 'addMachine', file, async (db) => ({ id: await importMachine(db, asking.personId, file) }));

/** Adds a machine with its pockets and rows. */
export async function importMachine(db: Db, personId: number, file: MachineFile): Promise<number> {
  if (await row(db, 'SELECT 1 FROM machine WHERE name = $1', [file.name]))
    throw new Refused(`There is already a machine called ${file.name}.`);
  const { changer, limits } = file;
  const id = await insertRecord(db, 'machine', {
    name: file.name,
    kind: file.kind,
    words: file.words,
    unit: file.unit,
    changerKind: changer.kind,
    places: changer.places,
    loadingPlaces: changer.loadingPlaces ?? null,
    pitchMm: changer.pitchMillimetres,
    interface: file.interface,
    highestTool: file.highestTool,
    highestSpeed: file.highestSpeed,
    lengthSchool: file.lengthSchool,
    planeConstant: file.planeConstant,
    masterLength: file.masterLength,
    xReckoning: file.x,
    cutterReckoning: file.cutter,
    increment: file.increment,
    wearLimit: file.wearLimit,
    expiry: file.expiry,
    dialect: file.dialect,
    longest: limits.longest,
    widest: limits.widest,
    widestAlone: limits.widestAlone,
    heaviest: limits.heaviestGrams,
    moment: limits.momentNewtonMetres,
    heaviestAll: limits.heaviestAllGrams,
    unbalance: limits.unbalanceKilogramMillimetres,
    swing: limits.swing,
    travelX: limits.travelX,
    travelY: limits.travelY,
    knob: file.knob,
    throughCoolant: file.throughCoolant,
  });
  await db.query(
    `INSERT INTO place (machine_id, kind, number, in_service, reserved)
     SELECT $1, 'pocket', n, NOT n = ANY($3::integer[]), n = ANY($4::integer[]) FROM generate_series(1, $2) n`,
    [id, file.changer.places, file.changer.outOfService, file.changer.reserved],
  );
  for (const { from, to, holder } of file.changer.cells)
    await db.query(
      "UPDATE place SET cell = $4 WHERE machine_id = $1 AND kind = 'pocket' AND number BETWEEN $2 AND $3",
      [id, from, to, holder],
    );
  if (traitsOf(file.changer).spindle)
    await db.query(`INSERT INTO place (machine_id, kind, number) VALUES ($1, 'spindle', 0)`, [id]);
  await db.query(
    'INSERT INTO register (machine_id, row, kind) SELECT $1, n, k FROM generate_series(1, $2) n, unnest($3::text[]) k',
    [id, file.rows, ROW_KINDS[file.kind]],
  );
  await lockMachine(db, id);
  await append(
    db,
    entry.machine('added', {
      personId,
      machineId: id,
      said: `${file.name} was added: ${file.words}.`,
    }),
  );
  return id;
}

export interface DialectEdit {
  machineId: number;
  dialect?: Partial<Dialect>;
  /** What the page showed of it, where it showed all: what was left as it was shown stays as it is now. */
  shown?: Partial<Dialect>;
  /** A code that changes nothing, beside those that are known. */
  harmless?: string;
}

/** Changes what is named of a machine's dialect; the rest stays, whoever else changes it meanwhile. */
export function editDialect(asking: Asking, edit: DialectEdit) {
  return once(asking, 'editDialect', edit, async (db) => {
    const machine = await heldMachine(db, edit.machineId);
    const { harmless } = edit;
    const known = machine.dialect.harmlessCodes ?? [];
    if (harmless !== undefined && known.includes(harmless))
      throw new Refused(`The profile says so already: ${harmless} changes nothing.`);
    const typed = harmless === undefined ? edit.dialect : { harmlessCodes: [...known, harmless] };
    const { changed, clashes } = edit.shown
      ? laidOver(edit.shown, typed ?? {}, machine.dialect)
      : { changed: typed, clashes: [] };
    if (clashes.length > 0)
      throw new Refused(
        'Somebody else changed the same lines of this profile meanwhile. Look at it again, then change it.',
      );
    await db.query('UPDATE machine SET dialect = dialect || $2::jsonb WHERE id = $1', [
      machine.id,
      JSON.stringify(changed),
    ]);
    await append(
      db,
      entry.machine('dialect', {
        personId: asking.personId,
        machineId: edit.machineId,
        said: `The dialect profile of ${machine.name} was changed.`,
        detail: changed,
      }),
    );
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
