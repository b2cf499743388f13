import { notPutBack, putBack, shownBefore, type PutBack } from '../core/control/put-back.ts';
import { readTable, tableHead, type TableValue } from '../core/control/table-text.ts';
import { registerWords } from '../core/control/words.ts';
import { registerProgram } from '../core/correction/register-text.ts';
import { registerDecimals } from '../core/units/register-decimals.ts';
import { formatLength } from '../core/units/format-length.ts';
import { nanometres, type Length } from '../core/units/length.ts';
import { lastSeen } from './control-differing.ts';
import { keepTable } from './control-looks.ts';
import { lastEntry } from './control-roads.ts';
import type { Db } from './db.ts';
import { heldMachine, machineById, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { registersOf, writeFound } from './registers.ts';

/** A table that was kept, with what becomes of each register when it is put back. */
export interface KeptTable extends PutBack {
  /** When it was so, as its head says. */
  at: string;
  /** The last entry of the ledger when this was worked out. */
  entry: number;
  /** Since when the control was seen to hold what is the same; null: there is nothing of it. */
  seen: Date | null;
  /** The lines that set what the control is not known to hold; null where the machine has no words for one of them. */
  lines: readonly string[] | null;
}

/** Reads a table that was kept; refuses one without its head, of another machine, or whose lines were changed. */
function readKept(machine: Machine, text: string): { values: TableValue[]; at: string } {
  const { owner, at, hash } = tableHead(text);
  if (owner === null || at === null || hash === null)
    throw new Refused(
      'Nothing was put back. This text has no head that says whose table it is, when it was so and what its lines come to. Lay it beside the record instead: as a table of the control.',
    );
  const { values, problems } = readTable(machine, text, null);
  if (problems.length > 0) throw new Refused(`Nothing was put back.\n${problems.slice(0, 8).join('\n')}`);
  return { values, at };
}

async function plan(
  db: Db,
  machine: Machine,
  values: readonly TableValue[],
  lost: boolean,
): Promise<PutBack & Pick<KeptTable, 'seen'>> {
  const registers = await registersOf(db, machine.id);
  const seen = lost ? [] : await lastSeen(db, machine.id);
  const found = putBack(
    values,
    registers.map((each) => ({ ...each, value: nanometres(each.value) })),
    new Map(seen.map(({ id, value }) => [id, value])),
  );
  const since = Math.min(...seen.map(({ at }) => at.getTime()));
  return { ...found, seen: found.same === 0 ? null : new Date(since) };
}

/**
 * What would become of each register, before and after: nothing is written down.
 *
 * @param given `lost`: the control has lost its table, so that what it was seen to hold says nothing
 */
export const lookAtKept = (asking: Asking, given: { machineId: number; text: string; lost: boolean }) =>
  once(asking, 'lookAtKept', given, async (db): Promise<KeptTable> => {
    const machine = await machineById(db, given.machineId);
    if (!machine) throw new Refused('There is no such machine.');
    const { values, at } = readKept(machine, given.text);
    const found = await plan(db, machine, values, given.lost);
    if (found.strange.length > 0)
      throw new Refused(
        `Nothing was put back. ${machine.name} has no ${found.strange.slice(0, 4).map(registerWords).join(', ')}.`,
      );
    return {
      ...found,
      at,
      entry: await lastEntry(db),
      lines: registerProgram(
        machine.dialect,
        machine.unit,
        found.rows.map((each) => ({
          registerKind: each.kind,
          row: each.row,
          from: shownBefore(each, given.lost),
          to: each.to,
        })),
      ),
    };
  });

/**
 * Writes down that a kept table was put back: only when the control, read afterwards, holds every register of it. The record then
 * becomes what the table says, entry by entry; who recorded one of its registers meanwhile is not overwritten.
 */
export const keepPutBack = (
  asking: Asking,
  given: { machineId: number; text: string; shown: string; entry: number },
) =>
  once(asking, 'keepPutBack', given, async (db): Promise<{ moved: number }> => {
    const machine = await heldMachine(db, given.machineId);
    const { values, at } = readKept(machine, given.text);
    const read = readTable(machine, given.shown, null);
    if (read.problems.length > 0)
      throw new Refused(`Nothing was recorded.\n${read.problems.slice(0, 8).join('\n')}`);
    const show = (value: Length) =>
      formatLength(value, machine.unit, {
        decimals: registerDecimals(machine.unit, machine.increment),
        sign: 'always',
      });
    const missing = notPutBack(values, read.values);
    if (missing.length > 0)
      throw new Refused(
        `Nothing was recorded: the control does not hold all of it.\n${missing
          .slice(0, 8)
          .map(
            ({ kind, row, to, holds }) =>
              `${registerWords({ kind, row })} is to hold ${show(to)} and ${holds === null ? 'was not read' : `holds ${show(holds)}`}.`,
          )
          .join('\n')}${missing.length > 8 ? `\n… and ${missing.length - 8} more.` : ''}`,
      );
    const { rows: changes } = await plan(db, machine, values, true);
    const stale = await movedSince(db, changes, given.entry);
    if (stale !== null)
      throw new Refused(
        `Nothing was recorded: somebody recorded ${registerWords(stale)} since you looked. Look at the kept table again.`,
      );
    await keepTable(db, asking.personId, machine, { fileName: `put back, as of ${at}`, read, part: true });
    const moving = changes.filter(({ record, to }) => record !== to);
    for (const { id, record, to } of moving)
      await writeFound(db, asking.personId, {
        registerId: id,
        before: record,
        after: to,
        why: `Put back from the table kept at ${at}.`,
        putBack: true,
      });
    return { moved: moving.length };
  });

/** The first of these registers that has an entry after one. */
async function movedSince(
  db: Db,
  changes: PutBack['rows'],
  entry: number,
): Promise<{ kind: string; row: number } | null> {
  const { rows: moved } = await db.query<{ id: number }>(
    `SELECT coalesce(register_id, 0) AS id FROM ledger WHERE kind = 'register' AND id > $1 AND register_id = ANY($2) LIMIT 1`,
    [entry, changes.map(({ id }) => id)],
  );
  return changes.find(({ id }) => id === moved[0]?.id) ?? null;
}
