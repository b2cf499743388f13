import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { goneSince, lastThere, machineHours } from './machine-hours.ts';
import { afterWorking, workedBetween } from './working-time.ts';

const HOUR = 3_600_000;
const at = (hour: number) => new Date(Date.UTC(2026, 2, 3) + hour * HOUR);
const late = { start: at(14), end: at(22) };
const early = { start: at(30), end: at(38) };

describe('hours of a machine', () => {
  it('are those of the people where it stands between shifts', () => {
    expect(machineHours([late, early], 0)).toEqual([late, early]);
  });
  it('go on for as long as what is loaded lasts, and no longer than until the people are back', () => {
    expect(machineHours([late, early], 3)).toEqual([
      { start: at(14), end: at(25) },
      { start: at(30), end: at(41) },
    ]);
    expect(machineHours([late, early], 8)).toEqual([{ start: at(14), end: at(46) }]);
    expect(machineHours([late, early], 100)).toEqual([{ start: at(14), end: at(138) }]);
  });
  it('a part that is due at half past two comes then where the machine runs on, and after six where it stands', () => {
    const due = (runsOn: number) => afterWorking(at(21), 5.5 * HOUR, machineHours([late, early], runsOn));
    expect(due(8)).toEqual(at(26.5));
    expect(due(4)).toEqual(at(30.5));
    expect(due(0)).toEqual(at(34.5));
  });
  it('is what a look at each minute finds', () => {
    const shift = fc.record({
      gap: fc.integer({ min: 0, max: 30 }),
      length: fc.integer({ min: 1, max: 12 }),
    });
    fc.assert(
      fc.property(
        fc.array(shift, { minLength: 1, maxLength: 5 }),
        fc.integer({ min: 0, max: 40 }),
        (given, runsOn) => {
          let end = 0;
          const shifts = given.map(({ gap, length }) => {
            const start = end + gap;
            end = start + length;
            return { start: at(start), end: at(end) };
          });
          const hours = machineHours(shifts, runsOn);
          for (let each = 0; each < end + 60; each += 0.5) {
            const since = shifts.findLast(({ start }) => start <= at(each));
            const works = since !== undefined && at(each) < new Date(since.end.getTime() + runsOn * HOUR);
            expect(workedBetween(at(each), at(each + 0.5), hours)).toBe(works ? 0.5 * HOUR : 0);
          }
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe('who is there', () => {
  const shifts = [late, early];
  it('is the shift in which it falls, or else the last before', () => {
    expect(lastThere(at(16), shifts)).toBe(late);
    expect(lastThere(at(26), shifts)).toBe(late);
    expect(lastThere(at(30), shifts)).toBe(early);
    expect(lastThere(at(2), shifts)).toBeNull();
  });
  it('is nobody from the end of it on', () => {
    expect(goneSince(at(26), shifts)).toEqual(at(22));
    expect(goneSince(at(22), shifts)).toBeNull();
    expect(goneSince(at(31), shifts)).toBeNull();
    expect(goneSince(at(2), shifts)).toBeNull();
  });
});
