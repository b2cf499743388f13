import { type NightQuestion, type Pallet } from '../core/life/night.ts';
import { entry } from '../core/ledger/entry.ts';
import { row, rows, type Db } from './db.ts';
import { countParts } from './counts.ts';
import { runningJob } from './jobs.ts';
import { append } from './ledger.ts';
import { lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { callsOf, programById } from './programs.ts';
import { askBeforeTakingOver, askIfDoubled } from './told-meanwhile.ts';

export interface PalletRow extends Pallet {
  /** Parts of it that are counted already. */
  cut: number;
  programId: number;
  title: string;
  /** Why it was set aside. */
  why: string | null;
}

export const palletsOf = (db: Db, machineId: number) =>
  rows<PalletRow>(
    db,
    `SELECT p.id, p.number, p.program_id AS "programId", g.number AS program, g.title, p.parts, p.cut, p.isolated IS NOT NULL AS isolated, p.isolated AS why
     FROM pallet p JOIN program g ON g.id = p.program_id WHERE p.machine_id = $1 ORDER BY p.ord, p.id`,
    [machineId],
  );

export const nightRules = async (db: Db, machineId: number) =>
  (await row<{ school: NightQuestion['school']; runsOn: number }>(
    db,
    'SELECT night_school AS school, runs_on AS "runsOn" FROM machine WHERE id = $1',
    [machineId],
  ))!;

const say = (db: Db, personId: number, machine: Machine, said: string, why = '') =>
  append(db, entry.machine('pallet', { personId, machineId: machine.id, said, why }));

async function held(db: Db, machine: Machine, id: number): Promise<{ pallet: PalletRow; all: PalletRow[] }> {
  await lockMachine(db, machine.id);
  const all = await palletsOf(db, machine.id);
  const pallet = all.find((each) => each.id === id);
  if (!pallet) throw new Refused('This pallet was taken off the queue meanwhile.');
  return { pallet, all };
}

/** Puts a pallet at the end of the queue. */
export const putPallet = (
  asking: Asking,
  machine: Machine,
  given: { number: number; programId: number; parts: number },
) =>
  once(asking, 'putPallet', { machineId: machine.id, ...given }, async (db) => {
    await lockMachine(db, machine.id);
    const program = await programById(db, given.programId);
    if (!program || program.machineId !== machine.id) throw new Refused('Choose a program of this machine.');
    const all = await palletsOf(db, machine.id);
    if (all.some(({ number }) => number === given.number))
      throw new Refused(`Pallet ${given.number} stands in the queue already.`);
    await db.query(
      `INSERT INTO pallet (machine_id, number, program_id, parts, ord)
       VALUES ($1, $2, $3, $4, (SELECT coalesce(max(ord), 0) + 1 FROM pallet WHERE machine_id = $1))`,
      [machine.id, given.number, program.id, given.parts],
    );
    await say(
      db,
      asking.personId,
      machine,
      `Pallet ${given.number} with ${given.parts} of ${program.number} was put into the queue of ${machine.name}.`,
    );
  });

const setOrder = async (db: Db, ids: readonly number[]) => {
  for (const [i, id] of ids.entries())
    await db.query('UPDATE pallet SET ord = $2 WHERE id = $1', [id, i + 1]);
};

/** Moves a pallet by a place, earlier or later: whoever presses twice moves it by two, of two people the second is asked. */
export const movePallet = (asking: Asking, machine: Machine, given: { id: number; by: -1 | 1 }) =>
  once(asking, 'movePallet', { machineId: machine.id, ...given }, async (db) => {
    const { pallet, all } = await held(db, machine, given.id);
    const ids = all.map(({ id }) => id);
    const at = ids.indexOf(pallet.id);
    const to = at + given.by;
    if (to < 0 || to >= ids.length) throw new Refused('It stands at that end already.');
    await askIfDoubled(db, asking, ['machine', 'pallet', { machineId: machine.id }], 'Move it all the same');
    [ids[at], ids[to]] = [ids[to]!, ids[at]!];
    await setOrder(db, ids);
    await say(
      db,
      asking.personId,
      machine,
      `Pallet ${pallet.number} was moved to place ${to + 1} of the queue.`,
    );
  });

/** Puts the whole queue into another order, such as the one that makes most. */
export const orderPallets = (asking: Asking, machine: Machine, given: { ids: number[]; seen: number[] }) =>
  once(asking, 'orderPallets', { machineId: machine.id, ...given }, async (db) => {
    await lockMachine(db, machine.id);
    const all = await palletsOf(db, machine.id);
    if (String(all.map(({ id }) => id)) !== String(given.seen))
      throw new Refused('The queue changed meanwhile. Look at it again.');
    const rest = all.map(({ id }) => id).filter((id) => !given.ids.includes(id));
    const ids = [...given.ids.filter((id) => all.some((each) => each.id === id)), ...rest];
    await setOrder(db, ids);
    const numbers = ids.map((id) => all.find((each) => each.id === id)!.number);
    await say(
      db,
      asking.personId,
      machine,
      `The queue of ${machine.name} is now pallets ${numbers.join(', ')}.`,
    );
  });

/** Sets a pallet aside with the reason, or back into the queue. */
export const isolatePallet = (asking: Asking, machine: Machine, given: { id: number; why: string | null }) =>
  once(asking, 'isolatePallet', { machineId: machine.id, ...given }, async (db) => {
    const { pallet } = await held(db, machine, given.id);
    const why = given.why?.trim() ?? null;
    if (why === '') throw new Refused('Say why it is set aside.');
    if (pallet.isolated === (why !== null))
      throw new Refused(
        why === null
          ? `Pallet ${pallet.number} is in the queue already.`
          : `Pallet ${pallet.number} was set aside already: ${pallet.why}.`,
      );
    await db.query('UPDATE pallet SET isolated = $2 WHERE id = $1', [pallet.id, why]);
    await say(
      db,
      asking.personId,
      machine,
      why === null
        ? `Pallet ${pallet.number} is back in the queue.`
        : `Pallet ${pallet.number} was set aside.`,
      why ?? '',
    );
  });

/** On a machine that goes on with the next pallet, the one that is being cut is set aside where its program calls the tool. */
export async function setAside(
  db: Db,
  personId: number,
  machine: Machine,
  calls: (call: { tool: number }) => boolean,
  why: string,
): Promise<void> {
  if ((await nightRules(db, machine.id)).school !== 'isolate') return;
  const first = (await palletsOf(db, machine.id)).find(({ isolated }) => !isolated);
  if (!first || !(await callsOf(db, first.programId)).some(calls)) return;
  await db.query('UPDATE pallet SET isolated = $2 WHERE id = $1', [first.id, why]);
  await say(db, personId, machine, `Pallet ${first.number} was set aside.`, why);
}

/** Takes a pallet off the queue: uncut, or with its parts made, which are recorded with the job that runs. */
export const takePallet = (
  asking: Asking,
  machine: Machine,
  given: { id: number; made: { parts: number; before: number } | null },
) =>
  once(asking, 'takePallet', { machineId: machine.id, ...given }, async (db) => {
    const { pallet } = await held(db, machine, given.id);
    const { made } = given;
    if (made) {
      const job = await runningJob(db, machine.id);
      if (job?.programId !== pallet.programId)
        throw new Refused(
          `No job of ${pallet.program} runs on ${machine.name}: its parts are recorded where that job is.`,
        );
      if (made.parts > pallet.parts - pallet.cut)
        throw new Refused(
          `Pallet ${pallet.number} carries ${pallet.parts} parts, not ${made.parts + pallet.cut}${pallet.cut > 0 ? `: ${pallet.cut} of them are counted already` : ''}.`,
        );
      await countParts(db, asking.personId, {
        jobId: job.id,
        before: made.before,
        parts: made.parts,
        source: `pallet ${pallet.number} came off`,
        withPallet: pallet.number,
      });
    }
    await db.query('DELETE FROM pallet WHERE id = $1', [pallet.id]);
    await say(
      db,
      asking.personId,
      machine,
      `Pallet ${pallet.number} was taken off the queue of ${machine.name}${made ? `, ${made.parts + pallet.cut} ${made.parts + pallet.cut === 1 ? 'part' : 'parts'} made` : pallet.cut > 0 ? `, ${pallet.cut} of its parts counted before` : ', uncut'}.`,
    );
  });

/** What the machine does where a tool cannot cut. */
export const setNightSchool = (
  asking: Asking,
  machine: Machine,
  given: { school: NightQuestion['school'] },
) =>
  once(asking, 'setNightSchool', { machineId: machine.id, ...given }, async (db) => {
    await lockMachine(db, machine.id);
    await askBeforeTakingOver(db, asking, ['machine', 'nightSchool', { machineId: machine.id }]);
    await db.query('UPDATE machine SET night_school = $2 WHERE id = $1', [machine.id, given.school]);
    await append(
      db,
      entry.machine('nightSchool', {
        personId: asking.personId,
        machineId: machine.id,
        said:
          given.school === 'stop'
            ? `${machine.name} stops where a tool cannot cut.`
            : `${machine.name} sets a pallet aside where a tool cannot cut, and goes on with the next.`,
      }),
    );
  });
