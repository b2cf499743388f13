import { rows, type Db } from './db.ts';

/** The pattern of the retention knob that each assembly carries by its pieces on record; those without one are not there. */
export async function knobsOf(db: Db, assemblyIds: readonly number[]): Promise<ReadonlyMap<number, string>> {
  const found = await rows<{ assemblyId: number; series: string }>(
    db,
    `SELECT p.assembly_id AS "assemblyId", k.series FROM assembly_part p JOIN component k ON k.id = p.component_id
     WHERE p.role = 'knob' AND p.assembly_id = ANY($1)`,
    [assemblyIds],
  );
  return new Map(found.map(({ assemblyId, series }) => [assemblyId, series]));
}
