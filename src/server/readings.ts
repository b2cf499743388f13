import { didItTake, type TookAnswer } from '../core/correction/did-it-take.ts';
import { propose, type Proposal } from '../core/correction/propose.ts';
import { registerAnswer } from '../core/inspection/feature.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { formatLength, formatWithUnit } from '../core/units/format-length.ts';
import { nanometres, type Length } from '../core/units/length.ts';
import { row, rows, type Db } from './db.ts';
import { insertRecord } from './insert.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { machineById, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { featureById, type Feature } from './programs.ts';

export interface ReadingTaken {
  featureId: number;
  programId: number;
  jobId: number | null;
  part: number;
  measured: Length;
  confirmed: boolean;
  firstOff: boolean;
}

export interface ReadingAnswer {
  readingId: number | null;
  proposalId: number | null;
  answer: Proposal;
  /** Whether the last correction of this feature took; null when there was none to judge. */
  took: TookAnswer | null;
}

/**
 * Takes a reading: records it, judges whether the last correction took, and answers with what to do. A reading
 * that should be measured again is not recorded: nobody stands behind it yet.
 */
export function takeReading(asking: Asking, taken: ReadingTaken) {
  return once(asking, 'takeReading', taken, async (db): Promise<ReadingAnswer> => {
    const feature = await featureById(db, taken.featureId);
    const machine = feature && (await machineById(db, feature.machineId));
    if (!feature || !machine) throw new Refused('That feature no longer exists.');
    const register = await registerOf(db, feature, machine);
    const earlier = await readingsSince(db, feature.id, register?.id ?? null);
    const firstOff = taken.firstOff ? (await firstOffCount(db, taken)) + 1 : null;
    const answer = propose(
      feature,
      machine,
      {
        value: register?.value ?? nanometres(0),
        increment: machine.increment,
        unit: machine.unit,
        limit: machine.wearLimit,
      },
      { readings: [...earlier, taken.measured], partAfterSetUp: firstOff, confirmed: taken.confirmed },
    );
    if (answer.verdict === 'measureAgain') return { readingId: null, proposalId: null, answer, took: null };
    const readingId = await insertReading(db, asking.personId, taken, firstOff, feature, machine);
    const took = await judgeLastCorrection(db, asking.personId, feature, machine, taken.measured, readingId);
    if (answer.verdict !== 'change') return { readingId, proposalId: null, answer, took };
    const waiting = await openProposals(db, register!.id);
    const approved = waiting.find((each) => each.state === 'approved');
    if (approved)
      return {
        readingId,
        proposalId: approved.id,
        took,
        answer: {
          ...answer,
          verdict: 'leave',
          reason:
            'A correction of this register is approved and waits to be keyed. Key it first, then measure a new part: this part was cut without it.',
        },
      };
    for (const old of waiting.filter((each) => each.featureId === feature.id))
      await append(
        db,
        entry.correction('superseded', {
          personId: asking.personId,
          machineId: machine.id,
          proposalId: old.id,
          said: `A newer reading of ${feature.name} replaced this proposal.`,
        }),
      );
    const proposalId = await insertProposal(
      db,
      asking.personId,
      readingId,
      feature,
      machine,
      register!.id,
      answer,
    );
    return { readingId, proposalId, answer, took };
  });
}

async function registerOf(db: Db, feature: Feature, machine: Machine) {
  const answer = registerAnswer(feature.kind, machine);
  if (!answer) return null;
  const found = await row<{ id: number; value: Length }>(
    db,
    'SELECT id, value FROM register WHERE machine_id = $1 AND row = $2 AND kind = $3',
    [machine.id, feature.row, answer.role],
  );
  if (!found)
    throw new Refused(
      `${machine.name} has no ${REGISTER_WORDS[answer.role]} in row ${feature.row}. Correct the measuring plan.`,
    );
  return found;
}

/** Readings of a feature since its register last moved, oldest first. */
async function readingsSince(db: Db, featureId: number, registerId: number | null): Promise<Length[]> {
  const found = await rows<{ measured: Length }>(
    db,
    `SELECT measured FROM reading WHERE feature_id = $1
       AND entry > coalesce((SELECT max(id) FROM ledger WHERE kind = 'register' AND register_id = $2), 0)
     ORDER BY id DESC LIMIT 50`,
    [featureId, registerId],
  );
  return found.map((each) => each.measured).reverse();
}

const firstOffCount = async (db: Db, { featureId, jobId }: ReadingTaken) =>
  (await row<{ n: number }>(
    db,
    'SELECT count(*)::integer AS n FROM reading WHERE feature_id = $1 AND job_id IS NOT DISTINCT FROM $2 AND first_off IS NOT NULL',
    [featureId, jobId],
  ))!.n;

async function insertReading(
  db: Db,
  personId: number,
  taken: ReadingTaken,
  firstOff: number | null,
  feature: Feature,
  machine: Machine,
) {
  const { id } = (await row<{ id: number }>(
    db,
    `INSERT INTO reading (feature_id, program_id, job_id, part, measured, confirmed, first_off, person_id)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8) RETURNING id`,
    [
      feature.id,
      taken.programId,
      taken.jobId,
      taken.part,
      taken.measured,
      taken.confirmed,
      firstOff,
      personId,
    ],
  ))!;
  await append(
    db,
    entry.reading('taken', {
      personId,
      machineId: machine.id,
      programId: taken.programId,
      jobId: taken.jobId,
      readingId: id,
      tool: feature.tool,
      said: `${feature.name} of part ${taken.part} measured ${formatWithUnit(taken.measured, machine.unit)}.`,
    }),
  );
  return id;
}

/** Compares the first reading after a correction with what the correction asked for, once. */
async function judgeLastCorrection(
  db: Db,
  personId: number,
  feature: Feature,
  machine: Machine,
  measured: Length,
  readingId: number,
): Promise<TookAnswer | null> {
  const last = await row<{ id: number; sizeBefore: Length; expectedSize: Length }>(
    db,
    `SELECT p.id, p.size_before AS "sizeBefore", p.expected_size AS "expectedSize" FROM proposal p JOIN proposal_state s ON s.id = p.id
     WHERE p.feature_id = $1 AND s.state = 'applied' AND s.took IS NULL ORDER BY p.id DESC LIMIT 1`,
    [feature.id],
  );
  if (!last) return null;
  const asked = nanometres(last.expectedSize - last.sizeBefore);
  const noise = nanometres(Math.max(feature.deadBand, machine.increment));
  const took = didItTake(last.sizeBefore, measured, asked, noise);
  await append(
    db,
    entry.correction('judged', {
      personId,
      machineId: machine.id,
      proposalId: last.id,
      readingId,
      tool: feature.tool,
      said: `${feature.name}: ${took.sentence}`,
      detail: { verdict: took.verdict, ratio: took.ratio },
    }),
  );
  return took;
}

const openProposals = (db: Db, registerId: number) =>
  rows<{ id: number; featureId: number; state: string }>(
    db,
    `SELECT p.id, p.feature_id AS "featureId", s.state FROM proposal p JOIN proposal_state s ON s.id = p.id
     WHERE p.register_id = $1 AND s.state IN ('proposed', 'approved')`,
    [registerId],
  );

async function insertProposal(
  db: Db,
  personId: number,
  readingId: number,
  feature: Feature,
  machine: Machine,
  registerId: number,
  answer: Proposal & { verdict: 'change' },
) {
  const id = await insertRecord(db, 'proposal', {
    readingId,
    featureId: feature.id,
    registerId,
    fromValue: answer.from,
    changeValue: answer.change,
    toValue: answer.to,
    sizeBefore: answer.sizeBefore,
    expectedSize: answer.expectedSize,
    deviation: answer.deviation,
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
      said: `${feature.name}: ${REGISTER_WORDS[answer.role]} of row ${feature.row} by ${formatLength(answer.change, machine.unit, { sign: 'always' })} ${machine.unit} was proposed.`,
    }),
  );
  return id;
}

export interface FeatureReading {
  part: number;
  measured: Length;
  at: Date;
  person: string;
}

export const readingsOf = async (db: Db, featureId: number, limit = 40) =>
  (
    await rows<FeatureReading>(
      db,
      'SELECT r.part, r.measured, r.at, p.name AS person FROM reading r JOIN person p ON p.id = r.person_id WHERE r.feature_id = $1 ORDER BY r.id DESC LIMIT $2',
      [featureId, limit],
    )
  ).reverse();
