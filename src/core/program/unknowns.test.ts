import { describe, expect, it } from 'vitest';
import { inUnit } from '../units/length.ts';
import { usualDialect, type Dialect } from './dialect.ts';
import type { DoubtCode } from './doubts.ts';
import type { Beyond } from './program-run.ts';
import { readProgram } from './read-program.ts';

const MILL = usualDialect('mill', 'mm');
const LATHE = usualDialect('lathe', 'mm');
const read = (text: string, dialect: Dialect = MILL, beyond?: Beyond) => {
  const result = readProgram(text, dialect, beyond);
  if (!result.ok) throw new Error(result.reason);
  return result.reading;
};
const doubts = (text: string, dialect?: Dialect, beyond?: Beyond): [DoubtCode, number][] =>
  read(text, dialect, beyond).remarks.map(({ code, line }) => [code!, line]);
const tools = (text: string, dialect?: Dialect) => read(text, dialect).calls.map(({ tool }) => tool);
const HEAD = 'O1\nT1 M6\nS1000 M3\nG43 H1 Z50.';

describe('a program that is read whole has no doubts', () => {
  it('everyday text', () => {
    expect(
      doubts(
        `%\nO1 (PART)\nG21 G17 G40 G49 G80 G90\nT1 M6 (DRILL)\nG0 G54 X0. Y0. S1000 M3\nG43 H1 Z50. M8\nG98 G81 Z-5. R2. F100.\nX10.\nG80\nM9\nG28 G91 Z0.\nM1\nM30\n%`,
      ),
    ).toEqual([]);
  });
});

describe('what is called and not at hand', () => {
  it.each([
    ['a program of the store', 'M98 P7001'],
    ['packed with its repeats', 'M98 P37001'],
    ['one outside the control', 'M198 P5'],
    ['one by the name of its file', 'M98 (POCKET.NC)'],
    ['one by its name in quotes', 'M98 "POCKET"'],
    ['a macro', 'G65 P9100 X1.'],
    ['a macro at every move', 'G66 P9100 X1.'],
    ['blocks of its own that are not there', 'M97 P500'],
    ['one whose number is a variable', 'M98 P#100'],
  ])('%s is a doubt', (_, block) => {
    const found = read(`${HEAD}\n${block}\nM30`).remarks;
    expect(found.map(({ code }) => code)).toContain('missingSub');
    expect(found.find(({ code }) => code === 'missingSub')!.affects).toContain('tools');
  });
  it('from the store it is read in place, packed or not, and its lines are those of the call', () => {
    const library = ['%\nO7001\nG91 G1 X10. F60.\nG90\n(UNKNOWN) Q\nM99\n%'];
    const { calls, remarks } = read(`${HEAD}\nM98 P37001\nM30`, MILL, { library });
    expect(calls[0]!.cutMilliseconds).toBe(30_000);
    expect(remarks.map(({ code, line }) => [code, line])).toEqual([['unknownWord', 5]]);
  });
  it('blocks of the program itself are run where they are called, tools too', () => {
    expect(tools('O1\nT1 M6\nM97 P500\nM30\nN500 T2 M6\nM99')).toEqual([1, 2]);
  });
  it('a macro has its arguments, a level of its own, and is run at each move under G66', () => {
    const macro = '\nO9100\nG91 G1 Z-#26 F#9\nG0 Z#26\nG90\nM99';
    expect(read(`${HEAD}\nG65 P9100 Z10. F60.\nM30${macro}`).calls[0]!.cutMilliseconds).toBe(10_000);
    expect(
      read(`${HEAD}\nG66 P9100 Z10. F60.\nX0.\nX5.\nG67\nX9.\nM30${macro}`).calls[0]!.cutMilliseconds,
    ).toBe(20_000);
  });
  it('what calls itself is refused with its line', () => {
    expect(doubts(`${HEAD}\nM98 P1\nM30`)).toEqual([['selfCall', 5]]);
    expect(doubts(`${HEAD}\nM98 P2\nM30\nO2\nM98 P3\nM99\nO3\nM98 P2\nM99`)).toEqual([['selfCall', 11]]);
  });
  it('the main program is the one that ends the run and that nobody calls, wherever it stands', () => {
    const { calls, number, remarks } = read(
      'O2\nG91 G1 X10. F60.\nG90\nM99\nO1\nT1 M6\nS1 M3\nG43 H1 Z5.\nM98 P2\nM30',
    );
    expect([number, calls.length, calls[0]!.cutMilliseconds, remarks.length]).toEqual([
      'O0001',
      1,
      10_000,
      0,
    ]);
    expect(doubts('O1\nT1 M6\nM30\nO2\nT2 M6\nM30')).toEqual([['mainProgram', 1]]);
  });
});

describe('variables', () => {
  it('what the program sets is known: sums, loops, jumps', () => {
    const loop = `${HEAD}\n#100=0\nWHILE [#100 LT 12] DO1\nG81 X[#100*10.] Y0. Z-5. R2. F100.\nG80\n#100=#100+1\nEND1\nM30`;
    expect([read(loop).calls[0]!.holes, doubts(loop).length]).toEqual([12, 0]);
    const jump = `${HEAD}\n#1=3\nN10 G91 G1 X10. F60.\nG90\n#1=#1-1\nIF [#1 GT 0] GOTO 10\nM30`;
    expect([read(jump).calls[0]!.cutMilliseconds, doubts(jump).length]).toEqual([30_000, 0]);
  });
  it.each([
    ['S#101 M3', 'speed'],
    ['G1 X5. F#102', 'life'],
    ['G43 H#4120', 'length'],
    ['G41 D#5 X1.', null],
    ['G41 D#500 X1.', 'radius'],
    ['G1 Z#500 F100.', 'depth'],
    ['G81 Z-5. R1. F10. L#500', 'life'],
    ['M#500', 'tools'],
  ] as const)('%s hangs on what nobody set', (block, affects) => {
    const found = read(`${HEAD}\n${block}\nM30`).remarks.filter(({ code }) => code === 'unknownValue');
    if (affects === null) expect(found).toEqual([]);
    else expect(found[0]!.affects).toContain(affects);
  });
  it('a T that hangs on one is no tool: not the one before, and nobody’s cuts', () => {
    const { calls, remarks } = read(`${HEAD}\nG1 X10. F60.\nT#100 M6\nG43 H2 Z5.\nS1 M3\nG1 X90. F60.\nM30`);
    expect(calls.map(({ tool, cutMilliseconds }) => [tool, cutMilliseconds])).toEqual([[1, 10_000 + 0]]);
    expect(remarks.map(({ code }) => code)).toEqual(['unknownValue']);
  });
  it('what somebody said of one is known', () => {
    const text = `${HEAD}\nG1 X#500 F60.\nM30`;
    expect(read(text, MILL, { known: [{ variable: 500, value: 30 }] }).remarks).toEqual([]);
  });
  it('a branch that hangs on one: both ways are read, the tools behind it are called perhaps', () => {
    const text = `${HEAD}\nIF [#500 EQ 1] GOTO 90\nT11 M6\nS1 M3\nG43 H11 Z5.\nG1 X90. F100.\nN90 T3 M6\nM30`;
    const { calls, remarks } = read(text);
    expect(calls.map(({ tool, perhaps }) => [tool, perhaps])).toEqual([
      [1, false],
      [11, true],
      [3, false],
    ]);
    expect(remarks.map(({ code, line }) => [code, line])).toEqual([['perhaps', 5]]);
    expect(remarks[0]!.text).toContain('#500');
  });
  it('both arms of a branch are read, each perhaps', () => {
    const text = `${HEAD}\nIF [#500 EQ 1] GOTO 10\nT2 M6\nGOTO 20\nN10 T3 M6\nN20 T4 M6\nM30`;
    expect(read(text).calls.map(({ tool, perhaps }) => [tool, perhaps])).toEqual([
      [1, false],
      [2, true],
      [3, true],
      [4, false],
    ]);
  });
  it('an end that is come to only perhaps ends nothing, in the program and in a subprogram', () => {
    expect(tools(`${HEAD}\nIF [#500 EQ 1] GOTO 10\nM30\nN10 T2 M6\nM30`)).toEqual([1, 2]);
    const sub = `${HEAD}\nM98 P2\nM30\nO2\nIF [#500 EQ 1] GOTO 10\nM99\nN10 T2 M6\nM99`;
    expect(tools(sub)).toEqual([1, 2]);
  });
  it('a check that raises an alarm is no branch that matters', () => {
    expect(doubts(`${HEAD}\nIF [#500 LT 5] GOTO 20\n#3000=1 (CHUCK OPEN)\nN20 G1 X1. F100.\nM30`)).toEqual(
      [],
    );
  });
  it('a loop that hangs on one is counted once, and said', () => {
    const text = `${HEAD}\nWHILE [#500 LT 12] DO1\nG81 X1. Z-5. R2. F100.\nG80\nEND1\nM30`;
    expect([read(text).calls[0]!.holes, doubts(text)]).toEqual([1, [['perhaps', 5]]]);
  });
  it('a variable that is set only perhaps is not known after it', () => {
    const text = `${HEAD}\n#100=5\nIF [#500 EQ 1] GOTO 10\n#100=50\nN10 G1 X#100 F60.\nM30`;
    expect(doubts(text).map(([code]) => code)).toEqual(['unknownValue']);
  });
  it('logic that nobody understands is said, each line of it', () => {
    expect(doubts(`${HEAD}\nIF #1 WHATEVER\nSETVN[A]\nM30`)).toEqual([
      ['lostLogic', 5],
      ['lostLogic', 6],
    ]);
  });
});

describe('lengths', () => {
  const cuts = (blocks: string, dialect = MILL) =>
    read(`O1\nT1 M6\nS1000 M3\n${blocks}\nM30`, dialect).calls[0]!;
  it('H0, G49 and none at all are cuts without a length', () => {
    expect(cuts('G43 H0 Z5.\nG1 X9. F9.').withoutLength).toBe(5);
    expect(cuts('G43 H1 Z5.\nG49\nG1 X9. F9.').withoutLength).toBe(6);
    expect(cuts('G1 X9. F9.\nG43 H1 Z5.').withoutLength).toBe(4);
    expect(cuts('G43 H1 Z5.\nG1 X9. F9.\nG49').withoutLength).toBeNull();
  });
  it('a row with a decimal code counts as one, and H alone changes it while a length is in force', () => {
    expect(cuts('G43.4 H12 Z5.\nG1 X9. F9.').lengthRows.map(({ row }) => row)).toEqual([12]);
    expect(cuts('G43 H1 Z5.\nH9 G1 X9. F9.').lengthRows.map(({ row }) => row)).toEqual([1, 9]);
    expect(cuts('H9\nG43 H1 Z5.\nG1 X9. F9.').lengthRows.map(({ row }) => row)).toEqual([1]);
  });
  it('the row of the tool before is still in force until another is called', () => {
    const { calls } = read('O1\nT1 M6\nS1 M3\nG43 H1 Z5.\nG1 X9. F9.\nT2 M6\nS1 M3\nG1 X0. F9.\nM30');
    expect(calls[1]!.lengthRows).toEqual([{ row: 1, line: 8, automatic: false }]);
  });
  it('on a lathe T0300 takes the row away, of the tool there and of one that comes', () => {
    const { calls } = read(
      'O1\nT0101\nG97 S500 M3\nG1 Z-5. F0.1\nT0100\nG1 Z-9.\nT0300\nG1 Z-1.\nM30',
      LATHE,
    );
    expect(calls.map(({ tool, withoutLength }) => [tool, withoutLength])).toEqual([
      [1, 6],
      [3, 8],
    ]);
  });
  it('six digits where the profile reads four are no tool', () => {
    expect(doubts('O1\nT0101\nG97 S5 M3\nT010101\nG1 Z-5. F0.1\nM30', LATHE)).toEqual([['wideT', 4]]);
    const wide = { ...LATHE, rowDigits: 3 };
    expect(tools('O1\nT001001\nM30', wide)).toEqual([1]);
  });
});

describe('tools', () => {
  it('cuts before any tool, and a change without a T, are said', () => {
    expect(doubts('O1\nG1 X5. F100.\nT1 M6\nM30')).toEqual([['cutBeforeTool', 2]]);
    expect(doubts('O1\nM6\nT1 M6\nM30')).toEqual([['noTool', 2]]);
  });
  it('lines that end by CR alone are lines', () => {
    expect(tools('O1\rT1 M6\rT2 M6\rM30')).toEqual([1, 2]);
    expect(tools('O1\r\nT1 M6\r\nT2 M6\rT3 M6\nM30')).toEqual([1, 2, 3]);
  });
  it('a T with too many digits is none', () => {
    expect(doubts('O1\nT1 M6\nT99999999999 M6\nM30')).toEqual([['wideT', 3]]);
  });
  it('is named by the remark at its call, right above or right below; never by a title, a header or a stop', () => {
    const names = (text: string) => read(text).calls.map(({ remark }) => remark);
    expect(names('O1 (DRILL JIG)\nT1 M6\nM0 (MEASURE REAMED BORE)\nT2 M6 (TAP)\nM30')).toEqual(['', 'TAP']);
    expect(names('O1\n(DRILL JIG)\nT1 M6\nM30')).toEqual(['']);
    expect(names('O1 (JIG)\n(DRILL 5)\nN10 T1 M6\n(REAMER)\nM1\nT2 M6\n(TAP M8)\nM30')).toEqual([
      'DRILL 5',
      'TAP M8',
    ]);
  });
  it('a tool with its size is no title, nor is what stands behind a call', () => {
    const first = (text: string) => {
      const { title, calls } = read(text);
      return [title, calls[0]!.remark];
    };
    expect(first('O1\n(12 DRILL)\nT1 M6\nM30')).toEqual(['', '12 DRILL']);
    expect(first('O1\nG40 G80\nT1 M6\n(12 DRILL)\nG0 X1.\nM30')).toEqual(['', '12 DRILL']);
    expect(first('O1\nT1 M6\n(ROUGH)\nM30')).toEqual(['', 'ROUGH']);
    expect(first('O1\n(COVER PLATE)\n(12 DRILL)\nT1 M6\nM30')).toEqual(['COVER PLATE', '12 DRILL']);
  });
  it('a list of tools before the first call names those whose calls say what is done, or nothing', () => {
    const list = '(T1 D=80. - FACE MILL)\n(T2 D=6.8 - DRILL)\n(T03 - TAP M8)\n';
    const calls =
      '(2D CONTOUR)\nT1 M6\nG0 X1.\nT2 M6\nG0 X2.\nT3 M6 (FORM TAP M8)\nT4 M6 (POCKET)\nT2 M6\nM30';
    const listed = read(`O1 (JIG)\n${list}${calls}`);
    expect(listed.calls.map(({ remark }) => remark)).toEqual([
      'T1 D=80. - FACE MILL',
      'T2 D=6.8 - DRILL',
      // what its own call says goes before
      'FORM TAP M8',
      'POCKET',
      'T2 D=6.8 - DRILL',
    ]);
    // such a line is no title either, and what comes behind the calls is no list
    const untitled = read(`O1\n${list}${calls}\n(T4 END MILL 10)`);
    expect(untitled.title).toBe('');
    expect(untitled.calls[0]!.remark).toBe('T1 D=80. - FACE MILL');
    expect(untitled.calls[3]!.remark).toBe('POCKET');
    expect(read(`O1\n(COVER PLATE)\n${list}${calls}`).title).toBe('COVER PLATE');
  });
});

describe('radius', () => {
  const comp = (blocks: string) => read(`${HEAD}\n${blocks}\nM30`).calls.at(-1)!.compensations!;
  it('the row in force stands with each G41: nought, and none since the tool came', () => {
    expect(comp('G41 D0 X5.')).toEqual([{ line: 5, row: 0 }]);
    expect(comp('D3\nG41 X5.')).toEqual([{ line: 6, row: 3 }]);
    expect(comp('G41 D1 X5.\nG40\nT2 M6\nG41 X5.')).toEqual([{ line: 8, row: null }]);
  });
});

describe('speeds that are in force while it cuts', () => {
  it('S carried over a tool change counts for the tool that cuts with it', () => {
    const { calls } = read(
      'O1\nT1 M6\nS8000 M3\nG43 H1 Z1.\nG1 X1. F9.\nT2 M6\nM3\nG43 H2 Z1.\nG1 X2. F9.\nM30',
    );
    expect(calls[1]!.speeds).toEqual({ least: 8000, most: 8000 });
    expect(calls[1]!.withoutSpindle).toBeNull();
  });
  it('a spindle that was not started after the change stands still', () => {
    const { calls } = read('O1\nT1 M6\nS8000 M3\nT2 M6\nG43 H2 Z1.\nG1 X2. F9.\nM30');
    expect(calls[1]!.withoutSpindle).toBe(6);
  });
  it('the ceiling in force counts, not a lower one of a tool before', () => {
    const { calls } = read(
      'O1\nT0101\nG50 S1000\nG96 S200 M3\nG0 X10.\nG1 Z-5. F0.1\nT0202\nG50 S6000\nG96 S300\nG0 X4.\nG1 Z-15.\nM30',
      LATHE,
    );
    expect(calls.map(({ topSpeed }) => topSpeed)).toEqual([1000, 6000]);
  });
  it('to the centre without a ceiling there is no most', () => {
    const face = (ceiling: string) =>
      read(`O1\nT0101\n${ceiling}G96 S200 M3\nG0 X50. Z0.\nG1 X0. F0.1\nM30`, LATHE).calls[0]!;
    expect(face('').noCeiling).toBe(5);
    expect(face('G50 S3000\n').noCeiling).toBeNull();
    expect(face('G50 S3000\n').topSpeed).toBe(3000);
  });
  it('G96 without an S has no speed, and takes no time that anybody knows', () => {
    const text = 'O1\nT0101\nG96 M3\nG0 X50.\nG1 Z-5. F0.1\nM30';
    expect(doubts(text, LATHE)).toEqual([['noSurfaceSpeed', 3]]);
    expect(read(text, LATHE).calls[0]!.cutMilliseconds).toBeLessThan(1e6);
    // an S beside G50 is the ceiling, not the speed
    const both = 'O1\nT0101\nG50 G96 S700 M3\nG0 X50.\nG1 Z-5. F0.1\nM30';
    expect(doubts(both, LATHE)).toEqual([['noSurfaceSpeed', 3]]);
    expect(read(both, LATHE).calls[0]!.cutMilliseconds).toBe(0);
  });
});

describe('life, against sums by hand', () => {
  const lathe = (blocks: string) => read(`O1\nT0101\nG97 S1000 M3\n${blocks}\nM30`, LATHE).calls[0]!;
  it('simple turning cycles go on with what a block leaves out', () => {
    // three passes of 22 mm, and out again by 5, 6 and 7 mm
    expect(inUnit(lathe('G0 X50. Z2.\nG90 X40. Z-20. F0.2\nX38.\nX36.').feedDistance, 'mm')).toBeCloseTo(
      84,
      6,
    );
    // G92 threads: 4 passes of 22 mm
    expect(inUnit(lathe('G0 X22. Z2.\nG92 X19. Z-20. F1.5\nX18.5\nX18.2\nX18.').feedDistance, 'mm')).toBe(88);
    // G94 faces 2 times 25 mm, and back by 2 and 3 mm
    expect(inUnit(lathe('G0 X50. Z2.\nG94 X0. Z0. F0.2\nZ-1.').feedDistance, 'mm')).toBeCloseTo(55, 6);
  });
  it('grooves of G75 at each step across, pecks of G74 at each step of X', () => {
    expect(inUnit(lathe('G0 X50. Z-10.\nG75 X40. Z-20. P1000 Q5000 F0.1').feedDistance, 'mm')).toBe(15);
    expect(inUnit(lathe('G0 X50. Z2.\nG74 Z-18. Q5000 F0.1').feedDistance, 'mm')).toBe(20);
  });
  it('G70 feeds as its contour says, from block to block', () => {
    const contour = 'N10 G0 X40.\nG1 Z-10. F0.1\nZ-20.\nN20 X50.';
    // rapid leg counted by the feed before; 10 + 10 + 5 mm at 0.1: 250 turns, and 5 mm at 0.4 before: 12.5
    const text = `G0 X50. Z0.\nG1 F0.4\nG70 P10 Q20\n${contour}`;
    expect(lathe(text).cutMilliseconds).toBe(Math.round((262.5 / 1000) * 60_000));
  });
  it('a contour is the next one of its number, and a doubled number is said', () => {
    const text = `O1\nT0101\nG97 S1000 M3\nG0 X50. Z0.\nG70 P10 Q20 F0.1\nN10 G1 X40.\nN20 Z-10.\nG0 X50. Z0.\nG70 P10 Q20 F0.1\nN10 G1 X40.\nN20 Z-90.\nM30`;
    expect(inUnit(read(text, LATHE).calls[0]!.feedDistance, 'mm')).toBe(5 + 10 + 5 + 90);
    expect(doubts(text, LATHE).map(([code]) => code)).toContain('doubledN');
  });
  it('G93 takes one over F minutes a block', () => {
    expect(read(`${HEAD}\nG93 G1 X100. F2.\nX0. F4.\nM30`).calls[0]!.cutMilliseconds).toBe(45_000);
  });
  it('holes at rotary positions, and holes made by G1, pecked or not', () => {
    const call = (blocks: string) => read(`${HEAD}\n${blocks}\nM30`).calls[0]!;
    expect(call('G81 X0. Z-5. R2. F100.\nA90.\nA180.\nA270.\nG80').holes).toBe(4);
    expect(call('G0 X0.\nG1 Z-5. F100.\nG0 Z2.\nG1 Z-9.\nG0 Z2.\nX10.\nG1 Z-5.\nG0 Z2.').holes).toBe(2);
    // one that feeds sideways as well is a mill
    expect(call('G0 X0.\nG1 Z-5. F100.\nG1 X20.\nG0 Z2.').holes).toBe(0);
  });
  it('a rotary axis by feed takes its degrees, and says that its way is not counted', () => {
    const { calls, remarks } = read(`${HEAD}\nG1 A360. F720.\nM30`);
    expect(calls[0]!.cutMilliseconds).toBe(30_000);
    expect(remarks.map(({ code }) => code)).toEqual(['rotary']);
  });
});

describe('what is not followed is named', () => {
  it.each([
    'G12 I5. F100.',
    'G13 I5. F100.',
    'G16',
    'G51 X0. Y0. P2.',
    'G150 P5 X0. Y0. Z-5.',
    'G123',
    'M77',
  ])('%s', (block) => {
    const [first] = read(`${HEAD}\n${block}\nM30`).remarks;
    expect([first!.code, first!.line]).toEqual(['unknownCode', 5]);
  });
  it('unless the profile says that it is harmless', () =>
    expect(doubts(`${HEAD}\nM77\nM30`, { ...MILL, harmlessCodes: ['M77'] })).toEqual([]));
  it('a row that is written, and a block that runs by a switch', () => {
    expect(doubts(`${HEAD}\nG10 L11 P1 R0.1\nM30`)).toEqual([['writes', 5]]);
    expect(doubts(`${HEAD}\n/T2 M6\n/M1\n/N10 M0\nM30`)).toEqual([['blockDelete', 5]]);
    expect(doubts(`${HEAD}\n#2001=5.\nM30`)).toEqual([['writes', 5]]);
  });
  it('the same on many lines is said of each', () => {
    expect(doubts(`${HEAD}\nM98 P7001\nM98 P7002\nM98 P7001\nM30`)).toEqual([
      ['missingSub', 5],
      ['missingSub', 6],
      ['missingSub', 7],
    ]);
  });
});

describe('hostile text is read in bounded work and never thrown at', () => {
  it('a loop that calls tools for ever leaves no more calls than a page can show, and says so', () => {
    const result = readProgram(
      '%\nO1 (X)\nN1 T5 M6\nS900 M3\nG43 H5 Z9.\nG1 X1. F90.\nT6 M6\nGOTO1\nM30\n%',
      usualDialect('mill', 'mm'),
    );
    if (!result.ok) throw new Error(result.reason);
    expect(result.reading.calls.length).toBeLessThanOrEqual(5001);
    expect(result.reading.remarks.map(({ code }) => code)).toContain('tooLong');
  });
  const blocks = (count: number, text: string) => Array.from({ length: count }, () => text).join('\n');
  it.each([
    ['positions that no machine has', `${HEAD}\nG0 X400000000.\nG1 X10000000000. F1.`],
    ['a macro that repeats itself without end', `${HEAD}\nN1 G1 X1. F1.\nGOTO 1`],
    ['repeats within repeats', `${HEAD}\nM98 P2 L9999\nM30\nO2\nM98 P3 L9999\nM99\nO3\nG1 X1. F1.\nM99`],
    ['open brackets on each line', `${HEAD}\n${blocks(50_000, '(')}`],
    ['open expressions', `${HEAD}\n${blocks(2_000, `X${'['.repeat(400)}`)}`],
    ['holes without number', `${HEAD}\n${blocks(400, 'G81 X1. Z-5. R1. F10. L9999999')}`],
    [
      'roughing by next to nothing',
      'O1\nT0101\nG97 S1 M3\nG0 X99. Z1.\nG71 U0.0000001\nG71 P1 Q2 F1.\nN1 G0 X1.\nN2 G1 Z-9.',
    ],
    ['deep loops', `${HEAD}\n${blocks(3_000, 'WHILE [1 EQ 1] DO1')}`],
  ])('%s', (_, text) => {
    for (const dialect of [MILL, LATHE]) expect(() => readProgram(text, dialect)).not.toThrow();
  });
  it('a repeat without end says that the rest is not counted', () => {
    expect(
      doubts(`${HEAD}\nM98 P2 L99999\nM30\nO2\nM98 P3 L99999\nM99\nO3\nG1 X1. F1.\nM99`).map(
        ([code]) => code,
      ),
    ).toEqual(['tooLong']);
  });
  it('sums stay whole numbers that can be kept', () => {
    const { calls } = read(`${HEAD}\nG1 X99999. F0.0000001\nM30`);
    expect(Number.isSafeInteger(calls[0]!.cutMilliseconds)).toBe(true);
  });
});
