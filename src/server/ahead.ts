import { edgesAhead, type AheadJob, type AheadTool } from '../core/ahead/edges-ahead.ts';
import { stockAhead, type ShelfLine, type Taking } from '../core/ahead/stock-ahead.ts';
import { meanUses } from '../core/life/age-replacement.ts';
import { edgesThatSpeak } from '../core/life/alike-edges.ts';
import { failed } from '../core/life/edge-lives.ts';
import type { GroupMember } from '../core/life/group.ts';
import { fitWeibull, shapeOfSimilar, type Weibull } from '../core/life/weibull.ts';
import { cycleUse, takenByPart } from '../core/life/count.ts';
import { shiftsBetween } from '../core/shift/calendar.ts';
import { perPart } from '../core/shift/job.ts';
import { workUnrecorded } from '../core/shift/likely-made.ts';
import { afterWorking, workedBetween } from '../core/shift/working-time.ts';
import { goneSince, lastThere, machineHours } from '../core/shift/machine-hours.ts';
import { assemblyById } from './assemblies.ts';
import type { Cell } from './cell.ts';
import { rows, type Db } from './db.ts';
import { forEach } from './gather.ts';
import { similarEdges } from './edge-ends.ts';
import { groupsOf, playing } from './groups.ts';
import { openJobs, type Job } from './jobs.ts';
import { likelyOf } from './likely-made.ts';
import { runsOnOf } from './machine-hours.ts';
import { sistersOf } from './now.ts';
import { lifeOf, toolsStanding } from './places.ts';
import { callsOf } from './programs.ts';
import { askedEdges } from './speaking-edges.ts';

const DAY = 86_400_000;
/** How far is looked: a fortnight of calendar. */
export const AHEAD_DAYS = 14;

export interface EdgeComing {
  machineId: number;
  machine: string;
  tool: number;
  assemblyId: number;
  number: string;
  name: string;
  at: Date;
  /** The shift in which it falls, as its leaf is addressed. */
  shift: string;
  /** Nobody is there: since when; null: somebody is. */
  gone: Date | null;
  job: string;
  part: number;
  /** One like it that stands on the rack, whole; null: one is to be built and measured. Each is counted on once. */
  ready: string | null;
}

export interface ToolLacking {
  machineId: number;
  machine: string;
  job: string;
  programId: number;
  starts: Date;
  tools: number[];
}

export interface ShelfComing {
  id: number;
  number: string;
  name: string;
  shelf: string;
  stock: number;
  minimum: number;
  coming: number;
  edges: number;
  taken: number;
  left: number;
  below: Date | null;
  out: Date | null;
}

/** How many edges a tool will really take, where it is known how long they last: planned changes, and those that end before. */
export interface EdgesExpected {
  assemblyId: number;
  number: string;
  name: string;
  planned: number;
  expected: number;
}

interface Standing {
  assemblyId: number;
  number: string;
  name: string;
}

/** The edges that the jobs on the lists will use up in a fortnight, and the tools that waiting jobs lack. */
export async function aheadOf(db: Db, cell: Cell, now: Date) {
  const until = new Date(now.getTime() + AHEAD_DAYS * DAY);
  const shifts = shiftsBetween(new Date(now.getTime() - 7 * DAY), until, cell.patterns, cell.timeZone);
  const [jobs, runsOn] = [await openJobs(db), await runsOnOf(db)];
  const spent: (Omit<EdgeComing, 'ready'> & { after: number })[] = [];
  const lacking: ToolLacking[] = [];
  const known = await forEach(db, [...new Set(jobs.map((job) => job.machineId))], async (machineId) => {
    const own = jobs.filter((job) => job.machineId === machineId);
    return {
      machineId,
      own,
      done: await workDone(db, cell, own[0]!, now),
      stretches: machineHours(shifts, runsOn.get(machineId) ?? 0),
      ...(await machineAhead(db, machineId, own)),
    };
  });
  for (const { machineId, own, done, stretches, asked, tools, standing, calls } of known) {
    const horizon = workedBetween(now, until, stretches);
    for (const each of edgesAhead(asked, tools, horizon + done)) {
      const job = own.find(({ id }) => id === each.job)!;
      const after = Math.max(0, each.after - done);
      const at = afterWorking(now, after, stretches);
      const there = standing.get(each.tool);
      if (!at || !there) continue;
      spent.push({
        ...there,
        machineId,
        machine: job.machine,
        tool: each.tool,
        at,
        after,
        shift: (lastThere(at, shifts) ?? shifts[0])?.key ?? '',
        gone: goneSince(at, shifts),
        job: job.number,
        part: job.made + each.part,
      });
    }
    let begun = -done;
    for (const job of own) {
      const starts = afterWorking(now, Math.max(0, begun), stretches);
      begun += Math.max(0, job.quantity - job.made) * perPart(job);
      const missing = (calls.get(job.programId) ?? []).filter(
        (tool) => !standing.has(tool) && !tools.some((each) => each.tool === tool && each.rules),
      );
      if (!starts || missing.length === 0) continue;
      lacking.push({
        machineId,
        machine: job.machine,
        job: `${job.number} ${job.title}`,
        programId: job.programId,
        starts,
        tools: [...new Set(missing)],
      });
    }
  }
  spent.sort((a, b) => a.at.getTime() - b.at.getTime());
  return {
    edges: await withSisters(db, spent),
    lacking: lacking.sort((a, b) => a.starts.getTime() - b.starts.getTime()),
    until,
  };
}

/** Working time that a machine's first job, where it runs, has gone on since it was last told of. */
const workDone = async (db: Db, cell: Cell, job: Job, now: Date): Promise<number> =>
  workUnrecorded(job, job.state === 'running' ? await likelyOf(db, cell, job, now) : null);

/** The jobs of a machine with what a part takes of each tool, and what stands under each T. */
async function machineAhead(db: Db, machineId: number, own: readonly Job[]) {
  const [tools, groups] = [await toolsStanding(db, machineId), await groupsOf(db, machineId)];
  const standing = new Map<number, Standing>();
  const single: AheadTool[] = [];
  for (const { tool, assembly } of tools) {
    standing.set(tool, { assemblyId: assembly.id, number: assembly.number, name: assembly.name });
    single.push({
      tool,
      rules: null,
      inUse: null,
      members: [
        {
          tool,
          role: 'original',
          life: lifeOf(assembly),
          flag: assembly.flag,
          use: { holes: 0, cutMilliseconds: 0, parts: 1 },
        },
      ],
    });
  }
  const grouped = groups.map((group): AheadTool => ({
    tool: group.number,
    rules: group.rules,
    inUse: group.inUse,
    members: playing(group, { holes: 0, cutMilliseconds: 0, parts: 1 }),
  }));
  const calls = new Map<number, number[]>();
  const asked: AheadJob[] = [];
  const read = await forEach(db, own, (job) => callsOf(db, job.programId));
  for (const [i, job] of own.entries()) {
    const of = read[i]!;
    const called = [...new Set(of.map(({ tool }) => tool))].filter((tool) => tool > 0);
    calls.set(job.programId, called);
    asked.push({
      job: job.id,
      parts: Math.max(0, job.quantity - job.made),
      milliseconds: perPart(job),
      uses: called.map((tool) => {
        const use = cycleUse(of, tool, job.partsPerCycle);
        return {
          tool,
          perPart: ({ life }: GroupMember) =>
            life === null ? 0 : takenByPart(life.basis, use, life.perPart),
        };
      }),
    });
  }
  return {
    asked,
    // a group answers for its number, whatever stands under a T of that number
    tools: [...grouped, ...single.filter(({ tool }) => !groups.some(({ number }) => number === tool))],
    standing,
    calls,
  };
}

/** Sisters on the rack, each counted on for the first edge that it can take over from. */
async function withSisters(db: Db, spent: readonly Omit<EdgeComing, 'ready'>[]): Promise<EdgeComing[]> {
  const sisters = await sistersOf(db, [...new Set(spent.map(({ number }) => number))]);
  const taken = new Set<string>();
  return spent.map(({ machineId, machine, tool, assemblyId, number, name, at, shift, gone, job, part }) => {
    const ready = sisters.find((each) => each.like === number && !taken.has(each.number))?.number ?? null;
    if (ready) taken.add(ready);
    return { machineId, machine, tool, assemblyId, number, name, at, shift, gone, job, part, ready };
  });
}

/** What the edges to come take off the shelves, those that run out first. */
export async function shelvesAhead(
  db: Db,
  spent: readonly { assemblyId: number; at: Date }[],
): Promise<ShelfComing[]> {
  const pieces = await rows<Taking & { assemblyId: number }>(
    db,
    `SELECT p.assembly_id AS "assemblyId", c.id AS component, p.count AS pieces, CASE WHEN p.role IN ('insert', 'second_insert') THEN greatest(1, coalesce(c.edges, 1)) ELSE 1 END AS edges,
            CASE WHEN p.role IN ('insert', 'second_insert') THEN p.edges_used ELSE 0 END AS "edgesUsed"
     FROM assembly_part p JOIN component c ON c.id = p.component_id
     WHERE p.assembly_id = ANY($1) AND (p.role IN ('insert', 'second_insert')
       OR p.role = 'cutter' AND NOT EXISTS (SELECT 1 FROM assembly_part i WHERE i.assembly_id = p.assembly_id AND i.role IN ('insert', 'second_insert')))`,
    [[...new Set(spent.map(({ assemblyId }) => assemblyId))]],
  );
  const lines = await rows<ShelfLine & Pick<ShelfComing, 'number' | 'name' | 'shelf' | 'coming'>>(
    db,
    `SELECT c.id, c.number, c.name, c.shelf, c.stock, c.minimum,
            coalesce((SELECT sum(greatest(o.pieces - o.came, 0))::integer FROM supply_order o WHERE o.component_id = c.id AND o.closed_at IS NULL), 0) AS coming
     FROM component c WHERE c.id = ANY($1)`,
    [[...new Set(pieces.map(({ component }) => component))]],
  );
  const found = stockAhead(
    spent.map(({ assemblyId, at }) => ({
      assembly: assemblyId,
      at: at.getTime(),
      takes: pieces.filter((piece) => piece.assemblyId === assemblyId),
    })),
    lines,
  );
  const when = (at: number | null) => (at === null ? null : new Date(at));
  return found
    .map(({ component, edges, taken, left, below, out }): ShelfComing => {
      const line = lines.find(({ id }) => id === component)!;
      return { ...line, edges, taken, left, below: when(below), out: when(out) };
    })
    .sort(
      (a, b) =>
        (a.out ?? a.below ?? FAR).getTime() - (b.out ?? b.below ?? FAR).getTime() ||
        a.number.localeCompare(b.number),
    );
}
const FAR = new Date(8.64e15);
/** Ends that have to be known before anything is said of how long edges last. */
const ENDS = 3;

/** Edges that a tool will take by how long its edges lasted so far: those that end before their limit come on top of the planned changes. */
export async function expectedOf(db: Db, spent: readonly Standing[]): Promise<EdgesExpected[]> {
  const planned = new Map<number, number>();
  for (const { assemblyId } of spent) planned.set(assemblyId, (planned.get(assemblyId) ?? 0) + 1);
  const lives = new Map<string, Weibull | null>();
  const found = await forEach(db, [...planned], async ([assemblyId, changes]) => {
    const assembly = await assemblyById(db, assemblyId);
    if (!assembly?.basis) return [];
    const [{ present, now }, similar] = [
      await askedEdges(db, assembly, assembly.basis),
      await similarEdges(db, assembly, assembly.basis),
    ];
    // tools of one size that cut the same are of one kind of life
    const key = JSON.stringify([
      assembly.kind,
      assembly.diameter,
      assembly.cornerRadius,
      assembly.basis,
      now,
    ]);
    if (!lives.has(key)) {
      const { edges } = edgesThatSpeak(present, now);
      const enough = edges.filter(failed).length >= ENDS;
      lives.set(key, enough ? fitWeibull(edges, shapeOfSimilar(similar)) : null);
    }
    const life = lives.get(key);
    if (!life) return [];
    return [
      {
        assemblyId,
        number: assembly.number,
        name: assembly.name,
        planned: changes,
        expected: changes * (assembly.fullLife! / meanUses(life, assembly.fullLife!)),
      },
    ];
  });
  return found.flat().filter((each) => Math.ceil(each.expected - 0.25) > each.planned);
}
