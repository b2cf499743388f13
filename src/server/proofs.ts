import { isDeepStrictEqual } from 'node:util';
import type { Change } from '../core/program/changes.ts';
import type { Proof } from '../core/readiness/proven.ts';
import { LONGEST_WAIVER, type Waiver } from '../core/readiness/waivers.ts';
import { entry } from '../core/ledger/entry.ts';
import { row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { append } from './ledger.ts';
import type { Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { callsOf, programText, type Program, heldProgram } from './programs.ts';
import { work } from './worker.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

interface ProofRow {
  programId: number;
  revision: number;
  proven: boolean;
  subs: Record<string, string>;
  said: string;
  person: string;
  at: Date;
  day: string;
}

/** The texts of what a program calls from the store, the newest of each, by number. */
const subsOf = async (db: Db, programId: number): Promise<Record<string, string>> =>
  Object.fromEntries((await subRows(db, programId)).map(({ number, sha256 }) => [number, sha256]));
const subRows = gathered((db, ids: readonly number[]) =>
  rows<{ of: number; number: string; sha256: string }>(
    db,
    `SELECT DISTINCT ON (g.id, o.number) g.id AS "of", o.number, o.sha256 FROM program g
     JOIN program o ON o.machine_id = g.machine_id AND o.number = ANY(g.uses)
     WHERE g.id = ANY($1) ORDER BY g.id, o.number, o.revision DESC`,
    [ids],
  ),
);

/** What was said last of each revision of a program up to this one, the newest revision first. */
const proofRows = gathered((db, ids: readonly number[]) =>
  rows<ProofRow & { of: number }>(
    db,
    `SELECT DISTINCT ON (q.id, g.revision) q.id AS "of", g.id AS "programId", g.revision, f.proven, f.subs, f.said, p.name AS person, f.at,
       coalesce(to_char(f.at AT TIME ZONE coalesce((SELECT time_zone FROM cell), 'UTC'), 'FMDD FMMonth'), '') AS day
     FROM program q JOIN program g ON g.machine_id = q.machine_id AND g.number = q.number AND g.revision <= q.revision
     JOIN program_proof f ON f.program_id = g.id JOIN person p ON p.id = f.person_id
     WHERE q.id = ANY($1) ORDER BY q.id, g.revision DESC, f.id DESC`,
    [ids],
  ),
);

/** What a revision does otherwise than the one with another id. */
async function changesSince(
  db: Db,
  program: Program,
  machine: Machine,
  before: { id: number; unit: Program['unit'] },
): Promise<Change[]> {
  const revision = async ({ id, unit }: { id: number; unit: Program['unit'] }) => ({
    calls: await callsOf(db, id),
    text: await programText(db, id),
    unit,
  });
  // texts may be of megabytes: no request of somebody else waits for them
  return work('changesBetween', [
    await revision(before),
    await revision(program),
    machine.dialect.boringShift ?? 'X+',
  ]);
}

/** How a program's page tells it: whether it is proven, and what it does otherwise than the revision before. */
export async function provenAndBefore(db: Db, program: Program, machine: Machine) {
  const before = await revisionBefore(db, program);
  return {
    // a subprogram is proven with whatever calls it
    proof: program.tools > 0 ? await proofOf(db, program, machine) : null,
    before: before && {
      id: before.id,
      revision: before.revision,
      changes: await changesSince(db, program, machine, before),
    },
  };
}

/** The revision before this one; null: it is the first. */
const revisionBefore = (db: Db, { machineId, number, revision }: Program) =>
  row<{ id: number; unit: Program['unit']; revision: number }>(
    db,
    `SELECT id, unit, revision FROM program WHERE machine_id = $1 AND number = $2 AND revision < $3 ORDER BY revision DESC LIMIT 1`,
    [machineId, number, revision],
  );

/** Whether a program was proven as it is, with what it calls. */
export async function proofOf(db: Db, program: Program, machine: Machine): Promise<Proof & { said: string }> {
  const known = await proofRows(db, program.id);
  const last = known.find(({ proven }) => proven);
  const own = known.find(({ programId }) => programId === program.id);
  const back = own && !own.proven ? [`${own.person} took it back: ${own.said}.`] : [];
  if (!last) return { state: back.length > 0 ? 'changed' : 'never', by: null, changes: back, said: '' };
  const by = { person: last.person, day: last.day };
  const changes = [...back];
  if (last.programId !== program.id) {
    const before = { id: last.programId, unit: program.unit };
    changes.push(...(await changesSince(db, program, machine, before)).map(({ text }) => text));
  }
  const subs = await subsOf(db, program.id);
  for (const number of Object.keys({ ...last.subs, ...subs }).sort())
    if (last.subs[number] !== subs[number])
      changes.push(
        subs[number] === undefined
          ? `${number} is no longer called.`
          : last.subs[number] === undefined
            ? `It calls ${number} now.`
            : `${number}, which it calls, has changed.`,
      );
  return { state: changes.length > 0 ? 'changed' : 'proven', by, changes, said: last.said };
}

/** Says that a program is proven on its machine as it is now, or takes that back. */
export const proveProgram = (asking: Asking, proving: { programId: number; proven: boolean; said: string }) =>
  once(asking, 'proveProgram', proving, async (db) => {
    const program = await heldProgram(db, proving.programId);
    await askBeforeTakingOver(db, asking, [
      'program',
      proving.proven ? 'unproven' : 'proven',
      { programId: program.id },
    ]);
    if (proving.proven && !program.newest)
      throw new Refused('Another revision has come since: that is the one that will run. Look at it first.');
    const subs = await subsOf(db, proving.programId);
    const last = await row<{ proven: boolean; subs: Record<string, string>; person: string }>(
      db,
      `SELECT f.proven, f.subs, p.name AS person FROM program_proof f JOIN person p ON p.id = f.person_id
       WHERE f.program_id = $1 ORDER BY f.id DESC LIMIT 1`,
      [proving.programId],
    );
    if (last?.proven === proving.proven && (!proving.proven || isDeepStrictEqual(last.subs, subs)))
      throw new Refused(
        `${last.person} said so already: ${program.number} is ${proving.proven ? '' : 'not '}proven. Nothing was written down.`,
      );
    await db.query(
      'INSERT INTO program_proof (program_id, proven, subs, said, person_id) VALUES ($1, $2, $3, $4, $5)',
      [proving.programId, proving.proven, JSON.stringify(subs), proving.said, asking.personId],
    );
    await append(
      db,
      entry.program(proving.proven ? 'proven' : 'unproven', {
        personId: asking.personId,
        machineId: program.machineId,
        programId: proving.programId,
        said: `${program.number}, revision ${program.revision}, ${proving.proven ? 'was proven' : 'is no longer proven'} on ${program.machine}.`,
        why: proving.said,
      }),
    );
  });

/** What is let stand of a program's findings today. */
export const waiversOf = gathered((db, ids: readonly number[]) =>
  rows<Waiver & { of: number }>(
    db,
    `SELECT w.program_id AS "of", w.code, w.sentence, w.why, p.name AS person,
       coalesce(to_char((w.until - interval '1 minute') AT TIME ZONE coalesce((SELECT time_zone FROM cell), 'UTC'), 'FMDD FMMonth'), '') AS until
     FROM finding_waiver w JOIN person p ON p.id = w.person_id WHERE w.program_id = ANY($1) AND w.until > tin_now() ORDER BY w.id`,
    [ids],
  ),
);

export interface Waiving {
  programId: number;
  code: string;
  sentence: string;
  why: string;
  /** Days from today on that it stands, this one among them. */
  days: number;
}

/** Lets a finding stand until the end of a day. */
export const waiveFinding = (asking: Asking, { programId, code, sentence, why, days }: Waiving) =>
  once(asking, 'waiveFinding', { programId, code, sentence, why, days }, async (db) => {
    if (!(days >= 1 && days <= LONGEST_WAIVER))
      throw new Refused(`From 1 to ${LONGEST_WAIVER} days: longer than that, mend it.`);
    const program = await heldProgram(db, programId);
    const before = await row<{ person: string }>(
      db,
      `SELECT p.name AS person FROM finding_waiver w JOIN person p ON p.id = w.person_id
       WHERE w.program_id = $1 AND w.code = $2 AND w.sentence = $3
         AND w.until >= (date_trunc('day', tin_now() AT TIME ZONE coalesce((SELECT time_zone FROM cell), 'UTC')) + make_interval(days => $4::integer)) AT TIME ZONE coalesce((SELECT time_zone FROM cell), 'UTC')
       ORDER BY w.until DESC LIMIT 1`,
      [programId, code, sentence, days],
    );
    if (before) throw new Refused(`${before.person} let it stand as long already. Nothing was written down.`);
    const kept = (await row<{ day: string }>(
      db,
      `INSERT INTO finding_waiver (program_id, code, sentence, why, until, person_id)
       VALUES ($1, $2, $3, $4, date_trunc('day', tin_now() AT TIME ZONE coalesce((SELECT time_zone FROM cell), 'UTC')) AT TIME ZONE coalesce((SELECT time_zone FROM cell), 'UTC')
                + make_interval(days => $5::integer), $6)
       RETURNING coalesce(to_char((until - interval '1 minute') AT TIME ZONE coalesce((SELECT time_zone FROM cell), 'UTC'), 'FMDD FMMonth'), '') AS day`,
      [programId, code, sentence, why, days, asking.personId],
    ))!;
    await append(
      db,
      entry.program('waived', {
        personId: asking.personId,
        machineId: program.machineId,
        programId,
        said: `${program.number}: let stand until ${kept.day}: ${sentence}`.slice(0, 900),
        why,
      }),
    );
  });
