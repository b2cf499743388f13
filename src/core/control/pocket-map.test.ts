import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readPocketTable, tangles, tangleWords } from './pocket-map.ts';

const mapOf = (pairs: readonly (readonly [number, number])[]) => new Map(pairs);
const PLACES = 12;
/** A magazine at random: each T once. */
const magazine = fc
  .shuffledSubarray(
    Array.from({ length: PLACES }, (_, i) => i + 1),
    { minLength: 1 },
  )
  .chain((tools) =>
    fc
      .shuffledSubarray(
        Array.from({ length: PLACES + 1 }, (_, i) => i),
        { minLength: tools.length, maxLength: tools.length },
      )
      .map((places) => mapOf(places.map((place, i) => [place, tools[i]!]))),
  );

describe('pockets of the record beside those of the control', () => {
  it('one look for each tangle tells what stands in the metal, whichever account is right in each; with one look fewer it cannot be told', () => {
    fc.assert(
      fc.property(magazine, magazine, (record, control) => {
        const found = tangles(record, control);
        const all = [...new Set([...record.keys(), ...control.keys()])];
        expect(found.flatMap(({ places }) => places).sort((a, b) => a - b)).toEqual(
          all.filter((place) => record.get(place) !== control.get(place)).sort((a, b) => a - b),
        );
        if (found.length > 8) return;
        // every truth there may be: each tangle as the record has it, or as the control has it
        const truths = Array.from({ length: 2 ** found.length }, (_, bits) => {
          const metal = new Map([...record].filter(([place]) => record.get(place) === control.get(place)));
          for (const [i, { places }] of found.entries())
            for (const place of places) {
              const tool = ((bits >> i) & 1 ? control : record).get(place);
              if (tool !== undefined) metal.set(place, tool);
            }
          // whichever it is, no T stands twice
          expect(new Set(metal.values()).size).toBe(metal.size);
          return metal;
        });
        const shown = (looks: readonly number[]) =>
          new Set(truths.map((metal) => looks.map((place) => metal.get(place) ?? 0).join())).size;
        const looks = found.map(({ look }) => look);
        expect(shown(looks)).toBe(truths.length);
        for (let i = 0; i < looks.length; i += 1)
          expect(shown(looks.filter((_, k) => k !== i))).toBeLessThan(truths.length);
      }),
      { numRuns: 400 },
    );
  });

  it('tools that were changed by hand, moved, taken out or put in are called so', () => {
    const record = mapOf([
      [1, 1],
      [11, 11],
      [4, 4],
      [7, 7],
      [9, 9],
    ]);
    const control = mapOf([
      [1, 11],
      [11, 1],
      [4, 4],
      [8, 7],
      [12, 30],
    ]);
    const said = tangles(record, control).map((each) => tangleWords(each, record, control, 'pocket'));
    expect(said).toEqual([
      'T1 and T11 have changed places. Look into pocket 1. T1 in it: the record is right. T11 in it: the control is right.',
      'T7 stands in pocket 7 on record, and in pocket 8 by the control. Look into pocket 7. T7 in it: the record is right. Empty: the control is right.',
      'The control knows nothing of T9. Look into pocket 9. T9 in it: the record is right. Empty: the control is right.',
      'The record knows nothing of T30. Look into pocket 12. Empty: the record is right. T30 in it: the control is right.',
    ]);
    expect(tangles(record, record)).toEqual([]);
  });
});

describe('what a tangle is', () => {
  const pairs = (text: string) =>
    mapOf(
      text
        .split(' ')
        .filter(Boolean)
        .map((each) => each.split('=').map(Number) as [number, number]),
    );
  // record, control, and of each tangle its kind, places, T and where to look; the one with most tools first
  it.each([
    ['1=5 2=6', '1=6 2=5', ['changedPlaces 1,2 T5,6 look 1']],
    ['1=5', '2=5', ['moved 1,2 T5 look 1']],
    ['9=5', '2=5', ['moved 2,9 T5 look 2']],
    ['1=5 2=6', '2=5', ['other 1,2 T5,6 look 1']],
    ['2=5', '1=5 2=6', ['other 1,2 T5,6 look 1']],
    ['1=9 2=6 3=7', '1=6 2=7 3=9', ['other 1,2,3 T6,7,9 look 1']],
    // another tool there: one look at it
    ['4=5', '4=6', ['other 4 T5,6 look 4']],
    ['10=3 2=4', '', ['onlyRecord 2 T4 look 2', 'onlyRecord 10 T3 look 10']],
    ['', '0=3', ['onlyControl 0 T3 look 0']],
    // an empty place is told from a full one at half a glance
    ['1=5 2=6 3=7', '1=6 2=7 4=5', ['other 1,2,3,4 T5,6,7 look 3']],
    ['1=5 7=1 8=2', '2=5 7=2 8=1', ['changedPlaces 7,8 T1,2 look 7', 'moved 1,2 T5 look 1']],
    ['1=5 2=6 3=7', '1=5 2=6 3=7', []],
  ])('%s on record, %s by the control', (record, control, said) => {
    expect(
      tangles(pairs(record), pairs(control)).map(
        ({ kind, places, tools, look }) => `${kind} ${places.join()} T${tools.join()} look ${look}`,
      ),
    ).toEqual(said);
  });
  it('is named with all of its tools, and the spindle as the spindle', () => {
    const [record, control] = [pairs('0=9 1=6 2=7'), pairs('0=6 1=7 2=9')];
    expect(tangleWords(tangles(record, control)[0]!, record, control, 'pot')).toBe(
      '3 places stand otherwise: T6, T7, T9. Look into the spindle. T9 in it: the record is right. T6 in it: the control is right.',
    );
  });
});

describe('a pocket table as a control shows it', () => {
  const places = new Set(Array.from({ length: 31 }, (_, i) => i));
  it('in any of its ways, empty ones too', () => {
    const read = readPocketTable('POCKET TABLE\n1 7\nP2 T9\n3: T0\n4 -\n5;12\nSP 30\n6T8\n', places);
    expect(read.problems).toEqual([]);
    expect([...read.map]).toEqual([
      [1, 7],
      [2, 9],
      [5, 12],
      [0, 30],
      [6, 8],
    ]);
    expect(read.seen).toEqual([1, 2, 3, 4, 5, 0, 6]);
  });
  it.each([
    ['99 7', 'no place 99'],
    ['1 7\n1 8', 'place 1 stands there twice'],
    ['1 7\n2 7', 'T7 stands there twice'],
    ['1 seven 2', 'is not a place and a T'],
    ['(POT 1 T5)\n%', 'no place in it'],
    ['nothing', 'no place in it'],
    [`\n${' '.repeat(400)}1 7`, 'Line 2: "1 7" is too long'],
    ['1 7\n'.repeat(20_001), 'More than 20000 lines'],
  ])('%.30s is refused', (text, word) => {
    expect(readPocketTable(text, places).problems.join()).toContain(word);
  });
  it('an empty cell behind a place is an empty place, as a sheet gives it out', () => {
    const read = readPocketTable('1\t7\n2\t\n3\t  \nP4\n5:\nSP\n', places);
    expect(read.problems).toEqual([]);
    expect([...read.map]).toEqual([[1, 7]]);
    expect(read.seen).toEqual([1, 2, 3, 4, 5, 0]);
  });
  it('a list of T alone is not taken for empty places', () => {
    expect(readPocketTable('1\n2\n3 ', places).problems).toHaveLength(3);
  });
  it('any text is read or refused, and what is read stands in one place each', () => {
    const line = fc.tuple(fc.nat(14), fc.constantFrom(' ', '\t', ' T', ': ', 'T', ''), fc.nat(14));
    const lines = fc.array(line, { minLength: 1, maxLength: 9 }).map((all) => all.map((one) => one.join('')));
    const any = fc.array(fc.string({ maxLength: 40 }).map((text) => text.replace(/[()]/g, '')));
    fc.assert(
      fc.property(fc.oneof(lines, any), (written) => {
        const { map, seen, problems } = readPocketTable(written.join('\n'), places);
        expect(seen.length === 0 && problems.length === 0).toBe(false);
        if (problems.length > 0) return;
        expect(seen.every((place) => places.has(place))).toBe(true);
        expect(new Set(seen).size).toBe(written.filter((each) => /\d|^\s*SP(INDLE)?\s*$/i.test(each)).length);
        expect(new Set(map.values()).size).toBe(map.size);
      }),
    );
  });
});
