import { describe, expect, it } from 'vitest';
import {
  nextBetween,
  neighbours,
  overlapping,
  shiftAt,
  shiftByKey,
  shiftsBetween,
  type ShiftPattern,
} from './calendar.ts';
import { mostUrgent, runOuts } from './run-out.ts';
import { afterWorking } from './working-time.ts';

const ZONE = 'Europe/Paris';
const days = [1, 2, 3, 4, 5];
const patterns: ShiftPattern[] = [
  { id: 1, name: 'Early', startMinute: 360, lengthMinutes: 480, days },
  { id: 2, name: 'Late', startMinute: 840, lengthMinutes: 480, days },
  { id: 3, name: 'Night', startMinute: 1320, lengthMinutes: 480, days: [0, 1, 2, 3, 4] },
];
describe('the next hours between two times of the wall clock', () => {
  const next = (now: string, from: number, to: number) => {
    const found = nextBetween(new Date(now), from, to, ZONE);
    return [found.from.toISOString(), found.to.toISOString()];
  };
  it('run past midnight, begin now where they have begun, and are of the next day where they are over', () => {
    expect(next('2026-11-30T15:00:00Z', 1320, 360)).toEqual([
      '2026-11-30T21:00:00.000Z',
      '2026-12-01T05:00:00.000Z',
    ]);
    expect(next('2026-11-30T23:30:00Z', 1320, 360)).toEqual([
      '2026-11-30T23:30:00.000Z',
      '2026-12-01T05:00:00.000Z',
    ]);
    expect(next('2026-11-30T04:00:00Z', 1320, 360)).toEqual([
      '2026-11-30T04:00:00.000Z',
      '2026-11-30T05:00:00.000Z',
    ]);
    expect(next('2026-11-30T12:00:00Z', 720, 780)).toEqual([
      '2026-12-01T11:00:00.000Z',
      '2026-12-01T12:00:00.000Z',
    ]);
    expect(next('2026-11-30T12:00:00Z', 600, 600)).toEqual([
      '2026-11-30T12:00:00.000Z',
      '2026-12-01T09:00:00.000Z',
    ]);
  });
  it('go by the wall clock over a change of the clocks', () => {
    expect(next('2026-10-24T15:00:00Z', 1320, 360)).toEqual([
      '2026-10-24T20:00:00.000Z',
      '2026-10-25T05:00:00.000Z',
    ]);
  });
});

const hours = (shift: { start: Date; end: Date }) =>
  (shift.end.getTime() - shift.start.getTime()) / 3_600_000;

describe('the shift calendar', () => {
  it('finds the shift that runs over midnight by the day it started on', () => {
    expect(shiftAt(new Date('2026-11-24T02:00:00Z'), patterns, ZONE)?.key).toBe('2026-11-23/night');
  });
  it('between shifts it is the next one', () => {
    expect(shiftAt(new Date('2026-11-21T12:00:00Z'), patterns, ZONE)?.key).toBe('2026-11-22/night');
  });
  // The clock changes of the European Union: last Sundays of March and October at 01:00 UTC (Directive 2000/84/EC).
  it('a night shift across the clock change in spring lasts seven hours, in autumn nine', () => {
    expect(hours(shiftByKey('2026-03-28', 'night', [{ ...patterns[2]!, days: [6] }], ZONE)!)).toBe(7);
    expect(hours(shiftByKey('2026-10-24', 'night', [{ ...patterns[2]!, days: [6] }], ZONE)!)).toBe(9);
  });
  it('pages are numbered without gaps: every shift is the one after its predecessor', () => {
    const all = shiftsBetween(
      new Date('2026-11-16T00:00:00Z'),
      new Date('2026-11-30T00:00:00Z'),
      patterns,
      ZONE,
    );
    for (let i = 1; i < all.length; i += 1) {
      expect(neighbours(all[i]!, patterns, ZONE).before?.key).toBe(all[i - 1]!.key);
      expect(neighbours(all[i - 1]!, patterns, ZONE).after?.key).toBe(all[i]!.key);
    }
    expect(all.length).toBeGreaterThan(25);
  });
  it('knows no shift on a day off, nor on a day that does not exist', () => {
    expect(shiftByKey('2026-11-22', 'early', patterns, ZONE)).toBeNull();
    expect(shiftByKey('2026-13-45', 'early', patterns, ZONE)).toBeNull();
    expect(shiftByKey('../../etc', 'early', patterns, ZONE)).toBeNull();
  });
});

describe('when a tool runs out', () => {
  const at = (text: string) => new Date(`2026-11-23T${text}Z`);
  const day = [
    { start: at('05:00:00'), end: at('13:00:00') },
    { start: at('15:00:00'), end: at('21:00:00') },
  ];
  it('counts working time only: an hour left of one shift goes on in the next', () => {
    expect(afterWorking(at('12:00:00'), 2 * 3_600_000, day)).toEqual(at('16:00:00'));
    expect(afterWorking(at('03:00:00'), 3_600_000, day)).toEqual(at('06:00:00'));
    expect(afterWorking(at('20:00:00'), 2 * 3_600_000, day)).toBeNull();
  });
  it('12 pieces left at 5 minutes a part are an hour', () => {
    const use = { holes: 4, cutMilliseconds: 60_000, parts: 1 };
    const job = {
      machine: 'Curlew',
      partsToGo: 20,
      unrecorded: 0,
      cycleMilliseconds: 300_000,
      tools: [
        { tool: 3, remaining: 12, basis: 'pieces', use, rule: 'atZero' },
        { tool: 5, remaining: 10, basis: 'holes', use, rule: 'belowZero' },
        { tool: 7, remaining: 100, basis: 'pieces', use, rule: 'atZero' },
        { tool: 9, remaining: 5, basis: 'holes', use: { ...use, holes: 0 }, rule: 'atZero' },
      ],
    } as const;
    const found = runOuts(job, at('06:00:00'), day);
    expect(
      found.map((runOut) => [
        runOut.tool,
        runOut.afterParts,
        runOut.at?.toISOString().slice(11, 16),
        runOut.beyondJob,
      ]),
    ).toEqual([
      [5, 3, '06:15', false],
      [3, 12, '07:00', false],
      [7, 100, '16:20', true],
    ]);
  });
});

describe('working time', () => {
  const at = (hour: number) => new Date(Date.UTC(2026, 0, 5, hour));
  const stretches = [
    { start: at(6), end: at(10) },
    { start: at(12), end: at(14) },
  ];
  const hours = (count: number) => count * 3_600_000;
  it('counts only in the stretches, from where it begins, to the minute they end', () => {
    expect(afterWorking(at(8), hours(1), stretches)).toEqual(at(9));
    expect(afterWorking(at(8), hours(2), stretches)).toEqual(at(10));
    expect(afterWorking(at(8), hours(3), stretches)).toEqual(at(13));
    expect(afterWorking(at(4), hours(1), stretches)).toEqual(at(7));
    expect(afterWorking(at(11), hours(2), stretches)).toEqual(at(14));
    expect(afterWorking(at(11), hours(2) + 1, stretches)).toBeNull();
    expect(afterWorking(at(15), 1, stretches)).toBeNull();
  });
});

it('what asks for somebody first: a broken tool, since its part is suspect, then what is out, then by time', () => {
  const at = (hour: number) => new Date(Date.UTC(2026, 10, 24, hour));
  const tools = [
    { name: 'never', flag: null, at: null },
    { name: 'later', flag: null, at: at(9) },
    { name: 'out', flag: 'expired' as const, at: at(7) },
    { name: 'soon', flag: null, at: at(5) },
    { name: 'broken', flag: 'broken' as const, at: at(8) },
    { name: 'locked', flag: 'locked' as const, at: at(8) },
    { name: 'never either', flag: null, at: null },
  ];
  expect(tools.sort(mostUrgent).map((tool) => tool.name)).toEqual([
    'broken',
    'out',
    'locked',
    'soon',
    'later',
    'never',
    'never either',
  ]);
});

describe('a calendar that changes', () => {
  const week = { id: 1, name: 'Early', startMinute: 360, lengthMinutes: 480, days };
  const keys = (all: readonly ShiftPattern[], from: string, to: string) =>
    shiftsBetween(new Date(`${from}T00:00:00Z`), new Date(`${to}T00:00:00Z`), all, ZONE).map(
      (shift) => shift.key,
    );
  it('a day off has no leaf, a day added has one, and the rest stays', () => {
    const odd = { ...week, off: ['2026-12-25'], also: ['2026-12-26'] };
    expect(keys([odd], '2026-12-24', '2026-12-28')).toEqual(['2026-12-24/early', '2026-12-26/early']);
    expect(shiftByKey('2026-12-25', 'early', [odd], ZONE)).toBeNull();
    expect(shiftByKey('2026-12-26', 'early', [odd], ZONE)?.name).toBe('Early');
  });
  it('new hours hold from their day on; leaves before keep their bells', () => {
    const before = { ...week, until: '2026-11-29' };
    const after = { ...week, id: 2, startMinute: 420, since: '2026-11-30', until: null };
    const start = (date: string) => shiftByKey(date, 'early', [before, after], ZONE)!.start.toISOString();
    expect(start('2026-11-27')).toBe('2026-11-27T05:00:00.000Z');
    expect(start('2026-11-30')).toBe('2026-11-30T06:00:00.000Z');
  });
  it('shifts that would run at the same time are named, those that only touch are not', () => {
    expect(overlapping(patterns, '2026-11-23')).toBeNull();
    const long = { ...patterns[0]!, lengthMinutes: 481 };
    expect(overlapping([long, ...patterns.slice(1)], '2026-11-23')).toBe(
      'Early of 2026-11-23 and Late of 2026-11-23',
    );
    // over midnight, and only on one day of the fortnight
    const extra = {
      ...week,
      id: 4,
      name: 'Extra',
      startMinute: 330,
      lengthMinutes: 60,
      days: [],
      also: ['2026-11-25'],
    };
    expect(overlapping([...patterns.slice(1), extra], '2026-11-23')).toBe(
      'Night of 2026-11-24 and Extra of 2026-11-25',
    );
  });
});
