import { describe, expect, it } from 'vitest';
import { dialectSchema } from './dialect.ts';
import { boringShift, directionOf, PLENTY, tipFor, type Shift } from './boring-shift.ts';
import { inUnit } from '../units/length.ts';
import { readProgram } from './read-program.ts';

const way = (words: Partial<Record<'q' | 'i' | 'j', number>>, machine: Shift = 'X+') => {
  const said = boringShift({ q: null, i: null, j: null, ...words });
  return said && directionOf({ line: 1, ...said }, machine);
};

describe('the shift of a fine bore (H10; common practice, no source)', () => {
  it('Q goes the machine’s way, X+ unless its setting says otherwise', () => {
    expect(way({ q: 0.2 })).toBe('X+');
    expect(way({ q: 0.2 }, 'Y-')).toBe('Y-');
  });
  it.each([
    [{ i: 0.2 }, 'X+'],
    [{ i: -0.2 }, 'X-'],
    [{ j: 0.2 }, 'Y+'],
    [{ j: -0.2 }, 'Y-'],
    [{ i: 0, j: -0.2 }, 'Y-'],
  ] as const)('I goes along X and J along Y, signed: %o is %s', (words, direction) =>
    expect(way(words)).toBe(direction),
  );
  it('Q overrides I and J, and says so', () => {
    expect(boringShift({ q: 0.2, i: null, j: 0.2 })).toMatchObject({ byMachine: true, overridden: true });
    expect(boringShift({ q: 0.2, i: 0, j: null })).toMatchObject({ overridden: false });
    expect(boringShift({ q: 0, i: null, j: 0.2 })).toMatchObject({ byMachine: false, direction: 'Y+' });
  });
  it('along both axes, or nowhere, is none of the four', () => {
    expect(way({ i: 0.2, j: 0.2 })).toBeNull();
    expect(way({ i: 0 })).toBeNull();
    expect(boringShift({ q: null, i: null, j: null })).toBeNull();
  });
  it('the tip points against the shift: tip X− is shifted X+, tip Y− is shifted Y+', () => {
    expect(tipFor('X+')).toBe('X-');
    expect(tipFor('Y+')).toBe('Y-');
    expect((['X+', 'X-', 'Y+', 'Y-'] as const).map((each) => tipFor(tipFor(each)))).toEqual([
      'X+',
      'X-',
      'Y+',
      'Y-',
    ]);
  });
  it('0.010 in is plenty', () => expect(inUnit(PLENTY, 'in')).toBe(0.01));
});

describe('read out of a program', () => {
  const dialect = dialectSchema.parse({
    kind: 'mill',
    units: 'in',
    toolCallCodes: ['M6'],
    toolCallMacro: null,
    rowDigits: 0,
    lengthCodes: ['G43'],
    automaticRow: null,
    feed: 'perMinute',
    turningCycles: false,
    pointless: 'asWritten',
    lifeCodes: [],
    setRegister: {},
    unitCodes: { mm: 'G21', in: 'G20' },
    guardRegister: {},
    guardEnd: [],
  });
  const shifts = (text: string) => {
    const result = readProgram(`O1\n${text}\nM30\n`, dialect);
    if (!result.ok) throw new Error(result.reason);
    return result.reading.calls.map((call) => call.boringShifts);
  };
  it('a dialect that says nothing shifts X+', () => expect(dialect.boringShift).toBe('X+'));
  it('each fine boring cycle with its line, in the program’s unit', () => {
    const [first, second] = shifts(
      'T1 M6\nG43 H1 Z1.\nG76 X0 Y0 Z-1. R0.1 Q0.01 F4.\nX2.\nG80\nT2 M6\nG43 H2 Z1.\nG76 X0 Y0 Z-1. R0.1 J-0.01 F4.\nG80',
    );
    expect(first).toEqual([{ line: 4, byMachine: true, direction: null, shift: 254_000, overridden: false }]);
    expect(second).toEqual([
      { line: 9, byMachine: false, direction: 'Y-', shift: 254_000, overridden: false },
    ]);
  });
  it('a peck’s Q and a cycle of a lathe are no shift', () => {
    expect(shifts('T1 M6\nG43 H1 Z1.\nG83 X0 Y0 Z-1. R0.1 Q0.1 F4.\nG80')).toEqual([[]]);
    const lathe = {
      ...dialect,
      kind: 'lathe' as const,
      toolCallCodes: [],
      rowDigits: 2,
      turningCycles: true,
    };
    const result = readProgram('O1\nT0101\nG76 P010060 Q20 R10\nG76 X0.9 Z-1. P438 Q120 F0.07\nM30\n', lathe);
    expect(result.ok && result.reading.calls[0]!.boringShifts).toEqual([]);
  });
});
