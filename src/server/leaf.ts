import { differingControls } from './control-differing.ts';
import { crossedSince } from './crossed-moves.ts';
import { CROSSED_DAYS, spokenFrom, spokenOf, STRAY_DAYS } from './handover.ts';
import { notesOf, openNotes } from './leaf-notes.ts';
import type { Person } from '../core/people/roles.ts';
import { whatCame, type Came, type ToolEvent } from '../core/shift/came.ts';
import { neighbours, shiftAt, shiftByKey, type Shift } from '../core/shift/calendar.ts';
import type { LeafData, Signature, SignedState } from '../core/shift/leaf.ts';
import { mostUrgent } from '../core/shift/run-out.ts';
import { aheadOf, shelvesAhead } from './ahead.ts';
import { belowMinimum } from './components.ts';
import { cellOf, type Cell } from './cell.ts';
import { openCorrections, strayCorrections } from './corrections.ts';
import { openFirstParts } from './brought-in.ts';
import { forecast } from './forecast.ts';
import { happenedIn, type Happened } from './happened.ts';
import { lackedByJobs, unmeasured } from './tools-of-jobs.ts';
import { pool, row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { once, type Asking } from './once.ts';
import { oneReading } from './one-reading.ts';
import { Refused } from './outcome.ts';
import { heldBack } from './quarantine.ts';
import { openRenewals } from './renewals.ts';

const DAY = 86_400_000;
/** Entries of a shift that stand on its leaf. */
const HAPPENED = 200;

/** A leaf with the entries of its shift as they happened. */
type Leaf = LeafData & { happened: Happened };

/** The leaf of a shift, or null when the calendar has no such shift. */
export async function leafOf(
  date: string,
  name: string,
  now: Date,
  db: Db = oneReading(pool()),
): Promise<{ cell: Cell; leaf: Leaf } | null> {
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
    crossed,
    notes,
    open,
    renewals,
    short,
    toMeasure,
    lacking,
    firstParts,
    held,
    controls,
    ahead,
    signatures,
    came,
  ] = await Promise.all([
    standing === 'past' ? [] : forecast(db, cell, now),
    standing === 'past' ? [] : openCorrections(db),
    standing === 'past' ? [] : strayCorrections(db, new Date(now.getTime() - STRAY_DAYS * DAY)),
    happenedIn(db, shift.start, shift.end, HAPPENED),
    standing === 'past' ? [] : crossedSince(db, new Date(now.getTime() - CROSSED_DAYS * DAY)),
    notesOf(db, shift.key),
    openNotes(db),
    standing === 'past' ? [] : openRenewals(db),
    standing === 'past' ? [] : belowMinimum(db),
    standing === 'past' ? [] : unmeasured(db),
    standing === 'past' ? [] : lackedByJobs(db),
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
  const leaf: Omit<Leaf, 'spoken'> = {
    shift,
    standing,
    forecast: predicted,
    waiting,
    stray,
    happened,
    crossed,
    notes,
    questions: open.filter(({ kind }) => kind === 'question'),
    promises: open.filter(({ kind }) => kind === 'promise'),
    renewals,
    short,
    toMeasure,
    lacking,
    firstParts,
    heldBack: held,
    controls,
    ahead,
    signatures,
    came,
  };
  const { after } = neighbours(shift, cell.patterns, cell.timeZone);
  const told = signatures.find(({ side }) => side === 'leaving')?.state.spoken;
  return {
    cell,
    leaf: {
      ...leaf,
      // of a past leaf what was said then; one that ended just now and was not handed over yet is told as things stand
      spoken:
        standing === 'present'
          ? await spokenFrom(db, cell, leaf, shift, now)
          : standing === 'past' && !told && after?.key === present?.key
            ? await spokenOf(db, cell, shift, now)
            : (told ?? []),
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
            OR (l.kind = 'life' AND l.stage = 'renewed' AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = l.id)) OR (l.kind = 'placement' AND l.stage = 'out'))
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

/** Signs a leaf for one side. The one who leaves signs first; the one who comes is somebody else. */
export async function signLeaf(
  asking: Asking,
  person: Person,
  leafKey: string,
  side: 'leaving' | 'coming',
  now: Date,
) {
  const [date, name] = leafKey.split('/') as [string, string];
  return once(
    { key: asking.key, personId: asking.personId },
    'signLeaf',
    { leafKey, side, signer: person.id },
    async (db) => {
      const cell = await cellOf(db);
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
        JSON.stringify(await signedState(db, cell, now, await spokenOf(db, cell, shift, now))),
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

async function signedState(db: Db, cell: Cell, now: Date, spoken: string[]): Promise<SignedState> {
  const predicted = await forecast(db, cell, now);
  const counts = (await row<{ waiting: number; questions: number }>(
    db,
    `SELECT (SELECT count(*)::integer FROM proposal WHERE open) AS waiting,
            (SELECT count(*)::integer FROM leaf_note n WHERE n.kind = 'question' AND NOT EXISTS (SELECT 1 FROM leaf_answer a WHERE a.note_id = n.id)) AS questions`,
  ))!;
  return {
    ...counts,
    spoken,
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
