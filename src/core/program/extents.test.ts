import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { checkReadiness } from '../readiness/check.ts';
import { lengthOf } from '../units/length.ts';
import { usualDialect } from './dialect.ts';
import { spanOf } from './extents.ts';
import { readProgram } from './read-program.ts';

const MILL = usualDialect('mill', 'mm');
const calls = (lines: string) => {
  const read = readProgram(`%\nO1 (X)\nT1 M6\nS900 M3\nG43 H1 Z50.\n${lines}\nM30\n%`, MILL);
  if (!read.ok) throw new Error(read.reason);
  return read.reading.calls;
};
const span = (lines: string) => [spanOf(calls(lines), 'x'), spanOf(calls(lines), 'y')];

describe('how far a program goes', () => {
  it('from the least to the most place that it says itself, rapid, feed and holes', () => {
    expect(span('G90 G54 G0 X-100. Y20.\nG1 X300. F500.\nG81 X350. Y-40. Z-5. R2.\nX360.\nG80')).toEqual([
      460, 60,
    ]);
    expect(span('G90 G54 G0 X500.\nY400.')).toEqual([0, 0]);
    expect(span('G1 Z-5. F90.')).toEqual([null, null]);
  });
  it('step by step once a place was said, and not before', () => {
    expect(span('G90 G0 X10. Y0.\nG91 G1 X50. F90.\nX50.\nG90')).toEqual([100, 0]);
    expect(span('G91 G0 X50.\nX50.\nG90')).toEqual([null, null]);
  });
  it('each work offset by itself: two parts on one table are no long one', () =>
    expect(span('G90 G54 G0 X0. Y0.\nG1 X100. F90.\nG55 G0 X800. Y0.\nG1 X950.')).toEqual([150, 0]));
  it('in inches as well, and not in turned coordinates', () => {
    expect(span('G20 G90 G0 X0. Y0.\nG1 X10. F9.')[0]).toBeCloseTo(254, 6);
    expect(span('G90 G0 X0. Y0.\nG68 X0. Y0. R45.\nG1 X900. F90.\nG69\nG1 X10.')).toEqual([10, 0]);
  });

  // truth beside it: positions added up by hand, over random moves
  it('agrees with places that are added up one by one', () => {
    const move = fc.record({
      offset: fc.constantFrom('G54', 'G55', ''),
      mode: fc.constantFrom('G90', 'G91', ''),
      x: fc.option(fc.integer({ min: -400, max: 400 }), { nil: null }),
      y: fc.option(fc.integer({ min: -400, max: 400 }), { nil: null }),
      feeds: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(move, { minLength: 1, maxLength: 25 }), (moves) => {
        const at = { x: 0, y: 0 };
        const said = { x: false, y: false };
        const seen = new Map<string, { x: number[]; y: number[] }>();
        let [absolute, offset] = [true, ''];
        const lines = moves.map(({ offset: to, mode, x, y, feeds }) => {
          // from another zero nobody knows where it stands
          if (to && to !== offset) said.x = said.y = false;
          if (to) offset = to;
          if (mode) absolute = mode === 'G90';
          for (const axis of ['x', 'y'] as const) {
            const word = { x, y }[axis];
            if (word === null) continue;
            at[axis] = absolute ? word : at[axis] + word;
            if (absolute) said[axis] = true;
          }
          if (x !== null || y !== null) {
            const here = seen.get(offset) ?? { x: [], y: [] };
            seen.set(offset, here);
            for (const axis of ['x', 'y'] as const) if (said[axis]) here[axis].push(at[axis]);
          }
          return `${to} ${mode} ${feeds ? 'G1 F90.' : 'G0'}${x === null ? '' : ` X${x}.`}${y === null ? '' : ` Y${y}.`}`;
        });
        const most = (axis: 'x' | 'y') => {
          const spans = [...seen.values()].flatMap((each) =>
            each[axis].length > 0 ? [Math.max(...each[axis]) - Math.min(...each[axis])] : [],
          );
          return spans.length > 0 ? Math.max(...spans) : null;
        };
        expect(span(lines.join('\n'))).toEqual([most('x'), most('y')]);
      }),
      { numRuns: 300 },
    );
  });
});

describe('a program that goes further than the machine travels', () => {
  const found = (x: number | null) =>
    checkReadiness({
      machine: {
        name: 'Avocet',
        kind: 'mill',
        highestSpeed: 9000,
        boringShift: 'X+',
        unit: 'mm',
        travel: { x: x === null ? null : lengthOf(x, 'mm'), y: null },
      },
      program: { name: 'O1', partsPerCycle: 1, calls: calls('G90 G54 G0 X-400. Y0.\nG1 X412. F500.') },
      quantity: 1,
      loaded: [],
      rows: [{ row: 1, zero: false }],
    }).flatMap(({ code, weight, sentence }) => (code === 'travel' ? [`${weight}: ${sentence}`] : []));
  it('stops, with both figures', () =>
    expect(found(762)).toEqual(['stop: O1 goes 812.0 mm in X; Avocet travels 762.0 mm.']));
  it('not where it just fits, or where nobody recorded the travel', () => {
    expect(found(812)).toEqual([]);
    expect(found(null)).toEqual([]);
  });
});
