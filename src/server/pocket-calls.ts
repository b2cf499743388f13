import type { PlaceRow } from '../core/changer/place.ts';
import { traitsOf } from '../core/changer/traits.ts';
import { noArmWords } from '../core/changer/where.ts';
import { entry } from '../core/ledger/entry.ts';
import type { Db } from './db.ts';
import { append } from './ledger.ts';
import { sureOf } from './magazines.ts';
import { lockMachine, machineById, shapeOf, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { hangRefusal, noArm, placesOf } from './places.ts';

export interface PocketCall {
  machineId: number;
  pocket: number;
  /** It was made already, whatever hangs there now: what has happened is recorded, and its clash is shown. */
  made?: boolean;
  /** What the page showed: assemblies in the spindle and in the pocket, null for empty. */
  spindle: number | null;
  inPocket: number | null;
}

/** Records a call of a pocket: the spindle's content and the pocket's have changed places. */
export const callPocket = (asking: Asking, called: PocketCall) =>
  once(asking, 'callPocket', called, (db) => calledIn(db, asking.personId, called));

export async function calledIn(
  db: Db,
  personId: number,
  called: PocketCall,
  /** The machine as somebody has just fetched it in this transaction. */
  known?: { machine: Machine; places: readonly PlaceRow[] },
): Promise<void> {
  if (!known) await lockMachine(db, called.machineId);
  const machine = sureOf(known?.machine ?? (await machineById(db, called.machineId)));
  const places = known?.places ?? (await placesOf(db, machine.id));
  const spindle = places.find((place) => place.kind === 'spindle');
  const place = places.find((each) => each.kind === 'pocket' && each.number === called.pocket);
  if (!spindle || !place)
    throw new Refused('There is no such pocket, or no spindle that it could be called to.');
  if (!place.inService) throw new Refused(`Pocket ${place.number} is out of service.`);
  const tied = places.find((each) => each.tied !== null && each.tied === spindle.tool);
  if (tied && tied.number !== place.number)
    throw new Refused(
      `T${spindle.tool} in the spindle is tied to pocket ${tied.number}: it is put away there first.`,
    );
  if (traitsOf(shapeOf(machine)).ownPlaces && spindle.tool !== null && spindle.tool !== place.number)
    throw new Refused(`T${spindle.tool} lives in pocket ${spindle.tool}: it is put away there first.`);
  const kept = called.made ? null : keptFrom(machine, places, spindle, place);
  if (kept !== null)
    throw new Refused(
      `${kept} If it has already been called, look into the magazine, then say that the call was made.`,
    );
  const puts = spindle.assembly ? `T${spindle.tool} went into pocket ${place.number}` : null;
  const takes = place.assembly ? `T${place.tool} came to the spindle` : null;
  await append(
    db,
    entry.placement('called', {
      personId,
      machineId: machine.id,
      assemblyId: place.assembly?.id ?? spindle.assembly?.id ?? null,
      placeId: place.id,
      tool: place.tool ?? spindle.tool,
      said: `${machine.name} was called to pocket ${place.number}: ${[puts, takes].filter(Boolean).join(', ') || 'both were empty'}.`,
      detail: { spindle: called.spindle, pocket: called.inPocket },
    }),
  );
}

/** Why the changer must not carry what a call would have it carry, or its tool may not hang in that pocket. */
function keptFrom(
  machine: Machine,
  places: readonly PlaceRow[],
  spindle: PlaceRow,
  place: PlaceRow,
): string | null {
  const [puts, takes] = [spindle, place].map(
    ({ assembly, tool }) => assembly && noArm(machine, places, assembly, tool),
  );
  if (puts) return `${noArmWords(puts, `T${spindle.tool} in the spindle`)} Take it out by hand.`;
  if (takes && !takes.comes)
    return `${noArmWords(takes, `T${place.tool} in pocket ${place.number}`)} Take it out by hand.`;
  if (!spindle.assembly) return null;
  if (place.reserved && spindle.assembly.kind !== 'probe')
    return `Pocket ${place.number} is reserved: T${spindle.tool} does not go there.`;
  // the rule of placing by hand, without what is in the spindle, since that is what moves
  const pockets = places.filter(({ kind }) => kind === 'pocket');
  const hangs = hangRefusal(machine, pockets, place.number, spindle.tool!, spindle.assembly);
  return hangs && `Do not call pocket ${place.number} with T${spindle.tool} in the spindle. ${hangs}`;
}
