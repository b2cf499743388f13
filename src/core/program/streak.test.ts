import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { usualDialect, type Dialect } from './dialect.ts';
import { readProgram } from './read-program.ts';

const MILL = usualDialect('mill', 'mm');
const both = (text: string, dialect: Dialect = MILL) => [
  readProgram(text, dialect),
  readProgram(text, dialect, { blockByBlock: true }),
];
const same = (text: string, dialect?: Dialect) => {
  const [together, single] = both(text, dialect);
  expect(together).toEqual(single);
};

/** Blocks of a path, and now and then what ends a streak, changes what is in force, or is no block at all. */
const number = fc
  .tuple(
    fc.integer({ min: -99_999, max: 99_999 }),
    fc.constantFrom('', '0', '.', '.5', '.125', '.000', '.1234567'),
  )
  .map(([whole, rest]) => `${whole}${rest}`);
const axis = fc.tuple(fc.constantFrom('X', 'Y', 'Z'), number).map(([letter, value]) => letter + value);
const plain = fc
  .tuple(
    fc.constantFrom('', '', 'N10 ', 'N99999', '/', ' '),
    fc.constantFrom('', '', '', 'G1', 'G01', 'G1 ', 'G0 ', 'G2'),
    fc.array(axis, { minLength: 0, maxLength: 4 }),
    fc.constantFrom('', '', '', 'F200.', 'F0', ' F800', 'F-5.', 'F12.5'),
    fc.constantFrom('', ' ', '\r'),
  )
  .map(([n, g, axes, f, end]) => `${n}${g}${axes.join(f === '' ? '' : ' ')}${f}${end}`);
const odd = fc.constantFrom(
  ...'G91|G90|G20|G21|G54|G55|G68 X0 Y0 R30|G69|G93|G94|G95|S500|M5|M3|M8|T2 M6|G43 H2|G41 D3|G40|G81 Z-5. R1. F90.|G80|(END MILL 6)|M1|G28 Z0|x12.|X1.5 X2.|X5000.|X40000000|#1=5|X#1|X[2+3]|G1 Z-.5 F100.|G0 Z50.|M98 P9|IF[#3EQ1]GOTO7|N7|G96 S100|,R5|Y+3.|X-|G2 X1. Y1. I5. J0.|M30|%|A30.'.split(
    '|',
  ),
);
const program = fc
  .array(fc.oneof({ weight: 12, arbitrary: plain }, { weight: 1, arbitrary: odd }), { maxLength: 120 })
  .map((blocks) =>
    [
      'O1 (PATH)',
      '(END MILL 10)',
      'T1 M6',
      'S3000 M3',
      'G43 H1 Z50.',
      'G54 X0. Y0.',
      'G1 X1. F300.',
      'Y1.',
      ...blocks,
      'M30',
      'O9',
      'G1 X3. Y4.',
      'X9.',
      'Z-2.',
      'X7.',
      'M99',
    ].join('\n'),
  );

describe('straight cuts that are taken together', () => {
  it('come to what they come to block by block, to the last digit', () => {
    fc.assert(
      fc.property(
        program,
        fc.constantFrom<Dialect>(
          MILL,
          usualDialect('mill', 'in'),
          { ...MILL, pointless: 'leastIncrement' },
          { ...MILL, automaticRow: 1 },
          usualDialect('lathe', 'mm'),
        ),
        same,
      ),
      { numRuns: 3000 },
    );
  });
  it('in every program of the demo', () => {
    for (const name of readdirSync('demo/programs')) {
      const text = readFileSync(`demo/programs/${name}`, 'utf8');
      same(text);
      same(text, usualDialect('lathe', 'in'));
    }
  });
  it('a path of ten thousand blocks: length, time, depth, feeds and extents by sums of their own', () => {
    let [length, seconds, x, y, z] = [0, 0, 0, 0, 50];
    const blocks: string[] = [];
    const go = (to: [number, number, number], feed: number) => {
      const way = Math.sqrt((to[0] - x) ** 2 + (to[1] - y) ** 2 + (to[2] - z) ** 2);
      [length, seconds] = [length + way, seconds + (way / feed) * 60];
      [x, y, z] = to;
    };
    for (let i = 0; i < 10_000; i += 1) {
      const feed = i < 5000 ? 800 : 1250;
      go([(i % 97) * 1.25, (i % 31) * 2.5, -(i % 7) * 0.5], feed);
      blocks.push(`${i % 5000 === 0 ? `G1 F${feed}. ` : ''}X${x} Y${y} Z${z}`);
    }
    const read = readProgram(
      `O1\n(BALL MILL 6)\nT1 M6\nS3000 M3\nG43 H1 Z50.\nG0 X0. Y0.\n${blocks.join('\n')}\nM30`,
      MILL,
    );
    if (!read.ok) throw new Error(read.reason);
    const [call] = read.reading.calls;
    expect(call!.feedDistance / 1e6).toBeCloseTo(length, 5);
    expect(call!.cutMilliseconds / 1000).toBeCloseTo(seconds, 2);
    expect([call!.deepest, call!.feeds, call!.extents]).toEqual([
      -3_000_000,
      [{ least: 800, most: 1250, per: 'minute' }],
      [{ offset: '', x: [0, 120], y: [0, 75] }],
    ]);
  });
});
