import { pool, rows } from '../../src/server/db.ts';

/** A moment of a database: what was written after it, and which ids were given by then. */
export interface Moment {
  transaction: number;
  ids: ReadonlyMap<string, number>;
}

/** As a database stands now: an id that is higher than all of its table is new, whatever number it got. */
export async function momentNow(): Promise<Moment> {
  const tables = await rows<{ name: string }>(
    pool(),
    `SELECT c.relname AS name FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'id' AND NOT a.attisdropped
     JOIN pg_type t ON t.oid = a.atttypid
     WHERE c.relkind IN ('r', 'p') AND NOT c.relispartition AND c.relnamespace = 'public'::regnamespace AND t.typname IN ('int4', 'int8')`,
  );
  const found = new Map<string, number>();
  for (const { name } of tables) {
    const [top] = await rows<{ id: number }>(pool(), `SELECT coalesce(max(id), 0) AS id FROM ${name}`);
    found.set(name, Number(top!.id));
  }
  const [now] = await rows<{ transaction: number }>(
    pool(),
    'SELECT pg_current_xact_id()::text::bigint AS transaction',
  );
  return { transaction: now!.transaction, ids: found };
}

/** What is not compared: keys and times of requests, what is only told on, and what was measured by a clock. */
const ASIDE = new Set(['once', 'session', 'sign_in_attempt', 'pgmigrations']);
const CLOCKED = new Set(['pace_milliseconds', 'ago']);

/**
 * All that a database holds, without the numbers and times that chance gave it, in no order: a line for each row that was written since,
 * and one for all others of its table.
 */
export async function standsAs({ transaction, ids: before }: Moment): Promise<string[]> {
  const tables = await rows<{ name: string }>(
    pool(),
    `SELECT relname AS name FROM pg_class WHERE relkind IN ('r', 'p') AND NOT relispartition AND relnamespace = 'public'::regnamespace ORDER BY 1`,
  );
  const links = new Map(
    (
      await rows<{ name: string; columnName: string; to: string }>(
        pool(),
        `SELECT c.conrelid::regclass::text AS name, a.attname AS "columnName", c.confrelid::regclass::text AS "to"
         FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
         WHERE c.contype = 'f' AND cardinality(c.conkey) = 1`,
      )
    ).map(({ name, columnName, to }) => [`${name}.${columnName}`, to]),
  );
  const top = before.get('ledger') ?? Infinity;
  const plain = (value: unknown, of: string | undefined): unknown => {
    if (value === null) return null;
    if (of !== undefined && typeof value === 'number' && value > (before.get(of) ?? Infinity)) return 'new';
    // entries are named in many places that no constraint knows of
    if (typeof value === 'number' && value > top && value < top + 500) return 'new';
    if (Array.isArray(value)) return value.map((each) => plain(each, undefined));
    if (typeof value === 'object')
      return Object.fromEntries(
        Object.entries(value).map(([name, each]) => [
          name,
          CLOCKED.has(name) ? null : plain(each, undefined),
        ]),
      );
    if (typeof value !== 'string') return value;
    return value
      .replace(/^\d{4}-\d\d-\d\d[T ]\d\d:\d\d.*$/, 'then')
      .replace(/[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f-]{22}/g, 'key')
      .replace(/\b\d\d:\d\d(:\d\d)?\b/g, 'then');
  };
  const lines: string[] = [];
  for (const { name } of tables) {
    if (ASIDE.has(name)) continue;
    const [others] = await rows<{ n: number; sum: string }>(
      pool(),
      `SELECT count(*) AS n, coalesce(sum(hashtextextended(t::text, 0)), 0)::text AS sum FROM ${name} t WHERE xmin::text::bigint <= $1`,
      [transaction],
    );
    lines.push(`${name}: ${others!.n} others, ${others!.sum}`);
    for (const { cells } of await rows<{ cells: Record<string, unknown> }>(
      pool(),
      `SELECT to_jsonb(t) AS cells FROM ${name} t WHERE xmin::text::bigint > $1`,
      [transaction],
    ))
      lines.push(
        `${name} ${JSON.stringify(
          Object.fromEntries(
            Object.entries(cells).map(([column, value]) => [
              column,
              CLOCKED.has(column)
                ? null
                : plain(value, column === 'id' ? name : links.get(`${name}.${column}`)),
            ]),
          ),
        )}`,
      );
  }
  return lines.sort();
}
