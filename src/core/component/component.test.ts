import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import outside from '../../../tests/outside/check-values.json' with { type: 'json' };
import { inUnit, lengthOf } from '../units/length.ts';
import { INCH_DRILLS, readDrillSize } from './drill-size.ts';
import { readInsert, seatTakes } from './insert-designation.ts';
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
    // ISO 1832, from memory: 00 stands for a circle of the inch's row
    expect(insert('RNMG 120400')).toMatchObject({ inscribedCircle: 12.7, noseRadius: null });
  });
  it.each([
    // ASME B212.12, from memory: eighths of the circle, sixteenths of thickness, sixty-fourths of the corner
    ['CNMG 432', 'CNMG 120408'],
    ['CNMG 431', 'CNMG 120404'],
    ['CNMG 543', 'CNMG 160612'],
    ['WNMG 332', 'WNMG 060408'],
    ['TNMG 332', 'TNMG 160408'],
    ['SNMG 433', 'SNMG 120412'],
    ['DNMG 442-PM', 'DNMG 150608'],
    ['VNMG 331', 'VNMG 160404'],
    ['CCMT 32.51', 'CCMT 09T304'],
    ['CCMT 3(2.5)1', 'CCMT 09T304'],
    ['CCMT 21.51', 'CCMT 060204'],
    ['DCMT 21.51', 'DCMT 070204'],
    ['VBMT 332', 'VBMT 160408'],
  ])('%s in inches is %s', (inches, metric) => {
    const { noseRadius, ...rest } = insert(inches);
    expect(insert(metric)).toMatchObject(rest);
    expect(Math.abs(noseRadius! - insert(metric).noseRadius!)).toBeLessThan(0.013);
  });
  it('a corner with a wiper flat has no radius, and says how its edge leads (ISO 1832, from memory)', () => {
    expect(insert('SEKT 1204 AFTN')).toMatchObject({ noseRadius: null, leadAngle: 45, edges: 4 });
    expect(insert('APKT 1003 PDR')).toMatchObject({ noseRadius: null, leadAngle: 90 });
    expect(insert('SPKN 1203 EDR')).toMatchObject({ noseRadius: null, leadAngle: 75 });
    expect(insert('CNMG 120408').leadAngle).toBeNull();
  });
  it.each([
    ['QNMG 120408', /"Q" in the first place/],
    ['CZMG 120408', /"Z" in the second place/],
    ['CNZG 120408', /"Z" in the third place/],
    ['CNMG 129908', /"99".*ISO 1832/],
    ['CNMG 1204', /corner radius in tenths, are missing/],
    ['CNMG 43', /corner radius in sixty-fourths/],
    ['APKT 322', /four letters/],
    ['12 mm', /four letters/],
  ])('%s is refused with its place', (code, reason) => {
    expect(readInsert(code)).toMatchObject({ ok: false, reason: expect.stringMatching(reason) });
  });
});

describe('a seat takes an insert by what of its designation decides whether it lies there', () => {
  it.each([
    ['CNMG 1204', 'CNMG 120408'],
    // tolerance and chip breaker are no matter of the seat (common practice, no source)
    ['CNMG 1204', 'CNMA 120404'],
    ['CNMG 1204', 'CNGG 120402'],
    ['CNMG 1204', 'CNMM 120416-PR'],
    ['CNMG 1204', 'CNMG 432'],
    ['CNMG 43', 'CNMG 120408'],
    ['CN.. 1204', 'CNMG 120412'],
    ['CNMG 12', 'CNMG 120408'],
    // the edge of 22 mm, and a quarter inch by an eighth
    ['TNMG 22', 'TNMG 220408'],
    ['TNMG 22', 'TNMG 221'],
    ['SEKT 1204', 'SEHT 1204 AFTN'],
    ['SEKT 120408', 'SEKT 432'],
    ['GR-3', 'GR-3 P25'],
  ])('%s takes %s', (seat, given) => expect(seatTakes(seat, given)).toBe(true));
  it.each([
    ['CNMG 1204', 'DNMG 150608'],
    ['CNMG 1204', 'CNMG 160612'],
    // thicker, another clearance, another hole
    ['CNMG 1204', 'CNMG 120608'],
    ['CCMT 0602', 'CNMG 060204'],
    ['CCMT 09T3', 'CCMW 0903 04'],
    ['SNMG 1204', 'SNUN 120408'],
    ['CNMG 43', 'CNMG 321'],
    ['SEKT 120408', 'SEKT 120412'],
    // 12 mm across and half an inch
    ['RCMT 1204M0', 'RCMT 120400'],
    ['GR-3', 'GR-4'],
    ['GR-3', 'CNMG 120408'],
  ])('%s does not take %s', (seat, given) => expect(seatTakes(seat, given)).toBe(false));
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

describe('threads, in any writing', () => {
  it.each([
    ['M8x1.25', 'M8', 8, 1.25],
    ['M10-1.25', 'M10x1.25', 10, 1.25],
    ['M10X1.25-6H', 'M10x1.25', 10, 1.25],
    ['M8 6H', 'M8', 8, 1.25],
    ['.250-20', '1/4-20', 6.35, 1.27],
    ['.190-32', '#10-32', 4.826, 25.4 / 32],
    ['1.125-7', '1 1/8-7', 28.575, 25.4 / 7],
    ['1/4-20 UNC-2B', '1/4-20', 6.35, 1.27],
    ['1-14 UNS', '1-14', 25.4, 25.4 / 14],
    // ISO 228-1 and ASME B1.20.1, from memory
    ['G1/4', 'G1/4', 13.157, 25.4 / 19],
    ['1/4 BSP', 'G1/4', 13.157, 25.4 / 19],
    ['RC1/4', 'Rc1/4', 13.157, 25.4 / 19],
    ['1/8-27 NPT', '1/8 NPT', 10.287, 25.4 / 27],
    ['NPT 1/2', '1/2 NPT', 21.336, 25.4 / 14],
    ['1-1/4-11.5 NPT', '1 1/4 NPT', 42.164, 25.4 / 11.5],
  ])('%s is %s', (text, name, diameter, pitch) => {
    const read = thread(text);
    expect(read.name).toBe(name);
    expect(inUnit(read.diameter, 'mm')).toBeCloseTo(diameter, 3);
    expect(inUnit(read.pitch, 'mm')).toBeCloseTo(pitch, 5);
    expect(thread(name)).toEqual(read);
  });
  it.each(['G5/16', 'M8-12', '.2-20', 'NPT', '1/4-20 NPTX'])('%s is none', (text) =>
    expect(readThread(text).ok).toBe(false),
  );
  it('the drill for a parallel pipe thread is listed; for a tapered one it depends on the reamer', () => {
    expect(tapDrill(thread('G1/8'))?.name).toBe('8.8 mm');
    expect([tapDrill(thread('1/8 NPT')), tapDrill(thread('Rc1/8')), tapDrill(thread('G2'))]).toEqual([
      null,
      null,
      null,
    ]);
  });
});

describe(`tap drills`, () => {
  for (const [name, millimetres] of Object.entries(outside.tapDrillsMillimetre)) {
    if (typeof millimetres !== 'number') continue;
    it(`${name}: ${millimetres} mm (${outside.tapDrillsMillimetre.source})`, () => {
      expect(inUnit(tapDrill(thread(name))!.diameter, 'mm')).toBeCloseTo(millimetres, 6);
    });
  }
  for (const [name, wanted] of Object.entries(outside.tapDrillsUnified)) {
    if (typeof wanted === 'string') continue;
    it(`${name}: ${wanted[0]} (${outside.tapDrillsUnified.source})`, () => {
      const found = tapDrill(thread(name))!;
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
    expect(inUnit(tapDrill(thread(name))!.diameter, 'mm')).toBeCloseTo(drill, 6);
  });
  it('a fine thread is drilled D − P, and a coarse pitch written out is the plain name', () => {
    expect(inUnit(tapDrill(thread('M10x1.25'))!.diameter, 'mm')).toBeCloseTo(8.75, 6);
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
      expect(formingDrill(thread(name))).toBeGreaterThan(tapDrill(thread(name))!.diameter);
    expect(inUnit(formingDrill(thread('M6')), 'mm')).toBeCloseTo(5.5, 6);
  });
  it.each(['M', 'M8x9', 'M37', '8-5', '1/0-20', 'x'])('"%s" is no thread', (text) => {
    expect(readThread(text).ok).toBe(false);
  });
});
