/** Instants written in the cell's time zone. */
const formats = new Map<string, Intl.DateTimeFormat>();

function format(timeZone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = timeZone + JSON.stringify(options);
  let found = formats.get(key);
  if (!found) formats.set(key, (found = new Intl.DateTimeFormat('en-GB', { timeZone, ...options })));
  return found;
}

export const clock = (at: Date, timeZone: string) =>
  format(timeZone, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(at);
export const dayAndClock = (at: Date, timeZone: string) =>
  format(timeZone, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  })
    .format(at)
    .replace(',', '');
export const longDay = (date: string) =>
  format('UTC', { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' }).format(
    new Date(`${date}T12:00:00Z`),
  );
export const dayParts = (date: string) => {
  const at = new Date(`${date}T12:00:00Z`);
  return {
    day: at.getUTCDate(),
    weekday: format('UTC', { weekday: 'long' }).format(at),
    month: format('UTC', { month: 'long', year: 'numeric' }).format(at),
  };
};
/** Same local day: the clock alone; within a week the weekday with it; otherwise the date. */
export const shortTime = (at: Date, now: Date, timeZone: string) => {
  const day = format(timeZone, { dateStyle: 'short' });
  if (day.format(at) === day.format(now)) return clock(at, timeZone);
  if (Math.abs(at.getTime() - now.getTime()) > 6 * 86_400_000) return dayAndClock(at, timeZone);
  return `${format(timeZone, { weekday: 'short' }).format(at)} ${clock(at, timeZone)}`;
};
/** A minute of the day as a clock shows it; past midnight it is the next day's. */
/** The minute of the day of a time written as 06:00; null: it is none. */
export function minuteOfDay(text: string): number | null {
  const [, hours, minutes] = /^([01]\d|2[0-3]):([0-5]\d)$/.exec(text) ?? [];
  return hours === undefined ? null : Number(hours) * 60 + Number(minutes);
}
export const wallClock = (minute: number) =>
  `${String(Math.floor((minute % 1440) / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
/** A month written as 2026-11, in words. */
export const monthOf = (month: string) => dayParts(`${month}-15`).month;
