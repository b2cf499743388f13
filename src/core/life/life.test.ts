import { leftUnder } from './limit.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import { isExpired, numberToKey, partsLeft, usedBy } from './count.ts';
import { litPath, phaseOf, shareLeft } from './phase.ts';
import { nextStep, RENEWAL_STEPS, renewalRefusal } from './renewal.ts';

const use = { holes: 6, cutMilliseconds: 90_000, parts: 1 };

describe('counting life (H11; common practice, no source)', () => {
  it('ten uses are keyed as 9 where a counter expires below zero, and as 10 where it expires at zero', () => {
    const { wanted, key } = checks.commonPractice.expiryBelowZero;
    expect(numberToKey(wanted, 'belowZero', 'pieces')).toBe(key);
    expect(numberToKey(wanted, 'atZero', 'pieces')).toBe(wanted);
  });
  it('the number keyed gives exactly the uses wanted, whichever way the control counts, and the record forecasts the same', () => {
    for (const rule of ['atZero', 'belowZero'] as const)
      for (let uses = 1; uses <= 50; uses += 1) {
        // the control as it is: one less for each use, and no further when it has expired
        let [control, made] = [numberToKey(uses, rule, 'pieces'), 0];
        while (rule === 'atZero' ? control > 0 : control >= 0) [control, made] = [control - 1, made + 1];
        expect(made).toBe(uses);
        expect(partsLeft(uses, 'pieces', use)).toBe(uses);
      }
  });
  it('minutes lose none of theirs where a counter expires below zero', () => {
    expect(numberToKey(45, 'belowZero', 'minutes')).toBe(45);
    expect(numberToKey(45, 'belowZero', 'holes')).toBe(44);
  });
  it('two parts of a cycle take the same whether they are entered together or one by one', () => {
    for (const holes of [1, 5, 6, 7])
      for (const from of [0, 1, 2, 5])
        expect(
          usedBy(1, 'holes', { holes, cutMilliseconds: 0, parts: 2 }, from) +
            usedBy(1, 'holes', { holes, cutMilliseconds: 0, parts: 2 }, from + 1),
        ).toBe(usedBy(2, 'holes', { holes, cutMilliseconds: 0, parts: 2 }, from));
  });
  it('a part of six holes takes six from a counter of holes, ninety seconds from one of minutes, one from pieces', () => {
    expect(usedBy(3, 'holes', use)).toBe(18);
    expect(usedBy(3, 'minutes', use)).toBe(270_000);
    expect(usedBy(3, 'pieces', use)).toBe(3);
  });
  it('two parts a bar share the use of one cycle', () => {
    expect(usedBy(4, 'holes', { ...use, parts: 2 })).toBe(12);
  });
  it('a tool that expires in the cut finishes its part: 20 holes left at 6 a part make 4 parts', () => {
    expect(partsLeft(20, 'holes', use)).toBe(4);
    expect(partsLeft(18, 'holes', use)).toBe(3);
  });
  it('a program that takes no holes leaves a counter of holes alone', () => {
    expect(partsLeft(20, 'holes', { ...use, holes: 0 })).toBe(Infinity);
  });
  it('partsLeft agrees with making the parts one at a time', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 1, max: 40 }), (remaining, holes) => {
        let left = remaining;
        let parts = 0;
        while (!isExpired(left)) {
          left -= holes;
          parts += 1;
        }
        expect(partsLeft(remaining, 'holes', { holes, cutMilliseconds: 0, parts: 1 })).toBe(parts);
      }),
    );
  });
});

describe('phases', () => {
  it('wane from full to spent as the share falls', () => {
    expect([1, 0.75, 0.5, 0.1, 0].map(phaseOf)).toEqual(['full', 'gibbous', 'half', 'crescent', 'spent']);
  });
  it('an overrun counter is spent, not negative', () => {
    expect(shareLeft(-4, 60)).toBe(0);
  });
  it('at half the terminator is a straight line', () => {
    expect(litPath(0.5)).toContain('A0 1');
    expect(litPath(0)).toBe('');
  });
});

describe('renewal (H11)', () => {
  it('takes its steps in order and no other', () => {
    const done: (typeof RENEWAL_STEPS)[number][] = [];
    for (const step of RENEWAL_STEPS) {
      for (const other of RENEWAL_STEPS) expect(renewalRefusal(done, other) === null).toBe(other === step);
      done.push(step);
    }
    expect(nextStep(done)).toBeNull();
    expect(renewalRefusal(done, 'changed')).toMatch(/finished/);
  });
});

describe('a limit that is changed', () => {
  it('what was cut stays cut: the new limit counts from there, and may be passed already', () => {
    expect(leftUnder({ fullLife: 900, remaining: 500 }, 800)).toBe(400);
    expect(leftUnder({ fullLife: 900, remaining: 500 }, 1000)).toBe(600);
    expect(leftUnder({ fullLife: 900, remaining: 100 }, 700)).toBe(-100);
    expect(leftUnder({ fullLife: 900, remaining: 900 }, 700)).toBe(700);
  });
});
