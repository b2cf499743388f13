import { commonShift, type CommonShift, type RowNeed } from '../core/correction/common-shift.ts';
import { shiftWords } from '../core/correction/common-shift-words.ts';
import { row, type Db } from './db.ts';
import { stateOf } from './edge-states.ts';
import { evidenceOf } from './evidence.ts';
import { forEach } from './gather.ts';
import { runningJob } from './jobs.ts';
import { machineById, type Machine } from './machines.ts';
import { cutNow } from './members.ts';
import { featuresOf, type Feature } from './programs.ts';

/** A set-up shows itself on its first parts; later its edges have worn, alike maybe. */
const FIRST_PARTS = 3;

/** Whether all rows of a job's new set-up need the same, by its first parts; null where one of them was moved since, and nothing else is told. */
export async function setUpShift(
  db: Db,
  machine: Machine,
  job: { id: number; number: string },
  features: readonly Feature[],
): Promise<CommonShift | null> {
  const young = await row<{ entry: number; parts: number; measured: number[] | null }>(
    db,
    // set up anew, or never measured before it began
    `SELECT b.id AS entry, count(DISTINCT r.part)::integer AS parts, array_agg(DISTINCT r.feature_id) FILTER (WHERE r.id IS NOT NULL) AS measured
     FROM (SELECT o.* FROM job_begun o WHERE o.job_id = $1 AND (set_up_anew(o.machine_id, o.program_id, o.id)
             OR NOT EXISTS (SELECT 1 FROM feature f JOIN reading e ON e.feature_id = f.id
                            WHERE f.machine_id = o.machine_id AND f.program_number = $2 AND e.entry < o.id))
           ORDER BY o.id DESC LIMIT 1) b
     LEFT JOIN reading r ON r.job_id = $1 AND r.entry > b.id AND r.doubt IS NULL
     GROUP BY b.id`,
    [job.id, job.number],
  );
  const measured = features.filter(({ id }) => young?.measured?.includes(id));
  if (!young || young.parts > FIRST_PARTS || measured.length < 2) return null;
  const needs = new Map<string, RowNeed>();
  for (const feature of measured) {
    const evidence = await evidenceOf(db, machine, feature);
    const [move, ...more] = evidence.sizes[0]!.moves;
    // between two boundaries that are both cut here a work offset moves nothing
    if (!move || more.length > 0 || feature.other !== null) continue;
    if (evidence.moved.some(({ register, entry }) => register === move.register && entry > young.entry))
      return null;
    const { row: of, role, value } = evidence.registers[move.register]!;
    const { mean, error, noise } = stateOf(evidence).sizes[0]!;
    const need = {
      tool: feature.tool,
      row: of,
      role,
      need: -(mean + move.by * value) / move.by,
      error: Math.max(error, noise / Math.sqrt(young.parts)) / Math.abs(move.by),
    };
    // what is off of a tool is off in each of its rows: they are one
    const known = needs.get(`${role} ${feature.tool}`);
    if (!known || need.error < known.error) needs.set(`${role} ${feature.tool}`, need);
  }
  return commonShift([...needs.values()]);
}

export interface SetUpOff {
  machineId: number;
  machine: string;
  tools: number[];
  found: string;
  look: string;
}

/** Of these machines those whose running job's set-up is off as a whole, in words. */
export async function setUpsOff(db: Db, machineIds: readonly number[]): Promise<SetUpOff[]> {
  const found = await forEach(db, [...new Set(machineIds)], async (id): Promise<SetUpOff[]> => {
    const [machine, job] = [await machineById(db, id), await runningJob(db, id)];
    if (!machine || !job) return [];
    const features = await cutNow(db, id, await featuresOf(db, id, job.number));
    const shift = await setUpShift(db, machine, job, features);
    return shift
      ? [
          {
            machineId: id,
            machine: machine.name,
            tools: shift.rows.map(({ tool }) => tool),
            ...shiftWords(shift, machine.unit, machine.increment),
          },
        ]
      : [];
  });
  return found.flat();
}
