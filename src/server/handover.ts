import { neighbours, type Shift } from '../core/shift/calendar.ts';
import { handoverWords, type Change, type HandoverFacts } from '../core/shift/handover.ts';
import { shortTime } from '../core/shift/written-time.ts';
import type { Cell } from './cell.ts';
import { differingControls } from './control-differing.ts';
import { openCorrections, strayCorrections } from './corrections.ts';
import { crossedSince } from './crossed-moves.ts';
import { rows, type Db } from './db.ts';
import { openFirstParts } from './brought-in.ts';
import { forecast } from './forecast.ts';
import { together } from './gather.ts';
import { lackedByJobs, unmeasured } from './tools-of-jobs.ts';
import { openNotes } from './leaf-notes.ts';
import { heldBack } from './quarantine.ts';
import { openRenewals } from './renewals.ts';

const DAY = 86_400_000;
/** Two shifts and what came of it: moves that cross each other further back are the ledger's. */
export const CROSSED_DAYS = 4;
/** Corrections that did not do what was asked are told so long. */
export const STRAY_DAYS = 2;

/** What was changed at the machines from one instant to another, in the order of the entries. */
const changesIn = (db: Db, from: Date, to: Date) =>
  rows<Change>(
    db,
    `SELECT m.name AS machine, l.tool, m.unit, m.increment,
            CASE WHEN l.kind = 'register' THEN l.change_value END AS change,
            CASE l.kind WHEN 'register' THEN CASE l.stage WHEN 'corrected' THEN 'corrected' ELSE 'byHand' END
                        WHEN 'life' THEN 'renewed' WHEN 'assembly' THEN 'broken' ELSE l.stage END AS what,
            CASE l.kind WHEN 'register' THEN CASE l.stage WHEN 'corrected' THEN coalesce(f.name, l.why) ELSE l.why END
                        WHEN 'program' THEN CASE l.stage WHEN 'set up' THEN g.number || ', ' || l.why ELSE g.number END ELSE '' END AS "of"
     FROM ledger l JOIN machine m ON m.id = l.machine_id
     LEFT JOIN proposal p ON p.id = l.proposal_id LEFT JOIN feature f ON f.id = p.feature_id
     LEFT JOIN program g ON g.id = l.program_id
     WHERE l.at >= $1 AND l.at < $2
       AND (l.kind = 'register' AND l.stage IN ('corrected', 'found') OR l.kind = 'life' AND l.stage = 'renewed' AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = l.id)
            OR l.kind = 'assembly' AND l.stage = 'flag' AND l.detail ->> 'flag' = 'broken'
            OR l.kind = 'program' AND l.stage IN ('started', 'finished', 'set up'))
     ORDER BY l.id`,
    [from, to],
  );

/** Parts counted at each machine, by when that was typed, and what of them was scrap. */
const madeIn = (db: Db, from: Date, to: Date) =>
  rows<HandoverFacts['made'][number]>(
    db,
    `SELECT m.name AS machine, coalesce(sum(e.parts), 0)::integer AS parts, coalesce(sum(e.scrapped), 0)::integer AS scrapped
     FROM (SELECT c.machine_id, c.parts, 0 AS scrapped FROM count_standing c
           WHERE c.at >= $1 AND c.at < $2::timestamptz + interval '7 days' AND c.told_at >= $1 AND c.told_at < $2
           UNION ALL
           SELECT l.machine_id, 0, (l.detail ->> 'scrapped')::integer FROM ledger l
           WHERE l.kind = 'parts' AND l.stage = 'scrapped' AND l.at >= $1 AND l.at < $2) e
     JOIN machine m ON m.id = e.machine_id
     GROUP BY m.name HAVING sum(e.parts) > 0 OR sum(e.scrapped) > 0 ORDER BY m.name`,
    [from, to],
  );

/** The handover in words, from what waits and what was changed since an instant. */
async function inWords(
  db: Db,
  cell: Cell,
  leaf: HandoverFacts['leaf'],
  from: Date,
  until: Date,
  now: Date,
): Promise<string[]> {
  const { changes, made } = await together(db, {
    changes: () => changesIn(db, from, now),
    made: () => madeIn(db, from, now),
  });
  return handoverWords({ changes, made, until, leaf }, (at) => shortTime(at, now, cell.timeZone));
}

/** The handover as it would be read out now, with what was changed since an instant. */
export async function spokenSince(db: Db, cell: Cell, from: Date, until: Date, now: Date): Promise<string[]> {
  const { notes, ...leaf } = await together(db, {
    notes: () => openNotes(db),
    forecast: () => forecast(db, cell, now),
    waiting: () => openCorrections(db),
    stray: () => strayCorrections(db, new Date(now.getTime() - STRAY_DAYS * DAY)),
    controls: () => differingControls(db),
    crossed: () => crossedSince(db, new Date(now.getTime() - CROSSED_DAYS * DAY)),
    renewals: () => openRenewals(db),
    toMeasure: () => unmeasured(db),
    lacking: () => lackedByJobs(db),
    firstParts: () => openFirstParts(db),
    heldBack: () => heldBack(db),
  });
  const questions = notes.filter(({ kind }) => kind === 'question');
  const promises = notes.filter(({ kind }) => kind === 'promise');
  return inWords(db, cell, { ...leaf, questions, promises }, from, until, now);
}

const untilNext = (cell: Cell, shift: Shift) =>
  neighbours(shift, cell.patterns, cell.timeZone).after?.end ?? shift.end;

/** The same of a leaf that was put together already. */
export const spokenFrom = (db: Db, cell: Cell, leaf: HandoverFacts['leaf'], shift: Shift, now: Date) =>
  inWords(db, cell, leaf, shift.start, untilNext(cell, shift), now);

/** The handover of a shift: what was changed since it began, and what runs out until the next one ends. */
export const spokenOf = (db: Db, cell: Cell, shift: Shift, now: Date) =>
  spokenSince(db, cell, shift.start, untilNext(cell, shift), now);

/**
 * When somebody was last at work: their last entry before the present spell, which begins after hours without one. Null: they
 * have written nothing yet.
 */
export async function lastWorked(db: Db, personId: number, now: Date): Promise<Date | null> {
  const [found] = await rows<{ at: Date | null }>(
    db,
    `SELECT max(at) AS at FROM (
       SELECT at, lead(at, 1, $2::timestamptz) OVER (ORDER BY id) AS next FROM ledger WHERE person_id = $1 AND at > $2::timestamptz - interval '30 days') own
     WHERE next - at >= interval '4 hours'`,
    [personId, now],
  );
  return found?.at ?? null;
}
