// npm run audit: asks the registry for advisories of what runs in the shop. What is accepted stands in docs/dependencies.md.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './project.mjs';

/** Advisories that are accepted: their numbers, with the last day of it. */
export function accepted(text) {
  const part = text.split('## Advisories that are accepted')[1] ?? '';
  return new Map(
    [...part.matchAll(/^\| *(GHSA-[\w-]+) *\|[^|]*\| *[^ |][^|]*\| *(\d{4}-\d{2}-\d{2}) *\|$/gm)].map(
      ([, id, until]) => [id, until],
    ),
  );
}

/**
 * What an answer of `npm audit --json` says: each advisory that nobody accepted, or accepted no longer; null where it could not be asked.
 *
 * @param {string} today yyyy-mm-dd
 */
export function open(answer, known, today) {
  const { vulnerabilities } = answer;
  if (!vulnerabilities) return null;
  const found = new Map();
  for (const { via } of Object.values(vulnerabilities))
    for (const each of via)
      if (typeof each === 'object') {
        const id = /GHSA-[\w-]+/.exec(each.url ?? '')?.[0] ?? String(each.source);
        if (!known.has(id) || known.get(id) < today)
          found.set(id, `${id} ${each.severity} ${each.name}: ${each.title}`);
      }
  return [...found.values()];
}

if (import.meta.filename === process.argv[1]) {
  const said = spawnSync('npm', ['audit', '--json', '--omit=dev'], { cwd: ROOT, encoding: 'utf8' }).stdout;
  const known = accepted(readFileSync(join(ROOT, 'docs/dependencies.md'), 'utf8'));
  const found = open(JSON.parse(said || '{}'), known, new Date().toISOString().slice(0, 10));
  if (found === null) {
    console.error('The registry tells no advisories here: whether there are any is not known.');
    process.exitCode = 2;
  } else if (found.length > 0) {
    console.error(found.join('\n'));
    process.exitCode = 1;
  } else console.log('No advisory that is not accepted.');
}
