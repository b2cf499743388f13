import { defineConfig } from 'vitest/config';

/*
 * What mutants of the core are held against: the tests beside the core's files; of one folder only when
 * MUTANTS_OF names it (scripts/mutants.mjs). The long searches are left out: instrumented they would take hours,
 * and a mutant that only they find is one the quick tests ought to find.
 */
const folder = process.env['MUTANTS_OF'] ?? '**';
export default defineConfig({
  test: {
    include: [`src/core/${folder}/**/*.test.ts`],
    environment: 'node',
    testTimeout: 120_000,
    testNamePattern:
      /^(?!.*(every 0\.00001 in|a good heading and then|doubles the variance|a dead band on one reading|over (a|two) hundred|ten thousand|twice that of|accused at most|hair-splitting|three hundred set-ups|a drift makes waiting|within a sixth|95 of 100 shops)).*$/,
  },
});
