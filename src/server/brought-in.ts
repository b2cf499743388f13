import { leftAlone, type Judgement } from '../core/correction/judge-question.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { entry } from '../core/ledger/entry.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';

interface BroughtIn {
  program: string;
  begunBy: string;
  /** Registers whose rows it keeps away from the part, or is about to correct. */
  registers: number[];
}

/** The first part that is being brought to size on a machine; null: none is. */
export const broughtIn = (db: Db, machineId: number) =>
  row<BroughtIn>(
    db,
    `SELECT g.number AS program, p.name AS "begunBy", f.registers
     FROM first_part f JOIN program g ON g.id = f.program_id JOIN person p ON p.id = f.begun_by
     WHERE f.machine_id = $1 AND f.state = 'open'`,
    [machineId],
  );

/** First parts that are being brought to size, on all machines. */
export const openFirstParts = (db: Db) =>
  rows<{ machineId: number; machine: string; program: string; begunBy: string }>(
    db,
    `SELECT f.machine_id AS "machineId", m.name AS machine, g.number || ' ' || g.title AS program, p.name AS "begunBy"
     FROM first_part f JOIN machine m ON m.id = f.machine_id JOIN program g ON g.id = f.program_id JOIN person p ON p.id = f.begun_by
     WHERE f.state = 'open' ORDER BY f.id`,
  );

/**
 * A row that a first part is being brought to size with stands off on purpose (H13): what another reading would have it do is left to the
 * steps of that part, or it would be corrected twice.
 */
export async function unlessBroughtIn(
  db: Db,
  machineId: number,
  registers: readonly { id: number }[],
  answer: Judgement,
): Promise<Judgement> {
  if (answer.verdict !== 'change') return answer;
  const first = await broughtIn(db, machineId);
  const held = first && answer.rows.find(({ register }) => first.registers.includes(registers[register]!.id));
  if (!held) return answer;
  return leftAlone(
    answer,
    `${first.begunBy} is bringing the first part of ${first.program} to size: ${REGISTER_WORDS[held.role]} of row ${held.row} may stand off on purpose until that is done. Its sizes are typed under First part; nothing is corrected beside it.`,
  );
}

/** What waits for the rows of a first part ends as it begins: it was worked out for parts that were cut before. */
export async function withdrawFor(
  db: Db,
  personId: number,
  machineId: number,
  { program, registers }: Pick<BroughtIn, 'program' | 'registers'>,
): Promise<void> {
  const waiting = await rows<{ id: number; tool: number }>(
    db,
    `SELECT p.id, f.tool FROM proposal p JOIN feature f ON f.id = p.feature_id WHERE p.open AND p.register_id = ANY($1) ORDER BY p.id`,
    [registers],
  );
  for (const { id, tool } of waiting)
    await append(
      db,
      entry.correction('superseded', {
        personId,
        machineId,
        proposalId: id,
        tool,
        said: `Withdrawn: the first part of ${program} is brought to size with its row.`,
      }),
    );
}
