import { shiftByKey } from '../core/shift/calendar.ts';
import { entry } from '../core/ledger/entry.ts';
import type { EndMachine } from '../core/shift/end-check.ts';
import { putAway } from '../core/changer/put-away.ts';
import { traitsOf } from '../core/changer/traits.ts';
import { cellOf } from './cell.ts';
import { row, rows, type Db } from './db.ts';
import { forEach } from './gather.ts';
import { append } from './ledger.ts';
import { roomState } from './magazines.ts';
import { machines, shapeOf, type Machine, lockMachines, lockMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { placeName, placesOf, toolsStanding } from './places.ts';

/** The lines of the list, machine by machine, each with who looked in this shift. */
export async function endChecksOf(db: Db, leaf: string): Promise<EndMachine[]> {
  const lines = await rows<EndMachine['checks'][number] & { machineId: number }>(
    db,
    `SELECT m.id AS "machineId", c.id, c.text, c.about, c.machine_id IS NOT NULL AS own, p.name AS by, d.at, d.otherwise
     FROM machine m JOIN end_check c ON c.active AND coalesce(c.machine_id, m.id) = m.id
     LEFT JOIN end_checked d ON d.leaf = $1 AND d.machine_id = m.id AND d.check_id = c.id LEFT JOIN person p ON p.id = d.person_id
     ORDER BY m.name, c.place, c.id`,
    [leaf],
  );
  const all = await machines(db);
  return forEach(db, all, async (machine): Promise<EndMachine> => {
    const spindle = await spindleOf(db, machine);
    return {
      id: machine.id,
      name: machine.name,
      spindle,
      // a turret has no spindle that a tool could be left in
      checks: lines.filter(
        ({ machineId, about }) => machineId === machine.id && (spindle !== null || about !== 'spindle'),
      ),
    };
  });
}

/** What is in the spindle by the record, and the pocket that takes it; null on a machine whose tools stay where they are. */
async function spindleOf(db: Db, machine: Machine): Promise<EndMachine['spindle']> {
  if (!traitsOf(shapeOf(machine)).spindle) return null;
  const sure = machine.spindleSure;
  const spindle = (await toolsStanding(db, machine.id)).find(({ kind }) => kind === 'spindle');
  if (!spindle) return { sure, tool: null, name: '', pocket: null };
  // how all places look is only asked where something is to be put away
  const places = sure ? await placesOf(db, machine.id) : [];
  const found = sure ? putAway(roomState(machine, places)) : null;
  // its own pocket may be broken
  const pocket = places.some((each) => each.kind === 'pocket' && each.number === found && each.inService)
    ? found
    : null;
  return {
    sure,
    tool: spindle.tool,
    name: `${spindle.assembly.number} ${spindle.assembly.name}`,
    pocket: pocket === null ? null : placeName({ kind: 'pocket', number: pocket }, shapeOf(machine).kind),
  };
}

interface Looked {
  leaf: string;
  machineId: number;
  /** Several at once only where all are as they should be. */
  checkIds: readonly number[];
  /** What it is instead; empty: it is as the line asks. */
  otherwise: string;
  /** What the page said was otherwise, of a line that was put right; a finding that it did not show is not ticked away. */
  seen: string;
}

/** Says that a line was looked at. The last word counts: what was otherwise may be put right before the bell. */
export function tickEndCheck(asking: Asking, looked: Looked, now: Date) {
  return once(asking, 'tickEndCheck', looked, async (db) => {
    await lockMachine(db, looked.machineId);
    const cell = await cellOf(db);
    const [date, name] = looked.leaf.split('/') as [string, string];
    const shift = shiftByKey(date, name ?? '', cell.patterns, cell.timeZone);
    if (!shift) throw new Refused('There is no such leaf.');
    if (shift.start > now) throw new Refused('This shift has not begun.');
    const lines = await rows<{ id: number; text: string }>(
      db,
      `SELECT id, text FROM end_check WHERE id = ANY($1) AND active AND coalesce(machine_id, $2::integer) = $2::integer ORDER BY place, id`,
      [looked.checkIds, looked.machineId],
    );
    if (lines.length < looked.checkIds.length)
      throw new Refused('The list was changed meanwhile. Reload the page.');
    for (const line of lines) {
      const kept = await db.query(
        `INSERT INTO end_checked (leaf, machine_id, check_id, person_id, otherwise) VALUES ($1, $2, $3, $4, nullif($5, ''))
         ON CONFLICT (leaf, machine_id, check_id) DO UPDATE SET person_id = excluded.person_id, at = tin_now(), otherwise = excluded.otherwise
         WHERE excluded.otherwise IS NOT NULL OR end_checked.otherwise = $6`,
        [looked.leaf, looked.machineId, line.id, asking.personId, looked.otherwise, looked.seen],
      );
      if (kept.rowCount === 0) {
        const { by, otherwise } = (await row<{ by: string; otherwise: string | null }>(
          db,
          `SELECT p.name AS by, d.otherwise FROM end_checked d JOIN person p ON p.id = d.person_id
           WHERE d.leaf = $1 AND d.machine_id = $2 AND d.check_id = $3`,
          [looked.leaf, looked.machineId, line.id],
        ))!;
        // somebody else said the same: nothing is said twice
        if (otherwise === null) continue;
        throw new Refused(`${by} found meanwhile that it is not so: ${otherwise}. Nothing was ticked.`);
      }
      await append(
        db,
        entry.leaf('checked', {
          personId: asking.personId,
          machineId: looked.machineId,
          said: looked.otherwise === '' ? `End of shift: ${line.text}` : `End of shift, not so: ${line.text}`,
          why: looked.otherwise,
        }),
      );
    }
  });
}

/** Puts a line on the list, at every machine or at one. */
export const addEndCheck = (asking: Asking, line: { machineId: number | null; text: string }) =>
  once(asking, 'addEndCheck', line, async (db) => {
    await lockMachines(db, [line.machineId]);
    // two who add the same wait for one another
    await db.query(`SELECT pg_advisory_xact_lock(hashtext('end checks'))`);
    const same = await row(
      db,
      'SELECT 1 FROM end_check WHERE active AND lower(text) = lower($1) AND machine_id IS NOT DISTINCT FROM $2',
      [line.text, line.machineId],
    );
    if (same) throw new Refused('This line is on the list already.');
    await db.query(
      'INSERT INTO end_check (machine_id, text, place) SELECT $1, $2, coalesce(max(place), 0) + 1 FROM end_check',
      [line.machineId, line.text],
    );
    await append(
      db,
      entry.leaf('check list', {
        personId: asking.personId,
        machineId: line.machineId,
        said: `Put on the list for the end of a shift: ${line.text}`,
      }),
    );
  });

/** Takes a line off the list; what was ticked under it stays with its leaves. */
export const dropEndCheck = (asking: Asking, checkId: number) =>
  once(asking, 'dropEndCheck', { checkId }, async (db) => {
    const of = await row<{ machineId: number | null }>(
      db,
      'SELECT machine_id AS "machineId" FROM end_check WHERE id = $1',
      [checkId],
    );
    await lockMachines(db, [of?.machineId ?? null]);
    const line = await row<{ text: string; machineId: number | null }>(
      db,
      'UPDATE end_check SET active = false WHERE id = $1 AND active RETURNING text, machine_id AS "machineId"',
      [checkId],
    );
    if (!line) throw new Refused('This line is no longer on the list.');
    await append(
      db,
      entry.leaf('check list', {
        personId: asking.personId,
        machineId: line.machineId,
        said: `Taken off the list for the end of a shift: ${line.text}`,
      }),
    );
  });
