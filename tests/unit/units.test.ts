import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';

const FOLDER = 'docs/systemd';

it('the units for systemd are what systemd takes', () => {
  const room = mkdtempSync(join(tmpdir(), 'tin units '));
  try {
    const names = readdirSync(FOLDER);
    expect(names.length).toBeGreaterThanOrEqual(3);
    for (const name of names)
      // where this machine has its Node
      writeFileSync(
        join(room, name.replace('@.', '@4177.')),
        readFileSync(join(FOLDER, name), 'utf8').replaceAll('/usr/bin/node', process.execPath),
      );
    const found = spawnSync(
      'systemd-analyze',
      ['verify', ...readdirSync(room).map((name) => join(room, name))],
      {
        encoding: 'utf8',
      },
    );
    // what it says of other units of the machine is none of ours
    const ours = found.stderr.split('\n').filter((line) => line.includes('tin-almanac'));
    expect(ours).toEqual([]);
    // and it does find what is wrong
    writeFileSync(
      join(room, 'tin-almanac-wrong.service'),
      '[Service]\nExecStart=node\nNoNewPriviledges=yes\n',
    );
    const wrong = spawnSync('systemd-analyze', ['verify', join(room, 'tin-almanac-wrong.service')], {
      encoding: 'utf8',
    });
    expect(wrong.stderr).toMatch(/tin-almanac-wrong/);
  } finally {
    rmSync(room, { recursive: true });
  }
});

it('the units run what there is', () => {
  const scripts = JSON.parse(readFileSync('package.json', 'utf8')) as { scripts: Record<string, string> };
  for (const name of ['backup', 'history', 'archive'])
    expect(readFileSync(join(FOLDER, `tin-almanac-${name}.service`), 'utf8')).toContain(
      scripts.scripts[name]!.replace(/^node /, ''),
    );
});
