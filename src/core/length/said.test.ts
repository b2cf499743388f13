import { describe, expect, it } from 'vitest';
import { nanometres } from '../units/length.ts';
import { referenceOf } from './schools.ts';
import { changedLines, prepareRow } from './second-row.ts';
import { tipWords } from './tip-direction.ts';
import { METHOD_WORDS, mixedMethods } from './transfer.ts';

describe('in words', () => {
  it('each tip direction says where the tip points (common practice, no source)', () => {
    expect([0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map(tipWords)).toEqual([
      'not set',
      'points to X+ and Z+',
      'points to X+ and Z−',
      'points to X− and Z−',
      'points to X− and Z+',
      'points to Z+',
      'points to X+',
      'points to Z−',
      'points to X−',
      'the middle of the nose',
    ]);
  });
  it('of lengths taken in several ways the usual one stands first', () => {
    const said = mixedMethods([
      { tool: 1, method: 'touchOff' },
      { tool: 2, method: 'presetter' },
      { tool: 3, method: 'presetter' },
    ])!;
    expect(said.indexOf(METHOD_WORDS.presetter)).toBeLessThan(said.indexOf(METHOD_WORDS.touchOff));
    expect(said).toContain('T2, T3');
  });
  it('a machine’s reference is its own school, plane and master', () => {
    const machine = { lengthSchool: 'masterTool' as const, planeConstant: null, masterLength: nanometres(5) };
    expect(referenceOf(machine as never)).toMatchObject({ school: 'masterTool', masterLength: 5 });
  });
});

describe('a second row', () => {
  const register = (id: number, row: number, kind: string, value: number) => ({
    id,
    row,
    kind,
    value: nanometres(value),
  });
  it('takes each register from the same one of the old row, and says what an earlier job left', () => {
    const registers = [
      register(9, 5, 'lengthGeometry', 77),
      register(1, 2, 'lengthWear', 30),
      register(2, 2, 'lengthGeometry', 100),
      register(3, 22, 'lengthGeometry', 40),
      register(4, 22, 'lengthWear', 12),
      register(5, 2, 'cutterWear', 0),
      register(6, 22, 'cutterWear', 0),
    ];
    const made = prepareRow(registers, 'mill', {
      row: 2,
      to: 22,
      role: 'cutterWear',
      change: nanometres(-5),
    });
    expect(made.map(({ registerKind, from, to, stale }) => [registerKind, from, to, stale])).toEqual([
      // geometry that is there is no wear that was left
      ['lengthGeometry', 40, 100, false],
      ['lengthWear', 12, 30, true],
      ['cutterWear', 0, -5, false],
    ]);
    // what already stands as it should is no left-over
    const again = registers.map((each) => (each.id === 4 ? { ...each, value: nanometres(30) } : each));
    expect(
      prepareRow(again, 'mill', { row: 2, to: 22, role: 'cutterWear', change: nanometres(0) })[1],
    ).toMatchObject({ stale: false });
  });
  it('changes the word that names the row, on a mill and on a lathe, and leaves others alone', () => {
    const mill = ['  G43 H02 Z5. (H02 IS LONG)  ', 'G41 D2', 'T2 M6', 'G43 H12'];
    const of = (role: 'lengthWear' | 'cutterWear' | 'xWear' | 'zWear', text: string[], rowDigits = 0) =>
      changedLines(text, [1, 2, 3, 4, 9], { row: 2, to: 22, role, rowDigits });
    expect(of('lengthWear', mill)).toEqual([
      { line: 1, was: 'G43 H02 Z5. (H02 IS LONG)', becomes: 'G43 H22 Z5. (H02 IS LONG)' },
    ]);
    expect(of('cutterWear', mill).map(({ becomes }) => becomes)).toEqual(['G41 D22']);
    for (const role of ['xWear', 'zWear'] as const)
      expect(of(role, ['T0202', 'H2 D2', 'T0212'], 2).map(({ becomes }) => becomes)).toEqual(['T0222']);
  });
});
