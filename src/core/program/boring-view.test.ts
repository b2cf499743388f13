import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { inUnit, lengthOf } from '../units/length.ts';
import { SHIFTS, tipFor, type BoringShift, type Shift } from './boring-shift.ts';
import { boringView, correctedBlock, vectorOf } from './boring-view.ts';
import { usualDialect } from './dialect.ts';
import { readProgram } from './read-program.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const byQ: BoringShift = { line: 9, byMachine: true, direction: null, shift: mm(0.25), overridden: false };
const view = (tip: Shift | null, machine: Shift = 'X+', shift = byQ, diameter = mm(40)) =>
  boringView(shift, tip, machine, diameter);

describe('a fine bore as seen from above', () => {
  it('clears the wall by the whole shift where that is straight away from the tip (H10)', () => {
    expect(view('X-')).toMatchObject({ verdict: 'safe', clears: mm(0.25), shift: 'X+' });
    expect(view('Y-', 'Y+')).toMatchObject({ verdict: 'safe', clears: mm(0.25) });
  });
  it('put in the other way round it goes into the wall by as much', () =>
    expect(view('X+')).toMatchObject({ verdict: 'wall', clears: mm(-0.25) }));
  it('across, the tip is drawn along the wall and a little into it', () => {
    const { verdict, clears } = view('Y-');
    expect(verdict).toBe('wall');
    // 20 mm and 0.25 mm square to each other: 1.6 micrometres
    expect(inUnit(clears!, 'mm')).toBeCloseTo(20 - Math.hypot(20, 0.25), 5);
  });
  it('is not told while nobody looked, and never safe without one straight way', () => {
    expect(view(null)).toMatchObject({ verdict: 'unknown', clears: null });
    expect(view('X-', 'X+', { ...byQ, byMachine: false, direction: null })).toMatchObject({
      verdict: 'wall',
    });
    expect(view('X-', 'X+', { ...byQ, shift: mm(0) })).toMatchObject({ verdict: 'wall' });
  });
  it('agrees with plain geometry: a tip on the wall, moved, is nearer to the axis or it is not', () => {
    const way = fc.constantFrom(...SHIFTS);
    fc.assert(
      fc.property(
        way,
        way,
        fc.integer({ min: 10, max: 5000 }),
        fc.integer({ min: 3000, max: 90_000 }),
        (tip, machine, q, d) => {
          const seen = view(tip, machine, { ...byQ, shift: mm(q / 1000) }, mm(d / 1000));
          const [x, y] = [0, 1].map(
            (i) => (vectorOf(tip)[i]! * d) / 2000 + (vectorOf(machine)[i]! * q) / 1000,
          );
          // a shift past the axis would come out at the other side: no bore is shifted by its own radius
          fc.pre(q * 2 < d);
          expect(seen.verdict === 'safe').toBe(Math.hypot(x!, y!) < d / 2000 - 1e-9);
        },
      ),
    );
  });
});

describe('the block that takes the tip off the wall', () => {
  const block = 'N80 G76 X0. Y0. Z-30. R2. Q0.2 F90. (BORE)';
  it('keeps Q where the machine’s own way does it', () =>
    expect(correctedBlock(block, 'X-', 'X+', mm(0.2), 'mm')).toBe(block));
  it('says I or J with its sign elsewhere, and the Q goes', () => {
    expect(correctedBlock(block, 'Y-', 'X+', mm(0.2), 'mm')).toBe(
      'N80 G76 X0. Y0. Z-30. R2. J0.2 F90. (BORE)',
    );
    expect(correctedBlock(block, 'X+', 'X+', mm(0.25), 'mm')).toBe(
      'N80 G76 X0. Y0. Z-30. R2. I-0.25 F90. (BORE)',
    );
  });
  it('read again, it is shifted straight away from the tip, whatever stood there', () => {
    const dialect = usualDialect('mill', 'mm');
    fc.assert(
      fc.property(
        fc.constantFrom(...SHIFTS),
        fc.constantFrom(...SHIFTS),
        fc.constantFrom('Q0.2', 'I0.2', 'J-0.2', 'Q0.2 J0.2', 'I0.1 J0.1', 'Q1.'),
        (tip, machine, words) => {
          const corrected = correctedBlock(`G76 X0. Y0. Z-9. R2. ${words} F90.`, tip, machine, mm(0.2), 'mm');
          const read = readProgram(`%\nO1\nT1 M6\nS900 M3\nG43 H1 Z50.\n${corrected}\nG80\nM30\n%`, dialect);
          const shifts = read.ok ? read.reading.calls.flatMap((call) => call.boringShifts) : [];
          expect(shifts).toHaveLength(1);
          expect(boringView(shifts[0]!, tip, machine, mm(30))).toMatchObject({
            verdict: 'safe',
            shift: tipFor(tip),
            overridden: false,
            length: mm(0.2),
          });
        },
      ),
    );
  });
});
