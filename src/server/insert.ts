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

/** Characters from which on a text goes beside the record. */
const LONG = 100_000;

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
  // a text of megabytes goes beside the others: within JSON it would be escaped, parsed and held once more each time
  const long = given.filter(([, value]) => typeof value === 'string' && value.length > LONG);
  const rest = given.filter((each) => !long.includes(each));
  const values = given.map((each) => {
    const at = long.indexOf(each);
    return at < 0 ? column(each[0]) : `$${at + 2}::text`;
  });
  const made = await row<{ id: number }>(
    db,
    `INSERT INTO ${table} (${columns.join(', ')}) SELECT ${values.join(', ')} FROM jsonb_populate_record(NULL::${table}, $1) ${conflict} RETURNING id`,
    [
      JSON.stringify(Object.fromEntries(rest.map(([name, value]) => [column(name), value]))),
      ...long.map(([, value]) => value),
    ],
  );
  return made!.id;
}
