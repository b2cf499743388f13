import { differingControls } from './control-differing.ts';
import type { Person } from '../core/people/roles.ts';
import { verdictOf } from '../core/readiness/check.ts';
import { whatCame, type Came, type ToolEvent } from '../core/shift/came.ts';
import { neighbours, shiftAt, shiftByKey, shiftsBetween, type Shift } from '../core/shift/calendar.ts';
import type {
  ForecastTool,
  LeafData,
  LeafNote,
  MachineForecast,
  Signature,
  SignedState,
} from '../core/shift/leaf.ts';
import { jobEnds, mostUrgent, runOuts } from '../core/shift/run-out.ts';
import { aheadOf, shelvesAhead } from './ahead.ts';
import { belowMinimum } from './components.ts';
import { cellOf, type Cell } from './cell.ts';
import { openCorrections, strayCorrections } from './corrections.ts';
import { openFirstParts } from './first-parts.ts';
import { pool, row, rows, type Db } from './db.ts';
import { countedTools, type CountedTool } from './counts.ts';
import { asRunning, isWaiting, openJobs, type Job } from './jobs.ts';
import { append, ledgerEntries, type LedgerRow } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { sistersOf } from './now.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { programById } from './programs.ts';
import { heldBack } from './quarantine.ts';
import { readinessOf } from './readiness.ts';
import { openRenewals } from './renewals.ts';

const DAY = 86_400_000;

/** What each machine does next: which tools run out and when, when its job ends, and whether the next one is ready. */
export async function forecast(db: Db, cell: Cell, now: Date): Promise<MachineForecast[]> {
  const stretches = shiftsBetween(now, new Date(now.getTime() + 7 * DAY), cell.patterns, cell.timeZone);
  const jobs = await openJobs(db);
  const machines = await rows<{ id: number; name: string }>(db, 'SELECT id, name FROM machine ORDER BY name');
  const result: MachineForecast[] = [];
  for (const machine of machines) {
    const job = jobs.find((each) => each.machineId === machine.id && each.state === 'running') ?? null;
    const waiting = jobs.find((each) => each.machineId === machine.id && isWaiting(each)) ?? null;
    const tools = job ? await countedTools(db, job) : [];
    const running = job && asRunning(job, tools);
    result.push({
      machineId: machine.id,
      machine: machine.name,
      job,
      ends: running && jobEnds(running, now, stretches),
      runsOut: job ? await toolsRunningOut(db, job, tools, now, stretches) : [],
      next: waiting && (await nextJob(db, waiting)),
    });
  }
  return result;
}

async function toolsRunningOut(
  db: Db,
  job: Job,
  tools: Awaited<ReturnType<typeof countedTools>>,
  now: Date,
  stretches: Shift[],
): Promise<ForecastTool[]> {
  const sisters = await sistersOf(
    db,
    tools.map((tool) => tool.number),
  );
  return runOuts(asRunning(job, tools), now, stretches).flatMap((runOut) => {
    const tool = tools.find((each) => each.tool === runOut.tool)!;
    if (tool.group && !speaks(tool, tools)) return [];
    if (runOut.beyondJob && tool.flag === null) return [];
    return [
      {
        ...tool,
        afterParts: tool.flag === null ? runOut.afterParts : 0,
        at: tool.flag === null ? runOut.at : now,
        sister: sisters.find((each) => each.like === tool.number)?.number ?? null,
      },
    ];
  });
}

/** Of a group one member stands on the list: a broken one, else the one that cuts next, else, with none left, the first. */
function speaks(tool: CountedTool, tools: readonly CountedTool[]): boolean {
  const group = tools.filter((each) => each.group?.number === tool.group!.number);
  const one =
    group.find(({ flag }) => flag === 'broken') ??
    group.find((each) => each.group!.next) ??
    group.sort((a, b) => a.tool - b.tool)[0]!;
  return one.tool === tool.tool;
}

async function nextJob(db: Db, waiting: Job) {
  const program = await programById(db, waiting.programId);
  const findings = program ? await readinessOf(db, program, waiting.quantity - waiting.made) : [];
  return {
    ...waiting,
    verdict: verdictOf(findings),
    findings: findings.filter(({ weight }) => weight !== 'settled').length,
  };
}

const NOTE = `SELECT n.id, n.leaf, n.kind, m.name AS machine, p.name AS person, n.at, n.text, a.text AS answer, q.name AS "answeredBy"
  FROM leaf_note n JOIN person p ON p.id = n.person_id LEFT JOIN machine m ON m.id = n.machine_id
  LEFT JOIN leaf_answer a ON a.note_id = n.id LEFT JOIN person q ON q.id = a.person_id`;

/** A leaf with the entries of its shift as they happened. */
type Leaf = LeafData & { happened: LedgerRow[] };

/** The leaf of a shift, or null when the calendar has no such shift. */
export async function leafOf(
  date: string,
  name: string,
  now: Date,
): Promise<{ cell: Cell; leaf: Leaf } | null> {
  const db = pool();
  const cell = await cellOf(db);
  const shift = shiftByKey(date, name, cell.patterns, cell.timeZone);
  if (!shift) return null;
  const present = shiftAt(now, cell.patterns, cell.timeZone);
  const standing = shift.key === present?.key ? 'present' : shift.start > now ? 'coming' : 'past';
  const [
    predicted,
    waiting,
    stray,
    happened,
    notes,
    questions,
    renewals,
    short,
    toMeasure,
    firstParts,
    held,
    controls,
    ahead,
    signatures,
    came,
  ] = await Promise.all([
    standing === 'past' ? [] : forecast(db, cell, now),
    standing === 'past' ? [] : openCorrections(db),
    standing === 'past' ? [] : strayCorrections(db, new Date(now.getTime() - 2 * DAY)),
    ledgerEntries(db, { from: shift.start, to: shift.end }, 120),
    rows<LeafNote>(db, `${NOTE} WHERE n.leaf = $1 ORDER BY n.id`, [shift.key]),
    rows<LeafNote>(db, `${NOTE} WHERE n.kind = 'question' AND a.note_id IS NULL ORDER BY n.id`),
    standing === 'past' ? [] : openRenewals(),
    standing === 'past' ? [] : belowMinimum(db),
    standing === 'past' ? [] : unmeasured(db),
    standing === 'past' ? [] : openFirstParts(db),
    standing === 'past' ? [] : heldBack(db),
    standing === 'past' ? [] : differingControls(db),
    standing === 'present' ? aheadFor(db, cell, shift, now) : null,
    rows<Signature>(
      db,
      'SELECT s.side, p.name AS person, s.at, s.state FROM leaf_signature s JOIN person p ON p.id = s.person_id WHERE s.leaf = $1',
      [shift.key],
    ),
    standing === 'past' ? cameIn(db, cell, shift) : null,
  ]);
  return {
    cell,
    leaf: {
      shift,
      standing,
      forecast: predicted,
      waiting,
      stray,
      happened,
      notes,
      questions,
      renewals,
      short,
      toMeasure,
      firstParts,
      heldBack: held,
      controls,
      ahead,
      signatures,
      came,
    },
  };
}

/** What is to be had ready until the next shift ends, in short. */
async function aheadFor(db: Db, cell: Cell, shift: Shift, now: Date): Promise<LeafData['ahead']> {
  const { edges } = await aheadOf(db, cell, now);
  const until = neighbours(shift, cell.patterns, cell.timeZone).after?.end ?? shift.end;
  const soon = edges.filter(({ at }) => at <= until);
  return {
    edges: soon.length,
    build: soon.filter(({ ready }) => ready === null).length,
    falls: (await shelvesAhead(db, edges)).flatMap(({ number, below }) =>
      below && below > now ? [{ number, at: below }] : [],
    ),
  };
}

/** What was foreseen for a past shift when it was taken over, and what came of it. */
async function cameIn(db: Db, cell: Cell, shift: Shift): Promise<Came[] | null> {
  const { before } = neighbours(shift, cell.patterns, cell.timeZone);
  if (!before) return null;
  const signed = await row<{ state: SignedState }>(
    db,
    // whoever came signed later than whoever left, and so nearer to the shift
    `SELECT state FROM leaf_signature WHERE leaf = $1 ORDER BY side = 'coming' DESC LIMIT 1`,
    [before.key],
  );
  if (!signed) return null;
  const events = await rows<ToolEvent>(
    db,
    `SELECT m.name AS machine, l.tool, a.number, l.at,
            CASE WHEN l.kind = 'life' THEN 'renewed' WHEN l.kind = 'placement' THEN 'out' ELSE l.detail ->> 'flag' END AS what
     FROM ledger l JOIN assembly a ON a.id = l.assembly_id JOIN machine m ON m.id = l.machine_id
     WHERE l.at >= $1 AND l.at < $2 AND l.tool IS NOT NULL
       AND ((l.kind = 'assembly' AND l.stage = 'flag' AND l.detail ->> 'flag' IN ('expired', 'broken'))
            OR (l.kind = 'life' AND l.stage = 'renewed') OR (l.kind = 'placement' AND l.stage = 'out'))
     ORDER BY l.id`,
    [shift.start, shift.end],
  );
  return whatCame(
    signed.state.runsOut
      .filter((tool) => !tool.flag)
      .map(({ machine, tool, number, at }) => ({
        machine,
        tool,
        number,
        at: at === null ? null : new Date(at),
      })),
    events,
    shift,
  );
}

/** Tools on machines with a job that were loaded and not measured since, and are called by that job. */
export const unmeasured = (db: Db) =>
  rows<Leaf['toMeasure'][number]>(
    db,
    `SELECT m.name AS machine, m.id AS "machineId", s.tool, a.number FROM placement s JOIN machine m ON m.id = s.machine_id JOIN assembly a ON a.id = s.assembly_id
     WHERE EXISTS (SELECT 1 FROM job j JOIN program_call c ON c.program_id = j.program_id WHERE j.machine_id = m.id AND j.state IN ('waiting', 'running', 'paused') AND c.tool = s.tool)
       AND NOT EXISTS (SELECT 1 FROM ledger l WHERE l.kind = 'register' AND l.stage = 'measured' AND l.assembly_id = a.id AND l.machine_id = m.id AND l.id > greatest(s.entry, a.changed_entry))
     ORDER BY m.name, s.tool`,
  );

export interface NewNote {
  leaf: string;
  kind: 'note' | 'question';
  machineId: number | null;
  text: string;
}

export const writeNote = (asking: Asking, note: NewNote) =>
  once(asking, 'writeNote', note, (db) => putNote(db, asking.personId, note));

export async function putNote(db: Db, personId: number, note: NewNote): Promise<void> {
  await db.query(
    'INSERT INTO leaf_note (leaf, kind, machine_id, person_id, text) VALUES ($1, $2, $3, $4, $5)',
    [note.leaf, note.kind, note.machineId, personId, note.text],
  );
  await append(
    db,
    entry.leaf(note.kind, {
      personId,
      machineId: note.machineId,
      said: note.kind === 'note' ? `Note: ${note.text}` : `Not understood: ${note.text}`,
    }),
  );
}

export function answerQuestion(asking: Asking, noteId: number, text: string) {
  return once(asking, 'answerQuestion', { noteId, text }, async (db) => {
    const note = await row<{ text: string; machineId: number | null }>(
      db,
      `SELECT text, machine_id AS "machineId" FROM leaf_note WHERE id = $1 AND kind = 'question'`,
      [noteId],
    );
    if (!note) throw new Refused('There is no such question.');
    const added = await db.query(
      'INSERT INTO leaf_answer (note_id, person_id, text) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING',
      [noteId, asking.personId, text],
    );
    if (added.rowCount === 0) throw new Refused('Somebody has already answered this.');
    await append(
      db,
      entry.leaf('answered', {
        personId: asking.personId,
        machineId: note.machineId,
        said: `"${note.text}" was answered: ${text}`,
      }),
    );
  });
}

/** Signs a leaf for one side. The one who leaves signs first; the one who comes is somebody else. */
export function signLeaf(
  asking: Asking,
  person: Person,
  leafKey: string,
  side: 'leaving' | 'coming',
  now: Date,
) {
  return once(
    { key: asking.key, personId: asking.personId },
    'signLeaf',
    { leafKey, side, signer: person.id },
    async (db) => {
      const cell = await cellOf(db);
      const [date, name] = leafKey.split('/') as [string, string];
      const shift = shiftByKey(date, name ?? '', cell.patterns, cell.timeZone);
      if (!shift) throw new Refused('There is no such leaf.');
      if (shift.start > now)
        throw new Refused('This shift has not begun: there is nothing to hand over yet.');
      const left = await row(db, `SELECT 1 FROM leaf_signature WHERE leaf = $1 AND side = 'leaving'`, [
        leafKey,
      ]);
      if (side === 'coming' && !left) throw new Refused('The one who leaves signs first.');
      await db.query('INSERT INTO leaf_signature (leaf, side, person_id, state) VALUES ($1, $2, $3, $4)', [
        leafKey,
        side,
        person.id,
        JSON.stringify(await signedState(db, cell, now)),
      ]);
      await append(
        db,
        entry.leaf(side === 'leaving' ? 'handed over' : 'taken over', {
          personId: person.id,
          said: `${person.name} ${side === 'leaving' ? 'handed over' : 'took over'} the ${shift.name} shift of ${shift.date}.`,
        }),
      );
    },
  );
}

async function signedState(db: Db, cell: Cell, now: Date): Promise<SignedState> {
  const predicted = await forecast(db, cell, now);
  const counts = (await row<{ waiting: number; questions: number }>(
    db,
    `SELECT (SELECT count(*)::integer FROM proposal_state WHERE state IN ('proposed', 'approved')) AS waiting,
            (SELECT count(*)::integer FROM leaf_note n WHERE n.kind = 'question' AND NOT EXISTS (SELECT 1 FROM leaf_answer a WHERE a.note_id = n.id)) AS questions`,
  ))!;
  return {
    ...counts,
    runsOut: predicted
      .flatMap((machine) => machine.runsOut.map((tool) => ({ ...tool, machine: machine.machine })))
      .sort(mostUrgent)
      .map(({ machine, tool, number, at, afterParts, flag }) => ({
        machine,
        tool,
        number,
        at: at?.toISOString() ?? null,
        afterParts,
        flag,
      })),
  };
}
