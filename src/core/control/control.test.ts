import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CODES, slipped, table } from '../../../tests/support/slipped-table.ts';
import { seeded } from '../../../tests/support/seeded.ts';
import { nanometres } from '../units/length.ts';
import { compare } from './compare.ts';
import type { ExplanationCode, HeldRegister } from './held.ts';
import { explanationWords, reasonFor, wholeWords } from './words.ts';

const INCREMENT = nanometres(1000);
const compared = (registers: readonly HeldRegister[], others: Parameters<typeof compare>[0]['others'] = []) =>
  compare({ unit: 'mm', increment: INCREMENT, registers, others });
const MM = { unit: 'mm', decimals: 3 } as const;

describe('one slip in a table of 20 to 200 rows, made forwards by a simulation of its own', () => {
  it.each(CODES)(
    '%s is named first wherever it can be told, and never passed over where it cannot',
    (code) => {
      const next = seeded(CODES.indexOf(code) + 11);
      let [clear, first, doubtful, toldWrong] = [0, 0, 0, 0];
      for (let i = 0; i < 900; i += 1) {
        const made = slipped([20, 60, 200][i % 3]!, code, next);
        if (!made) continue;
        const found = compared(made.registers);
        const difference = found.differences.find(({ register }) => register === made.victim);
        const top = difference?.explanations[0]!.code;
        if (made.alike.size === 0) {
          clear += 1;
          if (top === code) first += 1;
        } else if (code !== 'byHand') {
          // a hand that hits upon what a slip would have made cannot be told from it
          doubtful += 1;
          if (difference?.told && top !== code) toldWrong += 1;
        }
        expect(found.whole).toBeNull();
        expect(found.differences).toHaveLength(1);
      }
      expect(clear).toBeGreaterThan(25);
      expect(first / clear).toBeGreaterThanOrEqual(0.95);
      if (doubtful > 0) expect(toldWrong / doubtful).toBeLessThan(0.05);
    },
  );
});

describe('what explains a table as a whole', () => {
  const rows = (seed: number) => table(40, seeded(seed)).registers;
  const at = (all: readonly HeldRegister[], kind: string, row: number) =>
    all.find((each) => each.kind === kind && each.row === row);

  it('rows that all stand one further, the other unit, another plane, another machine: said once, with a slip beside it found', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.integer({ min: 0, max: 39 }), (seed, which) => {
        const all = rows(seed);
        const other = rows(seed + 9000);
        const made: Record<string, (register: HeldRegister) => number> = {
          shifted: ({ kind, row }) => at(all, kind, row - 1)?.record ?? 0,
          units: ({ record }) => record * 25.4,
          rebased: ({ kind, record }) =>
            kind === 'lengthGeometry' && record !== 0 ? record - 20_400_000 : record,
          otherMachine: ({ kind, row }) => at(other, kind, row)!.record,
        };
        for (const [code, shows] of Object.entries(made)) {
          const held = all.map((each) => ({ ...each, control: nanometres(Math.round(shows(each))) }));
          const victim = held.filter(({ kind, control }) => kind === 'lengthGeometry' && control !== 0)[
            which % 20
          ]!;
          victim.control = nanometres(-victim.control);
          const found = compared(held, [
            { name: 'Bittern', values: other.map((each) => ({ ...each, value: each.record })) },
          ]);
          expect(found.whole?.code).toBe(code);
          expect(wholeWords(found.whole!, MM)).toContain(`of ${found.whole!.of} registers`);
          // the first row of a shifted table is pushed out: what came in there nobody knows
          const left = found.differences.filter(({ register }) => code !== 'shifted' || register.row > 1);
          if (code !== 'shifted' || victim.row > 1) {
            expect(left.map(({ register }) => register.id)).toEqual([victim.id]);
            expect(left[0]!.explanations[0]!.code).toBe('sign');
          }
        }
      }),
      { numRuns: 40 },
    );
  });

  it('a table that is right down to a row and shifted from there on: told with the row, and the rows above it agree', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5000 }),
        fc.integer({ min: 5, max: 34 }),
        fc.constantFrom(1, -1),
        (seed, cut, by) => {
          const all = rows(seed);
          // a line put in at the row, or left out there
          const pushed = (kind: string, row: number) =>
            by === 1 && row === cut ? 77_000 : (at(all, kind, row - by)?.record ?? 0);
          const held = all.map((each) => ({
            ...each,
            control: nanometres(each.row < cut ? each.record : pushed(each.kind, each.row)),
          }));
          const { whole, differences } = compared(held);
          expect(whole).toMatchObject({ code: 'shifted', by });
          // the first rows of it may be empty, or hold what they held
          expect(whole!.from).toBeGreaterThanOrEqual(cut);
          expect(whole!.from).toBeLessThan(cut + 5);
          expect(wholeWords(whole!, MM)).toContain(`From row ${whole!.from} on every value stands one row`);
          // what came in where the line was put in, and what stands at the end, nobody can know
          const open = differences.filter(({ register }) => register.row !== cut && register.row !== 40);
          expect(open).toEqual([]);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('a table that was lost is told as one, and nothing of it as a slip; wear at nought may be what nobody keyed', () => {
    const zeroed = (which: (kind: string) => boolean) =>
      compared(rows(11).map((each) => (which(each.kind) ? { ...each, control: nanometres(0) } : each)));
    expect(zeroed(() => true)).toMatchObject({ whole: { code: 'emptied' }, differences: [] });
    expect(zeroed((kind) => !kind.endsWith('Wear'))).toMatchObject({
      whole: { code: 'cleared' },
      differences: [],
    });
    const wear = zeroed((kind) => kind.endsWith('Wear'));
    expect(wear.whole).toBeNull();
    expect(wear.differences.length).toBeGreaterThan(5);
    // two tools of many at nought are two tools
    const few = rows(11);
    few
      .filter(({ kind, record }) => kind === 'lengthGeometry' && record !== 0)
      .slice(0, 2)
      .forEach((each) => (each.control = nanometres(0)));
    expect(compared(few)).toMatchObject({ whole: null, differences: [{}, {}] });
  });

  it('three rows that each got a neighbour’s value are no shift while rows below them stand', () => {
    const all = rows(7);
    for (const each of all.filter(({ row, kind }) => row >= 10 && row < 13 && kind === 'lengthGeometry'))
      each.control = nanometres(at(all, each.kind, each.row - 1)!.record);
    expect(compared(all).whole).toBeNull();
  });

  it('a table that agrees has nothing to explain; two slips are two', () => {
    const all = rows(3);
    expect(compared(all)).toEqual({ whole: null, differences: [], agree: all.length });
    const [a, b] = all.filter(({ kind, record }) => kind === 'lengthWear' && record !== 0);
    a!.control = nanometres(-a!.record);
    b!.control = nanometres(b!.record + 3_000_000);
    const { whole, differences } = compared(all);
    expect(whole).toBeNull();
    // what cuts furthest off stands first
    expect(differences.map(({ register }) => register.row)).toEqual([b!.row, a!.row]);
  });
});

describe('a case of the floor, by hand', () => {
  const register = (more: Partial<HeldRegister>): HeldRegister => ({
    id: 1,
    kind: 'lengthWear',
    row: 22,
    record: nanometres(0),
    control: nanometres(0),
    before: [],
    seen: false,
    waiting: null,
    ...more,
  });
  const first = (...registers: HeldRegister[]) => {
    const [difference] = compared(registers).differences;
    return difference!.explanations[0]!.code;
  };

  it.each<[string, Partial<HeldRegister>, ExplanationCode]>([
    [
      'a stray value in row 22 after a renewal (H1.7)',
      { control: nanometres(-35_000), before: [{ value: nanometres(-35_000), endedBy: 'zeroed' }] },
      'wearLeft',
    ],
    [
      'the night nudged it and told nobody (H1.12)',
      { record: nanometres(-10_000), control: nanometres(10_000 * 3) },
      'byHand',
    ],
    [
      'keyed, and nobody said so',
      { record: nanometres(-10_000), control: nanometres(-15_000), waiting: nanometres(-15_000) },
      'keyedUnsaid',
    ],
  ])('%s', (_, more, code) => {
    expect(first(register(more))).toBe(code);
  });

  it('the row below got it (H1.6): both rows say so', () => {
    const change = -8000;
    const meant = register({
      row: 3,
      record: nanometres(-12_000),
      control: nanometres(-4000),
      before: [{ value: nanometres(-4000), endedBy: 'corrected' }],
    });
    const got = register({
      id: 2,
      row: 4,
      record: nanometres(6000),
      control: nanometres(6000 + change),
      before: [{ value: nanometres(1000), endedBy: 'corrected' }],
    });
    const { differences } = compared([meant, got]);
    expect(differences.map(({ explanations }) => [explanations[0]!.code, explanations[0]!.row])).toEqual([
      ['neighbour', 4],
      ['neighbour', 3],
    ]);
    expect(explanationWords(differences[0]!.explanations[0]!, differences[0]!, MM)).toContain('row');
  });

  it('two changed by hand have one reason, which names the number of neither', () => {
    const { differences } = compared([
      register({ record: nanometres(150_000_000), control: nanometres(150_020_000) }),
      register({ id: 2, row: 4, record: nanometres(165_000_000), control: nanometres(155_000_000) }),
    ]);
    const said = differences.map((each) => ({
      code: each.explanations[0]!.code,
      words: explanationWords(each.explanations[0]!, each, MM),
    }));
    expect(said.map(({ code }) => code)).toEqual(['byHand', 'byHand']);
    expect(reasonFor(said)).not.toMatch(/\d/);
    expect(reasonFor(said.slice(0, 1))).toContain('10.000');
    expect(reasonFor([said[0]!, { code: 'sign', words: 'Its sign is turned.' }])).toBeNull();
    expect(reasonFor([])).toBeNull();
  });
});
