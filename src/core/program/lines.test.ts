import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { usualDialect } from './dialect.ts';
import { lineMarks, linesIn, MARK_EVERY } from './lines.ts';
import { readProgram } from './read-program.ts';

describe('lines of a long text', () => {
  it('begin where the marks say, in code points, whatever ends a line', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('G1 X1.', '(Ø 12 µm)', '(😀 ok)', '', 'N10'), {
          minLength: 1,
          maxLength: 40,
        }),
        fc.constantFrom('\n', '\r\n', '\r'),
        (pieces, end) => {
          // long enough for several marks
          const lines = Array.from({ length: 2 * MARK_EVERY + 100 }, (_, i) => pieces[i % pieces.length]!);
          const text = lines.join(end);
          const points = [...text];
          const seen = lineMarks(text).map((at) => linesIn(points.slice(at).join('')));
          for (const [i, rest] of seen.entries()) expect(rest[0]).toBe(linesIn(text)[i * MARK_EVERY]);
          expect(seen).toHaveLength(Math.ceil(linesIn(text).length / MARK_EVERY));
        },
      ),
      { numRuns: 12 },
    );
  });
});

describe('how far a reading is', () => {
  it('is told on the way, never past the end, and changes nothing of what is read', () => {
    const text = `O1\nT1 M6\nG43 H1\nS1000 M3\n${'G1 X10. F100.\nX0.\n'.repeat(150_000)}M30\n`;
    const told: number[] = [];
    const read = readProgram(text, usualDialect('mill', 'mm'), {
      told: (line, of) => told.push(line / of),
    });
    expect(told.length).toBeGreaterThan(3);
    expect([...told].sort((a, b) => a - b)).toEqual(told);
    expect(told.every((part) => part >= 0 && part <= 1)).toBe(true);
    expect(read).toEqual(readProgram(text, usualDialect('mill', 'mm')));
  });
});
