import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { readOut, toReadOut } from './read-out.ts';
import { countedWords } from './words.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const registers = [
  { id: 1, kind: 'lengthGeometry', row: 2, value: mm(120) },
  { id: 2, kind: 'cutterWear', row: 2, value: mm(0) },
  { id: 3, kind: 'lengthGeometry', row: 1, value: mm(0) },
  { id: 4, kind: 'cutterWear', row: 9, value: mm(-0.01) },
  { id: 5, kind: 'cutterWear', row: 10, value: mm(0) },
  { id: 6, kind: 'tipDirection', row: 2, value: 3 },
  { id: 7, kind: 'noseRadius', row: 1, value: mm(0.4) },
];

describe('reading a table off the screen', () => {
  it('asks for what is in use, page by page, and does not say what the record holds', () => {
    const asked = toReadOut(registers, new Set([1, 2]));
    expect(asked.map(({ id }) => id)).toEqual([3, 1, 2, 4, 7]);
    expect(asked.every((each) => !('value' in each))).toBe(true);
  });
  it('takes what was read, in the machine’s unit, and passes over the rest', () => {
    expect(readOut(registers, { 1: '120.004', 4: '-0.010' }, 'mm')).toEqual({
      values: [
        { kind: 'lengthGeometry', row: 2, value: mm(120.004) },
        { kind: 'cutterWear', row: 9, value: mm(-0.01) },
      ],
      problems: [],
    });
    expect(readOut(registers, { 1: '4.7245' }, 'in').values[0]!.value).toBe(lengthOf(4.7245, 'in'));
  });
  it('names the register of what is no length, of another machine, or where nothing was read', () => {
    expect(readOut(registers, { 2: '0.0l' }, 'mm').problems[0]).toMatch(/^cutter wear of row 2: /);
    expect(readOut(registers, { 77: '1' }, 'mm').problems).toEqual([
      'A register is named that this machine does not have.',
    ]);
    expect(readOut(registers, {}, 'mm').problems).toEqual(['No register was read yet.']);
  });
});

describe('a life as a control counts it', () => {
  it('is told in the direction in which it counts', () => {
    const life = { type: 'MINUTES', direction: 'DOWN', value: 12.5, initial: 40, limit: 0 } as const;
    expect(countedWords(life)).toBe('12.5 min left');
    expect(countedWords({ ...life, direction: 'UP', limit: 40 })).toBe('12.5 min of 40 used');
    expect(countedWords({ ...life, type: 'PART_COUNT', direction: 'UP', value: 3, limit: null })).toBe(
      '3 uses, no limit',
    );
  });
});
