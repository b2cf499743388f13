import type { Change } from '../core/correction/cut-with.ts';
import { HARMLESS } from '../core/correction/took.ts';
import type { InCycle } from '../core/inspection/cycle-place.ts';
import type { Length } from '../core/units/length.ts';
import { rows } from './db.ts';
import { gathered, keyed } from './gather.ts';

/** Readings of each size that are looked at: further back nothing says much of now. */
export const READINGS = 120;

export interface ReadingRow {
  id: number;
  featureId: number;
  programId: number;
  jobId: number | null;
  part: number;
  measured: Length;
  entry: number;
  recut: boolean;
  firstOff: boolean;
  place: InCycle | null;
}

export interface EntryRow {
  entry: number;
  kind: string;
  stage: string;
  registerId: number | null;
  proposalId: number | null;
  tool: number | null;
  row: number | null;
  registerKind: string | null;
  before: number | null;
  after: number | null;
  cut: Change['cut'];
  jobs: number | null;
}

/** The registers of a machine by their rows and kinds: of several sizes at once, as the other questions below. */
export const heldBy = gathered((db, keys: readonly string[]) =>
  rows<{ of: string; id: number; row: number; kind: string; value: Length }>(
    db,
    `SELECT q.key AS "of", h.* FROM jsonb_to_recordset($1) AS q (key text, machine integer, rows integer[], kinds text[])
     CROSS JOIN LATERAL (
       SELECT g.id, g.row, g.kind, g.value FROM unnest(q.rows, q.kinds) AS w (row, kind)
       JOIN register g ON g.machine_id = q.machine AND g.row = w.row AND g.kind = w.kind OFFSET 0) h`,
    [keyed(keys, ([machine, rows, kinds]) => ({ machine, rows, kinds }))],
  ),
);

/** The last readings of each of some sizes that count. */
export const readingsOf = gathered((db, keys: readonly string[]) =>
  rows<ReadingRow & { of: string }>(
    db,
    `SELECT q.key AS "of", e.* FROM jsonb_to_recordset($1) AS q (key text, sizes integer[]) CROSS JOIN LATERAL (
       SELECT n.id, n.feature_id AS "featureId", n.program_id AS "programId", n.job_id AS "jobId", n.part, n.measured, n.entry, n.recut, n.first_off IS NOT NULL AS "firstOff",
              CASE WHEN coalesce(n.place, n.pallet) IS NOT NULL THEN json_build_object('place', coalesce(n.place, 1), 'parts', coalesce(n.places, 1), 'pallet', n.pallet) END AS place
       FROM unnest(q.sizes) AS f (id) CROSS JOIN LATERAL (
         SELECT * FROM reading r WHERE r.feature_id = f.id AND r.doubt IS NULL ORDER BY r.id DESC LIMIT $2) n
       ORDER BY n.entry, n.id OFFSET 0) e`,
    [keyed(keys, ([sizes]) => ({ sizes })), READINGS],
  ),
);

/**
 * What moved the rows of a machine, and what changed the edges of its tools, after an entry; and since some jobs began, where that is
 * earlier: a part of theirs may have been measured for the first time after a change that it was cut before.
 */
export const entriesOf = gathered((db, keys: readonly string[]) =>
  rows<EntryRow & { of: string }>(
    db,
    `SELECT q.key AS "of", e.* FROM jsonb_to_recordset($1) AS q (key text, machine integer, rows integer[], tools integer[], jobs integer[], first bigint)
     CROSS JOIN LATERAL (SELECT least(q.first, (SELECT min(b.id) FROM job_begun b WHERE b.job_id = ANY (q.jobs))) AS after) since
     CROSS JOIN LATERAL (
       SELECT l.id AS entry, l.kind, l.stage, l.register_id AS "registerId", l.proposal_id AS "proposalId", l.tool, l.row, l.register_kind AS "registerKind",
              l.before_value AS before, l.after_value AS after, cut_known(l.id, l.detail) AS cut, (l.detail ->> 'jobs')::integer AS jobs
       FROM (
         -- each by its own index
         SELECT m.*, o.row, o.kind AS register_kind FROM register o CROSS JOIN LATERAL (
           SELECT * FROM ledger r WHERE r.register_id = o.id AND r.id > since.after OFFSET 0) m
         WHERE o.machine_id = q.machine AND o.row = ANY(q.rows)
         UNION ALL
         SELECT c.*, NULL, NULL FROM ledger c
         WHERE c.machine_id = q.machine AND c.id > since.after AND c.tool = ANY(q.tools) AND (c.kind = 'placement' AND c.stage IN ('in', 'out')
           OR c.kind = 'life' AND c.stage = 'renewed' OR c.kind = 'assembly' AND c.stage IN ('indexed', 'reground'))
           -- its edge was not changed after all
           AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = c.id)
       ) l ORDER BY l.id OFFSET 0) e`,
    [keyed(keys, ([machine, rows, tools, jobs, first]) => ({ machine, rows, tools, jobs, first }))],
  ),
);

/** The last correction of each register that did not do what was asked, and that nobody has looked at since. */
export const locksOf = gathered((db, keys: readonly string[]) =>
  rows<{ of: string; registerId: number; row: number; kind: string; words: string }>(
    db,
    `SELECT q.key AS "of", l.* FROM jsonb_to_recordset($1) AS q (key text, registers integer[])
     CROSS JOIN LATERAL unnest(q.registers) AS o (id) CROSS JOIN LATERAL (
       SELECT g.id AS "registerId", g.row, g.kind, s.took_words AS words
       -- none is proposed on a row that is locked: one that twenty others followed locks nothing any more
       FROM (SELECT id, register_id FROM proposal WHERE register_id = o.id ORDER BY id DESC LIMIT 20) p
         JOIN proposal_state s ON s.id = p.id JOIN register g ON g.id = p.register_id
       WHERE s.state = 'applied' AND s.took IS NOT NULL AND NOT s.took = ANY($2) AND NOT s.read_since
       ORDER BY p.id DESC LIMIT 1) l`,
    [keyed(keys, ([registers]) => ({ registers })), HARMLESS],
  ),
);
