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
const plan = (...rows: Record<string, string>[]) => planImport(rows, known, 2);

describe('what taking a file would do', () => {
  it('a new number is added', () => {
    expect(plan({ number: 'T-9', name: 'New' })).toEqual([
      { line: 2, number: 'T-9', verdict: 'added', words: 'New' },
    ]);
  });
  it('a changed cell is told as it was and as it would be', () => {
    expect(plan({ number: 'T-1', name: 'Drill 5.1', diameter: '5.100' })[0]).toMatchObject({
      verdict: 'changed',
      words: 'name Drill 5 → Drill 5.1, diameter 5.000 → 5.100',
    });
  });
  it('a count or a life that only entries move does not make a row changed', () => {
    expect(plan({ number: 'T-1', name: 'Drill 5', diameter: '5.000', life_limit: '999' })[0]!.verdict).toBe(
      'same',
    );
  });
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
          const planned = planImport(rows, known, 2);
          const counts = countVerdicts(planned);
          expect(counts.added + counts.changed + counts.same + counts.refused).toBe(rows.length);
          expect(counts.refused).toBe(planned.filter((row) => row.verdict === 'refused').length);
          expect(planned.map((row) => row.line)).toEqual(rows.map((_, i) => i + 2));
        },
      ),
    );
  });
});
