import { describe, expect, it } from 'vitest';
import { readDrillSize, nearestInchDrill } from './drill-size.ts';
import { readInsert } from './insert-designation.ts';
import { COMPONENT_GROUPS, COMPONENT_KIND_NAMES, kindFacts, kindsOfGroup } from './kinds.ts';
import { readThread } from './thread.ts';

/** How things are called across a counter (common practice, no source); sizes of number, letter and fraction drills: ASME B94.11M, from memory. */
describe('drills as they are called', () => {
  const name = (text: string) => {
    const read = readDrillSize(text);
    return read.ok ? read.size.name : read.reason;
  };
  const inch = (text: string) => {
    const read = readDrillSize(text);
    return read.ok ? read.size.diameter / 25_400_000 : NaN;
  };
  it('by number, however it is said', () => {
    for (const text of ['#7', ' #7 ', 'no 7', 'no. 7', 'No7', 'no.  7', 'number 7', 'NUMBER   7', '#07'])
      expect([text, name(text), inch(text)]).toEqual([text, '#7', 0.201]);
    expect(name('#80')).toBe('#80');
    for (const text of ['#81', '#0', 'number 99'])
      expect(name(text)).toBe('Number drills run from #1 to #80.');
    for (const text of ['x #7', '#7 long', 'number7x', '#123'])
      expect(name(text)).toBe('A drill is written as #7, F, 27/64 or 6.8 mm.');
  });
  it('by letter', () => {
    for (const text of ['f', 'F', 'letter F', 'LETTER   f'])
      expect([text, inch(text)]).toEqual([text, 0.257]);
    expect(name('letter')).toMatch(/A drill is written/);
    expect(name('letterxF')).toMatch(/A drill is written/);
  });
  it('by fraction of an inch', () => {
    expect([name('27/64'), inch('27/64')]).toEqual(['27/64', 0.421875]);
    expect([name('1 1/8 in'), inch('1 1/8 in')]).toEqual(['1 1/8', 1.125]);
    expect([name('1-1/8"'), inch('12 1/2')]).toEqual(['1 1/8', 12.5]);
    expect(name('1   1/8″')).toBe('1 1/8');
    expect(name('16/64')).toBe('1/4');
    expect(name('64/64')).toBe('1');
    for (const text of ['1/0', '1/3', '5/48'])
      expect(name(text)).toBe('A fraction drill is in 64ths or a part of them.');
    for (const text of ['a 1/4', '1/4 x']) expect(name(text)).not.toBe('1/4');
  });
  it('by millimetres, and the nearest inch drill to them', () => {
    expect(name('6,8')).toBe('6.8');
    expect(name('-3')).toMatch(/A drill is written/);
    expect(name('0')).toMatch(/A drill is written/);
    expect(nearestInchDrill(6_800_000).name).toBe('H');
    // two that are one size: the first of them
    expect(nearestInchDrill(0.25 * 25_400_000).diameter).toBe(6_350_000);
  });
});

describe('kinds of components', () => {
  it('stand in their groups, each in one; what is no group has none', () => {
    for (const group of COMPONENT_GROUPS) {
      const kinds = kindsOfGroup(group);
      expect(kinds.length).toBeGreaterThan(0);
      expect(kinds.every((kind) => kindFacts(kind).group === group)).toBe(true);
    }
    expect(COMPONENT_GROUPS.flatMap((group) => kindsOfGroup(group)).sort()).toEqual(
      [...COMPONENT_KIND_NAMES].sort(),
    );
    expect([kindsOfGroup('nothing'), kindsOfGroup(null)]).toEqual([[], []]);
  });
});

describe('inserts (ISO 1832, from memory)', () => {
  const read = (text: string) => {
    const found = readInsert(text);
    return found.ok ? found.insert : found.reason;
  };
  it('names the place that is wrong', () => {
    expect(read('xxCNMG 120408')).toMatch(/written like CNMG 120408/);
    expect(read('CQMG 120408')).toMatch(/second place/);
    expect(read('CNYG 120408')).toMatch(/third place/);
    expect(read('CNMY 120408')).toBe('"Y" in the fourth place is not a fixing or chip breaker.');
    expect(read('CNMG 1204')).toMatch(/last two digits/);
  });
  it('a special clearance is none that is known; a wiper has no corner in tenths; a maker’s breaker may follow', () => {
    expect(read('COMG 120408')).toMatchObject({ clearance: null });
    expect(read('CNMG 1204M0')).toMatchObject({ noseRadius: null });
    expect(read('CNMG 120408-PM')).toMatchObject({ noseRadius: 0.8, edges: 4, inscribedCircle: 12.7 });
    // with clearance it has one face
    expect(read('CCMT 09T304')).toMatchObject({ edges: 2, noseRadius: 0.4, inscribedCircle: 9.525 });
    expect(read('RCMT 0602M0')).toMatchObject({ noseRadius: null, inscribedCircle: 6 });
  });
});

describe('unified threads (ASME B1.1, from memory)', () => {
  const read = (text: string) => {
    const found = readThread(text);
    return found.ok ? [found.thread.name, found.thread.diameter / 25_400_000] : found.reason;
  };
  it('numbered with and without its sign, whole inches, and pitches that do not belong', () => {
    expect(read('8-32')).toEqual(['#8-32', expect.closeTo(0.164, 9)]);
    expect(read('#8-32 UNC')).toEqual(['#8-32', expect.closeTo(0.164, 9)]);
    expect(read('1-8 unc')).toEqual(['1-8', 1]);
    expect(read('2-4')).toEqual(['2-4', 2]);
    expect(read('1-2')).toBe('2 threads per inch do not belong to that size.');
    expect(read('1/4-6')).toBe('6 threads per inch do not belong to that size.');
    expect(read('1/4-20unf')).toEqual(['1/4-20', 0.25]);
  });
});
