import { ESLint } from 'eslint';
import { describe, expect, it } from 'vitest';

// The rule that an arrow points down only is worth nothing if it does not bite: here it is given bad files.
const eslint = new ESLint();
const rulesBroken = async (filePath: string, text: string) => {
  const [result] = await eslint.lintText(text, { filePath });
  return result!.messages.map((message) => message.ruleId);
};

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
    expect(await rulesBroken('src/core/a.ts', 'export const now = () => new Date();\n')).toContain(
      'no-restricted-syntax',
    );
    expect(await rulesBroken('src/core/a.ts', 'export const any = () => Math.random();\n')).toContain(
      'no-restricted-properties',
    );
    expect(await rulesBroken('src/core/a.ts', 'export const env = () => process.env;\n')).toContain(
      'no-restricted-globals',
    );
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
