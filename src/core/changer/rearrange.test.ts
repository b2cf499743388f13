import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import { fewestCalls, rearrange, type Arrangement } from './rearrange.ts';

/** Distances from one arrangement to every other, found by trying every call: nothing clever. */
function exhaustively(start: Arrangement): Map<string, number> {
  const distance = new Map([[start.join(), 0]]);
  let edge: Arrangement[] = [start];
  for (let calls = 1; edge.length > 0; calls += 1) {
    const next: Arrangement[] = [];
    for (const each of edge)
      for (let pocket = 1; pocket < each.length; pocket += 1) {
        const after = [...each];
        [after[0], after[pocket]] = [after[pocket]!, after[0]!];
        if (distance.has(after.join())) continue;
        distance.set(after.join(), calls);
        next.push(after);
      }
    edge = next;
  }
  return distance;
}
const read = (key: string): Arrangement => key.split(',').map((each) => (each === '' ? null : Number(each)));
const carriedOut = (now: Arrangement, wanted: Arrangement) => {
  const answer = rearrange(now, wanted);
  if (!answer.ok) throw new Error(answer.reason);
  const after = [...now];
  for (const { pocket, puts, takes } of answer.calls) {
    expect([after[0] ?? null, after[pocket] ?? null]).toEqual([puts, takes]);
    [after[0], after[pocket]] = [after[pocket]!, after[0]!];
  }
  return { after, calls: answer.calls.length };
};

describe(`exchanges through one place (${checks.exchangesThroughOnePlace.source})`, () => {
  it('with every place full, the fewest are m + c, or m + c - 2 when the spindle is not right', () => {
    const sorted = [1, 2, 3, 4, 5, 6];
    const distances = exhaustively(sorted);
    expect(distances.size).toBe(720);
    for (const [key, calls] of distances) {
      const now = read(key);
      let [m, c] = [0, 0];
      const seen = new Set<number>();
      now.forEach((tool, place) => {
        if (tool !== sorted[place]) m += 1;
        if (seen.has(place) || tool === sorted[place]) return;
        c += 1;
        for (let at = place; !seen.has(at); at = sorted.indexOf(now[at]!)) seen.add(at);
      });
      const published = m === 0 ? 0 : now[0] === sorted[0] ? m + c : m + c - 2;
      expect(calls).toBe(published);
      expect(fewestCalls(now, sorted)).toBe(published);
      expect(carriedOut(now, sorted)).toEqual({ after: sorted, calls: published });
    }
  });
  it('the most for n symbols is floor(3(n-1)/2)', () => {
    for (const n of [2, 3, 4, 5, 6, 7]) {
      const all = [...exhaustively(Array.from({ length: n }, (_, i) => i + 1)).values()];
      expect(Math.max(...all)).toBe(Math.floor((3 * (n - 1)) / 2));
    }
  });
});

describe('with empties that may be taken for one another', () => {
  it.each([
    ['spindle empty, two empties', [null, 1, 2, 3, null, null]],
    ['spindle full, one empty', [1, 2, 3, 4, 5, null]],
    ['spindle full, three empties', [1, 2, 3, null, null, null]],
    ['nearly empty', [null, 1, null, null, null]],
    ['spindle empty, the rest full', [null, 1, 2, 3, 4]],
  ] as [string, Arrangement][])(
    'every arrangement is reached in the fewest calls that trying them all finds: %s',
    (_, now) => {
      for (const [key, calls] of exhaustively(now)) {
        const wanted = read(key);
        expect(fewestCalls(now, wanted), `${now} to ${key}`).toBe(calls);
        expect(carriedOut(now, wanted), `${now} to ${key}`).toEqual({ after: wanted, calls });
      }
    },
  );
  it('large magazines arrive, in as many calls as are foretold', () => {
    const places = fc.shuffledSubarray(
      Array.from({ length: 240 }, (_, i) => i + 1),
      { minLength: 0 },
    );
    fc.assert(
      fc.property(places, fc.infiniteStream(fc.nat()), fc.nat(), (tools, random, spare) => {
        const now: (number | null)[] = [null, ...tools, ...Array.from({ length: spare % 12 }, () => null)];
        const wanted = [...now];
        for (let i = wanted.length - 1; i > 0; i -= 1) {
          const j = Number(random.next().value) % (i + 1);
          [wanted[i], wanted[j]] = [wanted[j]!, wanted[i]!];
        }
        const { after, calls } = carriedOut(now, wanted);
        expect(after).toEqual(wanted);
        expect(calls).toBe(fewestCalls(now, wanted));
      }),
      { numRuns: 60 },
    );
  });
  it('says which tools must be loaded or taken out first', () => {
    expect(rearrange([null, 1, 2], [null, 1, 3])).toEqual({
      ok: false,
      reason: 'T3 must be loaded first. T2 must be taken out first.',
    });
    expect(rearrange([null, 1, 1], [null, 1, null])).toMatchObject({ ok: false });
  });
});
