import { TZDate } from '@date-fns/tz';

/** One shift of the week: a name, when its bell rings in local time, how long it lasts, on which days it starts. */
export interface ShiftPattern {
  id: number;
  name: string;
  /** Minutes after local midnight at which it starts. */
  startMinute: number;
  /** Wall-clock minutes until it ends; may run past midnight. */
  lengthMinutes: number;
  /** Days on which it starts: 0 Sunday … 6 Saturday. */
  days: readonly number[];
  /** First and last day of these hours, yyyy-mm-dd; without a last day they go on. */
  since?: string;
  until?: string | null;
  /** Days on which it does not run though the week says so, and days on which it runs though the week does not. */
  off?: readonly string[];
  also?: readonly string[];
}

/** A shift on a day: the unit of record. `key` is what its page is called, e.g. `2026-11-23/late`. */
export interface Shift {
  key: string;
  /** Local date on which it starts, yyyy-mm-dd. */
  date: string;
  name: string;
  start: Date;
  end: Date;
}

const DAY = 86_400_000;

/** Bells worked out before: each is asked for again and again, and the rules of a time zone are dear to ask. */
const bells = new Map<string, number>();
const BELLS = 20_000;

/** The instant of a local wall-clock time. Across a change of the clocks the wall clock wins: a bell rings by it. */
export function instantOf(date: string, minute: number, timeZone: string): Date {
  const key = `${date} ${minute} ${timeZone}`;
  let at = bells.get(key);
  if (at === undefined) {
    const [year, month, day] = date.split('-').map(Number) as [number, number, number];
    at = new TZDate(year, month - 1, day, 0, minute, 0, timeZone).getTime();
    if (bells.size >= BELLS) bells.clear();
    bells.set(key, at);
  }
  return new Date(at);
}

export function localDate(at: Date, timeZone: string): string {
  const local = new TZDate(at.getTime(), timeZone);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${local.getFullYear()}-${two(local.getMonth() + 1)}-${two(local.getDate())}`;
}

/**
 * The next time between two wall-clock minutes that is not over yet, from now on where it has begun. An end at or before the beginning is
 * of the next day.
 */
export function nextBetween(
  now: Date,
  fromMinute: number,
  toMinute: number,
  timeZone: string,
): { from: Date; to: Date } {
  const until = toMinute <= fromMinute ? toMinute + 1440 : toMinute;
  const today = localDate(now, timeZone);
  const [first] = [-1, 0, 1]
    .map((days) => nextDate(today, days))
    .map((date) => ({
      from: instantOf(date, fromMinute, timeZone),
      to: instantOf(date, until, timeZone),
    }))
    .filter(({ to }) => to > now);
  return { from: first!.from < now ? now : first!.from, to: first!.to };
}

export function shiftOn(date: string, pattern: ShiftPattern, timeZone: string): Shift {
  return {
    key: `${date}/${pattern.name.toLowerCase()}`,
    date,
    name: pattern.name,
    start: instantOf(date, pattern.startMinute, timeZone),
    end: instantOf(date, pattern.startMinute + pattern.lengthMinutes, timeZone),
  };
}

/** Whether a shift starts on a day: by the week, by its exceptions, and within the time for which its hours hold. */
export function runsOn(date: string, { days, since, until, off, also }: ShiftPattern): boolean {
  if ((since && date < since) || (until && date > until)) return false;
  if (off?.includes(date)) return false;
  return also?.includes(date) || days.includes(weekday(date));
}

const weekday = (date: string) => new Date(`${date}T00:00:00Z`).getUTCDay();
const nextDate = (date: string, days = 1) =>
  new Date(Date.parse(`${date}T00:00:00Z`) + days * DAY).toISOString().slice(0, 10);

/** Every shift that overlaps [from, to), in order of start. */
export function shiftsBetween(
  from: Date,
  to: Date,
  patterns: readonly ShiftPattern[],
  timeZone: string,
): Shift[] {
  const found: Shift[] = [];
  const last = nextDate(localDate(to, timeZone));
  for (let date = nextDate(localDate(from, timeZone), -2); date <= last; date = nextDate(date))
    for (const pattern of patterns) {
      if (!runsOn(date, pattern)) continue;
      const shift = shiftOn(date, pattern, timeZone);
      if (shift.end > from && shift.start < to) found.push(shift);
    }
  return found.sort((a, b) => a.start.getTime() - b.start.getTime());
}

/** The shift running at an instant; between shifts the one that comes next; null when none comes within a fortnight. */
export function shiftAt(at: Date, patterns: readonly ShiftPattern[], timeZone: string): Shift | null {
  const near = shiftsBetween(at, new Date(at.getTime() + 14 * DAY), patterns, timeZone);
  const running = near.filter((shift) => shift.start <= at);
  return running.at(-1) ?? near[0] ?? null;
}

/** The shift of a page's address, or null when the calendar has no such shift on that day. */
export function shiftByKey(
  date: string,
  name: string,
  patterns: readonly ShiftPattern[],
  timeZone: string,
): Shift | null {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date) || Number.isNaN(Date.parse(`${date}T00:00:00Z`))) return null;
  const pattern = patterns.find(
    (candidate) => candidate.name.toLowerCase() === name.toLowerCase() && runsOn(date, candidate),
  );
  return pattern ? shiftOn(date, pattern, timeZone) : null;
}

/** The shifts before and after one. */
export function neighbours(shift: Shift, patterns: readonly ShiftPattern[], timeZone: string) {
  const around = shiftsBetween(
    new Date(shift.start.getTime() - 7 * DAY),
    new Date(shift.end.getTime() + 7 * DAY),
    patterns,
    timeZone,
  );
  const here = around.findIndex((candidate) => candidate.key === shift.key);
  return { before: around[here - 1] ?? null, after: around[here + 1] ?? null };
}

/**
 * The first two shifts of a fortnight from a day on that run at the same time, as words; null when none do. Told by the wall clock: a
 * change of the clocks makes no two bells one.
 */
export function overlapping(patterns: readonly ShiftPattern[], from: string): string | null {
  const start = new Date(`${from}T00:00:00Z`);
  const all = shiftsBetween(start, new Date(start.getTime() + 14 * DAY), patterns, 'UTC');
  for (let i = 1; i < all.length; i += 1)
    if (all[i]!.start < all[i - 1]!.end)
      return `${all[i - 1]!.name} of ${all[i - 1]!.date} and ${all[i]!.name} of ${all[i]!.date}`;
  return null;
}
