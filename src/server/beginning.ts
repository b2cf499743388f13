import type { BeginningStep } from '../core/shift/leaf.ts';
import { row, type Db } from './db.ts';

/** What a new cell has and what it lacks, in the order in which a shop sets it up; null once a first reading was taken. */
export async function beginning(db: Db): Promise<BeginningStep[] | null> {
  const has = (await row<Record<BeginningStep['name'], boolean>>(
    db,
    `SELECT EXISTS (SELECT 1 FROM ledger WHERE kind = 'cell') AS shifts,
            (SELECT count(*) FROM person) > 1 AS people,
            EXISTS (SELECT 1 FROM machine) AS machine,
            EXISTS (SELECT 1 FROM placement) AS tools,
            EXISTS (SELECT 1 FROM program) AS program,
            EXISTS (SELECT 1 FROM job) AS job,
            EXISTS (SELECT 1 FROM feature) AS plan,
            EXISTS (SELECT 1 FROM reading) AS reading`,
  ))!;
  if (has.reading) return null;
  const order: BeginningStep['name'][] = [
    'shifts',
    'people',
    'machine',
    'tools',
    'program',
    'job',
    'plan',
    'reading',
  ];
  return order.map((name) => ({ name, done: has[name] }));
}
