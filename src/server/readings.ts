import { notAsBefore } from '../core/correction/one-part.ts';
import { leftAlone, type Judgement, type RowChange } from '../core/correction/judge-question.ts';
import { judge } from '../core/correction/judge.ts';
import { registerDecimals } from '../core/units/register-decimals.ts';
import type { TookAnswer } from '../core/correction/took.ts';
import { palletOf, type InCycle } from '../core/inspection/cycle-place.ts';
import { movesOf, standing, toleranceWidth } from '../core/inspection/feature.ts';
import {
  atReference,
  conformity,
  gaugeFault,
  type Conformity,
  type Material,
} from '../core/inspection/gauge.ts';
import { several } from '../core/inspection/several.ts';
import { localDate } from '../core/shift/calendar.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { formatLength, formatWithUnit } from '../core/units/format-length.ts';
import { nanometres, type Length } from '../core/units/length.ts';
import { cellNow } from './clock.ts';
import { placeThen, typedAt } from './told-then.ts';
import { row, rows, type Db } from './db.ts';
import { unlessBroughtIn } from './brought-in.ts';
import { cellOf } from './cell.ts';
import { changesOf, openOn, waitsToBeKeyed } from './approved-corrections.ts';
import { unlessAtEnd } from './edge-at-end.ts';
import { gaugeDoubt } from './gauge-doubts.ts';
import { gaugeNamed } from './gauges.ts';
import { evidenceOf, type Evidence } from './evidence.ts';
import { insertRecord } from './insert.ts';
import { judgeCorrections, unlessDoubted } from './judged-corrections.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { lockMachine, machineById, type Machine } from './machines.ts';
import { cutAs, measuredPart } from './members.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { featureById, type Feature } from './programs.ts';
import { cycleOf, placeDoubts } from './cycle-places.ts';
import { palletsCut } from './pallet-counts.ts';
import { partDoubts } from './wrong-readings.ts';

export interface ReadingTaken {
  featureId: number;
  programId: number;
  jobId: number | null;
  part: number;
  measured: Length;
  confirmed: boolean;
  /** Somebody looked again, and it is this part. */
  partSure?: boolean;
  firstOff: boolean;
  /** The part was put back and cut again before it was measured. */
  recut?: boolean;
  /** Several readings of the one size, as they were typed: `measured` is their mean. */
  several?: Length[] | null;
  /** It was measured away from 20 °C: `measured` is what the gauge showed. */
  warm?: { celsius: number; part: Material; gauge: Material } | null;
  /** In which of the places that are cut with the same rows: as the part's number has it, unless somebody says another; null: nobody knows. */
  place?: number | null | undefined;
  /** On which pallet: as the parts were counted, unless somebody says another; null: nobody knows. */
  pallet?: number | null | undefined;
  /** When it was measured, where whoever measured it says so; else when it was typed. */
  measuredAt?: Date | null;
}

export interface ReadingAnswer {
  /** Null when it is to be measured again: what was typed is kept, but counts for nothing. */
  readingId: number | null;
  /** The corrections that wait for somebody, one a row. */
  proposalIds: number[];
  answer: Judgement;
  /** Whether the last correction of the size's rows took; null when there was none to judge. */
  took: TookAnswer | null;
  /** What the reading says of the part's limits, as sure as its gauge is; null where nobody has said how sure that is. */
  conformity: Conformity | null;
}

/**
 * Takes a reading: records it, judges whether the last corrections took, and answers with what to do. One at a time on a machine:
 * what two people type at once is answered one after the other, the second knowing of the first.
 */
export function takeReading(asking: Asking, asTyped: ReadingTaken) {
  return once(asking, 'takeReading', asTyped, (db) => takeOne(db, asking.personId, asTyped));
}

export async function takeOne(db: Db, personId: number, asTyped: ReadingTaken): Promise<ReadingAnswer> {
  const planned = await featureById(db, asTyped.featureId);
  if (planned) await lockMachine(db, planned.machineId);
  const machine = planned && (await machineById(db, planned.machineId));
  if (!planned || !machine) throw new Refused('That feature no longer exists.');
  const cycle = await cycleOf(db, asTyped.jobId);
  if (asTyped.place && asTyped.place > cycle.parts)
    throw new Refused(
      cycle.parts === 1
        ? 'One part comes off at a time here: no place of it is told.'
        : `${cycle.parts} parts come off together here: there is no place ${asTyped.place}.`,
    );
  if (asTyped.pallet && (await palletsCut(db, asTyped.jobId)).length === 0)
    throw new Refused(
      `No part of this job was cut on a pallet: put pallet ${asTyped.pallet} in the queue first.`,
    );
  const taken = { ...atTwenty(asTyped), cutIn: cycle.told(planned, asTyped.part, asTyped.place) };
  const cut = await cutAs(db, planned, measuredPart(taken));
  const feature = cut.ok ? cut.feature : planned;
  const strange =
    taken.confirmed || taken.partSure
      ? null
      : ((await partDoubts(db, taken.jobId))(taken.part) ??
        (await placeDoubts(db, cycle)(planned, taken.part)));
  if (strange !== null) {
    await insertReading(db, personId, taken, strange, feature, machine);
    const answer: Judgement = {
      verdict: 'measureAgain',
      about: 'part',
      reason: strange,
      arithmetic: [],
      partOut: false,
    };
    return { readingId: null, proposalIds: [], answer, took: null, conformity: null };
  }
  const apart =
    taken.several && !taken.confirmed
      ? several(taken.several, toleranceWidth(feature), machine.unit).doubt
      : null;
  if (apart !== null) {
    await insertReading(db, personId, taken, apart, feature, machine);
    const answer: Judgement = { verdict: 'measureAgain', reason: apart, arithmetic: [], partOut: false };
    return { readingId: null, proposalIds: [], answer, took: null, conformity: null };
  }
  await db.query('SAVEPOINT looked_at');
  const readingId = await insertReading(db, personId, taken, null, feature, machine);
  const gauge = feature.gauge === '' ? null : await gaugeNamed(db, feature.gauge);
  const sure =
    gauge === null || gauge.uncertainty === null
      ? null
      : conformity(taken.measured, feature, gauge.uncertainty);
  if (!cut.ok) {
    const partOut = standing(taken.measured, feature) !== 'in';
    const answer: Judgement = { verdict: 'leave', reason: cut.reason, arithmetic: [], partOut };
    return { readingId, proposalIds: [], answer, took: null, conformity: sure };
  }
  const evidence = await evidenceOf(db, machine, feature);
  mustHaveRegisters(machine, feature, evidence);
  const { took, doubts } = await judgeCorrections(db, personId, feature, machine, evidence, readingId);
  const { all, own: open } = await openOn(db, evidence);
  const judged = judge({
    unit: machine.unit,
    increment: machine.increment,
    limit: machine.wearLimit,
    ...evidence,
    taken: evidence.readings.findIndex(({ id }) => id === readingId),
    firstOff: taken.firstOff,
    confirmed: taken.confirmed,
    approved: changesOf(evidence, all),
  });
  if (judged.verdict === 'measureAgain') {
    await db.query('ROLLBACK TO SAVEPOINT looked_at');
    await insertReading(db, personId, taken, judged.reason, feature, machine);
    return { readingId: null, proposalIds: [], answer: judged, took: null, conformity: null };
  }
  const typed = evidence.readings.find(({ id }) => id === readingId)!.typed;
  const doubt = taken.confirmed
    ? null
    : (notAsBefore(typed, taken.part, toleranceWidth(feature), machine.unit) ??
      (await gaugeDoubt(db, machine, feature, taken, evidence, readingId, gauge)));
  if (doubt !== null) {
    await db.query('ROLLBACK TO SAVEPOINT looked_at');
    await insertReading(db, personId, taken, doubt, feature, machine);
    const again: Judgement = { ...judged, verdict: 'measureAgain', reason: doubt };
    return { readingId: null, proposalIds: [], answer: again, took: null, conformity: null };
  }
  const answer = await unlessDoubted(
    db,
    personId,
    machine,
    feature,
    readingId,
    cut.late !== null && judged.verdict === 'change'
      ? leftAlone(judged, cut.late)
      : await unlessAtEnd(
          db,
          machine.id,
          await unlessBroughtIn(db, machine.id, evidence.registers, judged),
          movesOf(feature, machine).map(({ tool }) => tool),
        ),
    doubts,
  );
  const { timeZone } = await cellOf(db);
  const fault =
    gauge && gaugeFault(gauge, toleranceWidth(feature), localDate(await databaseNow(db), timeZone));
  if (answer.verdict === 'change' && fault)
    return {
      readingId,
      proposalIds: [],
      took,
      conformity: sure,
      answer: leftAlone(answer, fault),
    };
  const approved = open.filter((each) => each.state === 'approved');
  const waits =
    fault || cut.late !== null || (answer.verdict !== 'change' && answer.verdict !== 'leave')
      ? null
      : await waitsToBeKeyed(db, { personId, machine, feature, readingId }, approved, judged);
  // what stands in the way of any correction is said before how one that is approved stands
  if (waits !== null && (answer.verdict === 'change' || answer.reason === judged.reason))
    return {
      readingId,
      proposalIds: approved.map(({ id }) => id),
      took,
      conformity: sure,
      answer: leftAlone(answer, waits),
    };
  // on a row that did not behave nothing is keyed, also not what was approved before
  const ended = open.filter((each) => each.state === 'proposed' || answer.verdict === 'locked');
  for (const old of ended)
    await append(
      db,
      entry.correction('superseded', {
        personId: personId,
        machineId: machine.id,
        proposalId: old.id,
        said:
          answer.verdict === 'change'
            ? `A newer reading of ${feature.name} replaced this proposal.`
            : answer.verdict === 'locked'
              ? `Withdrawn: ${answer.reason}`
              : `By a newer reading of ${feature.name} it is left alone.`,
      }),
    );
  const proposalIds: number[] = [];
  if (answer.verdict === 'change')
    for (const change of answer.rows)
      proposalIds.push(
        await insertProposal(db, personId, readingId, feature, machine, evidence, answer, change),
      );
  return { readingId, proposalIds, answer, took, conformity: sure };
}

/** A reading as it is at 20 °C; what the gauge showed stays beside it. */
export function atTwenty(taken: ReadingTaken): ReadingTaken & { shown?: Length; celsius?: number } {
  const { warm } = taken;
  if (!warm) return taken;
  const measured = atReference(taken.measured, warm.celsius, warm.part, warm.gauge);
  return { ...taken, measured, shown: taken.measured, celsius: warm.celsius };
}

/** The database's own time, which the demo's past is told in too. */
export const databaseNow = async (db: Db) => (await row<{ now: Date }>(db, 'SELECT tin_now() AS now'))!.now;

function mustHaveRegisters(machine: Machine, feature: Feature, evidence: Evidence): void {
  const missing = movesOf(feature, machine).find(
    ({ row, role }) => !evidence.registers.some((each) => each.row === row && each.role === role),
  );
  if (missing)
    throw new Refused(
      `${machine.name} has no ${REGISTER_WORDS[missing.role]} in row ${missing.row}. Correct the measuring plan.`,
    );
}

/** When a reading was measured; undefined: just now. A clock that is ahead tells nothing, and what a device kept was measured when it was typed. */
function measuredAt(said: Date | null): Date | undefined {
  return said !== null && said <= cellNow() ? said : (typedAt() ?? undefined);
}

export async function insertReading(
  db: Db,
  personId: number,
  taken: ReturnType<typeof atTwenty> & { cutIn?: InCycle | null },
  doubt: string | null,
  feature: Feature,
  machine: Machine,
) {
  const { jobId, programId, part, measured, confirmed, recut = false } = taken;
  const nth = taken.firstOff
    ? (await row<{ n: number }>(
        db,
        'SELECT count(*)::integer AS n FROM reading WHERE feature_id = $1 AND job_id IS NOT DISTINCT FROM $2 AND first_off IS NOT NULL AND doubt IS NULL',
        [feature.id, jobId],
      ))!.n + 1
    : null;
  const typed = typedAt();
  const then = typed ? await placeThen(db, machine.id, typed) : undefined;
  const id = await insertRecord(db, 'reading', {
    at: measuredAt(taken.measuredAt ?? null),
    // it was cut before it was typed, and so before whatever came after that; a gauge's own clock may be an hour off, and orders nothing
    entry: then,
    featureId: feature.id,
    programId,
    jobId,
    part,
    measured,
    confirmed,
    firstOff: nth,
    personId,
    doubt,
    recut,
    shown: taken.shown,
    celsius: taken.celsius,
    typed: taken.several ?? undefined,
    place: taken.cutIn?.place,
    places: taken.cutIn?.parts,
    pallet: taken.pallet === undefined ? palletOf(await palletsCut(db, jobId), part) : taken.pallet,
  });
  // of parts that were measured without a job nothing is counted: they are held against the order of the entries
  if (then !== undefined && doubt === null && jobId !== null)
    await db.query('SELECT cut_told_late($1, $2, $3::text)', [machine.id, then, jobId]);
  await append(
    db,
    entry.reading(doubt === null ? 'taken' : 'questioned', {
      personId,
      machineId: machine.id,
      programId,
      jobId,
      readingId: id,
      tool: feature.tool,
      said: `${feature.name} of part ${part} measured ${formatWithUnit(measured, machine.unit)}${taken.several ? ` (${taken.several.map((each) => formatLength(each, machine.unit)).join('; ')})` : ''}${taken.celsius === undefined ? '' : ` at 20 °C (${formatWithUnit(taken.shown!, machine.unit)} at ${taken.celsius} °C)`}${doubt === null ? '' : ', to be measured again'}.`,
      why: doubt ?? '',
    }),
  );
  return id;
}

async function insertProposal(
  db: Db,
  personId: number,
  readingId: number,
  feature: Feature,
  machine: Machine,
  evidence: Evidence,
  answer: Judgement & { verdict: 'change' },
  change: RowChange,
) {
  const id = await insertRecord(db, 'proposal', {
    readingId,
    featureId: feature.id,
    registerId: evidence.registers[change.register]!.id,
    fromValue: change.from,
    changeValue: change.change,
    toValue: change.to,
    sizeBefore: answer.sizeBefore,
    expectedSize: answer.expectedSize,
    deviation: nanometres(answer.sizeBefore - feature.target),
    reason: answer.reason,
    arithmetic: answer.arithmetic,
  });
  await append(
    db,
    entry.correction('proposed', {
      personId,
      machineId: machine.id,
      proposalId: id,
      readingId,
      tool: feature.tool,
      said: `${feature.name}: ${REGISTER_WORDS[change.role]} of row ${change.row} by ${formatLength(change.change, machine.unit, { sign: 'always', decimals: registerDecimals(machine.unit, machine.increment) })} ${machine.unit} was proposed.`,
    }),
  );
  return id;
}

export interface FeatureReading {
  id: number;
  part: number;
  measured: Length;
  at: Date;
  person: string;
}

export const readingsOf = async (db: Db, featureId: number, limit = 40) =>
  (
    await rows<FeatureReading>(
      db,
      'SELECT r.id, r.part, r.measured, r.at, p.name AS person FROM reading r JOIN person p ON p.id = r.person_id WHERE r.feature_id = $1 AND r.doubt IS NULL ORDER BY r.id DESC LIMIT $2',
      [featureId, limit],
    )
  ).reverse();
