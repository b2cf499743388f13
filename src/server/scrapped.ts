import { entry } from '../core/ledger/entry.ts';
import { lockJob, ofJob } from './jobs.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

export interface Scrapped {
  jobId: number;
  /** How many were scrap as the page showed, and how many are. */
  shown: number;
  scrapped: number;
  /** As many more are made in their place. */
  again: boolean;
  why: string;
}

/** Writes down how many of a job's parts are scrap: they were cut, keep their numbers, and may be made again. */
export const scrapParts = (asking: Asking, told: Scrapped) =>
  once(asking, 'scrapParts', told, async (db) => {
    const job = await lockJob(db, told.jobId);
    if (job.state !== 'running' && job.state !== 'paused') throw new Refused('This job is not running.');
    if (job.scrapped !== told.shown)
      throw new Refused(
        `Somebody else changed it meanwhile: ${job.scrapped} of ${job.number} are on record as scrap. Look again.`,
      );
    if (told.scrapped > job.made)
      throw new Refused(
        `${told.scrapped} are more than the ${job.made} that were made: count the bad ones as made first, since they were cut.`,
      );
    if (told.why.trim() === '') throw new Refused('Say what was wrong with them.');
    const more = told.scrapped - job.scrapped;
    if (more === 0) return;
    const again = told.again ? Math.max(more, job.made - job.quantity) : 0;
    await append(
      db,
      entry.parts('scrapped', {
        ...ofJob(job, asking.personId),
        said: `${
          more > 0
            ? `${more} ${more === 1 ? 'part' : 'parts'} of ${job.number} ${more === 1 ? 'is' : 'are'} scrap`
            : `${-more} ${more === -1 ? 'part' : 'parts'} of ${job.number} ${more === -1 ? 'is' : 'are'} no scrap after all`
        }, ${told.scrapped} in all${again === 0 ? '' : `; ${job.quantity + again} are to be made`}.`,
        why: told.why.trim(),
        detail: { before: job.made, parts: 0, scrapped: more, ...(again === 0 ? {} : { again }) },
      }),
    );
  });
