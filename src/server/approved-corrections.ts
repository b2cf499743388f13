import type { Judgement } from '../core/correction/judge-question.ts';
import { entry } from '../core/ledger/entry.ts';
import { nanometres, type Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import type { Evidence } from './evidence.ts';
import { append } from './ledger.ts';
import type { Machine } from './machines.ts';
import type { Feature } from './programs.ts';

interface OpenCorrection {
  id: number;
  registerId: number;
  to: Length;
  state: 'proposed' | 'approved';
  /** Why it is not to be keyed yet. */
  held: string | null;
}

/** Corrections that wait on the rows of some sizes; `own`: on those that the first of them answers to. */
export async function openOn(db: Db, { sizes, registers }: Pick<Evidence, 'sizes' | 'registers'>) {
  const all = await rows<OpenCorrection>(
    db,
    `SELECT p.id, p.register_id AS "registerId", p.to_value AS "to", s.state, s.held FROM proposal p JOIN proposal_state s ON s.id = p.id
     WHERE p.register_id = ANY($1) AND p.open ORDER BY p.id`,
    [registers.map(({ id }) => id)],
  );
  const rowsOf = sizes[0]!.moves.map(({ register }) => registers[register]!.id);
  return { all, own: all.filter(({ registerId }) => rowsOf.includes(registerId)) };
}

/** What the approved ones among them would change, for each register. */
export const changesOf = ({ registers }: Pick<Evidence, 'registers'>, open: readonly OpenCorrection[]) =>
  registers.map(({ id, value }) => {
    const waits = open.find((each) => each.registerId === id && each.state === 'approved');
    return waits ? nanometres(waits.to - value) : 0;
  });

/**
 * What a reading says of the corrections that are approved and wait to be keyed on its rows: that they are to be keyed before anything
 * more is worked out, or that they are held back until the rows were read off. Null where nothing waits or nothing can be told.
 */
export async function waitsToBeKeyed(
  db: Db,
  {
    personId,
    machine,
    feature,
    readingId,
  }: { personId: number; machine: Machine; feature: Feature; readingId: number },
  approved: readonly OpenCorrection[],
  judged: Judgement,
): Promise<string | null> {
  if (approved.length === 0) return null;
  const known = judged.approved;
  for (const { id, held } of approved) {
    if (!known || known.worth === (held === null)) continue;
    await append(
      db,
      entry.correction(known.worth ? 'released' : 'held', {
        personId,
        machineId: machine.id,
        proposalId: id,
        readingId,
        tool: feature.tool,
        said: known.worth
          ? `${feature.name}: by newer parts the correction that is approved is to be keyed after all.`
          : `${feature.name}: by newer parts the correction that is approved is held back until its row was read off the control.`,
        why: known.worth ? '' : known.reason,
      }),
    );
  }
  if (known && !known.worth) return known.reason;
  return known || judged.verdict === 'change'
    ? 'A correction of this row is approved and waits to be keyed. Key it first, or read it back if it is keyed already; then measure a part that was cut with it: as far as is recorded, this one was cut without.'
    : null;
}

/** A row was read off the control and holds what it held: a correction that was held back for that ends. Returns what is said of it. */
export async function notKeyed(
  db: Db,
  personId: number,
  { id, machineId, tool, row }: { id: number; machineId: number; tool: number; row: number },
): Promise<string> {
  const said = `Row ${row} was read off the control: it was not keyed, and by the parts since it is not needed any more.`;
  await append(db, entry.correction('superseded', { personId, machineId, proposalId: id, tool, said }));
  return said;
}

/** The same of a whole table that was read. */
export async function notKeyedByTable(
  db: Db,
  personId: number,
  machineId: number,
  seen: readonly { register: number; value: Length }[],
): Promise<void> {
  const found = await rows<{ id: number; tool: number; row: number }>(
    db,
    `SELECT p.id, f.tool, g.row FROM proposal p JOIN proposal_state s ON s.id = p.id JOIN register g ON g.id = p.register_id
       JOIN feature f ON f.id = p.feature_id JOIN unnest($2::integer[], $3::bigint[]) AS k (register, value) ON k.register = g.id AND k.value = p.from_value
     WHERE g.machine_id = $1 AND p.open AND s.held IS NOT NULL ORDER BY p.id`,
    [machineId, seen.map(({ register }) => register), seen.map(({ value }) => value)],
  );
  for (const each of found) await notKeyed(db, personId, { ...each, machineId });
}
