import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Length } from '../units/length.ts';
import { handoverWords, MINUTE, wordsOf, type Change, type HandoverFacts } from './handover.ts';
import type { LeafCorrection, LeafNote } from './leaf.ts';

const until = new Date('2026-03-04T14:00:00Z');
const when = (at: Date) => at.toISOString().slice(11, 16);
const nothing: HandoverFacts = {
  changes: [],
  made: [],
  until,
  leaf: {
    forecast: [],
    waiting: [],
    stray: [],
    controls: [],
    crossed: [],
    questions: [],
    promises: [],
    renewals: [],
    toMeasure: [],
    lacking: [],
    firstParts: [],
    heldBack: [],
  },
};
const withLeaf = (leaf: Partial<HandoverFacts['leaf']>): HandoverFacts => ({
  ...nothing,
  leaf: { ...nothing.leaf, ...leaf },
});

const noteOf = (text: string, machine: string | null = null): LeafNote => ({
  id: 1,
  leaf: '2026-03-04/early',
  kind: 'question',
  machine,
  person: 'somebody',
  at: until,
  text,
  answer: null,
  answeredBy: null,
});
const correctionOf = (tool: number, state: string): LeafCorrection => ({
  id: tool,
  state,
  machine: 'Mill',
  unit: 'mm',
  increment: 1000 as Length,
  feature: 'Bore',
  tool,
  row: tool,
  registerKind: 'lengthWear',
  change: -10_000 as Length,
  to: -10_000 as Length,
  stops: 0,
  lastStop: null,
  held: null,
  tookWords: null,
  part: 1,
  cut: null,
});
const changeOf = (what: Change['what'], tool: number, of: string): Change => ({
  machine: 'Mill',
  what,
  tool,
  change: -10_000 as Length,
  unit: 'mm',
  increment: 1000 as Length,
  of,
});
const runsOut = (tool: number, hour: number | null, flag: 'broken' | null = null) => ({
  tool,
  number: `A-${tool}`,
  name: 'drill',
  assemblyId: tool,
  basis: 'pieces' as const,
  remaining: 5,
  fullLife: 100,
  flag,
  afterParts: 5,
  at: hour === null ? null : new Date(until.getTime() + hour * 3_600_000),
  byNow: false,
  gone: null as Date | null,
  sister: null,
});

const forecastOf = (...out: ReturnType<typeof runsOut>[]) => [
  { machineId: 1, machine: 'Mill', job: null, likely: null, ends: null, next: null, runsOut: out },
];

describe('a handover in words', () => {
  it('what may have run out since somebody counted last is told as that', () => {
    const forecast = forecastOf({ ...runsOut(6, -2), byNow: true }, runsOut(8, -1));
    expect(handoverWords(withLeaf({ forecast }), () => '13:00')).toEqual([
      'Running out: Mill T6 by now, if it ran on, no sister built; Mill T8 at 13:00, no sister built.',
    ]);
  });
  it('what runs out while nobody is there is told as that', () => {
    const forecast = forecastOf({ ...runsOut(6, -2), gone: new Date(until.getTime() - 3 * 3_600_000) });
    expect(handoverWords(withLeaf({ forecast }), () => '02:30')).toEqual([
      'Running out: Mill T6 at 02:30 with nobody here, no sister built.',
    ]);
  });
  it('says which job has begun and lacks a tool', () => {
    const words = handoverWords(
      withLeaf({ lacking: [{ machineId: 1, machine: 'Mill', program: 'O7', tools: [2, 5] }] }),
      () => '',
    );
    expect(words.join(' ')).toContain('Not in the machine, and called by what runs: Mill T2, T5 for O7.');
  });
  it('says that there is nothing to say', () => {
    expect(handoverWords(nothing, when)).toEqual([
      'Nothing was changed, and at the machines nothing is broken or waits.',
    ]);
  });

  it('tells first what hurts, last what was made, with every number as it is', () => {
    const told = handoverWords(
      {
        ...withLeaf({
          heldBack: [
            {
              assemblyId: 4,
              number: 'A-4',
              name: 'drill',
              machineId: 1,
              machine: 'Mill',
              tool: 4,
              verdict: 'broken',
              parts: 12,
              open: 9,
              replaced: false,
              measured: false,
            },
          ],
          questions: [noteOf('Why does T2 chatter only on the left pallet?', 'Mill')],
          waiting: [correctionOf(3, 'approved'), correctionOf(5, 'proposed')],
          // the broken one is told as broken; what runs out after the next shift is not told
          forecast: forecastOf(runsOut(4, null, 'broken'), runsOut(6, -2), runsOut(7, 3)),
          promises: [{ ...noteOf('New jaws for the lathe by Thursday'), kind: 'promise' }],
        }),
        changes: [
          changeOf('corrected', 3, 'Bore'),
          changeOf('byHand', 8, 'the other shift nudged it'),
          { ...changeOf('set up', 0, 'O7, work offset moved'), tool: null },
        ],
        made: [{ machine: 'Mill', parts: 41, scrapped: 2 }],
      },
      when,
    );
    expect(told).toEqual([
      'Broken: Mill T4 broke, 9 parts to inspect.',
      'Not understood: Mill: Why does T2 chatter only on the left pallet?',
      'Approved and not keyed: Mill T3 for Bore.',
      'Running out: Mill T6 at 12:00, no sister built.',
      'Promised: New jaws for the lathe by Thursday.',
      'Waiting for approval: Mill T5 for Bore.',
      'Found changed by hand: Mill T8 −0.010, the other shift nudged it.',
      'Set up anew while it ran: Mill O7, work offset moved.',
      'Corrected: Mill T3 −0.010 for Bore.',
      'Made: Mill 41, 2 scrapped.',
    ]);
  });

  it('never takes more than a minute, and leaves no subject out, whatever a shift was like', () => {
    const many = <T>(of: (n: number) => T, most: number) =>
      fc.integer({ min: 0, max: most }).map((n) => Array.from({ length: n }, (_, i) => of(i + 1)));
    const long = 'what it was is told at great length and with every turn that it took until the bell rang ';
    fc.assert(
      fc.property(
        many((n) => noteOf(`${n} ${long.repeat(4)}`), 30),
        many((n) => correctionOf(n, n % 2 ? 'approved' : 'proposed'), 60),
        many((n) => changeOf(n % 3 ? 'corrected' : 'byHand', n, long), 80),
        many((n) => ({ machine: `Mill ${n}`, parts: n, scrapped: n % 3 }), 40),
        many((n) => ({ machineId: n, machine: `Mill ${n}`, differing: n }), 40),
        (questions, waiting, changes, made, controls) => {
          const told = handoverWords(
            { ...withLeaf({ questions, promises: questions, waiting, controls }), changes, made },
            when,
          );
          expect(told.reduce((sum, each) => sum + wordsOf(each), 0)).toBeLessThanOrEqual(MINUTE);
          const subjects =
            (questions.length > 0 ? 2 : 0) +
            [
              waiting.some(({ state }) => state === 'approved'),
              waiting.some(({ state }) => state === 'proposed'),
              changes.some(({ what }) => what === 'corrected'),
              changes.some(({ what }) => what === 'byHand'),
              made.length > 0,
              controls.length > 0,
            ].filter(Boolean).length;
          expect(told).toHaveLength(Math.max(1, subjects));
          for (const each of told) expect(each).toMatch(/[.?!…]$/);
        },
      ),
    );
  });

  it('says how many there are where it cannot say which', () => {
    const crowd = Array.from({ length: 40 }, (_, n) => correctionOf(n + 1, 'approved'));
    const [waiting] = handoverWords(withLeaf({ waiting: crowd }), when);
    expect(waiting).toBe('Approved and not keyed: Mill T1 for Bore; Mill T2 for Bore; and 38 more.');
    const [all] = handoverWords(withLeaf({ waiting: crowd.slice(0, 4) }), when);
    expect(all).toBe(
      'Approved and not keyed: Mill T1 for Bore; Mill T2 for Bore; Mill T3 for Bore; Mill T4 for Bore.',
    );
  });
});
