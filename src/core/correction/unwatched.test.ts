import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import type { DriftQuestion } from './drift.ts';
import { dueUnwatched, RISK, unwatched } from './unwatched.ts';

const LIMIT = 12_000;
/** A shift that was measured every part, of an edge that wears so much a part about limits of ± 12 µm, with what is to come hidden. */
function shift(drift: number, sigma: number, measured: number, normal: () => number) {
  const part = (nth: number) => -4000 + drift * nth + sigma * normal();
  const question: DriftQuestion = {
    model: {
      registers: 1,
      sizes: [{ tolerance: 2 * LIMIT, moves: [{ register: 0, by: 1 }] }],
      readings: Array.from({ length: measured }, (_, at) => ({
        size: 0,
        at,
        deviation: part(at),
        held: [0],
      })),
      edges: [],
      next: measured,
    },
    size: 0,
    held: [0],
    lower: -LIMIT,
    upper: LIMIT,
  };
  return { question, part };
}

describe('what becomes of a size while nobody measures it', () => {
  it('as many parts are told to be bad as are, over shifts whose truth is hidden', () => {
    const { normal } = chance(77);
    let [told, bad] = [0, 0];
    for (let i = 0; i < 40; i += 1) {
      const { question, part } = shift(250, 2000, 30, normal);
      const of = unwatched(question, 10, 40);
      expect(of.parts).toBe(30);
      told += of.bad;
      for (let nth = 0; nth < 30; nth += 1) if (Math.abs(part(40 + nth)) > LIMIT) bad += 1;
    }
    expect(bad).toBeGreaterThan(200);
    expect(told / bad).toBeGreaterThan(0.75);
    expect(told / bad).toBeLessThan(1.35);
  });
  it('the first part that is worth a look is where one in twenty is bad; one that stands still has none', () => {
    const { normal } = chance(78);
    const { question } = shift(250, 1500, 40, normal);
    const { riskyFrom } = unwatched(question, 0, 60);
    // its mean passes the limit at the sixty-fourth part, and one in twenty is out a little before
    expect(riskyFrom).toBeGreaterThan(5);
    expect(riskyFrom).toBeLessThan(24);
    expect(unwatched(question, 0, riskyFrom! - 2).bad).toBeLessThan(RISK * riskyFrom!);
    const still = unwatched(shift(0, 1500, 40, normal).question, 0, 20);
    expect(still.riskyFrom).toBeNull();
    expect(still.bad).toBeLessThan(0.2);
  });
  it('one part that was measured foretells nothing: what is not known is not called bad', () => {
    const { normal } = chance(80);
    for (let i = 0; i < 20; i += 1)
      expect(unwatched(shift(0, 1500, 1, normal).question, 10, 30).foreseen).toBe(false);
    let foreseen = 0;
    for (let i = 0; i < 20; i += 1)
      if (unwatched(shift(250, 1500, 40, normal).question, 10, 40).foreseen) foreseen += 1;
    expect(foreseen).toBeGreaterThan(17);
  });
  it('a long time is reckoned as its single parts are, nearly', () => {
    const { question } = shift(100, 2000, 40, chance(79).normal);
    let one = 0;
    for (let k = 0; k < 200; k += 1) one += unwatched(question, k, k + 1).bad;
    expect(unwatched(question, 0, 200).bad / one).toBeCloseTo(1, 1);
    expect(unwatched(question, 5, 5)).toEqual({ parts: 0, bad: 0, riskyFrom: null, foreseen: false });
    expect(unwatched(question, 5, 2).parts).toBe(0);
  });
  it('falls due with the part after its interval, even if the last part before was measured', () => {
    expect(dueUnwatched(5, 6)).toBe(5);
    expect(dueUnwatched(5, 5)).toBeNull();
    expect(dueUnwatched(null, 500)).toBeNull();
  });
});
