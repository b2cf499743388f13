import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { accepted, open } from '../../scripts/audit.mjs';

interface Locked {
  license?: string;
  dev?: boolean;
  integrity?: string;
  resolved?: string;
  hasInstallScript?: boolean;
  /** It comes within another, whose sum holds it too. */
  inBundle?: boolean;
}
const read = (file: string) => JSON.parse(readFileSync(file, 'utf8')) as unknown;
const own = read('package.json') as Record<
  'dependencies' | 'devDependencies' | 'overrides',
  Record<string, string>
>;
const { packages } = read('package-lock.json') as { packages: Record<string, Locked> };
const locked = Object.entries(packages).filter(([name]) => name !== '');
const doc = readFileSync('docs/dependencies.md', 'utf8');
const part = (title: string) => doc.split(`## ${title}\n`)[1]!.split('\n## ')[0]!;
const firstCells = (text: string) =>
  [...text.matchAll(/^\| *([^ |]+) *\|/gm)]
    .map(([, name]) => name!)
    .filter((name) => !/^(-+|Package|Advisory)$/.test(name));

describe('what it stands on', () => {
  it('is named with what it is for, one by one', () => {
    expect(firstCells(part('In the shop')).sort()).toEqual(Object.keys(own.dependencies).sort());
  });
  it('is of one exact version each, under its own name or another', () => {
    for (const of of [own.dependencies, own.devDependencies, own.overrides])
      for (const [name, version] of Object.entries(of))
        expect(version, name).toMatch(/^(npm:[a-z-]+@)?\d+\.\d+\.\d+$/);
  });
  it('comes from the registry, as what it was when it was taken in', () => {
    for (const [name, { integrity, resolved, inBundle }] of locked) {
      if (inBundle) continue;
      expect(integrity, name).toMatch(/^sha512-/);
      expect(resolved ?? 'https://registry.npmjs.org/', name).toMatch(/^https:\/\/registry\.npmjs\.org\//);
    }
  });
  it('has licences that somebody looked at', () => {
    const known = part('Licences').match(
      /[A-Z0-9][A-Za-z0-9]*(?:-[A-Z]+)*-[\d.]+\d(?:-Clause)?|BSD-\d-Clause|MIT|ISC|0BSD/g,
    )!;
    for (const [name, { license }] of locked)
      // one that says nothing in the lock file says it in the package
      if (license !== undefined)
        for (const each of license.replace(/[()]/g, '').split(' OR ')) expect(known, name).toContain(each);
  });
  it('runs nothing when it is installed but what is named', () => {
    const runs = locked
      .filter(([, each]) => each.hasInstallScript)
      .map(([name]) => name.replace(/^.*node_modules\//, ''));
    expect([...new Set(runs)].filter((name) => name !== 'fsevents').sort()).toEqual(
      firstCells(part('Programs run when installed')).sort(),
    );
  });
});

describe('advisories', () => {
  const answer = (url: string) => ({
    vulnerabilities: {
      one: { via: [{ source: 1, url, severity: 'high', name: 'one', title: 'It is bad' }] },
      // what only stands on it says so by its name
      two: { via: ['one'] },
    },
  });
  const table =
    '## Advisories that are accepted\n\n| Advisory | Package | Why | Until |\n| --- | --- | --- | --- |\n| GHSA-aaaa-bbbb-cccc | one | it is never given such input | 2027-01-31 |\n';
  const GIVEN = answer('https://github.com/advisories/GHSA-aaaa-bbbb-cccc');
  it('that are accepted are no fault until the day said, and any other is', () => {
    const known = accepted(table);
    expect(open(GIVEN, known, '2027-01-31')).toEqual([]);
    expect(open(GIVEN, known, '2027-02-01')).toEqual(['GHSA-aaaa-bbbb-cccc high one: It is bad']);
    expect(open(GIVEN, new Map(), '2027-01-01')).toHaveLength(1);
    expect(
      open(answer('https://github.com/advisories/GHSA-xxxx-yyyy-zzzz'), known, '2027-01-01'),
    ).toHaveLength(1);
  });
  it('that could not be asked for are not none', () => {
    expect(open({}, new Map(), '2027-01-01')).toBeNull();
  });
  it('without a reason are not accepted', () => {
    expect(accepted(table.replace('it is never given such input', '')).size).toBe(0);
  });
});
