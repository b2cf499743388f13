import { firstPart } from '../core/correction/first-part.ts';
import type { FirstEvent, FirstState, Stage } from '../core/correction/first-part-state.ts';
import {
  firstPlanFault,
  FIRST_SCHOOL_WORDS,
  stopFor,
  type FirstPlan,
  type FirstSize,
  type Stop,
} from '../core/correction/first-part-plan.ts';
import { questionReading } from '../core/correction/question-reading.ts';
import { registerProgram, screenOrder } from '../core/correction/register-text.ts';
import { gaugeFault, type Material } from '../core/inspection/gauge.ts';
import { stockSense, toleranceWidth } from '../core/inspection/feature.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { entry } from '../core/ledger/entry.ts';
import { localDate } from '../core/shift/calendar.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import { nanometres, type Length } from '../core/units/length.ts';
import { cellOf } from './cell.ts';
import { withdrawFor } from './brought-in.ts';
import { row, rows, type Db } from './db.ts';
import { planFor, type BegunFirstPart } from './first-part-plan.ts';
import { gaugeNamed } from './gauges.ts';
import { runningJob } from './jobs.ts';
import { append } from './ledger.ts';
import { lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { callsOf, featureById, featuresOf, programById, type Feature } from './programs.ts';
import type { RowRead } from '../core/correction/read-back.ts';
import { readRows, type RowShown, type RowToKey } from './read-rows.ts';
import { atTwenty, databaseNow, insertReading } from './readings.ts';

interface Kept {
  id: number;
  programId: number;
  program: string;
  jobId: number | null;
  part: number;
  plan: FirstPlan;
  features: number[];
  registers: number[];
  since: number;
  begunBy: string;
  begunAt: Date;
}

/** What was done so far, by whom. */
export interface FirstDone {
  n: number;
  event: FirstEvent;
  said: string;
  person: string;
  at: Date;
}

/** A first part that is being brought in, as everybody may take it up. */
export interface OpenFirstPart extends Omit<Kept, 'since'> {
  done: FirstDone[];
  state: FirstState;
  /** Somebody else's act in its rows or edges: what was measured was cut with other offsets, and it is begun anew. */
  disturbed: string | null;
  toKey: (RowToKey & { why: string })[];
  text: string | null;
  /** Where to stop for a measurement, by size. */
  stops: { rough: Stop | null; finish: Stop | null }[];
}

const keptOf = (db: Db, machineId: number) =>
  row<Kept>(
    db,
    `SELECT f.id, f.program_id AS "programId", g.number || ' ' || g.title AS program, f.job_id AS "jobId", f.part, f.plan, f.features, f.registers,
            f.since, p.name AS "begunBy", f.begun_at AS "begunAt"
     FROM first_part f JOIN program g ON g.id = f.program_id JOIN person p ON p.id = f.begun_by
     WHERE f.machine_id = $1 AND f.state = 'open'`,
    [machineId],
  );

/** The first part that is being brought in on a machine, and what is next; null: none is. */
export async function openFirstPart(db: Db, machine: Machine): Promise<OpenFirstPart | null> {
  const kept = await keptOf(db, machine.id);
  if (!kept) return null;
  const done = await rows<FirstDone>(
    db,
    `SELECT e.n, e.event, e.said, p.name AS person, e.at FROM first_part_event e JOIN person p ON p.id = e.person_id
     WHERE e.first_part_id = $1 ORDER BY e.n`,
    [kept.id],
  );
  const { plan, registers } = kept;
  const state = firstPart(
    plan,
    done.map(({ event }) => event),
  );
  const present = await rows<{ id: number; value: Length }>(
    db,
    'SELECT id, value FROM register WHERE id = ANY($1)',
    [registers],
  );
  const calls = await callsOf(db, kept.programId);
  const disturbed = await disturbance(db, machine.id, kept);
  const valueOf = new Map(present.map(({ id, value }) => [id, value]));
  const toKey =
    state.step.do === 'key'
      ? state.step.rows
          .map(({ register, change, why }) => {
            const { row: number, role } = plan.registers[register]!;
            const from = valueOf.get(registers[register]!)!;
            return {
              registerId: registers[register]!,
              row: number,
              registerKind: role,
              from,
              to: nanometres(from + change),
              why,
            };
          })
          .sort(screenOrder)
      : [];
  return {
    id: kept.id,
    programId: kept.programId,
    program: kept.program,
    jobId: kept.jobId,
    part: kept.part,
    features: kept.features,
    registers,
    begunBy: kept.begunBy,
    begunAt: kept.begunAt,
    plan,
    done,
    state,
    disturbed,
    toKey,
    text: registerProgram(machine.dialect, machine.unit, toKey)?.join('\n') ?? null,
    stops: plan.sizes.map((size) => ({
      rough: stopFor(calls, size, 'rough'),
      finish: stopFor(calls, size, 'finish'),
    })),
  };
}

/** What somebody else did to its rows or edges since it was begun. */
async function disturbance(db: Db, machineId: number, kept: Kept): Promise<string | null> {
  const { plan } = kept;
  const used = plan.registers.map((each) => each.row);
  const tools = [...new Set(plan.sizes.flatMap(({ tool, rough }) => [tool, ...(rough ? [rough.tool] : [])]))];
  const found = await row<{ said: string; person: string }>(
    db,
    `SELECT l.said, p.name AS person FROM ledger l JOIN person p ON p.id = l.person_id LEFT JOIN register g ON g.id = l.register_id
     WHERE l.machine_id = $1 AND l.id > $2
       AND (l.kind = 'register' AND g.row = ANY($3) AND l.detail ->> 'firstPart' IS DISTINCT FROM $4::text
            OR l.tool = ANY($5) AND (l.kind = 'placement' AND l.stage IN ('in', 'out') OR l.kind = 'life' AND l.stage = 'renewed'
                                     OR l.kind = 'assembly' AND l.stage IN ('indexed', 'reground'))
            OR l.kind = 'machine' AND l.stage = 'group' AND (l.detail -> 'took' ->> 'from')::integer = ANY($5)
            -- it sits otherwise, or was taken out for another job; on pallets it stays where it is
            OR l.kind = 'program' AND l.stage = 'set up' AND l.program_id = $6
            OR l.kind = 'program' AND l.stage IN ('started', 'taken up') AND l.program_id <> $6
              AND NOT EXISTS (SELECT 1 FROM pallet q WHERE q.machine_id = $1))
     ORDER BY l.id LIMIT 1`,
    [machineId, kept.since, used, kept.id, tools, kept.programId],
  );
  return found && `${found.said} (${found.person})`;
}

/** Begins to bring a first part to size: one at a time on a machine. */
export function beginFirstPart(asking: Asking, machine: Machine, begun: BegunFirstPart) {
  return once(asking, 'beginFirstPart', { machineId: machine.id, ...begun }, async (db) => {
    await lockMachine(db, machine.id);
    const program = await programById(db, begun.programId);
    if (!program || program.machineId !== machine.id) throw new Refused('Choose a program of this machine.');
    if ((await featuresOf(db, machine.id, program.number)).length === 0)
      throw new Refused(`${program.number} has no measuring plan.`);
    const { plan, registers } = await planFor(db, machine, begun);
    const fault = firstPlanFault(plan);
    if (fault) throw new Refused(fault);
    const running = await runningJob(db, machine.id);
    const job = running?.programId === program.id ? running : null;
    await db.query(
      `INSERT INTO first_part (machine_id, program_id, job_id, part, plan, features, registers, since, begun_by)
       VALUES ($1, $2, $3, $4, $5, $6, $7, (SELECT coalesce(max(id), 0) FROM ledger), $8)`,
      [
        machine.id,
        program.id,
        job?.id ?? null,
        (job?.made ?? 0) + 1,
        JSON.stringify(plan),
        begun.sizes.map(({ featureId }) => featureId),
        registers,
        asking.personId,
      ],
    );
    await withdrawFor(db, asking.personId, machine.id, { program: program.number, registers });
    await tell(
      db,
      asking.personId,
      machine,
      `The first part of ${program.number} is brought to size: ${FIRST_SCHOOL_WORDS[begun.school].name.toLowerCase()}.`,
    );
  });
}

const tell = (db: Db, personId: number, machine: Machine, said: string, why = '') =>
  append(db, entry.machine('firstPart', { personId, machineId: machine.id, said, why }));

/** The open one, held: whoever acts at the same time waits and then sees what was done. */
async function held(db: Db, machine: Machine, id: number): Promise<OpenFirstPart> {
  await lockMachine(db, machine.id);
  const open = await openFirstPart(db, machine);
  if (open?.id !== id) throw new Refused('This first part was finished or dropped meanwhile. Look again.');
  return open;
}

const add = (db: Db, open: OpenFirstPart, personId: number, event: FirstEvent, said: string) =>
  db.query(
    'INSERT INTO first_part_event (first_part_id, n, event, said, person_id) VALUES ($1, $2, $3, $4, $5)',
    [open.id, open.done.length + 1, JSON.stringify(event), said, personId],
  );

const stopped = (open: OpenFirstPart) => {
  if (open.disturbed)
    throw new Refused(
      `${open.disturbed} What was measured was cut with other offsets: drop this first part and begin anew.`,
    );
};

export interface MeasuredFirst {
  id: number;
  size: number;
  stage: Stage;
  /** Null: it cannot be measured now. */
  measured: Length | null;
  confirmed: boolean;
  warm?: { celsius: number; part: Material; gauge: Material } | null;
}

const STAGE_WORDS: Readonly<Record<Stage, string>> = {
  rough: 'after the rougher',
  finish: 'after the finisher',
  off: 'off the machine',
};

/** Takes one measurement of a first part; `doubt`: it is to be measured again before it counts. */
export function measureFirst(asking: Asking, machine: Machine, given: MeasuredFirst) {
  return once(asking, 'measureFirst', given, async (db): Promise<{ doubt: string | null }> => {
    const open = await held(db, machine, given.id);
    stopped(open);
    const { step } = open.state;
    const task =
      step.do === 'measure'
        ? step.tasks.find((each) => each.size === given.size && each.stage === given.stage)
        : undefined;
    const size = open.plan.sizes[given.size];
    if (!size) throw new Refused('There is no such size.');
    if (!task) {
      const by = open.done.findLast(
        ({ event }) => 'size' in event && event.size === given.size && event.stage === given.stage,
      );
      throw new Refused(by ? `${by.person} did this already: ${by.said}` : 'This is not to be measured now.');
    }
    if (given.measured === null) {
      const said = `${size.name} ${STAGE_WORDS[given.stage]}: cannot be measured now.`;
      await tell(db, asking.personId, machine, said);
      await add(db, open, asking.personId, { what: 'skipped', size: given.size, stage: given.stage }, said);
      return { doubt: null };
    }
    const feature = (await featureById(db, open.features[given.size]!))!;
    await gaugeMustServe(db, feature);
    const taken = atTwenty({
      featureId: feature.id,
      programId: open.programId,
      jobId: open.jobId,
      part: open.part,
      measured: given.measured,
      confirmed: given.confirmed,
      firstOff: true,
      // it is put back and cut again until it is right: each reading is of what the rows held when it was made
      recut: true,
      warm: given.warm ?? null,
    });
    const expected = task.expected ?? size.target;
    const doubt = given.confirmed ? null : doubtOf(open, size, expected, taken.measured, given.stage);
    const words = `${size.name} ${STAGE_WORDS[given.stage]}: ${formatWithUnit(taken.measured, machine.unit)}`;
    if (given.stage === 'rough')
      await tell(
        db,
        asking.personId,
        machine,
        `${words}${doubt ? ', to be measured again' : ''}.`,
        doubt ?? '',
      );
    else await insertReading(db, asking.personId, taken, doubt, feature, machine);
    if (doubt) return { doubt };
    await add(
      db,
      open,
      asking.personId,
      { what: 'measured', size: given.size, stage: given.stage, measured: taken.measured },
      `${words}.`,
    );
    return { doubt: null };
  });
}

/** A gauge that is overdue or too coarse corrects nothing: another one is taken. */
async function gaugeMustServe(db: Db, feature: Feature): Promise<void> {
  const gauge = feature.gauge === '' ? null : await gaugeNamed(db, feature.gauge);
  if (!gauge) return;
  const { timeZone } = await cellOf(db);
  const fault = gaugeFault(gauge, toleranceWidth(feature), localDate(await databaseNow(db), timeZone));
  if (fault) throw new Refused(fault);
}

/** A first cut may lie off by as much as the tool was kept away, later ones by their tolerance: beyond that a slip is looked for. */
function doubtOf(
  open: OpenFirstPart,
  size: FirstSize,
  expected: Length,
  measured: Length,
  stage: Stage,
): string | null {
  const width = toleranceWidth(size);
  const open1 = open.state.cuts === 1 && stage !== 'off';
  const stand = open1 ? Math.max(width, size.allowance, size.rough?.stock ?? 0) : width;
  const { unit } = open.plan;
  return questionReading({
    measured,
    expected,
    deviation: stand / 2,
    open: true,
    lower: nanometres(expected - stand),
    upper: nanometres(expected + stand),
    unit,
    others: open.plan.sizes
      .filter((each) => each !== size)
      .map((each) => ({
        name: each.name,
        target: nanometres(each.target + stockSense(each.kind) * (open1 ? each.allowance : 0)),
        width: toleranceWidth(each),
      })),
  });
}

/** Takes what the rows show after keying: each that is right is on record, and the sequence goes on when all are. */
export function keyFirst(
  asking: Asking,
  machine: Machine,
  given: { id: number; shown: readonly RowShown[] },
) {
  return once(asking, 'keyFirst', given, async (db): Promise<RowRead[]> => {
    const open = await held(db, machine, given.id);
    stopped(open);
    const answers = await readRows(db, asking.personId, machine, open.toKey, given.shown, {
      stage: 'corrected',
      said: 'was keyed for a first part and read back.',
      why: ({ registerId }) => open.toKey.find((each) => each.registerId === registerId)!.why,
      detail: { firstPart: open.id },
    });
    const kept = open.toKey.filter(({ registerId }) =>
      answers.some((each) => each.kept && each.registerId === registerId),
    );
    if (kept.length > 0)
      await add(
        db,
        open,
        asking.personId,
        {
          what: 'keyed',
          changes: kept.map(({ registerId, from, to }) => ({
            register: open.registers.indexOf(registerId),
            change: nanometres(to - from),
          })),
        },
        kept
          .map(
            ({ row: number, registerKind, to }) =>
              `${REGISTER_WORDS[registerKind]} of row ${number}: ${formatWithUnit(to, machine.unit, { sign: 'always' })}`,
          )
          .join(', '),
      );
    return answers;
  });
}

/** Somebody looked at what made it halt, and says what was found. */
export function lookedFirst(asking: Asking, machine: Machine, given: { id: number; found: string }) {
  return once(asking, 'lookedFirst', given, async (db) => {
    const open = await held(db, machine, given.id);
    stopped(open);
    const { step } = open.state;
    if (step.do !== 'halt' || step.final) throw new Refused('Nothing is to be looked at now.');
    await tell(db, asking.personId, machine, step.reason, given.found);
    await add(db, open, asking.personId, { what: 'looked' }, `Looked: ${given.found}`);
  });
}

/** Ends it: done when all of it is, dropped with a reason otherwise; what was keyed stays as it is. */
export function endFirstPart(asking: Asking, machine: Machine, given: { id: number; why: string | null }) {
  return once(asking, 'endFirstPart', given, async (db) => {
    const open = await held(db, machine, given.id);
    const finished = given.why === null;
    const right = open.state.step.do === 'done' && open.state.step.right;
    if (finished && (open.state.step.do !== 'done' || open.disturbed))
      throw new Refused('It is not finished yet.');
    await db.query(`UPDATE first_part SET state = $2, ended_at = tin_now() WHERE id = $1`, [
      open.id,
      finished ? 'done' : 'dropped',
    ]);
    await tell(
      db,
      asking.personId,
      machine,
      `The first part of ${open.program} ${!finished ? 'was dropped' : right ? 'is brought to size' : 'was ended, and not all of it is known to be in its limits'}.`,
      given.why ?? '',
    );
  });
}
