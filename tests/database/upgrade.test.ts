import { readFileSync } from 'node:fs';
import { afterAll, expect, it } from 'vitest';
import { migrate } from '../../scripts/migrate.ts';
import { closePool } from '../../src/server/db.ts';
import { asSuperuser, freshDatabase } from '../support/databases.ts';

afterAll(closePool);

it('a database of an earlier version is brought up to date, and is then as a new one', async () => {
  const dump = readFileSync(new URL('../upgrade/schema-0021.sql', import.meta.url), 'utf8');
  const old = await freshDatabase('tin_empty');
  await asSuperuser(async (client) => {
    await client.query('DROP SCHEMA public CASCADE');
    await client.query('CREATE SCHEMA public AUTHORIZATION tin_owner');
    await client.query('CREATE EXTENSION pg_trgm SCHEMA public');
    await client.query(dump);
    await client.query(`SET search_path = public`);
  }, old.name);
  await migrate(old.ownerUrl);
  const fresh = await freshDatabase('tin_empty');
  const columns = (name: string) =>
    asSuperuser(
      async (client) =>
        (
          await client.query<{ is: string }>(
            `SELECT table_name || '.' || column_name || ' ' || data_type || ' ' || is_nullable AS is FROM information_schema.columns
             WHERE table_schema = 'public' ORDER BY 1`,
          )
        ).rows.map((each) => each.is),
      name,
    );
  expect(await columns(old.name)).toEqual(await columns(fresh.name));
});
