import type { Dialect } from '../core/program/dialect.ts';
import { READER } from '../core/program/read-program.ts';
import type { RestartResult } from '../core/program/restart.ts';
import type { ProgramReading, ProgramResult } from '../core/program/reading.ts';
import type { Settled } from '../core/readiness/question.ts';
import { entry } from '../core/ledger/entry.ts';
import { pool, row, rows, transaction, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { append } from './ledger.ts';
import { editDialect, machineById, type DialectEdit } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { work } from './worker.ts';
import { heldProgram } from './programs.ts';

/** What a program reads as, with what it calls, and the numbers of what it called from the store. */
export type Whole =
  | { ok: true; reading: ProgramReading; uses: string[]; marks: number[]; sha256: string }
  | Extract<ProgramResult, { ok: false }>;

/** Programs of the store that one program may call, one after the other: nobody nests deeper. */
const MOST_ROUNDS = 12;

/**
 * Reads a program with what it calls from the store of its machine, the newest revision of each.
 * @param known values of variables that somebody has said
 * @param name under which the reading can be asked how far it is, and stopped
 */
export async function readWhole(
  db: Db,
  machine: { id: number; dialect: Dialect },
  text: string,
  known: readonly { variable: number; value: number }[] = [],
  name: string | null = null,
): Promise<Whole> {
  const library: string[] = [];
  const uses = new Set<string>();
  for (let round = 0; ; round += 1) {
    const {
      result: read,
      marks,
      sha256,
    } = await work('readProgram', [text, machine.dialect, { library, known: [...known] }], { name });
    if (!read.ok) return read;
    const wanted = [
      ...new Set(
        read.reading.remarks.flatMap(({ code, wants }) => (code === 'missingSub' && wants ? [wants] : [])),
      ),
    ].map((number) => `O${number.padStart(4, '0')}`);
    const found = await rows<{ number: string; text: string }>(
      db,
      `SELECT DISTINCT ON (number) number, text FROM program WHERE machine_id = $1 AND number = ANY($2) AND number <> ALL($3)
       ORDER BY number, revision DESC`,
      [machine.id, wanted, [...uses]],
    );
    if (found.length === 0 || round >= MOST_ROUNDS)
      return { ok: true, reading: read.reading, uses: [...uses], marks, sha256 };
    for (const each of found) {
      uses.add(each.number);
      library.push(each.text);
    }
  }
}

/** Where and how a program may be begun again before a line, read with what it calls and what was said of it. */
export async function restartOf(db: Db, programId: number, line: number): Promise<RestartResult> {
  const program = await row<{ machineId: number; text: string; uses: string[] }>(
    db,
    'SELECT machine_id AS "machineId", text, uses FROM program WHERE id = $1',
    [programId],
  );
  const machine = program && (await machineById(db, program.machineId));
  if (!machine) return { ok: false, reason: 'There is no such program.' };
  const library = await rows<{ text: string }>(
    db,
    'SELECT DISTINCT ON (number) text FROM program WHERE machine_id = $1 AND number = ANY($2) ORDER BY number, revision DESC',
    [machine.id, program.uses],
  );
  const known = await knownOf(db, programId);
  return work('restartAt', [
    program.text,
    machine.dialect,
    line,
    { library: library.map(({ text }) => text), known },
  ]);
}

/** Keeps what a program does under each of its tool calls. */
export const keepCalls = (db: Db, programId: number, reading: ProgramReading) =>
  db.query(
    `INSERT INTO program_call (program_id, ord, tool, line, last_line, holes, cut_milliseconds, reading)
     SELECT $1, (c ->> 'order')::integer, (c ->> 'tool')::integer, (c ->> 'line')::integer, (c ->> 'lastLine')::integer,
            (c ->> 'holes')::integer, (c ->> 'cutMilliseconds')::bigint, c
     FROM jsonb_array_elements($2::jsonb) c`,
    [programId, JSON.stringify(reading.calls)],
  );

/** Reads a program on record anew, and keeps what it reads as now. */
export async function readAnew(db: Db, programId: number): Promise<void> {
  const program = await row<{ machineId: number; text: string }>(
    db,
    'SELECT machine_id AS "machineId", text FROM program WHERE id = $1 FOR NO KEY UPDATE',
    [programId],
  );
  if (!program) throw new Refused('There is no such program.');
  const machine = (await machineById(db, program.machineId))!;
  const read = await readWhole(db, machine, program.text, await knownOf(db, programId));
  // what was read once is not forgotten because a newer reader refuses it
  if (!read.ok) {
    await db.query('UPDATE program SET reader = $2 WHERE id = $1', [programId, READER]);
    return;
  }
  await db.query('UPDATE program SET remarks = $2, reader = $3, uses = $4, line_marks = $5 WHERE id = $1', [
    programId,
    JSON.stringify(read.reading.remarks),
    READER,
    read.uses,
    read.marks,
  ]);
  await db.query('DELETE FROM program_call WHERE program_id = $1', [programId]);
  await keepCalls(db, programId, read.reading);
}

/** Programs of a machine, the newest of each, that call another or would: they read otherwise now that it has come or changed. */
export async function readCallersAnew(db: Db, machineId: number, number: string): Promise<void> {
  const plain = String(Number(number.replace(/^O/, '')));
  const callers = await rows<{ id: number }>(
    db,
    `SELECT g.id FROM program g WHERE g.machine_id = $1 AND g.number <> $2
       AND g.revision = (SELECT max(o.revision) FROM program o WHERE o.machine_id = g.machine_id AND o.number = g.number)
       AND ($2 = ANY(g.uses) OR EXISTS (SELECT 1 FROM jsonb_array_elements(g.remarks) r WHERE r ->> 'code' = 'missingSub' AND r ->> 'wants' = $3))
     ORDER BY g.id`,
    [machineId, number, plain],
  );
  for (const { id } of callers) await readAnew(db, id);
}

/** Programs that an older reader read are read again; each by itself, so that one that cannot be read holds nobody up. */
export async function readOldAnew(db: Db): Promise<number> {
  const old = await rows<{ id: number }>(db, 'SELECT id FROM program WHERE reader < $1 ORDER BY id', [
    READER,
  ]);
  for (const { id } of old) await transaction((own) => readAnew(own, id));
  return old.length;
}

/** Changes how a machine's programs are read: those on record are read anew by it, the newest of each at once. */
export async function changeDialect(asking: Asking, edit: DialectEdit) {
  const edited = await editDialect(asking, edit);
  if (!edited.ok) return edited;
  const newest = await rows<{ id: number }>(
    pool(),
    `SELECT g.id FROM program g WHERE g.machine_id = $1
       AND g.revision = (SELECT max(o.revision) FROM program o WHERE o.machine_id = g.machine_id AND o.number = g.number) ORDER BY g.id`,
    [edit.machineId],
  );
  for (const { id } of newest) await transaction((db) => readAnew(db, id));
  return edited;
}

/** Says that a code changes nothing on the machine of a program: it goes into the profile, once. */
export async function codeIsHarmless(asking: Asking, said: { programId: number; code: string }) {
  const program = await row<{ machineId: number }>(
    pool(),
    'SELECT machine_id AS "machineId" FROM program WHERE id = $1',
    [said.programId],
  );
  if (!program) return { ok: false as const, reason: 'There is no such program.' };
  return changeDialect(asking, { machineId: program.machineId, harmless: said.code });
}

const knownOf = (db: Db, programId: number) =>
  rows<{ variable: number; value: number }>(
    db,
    `SELECT coalesce(variable, 0) AS variable, coalesce(value, 0) AS value FROM program_settled
     WHERE program_id = $1 AND variable IS NOT NULL ORDER BY id`,
    [programId],
  );

/** What was said of a revision's doubts, and by whom. */
export const settledOf = gathered((db, ids: readonly number[]) =>
  rows<Settled & { of: number; variable: number | null; value: number | null }>(
    db,
    `SELECT s.program_id AS "of", s.code, s.line, s.text, s.said, p.name AS person, s.variable, s.value
     FROM program_settled s JOIN person p ON p.id = s.person_id WHERE s.program_id = ANY($1) ORDER BY s.id`,
    [ids],
  ),
);

export interface Settling {
  programId: number;
  code: string;
  line: number;
  text: string;
  said: string;
  /** Of a doubt that hangs on a variable: what it is, where somebody knows. */
  value: number | null;
}

/** Says what the reader could not know, for this revision: in words, or by the value of the variable that it hangs on. */
export const settleDoubt = (asking: Asking, settling: Settling) =>
  once(asking, 'settleDoubt', settling, async (db) => {
    await heldProgram(db, settling.programId);
    const program = await row<{ machineId: number; number: string; remarks: ProgramReading['remarks'] }>(
      db,
      'SELECT machine_id AS "machineId", number, remarks FROM program WHERE id = $1 FOR NO KEY UPDATE',
      [settling.programId],
    );
    if (!program) throw new Refused('There is no such program.');
    const doubt = program.remarks.find(
      ({ code, line, text }) => code === settling.code && line === settling.line && text === settling.text,
    );
    if (!doubt) throw new Refused('The program reads otherwise now. Look again.');
    const variable = settling.value === null ? null : (/#(\d+)/.exec(doubt.text)?.[1] ?? null);
    if (settling.value !== null && variable === null)
      throw new Refused('It does not hang on a variable: say it in words.');
    const known = await db.query(
      `INSERT INTO program_settled (program_id, code, line, text, variable, value, said, person_id) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
       ON CONFLICT (program_id, code, line, text) DO NOTHING`,
      [
        settling.programId,
        settling.code,
        settling.line,
        settling.text,
        variable === null ? null : Number(variable),
        settling.value,
        settling.said,
        asking.personId,
      ],
    );
    if (known.rowCount === 0) throw new Refused('Somebody has said it meanwhile. Look again.');
    if (variable !== null) await readAnew(db, settling.programId);
    await append(
      db,
      entry.program('settled', {
        personId: asking.personId,
        machineId: program.machineId,
        programId: settling.programId,
        said: `${program.number}, line ${settling.line}: ${variable === null ? settling.said : `#${variable} is ${settling.value}`}`,
        why: settling.text,
      }),
    );
  });
