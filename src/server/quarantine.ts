import { cutBefore, nextToInspect } from '../core/breakage/halving.ts';
import { partsIn } from '../core/breakage/suspect-parts.ts';
import {
  quarantineLacks,
  type Fault,
  type HeldBack,
  type InspectedPart,
  type PartOutcome,
} from '../core/breakage/quarantine.ts';
import { entry } from '../core/ledger/entry.ts';
import { setFlag, type Assembly, heldAssembly } from './assemblies.ts';
import { cellOf } from './cell.ts';
import { cellNow } from './clock.ts';
import { row, rows, type Db } from './db.ts';
import { groupsOf, meantBy } from './groups.ts';
import { runningJob } from './jobs.ts';
import { append } from './ledger.ts';
import { likelyOf } from './likely-made.ts';
import { machineById } from './machines.ts';
import { setAside } from './pallets.ts';
import { once, type Asking } from './once.ts';
import { mended, suspectsOf, type Quarantine } from './suspects.ts';
import { Refused } from './outcome.ts';
import { callsOf } from './programs.ts';

const QUARANTINE = `SELECT q.id, q.assembly_id AS "assemblyId", q.verdict, q.machine_id AS "machineId", m.name AS machine, q.tool, q.job_id AS "jobId", q.part,
    q.why, p.name AS "openedBy", q.opened_at AS "openedAt", q.entry, c.name AS "closedBy", q.closed_at AS "closedAt", q.outcome
  FROM quarantine q JOIN person p ON p.id = q.opened_by LEFT JOIN person c ON c.id = q.closed_by LEFT JOIN machine m ON m.id = q.machine_id`;

/** The newest quarantine of an assembly, open or closed. */
export const quarantineOf = (db: Db, assemblyId: number) =>
  row<Quarantine>(db, `${QUARANTINE} WHERE q.assembly_id = $1 ORDER BY q.id DESC LIMIT 1`, [assemblyId]);
const openQuarantine = (db: Db, assemblyId: number) =>
  row<Quarantine>(db, `${QUARANTINE} WHERE q.assembly_id = $1 AND q.closed_at IS NULL`, [assemblyId]);

/** Whether a call of a program means the tool under a T, itself or by its group. */
async function callMeans(
  db: Db,
  machineId: number,
  tool: number,
): Promise<(call: { tool: number }) => boolean> {
  const groups = await groupsOf(db, machineId);
  return (call) => meantBy(groups, call.tool).includes(tool);
}

/** Whether the job that runs on a machine calls a T, itself or by its group, and the part that is in the machine: by its control, where that is heard, or after those on record. */
export async function cuttingNow(db: Db, machineId: number, tool: number) {
  const job = await runningJob(db, machineId);
  if (!job) return null;
  const means = await callMeans(db, machineId, tool);
  if (!(await callsOf(db, job.programId)).some(means)) return null;
  const likely = await likelyOf(db, await cellOf(db), job, cellNow());
  return { job, inMachine: (likely.counting ? likely.from.parts : job.made) + job.partsPerCycle };
}

export interface Found {
  verdict: Fault;
  why: string;
  /** The last part that it cut, with the one in the machine; null: it was not cutting. */
  part: number | null;
}

/** Flags an assembly and holds back what it may have spoilt. On a machine that goes on with the next pallet, the one it stands on is set aside. */
export async function quarantine(db: Db, personId: number, assembly: Assembly, found: Found): Promise<void> {
  const cutting =
    assembly.machineId === null ? null : await cuttingNow(db, assembly.machineId, assembly.tool!);
  const part = cutting ? Math.max(1, found.part ?? cutting.inMachine) : null;
  await setFlag(db, personId, assembly, 'broken', found.why);
  await db.query(
    `INSERT INTO quarantine (assembly_id, verdict, machine_id, tool, job_id, part, why, opened_by) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [
      assembly.id,
      found.verdict,
      assembly.machineId,
      assembly.tool,
      part === null ? null : cutting!.job.id,
      part,
      found.why,
      personId,
    ],
  );
  const opened = (await openQuarantine(db, assembly.id))!;
  const held = partsIn(await suspectsOf(db, opened, null));
  await append(
    db,
    entry.assembly('quarantined', {
      ...aboutIt(assembly, personId),
      said: `${assembly.number} is ${found.verdict === 'broken' ? 'broken' : 'pulling out of its holder'}: ${held === 0 ? 'no part is suspect' : `${held} ${held === 1 ? 'part is' : 'parts are'} held back`}.`,
      why: found.why,
    }),
  );
  if (assembly.machineId === null) return;
  const machine = (await machineById(db, assembly.machineId))!;
  await setAside(
    db,
    personId,
    machine,
    await callMeans(db, machine.id, assembly.tool!),
    `T${assembly.tool} (${assembly.number}) is ${found.verdict === 'broken' ? 'broken' : 'pulling out'}: inspect the part.`,
  );
}

const aboutIt = (assembly: Assembly, personId: number) => ({
  personId,
  assemblyId: assembly.id,
  machineId: assembly.machineId,
  tool: assembly.tool,
});

export const inspectedParts = (db: Db, quarantineId: number) =>
  rows<InspectedPart>(
    db,
    `SELECT i.job_id AS job, i.part, i.outcome, i.found, p.name AS person, i.at FROM quarantine_part i JOIN person p ON p.id = i.person_id
     WHERE i.quarantine_id = $1 ORDER BY i.job_id, i.part`,
    [quarantineId],
  );

/** Parts that one answer may speak of. */
const MOST_AT_ONCE = 2000;

export interface PartsAnswered {
  assemblyId: number;
  job: number;
  from: number;
  to: number;
  outcome: PartOutcome;
  found: string;
  /** Answered before, and answered otherwise now. */
  again: boolean;
  /** It is good, and so are all that were cut before it: a broken tool does not mend itself. */
  allBefore: boolean;
}

/** Writes down what the inspection of held-back parts came to. */
export function answerParts(asking: Asking, given: PartsAnswered) {
  return once(asking, 'answerParts', given, async (db) => {
    const { of, assembly } = await held(db, given.assemblyId);
    if (given.to < given.from) throw new Refused('The last part comes before the first.');
    if (given.to - given.from >= MOST_AT_ONCE)
      throw new Refused(`Up to ${MOST_AT_ONCE} parts are answered at once.`);
    const found = given.found.trim();
    if (given.outcome !== 'good' && found === '') throw new Refused('Say what was found.');
    const inside = (await suspectsOf(db, of, (await mended(db, of)).replaced)).filter(
      ({ job }) => job === given.job,
    );
    const parts = Array.from({ length: given.to - given.from + 1 }, (_, i) => given.from + i);
    const stranger = parts.find((part) => !inside.some(({ from, to }) => from <= part && part <= to));
    if (stranger !== undefined) throw new Refused(`Part ${stranger} is not one of those that are held back.`);
    const already = (await inspectedParts(db, of.id)).filter(
      (each) => each.job === given.job && parts.includes(each.part),
    );
    const other = already.find((each) => each.outcome !== given.outcome || each.found !== found);
    if (other && !given.again)
      throw new Refused(
        `Part ${other.part} was answered already by ${other.person}: ${other.outcome}. Answer it by itself to change that.`,
      );
    await db.query(
      `INSERT INTO quarantine_part (quarantine_id, job_id, part, outcome, found, person_id)
       SELECT $1, $2, part, $4, $5, $6 FROM unnest($3::integer[]) part
       ON CONFLICT (quarantine_id, job_id, part) DO UPDATE SET outcome = $4, found = $5, person_id = $6, at = tin_now()`,
      [of.id, given.job, parts, given.outcome, found, asking.personId],
    );
    const before =
      given.allBefore && given.outcome === 'good' ? await goodBefore(db, of, given, asking.personId) : 0;
    await append(
      db,
      entry.assembly('partsInspected', {
        ...aboutIt(assembly, asking.personId),
        machineId: of.machineId,
        jobId: given.job,
        said: `${given.from === given.to ? `Part ${given.from}` : `Parts ${given.from} to ${given.to}`} after ${assembly.number} broke: ${given.outcome}${before > 0 ? `, and so ${before === 1 ? 'is one' : `are ${before}`} that ${before === 1 ? 'was' : 'were'} cut before` : ''}.`,
        why: found,
      }),
    );
  });
}

/** Answers for all parts that were cut before a good one and are still open; how many there are. One that was found spoilt among them says that this cannot be. */
async function goodBefore(db: Db, of: Quarantine, given: PartsAnswered, personId: number): Promise<number> {
  const { parts } = await standOf(db, of);
  const earlier = cutBefore(parts, given.job, given.from);
  const spoilt = earlier.find(({ outcome }) => outcome !== null && outcome !== 'good');
  if (spoilt)
    throw new Refused(
      `Part ${spoilt.part} was cut before it and was found spoilt: the tool was broken by then. Look at both again.`,
    );
  const open = earlier.filter(({ outcome }) => outcome === null);
  for (const job of new Set(open.map((each) => each.job)))
    await db.query(
      `INSERT INTO quarantine_part (quarantine_id, job_id, part, outcome, found, person_id) SELECT $1, $2, part, 'good', $4, $5 FROM unnest($3::integer[]) part`,
      [
        of.id,
        job,
        open.filter((each) => each.job === job).map(({ part }) => part),
        `cut before part ${given.from}, by a whole tool`,
        personId,
      ],
    );
  return open.length;
}

/** The open quarantine with its assembly held, and the machine that it broke in: who acts at the same time waits. */
async function held(db: Db, assemblyId: number) {
  const broke = await openQuarantine(db, assemblyId);
  const assembly = await heldAssembly(db, assemblyId, [broke?.machineId ?? null]);
  const of = await openQuarantine(db, assemblyId);
  if (!of || !assembly) throw new Refused('This tool is not in quarantine any more.');
  return { of, assembly };
}

/** How far a quarantine has come. */
export async function standOf(db: Db, of: Quarantine) {
  const steps = await mended(db, of);
  const ranges = await suspectsOf(db, of, steps.replaced);
  const answers = await inspectedParts(db, of.id);
  const answered = new Map(answers.map((each) => [`${each.job}/${each.part}`, each.outcome]));
  /** In the order in which they were cut. */
  const parts = ranges.flatMap(({ job, from, to }) =>
    Array.from({ length: to - from + 1 }, (_, i) => ({
      job,
      part: from + i,
      outcome: answered.get(`${job}/${from + i}`) ?? null,
    })),
  );
  const open = parts.filter(({ outcome }) => outcome === null);
  return {
    ranges,
    answers,
    parts,
    open,
    next: nextToInspect(parts),
    ...steps,
    lacks: quarantineLacks({ open: open.length, ...steps }),
  };
}

/** Ends a quarantine: every part was inspected, the tool replaced and measured. The flag goes with it. */
export function clearQuarantine(asking: Asking, given: { assemblyId: number }) {
  return once(asking, 'clearQuarantine', given, async (db) => {
    const { of, assembly } = await held(db, given.assemblyId);
    const { lacks } = await standOf(db, of);
    if (lacks.length > 0) throw new Refused(lacks.join(' '));
    await end(db, asking.personId, assembly, of, 'cleared', 'Parts inspected, tool replaced and measured.');
  });
}

/** It was not broken: a later check found it whole, and whoever says so answers for it. The parts are let go. */
export function withdrawQuarantine(asking: Asking, given: { assemblyId: number; why: string }) {
  return once(asking, 'withdrawQuarantine', given, async (db) => {
    const { of, assembly } = await held(db, given.assemblyId);
    if (given.why.trim() === '') throw new Refused('Say what had looked like a broken tool.');
    const { replaced } = await mended(db, of);
    if (replaced)
      throw new Refused('It was replaced meanwhile: what it was like before nobody can check any more.');
    if (!(await goodSince(db, of)))
      throw new Refused(
        'Check it again first: only a check that finds it whole shows that it was a mistake.',
      );
    await end(db, asking.personId, assembly, of, 'mistaken', given.why.trim());
  });
}

/** A check after it was found says that it is whole. */
export const goodSince = async (db: Db, of: Quarantine) =>
  (await row<{ id: number }>(
    db,
    `SELECT id FROM tool_check WHERE assembly_id = $1 AND entry > $2 AND verdict = 'asExpected' AND method <> 'picture'
       AND NOT EXISTS (SELECT 1 FROM tool_check later WHERE later.assembly_id = $1 AND later.id > tool_check.id AND later.verdict <> 'asExpected') LIMIT 1`,
    [of.assemblyId, of.entry],
  )) !== null;

async function end(
  db: Db,
  personId: number,
  assembly: Assembly,
  of: Quarantine,
  outcome: 'cleared' | 'mistaken',
  why: string,
) {
  await db.query('UPDATE quarantine SET closed_by = $2, closed_at = tin_now(), outcome = $3 WHERE id = $1', [
    of.id,
    personId,
    outcome,
  ]);
  await append(
    db,
    entry.assembly('quarantineEnded', {
      ...aboutIt(assembly, personId),
      said:
        outcome === 'cleared'
          ? `The quarantine of ${assembly.number} was ended.`
          : `${assembly.number} was not broken: its quarantine was withdrawn.`,
      why,
    }),
  );
  if (assembly.flag === 'broken') await setFlag(db, personId, assembly, null, why);
}

/** Every quarantine that is open, for the leaf and the machine's Now. */
export async function heldBack(db: Db, machineId: number | null = null): Promise<HeldBack[]> {
  const all = await rows<Quarantine & { number: string; name: string }>(
    db,
    `SELECT q.*, a.number, a.name FROM (${QUARANTINE}) q JOIN assembly a ON a.id = q."assemblyId"
     WHERE q."closedAt" IS NULL AND ($1::integer IS NULL OR q."machineId" = $1) ORDER BY q.id`,
    [machineId],
  );
  const found: HeldBack[] = [];
  for (const each of all) {
    const { ranges, open, replaced, measured } = await standOf(db, each);
    found.push({
      assemblyId: each.assemblyId,
      number: each.number,
      name: each.name,
      machineId: each.machineId,
      machine: each.machine,
      tool: each.tool,
      verdict: each.verdict,
      parts: partsIn(ranges),
      open: open.length,
      replaced: replaced !== null,
      measured: measured !== null,
    });
  }
  return found;
}
