import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { explainCounter, type CounterReason, type CounterSeen } from './counter-difference.ts';

const seen = (over: Partial<CounterSeen>): CounterSeen => ({
  basis: 'holes',
  remaining: 400,
  limit: 900,
  shown: 400,
  rule: 'atZero',
  use: { holes: 8, cutMilliseconds: 42_000, parts: 1 },
  unrecorded: 0,
  beforeRenewal: null,
  ...over,
});
const reason = (over: Partial<CounterSeen>) => explainCounter(seen(over)).reason;

describe('why a counter of the control differs from the record', () => {
  it('it does not: also where the control writes one less', () => {
    expect(reason({})).toBe('same');
    expect(reason({ shown: 399, rule: 'belowZero' })).toBe('same');
    expect(reason({ basis: 'minutes', remaining: 3_600_000, shown: 3_597_000 })).toBe('same');
  });
  it('parts that are cut and not recorded, as many as the control has counted', () => {
    expect(explainCounter(seen({ shown: 376, unrecorded: 3 }))).toEqual({
      reason: 'notRecorded',
      by: -24,
      cycles: 3,
    });
    // where the control gives no count, whole cycles are what is likeliest
    expect(explainCounter(seen({ shown: 400 - 8 * 7, unrecorded: null }))).toMatchObject({
      reason: 'notRecorded',
      cycles: 7,
    });
  });
  it('the control made parts and its counter stands still: it does not count this tool', () => {
    expect(explainCounter(seen({ unrecorded: 5 }))).toMatchObject({ reason: 'notCounted', cycles: 5 });
    expect(reason({ basis: 'pieces', unrecorded: 5 })).toBe('notCounted');
  });
  it('N was keyed for N − 1, or the other way round (H11)', () => {
    expect(reason({ shown: 400, rule: 'belowZero' })).toBe('keyedOther');
    expect(reason({ shown: 399, rule: 'atZero' })).toBe('keyedOther');
  });
  it('a renewal that only one of the two knows', () => {
    expect(reason({ remaining: 900, shown: 12, beforeRenewal: 12 })).toBe('notReset');
    expect(reason({ shown: 900 })).toBe('renewedThere');
    expect(reason({ shown: 899, rule: 'belowZero' })).toBe('renewedThere');
  });
  it('the same, with parts that are not recorded on top', () => {
    expect(
      reason({
        remaining: 196,
        limit: 400,
        shown: 392,
        use: { holes: 4, cutMilliseconds: 0, parts: 1 },
        unrecorded: 2,
      }),
    ).toBe('renewedThere');
    expect(reason({ remaining: 900, shown: 12 - 16, beforeRenewal: 12, unrecorded: 2 })).toBe('notReset');
    // full, although it made parts: it is not counted there
    expect(reason({ shown: 900, unrecorded: 2 })).toBe('notCounted');
    expect(reason({ shown: 399 - 16, unrecorded: 2 })).toBe('keyedOther');
  });
  it('a cycle that was broken off counts what it had cut; one that was run again counts twice', () => {
    expect(explainCounter(seen({ shown: 397 }))).toMatchObject({ reason: 'brokenOff', by: -3 });
    expect(explainCounter(seen({ shown: 400 - 16 - 3, unrecorded: 2 }))).toMatchObject({
      reason: 'brokenOff',
    });
    expect(explainCounter(seen({ shown: 392 }))).toMatchObject({ reason: 'restart', cycles: 1 });
    expect(explainCounter(seen({ shown: 400 - 16, unrecorded: 1 }))).toMatchObject({
      reason: 'restart',
      cycles: 1,
    });
  });
  it('a second tool under the same T, or a program that counts twice: all goes off twice', () => {
    expect(explainCounter(seen({ shown: 400 - 80, unrecorded: 5 }))).toMatchObject({
      reason: 'twice',
      cycles: 5,
    });
    // nothing is open, and as much as it has cut since its renewal went off once more
    expect(reason({ remaining: 500, shown: 100, limit: 900, unrecorded: 0 })).toBe('twice');
  });
  it('hours where minutes are meant', () => {
    expect(reason({ basis: 'minutes', remaining: 7_200_000, limit: 14_400_000, shown: 120_000 })).toBe(
      'hours',
    );
  });
  it('what nothing explains is unknown', () => {
    expect(reason({ shown: 611 })).toBe('unknown');
    expect(reason({ shown: 87, use: null })).toBe('unknown');
    expect(reason({ shown: 87, unrecorded: 0 })).toBe('unknown');
  });
  it('a hidden truth: whatever happened alone is found, and the reason given always comes to the number seen', () => {
    const happened = fc.constantFrom(
      'nothing',
      'notReset',
      'renewedThere',
      'brokenOff',
      'restart',
      'twice',
      'other',
    );
    fc.assert(
      fc.property(
        happened,
        fc.integer({ min: 2, max: 12 }),
        fc.integer({ min: 0, max: 6 }),
        fc.integer({ min: 150, max: 800 }),
        fc.constantFrom('atZero' as const, 'belowZero' as const),
        (truth, holes, unrecorded, remaining, rule) => {
          const off = unrecorded * holes;
          const used = 900 - remaining;
          const left =
            truth === 'notReset'
              ? 37 - off
              : truth === 'renewedThere'
                ? 900 - off
                : remaining -
                  off -
                  (truth === 'brokenOff' ? 1 : truth === 'restart' ? holes : truth === 'twice' ? off : 0);
          const shown =
            left - (rule === 'belowZero' ? 1 : 0) + (truth === 'other' ? (rule === 'belowZero' ? 1 : -1) : 0);
          const asked = seen({
            remaining,
            shown,
            rule,
            unrecorded,
            use: { holes, cutMilliseconds: 0, parts: 1 },
            beforeRenewal: truth === 'notReset' ? 37 : null,
          });
          const told = explainCounter(asked);
          const by = shown + (rule === 'belowZero' ? 1 : 0) - remaining;
          expect(told.by).toBe(by);
          if (truth === 'other' && off > 0) return;
          expect(told.reason).not.toBe('unknown');
          const comesTo: Record<CounterReason, (value: number) => boolean> = {
            same: (value) => value === 0,
            notRecorded: (value) => value === -told.cycles! * holes,
            keyedOther: (value) => Math.abs(value + off) === 1,
            notReset: (value) => value + off === 37 - remaining,
            renewedThere: (value) => value + off === used,
            brokenOff: (value) => value + off < 0 && value + off > -holes,
            restart: (value) => value + off === -told.cycles! * holes,
            twice: (value) => value === -2 * off || Math.abs(value + off + used) <= holes,
            notCounted: (value) => off > 0 && (value === 0 || value === used),
            hours: () => false,
            unknown: () => false,
          };
          expect(comesTo[told.reason](by)).toBe(true);
        },
      ),
      { numRuns: 3000 },
    );
  });
});
