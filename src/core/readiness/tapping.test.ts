import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { tapping } from './tapping.ts';

const found = (text: string, unit: 'mm' | 'in' = 'mm') => {
  const read = readProgram(text, usualDialect('mill', unit));
  if (!read.ok) throw new Error(read.reason);
  return tapping({
    machine: { name: 'Avocet', kind: 'mill', highestSpeed: 9000, boringShift: 'X+', unit },
    program: { name: 'O1', partsPerCycle: 1, calls: read.reading.calls },
    quantity: 1,
    loaded: [],
    rows: [],
  }).map(({ weight, code, tool, sentence }) => [weight, code, tool, sentence]);
};
const drill = (name: string, t = 1) =>
  `T${t} M6 (DRILL ${name})\nS900 M3\nG43 H${t} Z9.\nG81 X0. Z-9. R2. F90.\nG80\n`;
const tap = (name: string, words: string) =>
  `T2 M6 (TAP ${name})\nM3\nG43 H2 Z9.\nG84 X0. Z-9. R2. ${words}\nG80\nM30`;

describe('a tap’s feed is pitch times speed (H9; the everyday sum of the trade, common practice, no source)', () => {
  it.each([
    ['M8', 'S600 F750.', null],
    ['M8', 'S600 F755.', null],
    ['M8', 'S600 F650.', 'asks for F750'],
    ['M8', 'G95 S600 F1.25', null],
    ['M8', 'G95 S600 F1.', 'asks for F1.25'],
    ['M10x1', 'S500 F500.', null],
    ['M10', 'S500 F500.', 'asks for F750'],
  ])('%s with %s', (name, words, says) => {
    const feed = found(`O1\n${drill('8.5')}${drill('6.8', 3)}${drill('9.0', 4)}${tap(name, words)}`);
    if (says === null) expect(feed).toEqual([]);
    else expect(feed).toEqual([['stop', 'tapFeed', 2, expect.stringContaining(says)]]);
  });
  it('a little behind its pitch may be meant, for a holder that gives; ahead of it, or further behind, is not', () => {
    const weight = (feed: string) =>
      found(`O1\n${drill('6.8')}${tap('M8', `S600 F${feed}`)}`).map(([of]) => of);
    expect(['750.', '744.', '735.', '700.'].map(weight)).toEqual([[], [], ['look'], ['look']]);
    expect(['690.', '765.'].map(weight)).toEqual([['stop'], ['stop']]);
  });
  it('threads per inch, in inches', () => {
    const inch = (words: string) => found(`O1\nG20\n${drill('#7')}${tap('1/4-20', words)}`, 'in');
    expect(inch('S400 F20.')).toEqual([]);
    expect(inch('S400 F25.')).toMatchObject([
      ['stop', 'tapFeed', 2, expect.stringContaining('asks for F20')],
    ]);
  });
});

describe('a tap comes after its drill', () => {
  it('one that leaves the thread its metal; for a forming tap a larger one', () => {
    expect(found(`O1\n${drill('6.8')}${tap('M8', 'S600 F750.')}`)).toEqual([]);
    expect(found(`O1\n${drill('7.4')}${tap('M8', 'S600 F750.')}`)).toEqual([]);
    expect(found(`O1\n${drill('5.0')}${tap('M8', 'S600 F750.')}`)).toMatchObject([
      ['look', 'tapDrill', 2, expect.stringContaining('the drills before it are 5 mm')],
    ]);
  });
  it('none at all, and one that comes too late', () => {
    const late = `O1\n${tap('M8', 'S600 F750.').replace('M30', '')}${drill('6.8', 3)}M30`;
    expect(found(late)).toMatchObject([['look', 'tapDrill', 2, expect.stringContaining('drills no hole')]]);
  });
  it('a thread that nobody names says nothing', () =>
    expect(found(`O1\n${tap('', 'S600 F700.')}`)).toEqual([]));
  it('the demo’s taps are right', () => {
    for (const [name, unit] of [
      ['O2205-runner-hub-op2', 'mm'],
      ['O2301-bearing-carrier-op1', 'mm'],
      ['O3104-gate-ring', 'in'],
      ['O5103-hub-body-op1', 'mm'],
    ] as const)
      expect(found(readFileSync(`demo/programs/${name}.nc`, 'utf8'), unit)).toEqual([]);
  });
});
