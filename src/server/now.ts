import { shiftWords } from '../core/correction/common-shift-words.ts';
import {
  nextReadings,
  SHIFT_END_MINUTES,
  type MeasuredFeature,
  type NextReading,
} from '../core/inspection/next-reading.ts';
import {
  lastWith,
  placeInTurn,
  palletOf,
  placesLeft,
  placesOn,
  type InCycle,
  type MeasuredIn,
} from '../core/inspection/cycle-place.ts';
import { shiftAt } from '../core/shift/calendar.ts';
import type { LikelyMade } from '../core/shift/likely-made.ts';
import { cellNow } from './clock.ts';
import { cellOf, type Cell } from './cell.ts';
import { rows, type Db } from './db.ts';
import { gathered, together } from './gather.ts';
import type { Machine } from './machines.ts';
import { cutUntil } from './cut-until.ts';
import { cutNow } from './members.ts';
import { featuresOf, programById } from './programs.ts';
import { readingsOf } from './readings.ts';
import { cycleOf } from './cycle-places.ts';
import { palletsCut } from './pallet-counts.ts';
import { setUpShift } from './set-up-shift.ts';
import { cutSince, setUpOf } from './set-ups.ts';

/**
 * How each feature of a program stands on a job: when it was last measured, whether its last correction is still unjudged, whether
 * an edge that cuts it was changed since, and whether it was measured since a moment (`since`: from when on the shift's end counts).
 */
interface Measured extends Omit<MeasuredFeature, 'left'> {
  tool: number;
  row: number;
  /** Where it was measured on the job, the newest part last. */
  measuredIn: MeasuredIn[];
}
const measuredOnJob = (
  db: Db,
  machineId: number,
  programNumber: string,
  jobId: number | null,
  since: Date | null,
): Promise<Measured[]> => measuredOnJobs(db, JSON.stringify([machineId, programNumber, jobId, since]));
const measuredOnJobs = gathered((db, keys: readonly string[]) => {
  const each = keys.map((key) => JSON.parse(key) as [number, string, number | null, string | null]);
  return rows<Measured & { of: string }>(
    db,
    // what is to be measured again is not measured; the newest of a feature, and the last part of a job, are each at the end of an index, however many lie before it
    `SELECT coalesce(q.key, '') AS "of", f.id, (SELECT r.part FROM reading r WHERE r.job_id = q.job AND r.feature_id = f.id AND r.doubt IS NULL AND r.entry > coalesce(anew.entry, 0) ORDER BY r.job_id DESC, r.part DESC LIMIT 1) AS "lastPart", f.tool, f.row,
            coalesce((SELECT json_agg(json_build_object('place', n.place, 'pallet', n.pallet) ORDER BY n.part) FROM (SELECT r.place, r.pallet, r.part FROM reading r
              WHERE r.job_id = q.job AND r.feature_id = f.id AND r.doubt IS NULL AND r.entry > coalesce(anew.entry, 0) ORDER BY r.job_id DESC, r.part DESC LIMIT 60) n), '[]') AS "measuredIn",
            -- one that twenty others followed was measured since: each of those came of a reading
            EXISTS (SELECT 1 FROM (SELECT p.id FROM proposal p WHERE p.feature_id = f.id ORDER BY p.feature_id DESC, p.id DESC LIMIT 20) p
                    JOIN proposal_state s ON s.id = p.id WHERE s.state = 'applied' AND s.took IS NULL
                      -- no part of one that does not cut any more tells whether it took
                      AND NOT EXISTS (SELECT 1 FROM proposal o JOIN register g ON g.id = o.register_id
                        JOIN group_member m ON m.machine_id = g.machine_id AND g.row = ANY (m.length_rows || m.radius_rows)
                        JOIN ledger l ON l.machine_id = m.machine_id AND l.kind = 'machine' AND l.stage = 'group'
                          AND (l.detail -> 'took' ->> 'from')::integer = m.tool
                        WHERE o.id = p.id
                          AND l.id > (SELECT c.id FROM ledger c WHERE c.proposal_id = p.id AND c.kind = 'correction' AND c.stage = 'applied'))) AS unjudged,
            f.every_parts AS every, f.also,
            -- the last that came need not be the last that was measured
            coalesce((SELECT bool_or(n.at >= q.since) FROM (SELECT r.at FROM reading r WHERE r.feature_id = f.id AND r.doubt IS NULL ORDER BY r.feature_id DESC, r.id DESC LIMIT 5) n), false) AS lately,
            EXISTS (SELECT 1 FROM ledger l WHERE l.machine_id = f.machine_id AND l.tool = ANY (ARRAY[f.tool, f.other_tool] || cuts.now)
                      AND (l.kind = 'life' AND l.stage = 'renewed' OR l.kind = 'assembly' AND l.stage IN ('indexed', 'reground'))
                      AND l.id > seen.entry AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = l.id))
              -- a sister that took over is another edge too
              OR EXISTS (SELECT 1 FROM ledger l WHERE l.machine_id = f.machine_id AND l.kind = 'machine' AND l.stage = 'group' AND l.id > seen.entry
                           AND (l.detail -> 'took' ->> 'group')::integer = ANY (cuts.groups)) AS renewed
     FROM unnest($1::text[], $2::integer[], $3::text[], $4::integer[], $5::timestamptz[]) AS q (key, machine, program, job, since)
     -- what was measured before the job was set up anew says nothing of it
     LEFT JOIN LATERAL (SELECT l.id AS entry FROM job_begun l WHERE l.job_id = q.job
       AND set_up_anew(l.machine_id, l.program_id, l.id) ORDER BY l.id DESC LIMIT 1) anew ON true
     JOIN feature f ON f.machine_id = q.machine AND f.program_number = q.program
     -- one that was told late is not the newest
     LEFT JOIN LATERAL (SELECT max(n.entry) AS entry FROM (SELECT r.entry FROM reading r WHERE r.feature_id = f.id AND r.doubt IS NULL ORDER BY r.feature_id DESC, r.id DESC LIMIT 5) n) seen ON true
     -- the groups that the program calls and a tool of the size is in, and who of them cuts
     CROSS JOIN LATERAL (
       SELECT coalesce(array_agg(t.in_use), '{}') AS now, coalesce(array_agg(t.id), '{}') AS groups FROM tool_group t
       WHERE t.machine_id = f.machine_id
         AND (t.number IN (f.tool, f.other_tool)
              OR EXISTS (SELECT 1 FROM group_member m WHERE m.group_id = t.id AND m.tool IN (f.tool, f.other_tool)))
         AND EXISTS (SELECT 1 FROM program g JOIN program_call c ON c.program_id = g.id
                     WHERE g.machine_id = f.machine_id AND g.number = f.program_number AND c.tool = t.number)) cuts
     ORDER BY f.id`,
    [keys, ...[0, 1, 2, 3].map((i) => each.map((columns) => columns[i]))],
  );
});

/** What is measured next on a job, or of a program that no job runs, most urgent first. */
export async function nextOnJob(
  db: Db,
  { machineId, number }: { machineId: number; number: string },
  job: { id: number; made: number } | null,
  now: Date,
  known?: Cell,
): Promise<(NextReading & { turn: InCycle | null })[]> {
  const { patterns, timeZone } = known ?? (await cellOf(db));
  const ends = shiftAt(now, patterns, timeZone)?.end ?? null;
  const last = ends && new Date(ends.getTime() - SHIFT_END_MINUTES * 60_000);
  const { measured, cycle, pallets } = await together(db, {
    measured: () => measuredOnJob(db, machineId, number, job?.id ?? null, last),
    cycle: () => cycleOf(db, job?.id ?? null),
    pallets: () => palletsCut(db, job?.id ?? null),
  });
  const pallet = palletOf(pallets, job?.made ?? 0);
  const next = nextReadings(
    measured.map((each) => ({
      ...each,
      left: placesLeft(each.measuredIn, { places: cycle.placesOf(each), pallet }),
    })),
    job?.made ?? 0,
    last !== null && last <= now,
  );
  return next.map((each) => {
    const size = measured.find(({ id }) => id === each.id)!;
    const parts = cycle.placesOf(size);
    const corrected = each.why === 'afterCorrection';
    // whether a correction took is told by the place it was worked out from, on whichever pallet
    const place = placeInTurn(placesOn(size.measuredIn, corrected ? null : pallet), parts, corrected);
    return { ...each, turn: parts > 1 ? { place, parts } : null };
  });
}

/** What is measured on the running job, the most urgent first. */
export async function measuringOn(
  db: Db,
  machine: Machine,
  job: { id: number; programId: number; made: number } | null,
  programId: number | undefined,
  /** Parts of it made by now, by its control as well. */
  made = job?.made ?? 0,
  likely: LikelyMade | null = null,
) {
  const program = programId === undefined ? null : await programById(db, programId);
  if (!program || program.machineId !== machine.id) return null;
  const running = job?.programId === program.id ? job : null;
  const [features, order, setUp] = await Promise.all([
    featuresOf(db, machine.id, program.number),
    nextOnJob(db, program, running && { ...running, made }, cellNow()),
    running ? setUpOf(db, running.id) : null,
  ]);
  const cutting = await cutNow(db, machine.id, features);
  const cycle = await cycleOf(db, running?.id ?? null);
  const pallets = await palletsCut(db, running?.id ?? null);
  const first = setUp?.first ?? null;
  const firsts = first === null ? null : cycle.with(first);
  // what was cut before it was set up says nothing of it
  const part = Math.max(running ? made : 0, (setUp?.cut ?? 0) + 1);
  const until = running && (await cutUntil(db, machine.id, running.id));
  const shift =
    running && (await setUpShift(db, machine, { id: running.id, number: program.number }, cutting));
  return {
    program: { id: program.id, number: program.number, title: program.title },
    job: running && { id: running.id, made: running.made },
    cut: running && until && { id: running.id, cut: Math.max(until.cut, made), likely },
    // a first-off is of the first part that is measured of a set-up, and of those that came off with it
    setUp: setUp && (!firsts || firsts.includes(setUp.last!)) ? { parts: firsts?.map(String) ?? null } : null,
    part: running ? part : null,
    /** On which pallets its parts were cut, and are next. */
    pallets,
    // all its rows need the same
    off: shift && shiftWords(shift, machine.unit, machine.increment),
    features: await Promise.all(
      order.map(async ({ id: featureId, why, ago, every, turn }) => {
        const feature = cutting.find((each) => each.id === featureId)!;
        const size = features.find((each) => each.id === featureId)!;
        const readings = await readingsOf(db, featureId);
        const of = cycle.rowOf(size) ?? turn;
        const cut = await cutSince(db, machine, feature, {
          jobId: running?.id ?? null,
          programId: program.id,
        });
        const proposed = lastWith(part, of, (cut ?? 0) + 1);
        return {
          ...feature,
          why,
          ago,
          every,
          part: proposed,
          /** Of which of the parts that come off together; one of one where it is of each, or nobody can tell. */
          inCycle: of ?? { place: 1, parts: 1 },
          /** The same rows cut it in all places, which are measured in turn: it may be measured on any part. */
          inTurn: turn !== null,
          /** In how many places the same rows cut it. */
          places: cycle.sameRows(size),
          readings,
        };
      }),
    ),
  };
}

/** Assemblies on the rack that may take over from these: the same kind, size, corner and end, whole, and standing nowhere. */
export const sistersOf = async (db: Db, numbers: readonly string[]) =>
  (await Promise.all(numbers.map((number) => sistersLike(db, number)))).flat();
const sistersLike = gathered((db, numbers: readonly string[]) =>
  rows<{ of: string; id: number; number: string; like: string }>(
    db,
    `SELECT DISTINCT ON (a.id) a.number AS "of", b.id, a.number AS like, b.number FROM assembly a JOIN assembly b ON b.kind = a.kind AND b.diameter = a.diameter
       AND b.corner_radius = a.corner_radius AND b.interface = a.interface AND b.id <> a.id AND b.flag IS NULL
       AND NOT EXISTS (SELECT 1 FROM placement s WHERE s.assembly_id = b.id)
     WHERE a.number = ANY($1) ORDER BY a.id, b.number`,
    [numbers],
  ),
);
