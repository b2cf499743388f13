// npm run mutants: what the tests of the core would let through (docs/mutants.md). Of one folder, held against its own tests:
// `npm run mutants -- life`. Of the whole core by lot, held against all its quick tests: `npm run mutants -- --lot 100 --seed 1` draws
// a hundred places of six lines each.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { parseArgs } from 'node:util';
import { needModules, ROOT } from './project.mjs';

const LINES = 6;
const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { lot: { type: 'string' }, seed: { type: 'string', default: '1' } },
});

/** The places of six lines of the core, in an order that hangs on the seed alone. */
function places(seed) {
  const files = readdirSync(join(ROOT, 'src/core'), { recursive: true, withFileTypes: true })
    .filter((each) => each.isFile() && each.name.endsWith('.ts') && !each.name.endsWith('.test.ts'))
    .map((each) => relative(ROOT, join(each.parentPath, each.name)));
  return files
    .flatMap((file) =>
      Array.from(
        { length: Math.ceil(readFileSync(join(ROOT, file), 'utf8').split('\n').length / LINES) },
        (_, i) => `${file}:${i * LINES + 1}-${(i + 1) * LINES}`,
      ),
    )
    .map((place) => ({ place, rank: createHash('sha256').update(`${seed} ${place}`).digest('hex') }))
    .sort((a, b) => (a.rank < b.rank ? -1 : 1))
    .map(({ place }) => place);
}

const [folder] = positionals;
const mutate = values.lot
  ? places(values.seed).slice(0, Number(values.lot))
  : [`src/core/${folder ?? '**'}/**/*.ts`, '!src/core/**/*.test.ts'];
needModules();
const { status } = spawnSync(join(ROOT, 'node_modules/.bin/stryker'), ['run', '--mutate', mutate.join(',')], {
  cwd: ROOT,
  stdio: 'inherit',
  env: { ...process.env, ...(folder ? { MUTANTS_OF: folder } : {}) },
});
process.exitCode = status ?? 1;
