import { byPlace } from '../core/correction/by-place.ts';
import { gaugeOff, sameDigits, shownStep, type OffBy } from '../core/correction/suspect-gauge.ts';
import { toleranceWidth } from '../core/inspection/feature.ts';
import { rows, type Db } from './db.ts';
import { stateOf } from './edge-states.ts';
import { evidenceOf, type Evidence } from './evidence.ts';
import type { Gauge } from './gauges.ts';
import type { Machine } from './machines.ts';
import { cutAs, measuredPart } from './members.ts';
import { featureById, type Feature } from './programs.ts';
import type { ReadingTaken } from './readings.ts';

/** Sizes of one part that are off together, or the same digits once more: it is the gauge that is asked about then, not the edge. */
export async function gaugeDoubt(
  db: Db,
  machine: Machine,
  feature: Feature,
  taken: Pick<ReadingTaken, 'jobId' | 'programId' | 'part'>,
  evidence: Evidence,
  readingId: number,
  gauge: Gauge | null,
): Promise<string | null> {
  const own = evidence.readings.filter(({ size }) => size === 0);
  if (own.at(-1)?.id === readingId) {
    const read = own.map(({ measured }) => measured);
    const step = Math.max(gauge?.resolution ?? 0, shownStep(read, machine.unit));
    const same = sameDigits(read, stateOf(byPlace(evidence)).sizes[0]!.noise, step, machine.unit);
    if (same) return same;
  }
  if (feature.gauge === '') return null;
  const others = await rows<{ featureId: number; readingId: number }>(
    db,
    `SELECT DISTINCT ON (f.id) f.id AS "featureId", r.id AS "readingId" FROM feature f JOIN reading r ON r.feature_id = f.id
     WHERE f.machine_id = $1 AND f.id <> $2 AND lower(f.gauge) = lower($3) AND r.job_id IS NOT DISTINCT FROM $4 AND r.program_id = $5
       AND r.part = $6 AND r.doubt IS NULL AND NOT r.confirmed ORDER BY f.id, r.id DESC`,
    [machine.id, feature.id, feature.gauge, taken.jobId, taken.programId, taken.part],
  );
  const first = innovationOf(evidence, feature, readingId);
  if (!first) return null;
  const registers = new Set(evidence.sizes[0]!.moves.map(({ register }) => evidence.registers[register]!.id));
  const found = [first];
  for (const other of others) {
    const cut = await cutAs(db, (await featureById(db, other.featureId))!, measuredPart(taken));
    if (!cut.ok) continue;
    const its = cut.feature;
    const known = await evidenceOf(db, machine, its);
    const ids = known.sizes[0]!.moves.map(({ register }) => known.registers[register]!.id);
    // two sizes of one row that are off together are off by the row
    if (ids.some((id) => registers.has(id))) continue;
    for (const id of ids) registers.add(id);
    const each = innovationOf(known, its, other.readingId);
    if (each) found.push(each);
  }
  return gaugeOff(found, feature.gauge, machine.unit);
}

/** How far a reading lay off what was expected of it; null where nothing was expected. */
function innovationOf(evidence: Evidence, feature: Feature, readingId: number): OffBy | null {
  const known = evidence.readings.filter(({ held }) => held !== null);
  const place = known.findIndex(({ id }) => id === readingId);
  const innovation = place < 0 ? undefined : stateOf(byPlace(evidence)).innovations[place];
  return innovation && innovation.deviation < 3 * toleranceWidth(feature)
    ? { name: feature.name, ...innovation }
    : null;
}
