import type { MeasuredFeature } from '../core/inspection/next-reading.ts';
import { rows, type Db } from './db.ts';

/** How each feature of a program stands on a job: when it was last measured, and whether its last correction is still unjudged. */
export const measuredOnJob = (db: Db, machineId: number, programNumber: string, jobId: number | null) =>
  rows<MeasuredFeature>(
    db,
    `SELECT f.id, (SELECT max(r.part) FROM reading r WHERE r.feature_id = f.id AND r.job_id = $3) AS "lastPart",
            EXISTS (SELECT 1 FROM proposal p JOIN proposal_state s ON s.id = p.id
                    WHERE p.feature_id = f.id AND s.state = 'applied' AND s.took IS NULL) AS unjudged
     FROM feature f WHERE f.machine_id = $1 AND f.program_number = $2 ORDER BY f.id`,
    [machineId, programNumber, jobId],
  );

/** Assemblies on the rack that may take over from these: the same kind, size, corner and end, whole, and standing nowhere. */
export const sistersOf = (db: Db, numbers: readonly string[]) =>
  rows<{ id: number; number: string; like: string }>(
    db,
    `SELECT DISTINCT ON (a.id) b.id, a.number AS like, b.number FROM assembly a JOIN assembly b ON b.kind = a.kind AND b.diameter = a.diameter
       AND b.corner_radius = a.corner_radius AND b.interface = a.interface AND b.id <> a.id AND b.flag IS NULL
       AND NOT EXISTS (SELECT 1 FROM placement s WHERE s.assembly_id = b.id)
     WHERE a.number = ANY($1) ORDER BY a.id, b.number`,
    [numbers],
  );
