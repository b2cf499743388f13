import type { LengthMethod } from '../core/length/transfer.ts';
import { isDirection, REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { readDirection } from '../core/length/tip-direction.ts';
import { parseLength } from '../core/units/parse-length.ts';
import type { Length, LengthUnit } from '../core/units/length.ts';
import { pool, row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { geometryKinds, type Machine, heldMachine, lockMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused, type Outcome } from './outcome.ts';
import { toolRows } from './tool-rows.ts';

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

/** A register with the machine it is of. */
export const registerNamed = (db: Db, id: number) =>
  row<RegisterRow & { machine: string; unit: LengthUnit }>(
    db,
    'SELECT r.id, r.row, r.kind, r.value, m.name AS machine, m.unit FROM register r JOIN machine m ON m.id = r.machine_id WHERE r.id = $1',
    [id],
  );

export interface Measuring {
  machineId: number;
  assemblyId: number;
  row: number;
  values: { kind: string; value: Length; before: Length }[];
  gaugeLength: Length | null;
  how: string;
  method: LengthMethod;
}

/** Writes a measured length into a tool's row: geometry only, so that wear stays what it is (H19). */
export function measureTool(asking: Asking, measuring: Measuring) {
  return once(asking, 'measureTool', measuring, (db) => writeMeasurement(db, asking.personId, measuring));
}

export async function writeMeasurement(db: Db, personId: number, measuring: Measuring): Promise<void> {
  const machine = await heldMachine(db, measuring.machineId);
  const assembly = await row<{ number: string; tool: number }>(
    db,
    `SELECT a.number, s.tool FROM placement s JOIN assembly a ON a.id = s.assembly_id WHERE s.assembly_id = $1 AND s.machine_id = $2`,
    [measuring.assemblyId, measuring.machineId],
  );
  if (!assembly) throw new Refused('That assembly is no longer in this machine.');
  const uses = [assembly.tool, ...((await toolRows(db, machine)).get(assembly.tool) ?? [])];
  if (!uses.includes(measuring.row))
    throw new Refused(`T${assembly.tool} is not used with row ${measuring.row}.`);
  for (const { kind, value, before } of measuring.values) {
    if (!geometryKinds(machine.kind).includes(kind))
      throw new Refused('Only a geometry is measured; wear is corrected.');
    // against a master tool a length of zero is that of the master itself
    if (value === 0 && machine.lengthSchool !== 'masterTool')
      throw new Refused('A length of zero is not a measurement: it is what an empty row holds.');
    const register = await row<{ id: number }>(
      db,
      'SELECT id FROM register WHERE machine_id = $1 AND row = $2 AND kind = $3',
      [machine.id, measuring.row, kind],
    );
    if (!register) throw new Refused(`${machine.name} has no row ${measuring.row}.`);
    await append(
      db,
      entry.register('measured', {
        personId,
        machineId: machine.id,
        assemblyId: measuring.assemblyId,
        tool: assembly.tool,
        registerId: register.id,
        before,
        after: value,
        said: `T${assembly.tool} (${assembly.number}) was measured; row ${measuring.row} was set.`,
        why: measuring.how,
        detail: { method: measuring.method },
      }),
    );
  }
  if (measuring.gaugeLength !== null)
    await db.query('UPDATE assembly SET gauge_length = $2 WHERE id = $1', [
      measuring.assemblyId,
      measuring.gaugeLength,
    ]);
}

export interface Found {
  registerId: number;
  before: Length;
  after: Length;
  why: string;
  /** A table that was kept has set it back. */
  putBack?: true;
}

/** Writes down what the control was found to hold, when it differs from the record for a reason of its own. */
export const foundAtControl = (asking: Asking, found: Found) =>
  once(asking, 'foundAtControl', found, (db) => writeFound(db, asking.personId, found));

/** The same as somebody typed it: a length in the unit of the machine, or the direction of a tip. */
export async function foundTyped(
  asking: Asking,
  machine: Machine,
  given: Omit<Found, 'after'> & { shown: string },
): Promise<Outcome<void>> {
  const register = (await registersOf(pool(), machine.id)).find(({ id }) => id === given.registerId);
  if (!register) return { ok: false, reason: 'There is no such register.' };
  const { shown, ...found } = given;
  const read = isDirection(register.kind) ? readDirection(shown) : parseLength(shown, machine.unit);
  return read.ok ? foundAtControl(asking, { ...found, after: read.value }) : read;
}

export async function writeFound(db: Db, personId: number, found: Found): Promise<void> {
  const register = await row<{ machineId: number; row: number; kind: string }>(
    db,
    'SELECT machine_id AS "machineId", row, kind FROM register WHERE id = $1',
    [found.registerId],
  );
  if (!register) throw new Refused('There is no such register.');
  await lockMachine(db, register.machineId);
  if (found.why.trim() === '')
    throw new Refused('Say why it differs: an unexplained number is the next mistake.');
  if (found.before === found.after) throw new Refused('The record already holds that.');
  const who = await row<{ tool: number; assemblyId: number }>(
    db,
    'SELECT tool, assembly_id AS "assemblyId" FROM placement WHERE machine_id = $1 AND tool = $2',
    [register.machineId, register.row],
  );
  await append(
    db,
    entry.register('found', {
      personId,
      machineId: register.machineId,
      assemblyId: who?.assemblyId ?? null,
      tool: who?.tool ?? null,
      registerId: found.registerId,
      before: found.before,
      after: found.after,
      said: `${REGISTER_WORDS[register.kind]} of row ${register.row} was found at the control.`,
      why: found.why,
      ...(found.putBack && { detail: { putBack: true } }),
    }),
  );
}
