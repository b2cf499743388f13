import { z } from 'zod';
import { minuteOfDay } from '$core/shift/written-time';
import { localDate } from '$core/shift/calendar';
import { cellNow } from '$server/clock';
import { cellOf, endShift, exceptionsFrom, nameCell, setException, setShift } from '$server/cell';
import { pool } from '$server/db';
import { act, ticked, words } from '../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async () => {
  const cell = await cellOf(pool());
  const now = cellNow();
  return {
    shifts: cell.patterns.filter((each) => !each.until || each.until >= localDate(now, cell.timeZone)),
    exceptions: await exceptionsFrom(pool(), localDate(now, cell.timeZone)),
    tomorrow: localDate(new Date(now.getTime() + 86_400_000), cell.timeZone),
    zones: [...new Set(['UTC', cell.timeZone, ...Intl.supportedValuesOf('timeZone')])].sort(),
  };
};

const date = z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'Choose a day.');
const shiftName = z
  .string({ error: 'The shift has no name.' })
  .trim()
  .regex(/^[A-Za-z][A-Za-z0-9-]{0,19}$/, 'A shift’s name is one word of letters and digits, such as Early.');
const clock = (what: string) =>
  z.string().transform((text, context) => {
    const minute = minuteOfDay(text);
    if (minute === null) context.addIssue({ code: 'custom', message: `${what} is a time such as 06:00.` });
    return minute ?? z.NEVER;
  });
const DAYS = [0, 1, 2, 3, 4, 5, 6] as const;

export const actions: Actions = {
  name: act(z.object({ name: words('The name', 60), timeZone: z.string().max(60) }), ({ input, asking }) =>
    nameCell(asking, input),
  ),
  shift: act(
    z.object({
      name: shiftName,
      begins: clock('The beginning'),
      ends: clock('The end'),
      from: date,
      ...Object.fromEntries(DAYS.map((day) => [`day${day}`, ticked])),
    }),
    ({ input, asking }) => {
      const fields = input as typeof input & Record<string, unknown>;
      // a shift that ends when it began, or before, ends on the next day
      const length = (input.ends - input.begins + 1440) % 1440 || 1440;
      return setShift(
        asking,
        {
          name: input.name,
          startMinute: input.begins,
          lengthMinutes: length,
          days: DAYS.filter((day) => fields[`day${day}`]),
          from: input.from,
        },
        cellNow(),
      );
    },
  ),
  end: act(z.object({ name: shiftName, last: date }), ({ input, asking }) =>
    endShift(asking, input, cellNow()),
  ),
  exception: act(
    z.object({
      name: shiftName,
      date,
      runs: z.enum(['yes', 'no', 'week']),
      why: z.string().trim().max(120).default(''),
    }),
    ({ input, asking }) =>
      setException(
        asking,
        {
          date: input.date,
          name: input.name,
          runs: input.runs === 'week' ? null : input.runs === 'yes',
          why: input.why,
        },
        cellNow(),
      ),
  ),
};
