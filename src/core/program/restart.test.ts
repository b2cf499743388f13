import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { usualDialect } from './dialect.ts';
import { readProgram } from './read-program.ts';
import { restartAt, type Restart } from './restart.ts';

const MILL = usualDialect('mill', 'mm');
const restart = (text: string, line: number, dialect = MILL): Restart => {
  const result = restartAt(text, dialect, line);
  if (!result.ok) throw new Error(result.reason);
  return result.restart;
};
const HEAD = 'O1 (PLATE)\nG21 G17 G90 G54\nT5 M6\nS1200 M3\nG43 H5 Z50. M8\nG0 X10. Y20.\nG1 Z-5. F100.';

describe('how everything stands before a line', () => {
  it('tool, row, speed, work offset, coolant, feed and place; what is cut once more from the call', () => {
    const { tool, stand, back, dangers } = restart(`${HEAD}\nX50.\nX90.\nM30`, 9);
    expect([tool, stand.lengthRow, stand.speed, stand.workOffset, stand.coolant, stand.feed]).toEqual([
      5,
      5,
      1200,
      'G54',
      [8],
      100,
    ]);
    expect(stand.at).toEqual({ x: 50, y: 20, z: -5 });
    // 55 mm down and 40 mm along at 100 a minute
    expect(back).toMatchObject({ line: 3, seconds: expect.closeTo(57, 6), holes: 0 });
    expect(dangers).toEqual([]);
  });
  it('inches stay inches', () => {
    const { stand, here } = restart(
      `O1\nG20 G90 G54\nT5 M6\nS1200 M3\nG43 H5 Z2.\nG0 X1. Y2.\nG1 Z-0.2 F5.\nX3.\nM30`,
      8,
    );
    expect([stand.metric, stand.at.z, stand.feed]).toEqual([false, -0.2, 5]);
    expect(here!.join('\n')).toContain('G20');
    expect(here!.join('\n')).toContain('G1 Z-0.2 F5.');
  });
  it('a line that is never run, and one before any tool, are refused', () => {
    expect(restartAt(`${HEAD}\nM30\nX5.`, MILL, 9)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/never/),
    });
    expect(restartAt(HEAD, MILL, 2)).toMatchObject({ ok: false, reason: expect.stringMatching(/top/) });
  });
});

describe('text that leads back', () => {
  it.each([8, 9, 10])('run with the rest it cuts as the program would have: from line %i', (line) => {
    const text = `${HEAD}\nX50.\nG1 Y60. F300.\nX10.\nG0 Z50.\nM30`;
    const { here } = restart(text, line);
    const rest = text.split('\n').slice(line - 1);
    const again = readProgram(`O2\n${here!.join('\n')}\n${rest.join('\n')}`, MILL);
    const whole = readProgram(text, MILL);
    if (!again.ok || !whole.ok) throw new Error('not read');
    const [call] = again.reading.calls;
    const cutBefore = restart(text, line).stand.soFar!.seconds;
    // besides the rest it feeds down to where it was, and nothing else
    const down = (50 + 5) / restart(text, line).stand.feed;
    expect(call!.cutMilliseconds / 1000).toBeCloseTo(
      whole.reading.calls[0]!.cutMilliseconds / 1000 - cutBefore + down * 60,
      3,
    );
    expect([
      call!.tool,
      call!.lengthRows[0]!.row,
      call!.speeds,
      call!.withoutLength,
      call!.withoutSpindle,
    ]).toEqual([5, 5, { least: 1200, most: 1200 }, null, null]);
    expect(again.reading.remarks).toEqual([]);
  });
  it('goes over X and Y while it is high, and down by feed', () => {
    const { here } = restart(`${HEAD}\nX50.\nM30`, 8);
    const order = here!.map((each) => each.split(' ')[0]);
    expect(order).toEqual(['(O0001', 'G21', 'G94', 'S1200', 'T5', 'S1200', 'G0', 'G43', 'M8', 'G1', 'G1']);
    expect(here!.find((each) => each.startsWith('G43'))).toBe('G43 H5 Z50.');
  });
});

describe('places where nobody starts again in the middle', () => {
  const dangers = (blocks: string, line: number, dialect = MILL) =>
    restart(`${HEAD}\n${blocks}\nX99.\nM30`, line, dialect).dangers;
  it.each([
    ['compensation', 'G41 D5 X20.', 9],
    ['cycle', 'G81 Z-5. R2. F9.', 9],
    ['thread', 'G84 Z-5. R2. F9.', 9],
    ['incremental', 'G91', 9],
    ['frame', 'G68 X0. Y0. R30.', 9],
    ['change', 'T7', 9],
    ['unknown', 'M98 P7001', 9],
    ['unknown', 'G43 H#500', 9],
    ['motion', 'G2 X20. R5.', 9],
    ['writes', 'G10 L2 P1 X0.', 9],
    ['frame', 'G52 X20.', 9],
    ['frame', 'G92 X0.', 9],
    ['frame', 'G16', 9],
    ['rotary', 'G0 B90.', 9],
    ['variables', '#101=5.', 9],
    ['inverse', 'G93 G1 X20. F9.', 9],
    ['place', 'G55', 9],
    ['place', 'G43 H6', 9],
    ['place', 'G28 X0. Y0.', 9],
    ['place', 'G28 Z0.', 9],
    ['unknown', 'M3 S0', 9],
  ] as const)('%s', (danger, block, line) => {
    const found = dangers(block, line);
    expect(found).toContain(danger);
    expect(restart(`${HEAD}\n${block}\nX99.\nM30`, line).here).toBeNull();
  });
  it('not behind an arc where the block says itself that it goes straight', () => {
    expect(restart(`${HEAD}\nG2 X20. R5.\nG1 X99.\nM30`, 9).dangers).toEqual([]);
  });
  it('within a subprogram, and on a lathe; the call of the tool is left', () => {
    const sub = restart(`${HEAD}\nM98 P2 L3\nM30\nO2\nG1 X5.\nX9.\nM99`, 12);
    expect([sub.dangers, sub.here, sub.back!.line]).toEqual([['sub'], null, 3]);
    const lathe = restart(
      'O1\nG28\nT0101\nG97 S500 M3\nG0 X50. Z2.\nG1 Z-5. F0.1\nZ-9.\nM30',
      7,
      usualDialect('lathe', 'mm'),
    );
    expect([lathe.dangers, lathe.here, lathe.back!.line]).toEqual([['lathe'], null, 3]);
    expect(lathe.back!.text[1]).toBe('G21 G18 G40 G80');
  });
  it('G52 with noughts ends what it began', () => {
    expect(dangers('G52 X20.\nG0 X1. Y1.\nG52 X0.\nG0 X1. Y1. Z9.', 12)).toEqual([]);
  });
  it('from the call: the tool that was staged then, coordinates as they were, what was set, and where it is to stand', () => {
    const back = (text: string, line: number) => restart(text, line).back?.text.slice(3);
    const staged = 'O1\nG21 G90 G54\nT5\nG0 X3. Y4.\nM6\nT7\nS900 M3\nG43 H5 Z50.\nG1 Z-5. F90.\nZ-6.\nM30';
    expect(back(staged, 10)).toEqual(['(X AND Y ARE TO STAND AT X3. Y4.)', 'T5']);
    const before = 'O1\nG21 G90 G54\n#101=12.5\nG0 B90.\nT5 M6\nS900 M3\nG43 H5 Z50.\nG0 X3. Y4.';
    expect(back(`${before}\n#101=#101+1.\n#102=3.\nG52 X9.\nG0 B0.\nX1.\nM30`, 13)).toEqual([
      'G52 X0. Y0. Z0.',
      '#101=12.5',
      '(#102 WAS SET BEHIND IT: PUT IT BACK)',
      '(B IS TO STAND AT 90)',
    ]);
  });
  it('an axis that was sent home stands there, one that was not turned by then as at the beginning', () => {
    const text = restart(`O1\nG28 A0.\n${HEAD.slice(12)}\nG0 A9. B9.\nX9.\nM30`, 10).back!.text;
    expect(text.slice(-2)).toEqual(['(A IS TO STAND AT HOME)', '(B IS TO STAND AS AT THE BEGINNING)']);
  });
  it('X and Y that were sent home before the call: a way while nothing is cut there, none once it was', () => {
    const homed = 'O1\nG21 G90 G54\nG28 X0. Y0.\nT5 M6\nS900 M3\nG43 H5 Z50.';
    expect(restart(`${homed}\nG0 X1. Y1.\nM30`, 7).back!.text.at(-1)).toBe(
      '(X AND Y ARE TO STAND AS THEY DID AT THE CALL)',
    );
    expect(restart(`${homed}\nG1 Z-5. F90.\nX1.\nM30`, 8).notBack).toBe(
      'where X and Y stood when T5 was called, the program has not said',
    );
  });
  it.each([
    ['G52 X9.', 'the coordinates were moved when T5 was called (G52, line 2)'],
    ['G16', 'the coordinates were moved when T5 was called (G16, line 2)'],
  ])('no way from a call with %s in force', (block, reason) => {
    const { back, notBack } = restart(`O1\n${block}\n${HEAD.slice(12)}\nX9.\nM30`, 9);
    expect([back, notBack]).toEqual([null, reason]);
  });
  it('nor where the zero was set where the tool stood', () => {
    expect(restart(`${HEAD}\nG92 X0. Y0.\nX9.\nM30`, 9).notBack).toBe(
      'the zero was set where the tool stood (G92, line 8)',
    );
  });
  it('nor on a lathe whose program sets its zero by G50 at the turret’s place; a ceiling alone is none', () => {
    const old = (set: string) =>
      restart(
        `O1\n${set}\nT0101\nG97 S500 M3\nG0 X50. Z2.\nG1 Z-5. F0.1\nZ-9.\nM30`,
        7,
        usualDialect('lathe', 'mm'),
      );
    for (const set of ['G50 X200. Z150.', 'G50 X200. Z150. S2500', 'G50 U-0.2', 'G50 W3. S1800'])
      expect([old(set).back, old(set).notBack]).toEqual([
        null,
        'the zero was set where the tool stood (G50, line 2)',
      ]);
    expect(old('G50 S2500').back!.line).toBe(3);
  });
  it('a lathe has its ceiling again, and its surface speed', () => {
    const text =
      'O1\nG50 S2500\nG96 S180 M3\nT0101\nG0 X50. Z2.\nG1 Z-5. F0.2\nT0202\nG0 X50. Z2.\nG1 Z-9.\nM30';
    expect(restart(text, 9, usualDialect('lathe', 'mm')).back!.text.slice(2)).toEqual([
      'G99 G1',
      'G50 S2500',
      'G96 S180 F0.2',
    ]);
  });
  it('every line of the demo’s programs says where it may be begun again, or why not', () => {
    for (const [name, kind] of [
      ['O2301-bearing-carrier-op1', 'mill'],
      ['O1402-guide-vane-pin', 'lathe'],
    ] as const) {
      const text = readFileSync(`demo/programs/${name}.nc`, 'utf8');
      const lines = text.split('\n').length;
      for (let line = 1; line < lines; line += 7) {
        const result = restartAt(text, usualDialect(kind, kind === 'mill' ? 'mm' : 'in'), line);
        if (result.ok) expect(result.restart.here === null).toBe(result.restart.dangers.length > 0);
      }
    }
  });
});
