import type { ShiftPattern } from '../core/shift/calendar.ts';
import { row, rows, type Db } from './db.ts';

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
    'SELECT id, name, start_minute AS "startMinute", length_minutes AS "lengthMinutes", days FROM shift_pattern ORDER BY start_minute',
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
