import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { planDoubts, type CheckedSize } from '../inspection/plan-check.ts';
import { inUnit } from '../units/length.ts';
import { usualDialect } from './dialect.ts';
import { readProgram } from './read-program.ts';

const callsOf = (text: string) => {
  const result = readProgram(text, usualDialect('lathe', 'mm'));
  if (!result.ok) throw new Error(result.reason);
  return result.reading.calls;
};
const sideOf = (blocks: string) => callsOf(`O1\nG21\nT0101\n${blocks}\nM30`)[0]!.cutSide!;
const acrossOf = (blocks: string) => {
  const { across } = sideOf(blocks);
  return across && [inUnit(across.least, 'mm'), inUnit(across.most, 'mm')];
};

describe('the side from which the tool of a lathe cuts, by its moves', () => {
  it('turning is left outwards, boring inwards, by feed or at rapid, in steps, with chamfers', () => {
    expect(sideOf('G0 X40. Z2.\nG1 Z-20. F0.2\nX42.\nG0 Z2.').leaves).toBe('outwards');
    expect(sideOf('G0 X40. Z2.\nG1 Z-20. F0.2\nG0 X80. Z50.').leaves).toBe('outwards');
    expect(sideOf('G0 X30. Z2.\nG1 Z0.\nX28. Z-1.\nZ-20.\nX26.\nG0 Z2.').leaves).toBe('inwards');
    expect(sideOf('G0 X20. Z2.\nG1 Z-5.\nX24. Z-7.\nZ-15.\nX30.').leaves).toBe('outwards');
  });
  it('is not told by the way to the turret once the tool is out of the hole, nor by an undercut both ways', () => {
    expect(sideOf('G0 X30. Z2.\nG1 Z-20.\nG0 Z2.\nX80.').leaves).toBeNull();
    expect(sideOf('G0 X40. Z2.\nG1 Z-10.\nX38. Z-12.\nZ-20.\nX44.').leaves).toBeNull();
    expect(sideOf('G0 X44. Z-10.\nG1 X40.\nG0 X44.').leaves).toBeNull();
  });
  it('contours of roughing and finishing cycles count, and simple cycles', () => {
    const contour = 'G0 X60. Z2.\nG71 U2. R1.\nG71 P10 Q20 U0.4 W0.1 F0.3\nN10 G0 X40.\nG1 Z-20.\nN20 X60.';
    expect(sideOf(contour).leaves).toBe('outwards');
    expect(sideOf('G0 X60. Z2.\nG90 X50. Z-20. F0.2').leaves).toBe('outwards');
    expect(sideOf('G0 X20. Z2.\nG90 X30. Z-20. F0.2').leaves).toBe('inwards');
    expect(acrossOf('G0 X60. Z2.\nG94 X-1. Z0. F0.2')).toEqual([0, 0]);
  });
  it('cuts on the centre line are a drill’s; one cut off it is not', () => {
    expect(sideOf('G0 X0. Z2.\nG83 Z-20. Q5. R2. F0.1\nG80').onCentre).toBe(true);
    expect(sideOf('G0 X0. Z2.\nG1 Z-20.').onCentre).toBe(true);
    expect(sideOf('G0 X0. Z2.\nG1 Z-20.\nX10.').onCentre).toBe(false);
    expect(sideOf('G0 X12. Z2.\nG83 Z-20. Q5. R2. F0.1\nG80').onCentre).toBe(false);
    expect(sideOf('G0 X0. Z2.').onCentre).toBe(false);
  });
  it('cuts across: faces, grooves and parting, and no shoulder at the end of a cut', () => {
    expect(acrossOf('G0 X50. Z0.\nG1 X-1. F0.2')).toEqual([0, 0]);
    expect(acrossOf('G0 X50. Z-8.\nG1 X40. F0.1\nG0 X50.\nZ-12.\nG1 X40.')).toEqual([-12, -8]);
    expect(acrossOf('G0 X40. Z2.\nG1 Z-20. F0.2\nX50.')).toBeNull();
    expect(acrossOf('G0 X20. Z0.\nG1 X40. F0.2')).toEqual([0, 0]);
    expect(acrossOf('G0 X50. Z-8.\nG75 X40. F0.1')).toEqual([-8, -8]);
  });
  it('a mill has none', () => {
    const mill = readProgram('O1\nT1 M6\nG43 H1 Z5.\nG1 X5. F100.\nM30', usualDialect('mill', 'mm'));
    expect(mill.ok && mill.reading.calls[0]!.cutSide).toBeNull();
  });
});

describe('sizes that the moves of their tool speak against (H8, H14)', () => {
  const calls = callsOf(readFileSync('demo/programs/O1402-guide-vane-pin.nc', 'utf8'));
  const doubtOf = (kind: CheckedSize['kind'], tool: number, row = tool, of = calls) =>
    planDoubts([{ name: 'Size', kind, tool, row, other: null, rough: null }], of)[0]?.doubt ?? null;

  it('a diameter where the tool drills', () => {
    expect(doubtOf('bore', 3)).toMatch(/^T3 cuts on the centre line only/);
    expect(doubtOf('bore', 3, 23)).toMatch(/centre line/);
    expect(doubtOf('cutHole', 3)).toBeNull();
  });
  it('a bore by a tool that turns, an outside diameter by one that bores', () => {
    expect(doubtOf('bore', 2)).toMatch(/^T2 leaves its cuts outwards/);
    expect(doubtOf('outsideDiameter', 5)).toMatch(/^T5 leaves its cuts inwards/);
    expect([doubtOf('outsideDiameter', 2), doubtOf('bore', 5), doubtOf('bore', 4)]).toEqual([
      null,
      null,
      null,
    ]);
  });
  it('a length to the front of what is parted off there, and the other way round', () => {
    expect(doubtOf('faceLength', 8)).toMatch(/^T8 cuts across behind all others.*parted face/);
    expect(doubtOf('partedLength', 1)).toMatch(/^T1 cuts across in front of all others.*length to a face/);
    expect([doubtOf('partedLength', 8), doubtOf('faceLength', 1)]).toEqual([null, null]);
    // a groove lies between the two: either may be meant
    expect([doubtOf('faceLength', 6), doubtOf('partedLength', 6)]).toEqual([null, null]);
  });
  it('cannot be told by a call that was read before sides were, by a row not called, by one tool alone', () => {
    const early = calls.map((call) => ({ ...call, cutSide: null }));
    expect(doubtOf('bore', 2, 2, early)).toBeNull();
    expect(doubtOf('bore', 2, 9)).toBeNull();
    expect(
      doubtOf(
        'faceLength',
        8,
        8,
        calls.filter(({ tool }) => tool === 8),
      ),
    ).toBeNull();
    const halves = calls.map((call, i) => (i > 9 && call.tool === 2 ? { ...call, cutSide: null } : call));
    expect(doubtOf('bore', 2, 2, halves)).not.toBeNull();
  });
  it('no size of the plans that ship is doubted, whichever lathe', async () => {
    const { readPlanFile } = await import('../formats/plan-file.ts');
    for (const name of ['O1402-guide-vane-pin', 'O1421-shaft-sleeve']) {
      const plan = readPlanFile(readFileSync(`demo/plans/${name}.csv`, 'utf8'), 'in');
      expect(plan.ok && plan.rows.length).toBeGreaterThan(2);
      if (plan.ok)
        expect(planDoubts(plan.rows, callsOf(readFileSync(`demo/programs/${name}.nc`, 'utf8')))).toEqual([]);
    }
  });
});
