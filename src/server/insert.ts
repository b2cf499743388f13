import { row, type Db } from './db.ts';

type Wide =
  | 'ledger'
  | 'component'
  | 'machine'
  | 'program'
  | 'proposal'
  | 'feature'
  | 'assembly'
  | 'definition'
  | 'edge_end'
  | 'reading';

const column = (name: string) => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/**
 * Inserts one record: its keys are the columns' names as the code writes them. For tables that are too wide to count parameters.
 * What is undefined is left to the column's default. Where `key` is given, a row of the same key becomes this one.
 */
export async function insertRecord(
  db: Db,
  table: Wide,
  record: Readonly<Record<string, unknown>>,
  key: readonly string[] = [],
): Promise<number> {
  const given = Object.entries(record).filter(([, value]) => value !== undefined);
  const columns = given.map(([name]) => column(name));
  const others = columns.filter((name) => !key.map(column).includes(name));
  const conflict =
    key.length === 0
      ? ''
      : `ON CONFLICT (${key.map(column).join(', ')}) DO UPDATE SET ${others.map((name) => `${name} = excluded.${name}`).join(', ')}`;
  const made = await row<{ id: number }>(
    db,
    `INSERT INTO ${table} (${columns.join(', ')}) SELECT ${columns.join(', ')} FROM jsonb_populate_record(NULL::${table}, $1) ${conflict} RETURNING id`,
    [JSON.stringify(Object.fromEntries(given.map(([name, value]) => [column(name), value])))],
  );
  return made!.id;
}
