import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { laidOver } from './laid-over.ts';

describe('what two people change of one record', () => {
  const record = fc.record({
    a: fc.integer({ max: 2, min: 0 }),
    b: fc.constantFrom([], ['M10'], ['M10', 'M11']),
  });
  it('is there of both, whoever comes first, or the second is told', () => {
    fc.assert(
      fc.property(record, record, record, (shown, first, second) => {
        const now = { ...shown, ...laidOver(shown, first, shown).changed };
        expect(now).toEqual(first);
        const { changed, clashes } = laidOver(shown, second, now);
        const end = { ...now, ...changed };
        for (const name of ['a', 'b'] as const) {
          const [was, one, other] = [shown[name], first[name], second[name]].map((each) =>
            JSON.stringify(each),
          );
          const both = one !== was && other !== was && one !== other;
          expect(clashes.includes(name)).toBe(both);
          if (!both) expect(JSON.stringify(end[name])).toBe(other === was ? one : other);
        }
      }),
    );
  });
  it('is no change where only the order of its parts is another', () => {
    expect(laidOver({ a: { x: 1, y: [2] } }, { a: { y: [2], x: 1 } }, { a: { x: 3, y: [2] } })).toEqual({
      changed: {},
      clashes: [],
    });
    expect(laidOver<{ a: unknown }>({ a: ['x'] }, { a: { 0: 'x' } }, { a: ['x'] }).changed).toEqual({
      a: { 0: 'x' },
    });
    expect(laidOver<{ a: unknown }>({ a: null }, { a: {} }, { a: null }).changed).toEqual({ a: {} });
  });
});
