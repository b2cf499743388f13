import type pg from 'pg';

/** What a table holds, whatever the order of its rows: how many, and the sum of their hashes. */
export interface Sum {
  rows: number;
  sum: string;
}
export type Sums = Record<string, Sum>;

/** Every table of the cell. */
export async function sumsOf(client: pg.Client): Promise<Sums> {
  const tables = await client.query<{ name: string }>(
    `SELECT c.relname AS name FROM pg_class c WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p')
       AND NOT c.relispartition ORDER BY 1`,
  );
  const sums: Sums = {};
  for (const { name } of tables.rows) {
    const found = await client.query<Sum>(
      `SELECT count(*)::float8 AS rows, coalesce(sum(hashtextextended(t::text, 0)::numeric), 0)::text AS sum FROM public."${name}" t`,
    );
    sums[name] = found.rows[0]!;
  }
  return sums;
}

/** Tables that are not what they were, in words. */
export function differing(before: Sums, after: Sums): string[] {
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])].sort();
  return names.flatMap((name) => {
    const [was, is] = [before[name], after[name]];
    if (!was || !is) return [`${name}: ${was ? 'is not there' : 'was not in the backup'}`];
    if (was.rows !== is.rows) return [`${name}: ${was.rows} rows were saved, ${is.rows} came back`];
    return was.sum === is.sum ? [] : [`${name}: its rows are others than were saved`];
  });
}
