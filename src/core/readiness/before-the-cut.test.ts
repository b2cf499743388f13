import { describe, expect, it } from 'vitest';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { lengthOf } from '../units/length.ts';
import { checkReadiness } from './check.ts';
import type { Finding, LoadedTool, ReadinessQuestion, RowState } from './question.ts';
import type { Proof } from './proven.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const MILL = usualDialect('mill', 'mm');
const drill: LoadedTool = {
  tool: 5,
  assembly: 'A-105',
  place: 'pocket 5',
  flag: null,
  measuredSinceLoading: true,
  life: null,
  kind: 'drill',
  name: 'Drill 8.5',
  diameter: mm(8.5),
  teeth: 2,
};
const TEXT = '%\nO1 (X)\n(DRILL 8.5)\nT5 M6\nS2000 M3\nG43 H5 Z50.\nG1 X1. Z-5. F400.\nM30\n%';
function ask(
  text: string,
  loaded: Partial<LoadedTool> = {},
  {
    rows = [{ row: 5, zero: false }] as RowState[],
    proof = undefined as Proof | undefined,
    ...rest
  }: { proof?: Proof } & Partial<Pick<ReadinessQuestion, 'rows' | 'putBack' | 'keptAway'>> = {},
): Finding[] {
  const read = readProgram(text, MILL);
  if (!read.ok) throw new Error(read.reason);
  const question: ReadinessQuestion = {
    machine: { name: 'Avocet', kind: 'mill', highestSpeed: 20_000, boringShift: 'X+', unit: 'mm' },
    program: { name: 'O1', partsPerCycle: 1, calls: read.reading.calls, ...(proof && { proof }) },
    quantity: 1,
    loaded: [
      { ...drill, ...loaded },
      { ...drill, tool: 6, assembly: 'A-106', kind: 'endMill', name: 'End mill 10', diameter: mm(10) },
    ],
    rows,
    ...rest,
  };
  return checkReadiness(question);
}
const of = (findings: Finding[], code: Finding['code']) =>
  findings.filter((finding) => finding.code === code).map(({ weight, sentence }) => `${weight}: ${sentence}`);

describe('what is found before the first cut', () => {
  it('nothing, where nothing is wrong', () => expect(ask(TEXT)).toEqual([]));

  describe('wear that was there before the tool', () => {
    const rows = (entry: number): RowState[] => [
      { row: 5, zero: false, wear: [{ kind: 'lengthWear', value: mm(-0.035), entry }] },
    ];
    it('is named with its row and value', () =>
      expect(of(ask(TEXT, { since: 40 }, { rows: rows(39) }), 'wearLeft')).toEqual([
        'look: Row 5 still holds −0.035 mm of length wear from before T5 came or its edge was changed.',
      ]));
    it('what was keyed since is its own', () =>
      expect(ask(TEXT, { since: 40 }, { rows: rows(41) })).toEqual([]));
    it('in the row of a tool that nobody asked about is no matter', () =>
      expect(ask(TEXT, {}, { rows: rows(39) })).toEqual([]));
  });

  describe('what a kept table has set back', () => {
    const back = (kind: string, entry: number) => ({
      row: 5,
      kind,
      entry,
      value: mm(-0.02),
      moved: mm(0.03),
      measured: null,
      sinceMeasured: mm(0),
    });
    const said = (since: number, ...putBack: ReturnType<typeof back>[]) =>
      of(ask(TEXT, { since }, { putBack }), 'putBack');
    it('is named with what was corrected in between', () =>
      expect(said(40, back('lengthWear', 41))).toEqual([
        'look: Length wear of row 5, which T5 uses on line 6, was put back to −0.020 mm from a table kept earlier; before that it was −0.050 mm.',
      ]));
    it('not of a row that the program does not call, a length, or a tool that came later', () => {
      expect(said(40, { ...back('lengthWear', 41), row: 25 }, back('cutterWear', 41))).toEqual([]);
      expect(said(40, back('lengthGeometry', 41))).toEqual([]);
      expect(said(41, back('lengthWear', 41))).toEqual([]);
    });
  });

  describe('an allowance of a first part that was not brought to its end', () => {
    const away = (open: boolean, program: string, kind = 'lengthWear') => ({
      row: 5,
      kind,
      change: mm(0.25),
      program,
      open,
    });
    const said = (...keptAway: ReturnType<typeof away>[]) => of(ask(TEXT, {}, { keptAway }), 'keptAway');
    it('is named with its program, whoever calls the row next', () => {
      expect(said(away(false, 'O1'))).toEqual([
        'look: Length wear of row 5, which T5 uses on line 6, still holds +0.250 mm of allowance from the first part of O1, which was dropped.',
      ]);
      expect(said(away(true, 'O7'))[0]).toMatch(/of O7, which is not brought to size yet/);
    });
    it('is meant so in its own program, and is no matter in a row that is not called', () =>
      expect(said(away(true, 'O1'), away(false, 'O1', 'cutterWear'))).toEqual([]));
  });

  describe('a length that is not the presetter’s', () => {
    it('is named with both', () =>
      expect(of(ask(TEXT, { held: mm(120.351), preset: mm(123.051) }), 'presetLength')).toEqual([
        'look: Row 5 holds 120.351 mm, but the presetter makes it 123.051 mm.',
      ]));
    it('a tenth apart is what machine and presetter may differ', () => {
      expect(ask(TEXT, { held: mm(120.351), preset: mm(120.451) })).toEqual([]);
      expect(of(ask(TEXT, { held: mm(120.351), preset: mm(120.452) }), 'presetLength')).toHaveLength(1);
    });
    it('that nobody measured there, or a row still at zero, is another matter', () => {
      expect(ask(TEXT, { held: mm(120), preset: null })).toEqual([]);
      const empty = { rows: [{ row: 5, zero: true }] };
      expect(of(ask(TEXT, { held: mm(0), preset: mm(120) }, empty), 'presetLength')).toEqual([]);
    });
    it('a zero that was measured says that it is as long as the master tool', () => {
      expect(of(ask(TEXT, { held: mm(0), preset: mm(33.1) }), 'presetLength')).toHaveLength(1);
      expect(ask(TEXT, { held: mm(0), preset: mm(0.05) })).toEqual([]);
    });
  });

  describe('the nose of a lathe’s tool that is compensated', () => {
    const found = (state: Partial<RowState>, code = 'G42 ') => {
      const read = readProgram(
        `%\nO1\nT0303\nG97 S900 M3\nG0 ${code}X40. Z2.\nG1 X30. Z0. F0.2\nG40 X50.\nM30\n%`,
        usualDialect('lathe', 'mm'),
      );
      if (!read.ok) throw new Error(read.reason);
      return checkReadiness({
        machine: { name: 'Curlew', kind: 'lathe', highestSpeed: 4800, boringShift: 'X+', unit: 'mm' },
        program: { name: 'O1', partsPerCycle: 1, calls: read.reading.calls },
        quantity: 1,
        loaded: [{ ...drill, tool: 3, kind: 'turning' }],
        rows: [{ row: 3, zero: false, ...state }],
      }).filter((finding) => finding.code === 'noseRow');
    };
    it('stops where its row holds no radius, is looked at where it holds no direction', () => {
      expect(found({ nose: mm(0), tip: 3 })).toMatchObject([{ weight: 'stop', tool: 3, line: 3 }]);
      expect(found({ nose: mm(0.8), tip: 0 })).toMatchObject([{ weight: 'look' }]);
      expect(found({ nose: mm(0.8), tip: 3 })).toEqual([]);
      expect(found({ nose: mm(0.8), tip: 9 })).toEqual([]);
    });
    it('is no matter where nothing is compensated, or the row has no such register', () => {
      expect(found({ nose: mm(0), tip: 0 }, '')).toEqual([]);
      for (const none of [{}, { nose: null, tip: null }]) expect(found(none)).toEqual([]);
    });
  });

  describe('the way it turns', () => {
    const left = TEXT.replace('M3', 'M4');
    it('counter-clockwise stops a right-hand drill', () =>
      expect(of(ask(left), 'wrongWay')).toEqual([
        'stop: T5 cuts with the spindle turning counter-clockwise (M4): assembly A-105 is not said to be left-hand.',
      ]));
    it('not one that is left-hand, which clockwise stops', () => {
      expect(of(ask(left, { leftHand: true }), 'wrongWay')).toEqual([]);
      expect(of(ask(TEXT, { leftHand: true }), 'wrongWay')).toEqual([
        'stop: T5 cuts with the spindle turning clockwise (M3): assembly A-105 is left-hand.',
      ]);
    });
    it('whatever the remark says: it is the tool that turns', () =>
      expect(of(ask(left.replace('DRILL 8.5', 'DRILL 8.5 LH')), 'wrongWay')).toHaveLength(1));
    it('nor a tap, which comes back that way', () =>
      expect(of(ask(left, { kind: 'tap' }), 'wrongWay')).toEqual([]));
  });

  describe('coolant through the tool', () => {
    const through = TEXT.replace('S2000 M3', 'S2000 M3\nM88');
    it('names the pieces that let none through, at the line that pumps it', () => {
      const found = ask(through, { solid: ['KN-45', 'DS-8.5'] });
      expect(of(found, 'coolant')).toEqual([
        'look: T5 is cut with coolant through the spindle; in assembly A-105 KN-45 and DS-8.5 are not drilled for it.',
      ]);
      expect(found[0]!.line).toBe(6);
    });
    it('says so where the pieces are not on record', () =>
      expect(of(ask(through, { solid: null }), 'coolant')[0]).toMatch(/is not known/));
    it('nothing of drilled pieces, of a program that pumps none, or of a machine with codes of its own', () => {
      expect(ask(through, { solid: [] })).toEqual([]);
      expect(ask(TEXT, { solid: ['KN-45'] })).toEqual([]);
      const read = readProgram(through, { ...MILL, throughCodes: ['M51'] });
      expect(read.ok && read.reading.calls[0]!.throughCoolant).toBeUndefined();
    });
    it('a code of the machine itself is known to the reader', () => {
      const read = readProgram(through.replace('M88', 'M351'), { ...MILL, throughCodes: ['M351'] });
      expect(read.ok && read.reading.remarks).toEqual([]);
      expect(read.ok && read.reading.calls[0]!.throughCoolant).toBe(6);
    });
    it('a machine without the pump', () => {
      const read = readProgram(through, MILL);
      if (!read.ok) throw new Error(read.reason);
      const found = checkReadiness({
        machine: {
          name: 'Dunlin',
          kind: 'mill',
          highestSpeed: 20_000,
          boringShift: 'X+',
          unit: 'mm',
          throughCoolant: false,
        },
        program: { name: 'O1', partsPerCycle: 1, calls: read.reading.calls },
        quantity: 1,
        loaded: [{ ...drill, solid: [] }],
        rows: [{ row: 5, zero: false }],
      });
      expect(of(found, 'coolant')).toEqual([
        'look: T5 is cut with coolant through the spindle; Dunlin has no pump for it on its plate.',
      ]);
    });
  });

  describe('one T for two tools', () => {
    const twice = (first: string, second: string) =>
      `%\nO1 (X)\n(${first})\nT5 M6\nS2000 M3\nG43 H5 Z50.\nG1 X1. Z-5. F400.\n(END MILL 10)\nT6 M6\nS900 M3\nG43 H6 Z50.\nG1 X1. F90.\n(${second})\nT5 M6\nS2000 M3\nG43 H5 Z50.\nG1 X1. Z-5. F400.\nM30\n%`;
    const doubled = (first: string, second: string) => of(ask(twice(first, second)), 'doubled');
    it('another size, another kind, another thread', () => {
      expect(doubled('DRILL 8.5', 'DRILL 10.2')).toEqual([
        'look: T5 is called as "DRILL 8.5" (line 4) and as "DRILL 10.2" (line 14): two sizes under one T.',
      ]);
      expect(doubled('DRILL 8.5', 'TAP M10')[0]).toMatch(/a drill and a tap under one T/);
      expect(doubled('TAP M10', 'TAP M10x1')).toHaveLength(1);
    });
    it('the same tool in other words, a remark that names no tool, or none', () => {
      expect(doubled('DRILL 8.5', 'DRILL 8.5 THROUGH')).toEqual([]);
      expect(doubled('DRILL 8.5', 'DRILL')).toEqual([]);
      expect(doubled('DRILL 8.5', 'SECOND SIDE')).toEqual([]);
    });
  });

  describe('what is left in force at the end', () => {
    const ending = (lines: string) => of(ask(TEXT.replace('M30', `${lines}\nM30`)), 'leftInForce');
    it('moves that count from where it stands', () =>
      expect(ending('G91 G28 Z0.')).toEqual([
        'look: O1 ends with G91 in force: the next program that does not say G90 counts its moves from where it stands, where the control does not clear it.',
      ]));
    it('is nothing once it is cleared', () => expect(ending('G91 G28 Z0.\nG90')).toEqual([]));
    it.each([
      ['G52 X9.', 'G52', 'G52 X0.'],
      ['G92 X9.', 'G92', null],
      ['G16', 'G16', 'G15'],
      ['G51 P2.', 'G51', 'G50'],
      ['G18', 'G18', 'G17'],
      ['G95', 'G95', 'G94'],
      ['G93', 'G93', 'G94'],
      ['G20', 'G20', 'G21'],
    ])('%s, until it is taken back', (code, named, back) => {
      expect(ending(code)).toEqual([expect.stringContaining(`O1 ends with ${named} in force: `)]);
      if (back) expect(ending(`${code}\n${back}`)).toEqual([]);
    });
    it('compensation and turned coordinates too', () => {
      expect(ending('G41 D5 X9.')[0]).toMatch(/ends with G41/);
      expect(ending('G68 X0. Y0. R30.')[0]).toMatch(/ends with G68/);
      expect(ending('G41 D5 X9.\nG40 X1.\nG68 X0. Y0. R30.\nG69')).toEqual([]);
    });
  });

  describe('a moment to measure on the first part', () => {
    const two = (between: string) =>
      `%\nO1 (X)\n(END MILL 10 ROUGH)\nT6 M6\nS2000 M3\nG43 H6 Z50.\nG1 X1. F200.\n${between}(END MILL 10 FINISH)\nT5 M6\nS2000 M3\nG43 H5 Z50.\nG1 X1. F200.\nM30\n%`;
    const never: Proof = { state: 'never', by: null, changes: [] };
    const rows = [5, 6].map((row) => ({ row, zero: false }));
    const noStop = (between: string, proof?: Proof) => of(ask(two(between), {}, { rows, proof }), 'noStop');
    it('is missing where the program goes from rougher to finisher without a stop', () => {
      expect(noStop('', never)).toEqual([
        'look: Between T6 (END MILL 10 ROUGH) and T5 (END MILL 10 FINISH) the program does not stop.',
      ]);
      expect(noStop('M1\n', never)).toEqual([]);
      expect(noStop('M0\n', never)).toEqual([]);
    });
    it('is needed no more once it is proven', () =>
      expect(noStop('', { state: 'proven', by: null, changes: [] })).toEqual([]));
  });

  describe('feeds and speeds that no such tool takes', () => {
    const at = (s: number, f: number, loaded: Partial<LoadedTool> = {}) =>
      of(ask(TEXT.replace('S2000', `S${s}`).replace('F400.', `F${f}.`), loaded), 'cuttingData');
    it('a digit too many in the feed', () => {
      expect(at(2000, 400)).toEqual([]);
      expect(at(2000, 4000)).toEqual([
        'look: T5 feeds at least 2.00 mm a revolution: more than a 8.5 mm tool takes in any material.',
      ]);
    });
    it('by its teeth, of a mill', () => {
      const mill = { kind: 'endMill', diameter: mm(10), teeth: 4 } as const;
      expect(at(2000, 3200, mill)).toEqual([]);
      expect(at(200, 3200, mill)).toEqual([
        'look: T5 feeds at least 4.00 mm a tooth with 4 teeth: more than a 10.0 mm cutter takes in any material.',
      ]);
    });
    it('a speed far from what its edges ran at', () => {
      // 8.5 mm at 2000 a minute is 53 m/min
      expect(at(2000, 400, { usual: { speed: 52, edges: 12 } })).toEqual([]);
      expect(at(2000, 400, { usual: { speed: 30, edges: 12 } })).toEqual([
        'look: T5 runs at 53 m/min; 12 edges of it in this material ran at 30.',
      ]);
      expect(at(2000, 400, { usual: { speed: 90, edges: 12 } })).toHaveLength(1);
    });
    it('a few edges tell nothing', () =>
      expect(at(2000, 400, { usual: { speed: 30, edges: 4 } })).toEqual([]));
  });
});
