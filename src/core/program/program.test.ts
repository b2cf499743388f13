import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inUnit } from '../units/length.ts';
import { cutSeconds } from './cut-time.ts';
import type { Dialect } from './dialect.ts';
import { arcLength, PLANES } from './path-length.ts';
import { readProgram } from './read-program.ts';
import { followContour, roughLengthwise, threadPasses } from './turning-cycles.ts';

const MILL: Dialect = {
  kind: 'mill',
  units: 'mm',
  toolCallCodes: ['M6'],
  toolCallMacro: null,
  rowDigits: 0,
  lengthCodes: ['G43'],
  automaticRow: null,
  feed: 'perMinute',
  turningCycles: false,
  pointless: 'asWritten',
  boringShift: 'X+',
  lifeCodes: ['M120'],
  throughCodes: ['M88'],
  harmlessCodes: [],
  setRegister: {},
  unitCodes: { mm: 'G21', in: 'G20' },
  guardRegister: {},
  guardEnd: [],
  net: null,
};
const LATHE: Dialect = {
  ...MILL,
  kind: 'lathe',
  units: 'in',
  toolCallCodes: [],
  rowDigits: 2,
  lengthCodes: [],
  feed: 'perRevolution',
  turningCycles: true,
};
const read = (text: string, dialect = MILL) => {
  const result = readProgram(text, dialect);
  if (!result.ok) throw new Error(result.reason);
  return result.reading;
};
const demo = (name: string, dialect = MILL) => read(readFileSync(`demo/programs/${name}`, 'utf8'), dialect);

describe('tool calls', () => {
  it('come in order with their lines, rows and speeds, pre-staged or not', () => {
    const { calls } = read(
      'O1 (PART)\nT3 M6 (DRILL)\nG43 H3 Z50. S1200 M3\nT4\nG1 Z-1. F100.\nM6\nG43 H4 Z50.\nG1 G41 D14 X5. F50.\nM30',
    );
    expect(calls.map(({ tool, line, lastLine }) => [tool, line, lastLine])).toEqual([
      [3, 2, 5],
      [4, 6, 9],
    ]);
    expect(calls[0]!.lengthRows).toEqual([{ row: 3, line: 3, automatic: false }]);
    expect(calls[1]!.radiusRows).toEqual([{ row: 14, line: 8, automatic: false }]);
    expect(calls[0]!.speeds).toEqual({ least: 1200, most: 1200 });
    expect(calls[0]!.remark).toBe('DRILL');
    expect(calls[1]!.usesRadiusCompensation).toBe(true);
  });
  it('on a lathe T0121 is station 1 with row 21, and T0100 cancels without calling', () => {
    const { calls } = read('O2\nT0101\nG97 S500\nT0100\nT0121\nM30', LATHE);
    expect(calls.map((call) => [call.tool, call.lengthRows[0]!.row])).toEqual([
      [1, 1],
      [1, 21],
    ]);
  });
  it('a tool call that is a macro of the machine is a property of its dialect', () => {
    const text = 'O3\nG65 P9020 T7\nG43 H7 Z1.\nM30';
    expect(read(text, { ...MILL, toolCallMacro: 9020 }).calls.map((call) => call.tool)).toEqual([7]);
    expect(readProgram(text, MILL).ok).toBe(false);
  });
  it('a length code and an automatic row are properties of the dialect too', () => {
    const text = 'O4\nT7 M16\nG143 H99 Z1.\nM30';
    const [call] = read(text, {
      ...MILL,
      toolCallCodes: ['M16'],
      lengthCodes: ['G143'],
      automaticRow: 99,
    }).calls;
    expect(call!.lengthRows).toEqual([{ row: 7, line: 3, automatic: true }]);
  });
  it('life counting and optional stops stand with their lines', () => {
    const [call] = read('O5\nT1 M6\nM120 Q10\nM1\nM30').calls;
    expect(call!.lifeCounts).toEqual([{ line: 3, quantity: 10 }]);
    expect(call!.optionalStops).toEqual([4]);
  });
});

describe('time in cut: feed moves only, rapids do not count (H9; sums by hand)', () => {
  const seconds = (text: string, dialect = MILL) => read(text, dialect).calls[0]!.cutMilliseconds / 1000;
  it('100 mm at 200 mm a minute is 30 s, whatever rapids stand around it', () => {
    expect(seconds('O1\nT1 M6\nG0 X500.\nG1 X600. F200.\nG0 X0.\nM30')).toBe(30);
  });
  it('a full circle of 20 mm radius at 100 mm a minute is 75.398 s', () => {
    expect(seconds('O1\nT1 M6\nG0 X20. Y0.\nG3 I-20. F100.\nM30')).toBeCloseTo(75.398, 2);
  });
  it('0.2 mm a revolution at 500 a minute over 50 mm is 30 s', () => {
    expect(seconds('O1\nT1 M6\nS500 M3\nG95 G1 Z-50. F0.2\nM30')).toBe(30);
  });
  it('G91 moves add up, G90 moves do not', () => {
    expect(seconds('O1\nT1 M6\nG91 G1 X10. F60.\nX10.\nG90 X0.\nM30')).toBe(40);
  });
  it('inches count as inches: 1 in at 10 in a minute is 6 s', () => {
    expect(seconds('O1\nG20\nT1 M6\nG1 X1. F10.\nM30')).toBe(6);
  });
  it('a number without a point is as the dialect has it', () => {
    expect(seconds('O1\nT1 M6\nG1 X10000 F10.\nM30', { ...MILL, pointless: 'leastIncrement' })).toBe(60);
  });
});

describe('drilling cycles', () => {
  const cycle = (body: string) =>
    read(`O1\nT5 M6\nS1000 M3\nG0 Z50.\n${body}\nG80\nG0 Z50.\nX100.\nM30`).calls[0]!;
  it('every position is a hole, down to Z, until G80', () => {
    const call = cycle('G98 G81 X0. Y0. Z-20. R2. F110.\nX10.\nX20.');
    expect(call.holes).toBe(3);
    expect(call.cutMilliseconds).toBe(36_000);
    expect(inUnit(call.deepest!, 'mm')).toBe(-20);
  });
  it('tapping and reaming feed out as well', () => {
    expect(cycle('G84 X0. Z-10. R5. F500.').cutMilliseconds).toBe(3_600);
    expect(cycle('G85 X0. Z-10. R5. F500.').cutMilliseconds).toBe(3_600);
  });
  it('a tapping cycle turns a spindle that stands by itself, the way of its thread; a drill does not', () => {
    const still = (block: string) => {
      const call = read(`O1\nT5 M6\nS400\nG43 H5 Z50.\n${block}\nG80\nM30`).calls[0]!;
      return [call.withoutSpindle, call.turns];
    };
    expect(still('M29 S400\nG84 X0. Y0. Z-10. R5. F500.')).toEqual([null, ['cw']]);
    expect(still('G84 X0. Y0. Z-10. R5. F500. S300')).toEqual([null, ['cw']]);
    expect(still('G74 X0. Y0. Z-10. R5. F500.')).toEqual([null, ['ccw']]);
    expect(still('M3\nG84 X0. Y0. Z-10. R5. F500.')).toEqual([null, ['cw']]);
    expect(still('G81 X0. Y0. Z-10. R5. F500.')).toEqual([5, []]);
    // behind it the spindle stands again
    expect(still('G84 X0. Y0. Z-10. R5. F500.\nG80\nG1 X5. F90.')).toEqual([7, ['cw']]);
    const none = read('O1\nT5 M6\nG43 H5 Z50.\nG84 X0. Y0. Z-10. R5. F500.\nM30').calls[0]!;
    expect(none.withoutSpindle).toBe(4);
  });
  it('K repeats an incremental step, and K0 only stores the cycle', () => {
    expect(cycle('G81 X0. Z-5. R1. F60. K0\nG91 X10. K4').holes).toBe(4);
  });
});

describe('turning', () => {
  const state = { feed: 0.2, perRevolution: true, speed: 0, surface: 150, ceiling: 2000 };
  it('facing at constant surface speed agrees with a fine numerical integral', () => {
    let sum = 0;
    const steps = 200_000;
    for (let i = 0; i < steps; i += 1) {
      const d = 60 - (60 * (i + 0.5)) / steps;
      sum += 30 / steps / (0.2 * Math.min(2000, (150 * 1000) / (Math.PI * d)));
    }
    expect(cutSeconds(30, state, 60, 0)).toBeCloseTo(sum * 60, 4);
  });
  it('roughing 20 mm of diameter in 2 mm cuts over 50 mm makes four passes and one along the contour', () => {
    const fixed = { ...state, surface: 0, speed: 1000 };
    const contour = [
      { x: 60, z: 2, feed: 0 },
      { x: 40, z: 2, feed: 0 },
      { x: 40, z: -48, feed: 0 },
      { x: 60, z: -48, feed: 0 },
    ];
    const rough = roughLengthwise({ x: 60, z: 2 }, contour, 2, { x: 0, z: 0 }, fixed);
    expect(rough.distance).toBeCloseTo(4 * 50 + followContour(contour, fixed).distance, 6);
  });
  it('thread passes of equal chip area: a depth of 0.0438 in from a first cut of 0.012 takes 14 and one to finish', () => {
    expect(threadPasses(0.0438, 0.012, 1)).toBe(15);
  });
  it('the contour blocks behind a roughing cycle are not run a second time', () => {
    const text =
      'O1\nT0101\nG97 S1000\nG0 X2. Z0.1\nG71 U0.1 R0.02\nG71 P10 Q20 U0. W0. F0.01\nN10 G0 X1.\nG1 Z-1. F0.005\nN20 X2.\nT0202\nG97 S1000\nG0 X2. Z0.1\nG70 P10 Q20\nM30';
    const [rough, finish] = read(text, LATHE).calls;
    // along the contour once: 0.5 in + 1.1 in + 0.5 in; at 0.01 and 0.005 in a turn, as the contour says
    expect(inUnit(finish!.feedDistance, 'in')).toBeCloseTo(2.1, 4);
    expect(inUnit(rough!.feedDistance, 'in')).toBeCloseTo(2.1 + 4 * 1.1, 4);
  });
});

describe('arcs', () => {
  const O = { x: 0, y: 0, z: 0 };
  it('by radius: a quarter of 10 mm is 15.708; the long way round with a negative one is 47.124', () => {
    const b = { x: 10, y: 10, z: 0 };
    expect(arcLength(O, b, false, PLANES[17], null, 10)).toBeCloseTo(15.708, 3);
    expect(arcLength(O, b, false, PLANES[17], null, -10)).toBeCloseTo(47.124, 3);
  });
  it('centre and radius agree, both ways round', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 6.1, noNaN: true }),
        fc.double({ min: 1, max: 50, noNaN: true }),
        (turn, r) => {
          const a = { x: r, y: 0, z: 0 };
          const b = { x: r * Math.cos(turn), y: r * Math.sin(turn), z: 0 };
          expect(arcLength(a, b, false, PLANES[17], { first: -r, second: 0 }, null)).toBeCloseTo(r * turn, 6);
          expect(arcLength(a, b, true, PLANES[17], { first: -r, second: 0 }, null)).toBeCloseTo(
            r * (2 * Math.PI - turn),
            6,
          );
        },
      ),
    );
  });
  it('without a centre or a radius, or with one of nought, it is as long as a straight move; back to where it began, nothing', () => {
    const b = { x: 3, y: 4, z: 12 };
    expect(arcLength(O, b, false, PLANES[17], null, null)).toBeCloseTo(13, 9);
    expect(arcLength(O, b, true, PLANES[17], null, 0)).toBeCloseTo(13, 9);
    expect(arcLength(O, O, true, PLANES[17], null, null)).toBe(0);
  });
  it('a helix is longer by its rise', () => {
    expect(arcLength(O, { x: 0, y: 0, z: 30 }, false, PLANES[17], { first: 5, second: 0 }, null)).toBeCloseTo(
      Math.hypot(10 * Math.PI, 30),
      6,
    );
  });
});

describe('subprograms', () => {
  it('in the same file are read in place, as often as they are called', () => {
    const { calls } = read('O1\nT1 M6\nM98 P2 L3\nM30\nO2\nG91 G1 X10. F60.\nG90\nM99');
    expect(calls[0]!.cutMilliseconds).toBe(30_000);
  });
  it('kept elsewhere are named with their line', () => {
    const { remarks } = read('O1\nT1 M6\nM98 P8100\nG1 X1. F60.\nM30');
    expect(remarks).toMatchObject([{ line: 3 }]);
    expect(remarks[0]!.text).toContain('O8100');
  });
  it('that call themselves end', () => {
    expect(
      read('O1\nT1 M6\nM98 P2\nM30\nO2\nM98 P2\nM99')
        .remarks.map((r) => r.text)
        .join(),
    ).toMatch(/from within itself/);
  });
});

describe('what is not a program', () => {
  const refusal = (text: string) => {
    const result = readProgram(text, MILL);
    return result.ok ? null : result.reason;
  };
  it('says so', () => {
    expect(refusal('')).toMatch(/empty/);
    expect(refusal('\0\u0001PK')).toMatch(/binary/);
    expect(refusal('Dear all,\nplease find = attached ? the <list> & more!\n"thanks"\n')).toMatch(
      /not NC text/,
    );
    expect(refusal('{"a": [1, 2, 3]}')).toMatch(/not NC text/);
    expect(refusal('O1\nG1 X1. F10.\nM30')).toMatch(/No tool is called/);
  });
  it('never throws, whatever the file holds', () => {
    const piece = fc.constantFrom(
      'T1 M6',
      'G1',
      'X-',
      'G71 P1 Q2',
      'M98 P1',
      'G83',
      '(',
      ')',
      '#1=',
      '%',
      'N1',
      'G2 R0',
      'L999999',
      '/',
      '\n',
      'G96 S0',
      'T0101',
      'F0',
      'Z5.',
    );
    fc.assert(
      fc.property(
        fc.array(fc.oneof(piece, fc.string()), { maxLength: 40 }),
        fc.constantFrom(MILL, LATHE),
        (pieces, dialect) => void readProgram(pieces.join(' '), dialect),
      ),
      { numRuns: 500 },
    );
  });
});

describe('the programs that ship with the made-up cell', () => {
  it('the bearing carrier calls ten tools and reams four holes', () => {
    const { calls, remarks } = demo('O2301-bearing-carrier-op1.nc');
    expect(calls.map((call) => call.tool)).toEqual([1, 2, 4, 5, 7, 6, 14, 3, 8, 11]);
    expect(calls.find((call) => call.tool === 14)!.holes).toBe(4);
    expect(remarks).toEqual([]);
  });
  it('the cover plate has the slip that the readiness page must find: T14 with H4', () => {
    const reamer = demo('O2310-cover-plate.nc').calls.find((call) => call.tool === 14)!;
    expect(reamer.lengthRows.map((use) => use.row)).toEqual([4]);
  });
  it('the guide-vane pin runs eight stations twice, the second time on rows 21 to 29', () => {
    const { calls, units } = demo('O1402-guide-vane-pin.nc', LATHE);
    expect(units).toBe('in');
    expect(calls.filter((call) => call.tool === 2).map((call) => call.lengthRows[0]!.row)).toEqual([2, 22]);
    expect(calls.every((call) => call.tool === 12 || call.cutMilliseconds > 500)).toBe(true);
  });
  it('the runner hub is cut by subprograms in its own file', () => {
    const { calls, number } = demo('O2205-runner-hub-op2.nc');
    expect(number).toBe('O2205');
    expect(calls[0]!.cutMilliseconds).toBeGreaterThan(300_000);
    expect(calls.map((call) => call.tool)).toEqual([2, 3, 4, 9, 10, 8]);
  });
});
