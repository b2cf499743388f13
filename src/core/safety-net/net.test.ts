import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { usualDialect } from '../program/dialect.ts';
import type { NetProfile } from '../program/net-profile.ts';
import { readProgram } from '../program/read-program.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { changesWithout } from './called.ts';
import { netSince, shownAs, toolCount, writeNet, type Net, type NetTool } from './net.ts';
import { SLIPS, tryAll, tryNet, variableOf } from './try-net.ts';

// which variables show what, from memory: common practice of this family, and edited in the profile
const NET: NetProfile = {
  program: 9100,
  call: 'G65 P9100',
  activeTool: '#4120',
  registers: { lengthGeometry: '#[8000+{row}]', xGeometry: '#[2700+{row}]', zGeometry: '#[2800+{row}]' },
  inches: '#4006 EQ 20',
  alarm: '#3000={number} ({text})',
  longestText: 26,
};
const MILL = { ...usualDialect('mill', 'mm'), net: NET };
const LATHE = { ...usualDialect('lathe', 'mm'), net: NET };
const mm = (value: number) => nanometres(Math.round(value * 1e6));
const tool = (number: number, length: number, more: Partial<NetTool> = {}): NetTool => ({
  tool: number,
  row: number,
  words: 'A-112 Drill Ø8.5 (long)',
  flag: null,
  measured: true,
  lengths: [{ kind: 'lengthGeometry', value: mm(length), zeroIsRight: false }],
  ...more,
});
const net = (tools: NetTool[], more: Partial<Net> = {}): Net => ({
  machine: 'Avocet',
  unit: 'mm',
  rowDigits: 0,
  asOf: '2026-11-27 06:10',
  tolerance: mm(0.2),
  tools,
  ...more,
});
const lines = (of: Net, dialect: { net: NetProfile } = MILL) => {
  const written = writeNet(dialect.net, of);
  if (!written.ok) throw new Error(written.reason);
  return written.lines;
};
const held = (of: Net) => of.tools.flatMap(({ row, lengths }) => lengths.map((each) => ({ ...each, row })));
/** The alarm of a net while a tool is in and a register shows something. */
const alarm = (
  of: Net,
  shown: number,
  wrong: Record<number, number> = {},
  unit: LengthUnit = 'mm',
  dialect = MILL,
) =>
  tryNet(lines(of, dialect), dialect, {
    shown,
    registers: held(of).map((each) => (each.row in wrong ? { ...each, value: mm(wrong[each.row]!) } : each)),
    unit,
  });

const THREE = net([tool(1, 120.351), tool(12, 98.04), tool(7, 143.2)]);

describe('a net under the tool changes', () => {
  it('lets each tool by that is as it is on record, and nothing in', () => {
    for (const { tool: number } of THREE.tools) expect(alarm(THREE, number)).toBeNull();
    expect(alarm(THREE, 0)).toBeNull();
  });

  // the mistakes of the handbook's list (H1), one by one: what the net stops
  it.each<[string, number, Record<number, number>, string]>([
    ['4: a length still at zero', 12, { 12: 0 }, 'T12 LENGTH NOT SET'],
    ['6: a sign lost', 1, { 1: -120.351 }, 'T1 NOT AS ON RECORD'],
    ['6: two digits swapped', 1, { 1: 102.351 }, 'T1 NOT AS ON RECORD'],
    ['6: the neighbour’s row', 7, { 7: 98.04 }, 'T7 NOT AS ON RECORD'],
    ['13: measured another way', 12, { 12: -331.96 }, 'T12 NOT AS ON RECORD'],
  ])('stops %s', (_, shown, wrong, words) => expect(alarm(THREE, shown, wrong)).toBe(words));

  it('stops 10: a tool that broke, before the next one goes into a hole that is not there', () =>
    expect(alarm(net([tool(3, 90, { flag: 'broken' })]), 3)).toBe('T3 IS BROKEN'));

  it('stops 9: an edge at its limit that nobody reset', () =>
    expect(alarm(net([tool(3, 90, { flag: 'expired' })]), 3)).toBe('T3 AT ITS LIFE LIMIT'));

  it('stops 11: a T that stands on no list', () => expect(alarm(THREE, 5)).toBe('T IS NOT ON THIS LIST'));

  it('looks at the row of a sister, not at the T', () => {
    const sister = net([tool(40, 88.1, { row: 140 })]);
    expect(alarm(sister, 40)).toBeNull();
    expect(alarm(sister, 40, { 140: 0 })).toBe('T40 LENGTH NOT SET');
  });

  it('takes a zero that was measured for right, and still stops what is not', () => {
    const master = net([
      tool(1, 0, { lengths: [{ kind: 'lengthGeometry', value: mm(0), zeroIsRight: true }] }),
    ]);
    expect(alarm(master, 1)).toBeNull();
    expect(alarm(master, 1, { 1: 0.3 })).toBe('T1 NOT AS ON RECORD');
  });

  it('catches of a tool that was not measured since it was loaded only a zero', () => {
    const loaded = net([tool(1, 120.351, { measured: false })]);
    expect(alarm(loaded, 1, { 1: 99 })).toBeNull();
    expect(alarm(loaded, 1, { 1: 0 })).toBe('T1 LENGTH NOT SET');
  });

  it('lets by what is within the tolerance, and stops what is beyond it', () => {
    expect(alarm(THREE, 1, { 1: 120.55 })).toBeNull();
    expect(alarm(THREE, 1, { 1: 120.552 })).toBe('T1 NOT AS ON RECORD');
  });

  it('reads registers that show inches while a program is in inches', () => {
    expect(alarm(THREE, 1, {}, 'in')).toBeNull();
    expect(alarm(THREE, 1, { 1: 110 }, 'in')).toBe('T1 NOT AS ON RECORD');
    const inches = net([tool(1, 101.6)], { unit: 'in' });
    expect(alarm(inches, 1, {}, 'in')).toBeNull();
    expect(alarm(inches, 1, {}, 'mm')).toBeNull();
    expect(alarm(inches, 1, { 1: 100 }, 'mm')).toBe('T1 NOT AS ON RECORD');
  });

  it('of a lathe looks at X and Z of the station, and lets a row be taken away', () => {
    const station = tool(2, 0, {
      lengths: [
        { kind: 'xGeometry', value: mm(-84.2), zeroIsRight: false },
        { kind: 'zGeometry', value: mm(-120.4), zeroIsRight: false },
      ],
    });
    const lathe = net([station], { rowDigits: 2 });
    const at = (shown: number, x: number, z: number) =>
      tryNet(lines(lathe, LATHE), LATHE, {
        shown,
        unit: 'mm',
        registers: [
          { kind: 'xGeometry', row: 2, value: mm(x) },
          { kind: 'zGeometry', row: 2, value: mm(z) },
        ],
      });
    expect(at(202, -84.2, -120.4)).toBeNull();
    expect(at(202, 0, -120.4)).toBe('T2 X LENGTH NOT SET');
    expect(at(202, -84.2, -102.4)).toBe('T2 Z NOT AS ON RECORD');
    expect(at(200, 0, 0)).toBeNull();
    expect(at(205, -84.2, -120.4)).toBe('T IS NOT ON THIS LIST');
  });

  it('says of a row that is not the station’s own which it is', () => {
    const x = (value: number) => [{ kind: 'xGeometry', value: mm(value), zeroIsRight: false }];
    const lathe = net([tool(1, 0, { lengths: x(-84) }), tool(1, 0, { row: 21, lengths: x(-84.2) })], {
      rowDigits: 2,
    });
    const at = (shown: number, row: number, value: number) =>
      tryNet(lines(lathe, LATHE), LATHE, {
        shown,
        unit: 'mm',
        registers: [{ kind: 'xGeometry', row, value: mm(value) }],
      });
    expect(at(121, 21, -84.2)).toBeNull();
    expect(at(121, 21, -82.4)).toBe('T0121 X NOT AS ON RECORD');
    expect(at(121, 21, 0)).toBe('T0121 X LENGTH NOT SET');
    expect(at(101, 1, -82.4)).toBe('T1 X NOT AS ON RECORD');
  });

  it('moves nothing, calls no tool, and is a program that the reader takes', () => {
    const text = lines(THREE).join('\n');
    expect(text).not.toMatch(/^\s*(N\d+ )?[GXYZTS]\d/m);
    const read = readProgram(
      text,
      { ...MILL, net: null },
      {
        known: [
          { variable: 4120, value: 12 },
          { variable: 8012, value: 98.04 },
          { variable: 4006, value: 21 },
        ],
      },
    );
    expect(read.ok && read.reading.remarks).toEqual([]);
  });

  it('puts no bracket and no strange sign into a remark, and no more into an alarm than fits', () => {
    const odd = lines(net([tool(12_345_678, 90, { words: '(Spiralbohrer) “Größe” Ø8,5', flag: 'expired' })]));
    expect(odd.every((line) => /^[\x20-\x7e]*$/.test(line))).toBe(true);
    expect(odd.every((line) => (line.match(/\(/g) ?? []).length <= 1)).toBe(true);
    for (const line of odd) expect(/#3000=\d+ \((.*)\)/.exec(line)?.[1]?.length ?? 0).toBeLessThanOrEqual(26);
  });

  it('is not written without what it needs, and says what that is', () => {
    const why = (profile: NetProfile, of: Net) => {
      const written = writeNet(profile, of);
      return written.ok ? null : written.reason;
    };
    expect(why(NET, net([]))).toContain('Avocet');
    expect(why(NET, net([tool(1, 90)], { tolerance: mm(0) }))).toContain('above zero');
    expect(why({ ...NET, registers: {} }, THREE)).toContain('lengthGeometry');
    const many = (count: number) => net(Array.from({ length: count }, (_, i) => tool(i + 1, 90)));
    expect(why(NET, many(9998))).toBeNull();
    // the label of the way out is the next
    expect(why(NET, many(9999))).toContain('More tools');
  });

  it('reads as a program does: its number, what it is, when it was written, then T by T', () => {
    const text = lines(
      net([tool(1, -120.351, { words: 'Größe (lang) – 8,5; '.repeat(6) })], { rowDigits: 2 }),
    );
    expect(text).toEqual([
      '%',
      'O9100 (TOOL LENGTH CHECK)',
      '(AVOCET, RECORD OF 2026-11-27 06:10)',
      '(CALL IT AFTER EACH TOOL CHANGE: G65 P9100)',
      '(IT MOVES NOTHING. TRY IT FIRST WITH NO PART, RAPIDS LOW)',
      '#1=#4120 (T THAT IS IN)',
      '#2=1. (REGISTERS IN MM)',
      'IF [#4006 EQ 20] THEN #2=25.4',
      'IF [#1 EQ 101] GOTO 1',
      'IF [#1 EQ 0] GOTO 9999',
      'IF [[#1-FIX[#1/100.]*100.] EQ 0] GOTO 9999',
      '#3000=4 (T IS NOT ON THIS LIST)',
      'N9999 M99',
      'N1 (T1 ROW 1, GROSSE LANG  8,5 GROSSE LANG  8,5 GROSSE LANG  8,5)',
      'IF [#[8000+1] EQ 0] THEN #3000=1 (T1 LENGTH NOT SET)',
      'IF [ABS[#[8000+1]*#2+120.351] GT 0.200] THEN #3000=2 (T1 NOT AS ON RECORD)',
      'M99',
      '%',
    ]);
  });

  it('in inches, with a short number, and on a control that shows one unit alone', () => {
    const inches = { ...NET, program: 91, inches: '' };
    const text = lines(net([tool(1, 101.6)], { unit: 'in' }), { net: inches });
    expect(text.slice(1, 8)).toEqual([
      'O0091 (TOOL LENGTH CHECK)',
      '(AVOCET, RECORD OF 2026-11-27 06:10)',
      '(CALL IT AFTER EACH TOOL CHANGE: G65 P9100)',
      '(IT MOVES NOTHING. TRY IT FIRST WITH NO PART, RAPIDS LOW)',
      '#1=#4120 (T THAT IS IN)',
      '#2=1. (REGISTERS IN INCHES)',
      'IF [#1 EQ 1] GOTO 1',
    ]);
    expect(lines(net([tool(1, 101.6)], { unit: 'in' }))[6]).toBe('#2=[1./25.4] (REGISTERS IN INCHES)');
    expect(lines(net([tool(1, 101.6)], { unit: 'in' }))[7]).toBe('IF [#4006 EQ 20] THEN #2=1.');
    // a T with its own row on a mill is no lathe's word
    expect(lines(net([tool(1, 90, { row: 21 })])).join()).toContain('(T1 LENGTH NOT SET)');
  });

  it('counts a station with several rows once', () => {
    expect(toolCount([{ tool: 2 }, { tool: 2 }, { tool: 5 }])).toBe(2);
  });

  // truth beside it: the rule in plain arithmetic, over any machines
  it('stops exactly what it must, over any tools, units, registers and tolerances', () => {
    const unit = fc.constantFrom<LengthUnit>('mm', 'in');
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 240 }), { minLength: 1, maxLength: 8 }),
        fc.array(
          fc.tuple(
            fc.integer({ min: -400_000, max: 400_000 }),
            fc.integer({ min: -400, max: 400 }),
            fc.boolean(),
            fc.constantFrom('as', 'as', 'zero', 'off'),
          ),
          { minLength: 8, maxLength: 8 },
        ),
        unit,
        unit,
        fc.integer({ min: 1, max: 500 }),
        (numbers, lengths, own, shownIn, tolerance) => {
          const of = net(
            numbers.map((number, i) => tool(number, lengths[i]![0] / 1000, { measured: lengths[i]![2] })),
            { unit: own, tolerance: mm(tolerance / 1000) },
          );
          const dialect = { ...MILL, units: own };
          const shows = of.tools.map(({ lengths: [length] }, i): Length => {
            const [, off, , how] = lengths[i]!;
            return how === 'zero'
              ? mm(0)
              : how === 'off'
                ? nanometres(length!.value + off * 1000)
                : length!.value;
          });
          const registers = of.tools.map(({ row }, i) => ({ kind: 'lengthGeometry', row, value: shows[i]! }));
          of.tools.forEach((each, i) => {
            const apart = Math.abs(shows[i]! - each.lengths[0]!.value);
            // what is on the very limit, or told by the last digit of an inch, may go either way
            if (Math.abs(apart - of.tolerance) < 3) return;
            const right =
              shows[i] === 0 ? 'NOT SET' : each.measured && apart > of.tolerance ? 'NOT AS' : null;
            const said = tryNet(lines(of, dialect), dialect, { shown: each.tool, registers, unit: shownIn });
            if (right === null) expect(said).toBeNull();
            else expect(said).toContain(right);
          });
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('a net that is tried before it is handed out', () => {
  it('stops every mistake on every tool, and no tool that is right', () => {
    const tried = tryAll(MILL, THREE)!;
    expect(tried.wrongly).toEqual([]);
    expect(tried.slips.map(({ words }) => words)).toEqual(SLIPS.map(({ words }) => words));
    for (const slip of tried.slips) expect(slip).toMatchObject({ caught: 3, missed: [] });
  });

  it('says which mistake it cannot see', () => {
    const near = net([tool(1, 120.351), tool(2, 120.4), tool(3, 99)]);
    expect(tryAll(MILL, near)!.slips.find(({ words }) => words.startsWith('another'))).toMatchObject({
      caught: 2,
      missed: [1],
    });
  });

  it('a flagged tool is stopped already: no mistake is tried on it', () =>
    expect(tryAll(MILL, net([tool(3, 90, { flag: 'locked' }), tool(4, 80)]))!.slips[0]).toMatchObject({
      caught: 1,
    }));

  it('tells which tool is stopped though it is right: two that share a row', () => {
    const shared = net([tool(1, 120), tool(2, 98, { row: 1 })]);
    expect(tryAll(MILL, shared)!.wrongly).toEqual([1]);
    // what is not set is stopped rightly
    const unset = net([tool(1, 0), tool(2, 98)]);
    expect(tryAll(MILL, unset)!.wrongly).toEqual([]);
    expect(tryAll(MILL, net([]))).toBeNull();
  });

  it('says that it cannot tell where the stop is none that it knows, and knows an alarm without words', () => {
    const stop = { ...MILL, net: { ...NET, alarm: 'M0 ({text})' } };
    const zero = [{ kind: 'lengthGeometry', row: 1, value: mm(0) }];
    expect(tryNet(lines(THREE, stop), stop, { shown: 1, registers: zero, unit: 'mm' })).toBe('unknown');
    expect(tryNet(lines(THREE, stop), stop, { shown: 1, registers: held(THREE), unit: 'mm' })).toBeNull();
    // a register that was not said stops nothing, so that no mistake counts as caught by it
    expect(tryNet(lines(THREE), MILL, { shown: 1, registers: [], unit: 'mm' })).toBeNull();
    const bare = { ...MILL, net: { ...NET, alarm: '#3000={number}' } };
    expect(tryNet(lines(THREE, bare), bare, { shown: 5, registers: [], unit: 'mm' })).toMatch(/4/);
    // a register that the profile has no variable for is not looked at
    const strange = [{ kind: 'noseRadius', row: 1, value: mm(4) }, ...held(THREE)];
    expect(tryNet(lines(THREE), MILL, { shown: 1, registers: strange, unit: 'mm' })).toBeNull();
  });

  it('finds the variable that a template means', () => {
    expect(variableOf('#[8000+{row}/2]', 1)).toBeNull();
    expect(variableOf('#[8000+{row}]', 12)).toBe(8012);
    expect(variableOf('#80{row}', 12)).toBe(8012);
    expect(variableOf('none', 1)).toBeNull();
  });

  it('shows a T as the control does', () => {
    expect(shownAs({ tool: 3, row: 3 }, 0)).toBe(3);
    expect(shownAs({ tool: 3, row: 13 }, 2)).toBe(313);
  });
});

describe('a net and the record that goes on', () => {
  const since = (now: NetTool[]) => netSince(THREE, now);
  it('says nothing while nothing changed that it sees', () => {
    expect(since([...THREE.tools])).toEqual([]);
    expect(since([tool(1, 120.5), tool(12, 98.04), tool(7, 143.2)])).toEqual([]);
  });
  it('says what it would stop now, and what it would not', () => {
    expect(since([tool(1, 121), tool(12, 98.04, { flag: 'broken' }), tool(9, 70)])).toEqual([
      'T1 is 121.000 now, and 120.351 in it: it is stopped.',
      'T12 is broken now: its length alone is checked.',
      'T9 has come: it is stopped as not on the list.',
      'T7 has gone: whatever stands there is held against its length.',
    ]);
  });
  it('of lengths those that it would stop: each by its axis, beyond the tolerance, measured then', () => {
    const station = (x: number, z: number | null, more: Partial<NetTool> = {}) =>
      tool(2, 0, {
        lengths: [
          { kind: 'xGeometry', value: mm(x), zeroIsRight: false },
          ...(z === null ? [] : [{ kind: 'zGeometry', value: mm(z), zeroIsRight: false }]),
        ],
        ...more,
      });
    const then = (own: NetTool) => net([own], { rowDigits: 2 });
    expect(netSince(then(station(-84, -120)), [station(-84, -121)])).toEqual([
      'T2 Z is −121.000 now, and −120.000 in it: it is stopped.',
    ]);
    // on the very limit it is let by, and so is what was not looked at
    expect(netSince(then(station(-84, -120)), [station(-84.2, -119.8)])).toEqual([]);
    expect(netSince(then(station(-84, null)), [station(-84, -120)])).toEqual([]);
    const loose = { measured: false };
    expect(netSince(then(station(-84, -120, loose)), [station(-90, -130, loose)])).toEqual([]);
  });
  it('a tool that was not measured then is looked at for zero only', () =>
    expect(netSince(net([tool(1, 90, { measured: false })]), [tool(1, 90)])).toEqual([
      'T1 has been measured since: only a zero is caught.',
    ]));
  it('a tool that was flagged then is stopped, whatever it is flagged as now, and whatever its length', () => {
    const then = net([tool(1, 90, { flag: 'broken' })]);
    for (const now of [tool(1, 90, { flag: 'expired' }), tool(1, 95, { flag: 'broken' })]) {
      expect(netSince(then, [now])).toEqual([]);
      expect(alarm(then, 1, { 1: now.lengths[0]!.value / 1e6 })).toBe('T1 IS BROKEN');
    }
    expect(netSince(then, [tool(1, 90)])).toEqual(['T1 is no longer broken: it is still stopped.']);
  });
  it('a tool whose row is another now is let by with the old one: a mill shows the T alone', () => {
    const moved = tool(12, 98.04, { row: 112 });
    expect(since([THREE.tools[0]!, moved, THREE.tools[2]!])).toEqual([
      'T12 has row 112 now, and row 12 is looked at.',
    ]);
    expect(alarm(THREE, 12)).toBeNull();
  });
  it('of a station each row is on the list by itself', () => {
    const station = (row: number) => tool(2, 80, { row });
    const then = net([station(2)], { rowDigits: 2 });
    expect(netSince(then, [station(2), station(22)])).toEqual([
      'T0222 has come: it is stopped as not on the list.',
    ]);
    expect(netSince(net([station(2), station(22)], { rowDigits: 2 }), [station(2)])).toEqual([
      'T0222 has gone: whatever stands there is held against its length.',
    ]);
  });
});

describe('programs that call it', () => {
  const program = (call: string) => `%\nO1 (X)\nT1 M6\n${call}\nG43 H1 Z50.\nS1000 M3\nG1 X1. F100.\nM30\n%`;
  const doubts = (call: string, own: NetProfile | null) => {
    const read = readProgram(program(call), { ...MILL, net: own });
    return read.ok ? read.reading.remarks.map(({ code }) => code) : [];
  };
  it('are read with it, as with something that changes nothing', () => {
    expect(doubts('G65 P9100', null)).toEqual(['missingSub']);
    expect(doubts('G65 P9100', NET)).toEqual([]);
    expect(doubts('M98 P9100', NET)).toEqual([]);
    expect(doubts('M150', null)).toEqual(['unknownCode']);
    expect(doubts('M150', { ...NET, call: 'M150' })).toEqual([]);
  });

  it.each([
    ['T1 M6\nG65 P9100\nG43 H1 Z50.', []],
    ['T1 M6 G65 P9100\nG43 H1 Z50.', []],
    ['T1 M6\nG43 H1 Z50.\nG65 P9100', [1]],
    ['T1 M6\n(G65 P9100)\nG43 H1 Z50.', [1]],
    ['T1 M6\nG65 P91000\nG43 H1 Z50.', [1]],
    ['T1 M6\nN20 M98 P09100\nG43 H1 Z50.', []],
    ['T1 M6', [1]],
    // a switch at the panel passes over it
    ['T1 M6\n/G65 P9100\nG43 H1 Z50.', [1]],
    ['T1 M6\nN20 /2 G65 P9100\nG43 H1 Z50.', [1]],
    ['T1 M6\n  /G65 P9100\nG43 H1 Z50.', [1]],
    ['T1 M6\nN20/G65 P9100\nG43 H1 Z50.', [1]],
    ['T1 M6\nN20   /G65 P9100\nG43 H1 Z50.', [1]],
    // a sum is no switch
    ['T1 M6\nG65 P9100 A[1/2]\nG43 H1 Z50.', []],
    ['T1 M6\nN20 G65 P9100 A[#1/2]\nG43 H1 Z50.', []],
    // what stands in a remark neither calls nor moves, closed or not
    ['T1 M6\n(LONG TOOL Z50.)\nG65 P9100\nG43 H1 Z50.', []],
    ['T1 M6\n(CALLS G65 P9100\nG43 H1 Z50.', [1]],
    ['T1 M6\nG65 (CHECK) P9100\nG43 H1 Z50.', []],
    // only what brings the tool down is too early
    ['T1 M6 Z200.\nG65 P9100\nG43 H1 Z50.', []],
    ['T1 M6\nG0 X5. Y-3.\nG65 P9100\nG43 H1 Z50.', []],
    ['T1 M6\nG0 Z 50.\nG65 P9100', [1]],
    ['T1 M6\nG0 W-5.\nG65 P9100', [1]],
  ])('%j: T without it', (text, without) =>
    expect(changesWithout(text, NET, [{ tool: 1, line: 1 }]).map(({ tool: each }) => each)).toEqual(without),
  );
  it('are asked for the M code that stands for it, and no other', () => {
    const called = (call: string) =>
      changesWithout(`T1 M6\n${call}\nG43 H1 Z50.`, { ...NET, call: 'M150' }, [{ tool: 1, line: 1 }]);
    expect(called('M150')).toEqual([]);
    expect(called('M1500')).toHaveLength(1);
    expect(called('M15')).toHaveLength(1);
    expect(called('G65 P9100')).toHaveLength(1);
  });
});
