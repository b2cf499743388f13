import { cutMost } from '../core/life/parts-by.ts';
import { nightSince, type NightQuestion, type Pallet } from '../core/life/night.ts';
import { chanceToLast } from '../core/life/chance-to-last.ts';
import { cycleUse } from '../core/life/count.ts';
import { shiftsBetween } from '../core/shift/calendar.ts';
import { perPart } from '../core/shift/job.ts';
import { wholeParts } from '../core/shift/likely-made.ts';
import { entry } from '../core/ledger/entry.ts';
import { assemblyById } from './assemblies.ts';
import type { Cell } from './cell.ts';
import { row, rows, type Db } from './db.ts';
import { countParts } from './counts.ts';
import { groupsOf } from './groups.ts';
import { runningJob, type Job } from './jobs.ts';
import { likelyOf } from './likely-made.ts';
import { append } from './ledger.ts';
import { hoursOf } from './machine-hours.ts';
import { lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { lifeOf, placesOf } from './places.ts';
import type { PlaceRow } from '../core/changer/place.ts';
import { callsOf, programById } from './programs.ts';
import { notReady } from './not-ready.ts';
import { speakingEdges } from './speaking-edges.ts';
import { unseenIn } from './unwatched.ts';
import { work } from './worker.ts';
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

const nightRules = async (db: Db, machineId: number) =>
  (await row<{ school: NightQuestion['school']; runsOn: number }>(
    db,
    'SELECT night_school AS school, runs_on AS "runsOn" FROM machine WHERE id = $1',
    [machineId],
  ))!;

/** Time from part to part where no job says it: that in cut, and as much again of a tenth for all else. */
const AROUND = 1.1;

/** What the machine would have to work with, were nobody to come. */
async function questionOf(
  db: Db,
  machine: Machine,
  pallets: readonly PalletRow[],
  places: readonly PlaceRow[],
): Promise<NightQuestion> {
  const [groups, { school }] = [await groupsOf(db, machine.id), await nightRules(db, machine.id)];
  const programs = [];
  for (const programId of new Set(pallets.map((pallet) => pallet.programId))) {
    const [program, calls] = [(await programById(db, programId))!, await callsOf(db, programId)];
    const job = await row<Pick<Job, 'cycleMilliseconds' | 'pace'>>(
      db,
      'SELECT cycle_milliseconds AS "cycleMilliseconds", pace_milliseconds AS pace FROM job WHERE program_id = $1 ORDER BY id DESC LIMIT 1',
      [programId],
    );
    const cut = calls.reduce((sum, call) => sum + call.cutMilliseconds, 0) / program.partsPerCycle;
    programs.push({
      program: program.number,
      guessed: !job,
      milliseconds: job
        ? perPart({ ...job, partsPerCycle: program.partsPerCycle })
        : Math.max(1000, Math.round(cut * AROUND)),
      uses: [...new Set(calls.map((call) => call.tool))]
        .filter((tool) => tool > 0)
        .map((tool) => ({
          tool,
          use: cycleUse(calls, tool, program.partsPerCycle),
        })),
    });
  }
  return {
    pallets,
    programs,
    school,
    tools: places.flatMap((place) =>
      place.assembly && place.tool !== null
        ? [
            {
              tool: place.tool,
              flag: place.assembly.flag,
              life: lifeOf(place.assembly),
            },
          ]
        : [],
    ),
    groups: groups.map(({ number, rules, inUse, members }) => ({
      number,
      rules,
      inUse,
      members: members.flatMap(({ tool, role, fresh, assembly }) =>
        assembly ? [{ tool, role, fresh, life: assembly.life, flag: assembly.flag }] : [],
      ),
    })),
  };
}

/** When the people go and when they come back: the next gap between shifts; null: there is none in a week. */
export function awayFrom(cell: Cell, now: Date): { from: Date; to: Date } | null {
  const shifts = shiftsBetween(now, new Date(now.getTime() + 7 * 86_400_000), cell.patterns, cell.timeZone);
  const [first] = shifts;
  if (!first) return null;
  if (first.start > now) return { from: now, to: first.start };
  for (const [i, shift] of shifts.entries()) {
    const next = shifts[i + 1];
    if (next && next.start > shift.end) return { from: shift.end, to: next.start };
  }
  return null;
}

/** From when on a machine stands while the people are away; null: it runs on until they are back. */
export function standsFrom(cell: Cell, runsOn: number, { from, to }: { from: Date; to: Date }): Date | null {
  // an instant before they go it works in any case
  const on = hoursOf(cell, runsOn, new Date(from.getTime() - 1), to).find(
    ({ start, end }) => start < from && end >= from,
  );
  if (!on) return from;
  return on.end < to ? on.end : null;
}

/** What is left of a job, as if it stood on one pallet. */
async function asPallet(db: Db, job: Job): Promise<PalletRow> {
  const program = (await programById(db, job.programId))!;
  return {
    id: 0,
    number: 0,
    programId: program.id,
    program: program.number,
    title: program.title,
    parts: Math.max(1, job.quantity - job.made),
    cut: 0,
    isolated: false,
    why: null,
  };
}

/** Whether the queue lasts until people come back, what stops it, and what to do before leaving. */
export async function nightOf(
  db: Db,
  machine: Machine,
  cell: Cell,
  now: Date,
  /** Hours with nobody at the machine that somebody asks about; null: those between the shifts. */
  alone: { from: Date; to: Date } | null = null,
) {
  const queue = await palletsOf(db, machine.id);
  const running = await runningJob(db, machine.id);
  const job = queue.length === 0 ? running : null;
  const rowsOf = job ? [await asPallet(db, job)] : queue;
  const places = await placesOf(db, machine.id);
  const recorded = await questionOf(db, machine, rowsOf, places);
  // what was made since the last count was cut on the first pallets, where they are of the job that runs
  const mine = running !== null && rowsOf.find(({ isolated }) => !isolated)?.programId === running.programId;
  const likely = mine ? await likelyOf(db, cell, running, now) : null;
  const { question, cut } = nightSince(
    recorded,
    running?.number ?? '',
    likely ? wholeParts(likely) - running!.made : 0,
  );
  const pallets = rowsOf.map((pallet, i) => ({
    ...pallet,
    counted: pallet.cut,
    cut: question.pallets[i]!.cut ?? 0,
  }));
  // long queues take a while, and nobody else waits for it
  const { play, best, shortages } = await work('answerNight', [question]);
  const aging = [];
  for (const { tool, basis, limit, before, after } of play.left) {
    const standing = places.find((place) => place.tool === tool)?.assembly;
    const assembly = standing && (await assemblyById(db, standing.id));
    if (!assembly) continue;
    const most = cutMost(question, tool);
    const cuts =
      most === null
        ? null
        : await programById(db, pallets.find(({ program }) => program === most)!.programId);
    const { edges } = await speakingEdges(
      db,
      assembly,
      basis,
      cuts && { program: cuts.number, material: cuts.material },
    );
    aging.push({ tool, usedNow: limit - before, usedThen: limit - after, edges });
  }
  const waiting = await row<{ n: number }>(
    db,
    `SELECT count(*)::integer AS n FROM proposal p JOIN register g ON g.id = p.register_id WHERE g.machine_id = $1 AND p.open`,
    [machine.id],
  );
  const [away, { runsOn }] = [alone ?? awayFrom(cell, now), await nightRules(db, machine.id)];
  const begins = likely
    ? new Date(now.getTime() - (likely.parts - running!.made - cut) * perPart(running!))
    : now;
  const stands = alone ? null : away && standsFrom(cell, runsOn, away);
  return {
    /** No pallet stands in the queue: the job that runs is played to its end, from what is on record of it. */
    job: job?.number ?? null,
    likely,
    /** When what is played begins: with the part that is in the machine, or where it must have stopped. */
    begins,
    pallets,
    play,
    best,
    shortages,
    notReady: await notReady(db, pallets, running),
    /** Programs whose times are reckoned from the time in cut. */
    guessed: question.programs.flatMap(({ program, guessed }) => (guessed ? [program] : [])),
    chance: chanceToLast(aging),
    school: question.school,
    runsOn,
    stands,
    away,
    /** What nobody looks at meanwhile; null: somebody is always there. */
    unseen:
      away &&
      (await unseenIn(
        db,
        machine,
        mine ? running : null,
        {
          play,
          order: question.pallets.map(({ id }) => id),
          question,
          begins,
          made: (running?.made ?? 0) + cut,
          away: { from: away.from, to: stands ?? away.to },
        },
        now,
      )),
    /** Corrections that wait: what is cut meanwhile is cut with the old offset. */
    waiting: waiting!.n,
  };
}

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
