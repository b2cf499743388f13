import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { rows } from './db.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { laidOver } from '../core/words/laid-over.ts';
import { type Machine, heldMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

/** What is read off a machine's plate and its control (H4, H5), as the ledger names it. */
const WORDS = {
  highestTool: 'highest T',
  knob: 'retention knob',
  longest: 'longest tool',
  widest: 'widest tool with neighbours',
  widestAlone: 'widest tool with its neighbours empty',
  heaviest: 'heaviest tool',
  moment: 'moment about the gauge line',
  heaviestAll: 'all tools together',
  unbalance: 'out of balance',
  swing: 'swing of the turret',
  travelX: 'travel in X',
  travelY: 'travel in Y',
} as const;
const NAMES = Object.keys(WORDS) as (keyof typeof WORDS)[];

/** Its values; null: not recorded. */
export type Plate = Pick<Machine, keyof typeof WORDS>;

/** What is on record of a machine's plate. */
export const plateOf = (machine: Machine): Plate =>
  Object.fromEntries(NAMES.map((name) => [name, machine[name]])) as unknown as Plate;

const LENGTHS: readonly (keyof Plate)[] = ['longest', 'widest', 'widestAlone', 'swing', 'travelX', 'travelY'];

/** A value of the plate in words, for the ledger. */
function shown(machine: Machine, name: keyof Plate, value: Plate[keyof Plate]): string {
  if (value === null || value === '') return 'not recorded';
  if (LENGTHS.includes(name)) return formatWithUnit(value as Length, machine.unit);
  if (name === 'heaviest' || name === 'heaviestAll') return `${(value as number) / 1000} kg`;
  if (name === 'unbalance') return `${(value as number) / 1000} kg·m`;
  return name === 'moment' ? `${value} N·m` : String(value);
}

/**
 * Records what the plate says; the entry names each value that changed, with what it was.
 *
 * @param recorded `shown`: what the page showed of it, which somebody else may have changed since
 */
export function recordPlate(
  asking: Asking,
  recorded: { machineId: number; plate: Partial<Plate>; shown: Partial<Plate> },
) {
  return once(asking, 'recordPlate', recorded, async (db) => {
    const machine = await heldMachine(db, recorded.machineId);
    const { changed: typed, clashes } = laidOver(recorded.shown, recorded.plate, plateOf(machine));
    if (clashes.length > 0)
      throw new Refused(
        `Somebody else recorded it meanwhile: ${clashes.map((name) => `${WORDS[name]} ${shown(machine, name, machine[name])}`).join(', ')}. Look at the plate again.`,
      );
    const plate: Plate = { ...plateOf(machine), ...typed };
    if (plate.widest !== null && plate.widestAlone !== null && plate.widestAlone < plate.widest)
      throw new Refused(
        'With its neighbours empty a tool may be wider, never less wide: the two widths are the wrong way round.',
      );
    if (plate.heaviest !== null && plate.heaviestAll !== null && plate.heaviestAll < plate.heaviest)
      throw new Refused('All tools together weigh more than the heaviest one: look at the plate again.');
    const changed = NAMES.filter((name) => plate[name] !== machine[name]);
    if (changed.length === 0) throw new Refused('Nothing was changed.');
    await db.query(
      `UPDATE machine SET highest_tool = $2, knob = $3, longest = $4, widest = $5, widest_alone = $6, heaviest = $7, moment = $8,
         heaviest_all = $9, unbalance = $10, swing = $11, travel_x = $12, travel_y = $13 WHERE id = $1`,
      [
        machine.id,
        plate.highestTool,
        plate.knob,
        plate.longest,
        plate.widest,
        plate.widestAlone,
        plate.heaviest,
        plate.moment,
        plate.heaviestAll,
        plate.unbalance,
        plate.swing,
        plate.travelX,
        plate.travelY,
      ],
    );
    await append(
      db,
      entry.machine('plate', {
        personId: asking.personId,
        machineId: machine.id,
        said: `The plate of ${machine.name} was recorded: ${changed
          .map(
            (name) =>
              `${WORDS[name]} ${shown(machine, name, plate[name])} (was ${shown(machine, name, machine[name])})`,
          )
          .join(', ')}.`,
        detail: plate,
      }),
    );
  });
}

export interface CellsRecorded {
  machineId: number;
  from: number;
  to: number;
  /** The largest diameter that goes in; null: as the plate says. */
  cell: Length | null;
}

/** Records which holders a row of pockets takes, where pockets differ. */
export function recordCells(asking: Asking, recorded: CellsRecorded) {
  return once(asking, 'recordCells', recorded, async (db) => {
    const machine = await heldMachine(db, recorded.machineId);
    const { from, to, cell } = recorded;
    await askBeforeTakingOver(db, asking, ['machine', 'cells', { machineId: machine.id }]);
    if (from > to || from < 1 || to > machine.places)
      throw new Refused(`Pockets go from 1 to ${machine.places}, the lower one first.`);
    await rows(
      db,
      `UPDATE place SET cell = $4 WHERE machine_id = $1 AND kind = 'pocket' AND number BETWEEN $2 AND $3`,
      [machine.id, from, to, cell],
    );
    await append(
      db,
      entry.machine('cells', {
        personId: asking.personId,
        machineId: machine.id,
        said: `Pockets ${from} to ${to} of ${machine.name} take ${
          cell === null
            ? 'what the plate says of the widest tool'
            : `holders up to ${formatWithUnit(cell, machine.unit)}`
        }.`,
        detail: { from, to, cell },
      }),
    );
  });
}
