import { traitsOf, type ChangerKind } from '../core/changer/traits.ts';
import { INTERFACES, standOut, widestOf, type AssemblyShape } from '../core/assembly/silhouette.ts';
import { weighed } from '../core/assembly/weighed.ts';
import { bearing, type Bearing } from '../core/changer/bears.ts';
import { hangingRadius } from '../core/changer/clearance.ts';
import { standingRefusal } from '../core/changer/standing.ts';
import { armRefusal, whereMayItGo, type NoArm } from '../core/changer/where.ts';
import { placingRefusal } from '../core/changer/place-tool.ts';
import { ownPocketOf, type PlacedAssembly, type PlaceRow } from '../core/changer/place.ts';
import { row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { countUpTo, cutsOn, type MadeUntilNow } from './made-now.ts';
import { machineById, shapeOf, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Asked, Refused } from './outcome.ts';
import { knobsOf } from './knobs.ts';
import { knobOnRecord } from '../core/holding/fits.ts';
import { heldAssembly } from './assemblies.ts';

interface PlaceCells extends Omit<PlaceRow, 'assembly'>, Omit<PlacedAssembly, 'id' | 'number' | 'kind'> {
  assemblyId: number | null;
  assemblyKind: AssemblyShape['kind'];
  assemblyNumber: string;
}

/** Whether the length of what stands there was written into its row since it was put there. */
const MEASURED = `EXISTS (SELECT 1 FROM ledger l WHERE l.kind = 'register' AND l.stage = 'measured' AND l.assembly_id = a.id
                      AND l.machine_id = p.machine_id AND l.id > greatest(s.entry, a.changed_entry))`;

const placeCells = gathered((db, ids: readonly number[]) =>
  rows<PlaceCells & { of: number }>(
    db,
    `SELECT p.machine_id AS "of", p.id, p.kind, p.number, p.in_service AS "inService", p.reserved, p.wide, p.heavy, p.cell, p.tied_tool AS tied, s.tool, s.since, a.id AS "assemblyId",
            a.number AS "assemblyNumber", a.name, a.kind AS "assemblyKind", a.interface, a.diameter, a.stick_out AS "stickOut",
            a.gauge_length AS "gaugeLength", a.holder_diameter AS "holderDiameter", a.outline, a.seats, a.mass, a.mass_reckoned AS "massReckoned", a.moment, a.speed_limit AS "speedLimit", a.flag, c.basis, c.value AS remaining,
            c.full_life AS "fullLife", c.per_part AS "perPart",
            ${MEASURED} AS measured
     FROM place p LEFT JOIN placement s ON s.place_id = p.id LEFT JOIN assembly a ON a.id = s.assembly_id
     LEFT JOIN life_counter c ON c.assembly_id = a.id
     WHERE p.machine_id = ANY($1) ORDER BY p.number`,
    [ids],
  ),
);

interface StandingRow {
  tool: number;
  kind: 'pocket' | 'spindle';
  number: number;
  assembly: Pick<PlacedAssembly, 'id' | 'name' | 'number' | 'kind' | 'flag' | 'speedLimit' | 'measured'> &
    LifeCells;
}

/** What stands in a machine, under its T and without how it looks: for whoever asks it of forty machines. */
export const toolsStanding = gathered((db, ids: readonly number[]) =>
  rows<StandingRow & { of: number }>(
    db,
    `SELECT s.machine_id AS "of", s.tool, p.kind, p.number,
            jsonb_build_object('id', a.id, 'name', a.name, 'number', a.number, 'kind', a.kind, 'flag', a.flag, 'speedLimit', a.speed_limit, 'measured', ${MEASURED},
              'basis', c.basis, 'remaining', c.value, 'fullLife', c.full_life, 'perPart', c.per_part) AS assembly
     FROM placement s JOIN place p ON p.id = s.place_id JOIN assembly a ON a.id = s.assembly_id LEFT JOIN life_counter c ON c.assembly_id = a.id
     WHERE s.machine_id = ANY($1) ORDER BY p.number`,
    [ids],
  ),
);

/** Every place of a machine with what stands in it. */
export async function placesOf(db: Db, machineId: number): Promise<PlaceRow[]> {
  const found = await placeCells(db, machineId);
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
      wide,
      heavy,
      cell,
      tied,
      tool,
      since,
      ...rest
    }) => ({
      id,
      kind,
      number,
      inService,
      reserved,
      wide,
      heavy,
      cell,
      tied,
      tool,
      since,
      assembly:
        assemblyId === null ? null : { ...rest, id: assemblyId, number: assemblyNumber, kind: assemblyKind },
    }),
  );
}

type LifeCells = Pick<PlacedAssembly, 'basis' | 'remaining' | 'fullLife' | 'perPart'>;

/** The counted life of what stands in a place; null: it is not counted. */
export const lifeOf = (assembly: LifeCells) =>
  assembly.basis === null
    ? null
    : {
        basis: assembly.basis,
        remaining: assembly.remaining!,
        limit: assembly.fullLife!,
        perPart: assembly.perPart,
      };

export const placeName = (place: { kind: 'pocket' | 'spindle'; number: number }, changerKind: ChangerKind) =>
  place.kind === 'spindle' ? 'the spindle' : `${traitsOf({ kind: changerKind }).place} ${place.number}`;

export interface Placing {
  placeId: number;
  assemblyId: number;
  tool: number;
  /** The knob that it carries now, by whoever changed it and says so. */
  knob?: string | undefined;
}

/** Puts an assembly into a place under a T number. */
export function placeTool(asking: Asking, placing: Placing) {
  return once(asking, 'placeTool', placing, (db) => placeIn(db, asking.personId, placing));
}

/**
 * Holds the machine that a place is of, and the assembly: masses and neighbours are sums over the machine, what is said of its pockets may
 * change, and a tool on the bench may be indexed or built anew at this moment.
 */
async function holdAt(db: Db, placeId: number, assemblyId: number): Promise<void> {
  const place = await row<{ machineId: number }>(
    db,
    'SELECT machine_id AS "machineId" FROM place WHERE id = $1',
    [placeId],
  );
  await heldAssembly(db, assemblyId, [place?.machineId ?? null]);
}

export async function placeIn(db: Db, personId: number, placing: Placing): Promise<void> {
  await holdAt(db, placing.placeId, placing.assemblyId);
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
  const assembly = await row<
    AssemblyShape & {
      number: string;
      name: string;
      flag: 'broken' | 'expired' | 'locked' | null;
      mass: number | null;
      moment: number | null;
    }
  >(
    db,
    `SELECT number, name, interface, kind, flag, diameter, stick_out AS "stickOut", gauge_length AS "gaugeLength",
       holder_diameter AS "holderDiameter", outline, seats, mass, moment FROM assembly WHERE id = $1`,
    [placing.assemblyId],
  );
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
    standing: await standingOf(db, machine, place.number, placing.tool, assembly),
    spindleSure: machine.spindleSure,
    fits: { assembly: INTERFACES[assembly.interface].words, machine: INTERFACES[machine.interface].words },
  });
  if (refusal) throw new Refused(refusal);
  const changed = await knobFor(db, machine, placing);
  await append(
    db,
    entry.placement('in', {
      personId,
      machineId: machine.id,
      assemblyId: placing.assemblyId,
      placeId: place.id,
      tool: placing.tool,
      why: changed,
      said: `${assembly.number} (${assembly.name}) was put into ${placeName(place, machine.changerKind)} of ${machine.name} as T${placing.tool}.`,
    }),
  );
}

/**
 * Asks whether the knob was changed, where another is on record than the spindle needs (H3); then it is on record as changed, as far as the
 * catalogue has such a knob. What was changed, in words; empty: nothing was.
 */
async function knobFor(db: Db, machine: Machine, { assemblyId, knob }: Placing): Promise<string> {
  const carries = (await knobsOf(db, [assemblyId])).get(assemblyId) ?? null;
  const refusal = knobOnRecord(carries, { machine: machine.name, knob: machine.knob });
  if (refusal === null) return '';
  if (knob !== machine.knob)
    throw new Asked(`${refusal} Same taper is not same knob: a tool that the drawbar does not hold drops.`, [
      { name: 'knob', value: machine.knob, words: `The knob was changed: it is ${machine.knob} now` },
    ]);
  // drilled or not as the one before: nobody has said otherwise
  await db.query(
    `UPDATE assembly_part p SET component_id = k.id FROM component k, component old
     WHERE p.assembly_id = $1 AND p.role = 'knob' AND old.id = p.component_id
       AND k.id = (SELECT c.id FROM component c WHERE c.kind = 'knob' AND c.series = $2 AND c.merged_into IS NULL
                   ORDER BY c.coolant = old.coolant DESC, c.id LIMIT 1)`,
    [assemblyId, machine.knob],
  );
  return `Its knob was changed from ${carries} to ${machine.knob}.`;
}

type Weighable = AssemblyShape & { mass: number | null; moment: number | null };

/** Where an assembly may go on a machine, by its plate. */
export const whereOn = (machine: Machine, assembly: Weighable) =>
  whereMayItGo(
    { ...assembly, ...weighed(assembly), widest: widestOf(assembly), speedLimit: null, drawbar: null },
    { ...machine, machine: machine.name },
  );

/** Why a machine's changer must not carry an assembly under a T. */
export const noArm = (
  machine: Machine,
  places: readonly PlaceRow[],
  assembly: Weighable,
  tool: number | null,
): NoArm | null =>
  armRefusal(
    shapeOf(machine),
    whereOn(machine, assembly),
    places.some(({ wide, tied }) => wide && tied === tool),
  );

/** What the machine's changer bears as a whole, with these tools in their places. */
export const bearingOf = (
  machine: Machine,
  standing: readonly {
    number: number;
    tool: number | null;
    assembly: Weighable | null;
  }[],
): Bearing =>
  bearing(
    shapeOf(machine),
    machine,
    standing.flatMap(({ number, tool, assembly }) =>
      assembly
        ? [
            {
              pocket: number,
              tool: tool!,
              radius: hangingRadius(shapeOf(machine), assembly),
              mass: weighed(assembly).mass,
              standOut: standOut(assembly),
            },
          ]
        : [],
    ),
  );

/** Why an assembly may not stand in a place because of its width, length or weight. */
async function standingOf(
  db: Db,
  machine: Machine,
  pocket: number,
  tool: number,
  assembly: Weighable,
): Promise<string | null> {
  const all = await placesOf(db, machine.id);
  const others = all.filter((each) => each.number !== pocket);
  const before = bearingOf(machine, others).over;
  // what is over the plate without it is no reason against it
  const over = bearingOf(machine, [...others, { number: pocket, tool, assembly }]).over.find(
    (sentence) => !before.includes(sentence),
  );
  if (over !== undefined) return over;
  return pocket === 0 ? null : hangRefusal(machine, all, pocket, tool, assembly);
}

/** Why an assembly may not hang in a pocket because of what is beside it, or of how wide, long or heavy it is: put there by hand or by the arm. */
export function hangRefusal(
  machine: Machine,
  all: readonly PlaceRow[],
  pocket: number,
  tool: number,
  assembly: Weighable,
): string | null {
  const places = all.filter((each) => each.kind === 'pocket');
  const shape = shapeOf(machine);
  return standingRefusal({
    shape,
    unit: machine.unit,
    pockets: places,
    pocket,
    tool,
    widest: widestOf(assembly),
    radius: hangingRadius(shape, assembly),
    standing: new Map([
      ...places.flatMap((each) =>
        each.assembly ? [[each.number, hangingRadius(shape, each.assembly)] as const] : [],
      ),
      ...spindleHome(machine, all, pocket),
    ]),
    where: whereOn(machine, assembly),
    alone: new Set(
      places.flatMap((each) =>
        each.assembly &&
        each.number !== pocket &&
        whereOn(machine, each.assembly).verdict === 'neighboursEmpty'
          ? [each.number]
          : [],
      ),
    ),
  });
}

/** The tool in the spindle counts as if it hung in its own pocket, where it has one: it goes back there. */
function spindleHome(machine: Machine, places: readonly PlaceRow[], besides: number): [number, number][] {
  const spindle = places.find((each) => each.kind === 'spindle');
  if (!spindle?.assembly) return [];
  const home = traitsOf(shapeOf(machine)).ownPlaces ? spindle.tool : ownPocketOf(places, spindle);
  return home !== null && home !== besides ? [[home, hangingRadius(shapeOf(machine), spindle.assembly)]] : [];
}

export interface Taking extends MadeUntilNow {
  placeId: number;
  assemblyId: number;
  why: string;
}

/** Takes an assembly out of the place it stands in. */
export const takeOut = (asking: Asking, taking: Taking) =>
  once(asking, 'takeOut', taking, (db) => takenOut(db, asking.personId, taking));

export async function takenOut(db: Db, personId: number, taking: Taking): Promise<void> {
  await holdAt(db, taking.placeId, taking.assemblyId);
  const standing = await row<{
    machineId: number;
    machine: string;
    changerKind: ChangerKind;
    spindleSure: boolean;
    kind: 'pocket' | 'spindle';
    number: number;
    tool: number;
    assembly: string;
  }>(
    db,
    `SELECT m.id AS "machineId", m.name AS machine, m.changer_kind AS "changerKind", m.spindle_sure AS "spindleSure",
         p.kind, p.number, s.tool, a.number AS assembly
       FROM placement s JOIN place p ON p.id = s.place_id JOIN machine m ON m.id = s.machine_id JOIN assembly a ON a.id = s.assembly_id
       WHERE s.place_id = $1 AND s.assembly_id = $2`,
    [taking.placeId, taking.assemblyId],
  );
  if (!standing) throw new Refused('That assembly is no longer there. Look at the machine again.');
  if (!standing.spindleSure)
    throw new Refused(
      'Nobody is sure what is in the spindle: say what the control shows first, then take tools out.',
    );
  if (typeof taking.made === 'number') {
    const job = await cutsOn(db, standing);
    if (job) await countUpTo(db, personId, job, taking, 'Counted as a tool was taken out.');
  }
  await append(
    db,
    entry.placement('out', {
      personId,
      machineId: standing.machineId,
      assemblyId: taking.assemblyId,
      placeId: taking.placeId,
      tool: standing.tool,
      why: taking.why,
      said: `${standing.assembly} (T${standing.tool}) was taken out of ${placeName(standing, standing.changerKind)} of ${standing.machine}.`,
    }),
  );
}
