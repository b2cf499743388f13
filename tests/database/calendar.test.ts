import { afterAll, beforeEach, expect, it } from 'vitest';
import { cellOf, endShift, exceptionsFrom, nameCell, setException, setShift } from '../../src/server/cell.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { leafOf } from '../../src/server/leaf.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const NOW = new Date('2026-11-24T10:00:00Z');
const hours = (change: object = {}) => ({
  name: 'Early',
  startMinute: 360,
  lengthMinutes: 480,
  days: [1, 2, 3, 4, 5, 6, 0],
  from: '2026-12-01',
  ...change,
});
const startOf = async (date: string) =>
  (await leafOf(date, 'early', NOW))?.leaf.shift.start.toISOString() ?? null;

it('new hours hold from their day on, and leaves before keep theirs', async () => {
  const before = await startOf('2026-11-30');
  done(await setShift(as(cell.lead), hours({ startMinute: 390, lengthMinutes: 450 }), NOW));
  expect(await startOf('2026-11-30')).toBe(before);
  const after = (await startOf('2026-12-01'))!;
  expect(new Date(after).getTime() - new Date(before!).getTime()).toBe(86_400_000 + 30 * 60_000);
  // set once more for the same day it is the same row, not a third
  done(await setShift(as(cell.lead), hours({ startMinute: 375, lengthMinutes: 465 }), NOW));
  expect((await cellOf(pool())).patterns.filter((each) => each.name === 'Early')).toHaveLength(2);
});

it('today keeps its bells; two shifts at once are refused, and nothing of them is kept', async () => {
  expect(refused(await setShift(as(cell.lead), hours({ from: '2026-11-24' }), NOW))).toMatch(/2026-11-25/);
  expect(refused(await setShift(as(cell.lead), hours({ days: [] }), NOW))).toMatch(/days/);
  expect(refused(await setShift(as(cell.lead), hours({ lengthMinutes: 500 }), NOW))).toMatch(/same time/);
  expect((await cellOf(pool())).patterns).toHaveLength(3);
});

it('two people at once cannot make shifts that overlap between them', async () => {
  done(await endShift(as(cell.lead), { name: 'Early', last: '2026-11-29' }, NOW));
  const extra = (name: string, startMinute: number) =>
    setShift(as(cell.lead), hours({ name, startMinute, lengthMinutes: 240 }), NOW);
  const outcomes = await Promise.all([extra('Dawn', 360), extra('Sunrise', 480)]);
  expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
});

it('a holiday has no leaf, is said why, and can be taken back; a day that has begun stays', async () => {
  const holiday = { date: '2026-12-25', name: 'Early', runs: false, why: 'holiday' };
  done(await setException(as(cell.lead), holiday, NOW));
  expect(await startOf('2026-12-25')).toBeNull();
  expect(await exceptionsFrom(pool(), '2026-11-24')).toEqual([holiday]);
  done(await setException(as(cell.lead), { ...holiday, runs: null }, NOW));
  expect(await startOf('2026-12-25')).not.toBeNull();
  expect(refused(await setException(as(cell.lead), { ...holiday, date: '2026-11-24' }, NOW))).toMatch(
    /begun/,
  );
});

it('a shift ends with its leaves kept; the last one cannot', async () => {
  done(await endShift(as(cell.lead), { name: 'Early', last: '2026-11-30' }, NOW));
  expect(await startOf('2026-11-30')).not.toBeNull();
  expect(await startOf('2026-12-01')).toBeNull();
  done(await endShift(as(cell.lead), { name: 'Late', last: '2026-11-30' }, NOW));
  expect(refused(await endShift(as(cell.lead), { name: 'Night', last: '2026-11-30' }, NOW))).toMatch(
    /last shift/,
  );
});

it('the zone of the bells is fixed once a leaf was signed by them', async () => {
  const { name, timeZone } = await cellOf(pool());
  expect(refused(await nameCell(as(cell.lead), { name, timeZone: 'Mars/Olympus' }))).toMatch(/time zone/);
  expect(refused(await nameCell(as(cell.lead), { name, timeZone: 'Asia/Tokyo' }))).toMatch(/signed/);
  done(await nameCell(as(cell.lead), { name: 'Weirside two', timeZone }));
  expect((await cellOf(pool())).name).toBe('Weirside two');
});
