import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { changesBetween } from './changes.ts';
import { usualDialect } from './dialect.ts';
import { readProgram } from './read-program.ts';

const MILL = { ...usualDialect('mill', 'mm'), lifeCodes: ['M120'] };
const revision = (text: string) => {
  const read = readProgram(text, MILL);
  if (!read.ok) throw new Error(read.reason);
  return { calls: read.reading.calls, text, unit: read.reading.units };
};

/** A tool of a made-up program: what of it a revision may change. */
interface Spec {
  tool: number;
  name: string;
  h: number;
  d: number;
  speed: number;
  feed: number;
  depth: number;
  holes: number;
  stop: boolean;
  turns: 3 | 4;
  /** Moves that no tool term tells: where in X it goes. */
  place: number;
}
const spec = (tool: number, more: Partial<Spec> = {}): Spec => ({
  tool,
  name: 'END MILL',
  h: tool,
  d: tool,
  speed: 2000,
  feed: 300,
  depth: 5,
  holes: 3,
  stop: false,
  turns: 3,
  place: 10,
  ...more,
});
const program = (tools: readonly Spec[], numbered = false) => {
  const lines = tools.flatMap(({ tool, name, h, d, speed, feed, depth, holes, stop, turns, place }) => [
    `(${name})`,
    `T${tool} M6`,
    `S${speed} M${turns}`,
    `G43 H${h} Z50.`,
    `G0 X${place}. Y0.`,
    `G1 Z-${depth}. F${feed}`,
    `G41 D${d} X${place + 10}.`,
    `G40 X${place}.`,
    'G0 Z50.',
    ...Array.from({ length: holes }, (_, i) => (i === 0 ? `G81 X0. Z-1. R2. F${feed}` : `X${i * 10}.`)),
    'G80',
    ...(stop ? ['M1'] : []),
  ]);
  return [
    '%',
    'O1 (PART)',
    ...lines.map((line, i) => (numbered ? `N${i + 10} ${line}` : line)),
    'M30',
    '%',
  ].join('\n');
};
const changes = (before: readonly Spec[], after: readonly Spec[]) =>
  changesBetween(revision(program(before)), revision(program(after)), 'X+').map(({ text }) => text);

const TWO = [spec(12), spec(3)];
const change = (more: Partial<Spec>) => changes(TWO, [{ ...TWO[0]!, ...more }, TWO[1]!]);

describe('what changed in a program, in tool terms', () => {
  it('a speed, with how much faster', () =>
    expect(change({ speed: 2080 })).toEqual(['T12 runs 2080 rpm instead of 2000, 4 % faster.']));
  it('a length row, a radius row', () => {
    expect(change({ h: 3 })).toEqual(['T12 uses H3 instead of H12.']);
    expect(change({ d: 13 })).toEqual(['T12 uses D13 instead of D12.']);
  });
  it('a feed, and what it makes of the time', () =>
    expect(change({ feed: 600 })).toEqual([
      'T12 feeds 600 a minute instead of 300, 100 % faster.',
      'T12 is 50 % shorter in cut.',
    ]));
  it('a depth', () =>
    expect(change({ depth: 6 })[0]).toBe(
      'T12 goes deeper: Z -6.000 mm instead of -5.000 mm.'.replaceAll('-', '−'),
    ));
  it('holes, stops, the way it turns, its name', () => {
    expect(change({ holes: 5 })[0]).toBe('T12 makes 5 holes instead of 3.');
    expect(change({ stop: true })).toEqual(['T12 stops once instead of never.']);
    expect(change({ turns: 4 })).toEqual(['T12 turns by M4 instead of M3.']);
    expect(change({ name: 'REAMER' })).toEqual(['T12 is called "REAMER", before "END MILL".']);
  });
  it('a tool that came, went, or comes at another turn', () => {
    expect(changes(TWO, [...TWO, spec(14)])).toEqual(['T14 is new (END MILL).']);
    expect(changes(TWO, [TWO[0]!])).toEqual(['T3 is gone (END MILL).']);
    expect(changes(TWO, [TWO[1]!, TWO[0]!])).toEqual(['T3 comes before T12 now.']);
  });
  it('a T that is called twice is held against itself call by call', () =>
    expect(changes([spec(1), spec(2), spec(1)], [spec(1), spec(2), spec(1, { h: 2 })])).toEqual([
      'T1 uses H2 instead of H1.',
    ]));
  it('places alone: where the first of them stands', () =>
    expect(change({ place: 11 })).toEqual([
      'No tool, row, speed, feed, depth or time: 3 lines differ, the first of them line 7.',
    ]));
  it('words alone, numbers of blocks and spaces', () => {
    const [a, b] = [program(TWO), program(TWO, true).replace('M30', '(THE END)\nM30')];
    expect(changesBetween(revision(a), revision(b), 'X+').map(({ text }) => text)).toEqual([
      'Only remarks, numbers of blocks or spaces differ.',
    ]);
  });
  it('a line that was taken out and changes no figure', () => {
    const a = program(TWO).replace('G80', 'M8\nG80');
    expect(changesBetween(revision(a), revision(program(TWO)), 'X+')[0]!.text).toMatch(
      /^No tool, .* line \d+/,
    );
  });

  // the truth is what was changed: each change is named, and nothing else is
  it('names exactly the tools that were changed', () => {
    const field = fc.constantFrom<Partial<Spec>>(
      { speed: 2500 },
      { h: 99 },
      { d: 99 },
      { feed: 450 },
      { depth: 7 },
      { holes: 4 },
      { stop: true },
      { turns: 4 },
      { name: 'REAMER' },
    );
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 6 }),
        fc.array(fc.option(field, { nil: null }), { minLength: 6, maxLength: 6 }),
        (tools, made) => {
          const before = tools.map((tool) => spec(tool));
          const after = before.map((each, i) => ({ ...each, ...made[i] }));
          const found = changesBetween(revision(program(before)), revision(program(after)), 'X+');
          const changed = tools.filter((_, i) => made[i]);
          if (changed.length === 0) expect(found).toMatchObject([{ tool: null }]);
          else expect([...new Set(found.map(({ tool }) => tool))].sort()).toEqual([...changed].sort());
        },
      ),
      { numRuns: 120 },
    );
  });
});
