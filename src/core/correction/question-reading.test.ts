import { describe, expect, it } from 'vitest';
import { lengthOf, nanometres } from '../units/length.ts';
import { questionReading, type QuestionedReading } from './question-reading.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const inch = (value: number) => lengthOf(value, 'in');
const known = (measured: number, over: Partial<QuestionedReading> = {}) =>
  questionReading({
    measured: mm(measured),
    expected: mm(38.002),
    deviation: 3000,
    open: false,
    lower: mm(37.98),
    upper: mm(38.02),
    unit: 'mm',
    others: [{ name: 'Flange', target: mm(52), width: mm(0.1) }],
    ...over,
  });

describe('a surprising reading is measured again before anybody acts on it (H14)', () => {
  it.each([
    [38.004, null],
    [37.995, null],
    [38.5, /thimble/],
    [37.502, /thimble/],
    [1.4961, /inches read as millimetres/],
    [965.25, /millimetres read as inches/],
    [380.02, /decimal point/],
    [3.8002, /decimal point/],
    [-38.002, /sign reversed/],
    [38.02, /two digits swapped/],
    [30.802, /two digits swapped/],
    [52.01, /what Flange should be/],
    [38.041, /more than 13 times its spread/],
  ])('%f: %s', (measured, words) => {
    const doubt = known(measured);
    if (words === null) expect(doubt).toBeNull();
    else expect(doubt).toMatch(words);
  });
  it('a turn of an inch micrometer is 0.025', () => {
    const doubt = questionReading({
      measured: inch(1.5217),
      expected: inch(1.4966),
      deviation: 3000,
      open: false,
      lower: inch(1.4963),
      upper: inch(1.4967),
      unit: 'in',
      others: [],
    });
    expect(doubt).toMatch(/thimble/);
  });
  it('the first reading of an edge surprises nobody, but for a slip that leads into the limits', () => {
    const first = (measured: number) => known(measured, { expected: mm(38), deviation: 10_000, open: true });
    // the textbook's first part: an allowance of a quarter of a millimetre was left on
    expect(first(38.255)).toBeNull();
    expect(first(37.9)).toBeNull();
    // hundredths off are a set-up error, though their digits swapped would lie within the limits
    for (const off of [38.03, 38.06, 38.2, 37.97]) expect(first(off)).toBeNull();
    expect(first(83.01)).toMatch(/swapped/);
    expect(first(38.5)).toMatch(/thimble/);
    expect(first(1.4961)).toMatch(/inches/);
    expect(first(41.2)).toMatch(/from target/);
  });
  it('the handbook’s first part of H13, 1.5074 for 1.4965, is not questioned', () => {
    expect(
      questionReading({
        measured: inch(1.5074),
        expected: inch(1.4965),
        deviation: 2540,
        open: true,
        lower: inch(1.4963),
        upper: inch(1.4967),
        unit: 'in',
        others: [],
      }),
    ).toBeNull();
  });
  it('spread is what counts: the same deviation is nothing in a wide process', () => {
    expect(known(38.014, { deviation: 6000 })).toBeNull();
    expect(known(38.031, { deviation: nanometres(2000) })).not.toBeNull();
  });
});
