import { traitsOf } from '../core/changer/traits.ts';
import type { AssemblyShape } from '../core/assembly/silhouette.ts';
import { weighed } from '../core/assembly/weighed.ts';
import { hangingRadius } from '../core/changer/clearance.ts';
import { calibrate, type ChangeTimes, type TimedChange } from '../core/changer/change-time.ts';
import type { RoomState, RoomTool } from '../core/changer/room.ts';
import { ownPocketOf, type PlaceRow } from '../core/changer/place.ts';
import { tableThen, type TableEntry, type TableState } from '../core/changer/table-then.ts';
import { blockedBy, wideRefusals } from '../core/changer/wide.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { lockMachine, machineById, shapeOf, type Machine, heldMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { noArm, placeName, placesOf } from './places.ts';

/** Swing arms and chains go to the next tool while the present one cuts; the others wait (H4). */
export const timesOf = (machine: Machine): ChangeTimes => ({
  arm: machine.armSeconds,
  perPocket: machine.pocketSeconds,
  heavyFactor: machine.heavyFactor,
  preStaging: traitsOf(shapeOf(machine)).exchanges,
});

/** Heavy for a plan: declared so, wide, or over half of what the changer bears. */
const HEAVY_SHARE = 0.5;
export const isHeavy = (
  machine: Machine,
  assembly: AssemblyShape & { mass: number | null; moment: number | null },
): boolean => machine.heaviest !== null && weighed(assembly).mass > HEAVY_SHARE * machine.heaviest;

/** The magazine as a plan for making room sees it. */
export function roomState(machine: Machine, places: readonly PlaceRow[]): RoomState {
  const pockets = places.filter((place) => place.kind === 'pocket');
  const wide = new Set(pockets.filter((place) => place.wide).map((place) => place.number));
  const shape = shapeOf(machine);
  const toolOf = (place: PlaceRow): RoomTool | null =>
    place.assembly && {
      tool: place.tool!,
      heavy: place.heavy || place.wide || isHeavy(machine, place.assembly),
      radius: hangingRadius(shape, place.assembly),
      home: ownPocketOf(places, place),
      noArm: noArm(machine, places, place.assembly, place.tool),
    };
  const spindle = places.find((place) => place.kind === 'spindle');
  return {
    shape,
    at: machine.atPocket ?? 1,
    spindle: spindle ? toolOf(spindle) : null,
    pockets: pockets.map((place) => {
      const content = toolOf(place);
      const usable =
        place.inService &&
        !place.reserved &&
        !place.wide &&
        !content?.noArm &&
        blockedBy(shape, wide, place.number) === null;
      return { number: place.number, content, usable };
    }),
  };
}

export type PocketChange =
  | 'undeclared'
  | 'reserved'
  | 'released'
  | 'inService'
  | 'outOfService'
  | 'heavy'
  | 'light';
const CHANGE_WORDS: Record<PocketChange, string> = {
  undeclared: 'is no longer declared wide',
  reserved: 'is reserved',
  released: 'is no longer reserved',
  inService: 'is in service again',
  outOfService: 'was taken out of service',
  heavy: 'is marked heavy: the arm runs slow',
  light: 'is no longer marked heavy',
};

/** Whether a pocket is so already. */
const SO_ALREADY: Record<PocketChange, (place: PlaceRow) => boolean> = {
  undeclared: ({ wide }) => !wide,
  reserved: ({ reserved }) => reserved,
  released: ({ reserved }) => !reserved,
  inService: ({ inService }) => inService,
  outOfService: ({ inService }) => !inService,
  heavy: ({ heavy }) => heavy,
  light: ({ heavy }) => !heavy,
};

/** A machine of whose spindle somebody is sure. */
export function sureOf(machine: Machine | null): Machine {
  if (!machine) throw new Refused('There is no such machine.');
  if (!machine.spindleSure)
    throw new Refused(
      `Nobody is sure what is in the spindle of ${machine.name}: say what the control shows first.`,
    );
  return machine;
}

async function placeOf(db: Db, placeId: number) {
  const found = await row<{ machineId: number }>(
    db,
    'SELECT machine_id AS "machineId" FROM place WHERE id = $1',
    [placeId],
  );
  if (!found) throw new Refused('There is no such pocket.');
  // what stands beside it stays until this is written
  await lockMachine(db, found.machineId);
  const machine = sureOf(await machineById(db, found.machineId));
  const places = await placesOf(db, machine.id);
  return { machine, places, place: places.find((each) => each.id === placeId)! };
}

/** Declares a pocket wide for a T, when the rules of H5 let it. */
export const declareWide = (
  asking: Asking,
  declared: { placeId: number; tool: number; seenEmpty: boolean },
) => once(asking, 'declareWide', declared, (db) => declareIn(db, asking.personId, declared));

export async function declareIn(
  db: Db,
  personId: number,
  declared: { placeId: number; tool: number; seenEmpty: boolean },
): Promise<void> {
  const { machine, places, place } = await placeOf(db, declared.placeId);
  const spindle = places.find((each) => each.kind === 'spindle');
  const refusals = wideRefusals({
    shape: shapeOf(machine),
    pockets: places.filter((each) => each.kind === 'pocket'),
    pocket: place.number,
    tool: declared.tool,
    atSpindle: machine.atPocket,
    spindleTool: spindle?.tool ?? null,
    highestTool: machine.highestTool,
    seenEmpty: declared.seenEmpty,
  });
  if (refusals.length > 0) throw new Refused(refusals.join(' '));
  await append(
    db,
    entry.pocket('declared', {
      personId,
      machineId: machine.id,
      placeId: place.id,
      tool: declared.tool,
      said: `${placeName(place, machine.changerKind)} of ${machine.name} was declared wide for T${declared.tool}; the pockets beside it stay empty.`,
    }),
  );
}

/** Changes what the table says of a pocket. */
export const changePocket = (
  asking: Asking,
  changed: { placeId: number; change: PocketChange; why: string },
) =>
  once(asking, 'changePocket', changed, (db) =>
    changePocketIn(db, asking.personId, changed.placeId, changed.change, changed.why),
  );

export async function changePocketIn(
  db: Db,
  personId: number,
  placeId: number,
  change: PocketChange,
  why: string,
): Promise<void> {
  const { machine, places, place } = await placeOf(db, placeId);
  if (place.kind !== 'pocket') throw new Refused('The spindle is not a pocket.');
  const spindle = places.find((each) => each.kind === 'spindle');
  if (SO_ALREADY[change](place))
    throw new Refused(
      `${placeName(place, machine.changerKind)} ${CHANGE_WORDS[change].replace('was taken', 'is')} already: somebody did it meanwhile, or it never was otherwise.`,
    );
  if (change === 'undeclared' && (place.assembly || spindle?.tool === place.tied))
    throw new Refused(`T${place.tied} is still in the machine: take it out first.`);
  if (change === 'outOfService' && place.assembly)
    throw new Refused(`T${place.tool} stands in pocket ${place.number}: take it out first.`);
  if (change === 'outOfService' && why.trim() === '')
    throw new Refused('Say what is wrong with the pocket: the next shift will ask.');
  await append(
    db,
    entry.pocket(change, {
      personId,
      machineId: machine.id,
      placeId: place.id,
      said: `${placeName(place, machine.changerKind)} of ${machine.name} ${CHANGE_WORDS[change]}.`,
      why,
    }),
  );
}

/** Says that nobody knows what is in the spindle; every act on the machine asks first from then on. */
export function spindleUnsure(asking: Asking, doubt: { machineId: number; why: string }) {
  return once(asking, 'spindleUnsure', doubt, async (db) => {
    await lockMachine(db, doubt.machineId);
    const machine = sureOf(await machineById(db, doubt.machineId));
    await append(
      db,
      entry.machine('spindleUnsure', {
        personId: asking.personId,
        machineId: machine.id,
        said: `Nobody is sure what is in the spindle of ${machine.name}.`,
        why: doubt.why,
      }),
    );
  });
}

/**
 * Says what was found in the spindle. What the record had there before goes out; a T that the record has in a pocket
 * comes from there, and any other assembly is named by its number.
 */
export function spindleFound(
  asking: Asking,
  found: { machineId: number; tool: number; assemblyId: number | null },
) {
  return once(asking, 'spindleFound', found, async (db) => {
    const machine = await heldMachine(db, found.machineId);
    const places = await placesOf(db, machine.id);
    const spindle = places.find((place) => place.kind === 'spindle');
    if (!spindle) throw new Refused(`${machine.name} has no spindle that holds tools.`);
    const about = (place: PlaceRow, assemblyId: number, tool: number, said: string) => ({
      personId: asking.personId,
      machineId: machine.id,
      assemblyId,
      placeId: place.id,
      tool,
      said,
      why: 'Found this way; the record did not say so.',
    });
    const out = (...which: Parameters<typeof about>) => append(db, entry.placement('out', about(...which)));
    await append(
      db,
      entry.machine('spindleSure', {
        personId: asking.personId,
        machineId: machine.id,
        tool: found.tool === 0 ? null : found.tool,
        said:
          found.tool === 0
            ? `The spindle of ${machine.name} was found empty (T0).`
            : `T${found.tool} was found in the spindle of ${machine.name}.`,
      }),
    );
    const there = spindle.assembly;
    if (there && spindle.tool === found.tool) return;
    if (there)
      await out(
        spindle,
        there.id,
        spindle.tool!,
        `${there.number} (T${spindle.tool}) is not in the spindle of ${machine.name}; nobody knows where it is.`,
      );
    if (found.tool === 0) return;
    const pocket = places.find((place) => place.kind === 'pocket' && place.tool === found.tool);
    if (pocket)
      await out(
        pocket,
        pocket.assembly!.id,
        found.tool,
        `${pocket.assembly!.number} (T${found.tool}) is not in pocket ${pocket.number} of ${machine.name}.`,
      );
    const assemblyId = pocket?.assembly?.id ?? found.assemblyId;
    if (assemblyId === null)
      throw new Refused(`The record has no T${found.tool} in ${machine.name}: say which assembly it is.`);
    const words = `T${found.tool} was found in the spindle of ${machine.name}.`;
    await append(db, entry.placement('in', about(spindle, assemblyId, found.tool, words)));
  });
}

/** Sets a machine's change times from two timed changes. */
export function calibrateChanges(
  asking: Asking,
  timed: { machineId: number; a: TimedChange; b: TimedChange; heavyFactor: number },
) {
  return once(asking, 'calibrateChanges', timed, async (db) => {
    const machine = await heldMachine(db, timed.machineId);
    const answer = calibrate(timed.a, timed.b);
    if (!answer.ok) throw new Refused(answer.reason);
    await db.query(
      'UPDATE machine SET arm_seconds = $2, pocket_seconds = $3, heavy_factor = $4 WHERE id = $1',
      [machine.id, answer.arm, answer.perPocket, timed.heavyFactor],
    );
    await append(
      db,
      entry.machine('changeTimes', {
        personId: asking.personId,
        machineId: machine.id,
        said: `Changes on ${machine.name} were timed: ${answer.arm.toFixed(2)} s for the arm, ${answer.perPocket.toFixed(3)} s for each pocket, ${timed.heavyFactor} times as long for a heavy tool.`,
        detail: timed,
      }),
    );
    return { arm: answer.arm, perPocket: answer.perPocket };
  });
}

/** What the table said of each pocket at a moment, by its place. */
export async function tableAt(
  db: Db,
  machineId: number,
  places: readonly PlaceRow[],
  at: Date,
): Promise<Map<number, TableState>> {
  const entries = await rows<TableEntry & { placeId: number }>(
    db,
    `SELECT place_id AS "placeId", stage, tool, at > $2 AS later FROM ledger WHERE kind = 'pocket' AND machine_id = $1 ORDER BY id`,
    [machineId, at],
  );
  return new Map(
    places.map(({ id, wide, tied, heavy, reserved, inService }) => [
      id,
      tableThen(
        { wide, tied, heavy, reserved, inService },
        entries.filter((entry) => entry.placeId === id),
      ),
    ]),
  );
}

export interface PastTool {
  placeId: number;
  assemblyId: number;
  tool: number;
}

/** What stood where at a moment, from the entries up to it. */
export async function placementsAt(db: Db, machineId: number, at: Date): Promise<PastTool[]> {
  const entries = await rows<{
    stage: string;
    placeId: number;
    assemblyId: number | null;
    tool: number | null;
    detail: { spindle?: number | null; pocket?: number | null };
  }>(
    db,
    `SELECT stage, place_id AS "placeId", assembly_id AS "assemblyId", tool, detail FROM ledger
     WHERE kind = 'placement' AND machine_id = $1 AND at <= $2 ORDER BY id`,
    [machineId, at],
  );
  const spindle = (
    await row<{ id: number }>(db, "SELECT id FROM place WHERE machine_id = $1 AND kind = 'spindle'", [
      machineId,
    ])
  )?.id;
  const standing = new Map<number, PastTool>();
  for (const { stage, placeId, assemblyId, tool } of entries) {
    if (stage === 'in') standing.set(placeId, { placeId, assemblyId: assemblyId!, tool: tool! });
    else if (stage === 'out') standing.delete(placeId);
    else if (spindle !== undefined) {
      const [inSpindle, inPocket] = [standing.get(spindle), standing.get(placeId)];
      standing.delete(spindle);
      standing.delete(placeId);
      if (inSpindle) standing.set(placeId, { ...inSpindle, placeId });
      if (inPocket) standing.set(spindle, { ...inPocket, placeId: spindle });
    }
  }
  return [...standing.values()];
}
