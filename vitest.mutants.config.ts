import { defineConfig } from 'vitest/config';

// What mutants of the core are held against: the tests beside the core's files.
export default defineConfig({
  test: { include: ['src/core/**/*.test.ts'], environment: 'node', testTimeout: 60_000 },
});
