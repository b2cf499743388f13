import { afterAll, vi } from 'vitest';

// A process goes through many files: each has our modules to itself, and the settings as they were.
vi.resetModules();
const kept = ((globalThis as { settings?: NodeJS.ProcessEnv }).settings ??= { ...process.env });
for (const name of Object.keys(process.env)) if (!(name in kept)) Reflect.deleteProperty(process.env, name);
Object.assign(process.env, kept);
const { closePool } = await import('../../src/server/db.ts');
const { dropDatabases } = await import('./databases.ts');

// Two questions at once on one connection, and whatever else a package calls deprecated, is a fault of ours.
process.throwDeprecation = true;

// A test file leaves no database behind: each has its own, and all of them at once would fill the disk.
afterAll(async () => {
  await closePool();
  await dropDatabases();
});
