import { leftAlone, type Judgement } from '../core/correction/judge-question.ts';
import { partsLeft } from '../core/life/count.ts';
import { countedTools } from './counts.ts';
import { row, rows, type Db } from './db.ts';
import { runningJob, type Job } from './jobs.ts';
import { surelyCut } from './likely-made.ts';

/** An edge with no more parts than this is renewed rather than corrected (common practice, no source). */
const FEW = 3;

/**
 * Tools of a machine whose edge is at its end, each with what is to be done about it: it is renewed, not corrected. A correction would be zeroed before anybody could see that it took, and what a broken or
 * half renewed tool cut says nothing of the edge to come.
 */
async function edgesAtEnd(
  db: Db,
  machineId: number,
  tools: readonly number[],
): Promise<{ tool: number; gone: boolean; why: string }[]> {
  const standing = await rows<{ tool: number; number: string; flag: string | null; half: boolean }>(
    db,
    `SELECT s.tool, a.number, a.flag, EXISTS (
       SELECT 1 FROM renewal r JOIN renewal_step t ON t.renewal_id = r.id AND t.step = 'changed'
       WHERE r.assembly_id = a.id AND r.finished_at IS NULL) AS half
     FROM placement s JOIN assembly a ON a.id = s.assembly_id WHERE s.machine_id = $1 AND s.tool = ANY($2) ORDER BY s.tool`,
    [machineId, tools],
  );
  const job = await runningJob(db, machineId);
  const counted = job ? await countedTools(db, job) : [];
  // what was measured, or the control has counted, was cut with it, whoever has recorded it
  const unrecorded = job ? (await surelyCut(db, machineId, job)) - job.made : 0;
  return standing.flatMap(({ tool, number, flag, half }) => {
    const life = counted.find((each) => each.tool === tool);
    const lasts = life ? partsLeft(life.remaining, life.basis, life.use, life.perPart) : Infinity;
    const left = Math.max(0, lasts - unrecorded);
    const why = half
      ? 'is half renewed: finish that, which zeroes its wear, and measure a part that was cut after it.'
      : flag === 'broken'
        ? 'is flagged broken: replace it. What it cut says nothing of the edge to come.'
        : flag === 'expired' || left <= 0
          ? 'is at the end of its edge: renew it, do not correct it.'
          : left <= FEW
            ? `has ${left === 1 ? 'one part' : `${left} parts`} left${life?.group ? ', and then the next of its group cuts' : ': renew it now, do not correct it'}. A correction would be gone before anybody could see that it took.`
            : null;
    return why ? [{ tool, gone: half || flag === 'broken', why: `T${tool} (${number}) ${why}` }] : [];
  });
}

/**
 * An answer that would correct an edge at its end leaves it alone.
 *
 * @param cutBy the tools that cut the size: with an edge that is gone, whichever end it cut, nothing is known of it
 */
export async function unlessAtEnd(
  db: Db,
  machineId: number,
  answer: Judgement,
  cutBy: readonly number[],
): Promise<Judgement> {
  if (answer.verdict !== 'change') return answer;
  const own = answer.rows.map(({ tool }) => tool);
  const ends = await edgesAtEnd(db, machineId, [...new Set([...own, ...cutBy])]);
  const first = ends.find(({ tool, gone }) => gone || own.includes(tool));
  return first ? leftAlone(answer, first.why) : answer;
}

/** Corrections of a machine, each with why it is not keyed any more: its edge, or that of one that belongs together with it, came to its end after it was approved. */
export async function withEnds<C extends { tool: number; tools: number[]; joint: boolean; state: string }>(
  db: Db,
  machineId: number,
  corrections: readonly C[],
): Promise<(C & { ending: string | null })[]> {
  const tools = corrections.filter(({ state }) => state === 'approved').flatMap((each) => each.tools);
  const ends = tools.length === 0 ? [] : await edgesAtEnd(db, machineId, [...new Set(tools)]);
  return corrections.map((each) => ({
    ...each,
    ending:
      (each.state === 'approved' &&
        ends.find(
          ({ tool, gone }) => tool === each.tool || ((gone || each.joint) && each.tools.includes(tool)),
        )?.why) ||
      null,
  }));
}

/** The last part of the running job that the tool of a size has, whether that is cut, and how many come from the last that was measured of it; null: nobody counts it. */
export async function endOfEdge(
  db: Db,
  job: Job,
  { tool, machineId }: { tool: number; machineId: number },
): Promise<{ part: number; left: number; over: boolean } | null> {
  const counted = (await countedTools(db, job)).find((each) => each.tool === tool);
  if (!counted) return null;
  const lasts = partsLeft(counted.remaining, counted.basis, counted.use, counted.perPart);
  if (!Number.isFinite(lasts)) return null;
  const measured = await row<{ part: number | null }>(
    db,
    `SELECT max(r.part) AS part FROM reading r JOIN feature f ON f.id = r.feature_id
     WHERE r.job_id = $1 AND r.doubt IS NULL AND f.machine_id = $2 AND f.tool = $3`,
    [job.id, machineId, tool],
  );
  const part = job.made + lasts;
  const over = counted.flag !== null || part <= (await surelyCut(db, machineId, job));
  return { part, over, left: over ? 0 : Math.max(0, part - (measured?.part ?? job.made)) };
}
