import { describe, expect, it } from 'vitest';
import { seeded } from '../../../tests/support/seeded.ts';
import { usualDialect, type Dialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { lengthOf, nanometres, type Length } from '../units/length.ts';
import { assumed, meets, type ToRun } from './assumed.ts';
import { assumedWords } from './words.ts';

const MILL: Dialect = {
  ...usualDialect('mill', 'mm'),
  setRegister: {
    lengthGeometry: 'G10 L10 P{row} R{value}',
    lengthWear: 'G10 L11 P{row} R{value}',
    cutterGeometry: 'G10 L12 P{row} R{value}',
    cutterWear: 'G10 L13 P{row} R{value}',
  },
};
const LATHE = usualDialect('lathe', 'mm');
const mm = (value: number) => lengthOf(value, 'mm');
const STEP = nanometres(1000);

function toRun(text: string, dialect: Dialect, more: Partial<ToRun> = {}): ToRun {
  const read = readProgram(text, dialect);
  if (!read.ok) throw new Error(read.reason);
  const { calls, remarks, units } = read.reading;
  return {
    number: 'O1',
    unit: units,
    cutterBy: 'cam',
    asked: new Map(),
    text: new Map(text.split('\n').map((line, i) => [i + 1, line])),
    calls,
    remarks,
    ...more,
  };
}
const mill = (text: string, more?: Partial<ToRun>, cutter: 'diameter' | 'radius' = 'radius') =>
  assumed(toRun(text, MILL, more), { kind: 'mill', cutter, dialect: MILL, lengthSchool: 'gaugeLength' });
const brief = (all: ReturnType<typeof mill>) =>
  all.map(({ kind, row, tool, code, value }) => `${kind} ${row} T${tool} ${code} ${value ?? ''}`.trim());

const COMPENSATED = 'O1\nT5 M6\nS900 M3\nG43 H5 Z50.\nG1 G41 D25 X0. Y0. F100.\nX50.\nG40 X60.\nM30';

describe('what a program takes the table for', () => {
  it('its rows are used; a path made for the cutter finds no cutter there', () => {
    expect(brief(mill(COMPENSATED))).toEqual([
      'lengthGeometry 5 T5 length',
      'lengthWear 5 T5 used',
      'cutterWear 25 T5 used',
      'cutterGeometry 25 T5 path 0',
    ]);
  });

  it('a path that the control makes finds the cutter that is asked for, as this control holds it', () => {
    const asked = new Map([[5, { diameter: mm(10), cornerRadius: null }]]);
    const found = (cutter: 'diameter' | 'radius') =>
      mill(COMPENSATED, { cutterBy: 'control', asked }, cutter).find(({ kind }) => kind === 'cutterGeometry');
    expect(found('radius')).toMatchObject({ code: 'cutter', value: mm(5), line: 5 });
    expect(found('diameter')).toMatchObject({ code: 'cutter', value: mm(10) });
    const radius = found('radius')!;
    // reground, it is keyed as it is; twice or half, or nothing at all, is another thing
    for (const [held, good] of [
      [5, true],
      [4.8, true],
      [10, false],
      [2.5, false],
      [0, false],
      [0.5, false],
    ] as const)
      expect(meets(radius, mm(held), STEP)).toBe(good);
    // nobody said which cutter: nothing can be said of its size
    expect(mill(COMPENSATED, { cutterBy: 'control' }).some(({ kind }) => kind === 'cutterGeometry')).toBe(
      false,
    );
  });

  it('on a lathe both lengths and both wears, and the nose where its radius is compensated', () => {
    const text = (code: string) => `O1\nT0303\nG97 S900 M3\nG0 ${code} X40. Z2.\nG1 X30. Z0. F0.2\nG40\nM30`;
    const found = (code: string) =>
      brief(
        assumed(
          toRun(text(code), LATHE, { asked: new Map([[3, { diameter: null, cornerRadius: mm(0.8) }]]) }),
          {
            kind: 'lathe',
            cutter: 'radius',
            dialect: LATHE,
            lengthSchool: 'gaugeLength',
          },
        ),
      );
    const used = ['xGeometry 3 T3 used', 'zGeometry 3 T3 used', 'xWear 3 T3 used', 'zWear 3 T3 used'];
    expect(found('')).toEqual(used);
    expect(found('G42')).toEqual([...used, 'noseRadius 3 T3 nose 800000']);
  });

  it('a length of nought is none; where nothing is said of a value nothing can be wrong', () => {
    const [length, used] = mill(COMPENSATED);
    expect([length!.code, meets(length!, mm(0), STEP), meets(length!, mm(-80), STEP)]).toEqual([
      'length',
      false,
      true,
    ]);
    expect(meets(used!, mm(0), STEP)).toBeNull();
  });

  it('a difference from the master tool may be nought: nothing is asked of it', () => {
    const where = { kind: 'mill', cutter: 'radius', dialect: MILL, lengthSchool: 'masterTool' } as const;
    const [length] = assumed(toRun(COMPENSATED, MILL), where);
    expect(length).toMatchObject({ kind: 'lengthGeometry', code: 'used' });
    expect(meets(length!, nanometres(0), STEP)).toBeNull();
  });

  it('a row that is named and not compensated with is used, and no more', () => {
    const text = COMPENSATED.replace('G41 D25', 'D25').replace('G40 ', '');
    expect(brief(mill(text)).filter((each) => each.startsWith('cutter'))).toEqual(['cutterWear 25 T5 used']);
  });

  it('on a lathe the nose of the insert, where the path is compensated for it', () => {
    const text = 'O1\nT0103\nG96 S200 M3\nG1 G42 X20. Z0. F0.2\nZ-30.\nG40 X30.\nM30';
    const asked = new Map([[1, { diameter: null, cornerRadius: mm(0.8) }]]);
    const where = { kind: 'lathe', cutter: 'radius', dialect: LATHE, lengthSchool: 'touchOff' } as const;
    const nose = assumed(toRun(text, LATHE, { asked }), where).find(({ kind }) => kind === 'noseRadius')!;
    expect(nose).toMatchObject({ row: 3, tool: 1, code: 'nose', value: mm(0.8) });
    expect([0.8, 0.78, 0.4, 0].map((held) => meets(nose, mm(held), STEP))).toEqual([
      true,
      true,
      false,
      false,
    ]);
    const bare = toRun(text.replace('G42 ', '').replace('G40 ', ''), LATHE, { asked });
    expect(assumed(bare, where).some(({ kind }) => kind === 'noseRadius')).toBe(false);
  });

  it('what it writes is read as a control would run it: any register, any value, in the unit of the program', () => {
    const next = seeded(19);
    const kinds = Object.entries({ L10: 'lengthGeometry', L11: 'lengthWear', L12: 'cutterGeometry' });
    for (let i = 0; i < 300; i += 1) {
      const inches = next() < 0.3;
      const steps = Math.floor(next() * 200_000) - 100_000;
      const row = 1 + Math.floor(next() * 99);
      const [l, kind] = kinds[Math.floor(next() * kinds.length)]!;
      const value = (steps / (inches ? 10_000 : 1000)).toFixed(inches ? 4 : 3);
      const text = `O1\n${inches ? 'G20' : 'G21'} G90\nT5 M6\nG10 ${l} P${row} R${value}\nM30`;
      const [wrote] = mill(text).filter(({ code }) => code === 'writes');
      // ten thousandths of an inch are 2540 nm each, by definition
      const runs = steps * (inches ? 2540 : 1000);
      expect(wrote).toMatchObject({ kind, row, tool: null, line: 4, value: runs });
      expect(meets(wrote!, runs as Length, STEP)).toBe(true);
      expect(meets(wrote!, (runs + 1000) as Length, STEP)).toBe(false);
    }
  });

  it('what it adds by G91 has no value that could be held against it; a work offset is none of this table', () => {
    const [adds] = mill('O1\nT5 M6\nG91\nG10 L11 P5 R0.01\nG90\nM30');
    expect(adds).toMatchObject({ kind: 'lengthWear', code: 'adds', value: null });
    expect(meets(adds!, nanometres(0), STEP)).toBeNull();
    expect(mill('O1\nT5 M6\nG10 L2 P1 X0. Y0.\nM30')).toEqual([]);
  });

  it('is said in words with the program, the tool and the line', () => {
    const words = mill(COMPENSATED).map((each) => assumedWords(each, { unit: 'mm', decimals: 3 }));
    expect(words).toEqual([
      'O1 T5: a length, line 4',
      'O1 T5: used, line 4',
      'O1 T5: used, line 5',
      'O1 T5: 0.000, its path is made for the cutter',
    ]);
    const own = mill('O1\nT5 M6\nG10 L12 P5 R5.02\nM30')[0]!;
    expect(assumedWords(own, { unit: 'mm', decimals: 3 })).toBe('O1: writes +5.020 itself, line 3');
  });
});
