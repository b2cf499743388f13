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

/** The parts of each job that were counted in a stretch of time, together; a count that was taken back since is none. */
const countedIn = (db: Db, from: Date, to: Date) =>
  rows<Counted>(
    db,
    `SELECT max(l.id) AS id, max(l.at) AS at, m.name AS machine, g.number AS program, sum((l.detail ->> 'parts')::integer)::integer AS parts,
            count(*)::integer AS counts, string_agg(DISTINCT p.name, ', ' ORDER BY p.name) AS people
     FROM ledger l JOIN machine m ON m.id = l.machine_id JOIN person p ON p.id = l.person_id
     JOIN job j ON j.id = l.job_id JOIN program g ON g.id = j.program_id
     WHERE l.kind = 'parts' AND l.stage = 'made' AND l.at >= $1 AND l.at < $2
       AND NOT EXISTS (SELECT 1 FROM ledger u WHERE u.job_id = l.job_id AND u.kind = 'parts' AND u.stage = 'taken back' AND (u.detail ->> 'of')::bigint = l.id)
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
