/** The roads by which a control's table comes in beside a text: its agent, and somebody who reads its screen. */
import { stateAfter, UNKNOWN } from '../core/agent/machine-state.ts';
import { agentTable } from '../core/control/mapped-table.ts';
import { readOut, toReadOut } from '../core/control/read-out.ts';
import { askAgent } from './agents/ask.ts';
import { addressOf, controlTools } from './control-link.ts';
import { keepTable } from './control-looks.ts';
import { pool, row, rows, type Db } from './db.ts';
import { machineById } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused, type Outcome } from './outcome.ts';
import { registersOf } from './registers.ts';

/** The last entry of the ledger: what is read from now on may be older than what is written after it. */
export const lastEntry = async (db: Db) =>
  (await row<{ id: number }>(db, 'SELECT coalesce(max(id), 0) AS id FROM ledger'))!.id;

/** The registers of a machine that somebody may read off its screen one by one. */
export async function askedRows(db: Db, machineId: number) {
  const inUse = await rows<{ row: number }>(
    db,
    `SELECT tool AS row FROM placement WHERE machine_id = $1
     UNION SELECT coalesce((u ->> 'row')::integer, 0) FROM job j JOIN program_call c ON c.program_id = j.program_id,
       jsonb_array_elements((c.reading -> 'lengthRows') || (c.reading -> 'radiusRows')) u
     WHERE j.machine_id = $1 AND j.state NOT IN ('done', 'removed')
     UNION SELECT unnest(length_rows || radius_rows) FROM group_member WHERE machine_id = $1`,
    [machineId],
  );
  return toReadOut(await registersOf(db, machineId), new Set(inUse.map((each) => each.row)));
}

/** Takes what somebody read off the screen register by register: part of the table, whatever it is. */
export const bringRead = (
  asking: Asking,
  brought: { machineId: number; read: Readonly<Record<string, string>>; since: number },
) =>
  once(asking, 'bringRead', brought, async (db): Promise<{ id: number }> => {
    const machine = await machineById(db, brought.machineId);
    if (!machine) throw new Refused('There is no such machine.');
    const read = readOut(await registersOf(db, machine.id), brought.read, machine.unit);
    const { since } = brought;
    return keepTable(db, asking.personId, machine, {
      fileName: 'read out row by row',
      read,
      part: true,
      since,
    });
  });

/** Takes the table that the machine's agent holds now. */
export async function bringFromAgent(asking: Asking, machineId: number): Promise<Outcome<{ id: number }>> {
  const machine = await machineById(pool(), machineId);
  const address = machine && addressOf(machine);
  if (!machine || !address) return { ok: false, reason: 'This machine has no agent that could be asked.' };
  // asked before anything is held
  const answer = await askAgent(address, { what: 'current' }, PATIENCE);
  if (!answer.ok) return { ok: false, reason: `Nothing was taken. ${answer.reason}` };
  const rowsHeld = answer.observed.flatMap(({ type, rows: held }) =>
    /^ToolOffset/.test(type) ? (held ?? []) : [],
  );
  const kinds = [...new Set((await registersOf(pool(), machine.id)).map(({ kind }) => kind))];
  const read = agentTable(rowsHeld, kinds, machine.increment);
  const tools = await controlTools(machine);
  const then = {
    state: stateAfter(UNKNOWN, answer.observed),
    lives: tools?.ok
      ? tools.tools.flatMap(({ tool, lives }) => lives.map((life) => ({ ...life, tool })))
      : null,
  };
  return once(asking, 'bringFromAgent', { machineId }, (db) =>
    keepTable(db, asking.personId, machine, { fileName: 'its agent', read, part: false, then }),
  );
}
const PATIENCE = 4000;
