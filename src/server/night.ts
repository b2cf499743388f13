import { cutMost } from '../core/life/parts-by.ts';
import { nightSince, type NightQuestion } from '../core/life/night.ts';
import { chanceToLast } from '../core/life/chance-to-last.ts';
import { cycleUse } from '../core/life/count.ts';
import { shiftsBetween } from '../core/shift/calendar.ts';
import { perPart } from '../core/shift/job.ts';
import { wholeParts } from '../core/shift/likely-made.ts';
import { assemblyById } from './assemblies.ts';
import type { Cell } from './cell.ts';
import { row, type Db } from './db.ts';
import { groupsOf } from './groups.ts';
import { runningJob, type Job } from './jobs.ts';
import { likelyOf } from './likely-made.ts';
import { hoursOf } from './machine-hours.ts';
import { type Machine } from './machines.ts';
import { lifeOf, placesOf } from './places.ts';
import type { PlaceRow } from '../core/changer/place.ts';
import { callsOf, programById } from './programs.ts';
import { notReady } from './not-ready.ts';
import { speakingEdges } from './speaking-edges.ts';
import { unseenIn } from './unwatched.ts';
import { work } from './worker.ts';
import { nightRules, palletsOf, type PalletRow } from './pallets.ts';

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
