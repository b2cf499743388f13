import type { Step } from '../core/correction/policies.ts';
import { HARMLESS, type Took } from '../core/correction/took.ts';
import { explainReadBack, type ReadBackAnswer, type RowAnswer } from '../core/correction/read-back.ts';
import { registerProgram, screenOrder } from '../core/correction/register-text.ts';
import { registerDecimals } from '../core/units/register-decimals.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { formatLength } from '../core/units/format-length.ts';
import type { Length, LengthUnit } from '../core/units/length.ts';
import { notKeyed } from './approved-corrections.ts';
import { cutUntil, type FirstPart } from './cut-until.ts';
import { row, rows, type Db } from './db.ts';
import { perhapsCut } from './likely-made.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import type { Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { writeFound } from './registers.ts';
import { Refused } from './outcome.ts';
import { countWear } from './wear-life.ts';
import { partDoubts } from './wrong-readings.ts';
import { lockMachine } from './machines.ts';

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
  /** It, and the one that cuts the other end of the size. */
  tools: number[];
  /** Another row was worked out with it, and waits too. */
  joint: boolean;
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
  took: Took | null;
  tookWords: string | null;
  stops: number;
  lastStop: string | null;
  /** Why an approved one is not to be keyed before its row was read off: parts since speak against it. */
  held: string | null;
  /** What ended it, where something overtook it. */
  withdrawn: string | null;
  /** The row was looked at on the control since it was last judged. */
  cleared: boolean;
  /** What first happened after it was keyed by which no later part tells whether it took: the row moved, another edge cuts, or it was set up anew. */
  movedOn: string | null;
  jobId: number | null;
  /** The last part of its own job that is counted or measured, while that job runs. */
  cut: number | null;
}

/** The tool whose row it is: of a size that a group cuts, the member whose own row that is. */
const CUTTER = `CASE WHEN g.row = f.row THEN f.tool WHEN g.row = f.other_row THEN f.other_tool ELSE coalesce((
      SELECT m.tool FROM group_member m JOIN tool_group t ON t.id = m.group_id
      WHERE m.machine_id = g.machine_id AND g.row = ANY (m.length_rows || m.radius_rows)
        AND (t.number = f.tool OR EXISTS (SELECT 1 FROM group_member o WHERE o.group_id = t.id AND o.tool = f.tool))
      ORDER BY m.tool LIMIT 1), f.tool) END`;
/** That tool, and the one at the other end of the size; of a group that cuts the other end nobody says here which. */
const CUTTERS = `(SELECT array_agg(DISTINCT t.tool) FROM unnest(ARRAY[${CUTTER}, CASE WHEN g.row = f.row THEN f.other_tool WHEN g.row = f.other_row THEN f.tool END]) AS t (tool)
      WHERE t.tool IS NOT NULL AND (t.tool = ${CUTTER} OR NOT EXISTS (SELECT 1 FROM group_member m WHERE m.machine_id = g.machine_id AND m.tool = t.tool)))`;
const CORRECTION = `SELECT p.id, s.state, p.at, m.id AS "machineId", m.name AS machine, m.unit, m.increment, g.id AS "registerId", g.row,
    g.kind AS "registerKind", g.value AS present, p.from_value AS "from", p.change_value AS change, p.to_value AS "to",
    p.expected_size AS "expectedSize", p.reason, p.arithmetic, f.id AS "featureId", f.name AS feature, ${CUTTER} AS tool, ${CUTTERS} AS tools,
    EXISTS (SELECT 1 FROM proposal q WHERE q.reading_id = p.reading_id AND q.id <> p.id AND q.open) AS joint,
    f.operator_limit AS "operatorLimit", o.number AS program, o.id AS "programId", r.part, r.measured, f.target, f.nominal, f.upper, f.lower,
    w.name AS "measuredBy", ap.name AS "approvedBy", kp.name AS "appliedBy", s.applied_at AS "appliedAt", s.took, s.took_words AS "tookWords", s.held,
    (SELECT count(*)::integer FROM ledger l WHERE l.proposal_id = p.id AND l.kind = 'correction' AND l.stage = 'stopped') AS stops,
    (SELECT l.said FROM ledger l WHERE l.proposal_id = p.id AND l.kind = 'correction' AND l.stage = 'stopped' ORDER BY l.id DESC LIMIT 1) AS "lastStop",
    (SELECT l.said || ' (' || q.name || ')' FROM ledger l JOIN person q ON q.id = l.person_id
     WHERE l.proposal_id = p.id AND l.kind = 'correction' AND l.stage = 'superseded' LIMIT 1) AS withdrawn,
    s.read_since AS cleared, moved_on.said AS "movedOn", r.job_id AS "jobId",
    (SELECT greatest(j.made, coalesce((SELECT max(q.part) FROM reading q WHERE q.job_id = j.id AND q.doubt IS NULL), 0)) FROM job j
     WHERE j.id = r.job_id AND j.state = 'running') AS cut
  FROM proposal p JOIN proposal_state s ON s.id = p.id JOIN register g ON g.id = p.register_id JOIN machine m ON m.id = g.machine_id
  JOIN feature f ON f.id = p.feature_id JOIN reading r ON r.id = p.reading_id JOIN program o ON o.id = r.program_id
  JOIN person w ON w.id = r.person_id LEFT JOIN person ap ON ap.id = s.approved_by LEFT JOIN person kp ON kp.id = s.applied_by
  LEFT JOIN LATERAL (SELECT n.said FROM (
      (SELECT e.id, e.said FROM register own JOIN ledger e ON e.register_id = own.id
       WHERE own.machine_id = g.machine_id AND own.row = g.row AND own.kind IN (g.kind, replace(g.kind, 'Wear', 'Geometry')) AND e.id > s.applied_entry
       ORDER BY e.id LIMIT 1)
      UNION ALL
      (SELECT e.id, e.said FROM ledger e
       WHERE e.machine_id = g.machine_id AND e.tool = ${CUTTER} AND e.id > s.applied_entry AND (e.kind = 'placement' AND e.stage IN ('in', 'out')
         OR e.kind = 'life' AND e.stage = 'renewed' OR e.kind = 'assembly' AND e.stage IN ('indexed', 'reground'))
         AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = e.id)
       ORDER BY e.id LIMIT 1)
      UNION ALL
      (SELECT e.id, e.said FROM job_begun e JOIN program b ON b.id = e.program_id
       WHERE e.machine_id = g.machine_id AND e.id > s.applied_entry
         AND b.number = f.program_number AND set_up_anew(e.machine_id, e.program_id, e.id)
       ORDER BY e.id LIMIT 1)) n ORDER BY n.id LIMIT 1) moved_on ON true`;

export const correctionById = (db: Db, id: number) =>
  row<Correction>(db, `${CORRECTION} WHERE p.id = $1`, [id]);
/** @param of those of one machine; null: of all */
export const openCorrections = (db: Db, of: number | null = null) =>
  rows<Correction>(
    db,
    `${CORRECTION} WHERE p.open AND ($1::integer IS NULL OR m.id = $1) ORDER BY s.state DESC, p.id`,
    [of],
  );
export const recentCorrections = (db: Db, limit = 30) =>
  rows<Correction>(
    db,
    `${CORRECTION} WHERE p.id = ANY (ARRAY(SELECT o.id FROM proposal o WHERE NOT o.open ORDER BY o.id DESC LIMIT $1)) ORDER BY p.id DESC`,
    [limit],
  );

export const openCorrectionCount = async (db: Db) =>
  (await row<{ n: number }>(db, 'SELECT count(*)::integer AS n FROM proposal WHERE open'))!.n;

/** Corrections that were keyed and then did not do what was asked, and whose row nobody has looked at on the control since. */
export const strayCorrections = (db: Db, since: Date) =>
  rows<Correction>(
    db,
    `${CORRECTION} WHERE p.id = ANY (ARRAY(SELECT DISTINCT l.proposal_id FROM ledger l WHERE l.kind = 'correction' AND l.stage = 'applied' AND l.at > $1))
       AND s.state = 'applied' AND NOT s.took = ANY($2) AND NOT s.read_since ORDER BY p.id DESC`,
    [since, HARMLESS],
  );

/** A correction with its machine held, so that what is checked stays true until the entry is made. */
export async function lockedCorrection(db: Db, id: number): Promise<Correction> {
  const of = await row<{ machineId: number }>(
    db,
    'SELECT r.machine_id AS "machineId" FROM proposal p JOIN register r ON r.id = p.register_id WHERE p.id = $1',
    [id],
  );
  if (of) await lockMachine(db, of.machineId);
  const correction = await correctionById(db, id);
  if (!correction) throw new Refused('There is no such correction.');
  return correction;
}

/** Corrections of other rows that were worked out with this one, and are not keyed or ended: one without the others may do harm. */
export const togetherWith = (db: Db, id: number) =>
  rows<Correction>(
    db,
    `${CORRECTION} WHERE p.open AND p.id <> $1 AND p.reading_id = (SELECT q.reading_id FROM proposal q WHERE q.id = $1) ORDER BY p.id`,
    [id],
  );

export const CLOSED_WORDS: Record<CorrectionState, string> = {
  proposed: 'is waiting for approval',
  approved: 'is already approved',
  applied: 'was already made; it is not made twice',
  refused: 'was refused',
  superseded: 'was overtaken by something newer',
};

/** What to say of a correction that was overtaken while somebody looked at it; null when it was not. */
export const overtaken = (correction: Correction): string | null =>
  correction.state === 'superseded'
    ? `${correction.withdrawn ?? 'It was overtaken.'} Row ${correction.row} is on record with ${formatLength(correction.present, correction.unit, { sign: 'always', decimals: registerDecimals(correction.unit, correction.increment) })} now. If you keyed this one, say what the row shows.`
    : null;

export const signed = ({ to, unit, increment }: Correction) =>
  formatLength(to, unit, { sign: 'always', decimals: registerDecimals(unit, increment) });

/** Between which parts of the running job a correction was keyed; null: after all that are known of. */
async function keyedBetween(
  db: Db,
  correction: Correction,
  first: FirstPart,
  { cutting, until }: { cutting: number | null; until: number | null },
) {
  if (first === 'next') return null;
  // what was keyed without a network is told when another job may run
  const job = await cutUntil(db, correction.machineId, cutting);
  const of = job ? String(job.id) : `p${correction.programId}`;
  // surely before: the part it was worked out from
  const low = job && correction.jobId !== job.id ? 0 : correction.part;
  if (first !== 'unsure') {
    const doubt = job && (await partDoubts(db, job.id))(first);
    if (doubt) throw new Refused(`${doubt} Or say that you do not know.`);
    if (first <= low)
      throw new Refused(
        `It was worked out from part ${low}, which was cut before it was keyed: the first part cut with it comes later. Or say that you do not know.`,
      );
    return { of, low: first - 1, high: first - 1 };
  }
  return {
    of,
    low,
    high: Math.max(low + 1, job ? await perhapsCut(db, job, until) : 0),
  };
}

/** What was read off the control: the number, the number once more where it moved far, and the first part cut with it. */
export interface Shown {
  shown: Length;
  again?: Length | null;
  first?: FirstPart;
  /** The job whose parts those are; null: the one that runs. */
  job?: number | null;
  /** The last part of it that whoever typed knew to be cut, recorded or not. */
  until?: number | null;
}

/** A change beyond what may be approved at the machine is read off the control twice. */
export const isLarge = (correction: Pick<Correction, 'change' | 'operatorLimit'>) =>
  Math.abs(correction.change) > correction.operatorLimit;

/**
 * Takes what the control shows after keying. Only when it is exactly what was to be keyed does the register move;
 * otherwise the slip is named and recorded, and nothing moves.
 */
export function readBack(asking: Asking, proposalId: number, read: Shown) {
  return once(asking, 'readBack', { proposalId, ...read }, (db) => readOne(db, asking, proposalId, read));
}

/** Several rows of one machine, read back together: each is judged by itself, and one that is wrong keeps none of the others. */
export function readBackAll(asking: Asking, reads: readonly (Shown & { proposalId: number })[]) {
  return once(asking, 'readBackAll', { reads }, async (db) => {
    const answers: RowAnswer[] = [];
    // in one order, so that two people who key one machine wait for each other and no more
    for (const read of reads.toSorted((a, b) => a.proposalId - b.proposalId)) {
      try {
        answers.push({ proposalId: read.proposalId, ...(await readOne(db, asking, read.proposalId, read)) });
      } catch (problem) {
        if (!(problem instanceof Refused)) throw problem;
        answers.push({ proposalId: read.proposalId, kept: false, refused: problem.message });
      }
    }
    return answers;
  });
}

async function readOne(
  db: Db,
  asking: Asking,
  proposalId: number,
  { shown, again = null, first = 'next', job = null, until = null }: Shown,
): Promise<ReadBackAnswer> {
  const correction = await lockedCorrection(db, proposalId);
  const moved = overtaken(correction);
  if (moved && shown === correction.to && correction.present === correction.from) {
    // it was keyed before it was withdrawn, and parts were cut with it: what the control shows is so, whatever is on record
    const why = 'A correction was keyed here that was withdrawn before it was read back.';
    const { registerId, from: before, to: after } = correction;
    await writeFound(db, asking.personId, { registerId, before, after, why });
    return {
      kept: false,
      overtaken: `${correction.withdrawn ?? 'It was overtaken.'} It was keyed by then: row ${correction.row} shows ${signed(correction)}, and that is on record now. Leave it as it is, and measure a part that is cut from here on.`,
    };
  }
  if (moved) return { kept: false, overtaken: moved };
  if (correction.state !== 'approved')
    throw new Refused(
      `This correction ${CLOSED_WORDS[correction.state]}${correction.appliedBy ? ` by ${correction.appliedBy}` : ''}.`,
    );
  if (correction.held !== null && shown === correction.from) {
    const said = await notKeyed(db, asking.personId, correction);
    return { kept: false, overtaken: `${said} Nothing is to be keyed.` };
  }
  if (isLarge(correction) && again !== shown)
    throw new Refused(
      again === null
        ? `Row ${correction.row} moved far: read it a second time and type it again.`
        : `Row ${correction.row} was typed twice, with two numbers. Read it again and type both.`,
    );
  const reading = explainReadBack(shown, {
    row: correction.row,
    from: correction.from,
    to: correction.to,
    unit: correction.unit,
    decimals: registerDecimals(correction.unit, correction.increment),
    neighbours: await neighboursOf(db, correction),
  });
  const common = {
    personId: asking.personId,
    machineId: correction.machineId,
    proposalId,
    tool: correction.tool,
  };
  if (!reading.matches) {
    await append(
      db,
      entry.correction('stopped', {
        ...common,
        said: `${correction.feature}: ${reading.reason}`,
        detail: { fault: reading.fault, shown },
      }),
    );
    return { kept: false, reading };
  }
  const keyed = await keyedBetween(db, correction, first, { cutting: job, until });
  await append(
    db,
    entry.register('corrected', {
      ...common,
      registerId: correction.registerId,
      before: correction.from,
      after: correction.to,
      said: `${REGISTER_WORDS[correction.registerKind]} of row ${correction.row} was keyed and read back.`,
      why: correction.reason,
      ...(keyed ? { detail: { keyed } } : {}),
    }),
  );
  await append(
    db,
    entry.correction('applied', {
      ...common,
      said: `${correction.feature}: the control shows ${signed(correction)}.`,
    }),
  );
  await countWear(db, asking.personId, correction);
  return { kept: true };
}

const neighboursOf = (db: Db, correction: Correction) =>
  rows<{ row: number; value: Length }>(
    db,
    'SELECT row, value FROM register WHERE machine_id = $1 AND kind = $2 AND row IN ($3, $4) AND value <> 0',
    [correction.machineId, correction.registerKind, correction.row - 1, correction.row + 1],
  );

/** The NC text that sets these registers of one machine, from its dialect, in the order of its screen; null when the profile has none. */
export const keyText = (machine: Pick<Machine, 'dialect' | 'unit'>, corrections: readonly Correction[]) =>
  registerProgram(machine.dialect, machine.unit, corrections.toSorted(screenOrder))?.join('\n') ?? null;

/**
 * Somebody read a row off the control whose correction did not do what was asked. As recorded: the row is free again, and the
 * tool or the rougher is to be looked at. Otherwise what it shows is written down, and what was known of its edge ends there.
 */
export function clearRow(asking: Asking, proposalId: number, shown: Length) {
  return once(asking, 'clearRow', { proposalId, shown }, async (db): Promise<{ asRecorded: boolean }> => {
    const correction = await lockedCorrection(db, proposalId);
    if (correction.state !== 'applied' && correction.state !== 'superseded')
      throw new Refused(`This correction ${CLOSED_WORDS[correction.state]}.`);
    const common = { personId: asking.personId, machineId: correction.machineId, tool: correction.tool };
    const said = `Row ${correction.row} was read off the control: ${formatLength(shown, correction.unit, { sign: 'always', decimals: registerDecimals(correction.unit, correction.increment) })}`;
    if (shown !== correction.present) {
      await append(
        db,
        entry.register('found', {
          ...common,
          registerId: correction.registerId,
          before: correction.present,
          after: shown,
          said: `${said}, not as recorded.`,
          why: correction.tookWords ?? 'It was read after a correction was overtaken.',
        }),
      );
      return { asRecorded: false };
    }
    if (correction.state === 'applied')
      await append(db, entry.correction('cleared', { ...common, proposalId, said: `${said}, as recorded.` }));
    return { asRecorded: true };
  });
}
