import { shiftsBetween } from '../core/shift/calendar.ts';
import { machineHours } from '../core/shift/machine-hours.ts';
import type { Working } from '../core/shift/working-time.ts';
import { entry } from '../core/ledger/entry.ts';
import type { Cell } from './cell.ts';
import { append } from './ledger.ts';
import { lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { rows, type Db } from './db.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

const HOUR = 3_600_000;

/** When a machine works between two instants: in the shifts, and as many hours after them as it runs on without people. */
export const hoursOf = (cell: Cell, runsOn: number, from: Date, to: Date): Working[] =>
  machineHours(
    shiftsBetween(new Date(from.getTime() - runsOn * HOUR), to, cell.patterns, cell.timeZone),
    runsOn,
  );

/** Hours for which each machine runs on after the people have gone, by its id. */
export const runsOnOf = async (db: Db): Promise<ReadonlyMap<number, number>> =>
  new Map(
    (await rows<{ id: number; hours: number }>(db, 'SELECT id, runs_on AS hours FROM machine')).map(
      ({ id, hours }) => [id, hours],
    ),
  );

/** For how many hours a machine runs on after the people have gone. */
export const setRunsOn = (asking: Asking, machine: Machine, given: { hours: number }) =>
  once(asking, 'setRunsOn', { machineId: machine.id, ...given }, async (db) => {
    await lockMachine(db, machine.id);
    await askBeforeTakingOver(db, asking, ['machine', 'runsOn', { machineId: machine.id }]);
    const { rowCount } = await db.query('UPDATE machine SET runs_on = $2 WHERE id = $1 AND runs_on <> $2', [
      machine.id,
      given.hours,
    ]);
    if (rowCount === 0) return;
    await append(
      db,
      entry.machine('runsOn', {
        personId: asking.personId,
        machineId: machine.id,
        said:
          given.hours === 0
            ? `${machine.name} stands between shifts.`
            : `${machine.name} runs on for ${given.hours} ${given.hours === 1 ? 'hour' : 'hours'} after the people have gone.`,
      }),
    );
  });
