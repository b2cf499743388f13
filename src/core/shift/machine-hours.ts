import type { Working } from './working-time.ts';

const HOUR = 3_600_000;

/**
 * When a machine works: while people are there, and where it runs on without them, so many hours after they have gone, as long as what is
 * loaded lasts.
 *
 * @param shifts in order; those that ended before what is asked about, but less than `runsOn` ago, belong to them
 * @param runsOn hours after a shift; 0: it stands between shifts
 * @returns stretches in order that do not overlap
 */
export function machineHours(shifts: readonly Working[], runsOn: number): Working[] {
  const hours: { start: Date; end: Date }[] = [];
  for (const { start, end } of shifts) {
    const until = new Date(end.getTime() + runsOn * HOUR);
    const last = hours.at(-1);
    if (last && start <= last.end) last.end = until > last.end ? until : last.end;
    else hours.push({ start, end: until });
  }
  return hours;
}

/** The shift in which an instant lies; where nobody is there, the last before it, in which all is to be seen to; null: there was none. */
export const lastThere = <T extends Working>(at: Date, shifts: readonly T[]): T | null =>
  shifts.findLast(({ start }) => start <= at) ?? null;

/** When the people went who are not there at an instant; null: somebody is there, or it is before all shifts. */
export function goneSince(at: Date, shifts: readonly Working[]): Date | null {
  const last = lastThere(at, shifts);
  return last && last.end < at ? last.end : null;
}
