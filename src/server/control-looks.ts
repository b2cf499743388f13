import { meets, type Assumed } from '../core/control/assumed.ts';
import { compare } from '../core/control/compare.ts';
import type { Compared, HeldRegister } from '../core/control/held.ts';
import { readMapped } from '../core/control/mapped-table.ts';
import { readTable, tableText, type TableRead } from '../core/control/table-text.ts';
import { type MachineState } from '../core/agent/machine-state.ts';
import type { ControlLife } from '../core/formats/cutting-tools.ts';
import { registerWords } from '../core/control/words.ts';
import { entry } from '../core/ledger/entry.ts';
import { shiftAt } from '../core/shift/calendar.ts';
import { nanometres, type Length } from '../core/units/length.ts';
import { notKeyedByTable } from './approved-corrections.ts';
import { assumedAt } from './assumed.ts';
import { cellNow } from './clock.ts';
import { cellOf } from './cell.ts';
import { mappingOf } from './control-mappings.ts';
import { openCorrections } from './corrections.ts';
import { row, rows, type Db } from './db.ts';
import { putNote } from './leaf-notes.ts';
import { append } from './ledger.ts';
import { machines, type Machine, heldMachine, lockMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { registersOf, writeFound, type RegisterRow } from './registers.ts';

/** Entries of a register that are asked for what it held before. */
const BEFORE = 4;
/** Looks that are listed. */
const LISTED = 30;

export interface Look {
  id: number;
  at: Date;
  person: string;
  fileName: string;
  /** The last entry before it. */
  entryId: number;
  held: { register: number; value: Length }[];
  /** What the control did then, and the lives that it counted; null: it came in by another road than its agent. */
  state: MachineState | null;
  lives: CountedThen[] | null;
}

/** A life as a control counted it, with the number on its screen. */
export interface CountedThen extends ControlLife {
  tool: number;
}

const LOOK = `SELECT k.id, k.at, p.name AS person, k.file_name AS "fileName", k.entry_id AS "entryId", k.held, k.state, k.lives
  FROM control_look k JOIN person p ON p.id = k.person_id`;

/** Looks at a machine's control, the newest first. */
export const looksAt = (db: Db, machineId: number) =>
  rows<Omit<Look, 'held' | 'entryId' | 'state' | 'lives'>>(
    db,
    `SELECT k.id, k.at, p.name AS person, k.file_name AS "fileName" FROM control_look k JOIN person p ON p.id = k.person_id
     WHERE k.machine_id = $1 ORDER BY k.id DESC LIMIT $2`,
    [machineId, LISTED],
  );

/** One look, or the newest of a machine. */
export const lookAtControl = (db: Db, machineId: number, id: number | null) =>
  row<Look>(
    db,
    `${LOOK} WHERE k.machine_id = $1 AND ($2::integer IS NULL OR k.id = $2) ORDER BY k.id DESC LIMIT 1`,
    [machineId, id],
  );

interface Brought {
  machineId: number;
  fileName: string;
  text: string;
  kind: string | null;
  /** How it is laid out, by a mapping that was kept; null: in the machine's words. */
  mapping: number | null;
  part: boolean;
}

/** Takes a table that a control gave out: all of it, or with what is wrong with it nothing. */
export const bringTable = (asking: Asking, brought: Brought) =>
  once(asking, 'bringTable', brought, async (db): Promise<{ id: number }> => {
    const machine = await heldMachine(db, brought.machineId);
    return keepTable(db, asking.personId, machine, {
      ...brought,
      read:
        brought.mapping === null
          ? readTable(machine, brought.text, brought.kind)
          : readMapped(brought.text, await mappingOf(db, machine.id, brought.mapping)),
    });
  });

export async function keepTable(
  db: Db,
  personId: number,
  machine: Machine,
  /** `since`: the last entry when reading began, where that took a while: what moved meanwhile is not told as a difference. */
  brought: {
    fileName: string;
    read: TableRead;
    part: boolean;
    since?: number;
    then?: Pick<Look, 'state' | 'lives'>;
  },
): Promise<{ id: number }> {
  await lockMachine(db, machine.id);
  const { values, problems } = brought.read;
  const registers = new Map(
    (await registersOf(db, machine.id)).map((each) => [`${each.kind} ${each.row}`, each]),
  );
  const strange = values.filter(({ kind, row: at }) => !registers.has(`${kind} ${at}`));
  const all = [
    ...problems,
    ...strange.map((each) => `${machine.name} has no ${registerWords(each)}.`),
    ...(problems.length === 0 && !brought.part ? cutOff(values, [...registers.values()]) : []),
  ];
  if (all.length > 0)
    throw new Refused(
      `Nothing was taken.\n${all.slice(0, 8).join('\n')}${all.length > 8 ? `\n… and ${all.length - 8} more.` : ''}`,
    );
  const held = values.map(({ kind, row: at, value }) => ({
    register: registers.get(`${kind} ${at}`)!.id,
    value,
  }));
  const look = (await row<{ id: number }>(
    db,
    `INSERT INTO control_look (machine_id, person_id, file_name, held, entry_id, state, lives)
     SELECT $1, $2, $3, $4, least(coalesce(max(id), 0), $5::bigint), $6, $7 FROM ledger RETURNING id`,
    [
      machine.id,
      personId,
      brought.fileName,
      JSON.stringify(held),
      brought.since ?? Number.MAX_SAFE_INTEGER,
      brought.then ? JSON.stringify(brought.then.state) : null,
      brought.then?.lives ? JSON.stringify(brought.then.lives) : null,
    ],
  ))!;
  await append(
    db,
    entry.machine('controlLooked', {
      personId,
      machineId: machine.id,
      said: `${held.length} registers of ${machine.name} were read off its control.`,
      detail: { look: look.id },
    }),
  );
  await notKeyedByTable(db, personId, machine.id, held);
  return look;
}

/** A table that ends before rows that are in use, in registers that it has, may have been cut off. */
function cutOff(
  values: readonly { kind: string; row: number }[],
  registers: readonly RegisterRow[],
): string[] {
  const has = new Set(values.map((each) => `${each.kind} ${each.row}`));
  return [...new Set(values.map(({ kind }) => kind))].flatMap((kind) => {
    const last = Math.max(...values.filter((each) => each.kind === kind).map((each) => each.row));
    const missing = registers.filter(
      (each) => each.kind === kind && each.value !== 0 && !has.has(`${kind} ${each.row}`),
    );
    if (missing.length === 0) return [];
    const behind = missing.every((each) => each.row > last);
    return [
      `${registerWords(missing[0]!)} holds something on record and is not in it${missing.length > 1 ? `, nor are ${missing.length - 1} more` : ''}: ${behind ? `the table ends at row ${last}, perhaps it was cut off` : 'rows are left out'}. Say that only a part was read, if that is so.`,
    ];
  });
}

export interface Answered {
  register: number;
  answer: 'control' | 'record' | 'open';
  why: string;
  person: string;
  at: Date;
}

export interface LookCompared extends Compared {
  /** Registers whose record has moved since the look: the look says nothing of them any more. */
  moved: { kind: string; row: number }[];
  answers: Answered[];
  /** Between which two looks each came to differ, where it was seen to agree before. */
  parted: ReadonlyMap<number, Parted>;
  /** What programs that are still to run take the registers of the look for. */
  assumed: Assumed[];
  /** Registers in which record and control agree, and a program takes for something else. */
  apart: HeldRegister[];
}

/** A look beside the record: what differs, and what may have happened. */
export async function compareLook(db: Db, machine: Machine, look: Look): Promise<LookCompared> {
  const ids = look.held.map(({ register }) => register);
  const registers = new Map((await registersOf(db, machine.id)).map((each) => [each.id, each]));
  const entries = await rows<{ register: number; id: number; before: Length; after: Length; stage: string }>(
    db,
    `SELECT r.register, coalesce(l.id, 0) AS id, coalesce(l.before_value, 0) AS before, coalesce(l.after_value, 0) AS after, coalesce(l.stage, '') AS stage
     FROM unnest($1::integer[]) AS r (register)
     CROSS JOIN LATERAL (SELECT id, before_value, after_value, stage FROM ledger WHERE register_id = r.register ORDER BY id DESC LIMIT $2) l
     ORDER BY r.register, l.id DESC`,
    [ids, BEFORE],
  );
  const of = new Map<number, typeof entries>();
  for (const each of entries) of.set(each.register, [...(of.get(each.register) ?? []), each]);
  const waiting = new Map(
    (await openCorrections(db, machine.id))
      .filter((each) => each.state === 'approved')
      .map((each) => [each.registerId, each.to]),
  );
  const agreed = await agreedBefore(db, machine.id, look);
  const taken = await assumedAt(db, machine);
  const moved: LookCompared['moved'] = [];
  const held: HeldRegister[] = [];
  for (const { register: id, value } of look.held) {
    const register = registers.get(id);
    if (!register) continue;
    const history = of.get(id) ?? [];
    if ((history[0]?.id ?? 0) > look.entryId) {
      moved.push({ kind: register.kind, row: register.row });
      continue;
    }
    held.push({
      id,
      kind: register.kind,
      row: register.row,
      record: register.value,
      control: nanometres(value),
      before: history.map((each) => ({ value: nanometres(each.before), endedBy: each.stage })),
      // a correction is on record once it was read back; a length is when somebody typed it
      seen:
        ['corrected', 'found'].includes(history[0]?.stage ?? '') ||
        (agreed.get(id)?.entry ?? 0) >= (history[0]?.id ?? 0),
      waiting: waiting.get(id) ?? null,
      written: taken.flatMap(({ kind, row: at, code, program, line, value: writes }) =>
        code === 'writes' && kind === register.kind && at === register.row && writes !== null
          ? [{ program, line, value: writes }]
          : [],
      ),
    });
  }
  const others = [];
  // one after the other: within a transaction there is one line to the database
  for (const { id, name, kind } of await machines(db))
    if (id !== machine.id && kind === machine.kind) others.push({ name, values: await registersOf(db, id) });
  const compared = compare({ unit: machine.unit, increment: machine.increment, registers: held, others });
  const differs = new Set(compared.differences.map(({ register }) => register.id));
  return {
    ...compared,
    moved,
    parted: agreed,
    assumed: taken,
    apart: held.filter(
      (each) =>
        !differs.has(each.id) &&
        taken.some(
          (by) =>
            by.kind === each.kind &&
            by.row === each.row &&
            meets(by, each.control, machine.increment) === false,
        ),
    ),
    answers: await answersOf(db, look.id),
  };
}

/** The last look before this one in which a register agreed with the record, and the first after that in which it did not. */
export interface Parted {
  /** The last entry before the one that agreed. */
  entry: number;
  agreed: Date;
  differed: Date;
}

async function agreedBefore(db: Db, machineId: number, look: Look): Promise<Map<number, Parted>> {
  const earlier = await rows<Parted & { register: number }>(
    db,
    `WITH seen AS (
       SELECT r.id AS register, k.id, k.at, k.entry_id, (h ->> 'value')::bigint = r.value AS agrees
       FROM control_look k CROSS JOIN LATERAL jsonb_array_elements(k.held) h JOIN register r ON r.id = (h ->> 'register')::integer
       WHERE k.machine_id = $1 AND k.id <= $2 AND k.id >= $2 - 200),
     last AS (SELECT DISTINCT ON (register) register, id, at, entry_id FROM seen WHERE agrees AND id < $2 ORDER BY register, id DESC)
     SELECT l.register, l.entry_id AS entry, l.at AS agreed,
       coalesce((SELECT min(s.at) FROM seen s WHERE s.register = l.register AND NOT s.agrees AND s.id > l.id), l.at) AS differed
     FROM last l`,
    [machineId, look.id],
  );
  return new Map(earlier.map(({ register, ...parted }) => [register, parted]));
}

const answersOf = (db: Db, lookId: number) =>
  rows<Answered>(
    db,
    `SELECT a.register_id AS register, a.answer, a.why, p.name AS person, a.at
     FROM control_answer a JOIN person p ON p.id = a.person_id WHERE a.look_id = $1`,
    [lookId],
  );

export interface Answering {
  machineId: number;
  lookId: number;
  registers: number[];
  answer: Answered['answer'];
  why: string;
}

/** Says of registers that differ which is right, control or record, or that nobody understands it: once, for all of them or none. */
export const answerLook = (asking: Asking, answering: Answering) =>
  once(asking, 'answerLook', answering, async (db) => {
    const machine = await heldMachine(db, answering.machineId);
    const look = await lookAtControl(db, machine.id, answering.lookId);
    if (!look) throw new Refused('There is no such look at this machine.');
    if (answering.why.trim() === '') throw new Refused('Say why.');
    const compared = await compareLook(db, machine, look);
    if (answering.answer === 'control' && compared.whole?.code === 'otherMachine')
      throw new Refused(
        `This is the table of ${compared.whole.machine}: nothing of it goes into the record of ${machine.name}.`,
      );
    const known = new Map(look.held.map(({ register, value }) => [register, value]));
    const readAgain = await rows<{ id: number }>(
      db,
      'SELECT register_id AS id FROM control_seen WHERE register_id = ANY($1) AND look_id > $2',
      [answering.registers, look.id],
    );
    const registers = new Map((await registersOf(db, machine.id)).map((each) => [each.id, each]));
    for (const id of answering.registers) {
      const [register, held] = [registers.get(id), known.get(id)];
      if (!register || held === undefined || held === register.value)
        throw new Refused('That register does not differ any more. Look again.');
      if (compared.moved.some((each) => each.kind === register.kind && each.row === register.row))
        throw new Refused(`${registerWords(register)} has moved since this look. Bring the table in again.`);
      if (readAgain.some((each) => each.id === id))
        throw new Refused(
          `${registerWords(register)} was read off again since this look. Answer the newer one.`,
        );
      const taken = await db.query(
        `INSERT INTO control_answer (look_id, register_id, answer, why, person_id) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING`,
        [look.id, id, answering.answer, answering.why, asking.personId],
      );
      if (taken.rowCount === 0)
        throw new Refused(`${registerWords(register)} was answered meanwhile by somebody else. Look again.`);
      if (answering.answer === 'control')
        await writeFound(db, asking.personId, {
          registerId: id,
          before: register.value,
          after: nanometres(held),
          why: answering.why,
        });
    }
    const named = answering.registers.map((id) => registerWords(registers.get(id)!));
    const list =
      named.length > 4 ? `${named.slice(0, 4).join(', ')} and ${named.length - 4} more` : named.join(', ');
    if (answering.answer === 'open') {
      const cell = await cellOf(db);
      const shift = shiftAt(cellNow(), cell.patterns, cell.timeZone);
      if (!shift) throw new Refused('There is no shift now whose leaf it could stand on.');
      await putNote(db, asking.personId, {
        leaf: shift.key,
        kind: 'question',
        machineId: machine.id,
        text: `The control holds something else than the record in ${list}. ${answering.why}`.slice(0, 500),
      });
    }
    if (answering.answer === 'record')
      await append(
        db,
        entry.machine('controlAnswered', {
          personId: asking.personId,
          machineId: machine.id,
          said: `The record is right, and the control is to be set: ${list}.`,
          why: answering.why,
          detail: { look: look.id, registers: answering.registers },
        }),
      );
  });

/** The whole record of a machine's offsets as NC text, to keep or to put back. */
export async function recordText(db: Db, machine: Machine, at: Date) {
  return tableText(machine, await registersOf(db, machine.id), at.toISOString());
}

/** What a control held otherwise at one look than at an earlier one, whatever the record says: registers that both of them have. */
export async function changedBetween(db: Db, machineId: number, later: Look, earlierId: number) {
  const earlier = await lookAtControl(db, machineId, earlierId);
  if (!earlier || earlier.id >= later.id) return null;
  const registers = new Map((await registersOf(db, machineId)).map((each) => [each.id, each]));
  const then = new Map(earlier.held.map(({ register, value }) => [register, value]));
  return {
    at: earlier.at,
    changes: later.held.flatMap(({ register: id, value }) => {
      const [register, before] = [registers.get(id), then.get(id)];
      return register && before !== undefined && before !== value
        ? [{ register, from: nanometres(before), to: nanometres(value) }]
        : [];
    }),
  };
}
