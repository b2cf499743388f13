import type { LeafEntry } from '../core/shift/leaf.ts';
import { rows, type Db } from './db.ts';
import { ledgerEntries } from './ledger.ts';

/** What happened in a stretch of time, newest first, and whether there is more of it than that. */
export interface Happened {
  entries: LeafEntry[];
  more: boolean;
}

interface Counted {
  id: number;
  at: Date;
  machine: string;
  program: string;
  parts: number;
  counts: number;
  people: string;
}

/** The parts of each job that were counted in a stretch of time, together, by when each count was typed. */
const countedIn = (db: Db, from: Date, to: Date) =>
  rows<Counted>(
    db,
    `SELECT max(c.id) AS id, max(c.told_at) AS at, m.name AS machine, g.number AS program, sum(c.parts)::integer AS parts,
            count(*)::integer AS counts, string_agg(DISTINCT p.name, ', ' ORDER BY p.name) AS people
     FROM count_standing c JOIN machine m ON m.id = c.machine_id JOIN person p ON p.id = c.person_id
     JOIN job j ON j.id = c.job_id JOIN program g ON g.id = j.program_id
     WHERE c.stage = 'made' AND c.at >= $1 AND c.at < $2::timestamptz + interval '7 days' AND c.told_at >= $1 AND c.told_at < $2
     GROUP BY j.id, m.name, g.number`,
    [from, to],
  );

/** What people did from one instant to another, at most so many entries; what was counted stands there once for each job, at its last count. */
export async function happenedIn(db: Db, from: Date, to: Date, most: number): Promise<Happened> {
  const told = await ledgerEntries(db, { from, to, told: 'shift' }, most + 1);
  const counted = await countedIn(db, from, to);
  return {
    entries: [
      ...told.slice(0, most),
      ...counted.map(({ id, at, machine, program, parts, counts, people }): LeafEntry => ({
        id,
        at,
        kind: 'parts',
        stage: 'made',
        person: people,
        machine,
        said: `${parts} ${parts === 1 ? 'part' : 'parts'} of ${program} made, in ${counts === 1 ? 'one count' : `${counts} counts`}.`,
      })),
    ].sort((a, b) => b.id - a.id),
    more: told.length > most,
  };
}
