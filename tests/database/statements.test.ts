import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { asSuperuser, freshDatabase } from '../support/databases.ts';
import { describe as described, statementsOf, type Declared, type Described } from '../support/statements.ts';

let client: pg.Client;
/** Columns of tables that may be null, as "table oid.column"; of a view it is not known. */
let mayBeNull: Set<string>;
beforeAll(async () => {
  const database = await freshDatabase('tin_empty');
  client = new pg.Client({ connectionString: database.appUrl, options: '-c role=tin_app -c timezone=UTC' });
  await client.connect();
  mayBeNull = new Set(
    await asSuperuser(
      async (superuser) =>
        (
          await superuser.query<{ key: string }>(
            `SELECT attrelid || '.' || attnum AS key FROM pg_attribute JOIN pg_class c ON c.oid = attrelid WHERE NOT attnotnull AND c.relkind = 'r'`,
          )
        ).rows.map((each) => each.key),
      database.name,
    ),
  );
});
afterAll(() => client.end());

const { builtins } = pg.types;
/** What the driver makes of a type of PostgreSQL; anything else comes as text. */
const MADE: ReadonlyMap<number, string> = new Map([
  [builtins.INT2, 'number'],
  [builtins.INT4, 'number'],
  [builtins.INT8, 'number'],
  [builtins.FLOAT4, 'number'],
  [builtins.FLOAT8, 'number'],
  [builtins.BOOL, 'boolean'],
  [builtins.TIMESTAMPTZ, 'Date'],
  [builtins.TEXT, 'string'],
  [builtins.VARCHAR, 'string'],
  [builtins.NUMERIC, 'string'],
  [builtins.DATE, 'Date'],
]);
const JSON_TYPES = new Set<number>([builtins.JSON, builtins.JSONB]);

function faultOf(declared: Declared, columns: readonly Described[]): string | null {
  const column = columns.find((each) => each.name === declared.name);
  if (!column) return declared.optional ? null : `"${declared.name}" is declared and not asked for`;
  const made = JSON_TYPES.has(column.dataTypeID) ? null : (MADE.get(column.dataTypeID) ?? 'object');
  if (made !== null && declared.type !== '' && made !== declared.type)
    return `"${declared.name}" is declared ${declared.type} and comes as ${made}`;
  if (column.tableID !== 0 && !declared.nullable && mayBeNull.has(`${column.tableID}.${column.columnID}`))
    return `"${declared.name}" may be null and is declared as if it were not`;
  return null;
}

/** Put together when it is asked, by the words that somebody typed; what they find is tested in finding.test.ts and definitions. */
const PUT_TOGETHER = ['assemblies.ts', 'components.ts', 'insert.ts', 'db.ts', 'one-reading.ts'];
/** Columns of a table that may be null, but not in the rows that the statement asks for; each with the rule that says so. */
const NEVER_HERE: ReadonlyMap<string, string> = new Map([
  ['src/server/leaf.ts tool', 'the statement asks for entries with a tool'],
  ['src/server/magazines.ts placeId', 'ledger_placement_check and ledger_pocket_check'],
]);

it('every statement is one that the schema takes, and its rows are as they are declared', async () => {
  const { found, unread } = statementsOf('src/server');
  const faults: string[] = [];
  for (const { where, sql, columns } of found) {
    if (/^(BEGIN|COMMIT|ROLLBACK|LISTEN)\b/.test(sql)) continue;
    const answer = await described(client, sql).catch((error: Error) => error);
    if (answer instanceof Error) {
      faults.push(`${where}: ${answer.message}`);
      continue;
    }
    for (const declared of columns ?? []) {
      if (NEVER_HERE.has(`${where.split(':')[0]} ${declared.name}`)) continue;
      const fault = faultOf(declared, answer);
      if (fault) faults.push(`${where}: ${fault}`);
    }
  }
  expect(faults).toEqual([]);
  expect(found.length).toBeGreaterThan(180);
  expect([...new Set(unread.map((where) => where.split(/[/:]/).at(-2)!))].sort()).toEqual(
    [...PUT_TOGETHER].sort(),
  );
}, 120_000);

it('a statement that is wrong would be found: a name, a type, a null', async () => {
  const answer = await described(
    client,
    'SELECT id, name, longest, made_at FROM (SELECT id, name, longest, now() AS made_at FROM machine) m',
  );
  const declared = (name: string, type: string, nullable = false) =>
    faultOf({ name, type, nullable, optional: false }, answer);
  expect(declared('id', 'number')).toBeNull();
  expect(declared('id', 'string')).toMatch(/declared string and comes as number/);
  expect(declared('made_at', 'Date')).toBeNull();
  expect(declared('longest', 'number')).toMatch(/may be null/);
  expect(declared('longest', 'number', true)).toBeNull();
  expect(declared('age', 'number')).toMatch(/not asked for/);
  await expect(described(client, 'SELECT nothing FROM machine')).rejects.toThrow(/"nothing" does not exist/);
});
