import { repeatStudy, STUDY_READINGS, type RepeatStudy } from '../core/inspection/gauge.ts';
import { entry } from '../core/ledger/entry.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../core/units/length.ts';
import { parseLength } from '../core/units/parse-length.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

export interface Gauge {
  id: number;
  name: string;
  resolution: Length;
  /** Expanded, k = 2; null where nobody has said it. */
  uncertainty: Length | null;
  due: string | null;
  zeroAt: Date | null;
  zeroBy: string | null;
}

const GAUGE = `SELECT g.id, g.name, g.resolution, g.uncertainty, g.due::text AS due, g.zero_at AS "zeroAt", p.name AS "zeroBy"
  FROM gauge g LEFT JOIN person p ON p.id = g.zero_by`;

export const gauges = (db: Db) => rows<Gauge>(db, `${GAUGE} ORDER BY lower(g.name)`);
/** The gauge of a measuring plan's words; null where it is not on the list. */
export const gaugeNamed = (db: Db, name: string) =>
  row<Gauge>(db, `${GAUGE} WHERE lower(g.name) = lower($1)`, [name]);

/** Names that measuring plans use, and how many sizes each measures. */
export const gaugesUsed = (db: Db) =>
  rows<{ name: string; sizes: number }>(
    db,
    `SELECT f.gauge AS name, count(*)::integer AS sizes FROM feature f WHERE f.gauge <> '' GROUP BY f.gauge ORDER BY f.gauge`,
  );

export interface WrittenGauge {
  name: string;
  resolution: Length;
  uncertainty: Length | null;
  due: string | null;
}

/** Puts a gauge on the list, or changes the one of this name. */
export const writeGauge = (asking: Asking, written: WrittenGauge, unit: LengthUnit) =>
  once(asking, 'writeGauge', written, async (db) => {
    if (written.resolution <= 0) throw new Refused('The step it shows must be more than nothing.');
    if (written.uncertainty !== null && written.uncertainty < written.resolution / 4)
      throw new Refused('No gauge is four times as sure as the step it shows. Check the uncertainty.');
    await db.query(`SELECT pg_advisory_xact_lock(hashtext('gauges'))`);
    await askBeforeTakingOver(db, asking, ['cell', 'changed', {}]);
    const known = await gaugeNamed(db, written.name);
    if (known)
      await db.query('UPDATE gauge SET resolution = $2, uncertainty = $3, due = $4 WHERE id = $1', [
        known.id,
        written.resolution,
        written.uncertainty,
        written.due,
      ]);
    else
      await db.query('INSERT INTO gauge (name, resolution, uncertainty, due) VALUES ($1, $2, $3, $4)', [
        written.name,
        written.resolution,
        written.uncertainty,
        written.due,
      ]);
    await append(
      db,
      entry.cell('changed', {
        personId: asking.personId,
        said: `${known ? 'Changed' : 'On the list'}: ${written.name}, shows ${formatWithUnit(written.resolution, unit)}${written.uncertainty === null ? '' : `, sure to ${formatWithUnit(written.uncertainty, unit)}`}${written.due ? `, calibrated until ${written.due}` : ''}.`,
      }),
    );
  });

/** Somebody looked whether it shows zero, or its master, as it should. */
export const checkZero = (asking: Asking, gaugeId: number) =>
  once(asking, 'checkZero', { gaugeId }, async (db) => {
    const found = await row<{ name: string }>(
      db,
      'UPDATE gauge SET zero_at = tin_now(), zero_by = $2 WHERE id = $1 RETURNING name',
      [gaugeId, asking.personId],
    );
    if (!found) throw new Refused('That gauge is no longer on the list.');
    await append(
      db,
      entry.cell('changed', { personId: asking.personId, said: `${found.name}: its zero was checked.` }),
    );
  });

/** Readings of one and the same size, typed one after the other, and what they say of the gauge. */
export function studyOf(text: string, resolution: Length, unit: LengthUnit): RepeatStudy {
  const parsed = text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((each) => ({ each, read: parseLength(each, unit) }));
  const wrong = parsed.find(({ read }) => !read.ok);
  if (wrong) throw new Refused(`"${wrong.each}" is not a reading.`);
  const study = repeatStudy(
    parsed.map(({ read }) => (read.ok ? read.value : nanometres(0))),
    resolution,
  );
  if (!study)
    throw new Refused(`A study takes ${STUDY_READINGS} readings of one size; there are ${parsed.length}.`);
  return study;
}
