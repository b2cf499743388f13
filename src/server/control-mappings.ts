import { mappingRefusal, readMapped, type TableMapping } from '../core/control/mapped-table.ts';
import { entry } from '../core/ledger/entry.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { heldMachine, lockMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { registersOf } from './registers.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

/** Layouts of tables that were kept for a machine. */
export const mappingsOf = (db: Db, machineId: number) =>
  rows<{ id: number; name: string }>(
    db,
    'SELECT id, name FROM control_mapping WHERE machine_id = $1 ORDER BY name',
    [machineId],
  );

/** One of them; refused where it is none of this machine's. */
export async function mappingOf(db: Db, machineId: number, id: number): Promise<TableMapping> {
  const found = await row<{ mapping: TableMapping }>(
    db,
    'SELECT mapping FROM control_mapping WHERE machine_id = $1 AND id = $2',
    [machineId, id],
  );
  if (!found) throw new Refused('This layout is no longer kept. Reload the page.');
  return found.mapping;
}

interface Kept {
  machineId: number;
  name: string;
  mapping: TableMapping;
  /** The table on which it was told: it must read with it. */
  sample: string;
}

/** Keeps how a machine's table is laid out; under a name that is kept already the new layout takes its place. */
export const keepMapping = (asking: Asking, kept: Kept) =>
  once(asking, 'keepMapping', kept, async (db): Promise<{ id: number; rows: number }> => {
    const machine = await heldMachine(db, kept.machineId);
    const own = new Set((await registersOf(db, machine.id)).map(({ kind }) => kind));
    const strange = kept.mapping.columns.find((each) => each?.what === 'register' && !own.has(each.kind));
    const refusal = strange ? `${machine.name} has no such register.` : mappingRefusal(kept.mapping);
    if (refusal !== null) throw new Refused(refusal);
    await askBeforeTakingOver(db, asking, ['machine', 'tableMapped', { machineId: machine.id }]);
    const { values, problems } = readMapped(kept.sample, kept.mapping);
    if (problems.length > 0)
      throw new Refused(`The sample cannot be read so.\n${problems.slice(0, 6).join('\n')}`);
    const { id } = (await row<{ id: number }>(
      db,
      `INSERT INTO control_mapping (machine_id, name, mapping, person_id) VALUES ($1, $2, $3, $4)
       ON CONFLICT (machine_id, name) DO UPDATE SET mapping = excluded.mapping, person_id = excluded.person_id, at = excluded.at RETURNING id`,
      [machine.id, kept.name, JSON.stringify(kept.mapping), asking.personId],
    ))!;
    await append(
      db,
      entry.machine('tableMapped', {
        personId: asking.personId,
        machineId: machine.id,
        said: `How tables of ${machine.name} are laid out was told: ${kept.name}.`,
      }),
    );
    return { id, rows: new Set(values.map((each) => each.row)).size };
  });

/** Forgets a layout; looks that were read with it stay. */
export const dropMapping = (asking: Asking, dropped: { machineId: number; id: number }) =>
  once(asking, 'dropMapping', dropped, async (db) => {
    await lockMachine(db, dropped.machineId);
    const gone = await row<{ name: string }>(
      db,
      'DELETE FROM control_mapping WHERE machine_id = $1 AND id = $2 RETURNING name',
      [dropped.machineId, dropped.id],
    );
    if (!gone) throw new Refused('This layout is no longer kept.');
    await append(
      db,
      entry.machine('tableMapped', {
        personId: asking.personId,
        machineId: dropped.machineId,
        said: `A layout of its tables was forgotten: ${gone.name}.`,
      }),
    );
  });
