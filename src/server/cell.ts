import { entry } from '../core/ledger/entry.ts';
import { localDate, overlapping, type ShiftPattern } from '../core/shift/calendar.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

export interface Cell {
  name: string;
  timeZone: string;
  demo: boolean;
  patterns: ShiftPattern[];
}

/** The cell's name, its time zone and its shifts. */
export async function cellOf(db: Db): Promise<Cell> {
  const cell = await row<Omit<Cell, 'patterns'>>(db, 'SELECT name, time_zone AS "timeZone", demo FROM cell');
  const patterns = await rows<ShiftPattern>(
    db,
    `SELECT p.id, p.name, p.start_minute AS "startMinute", p.length_minutes AS "lengthMinutes", p.days, p.since::text, p.until::text,
            ARRAY(SELECT e.date::text FROM shift_exception e WHERE e.name = p.name AND NOT e.runs) AS off,
            ARRAY(SELECT e.date::text FROM shift_exception e WHERE e.name = p.name AND e.runs) AS also
     FROM shift_pattern p ORDER BY p.start_minute, p.since`,
  );
  return { ...(cell ?? { name: 'The cell', timeZone: 'UTC', demo: false }), patterns };
}

const EVERY_DAY = [0, 1, 2, 3, 4, 5, 6];

/** Makes the cell with three shifts of eight hours, when there is none yet. */
export async function makeCell(db: Db, name: string, timeZone: string, demo: boolean): Promise<void> {
  await db.query('INSERT INTO cell (name, time_zone, demo) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [
    name,
    timeZone,
    demo,
  ]);
  await db.query(
    `INSERT INTO shift_pattern (name, start_minute, length_minutes, days)
     VALUES ('Early', 360, 480, $1), ('Late', 840, 480, $1), ('Night', 1320, 480, $1) ON CONFLICT DO NOTHING`,
    [EVERY_DAY],
  );
}

/** Days that are not as the week says, from a day on. */
export const exceptionsFrom = (db: Db, date: string) =>
  rows<{ date: string; name: string; runs: boolean; why: string }>(
    db,
    'SELECT date::text, name, runs, why FROM shift_exception WHERE date >= $1 ORDER BY date, name',
    [date],
  );

const changed = (db: Db, personId: number, said: string, why = '') =>
  append(db, entry.cell('changed', { personId, said, why }));

/** Names the cell and the zone of its bells. The zone is fixed once a leaf was signed: the bells of the past hang on it. */
export function nameCell(asking: Asking, named: { name: string; timeZone: string }) {
  return once(asking, 'nameCell', named, async (db) => {
    const cell = await cellOf(db);
    await askBeforeTakingOver(db, asking, ['cell', 'changed', {}]);
    if (!Intl.supportedValuesOf('timeZone').includes(named.timeZone) && named.timeZone !== 'UTC')
      throw new Refused(
        `"${named.timeZone}" is not a time zone: choose one of the list, such as Europe/Paris.`,
      );
    if (cell.timeZone !== named.timeZone && (await row(db, 'SELECT 1 FROM leaf_signature LIMIT 1')))
      throw new Refused('A leaf has been signed by these bells: the time zone cannot change any more.');
    if (cell.name === named.name && cell.timeZone === named.timeZone)
      throw new Refused('Nothing was changed.');
    await db.query('UPDATE cell SET name = $1, time_zone = $2', [named.name, named.timeZone]);
    await changed(db, asking.personId, `The cell is ${named.name}, in the time zone ${named.timeZone}.`);
  });
}

export interface ShiftHours {
  name: string;
  startMinute: number;
  lengthMinutes: number;
  days: number[];
  /** The first day of these hours. */
  from: string;
}

/** Lets nobody else change the calendar until this transaction ends: whether shifts overlap is asked of all of them. */
const lockCalendar = (db: Db) => db.query(`SELECT pg_advisory_xact_lock(hashtext('shift calendar'))`);

/** The first day that may be changed: the shift that runs keeps its bell. */
const tomorrow = (cell: Cell, now: Date) => localDate(new Date(now.getTime() + 86_400_000), cell.timeZone);

const dayBefore = (date: string) =>
  new Date(Date.parse(`${date}T00:00:00Z`) - 86_400_000).toISOString().slice(0, 10);

async function refuseOverlap(db: Db, from: string): Promise<void> {
  const both = overlapping((await cellOf(db)).patterns, from);
  if (both)
    throw new Refused(`${both} would run at the same time. Change the one first, or the hours of both.`);
}

/** Sets the hours of a shift from a day on, or adds one; what was before stays as it was. */
export function setShift(asking: Asking, hours: ShiftHours, now: Date) {
  return once(asking, 'setShift', hours, async (db) => {
    await lockCalendar(db);
    await askBeforeTakingOver(db, asking, ['cell', 'changed', {}]);
    const cell = await cellOf(db);
    if (hours.from < tomorrow(cell, now))
      throw new Refused(
        `Hours change from ${tomorrow(cell, now)} on at the earliest: today’s leaf keeps its bells.`,
      );
    if (hours.days.length === 0)
      throw new Refused('Choose the days on which it starts; end a shift that no longer runs.');
    const old = cell.patterns.find(
      (each) => each.name.toLowerCase() === hours.name.toLowerCase() && each.until === null,
    );
    const values = [hours.startMinute, hours.lengthMinutes, hours.days];
    if (old && old.since! >= hours.from)
      await db.query(
        'UPDATE shift_pattern SET start_minute = $2, length_minutes = $3, days = $4 WHERE id = $1',
        [old.id, ...values],
      );
    else {
      if (old)
        await db.query('UPDATE shift_pattern SET until = $2 WHERE id = $1', [old.id, dayBefore(hours.from)]);
      await db.query(
        'INSERT INTO shift_pattern (name, start_minute, length_minutes, days, since) VALUES ($1, $2, $3, $4, $5)',
        [old?.name ?? hours.name, ...values, hours.from],
      );
    }
    await refuseOverlap(db, hours.from);
    await changed(db, asking.personId, `The ${hours.name} shift has new hours from ${hours.from} on.`);
  });
}

/** Ends a shift: it runs for the last time on a day. Its leaves stay. */
export function endShift(asking: Asking, ending: { name: string; last: string }, now: Date) {
  return once(asking, 'endShift', ending, async (db) => {
    await lockCalendar(db);
    await askBeforeTakingOver(db, asking, ['cell', 'changed', {}]);
    const cell = await cellOf(db);
    const old = cell.patterns.find((each) => each.name === ending.name && each.until === null);
    if (!old) throw new Refused(`There is no ${ending.name} shift.`);
    if (ending.last < localDate(now, cell.timeZone))
      throw new Refused('A shift that has run cannot be ended before it did.');
    if (ending.last < old.since!) throw new Refused(`It begins on ${old.since}: it cannot end before that.`);
    if (cell.patterns.filter((each) => each.until === null).length === 1)
      throw new Refused('This is the last shift: the cell needs one, or it has no leaf.');
    await db.query('UPDATE shift_pattern SET until = $2 WHERE id = $1', [old.id, ending.last]);
    await changed(db, asking.personId, `The ${ending.name} shift runs for the last time on ${ending.last}.`);
  });
}

/** Says that a shift does not run on a day, or runs though the week does not say so; or takes that back. */
export function setException(
  asking: Asking,
  exception: { date: string; name: string; runs: boolean | null; why: string },
  now: Date,
) {
  return once(asking, 'setException', exception, async (db) => {
    await lockCalendar(db);
    const cell = await cellOf(db);
    const { date, name, runs, why } = exception;
    await askBeforeTakingOver(db, asking, ['cell', 'changed', {}]);
    if (date < tomorrow(cell, now))
      throw new Refused('Only days to come can be changed: the leaf of a day that has begun stays.');
    if (!cell.patterns.some((each) => each.name === name)) throw new Refused(`There is no ${name} shift.`);
    await db.query('DELETE FROM shift_exception WHERE date = $1 AND name = $2', [date, name]);
    if (runs !== null)
      await db.query('INSERT INTO shift_exception (date, name, runs, why) VALUES ($1, $2, $3, $4)', [
        date,
        name,
        runs,
        why,
      ]);
    await refuseOverlap(db, dayBefore(date));
    await changed(
      db,
      asking.personId,
      `The ${name} shift of ${date} ${runs === null ? 'is as the week says again' : runs ? 'runs' : 'does not run'}.`,
      why,
    );
  });
}
