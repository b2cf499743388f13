import { describe, expect, it } from 'vitest';
import { inUnit } from '../units/length.ts';
import { usualDialect } from './dialect.ts';
import { readProgram } from './read-program.ts';

// Forms in which shops write the same cycle: one line or two, with points or in thousandths (common practice, no source). How far the
// edge feeds is worked out by hand beside each.

function call(body: string, kind: 'mill' | 'lathe' = 'lathe') {
  const head = kind === 'lathe' ? 'O1\nT0101\nG97 S1000 M3' : 'O1\nT1 M6\nG43 H1\nS1000 M3';
  const read = readProgram(`${head}\n${body}\nM30`, usualDialect(kind, 'mm'));
  if (!read.ok) throw new Error(read.reason);
  return read.reading.calls[0]!;
}
const fed = (body: string) => inUnit(call(body).feedDistance, 'mm');

describe('a zero that is set where the tool stands', () => {
  it('is where what comes is counted from, and no way: old programs begin each tool so', () => {
    // X is a diameter: from X200 to X60 is 70 by rapid, and then 50 are cut
    expect(fed('G28 U0 W0\nG50 X200. Z150.\nG0 X60. Z2.\nG1 Z-48. F0.2')).toBeCloseTo(50, 3);
    expect(fed('G50 X200. Z150. S2500\nG1 X198. Z150. F0.2')).toBeCloseTo(1, 3);
    // the tool's place is put 0.2 smaller, and fed back to where it stood
    expect(fed('G0 X60. Z2.\nG50 U-0.2\nG1 X60. F0.2')).toBeCloseTo(0.1, 3);
    expect(fed('G0 X60. Z2.\nG50 S2000\nG1 X60. Z0. F0.2')).toBeCloseTo(2, 3);
  });
});

describe('the same cycle in the forms it is written in', () => {
  const contour = 'N10 G0 X40.\nG1 Z-48.\nN20 X60.';
  // once along the contour, 10 + 50 + 10, and passes at 56, 52, 48 and 44 of 50 mm each
  const rough = 70 + 4 * 50;
  it.each([
    ['on two lines', 'G71 U2. R1.\nG71 P10 Q20 U0. W0. F0.2'],
    ['on one line', 'G71 P10 Q20 U0. W0. D2. F0.2'],
    ['on one line, the depth in thousandths', 'G71 P10 Q20 U0. W0. D2000 F0.2'],
  ])('roughing %s', (_, cycle) => {
    expect(fed(`G0 X60. Z2.\n${cycle}\n${contour}`)).toBeCloseTo(rough, 3);
  });
  it.each([
    ['on two lines', 'G73 U6. W2. R3.\nG73 P10 Q20 U0.4 W0.1 F0.2'],
    ['on one line', 'G73 P10 Q20 I6. K2. U0.4 W0.1 D3 F0.2'],
  ])('repeating a pattern %s', (_, cycle) => {
    expect(fed(`G0 X60. Z2.\n${cycle}\n${contour}`)).toBeCloseTo(3 * 70, 3);
  });
  // passes at 0, -2 and -4 go in to 20, at -6 and -8 to the boss of 40; then once along the contour
  it.each([
    ['on two lines', 'G72 W2. R1.\nG72 P10 Q20 U0. W0. F0.2'],
    ['on one line', 'G72 P10 Q20 U0. W0. D2. F0.2'],
  ])('facing %s, each pass as far as the contour lets it', (_, cycle) => {
    const boss = 'N10 G0 Z-10.\nG1 X40.\nZ-5.\nX20.\nN20 Z2.';
    expect(fed(`G0 X62. Z2.\n${cycle}\n${boss}`)).toBeCloseTo(3 * 21 + 2 * 11 + 12 + 11 + 5 + 10 + 7, 3);
  });
  // 0.92 high, 0.3 at first: (0.92 / 0.3)² is 9.4, so ten passes, and two to finish
  it.each([
    ['on two lines', 'G76 P020060 Q100 R0.05\nG76 X18.16 Z-20. P920 Q300 F1.5', 12],
    ['on two lines with points', 'G76 P020060 Q100 R0.05\nG76 X18.16 Z-20. P0.92 Q0.3 F1.5', 12],
    ['on one line', 'G76 X18.16 Z-20. K0.92 D0.3 F1.5 A60', 11],
    ['on one line in thousandths', 'G76 X18.16 Z-20. K0.92 D300 F1.5 A60', 11],
  ])('threading %s', (_, cycle, passes) => {
    expect(fed(`G0 X22. Z5.\n${cycle}`)).toBeCloseTo(25 * passes, 3);
  });
  // 10 deep at 0, 3, 6, 9 and 10
  it.each([
    ['in thousandths', 'G75 R0.5\nG75 X20. Z-20. P2000 Q3000 F0.1'],
    ['with points', 'G75 R0.5\nG75 X20. Z-20. P2. Q3. F0.1'],
    ['as whole millimetres', 'G75 R0.5\nG75 X20. Z-20. P2 Q3 F0.1'],
  ])('grooving with steps %s', (_, cycle) => {
    expect(fed(`G0 X40. Z-10.\n${cycle}`)).toBeCloseTo(10 * 5, 3);
  });
});

describe('holes of a lathe', () => {
  it('pecking on the centre line is a hole, a groove in a face is none', () => {
    expect(call('G0 X0. Z5.\nG74 R1.\nG74 Z-40. Q8000 F0.12').holes).toBe(1);
    expect(call('G0 X0. Z5.\nG74 Z-40. K8. F0.12').holes).toBe(1);
    expect(call('G0 X50. Z2.\nG74 R1.\nG74 X40. Z-5. P2000 Q1000 F0.08').holes).toBe(0);
  });
  it('the plane of return may be said as a step from where it stands', () => {
    expect(inUnit(call('G0 X0. Z5.\nG83 Z-20. R-3. Q5000 F0.1').feedDistance, 'mm')).toBeCloseTo(22, 6);
    expect(inUnit(call('G0 X0. Z5.\nG83 Z-20. R2. Q5000 F0.1').feedDistance, 'mm')).toBeCloseTo(22, 6);
  });
  it('a cycle from the side goes down in X, at each angle', () => {
    const side = call('G0 X64. Z-10. C0.\nG87 X40. R-2. Q3000 F0.1\nC120.\nC240.\nG80');
    expect(side.holes).toBe(3);
    // from 60 to 40 in diameter
    expect(inUnit(side.feedDistance, 'mm')).toBeCloseTo(30, 6);
    expect(inUnit(side.deepest!, 'mm')).toBe(-10);
    const tapped = call('G0 X64. Z-10. C0.\nG88 Z-20. X40. R-2. F1.\nZ-30.\nG80');
    expect(tapped.holes).toBe(2);
    expect(inUnit(tapped.feedDistance, 'mm')).toBeCloseTo(40, 6);
    // along Z where X stays
    expect(inUnit(call('G0 X0. Z5.\nG85 X0. Z-20. R2. F0.1\nG80').feedDistance, 'mm')).toBeCloseTo(44, 6);
    expect(inUnit(call('G0 X0. Z5.\nG89 X0. Z-20. R2. F0.1\nG80').feedDistance, 'mm')).toBeCloseTo(44, 6);
  });
  it('repeats are read on both kinds of machine', () => {
    expect(call('G0 X30. Z5. C0.\nG83 Z-20. R2. H60. K6 F0.1').holes).toBe(6);
    expect(call('G0 X30. Z5. C0.\nG83 Z-20. R2. K0 F0.1\nC0.\nC90.\nG80').holes).toBe(2);
  });
});

describe('a register written by a lathe’s program', () => {
  it('is set by X and Z, and added to by U and W', () => {
    const adds = (words: string) => {
      const read = readProgram(`O1\nT0101\nG10 P2 ${words}\nM30`, usualDialect('lathe', 'mm'));
      return read.ok && read.reading.remarks.map((each) => each.adds ?? false);
    };
    expect([adds('X0.1'), adds('Z0.1'), adds('U0.1'), adds('W0.1')]).toEqual([
      [false],
      [false],
      [true],
      [true],
    ]);
  });
});

describe('K of a drilling cycle', () => {
  it('is a number of holes only where it can be one: beside I or J, or with a point, it is a depth of peck', () => {
    const mill = (words: string) => call(`G0 X0. Y0. Z50.\n${words}\nG80`, 'mill').holes;
    expect(mill('G91 G81 X10. Z-5. R-45. F100. K3')).toBe(3);
    expect(mill('G90 G83 Z-20. R2. I5. J1. K2 F100.')).toBe(1);
    expect(mill('G90 G83 Z-20. R2. Q5. K0.5 F100.')).toBe(1);
    expect(mill('G90 G83 Z-20. R2. I5 J1 K2 F100.')).toBe(1);
    expect(mill('G91 G81 X10. Z-5. R-45. F100. L4')).toBe(4);
  });
});
