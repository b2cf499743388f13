import { randomUUID } from 'node:crypto';
import pg from 'pg';

/** Databases of a test's own, copied from the two templates that the test run made. */

const env = (name: string) => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set: run this through npm test or npm run test:database`);
  return value;
};

const inDatabase = (url: string, database: string) => {
  const changed = new URL(url);
  changed.pathname = `/${database}`;
  return changed.href;
};

export async function asSuperuser<T>(
  work: (client: pg.Client) => Promise<T>,
  database = 'postgres',
): Promise<T> {
  const client = new pg.Client({ connectionString: inDatabase(env('TIN_TEST_SUPER_URL'), database) });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

export interface TestDatabase {
  name: string;
  appUrl: string;
  ownerUrl: string;
}

const mine: string[] = [];

/** Drops databases that this process made, all of them or these, whoever is still connected. */
export async function dropDatabases(these?: readonly string[]): Promise<void> {
  const names = mine.filter((name) => these?.includes(name) ?? true);
  mine.splice(0, mine.length, ...mine.filter((name) => !names.includes(name)));
  if (names.length === 0) return;
  await asSuperuser(async (client) => {
    for (const name of names) await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
  });
}

/** A fresh database: migrated and empty, with the made-up cell, or as another of the test's own. DATABASE_URL of this process then points to it. */
export async function freshDatabase(template: string): Promise<TestDatabase> {
  const name = `t_${process.pid}_${randomUUID().slice(0, 8)}`;
  await asSuperuser((client) => client.query(`CREATE DATABASE ${name} TEMPLATE ${template} OWNER tin_owner`));
  mine.push(name);
  const database = {
    name,
    appUrl: inDatabase(env('TIN_TEST_APP_URL'), name),
    ownerUrl: inDatabase(env('TIN_TEST_OWNER_URL'), name),
  };
  process.env.DATABASE_URL = database.appUrl;
  process.env.DATABASE_OWNER_URL = database.ownerUrl;
  return database;
}
