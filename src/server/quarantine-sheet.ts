import { laterCuts, whatToInspect } from '../core/breakage/what-to-inspect.ts';
import { cutBefore } from '../core/breakage/halving.ts';
import type { HeldPart, PartRead } from '../core/breakage/quarantine.ts';
import { partsIn } from '../core/breakage/suspect-parts.ts';
import type { Length } from '../core/units/length.ts';
import { assemblyById } from './assemblies.ts';
import { rows, type Db } from './db.ts';
import { groupsOf, meantBy } from './groups.ts';
import { goodSince, quarantineOf, standOf } from './quarantine.ts';
import { lastGoodOf, type Quarantine } from './suspects.ts';
import { checksOfTool } from './tool-checks.ts';
import { callsOf } from './programs.ts';

/** Parts that are listed one by one; the others are answered in a range. */
const LISTED = 40;

/** All that somebody needs who answers for a broken tool. Null: none of this assembly's edges was ever called broken. */
export async function quarantineSheet(db: Db, assemblyId: number) {
  const of = await quarantineOf(db, assemblyId);
  const assembly = await assemblyById(db, assemblyId);
  if (!of || !assembly) return null;
  const stand = await standOf(db, of);
  const lastGood = await lastGoodOf(db, of);
  const jobs = await rows<{
    id: number;
    number: string;
    title: string;
    programId: number;
    made: number;
    partsPerCycle: number;
    quantity: number;
    setUpAt: Date | null;
    machineId: number;
    scrapped: number;
    goesOn: boolean;
  }>(
    db,
    `SELECT j.id, g.number, g.title, j.program_id AS "programId", j.made, g.parts_per_cycle AS "partsPerCycle", j.quantity, j.set_up_at AS "setUpAt", j.machine_id AS "machineId", j.scrapped, j.state IN ('running', 'paused') AS "goesOn" FROM job j JOIN program g ON g.id = j.program_id WHERE j.id = ANY($1) ORDER BY j.id`,
    [[...new Set(stand.ranges.map(({ job }) => job))]],
  );
  const read = await readIn(
    db,
    of,
    jobs.map(({ id }) => id),
  );
  const together = new Map(jobs.map((job) => [job.id, job.partsPerCycle]));
  const answers = new Map(stand.answers.map((each) => [`${each.job}/${each.part}`, each]));
  const found = new Map<string, PartRead[]>();
  for (const each of read) {
    const key = `${each.job}/${each.part}`;
    found.set(key, [...(found.get(key) ?? []), each]);
  }
  // the newest come first: they are the likeliest
  const parts = stand.parts
    .map(({ job, part }): HeldPart => {
      const key = `${job}/${part}`;
      return {
        job,
        part,
        inMachine: of.jobId === job && part > of.part! - (together.get(job) ?? 1),
        answer: answers.get(key) ?? null,
        read: found.get(key) ?? [],
      };
    })
    .reverse();
  const unanswered = parts.filter(({ answer }) => !answer);
  return {
    of,
    assembly,
    lastGood: lastGood && { ...lastGood, at: lastGood.when },
    jobs,
    ranges: stand.ranges,
    held: partsIn(stand.ranges),
    open: stand.open.length,
    /** Jobs that go on and have less scrap on record than was found here: it is not made again. */
    scrap: jobs.flatMap(({ id, number, machineId, scrapped, goesOn }) => {
      const here = stand.answers.filter(({ job, outcome }) => job === id && outcome === 'scrap').length;
      return goesOn && here > scrapped ? [{ id, number, machineId, scrapped, here }] : [];
    }),
    listed: [...unanswered.slice(0, LISTED), ...parts.filter(({ answer }) => answer).slice(0, LISTED)],
    replaced: stand.replaced,
    measured: stand.measured,
    lacks: stand.lacks,
    next: stand.next && {
      ...stand.next.part,
      looks: stand.next.looks,
      clears: cutBefore(stand.parts, stand.next.part.job, stand.next.part.part).filter(
        ({ outcome }) => outcome === null,
      ).length,
    },
    mayWithdraw: of.closedAt === null && !stand.replaced && (await goodSince(db, of)),
    inspect: whatToInspect(assembly.kind, of.verdict),
    later: await laterOn(db, of, assembly, jobs),
    callers: await callersOf(db, of),
    checks: await checksOfTool(db, assemblyId),
  };
}

/** What was measured on the parts of these jobs, and whether the tool cut it. */
const readIn = (db: Db, of: Quarantine, jobs: readonly number[]) =>
  rows<PartRead>(
    db,
    `SELECT j.id AS job, r.part, f.name AS feature, r.measured, f.nominal + f.upper AS upper, f.nominal + f.lower AS lower, f.nominal, m.unit,
            f.tool = $2 AS own
     FROM reading r JOIN job j ON j.id = r.job_id JOIN feature f ON f.id = r.feature_id JOIN machine m ON m.id = f.machine_id
     WHERE j.id = ANY($1) AND r.doubt IS NULL ORDER BY r.id`,
    [jobs, of.tool ?? -1],
  );

/** What the tools did that came after it, program by program. */
async function laterOn(
  db: Db,
  of: Quarantine,
  assembly: { kind: Parameters<typeof whatToInspect>[0]; diameter: Length },
  jobs: readonly { programId: number; number: string }[],
) {
  if (of.machineId === null || of.tool === null) return [];
  const groups = await groupsOf(db, of.machineId);
  const standing = await rows<{ tool: number; kind: typeof assembly.kind; diameter: Length }>(
    db,
    'SELECT s.tool, a.kind, a.diameter FROM placement s JOIN assembly a ON a.id = s.assembly_id WHERE s.machine_id = $1',
    [of.machineId],
  );
  const found = [];
  for (const { programId, number } of new Map(jobs.map((job) => [job.programId, job])).values()) {
    const calls = await callsOf(db, programId);
    const own = calls.filter((call) => meantBy(groups, call.tool).includes(of.tool!));
    const first = own[0];
    if (!first) continue;
    const after = new Map<number, number>();
    for (const call of calls.filter(({ order }) => order > first.order))
      for (const tool of meantBy(groups, call.tool))
        if (tool !== of.tool) after.set(tool, (after.get(tool) ?? 0) + call.holes);
    const faulty = { tool: of.tool, kind: assembly.kind, diameter: assembly.diameter };
    const holes = own.reduce((sum, call) => sum + call.holes, 0);
    const cuts = laterCuts(
      faulty,
      of.verdict,
      holes,
      [...after].flatMap(([tool, made]) => {
        const there = standing.find((each) => each.tool === tool);
        return there ? [{ ...there, holes: made }] : [];
      }),
    );
    found.push({ program: number, cuts: cuts.sort((a, b) => Number(b.hurt) - Number(a.hurt)) });
  }
  return found;
}

/** Who calls the tool: programs, jobs and pallets of its machine, and plans of others that count on it. */
async function callersOf(db: Db, of: Quarantine) {
  const programs = await rows<{
    id: number;
    number: string;
    title: string;
    machine: string;
    waiting: number;
    running: boolean;
    pallets: number[];
  }>(
    db,
    `SELECT g.id, g.number, g.title, m.name AS machine,
            (SELECT count(*)::integer FROM job j WHERE j.program_id = g.id AND j.state IN ('waiting', 'paused')) AS waiting,
            EXISTS (SELECT 1 FROM job j WHERE j.program_id = g.id AND j.state = 'running') AS running,
            ARRAY(SELECT p.number FROM pallet p WHERE p.program_id = g.id AND p.isolated IS NULL ORDER BY p.ord) AS pallets
     FROM program g JOIN machine m ON m.id = g.machine_id JOIN placement s ON s.assembly_id = $1 AND s.machine_id = g.machine_id
     WHERE NOT EXISTS (SELECT 1 FROM program n WHERE n.machine_id = g.machine_id AND n.number = g.number AND n.revision > g.revision)
       AND EXISTS (SELECT 1 FROM program_call c WHERE c.program_id = g.id AND ((c.tool = s.tool AND NOT EXISTS (SELECT 1 FROM tool_group t WHERE t.machine_id = g.machine_id AND t.number = c.tool))
             OR c.tool IN (SELECT t.number FROM tool_group t JOIN group_member b ON b.group_id = t.id WHERE t.machine_id = g.machine_id AND b.tool = s.tool)))
     ORDER BY m.name, g.number`,
    [of.assemblyId],
  );
  const plans = await rows<{ machineId: number; machine: string }>(
    db,
    `SELECT m.id AS "machineId", m.name AS machine FROM load_plan l JOIN machine m ON m.id = l.machine_id
     WHERE l.closed_at IS NULL AND EXISTS (SELECT 1 FROM jsonb_array_elements(l.wanted -> 'tools') w WHERE (w ->> 'assemblyId')::integer = $1)`,
    [of.assemblyId],
  );
  return { programs, plans };
}
