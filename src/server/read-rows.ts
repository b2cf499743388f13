import { explainReadBack, type RowRead } from '../core/correction/read-back.ts';
import { registerDecimals } from '../core/units/register-decimals.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { entry } from '../core/ledger/entry.ts';
import { nanometres, type Length } from '../core/units/length.ts';
import { rows as read, type Db } from './db.ts';
import { append } from './ledger.ts';
import { LENGTH_KINDS, type Machine } from './machines.ts';
import { Refused } from './outcome.ts';

/** A register that was to be keyed. */
export interface RowToKey {
  registerId: number;
  row: number;
  registerKind: string;
  from: Length;
  to: Length;
}

export interface RowShown {
  registerId: number;
  value: Length;
}

/**
 * Takes what rows show after keying. Each that shows exactly what it should is on record from then on, by an entry of its own; of
 * the others the slip is named, and nothing moves. Geometry that was copied and stood so by chance is entered too, the first time:
 * from then on it goes with the row that it was copied from.
 */
export async function readRows(
  db: Db,
  personId: number,
  machine: Machine,
  rows: readonly RowToKey[],
  shown: readonly RowShown[],
  as: {
    stage: 'found' | 'corrected';
    said: string;
    why: (row: RowToKey) => string;
    detail?: object;
    /** The row that a register is copied from. */
    copiedFrom?: (registerId: number) => number;
  },
): Promise<RowRead[]> {
  const answers: RowRead[] = [];
  const copies = as.copiedFrom && (await knownCopies(db, shown, as.copiedFrom));
  for (const { registerId, value } of shown) {
    const row = rows.find((each) => each.registerId === registerId);
    if (!row) throw new Refused('The rows changed meanwhile. Look at the table again.');
    const reading = explainReadBack(value, {
      row: row.row,
      from: row.from,
      to: row.to,
      unit: machine.unit,
      decimals: registerDecimals(machine.unit, machine.increment),
      neighbours: rows
        .filter((each) => each.registerKind === row.registerKind && Math.abs(each.row - row.row) === 1)
        .map((each) => ({ row: each.row, value: nanometres(each.to) })),
    });
    if (!reading.matches) {
      answers.push({ registerId, kept: false, said: `${reading.reason} ${reading.remedy}` });
      continue;
    }
    const copiedFrom = as.copiedFrom?.(registerId);
    if (row.from !== row.to || (copies && !copies.has(registerId) && LENGTH_KINDS.includes(row.registerKind)))
      await append(
        db,
        entry.register(as.stage, {
          personId,
          machineId: machine.id,
          registerId,
          before: row.from,
          after: row.to,
          said: `${REGISTER_WORDS[row.registerKind]} of row ${row.row} ${as.said}`,
          why: as.why(row),
          ...(copiedFrom === undefined ? as.detail && { detail: as.detail } : { detail: { copiedFrom } }),
        }),
      );
    answers.push({ registerId, kept: true, said: '' });
  }
  return answers;
}

/** Which of these registers are on record as a copy of the row that they are copied from now. */
async function knownCopies(
  db: Db,
  shown: readonly RowShown[],
  from: (registerId: number) => number,
): Promise<ReadonlySet<number>> {
  const last = await read<{ id: number; copied: number | null }>(
    db,
    `SELECT r.id, w.copied FROM unnest($1::integer[]) AS r (id)
     CROSS JOIN LATERAL (SELECT (l.detail ->> 'copiedFrom')::integer AS copied FROM ledger l
       WHERE l.register_id = r.id AND l.kind = 'register' AND l.stage <> 'rebased' ORDER BY l.id DESC LIMIT 1) w`,
    [shown.map(({ registerId }) => registerId)],
  );
  return new Set(last.filter(({ id, copied }) => copied === from(id)).map(({ id }) => id));
}
