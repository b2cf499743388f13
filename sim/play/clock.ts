import type pg from 'pg';
import { shiftsBetween, type Shift } from '../../src/core/shift/calendar.ts';
import { cellOf } from '../../src/server/cell.ts';
import { readClock } from '../../src/server/clock.ts';
import { pool } from '../../src/server/db.ts';

const DAY = 86_400_000;

/** The next whole shift that the cell works after a moment: what is played. */
export async function shiftToPlay(after: Date): Promise<Shift> {
  const cell = await cellOf(pool());
  const shifts = shiftsBetween(after, new Date(after.getTime() + 8 * DAY), cell.patterns, cell.timeZone);
  return shifts.find(({ start }) => start > after)!;
}

/** Sets what time it is in the cell, and how fast it goes on. Only the owner of the database may. */
export async function setClock(owner: pg.Client, told: Date, rate: number): Promise<void> {
  await owner.query(
    `INSERT INTO play_clock (wall, told, rate) VALUES (clock_timestamp(), $1, $2)
     ON CONFLICT (one) DO UPDATE SET wall = excluded.wall, told = excluded.told, rate = excluded.rate`,
    [told, rate],
  );
  await readClock();
}
