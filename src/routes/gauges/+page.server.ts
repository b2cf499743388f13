import { z } from 'zod';
import { localDate } from '$core/shift/calendar';
import { may } from '$core/people/roles';
import { cellNow } from '$server/clock';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { checkZero, gauges, gaugesUsed, studyOf, writeGauge } from '$server/gauges';
import { Refused } from '$server/outcome';
import { act, id, lengthIn, lengthOrNone, words } from '../action';
import type { Actions, PageServerLoad } from './$types';

/** Gauges are written in mm; an inch may follow the number. */
const UNIT = 'mm' as const;

export const load: PageServerLoad = async ({ locals }) => {
  const [known, used, cell] = await Promise.all([gauges(pool()), gaugesUsed(pool()), cellOf(pool())]);
  const names = new Set(known.map((gauge) => gauge.name.toLowerCase()));
  return {
    gauges: known.map((gauge) => ({
      ...gauge,
      sizes: used
        .filter((each) => each.name.toLowerCase() === gauge.name.toLowerCase())
        .reduce((sum, each) => sum + each.sizes, 0),
    })),
    unlisted: used.filter((each) => !names.has(each.name.toLowerCase())),
    today: localDate(cellNow(), cell.timeZone),
    mayWrite: may(locals.person!.role, 'bringInPlans'),
    mayCheck: may(locals.person!.role, 'takeReadings'),
  };
};

const due = z.union([z.literal('').transform(() => null), z.iso.date('The day is written 2027-03-31.')]);

export const actions: Actions = {
  write: act(
    z.object({
      name: words('The name', 60),
      resolution: lengthIn(UNIT),
      uncertainty: lengthOrNone(UNIT),
      due,
    }),
    ({ input, asking }) => writeGauge(asking, input, UNIT),
  ),
  zero: act(z.object({ gauge: id }), ({ input, asking }) => checkZero(asking, input.gauge)),
  study: act(z.object({ resolution: lengthIn(UNIT), readings: words('The readings', 4000) }), ({ input }) => {
    try {
      return Promise.resolve({ ok: true, value: studyOf(input.readings, input.resolution, UNIT) });
    } catch (problem) {
      if (!(problem instanceof Refused)) throw problem;
      return Promise.resolve({ ok: false, reason: problem.message });
    }
  }),
};
