import { describe, expect, it } from 'vitest';
import { piece } from '../../../tests/support/pieces.ts';
import type { Component, ComponentKind, Dimensions } from '../component/kinds.ts';
import { lengthOf } from '../units/length.ts';
import {
  adapterRefusal,
  extensionRefusal,
  holderRefusal,
  insertRefusal,
  nutRefusal,
  secondInsertRefusal,
  secondRefusal,
  stickOutRefusal,
} from './fits.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const mill = (shank: number) => piece('endMillSharp', { DCONMS: shank });

describe('how near a shank must be to a bore', () => {
  it('one nominal size is what is written alike to the hundredth of a millimetre, less and more', () => {
    const shrink = piece('shrink', { DCONWS: 10 });
    for (const [shank, fits] of [
      [9.994, false],
      [9.995, true],
      [10.005, true],
      [10.006, false],
    ] as const)
      expect(holderRefusal(mill(shank), shrink)?.rule ?? null).toBe(fits ? null : 'bore');
    expect(holderRefusal(piece('faceMill', { DCONMS: 27 }), piece('arbor', { DCONWS: 22 }))?.rule).toBe(
      'bore',
    );
    expect(holderRefusal(piece('faceMill', { DCONMS: 22 }), piece('arbor', { DCONWS: 22 }))).toBeNull();
    for (const kind of ['turningHolder', 'turningHolderDouble'] as const) {
      expect(holderRefusal(piece('turningTool', { DCONMS: 20 }), piece(kind, { DCONWS: 25 }))?.rule).toBe(
        'bore',
      );
      expect(holderRefusal(piece('turningTool', { DCONMS: 25 }), piece(kind, { DCONWS: 25 }))).toBeNull();
    }
  });
  it.each(['colletChuck', 'hydraulic', 'drillChuck', 'boringHead'] as const)(
    'a %s takes what is thinner, and no more than is written alike',
    (kind) => {
      const cutter = (shank: number) =>
        piece(kind === 'boringHead' ? 'boringBar' : 'drillJobber', { DCONMS: shank });
      const holder = piece(kind, { DCONWS: 13 });
      expect(holderRefusal(cutter(3), holder)).toBeNull();
      expect(holderRefusal(cutter(13.005), holder)).toBeNull();
      expect(holderRefusal(cutter(13.006), holder)).toMatchObject({ rule: 'bore' });
      // what has no shank on record is taken to fit; a holder that has no bore on record takes nothing
      expect(holderRefusal({ ...cutter(3), dimensions: {} }, holder)).toBeNull();
      expect(holderRefusal(cutter(3), piece(kind))?.rule).toBe('bore');
    },
  );
  it('a side-lock wants a flat, then its own size', () => {
    const sideLock = piece('sideLock', { DCONWS: 16 });
    expect(holderRefusal(mill(16), sideLock)?.rule).toBe('flat');
    expect(holderRefusal({ ...mill(16), flat: true }, sideLock)).toBeNull();
    expect(holderRefusal({ ...mill(12), flat: true }, sideLock)?.rule).toBe('bore');
  });
  it('lists what may be used instead, with an "or" before the last', () => {
    const reason = holderRefusal(piece('reamer', { DCONMS: 10 }), piece('sideLock', { DCONWS: 10 }))!.reason;
    expect(reason).toMatch(/^Reamer does not go .*; use a collet chuck, a [\w -]+ or a [\w -]+\.$/);
    expect(holderRefusal(piece('tapCutting'), piece('shrink'))!.reason).toMatch(/; use a collet chuck\.$/);
    // one of them has a comma of its own
    expect(holderRefusal(piece('turningTool'), piece('shrink'))!.reason).toMatch(
      /; use a turning holder or a turning holder, double\.$/,
    );
  });
});

describe('what goes between, and beside', () => {
  const chuck = (series: string) => piece('colletChuck', { DCONWS: 20 }, { series });
  const collet = (nominal: number, series = 'K32') => piece('collet', { DCONWS: nominal }, { series });
  it('collets: of its series, as large as the shank or up to a millimetre more', () => {
    const rule = (shank: number, nominal: number) =>
      adapterRefusal(mill(shank), chuck('K32'), collet(nominal))?.rule ?? null;
    expect([rule(10, 10), rule(9, 10), rule(8.999, 10), rule(10.001, 10)]).toEqual([
      null,
      null,
      'collet',
      'collet',
    ]);
    expect(adapterRefusal(mill(10.001), chuck('K32'), collet(10))!.reason).toMatch(/larger than the collet/);
    expect(adapterRefusal(mill(8), chuck('K32'), collet(10))!.reason).toMatch(/closes to 9\.000 mm/);
    expect(adapterRefusal(mill(10), chuck('K32'), null)?.rule).toBe('missing');
    expect(adapterRefusal(mill(10), chuck('K32'), piece('sleeve'))?.rule).toBe('missing');
    const series = (holder: string, of: string) => adapterRefusal(mill(10), chuck(holder), collet(10, of))!;
    expect(series('K32', 'K25')).toMatchObject({
      rule: 'colletSeries',
      reason: expect.stringMatching(/K25.*K32/),
    });
    expect(series('K32', '').reason).toMatch(/unknown.*K32/);
    expect(series('', 'K25').reason).toMatch(/K25.*another/);
  });
  it('sleeves: from the bore to the shank, and only where the two differ', () => {
    const hydraulic = piece('hydraulic', { DCONWS: 20 });
    const sleeve = (outside: number, inside: number) => piece('sleeve', { DCONMS: outside, DCONWS: inside });
    const rule = (shank: number, adapter: Component | null) =>
      adapterRefusal(mill(shank), hydraulic, adapter)?.rule ?? null;
    expect([rule(20, null), rule(12, null), rule(12, collet(12))]).toEqual([null, 'sleeve', 'sleeve']);
    expect([rule(12, sleeve(20, 12)), rule(12, sleeve(25, 12)), rule(12, sleeve(20, 10))]).toEqual([
      null,
      'sleeve',
      'sleeve',
    ]);
    expect(rule(20, sleeve(20, 12))).toBeNull();
    expect(adapterRefusal(mill(12), piece('shrink', { DCONWS: 20 }), null)).toBeNull();
    expect(adapterRefusal(mill(12), piece('shrink', { DCONWS: 12 }), collet(12))?.rule).toBe('sleeve');
  });
  it('an extension takes one shank, and none goes under a mill that sits on an arbor', () => {
    const extension = piece('extension', { DCONWS: 10, DCONMS: 16 });
    expect(extensionRefusal(mill(10), null)).toBeNull();
    expect(extensionRefusal(piece('faceMill', { DCONMS: 22 }), null)).toBeNull();
    expect(extensionRefusal(mill(10), extension)).toBeNull();
    expect(extensionRefusal(mill(12), extension)?.reason).toMatch(/10\.000 mm.*12\.000 mm/);
    expect(extensionRefusal(piece('faceMill', { DCONMS: 10 }), extension)?.reason).toMatch(/arbor/);
  });
  it('a nut of the chuck’s series, on collet chucks only', () => {
    const nut = (series: string) => piece('nut', {}, { series });
    expect(nutRefusal(piece('shrink'), null)).toBeNull();
    expect(nutRefusal(piece('shrink'), nut('K32'))?.reason).toMatch(/takes no collet nut/);
    expect(nutRefusal(chuck('K32'), nut('K32'))).toBeNull();
    expect(nutRefusal(chuck('K32'), nut('K25'))?.reason).toMatch(/K25.*K32/);
    expect(nutRefusal(chuck(''), nut('K25'))?.reason).toMatch(/another/);
    expect(nutRefusal(chuck('K32'), nut(''))?.reason).toMatch(/unknown/);
  });
  it('a second tool in a double holder only, and it must fit like the first', () => {
    const double = piece('turningHolderDouble', { DCONWS: 25 });
    const tool = (shank: number) => piece('turningTool', { DCONMS: shank });
    expect(secondRefusal(piece('turningHolder'), null)).toBeNull();
    expect(secondRefusal(piece('turningHolder', { DCONWS: 25 }), tool(25))?.rule).toBe('second');
    expect(secondRefusal(double, tool(25))).toBeNull();
    expect(secondRefusal(double, tool(20))).toMatchObject({
      rule: 'second',
      reason: expect.stringMatching(/second tool: .*25\.000/),
    });
  });
  it('inserts by the seats of the cutter, written in any case and spacing', () => {
    const cutter = (kind: ComponentKind, series: string) => piece(kind, {}, { series });
    const insert = (series: string) => piece('insert', {}, { series });
    for (const kind of ['faceMill', 'shellMill', 'boringBar', 'turningTool', 'turningBar'] as const) {
      expect(insertRefusal(cutter(kind, 'seht 12'), insert('SEHT 1204 AFN'))).toBeNull();
      expect(insertRefusal(cutter(kind, 'SEHT 12'), insert('apkt 1003'))?.rule).toBe('bore');
      expect(insertRefusal(cutter(kind, 'SEHT 12'), null)?.rule).toBe('missing');
      // brazed or solid: no seats
      expect(insertRefusal(cutter(kind, ''), null)).toBeNull();
      expect(insertRefusal(cutter(kind, ''), insert('SEHT 1204'))?.rule).toBe('missing');
    }
    expect(insertRefusal(cutter('endMillSharp', 'SEHT 12'), null)).toBeNull();
    expect(insertRefusal(cutter('endMillSharp', 'SEHT 12'), insert('SEHT 1204'))?.reason).toMatch(
      /takes no inserts/,
    );
  });
});

describe('the other tool of a double holder has an insert of its own', () => {
  const tool = (series: string) => piece('turningTool', { DCONMS: 25 }, { series });
  const insert = piece('insert', {}, { series: 'CNMG 120408' });
  it('in the seats of that tool, and none where there is none', () => {
    expect(secondInsertRefusal(tool('CNMG 1204'), insert)).toBeNull();
    expect(secondInsertRefusal(tool('DNMG 1506'), insert)).toMatchObject({
      rule: 'bore',
      reason: expect.stringMatching(/second tool: .*DNMG 1506/),
    });
    expect(secondInsertRefusal(tool('CNMG 1204'), null)?.rule).toBe('missing');
    expect(secondInsertRefusal(tool(''), null)).toBeNull();
    expect(secondInsertRefusal(null, null)).toBeNull();
    expect(secondInsertRefusal(null, insert)?.rule).toBe('missing');
  });
});

describe('a shank and a bore are of one size only where no more than the writing differs', () => {
  const shank = (size: number) => piece('endMillSharp', { DCONMS: size }, { flat: true });
  const rule = (holder: ComponentKind, bore: number, size: number) =>
    holderRefusal(shank(size), piece(holder, { DCONWS: bore }))?.rule ?? null;
  it.each(['sideLock', 'shrink'] as const)('%s', (holder) => {
    // three eighths of an inch, written to the micrometre, the hundredth and the tenth
    expect([rule(holder, 9.525, 9.525), rule(holder, 9.525, 9.53), rule(holder, 9.53, 9.525)]).toEqual([
      null,
      null,
      null,
    ]);
    expect([rule(holder, 9.525, 9.5), rule(holder, 9.5, 9.525)]).toEqual(['bore', 'bore']);
    // three quarters and nineteen
    expect([rule(holder, 19.05, 19), rule(holder, 19, 19.05)]).toEqual(['bore', 'bore']);
  });
  it('nor does what is thicker than a bore by the width of a hair go in', () => {
    expect([rule('hydraulic', 12, 12), rule('hydraulic', 12, 12.05), rule('colletChuck', 13, 13.1)]).toEqual([
      null,
      'bore',
      'bore',
    ]);
  });
});

describe('how far it may stand out', () => {
  const cutter = (over: Dimensions = {}) => piece('endMillSharp', { OAL: 72, LCF: 22, DCONMS: 10, ...over });
  const rule = (stickOut: number, of = cutter()) => stickOutRefusal(of, mm(stickOut))?.rule ?? null;
  it('clear of its flutes, with twice its diameter in the holder: both limits themselves will do', () => {
    expect([rule(22), rule(21.999), rule(52), rule(52.001)]).toEqual([null, 'flutes', null, 'grip']);
    expect([rule(0), rule(-1), rule(72), rule(80)]).toEqual(['grip', 'grip', 'grip', 'grip']);
    expect(stickOutRefusal(cutter(), mm(72))!.reason).toMatch(/leaves nothing to grip/);
    expect(stickOutRefusal(cutter(), 0)!.reason).toMatch(/leaves nothing to grip/);
    expect(stickOutRefusal(cutter(), mm(60))!.reason).toMatch(/Only 12\.000 mm/);
  });
  it('is not judged by what is not on record', () => {
    expect(rule(500, piece('endMillSharp', { LCF: 22 }))).toBeNull();
    expect(rule(5, piece('endMillSharp', { OAL: 72, DCONMS: 10 }))).toBeNull();
    expect(rule(71, piece('endMillSharp', { OAL: 72, LCF: 22 }))).toBeNull();
  });
});
