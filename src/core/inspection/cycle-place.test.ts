import { chance } from '../../../tests/support/chance.ts';
import { describe, expect, it } from 'vitest';
import {
  cyclePlaces,
  lastOfPlace,
  lastWith,
  mostAsked,
  nextOfPlace,
  onPallet,
  palletOf,
  partsWith,
  placeInTurn,
  placeOfPart,
  placeKey,
  placesLeft,
  placesOn,
  placeWords,
  sameCycle,
  whereCut,
} from './cycle-place.ts';

const call = (tool: number, row: number, line: number) => ({ tool, lengthRows: [{ row, line }] });

describe('which row cuts which part of a cycle', () => {
  it('two from one bar, cut one after the other with rows of their own', () => {
    const place = cyclePlaces(
      [call(12, 12, 1), call(1, 1, 10), call(2, 2, 20), call(1, 21, 30), call(2, 22, 40)],
      2,
    )!;
    expect([place(1, 1), place(2, 2), place(1, 21), place(2, 22)]).toEqual([1, 1, 2, 2]);
    // one row for all: the stop, and what nobody calls
    expect([place(12, 12), place(3, 3), place(1, 22)]).toEqual([null, null, null]);
  });
  it('three from one clamping, in whatever order the calls are given, a row used twice for its part', () => {
    const calls = [1, 2, 3].flatMap((part) =>
      [4, 5].flatMap((tool) => [
        call(tool, tool + 20 * part, 100 * part + tool),
        call(tool, tool + 20 * part, 100 * part + 50 + tool),
      ]),
    );
    const place = cyclePlaces(calls.toReversed(), 3)!;
    expect([1, 2, 3].map((part) => place(5, 5 + 20 * part))).toEqual([1, 2, 3]);
  });
  it('cannot be told where one tool alone has two rows: they may be for two sizes of each part (H8)', () => {
    expect(cyclePlaces([call(1, 1, 10), call(2, 2, 20), call(2, 22, 30)], 2)).toBeNull();
  });
  it('nor where the tools go over all parts in turn', () => {
    expect(cyclePlaces([call(1, 1, 10), call(1, 21, 20), call(2, 2, 30), call(2, 22, 40)], 2)).toBeNull();
  });
  it('nor where a row of the first comes again after the second was begun, whichever of the calls is given first', () => {
    const calls = [call(1, 1, 10), call(2, 2, 20), call(1, 21, 30), call(2, 22, 40), call(1, 1, 35)];
    expect(cyclePlaces(calls, 2)).toBeNull();
    expect(cyclePlaces(calls.toReversed(), 2)).toBeNull();
    // the second begun before the first is done, by one line
    const early = [call(1, 1, 10), call(2, 2, 30), call(1, 21, 30), call(2, 22, 40)];
    expect(cyclePlaces(early, 2)).toBeNull();
    const before = [call(1, 21, 15), call(1, 1, 10), call(2, 2, 20), call(1, 21, 30), call(2, 22, 40)];
    expect(cyclePlaces(before, 2)).toBeNull();
    expect(cyclePlaces(before.toReversed(), 2)).toBeNull();
  });
  it('nor where one part comes off, or rows are as many as nothing', () => {
    expect(cyclePlaces([call(1, 1, 10), call(2, 2, 20), call(1, 21, 30), call(2, 22, 40)], 1)).toBeNull();
    expect(cyclePlaces([call(1, 1, 10), call(2, 2, 20), call(1, 21, 30), call(2, 22, 40)], 3)).toBeNull();
    expect(cyclePlaces([], 2)).toBeNull();
  });
});

describe('which part that is', () => {
  it('parts are counted as they come off', () => {
    expect([1, 2, 3, 4, 149, 150].map((part) => placeOfPart(part, 2))).toEqual([1, 2, 1, 2, 1, 2]);
    expect([1, 3, 4, 6].map((part) => placeOfPart(part, 3))).toEqual([1, 3, 1, 3]);
  });
  it('the last of a place is of it, is no later, and none of it lies between: by trying all', () => {
    for (const parts of [2, 3, 4])
      for (let part = 1; part < 40; part += 1)
        for (let place = 1; place <= parts; place += 1) {
          const found = lastOfPlace(part, place, parts);
          expect(placeOfPart(found, parts)).toBe(place);
          const all = Array.from({ length: part }, (_, i) => i + 1).filter(
            (each) => placeOfPart(each, parts) === place,
          );
          expect(found).toBe(all.length === 0 ? place : all.at(-1));
          const next = nextOfPlace(part, place, parts);
          expect([placeOfPart(next, parts), next >= part, next < part + parts]).toEqual([place, true, true]);
        }
  });
  it('the part of the same cycle, and the last that is not before another', () => {
    expect([153, 154].map((part) => sameCycle(part, { place: 1, parts: 2 }))).toEqual([153, 153]);
    expect([153, 154].map((part) => sameCycle(part, { place: 2, parts: 2 }))).toEqual([154, 154]);
    expect([partsWith(153, 2), partsWith(154, 2), partsWith(8, 3), partsWith(5, 1)]).toEqual([
      [153, 154],
      [153, 154],
      [7, 8, 9],
      [5],
    ]);
    const first = { place: 1, parts: 2 };
    expect([lastWith(154, first), lastWith(154, first, 154), lastWith(154, first, 155)]).toEqual([
      153, 155, 155,
    ]);
    expect([lastWith(154, null), lastWith(154, null, 160)]).toEqual([154, 160]);
  });
  it('a sheet is of the part that most sizes are on', () => {
    expect([mostAsked([153, 154, 153]), mostAsked([154, 153, 154]), mostAsked([154, 153])]).toEqual([
      153, 154, 153,
    ]);
    expect(mostAsked([])).toBeNull();
  });
  it('is said as a setter says it', () => {
    expect([placeWords(1, 2), placeWords(3, 4), placeWords(9, 12)]).toEqual([
      'first of the two',
      'third of the 4',
      '9th of the 12',
    ]);
  });
  it('places are measured in turn, but what was corrected in one is told by it', () => {
    // never measured: the part that came off last is at hand
    expect(placeInTurn([], 2)).toBe(2);
    expect(placeInTurn([], 2, true)).toBe(2);
    expect([placeInTurn([2], 2), placeInTurn([2, 1], 2), placeInTurn([1, 2], 2)]).toEqual([1, 2, 1]);
    expect([placeInTurn([4, 3], 4), placeInTurn([4, 3, 2, 1, 4], 4)]).toEqual([2, 3]);
    expect([placeInTurn([1, 2, 1], 2, true), placeInTurn([2, 1, 2, 2], 2, true)]).toEqual([1, 2]);
    // in the long run each is measured as often, wherever it begins
    const random = chance(3);
    for (let trial = 0; trial < 50; trial += 1) {
      const places = 2 + Math.floor(random.next() * 5);
      const measured = Array.from({ length: 5 }, () => 1 + Math.floor(random.next() * places));
      const begun = measured.length;
      for (let nth = 0; nth < 4 * places; nth += 1) measured.push(placeInTurn(measured, places));
      for (let place = 1; place <= places; place += 1)
        expect(measured.slice(begun).filter((each) => each === place).length).toBe(4);
    }
  });
  it('a place is left where one was measured and another was not; of none nobody knows', () => {
    const left = (places: (number | null)[], of = 2) =>
      placesLeft(
        places.map((place) => ({ place, pallet: null })),
        { places: of, pallet: null },
      );
    expect([left([]), left([1]), left([1, 1]), left([1, 2]), left([1, null]), left([null])]).toEqual([
      null,
      'place',
      'place',
      null,
      'place',
      null,
    ]);
    expect(left([1], 1)).toBeNull();
  });
  it('a pallet is left where others were measured; of each its own places are measured in turn', () => {
    const on = (pallet: number | null, place: number | null) => ({ place, pallet });
    const left = (measured: ReturnType<typeof on>[], pallet: number | null) =>
      placesLeft(measured, { places: 2, pallet });
    expect(left([], 3)).toBeNull();
    expect(left([on(2, 1), on(2, 2)], 3)).toBe('pallet');
    expect(left([on(null, 1), on(null, 2)], 3)).toBe('pallet');
    expect(left([on(2, 2), on(3, 1)], 3)).toBeNull();
    expect(left([on(2, 2), on(2, 1)], 3)).toBe('pallet');
    // in one of both places nothing was measured on any: that comes first
    expect(left([on(2, 2), on(3, 2)], 3)).toBe('place');
    expect(left([on(2, 2)], 3)).toBe('place');
    expect(left([on(3, null)], 3)).toBeNull();
    expect(left([on(3, 2), on(2, 1), on(3, 1)], 3)).toBeNull();
    // on none, or nobody knows: as without pallets
    expect(left([on(2, 1), on(3, 2)], null)).toBeNull();
    expect(placesOn([on(2, 1), on(3, 2), on(3, null), on(3, 1)], 3)).toEqual([2, 1]);
    expect(placesOn([on(2, 1), on(3, 2), on(3, null), on(3, 1)], null)).toEqual([1, 2, 1]);
  });
  it('of a part its pallet, and both in words', () => {
    const cut = [
      { first: 1, last: 6, pallet: 4 },
      { first: 7, last: 7, pallet: 2 },
    ];
    expect([0, 1, 6, 7, 8].map((part) => palletOf(cut, part))).toEqual([null, 4, 4, 2, null]);
    const two = { place: 2, parts: 2 };
    expect([onPallet(null, null), onPallet(two, null), onPallet(null, 4), onPallet(two, 4)]).toEqual([
      null,
      two,
      { place: 1, parts: 1, pallet: 4 },
      { ...two, pallet: 4 },
    ]);
    expect([two, onPallet(null, 4)!, onPallet(two, 4)!].map(whereCut)).toEqual([
      'second of the two',
      'pallet 4',
      'second of the two on pallet 4',
    ]);
    const keys = [null, two, onPallet(two, 4), onPallet(two, 5), onPallet(null, 4)].map(placeKey);
    expect(new Set(keys).size).toBe(5);
    expect(placeKey({ ...two, pallet: null })).toBe(placeKey(two));
  });
});
