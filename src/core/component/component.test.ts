import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import outside from '../../../tests/outside/check-values.json' with { type: 'json' };
import { inUnit, lengthOf } from '../units/length.ts';
import { INCH_DRILLS, readDrillSize } from './drill-size.ts';
import { readInsert } from './insert-designation.ts';
import { formingDrill, readThread, tapDrill, threadEngagement } from './thread.ts';

const insert = (code: string) => {
  const read = readInsert(code);
  if (!read.ok) throw new Error(read.reason);
  return read.insert;
};
const thread = (name: string) => {
  const read = readThread(name);
  if (!read.ok) throw new Error(read.reason);
  return read.thread;
};
const drill = (name: string) => {
  const read = readDrillSize(name);
  if (!read.ok) throw new Error(read.reason);
  return read.size;
};

describe(`an insert is read from its designation (${outside.insertDesignations.source})`, () => {
  for (const [code, wanted] of Object.entries(outside.insertDesignations)) {
    if (typeof wanted === 'string') continue;
    it(code, () => {
      const read = insert(code);
      expect(read.shape).toBe(wanted.shape);
      expect(read.clearance).toBe(wanted.clearance_deg);
      expect(read.edgeLength).toBe(wanted.edgeLength_mm);
      expect(read.thickness).toBe(wanted.thickness_mm);
      expect(read.noseRadius).toBe(wanted.noseRadius_mm);
    });
  }
  it('a negative insert has twice its corners as edges, a positive one once (common practice, no source)', () => {
    expect(insert('CNMG 120408').edges).toBe(4);
    expect(insert('WNMG 080408').edges).toBe(6);
    expect(insert('TNMG160412').edges).toBe(6);
    expect(insert('SNMG 120412').edges).toBe(8);
    expect(insert('CCMT 09T304').edges).toBe(2);
    expect(insert('DCMT 11T304').edges).toBe(2);
    expect(insert('CNMM 190616').edges).toBe(2);
  });
  it('the inscribed circle follows from edge length and shape: twelve, nine and six are half, three eighths and a quarter inch', () => {
    // common practice, no source: 80° inserts with 12 edges have a half-inch circle, and so on
    expect(insert('CNMG 120408').inscribedCircle).toBe(12.7);
    expect(insert('DCMT 11T304').inscribedCircle).toBe(9.525);
    expect(insert('TNMG 160412').inscribedCircle).toBe(9.525);
    expect(insert('VBMT 160404').inscribedCircle).toBe(9.525);
    expect(insert('WNMG 080408').inscribedCircle).toBe(12.7);
    expect(insert('WNMG 060408').inscribedCircle).toBe(9.525);
    expect(insert('SNMG 120412').inscribedCircle).toBe(12.7);
    expect(insert('CCMT 060204').inscribedCircle).toBe(6.35);
    expect(insert('RCMT 1204 M0')).toMatchObject({ inscribedCircle: 12, noseRadius: null });
  });
  it.each([
    ['QNMG 120408', /"Q" in the first place/],
    ['CZMG 120408', /"Z" in the second place/],
    ['CNZG 120408', /"Z" in the third place/],
    ['CNMG 129908', /"99".*ISO 1832/],
    ['CNMG 1204', /corner radius in tenths, are missing/],
    ['12 mm', /four letters/],
  ])('%s is refused with its place', (code, reason) => {
    expect(readInsert(code)).toMatchObject({ ok: false, reason: expect.stringMatching(reason) });
  });
});

describe('drill sizes', () => {
  for (const [name, inches] of Object.entries(outside.drillSizesInch)) {
    if (typeof inches !== 'number') continue;
    it(`${name} is ${inches} in (${outside.drillSizesInch.source})`, () => {
      expect(drill(name).diameter).toBe(lengthOf(inches, 'in'));
    });
  }
  it('numbers shrink as they grow, letters grow, and no number overlaps a letter', () => {
    const numbers = INCH_DRILLS.filter(({ name }) => name.startsWith('#'));
    expect(numbers.map(({ name }) => Number(name.slice(1)))).toEqual(
      Array.from({ length: 80 }, (_, i) => 80 - i),
    );
    const letters = INCH_DRILLS.filter(({ name }) => /^[A-Z]$/.test(name));
    expect(letters.map(({ name }) => name).join('')).toBe('ABCDEFGHIJKLMNOPQRSTUVWXYZ');
    expect(letters[0]!.diameter).toBeGreaterThan(numbers.at(-1)!.diameter);
  });
  it('every sixty-fourth up to an inch is read exactly, in any way of writing it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 64 }), fc.integer({ min: 0, max: 2 }), (part, whole) => {
        const read = drill(`${whole > 0 ? `${whole} ` : ''}${part}/64`);
        expect(inUnit(read.diameter, 'in')).toBeCloseTo(whole + part / 64, 9);
        expect(drill(read.name.includes('/') ? read.name : `${Number(read.name) * 64}/64`).diameter).toBe(
          read.diameter,
        );
      }),
    );
  });
  it('letter E and a quarter are the same drill (ASME B94.11M, from memory)', () => {
    expect(drill('E').diameter).toBe(drill('1/4').diameter);
  });
  it('millimetres are the plain case', () => {
    expect(drill('6.8').diameter).toBe(lengthOf(6.8, 'mm'));
    expect(drill('6,8 mm').diameter).toBe(lengthOf(6.8, 'mm'));
  });
  it.each(['#81', '7/100', '0', 'drill', '-3'])('"%s" is no drill', (text) => {
    expect(readDrillSize(text).ok).toBe(false);
  });
});

describe(`tap drills`, () => {
  for (const [name, millimetres] of Object.entries(outside.tapDrillsMillimetre)) {
    if (typeof millimetres !== 'number') continue;
    it(`${name}: ${millimetres} mm (${outside.tapDrillsMillimetre.source})`, () => {
      expect(inUnit(tapDrill(thread(name)).diameter, 'mm')).toBeCloseTo(millimetres, 6);
    });
  }
  for (const [name, wanted] of Object.entries(outside.tapDrillsUnified)) {
    if (typeof wanted === 'string') continue;
    it(`${name}: ${wanted[0]} (${outside.tapDrillsUnified.source})`, () => {
      const found = tapDrill(thread(name));
      expect(found.name).toBe(wanted[0]);
      expect(inUnit(found.diameter, 'in')).toBeCloseTo(Number(wanted[1]), 4);
      // "about 75 % thread"
      expect(threadEngagement(thread(name), found.diameter)).toBeGreaterThan(0.7);
      expect(threadEngagement(thread(name), found.diameter)).toBeLessThan(0.8);
    });
  }
  it.each([
    // coarse pitches to the end of the series (ISO 261, from memory): D − P
    ['M24', 21],
    ['M27', 24],
    ['M30', 26.5],
  ])('%s is drilled %s', (name, drill) => {
    expect(inUnit(tapDrill(thread(name)).diameter, 'mm')).toBeCloseTo(drill, 6);
  });
  it('a fine thread is drilled D − P, and a coarse pitch written out is the plain name', () => {
    expect(inUnit(tapDrill(thread('M10x1.25')).diameter, 'mm')).toBeCloseTo(8.75, 6);
    expect(thread('M10 x 1.5').name).toBe('M10');
  });
  it('a screw number may be called without its #, and a whole inch without a fraction (common practice, no source)', () => {
    expect(thread('8-32')).toEqual(thread('#8-32'));
    expect(inUnit(thread('8-32').diameter, 'in')).toBeCloseTo(0.164, 9);
    expect(inUnit(thread('10-24').diameter, 'in')).toBeCloseTo(0.19, 9);
    expect(inUnit(thread('1-8').diameter, 'in')).toBe(1);
  });
  it('a forming tap takes a larger hole than a cutting one (common practice, no source)', () => {
    for (const name of ['M6', 'M8', '1/4-20'])
      expect(formingDrill(thread(name))).toBeGreaterThan(tapDrill(thread(name)).diameter);
    expect(inUnit(formingDrill(thread('M6')), 'mm')).toBeCloseTo(5.5, 6);
  });
  it.each(['M', 'M8x9', 'M37', '8-5', '1/0-20', 'x'])('"%s" is no thread', (text) => {
    expect(readThread(text).ok).toBe(false);
  });
});
