import { didItTake, type TookAnswer } from '../core/correction/did-it-take.ts';
import { propose, type Proposal, type Step } from '../core/correction/propose.ts';
import { explainReadBack, type ReadBack } from '../core/correction/read-back.ts';
import { registerText } from '../core/correction/register-text.ts';
import { registerAnswer } from '../core/inspection/feature.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { may, type Person } from '../core/people/roles.ts';
import { formatLength, formatWithUnit } from '../core/units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../core/units/length.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { machineById, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { featureById, type Feature } from './programs.ts';

export const decimalsOf = (unit: LengthUnit, increment: Length) =>
  unit === 'mm' ? (increment < 1000 ? 4 : 3) : increment < 2540 ? 5 : 4;

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
    if (!feature || !machine) throw new Refused('That feature does not exist any more.');
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
            'A correction of this register is approved and waits to be keyed. Key it first, then measure a new part: this reading was made without it.',
        },
      };
    for (const old of waiting.filter((each) => each.featureId === feature.id))
      await append(db, {
        kind: 'correction',
        stage: 'superseded',
        personId: asking.personId,
        machineId: machine.id,
        proposalId: old.id,
        said: `A newer reading of ${feature.name} took the place of this proposal.`,
      });
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
       AND at > coalesce((SELECT max(at) FROM ledger WHERE kind = 'register' AND register_id = $2), '-infinity')
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
  await append(db, {
    kind: 'reading',
    stage: 'taken',
    personId,
    machineId: machine.id,
    programId: taken.programId,
    jobId: taken.jobId,
    readingId: id,
    tool: feature.tool,
    said: `${feature.name} of part ${taken.part} measured ${formatWithUnit(taken.measured, machine.unit)}.`,
  });
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
  await append(db, {
    kind: 'correction',
    stage: 'judged',
    personId,
    machineId: machine.id,
    proposalId: last.id,
    readingId,
    tool: feature.tool,
    said: `${feature.name}: ${took.sentence}`,
    detail: { verdict: took.verdict, ratio: took.ratio },
  });
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
  const { id } = (await row<{ id: number }>(
    db,
    `INSERT INTO proposal (reading_id, feature_id, register_id, from_value, change_value, to_value, size_before, expected_size, deviation, reason, arithmetic)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) RETURNING id`,
    [
      readingId,
      feature.id,
      registerId,
      answer.from,
      answer.change,
      answer.to,
      answer.sizeBefore,
      answer.expectedSize,
      answer.deviation,
      answer.reason,
      JSON.stringify(answer.arithmetic),
    ],
  ))!;
  await append(db, {
    kind: 'correction',
    stage: 'proposed',
    personId,
    machineId: machine.id,
    proposalId: id,
    readingId,
    tool: feature.tool,
    said: `${feature.name}: ${REGISTER_WORDS[answer.role]} of row ${feature.row} by ${formatLength(answer.change, machine.unit, { sign: 'always' })} ${machine.unit} was proposed.`,
  });
  return id;
}

export type CorrectionState = 'proposed' | 'approved' | 'applied' | 'refused' | 'superseded';

export interface Correction {
  id: number;
  state: CorrectionState;
  at: Date;
  machineId: number;
  machine: string;
  unit: LengthUnit;
  increment: Length;
  registerId: number;
  row: number;
  registerKind: string;
  present: Length;
  from: Length;
  change: Length;
  to: Length;
  expectedSize: Length;
  reason: string;
  arithmetic: Step[];
  featureId: number;
  feature: string;
  tool: number;
  operatorLimit: Length;
  program: string;
  programId: number;
  part: number;
  measured: Length;
  target: Length;
  nominal: Length;
  upper: Length;
  lower: Length;
  measuredBy: string;
  approvedBy: string | null;
  appliedBy: string | null;
  appliedAt: Date | null;
  took: string | null;
  tookWords: string | null;
  stops: number;
  lastStop: string | null;
}

const CORRECTION = `SELECT p.id, s.state, p.at, m.id AS "machineId", m.name AS machine, m.unit, m.increment, g.id AS "registerId", g.row,
    g.kind AS "registerKind", g.value AS present, p.from_value AS "from", p.change_value AS change, p.to_value AS "to",
    p.expected_size AS "expectedSize", p.reason, p.arithmetic, f.id AS "featureId", f.name AS feature, f.tool,
    f.operator_limit AS "operatorLimit", o.number AS program, o.id AS "programId", r.part, r.measured, f.target, f.nominal, f.upper, f.lower,
    w.name AS "measuredBy", ap.name AS "approvedBy", kp.name AS "appliedBy", s.applied_at AS "appliedAt", s.took, s.took_words AS "tookWords",
    (SELECT count(*)::integer FROM ledger l WHERE l.proposal_id = p.id AND l.kind = 'correction' AND l.stage = 'stopped') AS stops,
    (SELECT l.said FROM ledger l WHERE l.proposal_id = p.id AND l.kind = 'correction' AND l.stage = 'stopped' ORDER BY l.id DESC LIMIT 1) AS "lastStop"
  FROM proposal p JOIN proposal_state s ON s.id = p.id JOIN register g ON g.id = p.register_id JOIN machine m ON m.id = g.machine_id
  JOIN feature f ON f.id = p.feature_id JOIN reading r ON r.id = p.reading_id JOIN program o ON o.id = r.program_id
  JOIN person w ON w.id = r.person_id LEFT JOIN person ap ON ap.id = s.approved_by LEFT JOIN person kp ON kp.id = s.applied_by`;

export const correctionById = (db: Db, id: number) =>
  row<Correction>(db, `${CORRECTION} WHERE p.id = $1`, [id]);
export const openCorrections = (db: Db) =>
  rows<Correction>(db, `${CORRECTION} WHERE s.state IN ('proposed', 'approved') ORDER BY s.state DESC, p.id`);
export const recentCorrections = (db: Db, limit = 30) =>
  rows<Correction>(
    db,
    `${CORRECTION} WHERE s.state IN ('applied', 'refused', 'superseded') ORDER BY p.id DESC LIMIT $1`,
    [limit],
  );

export const openCorrectionCount = async (db: Db) =>
  (await row<{ n: number }>(
    db,
    `SELECT count(*)::integer AS n FROM proposal_state WHERE state IN ('proposed', 'approved')`,
  ))!.n;

/** Corrections that were keyed and then did not do what was asked, not yet followed by one that did. */
export const strayCorrections = (db: Db, since: Date) =>
  rows<Correction>(
    db,
    `${CORRECTION} WHERE s.state = 'applied' AND s.took NOT IN ('took', 'tooSmallToTell') AND s.applied_at > $1 ORDER BY p.id DESC`,
    [since],
  );

/** Locks the proposal's register, so that what is checked stays true until the entry is made. */
async function lockedCorrection(db: Db, id: number): Promise<Correction> {
  await db.query('SELECT pg_advisory_xact_lock($1)', [id]);
  const correction = await correctionById(db, id);
  if (!correction) throw new Refused('There is no such correction.');
  return correction;
}

const CLOSED_WORDS: Record<CorrectionState, string> = {
  proposed: 'is waiting for approval',
  approved: 'is approved already',
  applied: 'was made already; it is not made twice',
  refused: 'was refused',
  superseded: 'was overtaken by something newer',
};

/** Closes a proposal whose register has moved since; the sentence says who moved it. Null when it has not. */
async function overtaken(db: Db, personId: number, correction: Correction): Promise<string | null> {
  if (correction.present === correction.from) return null;
  const mover = await row<{ said: string; person: string; at: Date }>(
    db,
    `SELECT l.said, p.name AS person, l.at FROM ledger l JOIN person p ON p.id = l.person_id WHERE l.kind = 'register' AND l.register_id = $1 ORDER BY l.id DESC LIMIT 1`,
    [correction.registerId],
  );
  const show = (value: Length) => formatLength(value, correction.unit, { sign: 'always' });
  const sentence = `This was worked out from ${show(correction.from)}, but the register stands at ${show(correction.present)} now${mover ? `: ${mover.person} moved it` : ''}. It is closed; measure a part and it is worked out anew.`;
  await append(db, {
    kind: 'correction',
    stage: 'superseded',
    personId,
    machineId: correction.machineId,
    proposalId: correction.id,
    tool: correction.tool,
    said: sentence,
  });
  return sentence;
}

/** Done, or closed because the register moved in the meantime. */
export type Decided = { done: true } | { done: false; reason: string };

/** Approves a correction: the lead any, others up to the feature's limit. */
export function approve(asking: Asking, person: Person, proposalId: number) {
  return once(asking, 'approve', { proposalId }, async (db): Promise<Decided> => {
    const correction = await lockedCorrection(db, proposalId);
    if (correction.state !== 'proposed')
      throw new Refused(
        `This correction ${CLOSED_WORDS[correction.state]}${correction.approvedBy ? ` by ${correction.approvedBy}` : ''}.`,
      );
    if (!may(person.role, 'approveAnyCorrection') && Math.abs(correction.change) > correction.operatorLimit)
      throw new Refused(
        `${formatWithUnit(nanometres(Math.abs(correction.change)), correction.unit)} is over the ${formatWithUnit(correction.operatorLimit, correction.unit)} that may be approved at the machine. Ask the cell lead.`,
      );
    const moved = await overtaken(db, person.id, correction);
    if (moved) return { done: false, reason: moved };
    await append(db, {
      kind: 'correction',
      stage: 'approved',
      personId: person.id,
      machineId: correction.machineId,
      proposalId,
      tool: correction.tool,
      said: `${correction.feature}: the correction to ${formatLength(correction.to, correction.unit, { sign: 'always' })} was approved.`,
    });
    return { done: true };
  });
}

/** Turns a correction down, or takes an approved one back before it is keyed. */
export function refuse(asking: Asking, proposalId: number, why: string) {
  return once(asking, 'refuse', { proposalId, why }, async (db) => {
    const correction = await lockedCorrection(db, proposalId);
    if (correction.state !== 'proposed' && correction.state !== 'approved')
      throw new Refused(`This correction ${CLOSED_WORDS[correction.state]}.`);
    if (why.trim() === '') throw new Refused('Say why it is not made.');
    await append(db, {
      kind: 'correction',
      stage: 'refused',
      personId: asking.personId,
      machineId: correction.machineId,
      proposalId,
      tool: correction.tool,
      said: `${correction.feature}: the correction was not made.`,
      why,
    });
  });
}

export type ReadBackAnswer =
  | { kept: true }
  | { kept: false; reading: ReadBack & { matches: false } }
  | { kept: false; overtaken: string };

/**
 * Takes what the control shows after keying. Only when it is exactly what was to be keyed does the register move;
 * otherwise the slip is named and recorded, and nothing moves.
 */
export function readBack(asking: Asking, proposalId: number, shown: Length) {
  return once(asking, 'readBack', { proposalId, shown }, async (db): Promise<ReadBackAnswer> => {
    const correction = await lockedCorrection(db, proposalId);
    if (correction.state !== 'approved')
      throw new Refused(
        `This correction ${CLOSED_WORDS[correction.state]}${correction.appliedBy ? ` by ${correction.appliedBy}` : ''}.`,
      );
    const moved = await overtaken(db, asking.personId, correction);
    if (moved) return { kept: false, overtaken: moved };
    const reading = explainReadBack(shown, {
      row: correction.row,
      from: correction.from,
      to: correction.to,
      unit: correction.unit,
      decimals: decimalsOf(correction.unit, correction.increment),
      neighbours: await neighboursOf(db, correction),
    });
    const common = {
      personId: asking.personId,
      machineId: correction.machineId,
      proposalId,
      tool: correction.tool,
    };
    if (!reading.matches) {
      await append(db, {
        ...common,
        kind: 'correction',
        stage: 'stopped',
        said: `${correction.feature}: ${reading.reason}`,
        detail: { fault: reading.fault, shown },
      });
      return { kept: false, reading };
    }
    await append(db, {
      ...common,
      kind: 'register',
      stage: 'corrected',
      registerId: correction.registerId,
      before: correction.from,
      after: correction.to,
      said: `${REGISTER_WORDS[correction.registerKind]} of row ${correction.row} was keyed and read back.`,
      why: correction.reason,
    });
    await append(db, {
      ...common,
      kind: 'correction',
      stage: 'applied',
      said: `${correction.feature}: the control shows ${formatLength(correction.to, correction.unit, { sign: 'always' })}.`,
    });
    return { kept: true };
  });
}

const neighboursOf = (db: Db, correction: Correction) =>
  rows<{ row: number; value: Length }>(
    db,
    'SELECT row, value FROM register WHERE machine_id = $1 AND kind = $2 AND row IN ($3, $4) AND value <> 0',
    [correction.machineId, correction.registerKind, correction.row - 1, correction.row + 1],
  );

/** The NC text that sets the register, from the machine's dialect; null when the profile has none. */
export async function keyText(db: Db, correction: Correction): Promise<string | null> {
  const machine = await machineById(db, correction.machineId);
  return (
    machine &&
    registerText(machine.dialect, correction.registerKind, correction.row, correction.to, machine.unit)
  );
}

/** Writes down what the control was found to hold, when it differs from the record for a reason of its own. */
export function foundAtControl(
  asking: Asking,
  found: { registerId: number; before: Length; after: Length; why: string },
) {
  return once(asking, 'foundAtControl', found, async (db) => {
    const register = await row<{
      machineId: number;
      machine: string;
      unit: LengthUnit;
      row: number;
      kind: string;
    }>(
      db,
      'SELECT m.id AS "machineId", m.name AS machine, m.unit, r.row, r.kind FROM register r JOIN machine m ON m.id = r.machine_id WHERE r.id = $1',
      [found.registerId],
    );
    if (!register) throw new Refused('There is no such register.');
    if (found.why.trim() === '')
      throw new Refused('Say why it differs: an unexplained number is the next mistake.');
    if (found.before === found.after) throw new Refused('The record holds that already.');
    const who = await row<{ tool: number; assemblyId: number }>(
      db,
      'SELECT tool, assembly_id AS "assemblyId" FROM placement WHERE machine_id = $1 AND tool = $2',
      [register.machineId, register.row],
    );
    await append(db, {
      kind: 'register',
      stage: 'found',
      personId: asking.personId,
      machineId: register.machineId,
      assemblyId: who?.assemblyId ?? null,
      tool: who?.tool ?? null,
      registerId: found.registerId,
      before: found.before,
      after: found.after,
      said: `${REGISTER_WORDS[register.kind]} of row ${register.row} was found at the control.`,
      why: found.why,
    });
  });
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
