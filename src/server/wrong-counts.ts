import { entry } from '../core/ledger/entry.ts';
import { isExpired } from '../core/life/count.ts';
import type { Flag } from '../core/life/flag.ts';
import { assemblyById, setFlag } from './assemblies.ts';
import { cellNow } from './clock.ts';
import { keepPace } from './count-looks.ts';
import { inGroup, keepCount } from './counts.ts';
import { row, rows, type Db } from './db.ts';
import { lockJob, ofJob } from './jobs.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { takeBackFromPallets } from './pallet-counts.ts';

export interface LastCount {
  /** The entry that counted. */
  id: number;
  /** Its place in the order of the entries: of one that put another right, that one's. */
  place: number;
  stage: 'made' | 'broken off';
  parts: number;
  person: string;
  at: Date;
}

/** The last count of a job that was not taken back; null when there is none. */
export const lastCount = (db: Db, jobId: number) =>
  row<LastCount>(
    db,
    `SELECT c.id, c.place, c.stage, c.parts, p.name AS person, c.told_at AS at FROM count_standing c JOIN person p ON p.id = c.person_id
     WHERE c.job_id = $1 ORDER BY c.id DESC LIMIT 1`,
    [jobId],
  );

export interface WrongCount {
  jobId: number;
  /** The entry that counted. */
  count: number;
  /** Parts that the page showed. */
  before: number;
  why: string;
  /** How many parts there were when it was told; none: it is taken back, and they are counted anew. */
  really?: number;
}

/**
 * Takes the last count of a job back by a counter-entry, when it was wrong. What it took of the tools' life is given back, but for a
 * tool that was renewed since, or is counted another way: those parts were not cut with its new edge; and for one whose counter was read off
 * the control since, which knows what it cut. A tool that had run out by it alone
 * has life again. With what it really was, that stands in its place: what was keyed or changed since came after those parts.
 */
export function takeBackCount(asking: Asking, wrong: WrongCount) {
  return once(asking, 'takeBackCount', wrong, async (db) => {
    const job = await lockJob(db, wrong.jobId);
    const count = await lastCount(db, job.id);
    if (count?.id !== wrong.count)
      throw new Refused('Another count came after this one, or it was taken back already. Look again.');
    const { really = 0 } = wrong;
    if (really > 0 && count.stage === 'broken off')
      throw new Refused('A cycle that was broken off made no part. Take it back, and count the parts.');
    if (really > 0 && really === count.parts) throw new Refused(`It was counted as ${really}.`);
    const left = job.made - count.parts + really;
    if (left < job.scrapped)
      throw new Refused(
        `${job.scrapped} of ${job.number} are on record as scrap, and ${left} would be made: say first how many are scrap.`,
      );
    await append(
      db,
      entry.parts('taken back', {
        ...ofJob(job, asking.personId),
        said:
          count.parts === 0
            ? `A cycle of ${job.number} was not broken off after all.`
            : `A count of ${count.parts} ${count.parts === 1 ? 'part' : 'parts'} of ${job.number} was taken back; ${wrong.before - count.parts} in all.`,
        why: wrong.why,
        detail: { before: wrong.before, parts: -count.parts, of: count.id },
      }),
    );
    // the groups' tools too are those that they were; a group that was taken apart since is none
    const turned = await rows<{ id: number; number: number; from: number | null; to: number | null }>(
      db,
      `UPDATE tool_group g SET in_use = (u ->> 'tool')::integer
       FROM ledger l, jsonb_array_elements(l.detail -> 'inUse') u, tool_group o
       WHERE l.id = $1 AND g.id = (u ->> 'id')::integer AND o.id = g.id AND g.in_use IS DISTINCT FROM (u ->> 'tool')::integer
         -- who cut for another job since is in use, whatever this one was
         AND NOT EXISTS (SELECT 1 FROM count_standing c JOIN ledger n ON n.id = c.id
                         WHERE c.machine_id = l.machine_id AND c.id > l.id AND n.detail -> 'inUse' @> jsonb_build_array(jsonb_build_object('id', g.id)))
       RETURNING g.id, g.number, o.in_use AS "from", g.in_use AS "to"`,
      [count.id],
    );
    for (const { from, to, ...group } of turned)
      if (from !== null && to !== null)
        await append(
          db,
          entry.machine('group', {
            ...inGroup(asking.personId, job, group, from, to, wrong.before - count.parts),
            said: `T${to} is taken to cut again in group ${group.number}: the count by which T${from} took over was wrong.`,
          }),
        );
    for (const tool of await usedByCount(db, job.id, count.id)) {
      if (tool.renewed) continue;
      await append(
        db,
        entry.life('given back', {
          personId: asking.personId,
          machineId: job.machineId,
          assemblyId: tool.assemblyId,
          tool: tool.tool,
          programId: job.programId,
          jobId: job.id,
          counterId: tool.counterId,
          before: tool.remaining,
          after: tool.remaining + tool.used,
          said: `T${tool.tool} (${tool.number}) got back what the wrong count had taken.`,
        }),
      );
      if (tool.flag === 'expired' && !isExpired(tool.remaining + tool.used))
        await setFlag(
          db,
          asking.personId,
          (await assemblyById(db, tool.assemblyId))!,
          null,
          'The count by which it had run out was wrong.',
        );
    }
    const pallet = await takeBackFromPallets(db, job, count.parts, count.id);
    if (really === 0) return void (await keepPace(db, job));
    const right = {
      jobId: job.id,
      before: wrong.before - count.parts,
      parts: really,
      source: wrong.why,
      ...(pallet === null ? {} : { withPallet: pallet }),
    };
    const ago = Math.max(0, Math.round((cellNow().getTime() - count.at.getTime()) / 1000));
    await keepCount(db, asking.personId, await lockJob(db, job.id), right, {
      instead: count.id,
      place: count.place,
      ago,
    });
  });
}

/** What a count took of each tool's life, and whether the tool was renewed since. */
const usedByCount = (db: Db, jobId: number, count: number) =>
  rows<{
    counterId: number;
    assemblyId: number;
    number: string;
    tool: number | null;
    used: number;
    remaining: number;
    flag: Flag | null;
    renewed: boolean;
  }>(
    db,
    `SELECT c.id AS "counterId", a.id AS "assemblyId", a.number, l.tool, (-l.change_value)::bigint AS used, c.value AS remaining, a.flag,
            EXISTS (SELECT 1 FROM ledger r WHERE r.kind = 'life' AND (r.stage IN ('renewed', 'read off') OR r.detail ? 'basis') AND r.counter_id = c.id AND r.id > l.id AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = r.id)
                      -- its life was set by what was counted of an edge that was there already
                      AND NOT (r.detail ? 'cutSince' AND s.entry < l.id))
              OR coalesce(s.entry > l.id, false) AS renewed
     FROM ledger l JOIN life_counter c ON c.id = l.counter_id JOIN assembly a ON a.id = c.assembly_id
     LEFT JOIN LATERAL (SELECT max(t.entry) AS entry FROM renewal n JOIN renewal_step t ON t.renewal_id = n.id AND t.step = 'changed' WHERE n.assembly_id = a.id AND NOT n.dropped) s ON true
     WHERE l.kind = 'life' AND l.stage = 'used' AND l.job_id = $1 AND l.id > $2
       AND l.id < coalesce((SELECT min(n.id) FROM ledger n WHERE n.kind = 'parts' AND n.job_id = $1 AND n.id > $2 AND n.stage IN ('made', 'broken off')), 9223372036854775807)
     ORDER BY c.id`,
    [jobId, count],
  );
