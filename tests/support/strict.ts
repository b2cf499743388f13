import { afterAll } from 'vitest';
import { closePool } from '../../src/server/db.ts';
import { dropDatabases } from './databases.ts';

// Two questions at once on one connection, and whatever else a package calls deprecated, is a fault of ours.
process.throwDeprecation = true;

// A test file leaves no database behind: each has its own, and all of them at once would fill the disk.
afterAll(async () => {
  await closePool();
  await dropDatabases();
});
