import {
  checkMeasured,
  TWIN,
  type Expected,
  type MeasuredTool,
  type PresetFault,
} from '../core/presetting/check-measured.ts';
import { stackFacts } from '../core/assembly/stack.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { type Assembly, heldAssembly } from './assemblies.ts';
import { partsOf, stackOf } from './builds.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

export interface Presetting {
  id: number;
  at: Date;
  person: string;
  instrument: string;
  gaugeLength: Length;
  diameter: Length | null;
  cornerRadius: Length | null;
  runOut: Length | null;
  /** Of the assembly as it stands now: since it was last built, indexed or reground. */
  current: boolean;
}

/** Measurements of an assembly, newest first. */
export const presettingsOf = (db: Db, assemblyId: number, limit = 40) =>
  rows<Presetting>(
    db,
    `SELECT s.id, s.at, p.name AS person, s.instrument, s.gauge_length AS "gaugeLength", s.diameter, s.corner_radius AS "cornerRadius",
       s.run_out AS "runOut", s.entry > a.changed_entry AS current
     FROM presetting s JOIN person p ON p.id = s.person_id JOIN assembly a ON a.id = s.assembly_id
     WHERE s.assembly_id = $1 ORDER BY s.id DESC LIMIT $2`,
    [assemblyId, limit],
  );

/** What an assembly should measure: what its pieces give; without pieces, what it measured last. */
export async function expectedOf(db: Db, assembly: Assembly): Promise<Expected> {
  const stack = stackOf(await partsOf(db, assembly.id), assembly.stickOut);
  return {
    number: assembly.number,
    gaugeLength: stack ? stackFacts(stack).gaugeLength : assembly.gaugeLength,
    diameter: assembly.diameter,
  };
}

/** Assemblies that stand nowhere and have these sizes: one of them may be in the fixture instead. */
const looseLike = (db: Db, { gaugeLength, diameter }: MeasuredTool) =>
  rows<Expected>(
    db,
    `SELECT a.number, a.gauge_length AS "gaugeLength", a.diameter FROM assembly a
     WHERE a.gauge_length BETWEEN $1::bigint - $3 AND $1::bigint + $3 AND ($2::bigint IS NULL OR a.diameter BETWEEN $2::bigint - $4 AND $2::bigint + $4)
       AND NOT EXISTS (SELECT 1 FROM placement s WHERE s.assembly_id = a.id) ORDER BY a.id`,
    [gaugeLength, diameter, TWIN.length, TWIN.diameter],
  );

export interface NewPresetting {
  assemblyId: number;
  gaugeLength: Length;
  diameter: Length | null;
  cornerRadius: Length | null;
  runOut: Length | null;
  instrument: string;
  /** The person has looked at what speaks against it and stands behind it. */
  confirmed: boolean;
}

export type PresetAnswer = { kept: true } | { kept: false; faults: PresetFault[] };

/** Records a measurement. What looks like a slip is not recorded until somebody stands behind it. */
export function recordPresetting(asking: Asking, fresh: NewPresetting) {
  return once(asking, 'recordPresetting', fresh, async (db): Promise<PresetAnswer> => {
    const assembly = await heldAssembly(db, fresh.assemblyId);
    if (!assembly) throw new Refused('There is no such assembly.');
    if (assembly.machineId !== null)
      throw new Refused(
        `${assembly.number} stands in ${assembly.machine}: measure it there, or take it out first.`,
      );
    const faults = checkMeasured(fresh, await expectedOf(db, assembly), await looseLike(db, fresh), 'mm');
    if (faults.length > 0 && !fresh.confirmed) return { kept: false, faults };
    await row(
      db,
      `INSERT INTO presetting (assembly_id, gauge_length, diameter, corner_radius, run_out, instrument, person_id)
       VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id`,
      [
        assembly.id,
        fresh.gaugeLength,
        fresh.diameter,
        fresh.cornerRadius,
        fresh.runOut,
        fresh.instrument,
        asking.personId,
      ],
    );
    await db.query(
      'UPDATE assembly SET gauge_length = $2, diameter = coalesce($3, diameter), corner_radius = coalesce($4, corner_radius) WHERE id = $1',
      [assembly.id, fresh.gaugeLength, fresh.diameter, fresh.cornerRadius],
    );
    await append(
      db,
      entry.assembly('preset', {
        personId: asking.personId,
        assemblyId: assembly.id,
        said: `${assembly.number} measured ${formatWithUnit(fresh.gaugeLength, 'mm')}${fresh.diameter ? `, diameter ${formatWithUnit(fresh.diameter, 'mm')}` : ''}.`,
        why: `${fresh.instrument}${faults.length > 0 ? `. Kept against: ${faults.map((fault) => fault.reason).join(' ')}` : ''}`,
      }),
    );
    return { kept: true };
  });
}
