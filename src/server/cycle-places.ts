import {
  cyclePlaces,
  placeOfPart,
  placeWords,
  sameCycle,
  type InCycle,
} from '../core/inspection/cycle-place.ts';
import { row, type Db } from './db.ts';
import { callsOf, featuresOf, type Feature } from './programs.ts';

/** Which of the parts that come off together each size is of, where rows of their own tell them apart and the parts are counted by whole cycles. */
export async function inCycleOn(
  db: Db,
  jobId: number,
): Promise<(size: Pick<Feature, 'tool' | 'row'>) => InCycle | null> {
  const job = await row<{ programId: number; made: number; parts: number }>(
    db,
    'SELECT j.program_id AS "programId", j.made, g.parts_per_cycle AS parts FROM job j JOIN program g ON g.id = j.program_id WHERE j.id = $1',
    [jobId],
  );
  // after half a cycle nobody knows which part of it the next number is
  if (!job || job.parts < 2 || job.made % job.parts !== 0) return () => null;
  const places = cyclePlaces(await callsOf(db, job.programId), job.parts);
  return ({ tool, row: own }) => {
    const place = places?.(tool, own) ?? null;
    return place === null ? null : { place, parts: job.parts };
  };
}

/** Why a part of a job cannot be the one that a size was measured on: another row cut it. Null: nothing speaks against it. */
export async function placeDoubts(
  db: Db,
  jobId: number | null,
): Promise<(size: Feature, part: number) => Promise<string | null>> {
  if (jobId === null) return () => Promise.resolve(null);
  const inCycle = await inCycleOn(db, jobId);
  return async (size, part) => {
    const own = inCycle(size);
    if (own === null || part < 1) return null;
    const is = placeOfPart(part, own.parts);
    if (is === own.place) return null;
    const alike = (await featuresOf(db, size.machineId, size.programNumber)).find(
      (each) =>
        each.tool === size.tool &&
        each.kind === size.kind &&
        each.nominal === size.nominal &&
        inCycle(each)?.place === is,
    );
    return `Part ${part} is the ${placeWords(is, own.parts)} that come off together, which T${size.tool} cuts with another row${alike ? ` (${alike.row})` : ''}; "${size.name}" is of row ${size.row}, on the ${placeWords(own.place, own.parts)}. Is it part ${sameCycle(part, own)}${alike ? `, or "${alike.name}"` : ''}?`;
  };
}
