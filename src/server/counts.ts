import type { Flag } from '../core/life/flag.ts';
import {
  cycleUse,
  isExpired,
  ownUse,
  together,
  usedBy,
  usedByCalls,
  useOf,
  type CycleUse,
  type LifeBasis,
} from '../core/life/count.ts';
import { groupParts, memberInUse } from '../core/life/group.ts';
import type { ToolCall } from '../core/program/reading.ts';
import type { RunningTool } from '../core/shift/run-out.ts';
import type { Length } from '../core/units/length.ts';
import { assemblyById, setFlag } from './assemblies.ts';
import { askAboutCount, keepPace } from './count-looks.ts';
import { groupsOf, playedBy, shareOut, type Group } from './groups.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { lockJob, ofJob, type Job } from './jobs.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { lifeInWords } from './lives.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { movedSince, owesNothingSince, standingIn, takenSinceCount } from './stood-then.ts';
import { askIfDoubled } from './told-meanwhile.ts';
import { placeThen, typedAt } from './told-then.ts';
import { countOnPallets, cutOn } from './pallet-counts.ts';
import { callsOf } from './programs.ts';

export interface PartsMade {
  jobId: number;
  /** The count that the page showed: somebody else's parts in between are not counted over. */
  before: number;
  parts: number;
  source: string;
  /** Somebody typed or pressed it and has not looked again: a number that cannot be is asked about before it counts. */
  doubted?: boolean;
  /** A pallet of this number came off: its parts leave the queue with it. */
  withPallet?: number;
}

/** Records parts made: the job's count goes up and the counters of every tool of its program go down. */
export const recordParts = (asking: Asking, made: PartsMade) =>
  once(asking, 'recordParts', made, (db) => countParts(db, asking.personId, made));

export async function countParts(db: Db, personId: number, made: PartsMade): Promise<{ expired: string[] }> {
  const job = await lockJob(db, made.jobId);
  if (job.state === 'paused')
    throw new Refused(`${job.number} is paused (${job.why}): take it up again before parts are recorded.`);
  if (job.state !== 'running') throw new Refused('This job is not running.');
  // who counted meanwhile is told that, not asked about a number
  if (made.doubted && made.before === job.made) await askAboutCount(db, job, made.parts);
  const told = typedAt();
  const then = told && { place: await placeThen(db, job.machineId, told) };
  return keepCount(db, personId, job, made, then);
}

/** A count that was told before it is entered: where in the order of the entries, and the wrong one that it puts right, told so many seconds ago. */
interface ToldThen {
  place: number;
  instead?: number;
  ago?: number;
}

/** Enters parts of a job, and what they took of each tool; of one that was told before, of those whose edge cut already then. */
export async function keepCount(
  db: Db,
  personId: number,
  job: Job,
  made: PartsMade,
  then: ToldThen | null = null,
): Promise<{ expired: string[] }> {
  const calls = await callsOf(db, job.programId);
  const groups = await calledIn(db, job.machineId, calls);
  const counted = await append(
    db,
    entry.parts('made', {
      ...ofJob(job, personId),
      said: `${made.parts} ${made.parts === 1 ? 'part' : 'parts'} of ${job.number} made, ${made.before + made.parts} in all.`,
      why: made.source,
      detail: {
        before: made.before,
        parts: made.parts,
        ...(then ?? {}),
        // who cut the last part before these, for whoever takes the count back
        ...(groups.length > 0 ? { inUse: groups.map(({ id, inUse }) => ({ id, tool: inUse })) } : {}),
      },
    }),
  );
  const tools = await toolsThatCut(db, job, counted, then?.place ?? null);
  const shares = await takeOver(db, personId, job, groups, calls, made.before, made.parts);
  const expired: string[] = [];
  for (const tool of tools) {
    const picked = shares.filter((each) => each.tool === tool.tool);
    const use = usedByCalls(made.parts, tool.basis, tool.direct, picked, made.before);
    if (use === 0) continue;
    if (
      await takeUse(db, personId, job, tool, use, `for ${made.parts} ${made.parts === 1 ? 'part' : 'parts'}`)
    )
      expired.push(`T${tool.tool} (${tool.number})`);
  }
  await keepPace(db, job);
  const on = { entry: counted, before: made.before };
  if (made.withPallet === undefined) await countOnPallets(db, job, made.parts, on);
  else await cutOn(db, job, made.withPallet, made.parts, on);
  return { expired };
}

/**
 * The counted tools that cut parts of a job: those that stand in the machine, and what was taken out of a T that stands empty since the last
 * count; of parts that were told late, or rightly only now, those that stood there then, wherever they are by now. Whatever has
 * had a fresh edge since then owes nothing.
 *
 * @param entry the entry that counts them
 * @param then the place of what is told in the order of the entries; null: it is told as it was entered
 */
async function toolsThatCut(db: Db, job: Job, entry: number, then: number | null): Promise<CountedTool[]> {
  const here = await standingIn(db, job.machineId);
  const moved = then === null ? [] : await movedSince(db, job.machineId, then);
  const since = new Set(moved.map(({ assemblyId }) => assemblyId));
  const stays = here.filter(({ assemblyId }) => !since.has(assemblyId));
  const stood = moved.flatMap(({ assemblyId, tool }) =>
    tool === null ? [] : [{ assemblyId, tool, place: then! }],
  );
  const tools = new Set((await callsOf(db, job.programId)).map(({ tool }) => tool));
  for (const { tool } of [...stays, ...stood]) tools.delete(tool);
  const away = [
    ...stood,
    ...(await takenSinceCount(db, job.machineId, [...tools], { entry, place: then ?? entry })),
  ];
  const all = [...stays.map((each) => ({ ...each, place: then ?? entry })), ...away];
  const counters = await countersOf(
    db,
    all.map(({ assemblyId }) => assemblyId),
  );
  const cut = counters.map((counter) => ({
    ...counter,
    ...all.find(({ assemblyId }) => assemblyId === counter.assemblyId)!,
  }));
  // of what is counted as it is entered, nothing came since
  const earlier = cut.filter(({ place }) => place < entry);
  const fresh = earlier.length > 0 ? await owesNothingSince(db, earlier) : new Set();
  return countedAmong(
    db,
    job,
    cut.filter(({ assemblyId }) => !fresh.has(assemblyId)),
  );
}

/** Takes what was used off a tool's counter, and flags it when that was its last; whether it was. */
async function takeUse(
  db: Db,
  personId: number,
  job: Job,
  tool: CountedTool,
  use: number,
  words: string,
): Promise<boolean> {
  const after = tool.remaining - use;
  await append(
    db,
    entry.life('used', {
      personId,
      machineId: job.machineId,
      assemblyId: tool.assemblyId,
      tool: tool.tool,
      programId: job.programId,
      jobId: job.id,
      counterId: tool.counterId,
      before: tool.remaining,
      after,
      said: `T${tool.tool} (${tool.number}) was used ${words}.`,
    }),
  );
  if (tool.flag !== null || !isExpired(after)) return false;
  await setFlag(
    db,
    personId,
    // by where it is now: what is told late may have been cut with a tool that stands elsewhere
    (await assemblyById(db, tool.assemblyId))!,
    'expired',
    `Its counter stands at ${lifeInWords(after, tool.basis)}.`,
  );
  return true;
}

export interface BrokenOff {
  jobId: number;
  before: number;
  /** T at which the cycle stopped; what it should have cut in that call counts whole, since nobody can tell how much of it was cut. */
  tool: number;
  why: string;
}

/** Counts a cycle that was broken off: no part, and of each tool what it had cut by then. */
export const cycleBrokenOff = (asking: Asking, broken: BrokenOff) =>
  once(asking, 'cycleBrokenOff', broken, async (db) => {
    const job = await lockJob(db, broken.jobId);
    if (job.state !== 'running') throw new Refused('This job is not running.');
    if (broken.why.trim() === '') throw new Refused('Say why it was broken off.');
    await askIfDoubled(db, asking, ['parts', 'broken off', { jobId: job.id }], 'Another cycle');
    const calls = await callsOf(db, job.programId);
    const stop = calls.find(({ tool }) => tool === broken.tool);
    if (!stop) throw new Refused(`${job.number} does not call T${broken.tool}.`);
    const counted = await append(
      db,
      entry.parts('broken off', {
        ...ofJob(job, asking.personId),
        tool: broken.tool,
        said: `A cycle of ${job.number} was broken off at T${broken.tool}, after ${broken.before} ${broken.before === 1 ? 'part' : 'parts'}.`,
        why: broken.why.trim(),
        detail: { before: broken.before, parts: 0 },
      }),
    );
    const cut = calls.filter(({ order }) => order <= stop.order);
    const told = typedAt();
    for (const tool of await toolsThatCut(
      db,
      job,
      counted,
      told && (await placeThen(db, job.machineId, told)),
    )) {
      const by = [...(tool.direct ? [tool.tool] : []), ...(tool.group?.next ? [tool.group.number] : [])];
      const own = cut.filter((call) => by.includes(call.tool));
      if (own.length === 0) continue;
      const use = usedBy(job.partsPerCycle, tool.basis, useOf(own, job.partsPerCycle));
      if (use > 0) await takeUse(db, asking.personId, job, tool, use, 'in a cycle that was broken off');
    }
  });

/** That another member of a group cuts from a part on; the database adds what is known of the machine's other jobs. */
export const inGroup = (
  personId: number,
  job: Job,
  group: Pick<Group, 'id' | 'number'>,
  from: number,
  to: number,
  until: number,
) => ({
  personId,
  machineId: job.machineId,
  jobId: job.id,
  tool: to,
  detail: {
    group: group.number,
    took: { group: group.id, from, to },
    keyed: { of: String(job.id), low: until, high: until },
  },
});

/** How parts are shared out among the sisters of each group that is called, by the machine's own rule; who cut the last is kept. */
async function takeOver(
  db: Db,
  personId: number,
  job: Job,
  groups: readonly Group[],
  calls: readonly ToolCall[],
  made: number,
  parts: number,
) {
  const all = [];
  for (const group of groups) {
    const use = cycleUse(calls, group.number, job.partsPerCycle);
    const shares = shareOut(group, playedBy(group, groups, calls, job.partsPerCycle), parts);
    all.push(...shares.map((each) => ({ ...each, use })));
    const last = shares.at(-1)?.tool;
    if (last === undefined || last === group.inUse) continue;
    await db.query('UPDATE tool_group SET in_use = $2 WHERE id = $1', [group.id, last]);
    let cutting = group.inUse;
    for (const { tool, from } of shares) {
      if (cutting !== null && tool !== cutting)
        await append(
          db,
          entry.machine('group', {
            ...inGroup(personId, job, group, cutting, tool, made + from - 1),
            said: `T${tool} took over from T${cutting} in group ${group.number}.`,
          }),
        );
      cutting = tool;
    }
  }
  return all;
}

export interface CountedTool extends RunningTool {
  assemblyId: number;
  number: string;
  name: string;
  counterId: number;
  fullLife: number;
  flag: Flag | null;
  gaugeLength: Length;
  /** What a cycle takes of it by calls of its own T; null: it is called by its group alone. */
  direct: CycleUse | null;
  /** The group that it is called by, and whether it cuts the next part. */
  group: { number: number; next: boolean } | null;
}

/** The groups of a machine that a program calls. */
const calledIn = async (db: Db, machineId: number, calls: readonly ToolCall[]) =>
  (await groupsOf(db, machineId)).filter(({ number }) => calls.some((call) => call.tool === number));

interface Counted {
  tool: number;
  assemblyId: number;
  number: string;
  name: string;
  counterId: number;
  basis: LifeBasis;
  remaining: number;
  fullLife: number;
  flag: Flag | null;
  perPart: number | null;
  gaugeLength: Length;
}
const COUNTED = `a.id AS "assemblyId", a.number, a.name, c.id AS "counterId", c.basis, c.value AS remaining, c.full_life AS "fullLife", a.flag, c.per_part AS "perPart",
            a.gauge_length AS "gaugeLength"`;

/** The counters of tools, wherever those are. */
const countersOf = (db: Db, assemblies: readonly number[]) =>
  rows<Omit<Counted, 'tool'>>(
    db,
    `SELECT ${COUNTED} FROM assembly a JOIN life_counter c ON c.assembly_id = a.id WHERE a.id = ANY($1) ORDER BY c.id`,
    [assemblies],
  );

/** Every tool of a machine that is counted. */
const countedAt = gathered((db, ids: readonly number[]) =>
  rows<Counted & { of: number }>(
    db,
    `SELECT s.machine_id AS "of", s.tool, ${COUNTED}
     FROM placement s JOIN assembly a ON a.id = s.assembly_id JOIN life_counter c ON c.assembly_id = a.id
     WHERE s.machine_id = ANY($1) ORDER BY c.id`,
    [ids],
  ),
);

/** The tools of a job's program that stand in the machine and are counted, with what one cycle takes of each. */
export const countedTools = async (db: Db, job: Job): Promise<CountedTool[]> =>
  countedAmong(db, job, await countedAt(db, job.machineId));

async function countedAmong(
  db: Db,
  job: Job,
  standing: readonly Omit<Counted, 'of'>[],
): Promise<CountedTool[]> {
  const calls = await callsOf(db, job.programId);
  const groups = await calledIn(db, job.machineId, calls);
  const called = [...new Set(calls.map((call) => call.tool))].filter(
    (tool) => !groups.some(({ number }) => number === tool),
  );
  const meant = new Set([...called, ...groups.flatMap(({ members }) => members.map((each) => each.tool))]);
  const placed = standing.filter(({ tool }) => meant.has(tool));
  return placed.map((tool): CountedTool => {
    const group = groups.find(({ members }) => members.some((each) => each.tool === tool.tool));
    const direct = ownUse(calls, tool.tool, job.partsPerCycle, groups);
    if (!group) return { ...tool, use: direct!, direct, group: null };
    const members = playedBy(group, groups, calls, job.partsPerCycle);
    const next = memberInUse(group.rules, members, group.inUse)?.tool === tool.tool;
    const picked = cycleUse(calls, group.number, job.partsPerCycle);
    return {
      ...tool,
      // one that waits for its turn takes what its own calls take, or what it will when it comes
      use: next || !direct ? together(picked, direct)! : direct,
      direct,
      lasts: groupParts(group.rules, members, group.inUse),
      group: { number: group.number, next },
    };
  });
}
