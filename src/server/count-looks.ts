import { countDoubt, countDoubtWords } from '../core/shift/count-doubt.ts';
import { countedPace, type Counted } from '../core/shift/counted-pace.ts';
import { asked } from './asked.ts';
import { row, rows, type Db } from './db.ts';
import type { Job } from './jobs.ts';
import { Asked } from './outcome.ts';

/** Counts by which a pace is told: what was changed at the program or the machine shows after some. */
const LATELY = 60;

/** Keeps how long a cycle takes as it was counted lately. */
export async function keepPace(db: Db, job: Job): Promise<void> {
  const counts = await rows<Counted>(
    db,
    `SELECT c.before + c.parts AS parts, c.told_at AS at
     FROM count_standing c WHERE c.job_id = $1 AND c.stage = 'made' ORDER BY c.id DESC LIMIT $2`,
    [job.id, LATELY],
  );
  await db.query('UPDATE job SET pace_milliseconds = $2 WHERE id = $1', [
    job.id,
    countedPace(counts.reverse(), job.partsPerCycle),
  ]);
}

/**
 * Refuses a count of new parts that cannot be, until somebody says that it is right.
 *
 * @param typed what was typed: the parts that are new, or all of them
 */
export async function askAboutCount(
  db: Db,
  job: Job,
  parts: number,
  typed: 'new' | 'all' = 'new',
): Promise<void> {
  const told = await row<{ since: number | null }>(
    db,
    'SELECT (1000 * (extract(epoch FROM tin_now() - at) - $2::integer))::bigint AS since FROM job_told WHERE job_id = $1',
    [job.id, asked()?.typed.ago ?? 0],
  );
  // of a job of which nobody knows since when it runs, only the order says something
  const doubt = countDoubt(job, parts, told?.since ?? Infinity);
  if (!doubt) return;
  const { fresh } = doubt;
  const all = job.made + parts;
  throw new Asked(countDoubtWords(job, parts, doubt), [
    ...(fresh === null || typed === 'all'
      ? []
      : [{ name: 'parts', value: String(fresh), words: `${fresh} more, ${parts} in all` }]),
    {
      name: 'sure',
      value: String(typed === 'all' ? all : parts),
      words: `Yes, ${parts} more, ${all} in all`,
    },
  ]);
}
