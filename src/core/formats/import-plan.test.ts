import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countVerdicts, planImport } from './import-plan.ts';

const known = new Map<string, { cells: Record<string, string>; standsIn: string | null }>([
  [
    'T-1',
    { cells: { number: 'T-1', name: 'Drill 5', diameter: '5.000', life_limit: '100' }, standsIn: null },
  ],
  ['T-2', { cells: { number: 'T-2', name: 'Tap', diameter: '8.000' }, standsIn: 'Mill 1' }],
]);
const plan = (...rows: Record<string, string>[]) => planImport('assemblies', rows, known, 2);

describe('what taking a file would do', () => {
  it('a new number is added', () => {
    expect(plan({ number: 'T-9', name: 'New' })).toEqual([
      { line: 2, number: 'T-9', verdict: 'added', words: 'New', doubt: 'its gauge length is nought' },
    ]);
  });
  it('a changed cell is told as it was and as it would be', () => {
    expect(plan({ number: 'T-1', name: 'Drill 5.1', diameter: '5.100' })[0]).toMatchObject({
      verdict: 'changed',
      words: 'name Drill 5 → Drill 5.1, diameter 5.000 → 5.100',
    });
  });
  it('a count or a life that only entries move is left as it is, and that is said', () => {
    expect(plan({ number: 'T-1', name: 'Drill 5', diameter: '5.000', life_limit: '999' })[0]).toMatchObject({
      verdict: 'left',
      words: 'left as it is: good for 100 → 999 (it is changed on its page)',
    });
    // a file that says nothing of it wants nothing
    expect(plan({ number: 'T-1', name: 'Drill 5', diameter: '5.000', life_limit: '' })[0]!.verdict).toBe(
      'same',
    );
  });
  it('of a new one every size is shown, of a changed one each cell, emptied ones too', () => {
    const cells = {
      number: 'T-9',
      name: 'Mill',
      kind: 'end mill',
      interface: 'steep 40',
      diameter: '10',
      stick_out: '35',
      gauge_length: '125.4',
      corner_radius: '0.5',
      teeth: '4',
    };
    expect(plan(cells)[0]).toMatchObject({
      verdict: 'added',
      words:
        'Mill: end mill, steep 40, diameter 10 mm, stick-out 35 mm, gauge length 125.4 mm, corner radius 0.5 mm, teeth 4',
      doubt: null,
    });
    expect(plan({ number: 'T-1', name: 'Drill 5', diameter: '5.000', holder: '' })[0]!.verdict).toBe('same');
    expect(plan({ number: 'T-1', name: '', diameter: '5.000' })[0]!.words).toBe('name Drill 5 → nothing');
  });
  it('a number that differs by its capitals alone is refused', () => {
    expect(
      planImport('assemblies', [{ number: 't-1' }], known, 2, new Map([['t-1', 'T-1']]))[0],
    ).toMatchObject({ verdict: 'refused', words: 'T-1 is on record: write it so if it is the same' });
  });
  it.each([
    [{ kind: 'drill', diameter: '6000' }, 'it is 6000 mm across'],
    [{ kind: 'drill', diameter: '0' }, 'its diameter is nought'],
    [{ kind: 'drill', diameter: '8', gauge_length: '125400' }, 'its gauge length is 125400 mm'],
    [
      { kind: 'end mill', diameter: '10', corner_radius: '6' },
      'its corner radius of 6 mm is more than half its diameter',
    ],
    [
      { kind: 'drill', diameter: '8', stick_out: '200' },
      'it stands out 200 mm, further than its gauge length of 120 mm',
    ],
    [{ kind: 'face mill', diameter: '80000' }, 'it is 80000 mm across'],
    [{ kind: 'face mill', diameter: '125' }, null],
    [{ kind: 'turning tool', diameter: '0' }, null],
  ])('sizes that no such tool has are asked about: %o', (cells, doubt) =>
    expect(plan({ number: 'T-9', gauge_length: '120', stick_out: '40', ...cells })[0]!.doubt).toBe(doubt),
  );
  it.each([
    [{ kind: 'jobber drill', dc: '6000', oal: '117' }, 'it is 6000 mm across'],
    [
      { kind: 'jobber drill', dc: '6.8', oal: '109', lcf: '690' },
      'its flutes of 690 mm are longer than all of it, 109 mm',
    ],
    [{ kind: 'collet chuck', rpmx: '12000000' }, 'its greatest speed is 12000000'],
    [{ kind: 'jobber drill', dc: '6.8', stock: '120000' }, '120000 of it lie in the shelf'],
    [{ kind: 'jobber drill', dc: '6.8', oal: '109', lcf: '69', stock: '12', cost: '4.20' }, null],
  ])('and of pieces: %o', (cells, doubt) =>
    expect(planImport('components', [{ number: 'C-9', ...cells }], new Map(), 2)[0]!.doubt).toBe(doubt),
  );
  it('what stands in a machine keeps its sizes', () => {
    expect(plan({ number: 'T-2', name: 'Tap', diameter: '8.100' })[0]).toMatchObject({
      verdict: 'refused',
      words: 'it stands in Mill 1: take it out before its diameter is changed',
    });
    expect(plan({ number: 'T-2', name: 'Tap', diameter: '8.000' })[0]!.verdict).toBe('same');
  });
  it('the counts are those of the rows, whatever comes', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            number: fc.constantFrom('T-1', 'T-2', 'T-3'),
            name: fc.constantFrom('Drill 5', 'Tap', 'x'),
          }),
        ),
        (rows) => {
          const planned = planImport('assemblies', rows, known, 2);
          const counts = countVerdicts(planned);
          expect(counts.added + counts.changed + counts.left + counts.same + counts.refused).toBe(
            rows.length,
          );
          expect(counts.refused).toBe(planned.filter((row) => row.verdict === 'refused').length);
          expect(planned.map((row) => row.line)).toEqual(rows.map((_, i) => i + 2));
        },
      ),
    );
  });
});
