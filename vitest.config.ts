import { defineConfig } from 'vitest/config';

// Two projects: what needs nothing (core, beside its files) and what needs a PostgreSQL (tests/database).
export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['src/**/*.test.ts', 'tests/unit/**/*.test.ts'],
          environment: 'node',
          // on two processors one would be left idle
          maxWorkers: 2,
          // the core keeps nothing from one file to the next: nothing is loaded anew for each
          pool: 'threads',
          isolate: false,
          // exhaustive and property tests: a busy machine is no fault
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'database',
          // of a process of its own for each file most would be spent on loading packages anew: tests/support/strict.ts
          isolate: false,
          include: ['tests/database/**/*.test.ts'],
          environment: 'node',
          // a busy machine is no database that is away
          env: { CONNECT_TIMEOUT_MS: '30000' },
          setupFiles: ['tests/support/strict.ts'],
          // each file has databases of its own; much of it is waiting, for what is killed to come back
          maxWorkers: 3,
          testTimeout: 30_000,
          hookTimeout: 60_000,
        },
      },
    ],
  },
});
