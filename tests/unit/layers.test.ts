import { ESLint } from 'eslint';
import { spawnSync } from 'node:child_process';
import {
  copyFileSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';

// The rule that an arrow points down only is worth nothing if it does not bite: here it is given bad files.
const eslint = new ESLint();
const folder = mkdtempSync(join(tmpdir(), 'tin-layers-'));
copyFileSync('.oxlintrc.json', join(folder, '.oxlintrc.json'));
afterAll(() => rmSync(folder, { recursive: true }));

/** Which rules a file breaks, by whichever of the two reads its folder. */
async function rulesBroken(filePath: string, text: string): Promise<(string | null)[]> {
  if (/^src\/(lib|routes)\//.test(filePath)) {
    const [result] = await eslint.lintText(text, { filePath });
    return result!.messages.map((message) => message.ruleId);
  }
  mkdirSync(dirname(join(folder, filePath)), { recursive: true });
  writeFileSync(join(folder, filePath), text);
  const { stdout } = spawnSync(resolve('node_modules/.bin/oxlint'), ['--format=json', filePath], {
    cwd: folder,
    encoding: 'utf8',
  });
  const { diagnostics } = JSON.parse(stdout) as { diagnostics: { code: string }[] };
  return diagnostics.map(({ code }) => code.replace(/^.*\((.*)\)$/, '$1'));
}

describe('the layer rule', () => {
  it.each([
    ['src/core/a.ts', `import pg from 'pg';\nexport default pg;\n`],
    ['src/core/a.ts', `import { readFileSync } from 'node:fs';\nexport default readFileSync;\n`],
    ['src/core/a/b.ts', `import { pool } from '../../server/db.ts';\nexport default pool;\n`],
    ['src/server/a.ts', `import { clock } from '../lib/time.ts';\nexport default clock;\n`],
    ['src/lib/a.ts', `import { pool } from '$server/db';\nexport default pool;\n`],
    ['src/lib/A.svelte', `<script lang="ts">\n  import { pool } from '$server/db';\n  pool();\n</script>\n`],
    [
      'src/routes/+page.svelte',
      `<script lang="ts">\n  import { pool } from '$server/db';\n  pool();\n</script>\n`,
    ],
    ['src/routes/a.ts', `import pg from 'pg';\nexport default pg;\n`],
  ])('%s may not reach up or out: %j', async (file, text) => {
    expect(await rulesBroken(file, text)).toContain('no-restricted-imports');
  });
  it('the core has neither clock nor chance nor surroundings', async () => {
    expect(await rulesBroken('src/core/a.ts', 'export const now = () => Date.now();\n')).toContain(
      'no-restricted-properties',
    );
    expect(await rulesBroken('src/core/a.ts', 'export const any = () => Math.random();\n')).toContain(
      'no-restricted-properties',
    );
    expect(await rulesBroken('src/core/a.ts', 'export const env = () => process.env;\n')).toContain(
      'no-restricted-globals',
    );
    // a date of what it was given is none of the clock's
    const files = readdirSync('src/core', { recursive: true, encoding: 'utf8' });
    expect(files.length).toBeGreaterThan(300);
    for (const file of files)
      if (file.endsWith('.ts') && !file.endsWith('.test.ts'))
        expect(readFileSync(join('src/core', file), 'utf8'), file).not.toMatch(/new Date\(\s*\)/);
  });
  it('what points down passes', async () => {
    expect(
      await rulesBroken(
        'src/server/a.ts',
        `import { nanometres } from '../core/units/length.ts';\nexport default nanometres;\n`,
      ),
    ).toEqual([]);
  });
});
