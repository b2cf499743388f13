import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { usualDialect } from '../src/core/program/dialect.ts';
import { readProgram } from '../src/core/program/read-program.ts';
import type { Row } from './row.ts';

const CHILD = 'reads';
const MEGABYTES = 100;

/** A path of a mould of so many megabytes, as one text of one byte a sign. */
function mould(megabytes: number): string {
  const bytes = Buffer.alloc(megabytes * 1_000_000, ' ');
  let at = bytes.write('O1\nT1 M6\nS9000 M3\nG43 H1 Z50.\nG1 F800.\n', 0, 'latin1');
  for (let i = 0; at < bytes.length - 64; i += 1)
    at += bytes.write(
      `X${((i % 997) * 0.137).toFixed(3)} Y${((i % 773) * 0.211).toFixed(3)} Z-${((i % 13) * 0.05).toFixed(3)}\n`,
      at,
      'latin1',
    );
  bytes.write('\nM30\n', bytes.length - 6, 'latin1');
  return bytes.toString('latin1');
}

/** A process of its own reads a large program, so that nothing else is counted: memory of the text, and of the whole while it is read. */
export function memory(): Row[] {
  const said = execFileSync(
    process.execPath,
    ['--expose-gc', '--import', 'tsx', fileURLToPath(import.meta.url), CHILD],
    {
      encoding: 'utf8',
    },
  );
  const [whole, seconds] = said.trim().split(' ').map(Number) as [number, number];
  return [
    {
      what: `NC reading, ${MEGABYTES} MB in ${seconds.toFixed(1)} s: memory while it is read`,
      ours: `${whole.toFixed(0)} MB`,
      reference: `${MEGABYTES} MB, the text itself`,
      ratio: `${(whole / MEGABYTES).toFixed(2)} × the text`,
    },
  ];
}

if (process.argv[2] === CHILD) {
  // what runs before a program is there does not count, nor does what wrote it
  const small = mould(1);
  readProgram(small, usualDialect('mill', 'mm'));
  const bare = process.memoryUsage().rss / 1e6;
  const text = mould(MEGABYTES);
  globalThis.gc?.();
  const began = performance.now();
  let most = 0;
  const look = () => (most = Math.max(most, process.memoryUsage().rss / 1e6));
  const read = readProgram(text, usualDialect('mill', 'mm'), { told: look });
  look();
  if (!read.ok || read.reading.calls.length !== 1) throw new Error('not read');
  console.log(`${most - bare} ${(performance.now() - began) / 1000}`);
}
