import { describe, expect, it } from 'vitest';
import { checkReadiness, verdictOf } from './check.ts';
import type { Finding, ReadinessQuestion } from './question.ts';
import type { Proof } from './proven.ts';
import { withWaivers } from './waivers.ts';

const question = (proof?: Proof): ReadinessQuestion => ({
  machine: { name: 'Avocet', kind: 'mill', highestSpeed: 12_000, boringShift: 'X+', unit: 'mm' },
  program: { name: 'O2301', partsPerCycle: 1, calls: [], ...(proof && { proof }) },
  quantity: 10,
  loaded: [],
  rows: [],
});
const by = { person: 'Maren Holt', day: '20 November' };
const sentences = (proof: Proof) => checkReadiness(question(proof)).map(({ sentence }) => sentence);

describe('a program that is not as it was proven', () => {
  it('is to be looked at, and says what is otherwise', () => {
    expect(sentences({ state: 'never', by: null, changes: [] })).toEqual([
      'O2301 has not been proven on Avocet.',
    ]);
    expect(
      sentences({ state: 'changed', by, changes: ['T12 runs 2080 rpm instead of 2000.', 'T14 is new.'] }),
    ).toEqual([
      'O2301 has changed since it was proven by Maren Holt on 20 November. T12 runs 2080 rpm instead of 2000. T14 is new.',
    ]);
    expect(sentences({ state: 'changed', by: null, changes: ['A.', 'B.', 'C.', 'D.', 'E.'] })[0]).toMatch(
      /C\. And 2 more\.$/,
    );
  });
  it('says nothing once it is proven, or where nobody asked', () => {
    expect(sentences({ state: 'proven', by, changes: [] })).toEqual([]);
    expect(checkReadiness(question())).toEqual([]);
  });
});

describe('what is let stand', () => {
  const finding = (weight: Finding['weight'], sentence: string): Finding => ({
    weight,
    code: 'mixedLengths',
    tool: null,
    line: 1,
    sentence,
    remedy: 'Measure them one way.',
  });
  const waiver = {
    code: 'mixedLengths',
    sentence: 'A',
    why: 'same height gauge',
    person: 'Maren Holt',
    until: '1 December',
  };
  it('is shown with who, why and until when, and no longer asks anybody to look', () => {
    const [left] = withWaivers([finding('look', 'A')], [waiver]);
    expect(left).toMatchObject({
      weight: 'settled',
      remedy: 'Maren Holt lets it stand until 1 December: same height gauge',
    });
    expect(verdictOf([left!])).toBe('ready');
  });
  it('in its very words only: another figure is another matter', () =>
    expect(withWaivers([finding('look', 'B')], [waiver])[0]!.weight).toBe('look'));
  it('never lets stand what is proven, looked at or calibrated instead', () => {
    const tip = { ...finding('look', 'A'), code: 'boringShift' as const };
    expect(withWaivers([tip], [{ ...waiver, code: 'boringShift' }])[0]!.weight).toBe('look');
  });
  it('never lets stand what stops a job, or what cannot be told', () => {
    expect(
      withWaivers([finding('stop', 'A'), finding('unknown', 'A')], [waiver]).map(({ weight }) => weight),
    ).toEqual(['stop', 'unknown']);
  });
});
