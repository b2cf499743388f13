import { describe, expect, it } from 'vitest';
import { piece } from '../../../tests/support/pieces.ts';
import type { Component } from '../component/kinds.ts';
import { COMPONENT_KIND_NAMES, kindFacts } from '../component/kinds.ts';
import { whereMayItGo, type ChangerLimits } from '../changer/where.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import { chooseCollet, closesBy, colletGrips } from './collet.ts';
import {
  adapterRefusal,
  extensionRefusal,
  holderRefusal,
  holdersFor,
  knobRefusal,
  nutRefusal,
  secondRefusal,
  stickOutRefusal,
} from './fits.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const endMill = (over: Partial<Component> = {}) =>
  piece('endMillSharp', { DC: 10, DCONMS: 10, OAL: 72, LCF: 22, ZEFP: 4 }, over);
const drill = piece('drillJobber', { DC: 8.5, DCONMS: 8.5, OAL: 117, LCF: 75, SIG: 118 });

describe('which holder for what (H3; common practice, no source)', () => {
  it('a drill chuck is for drills only', () => {
    expect(holderRefusal(drill, piece('drillChuck', { DCONWS: 13 }))).toBeNull();
    for (const kind of COMPONENT_KIND_NAMES)
      if (kindFacts(kind).group === 'cutter' && !['drill', 'spotDrill'].includes(kindFacts(kind).makes!))
        expect(holdersFor(kind), kind).not.toContain('drillChuck');
  });
  it('never an end mill in a drill chuck', () => {
    const refusal = holderRefusal(endMill(), piece('drillChuck', { DCONWS: 13 }));
    expect(refusal?.reason).toMatch(/drills only: end mill, sharp corner has side load/);
  });
  it('a side-lock needs a shank with a flat', () => {
    const holder = piece('sideLock', { DCONWS: 10 });
    expect(holderRefusal(endMill(), holder)?.rule).toBe('flat');
    expect(holderRefusal(endMill({ flat: true }), holder)).toBeNull();
  });
  it('a side-lock takes one shank size only', () => {
    expect(holderRefusal(endMill({ flat: true }), piece('sideLock', { DCONWS: 12 }))?.rule).toBe('bore');
  });
  it('face and shell mills go on an arbor whose pilot is their bore', () => {
    const mill = piece('shellMill', { DC: 63, DCONMS: 22, LF: 40, ZEFP: 5 });
    expect(holderRefusal(mill, piece('arbor', { DCONWS: 22 }))).toBeNull();
    expect(holderRefusal(mill, piece('arbor', { DCONWS: 27 }))?.rule).toBe('bore');
    expect(holderRefusal(mill, piece('colletChuck', { DCONWS: 20 }))?.reason).toMatch(
      /use a shell-mill arbor/,
    );
  });
  it('every cutter has a holder', () => {
    for (const kind of COMPONENT_KIND_NAMES)
      if (kindFacts(kind).group === 'cutter') expect(holdersFor(kind).length, kind).toBeGreaterThan(0);
  });
});

describe('collets (H3; common practice, no source)', () => {
  it('a common collet closes about one millimetre, a small one half', () => {
    expect(closesBy(mm(10))).toBe(mm(1));
    expect(closesBy(mm(2))).toBe(mm(0.5));
    expect(colletGrips(mm(10), mm(9))).toBe(true);
    expect(colletGrips(mm(10), mm(8.9))).toBe(false);
    expect(colletGrips(mm(10), mm(10.1))).toBe(false);
    expect(colletGrips(mm(3), mm(2.4))).toBe(false);
  });
  it('choose the same size or the next above: the nearer to nominal, the better', () => {
    const set = [6, 7, 8, 9, 10].map((size) => ({ nominal: mm(size) }));
    expect(chooseCollet(mm(8), set)?.nominal).toBe(mm(8));
    expect(chooseCollet(mm(8.5), set)?.nominal).toBe(mm(9));
    expect(chooseCollet(mm(10.2), set)).toBeNull();
    expect(chooseCollet(mm(4), set)).toBeNull();
  });
  it('a collet of another series, a missing one, one too large or too small: each says so', () => {
    const chuck = piece('colletChuck', { DCONWS: 20 }, { series: 'C32' });
    const collet = (size: number, series = 'C32') =>
      piece('collet', { DCONWS: size, DCONMS: 32 }, { series });
    expect(adapterRefusal(endMill(), chuck, collet(10))).toBeNull();
    expect(adapterRefusal(endMill(), chuck, null)?.rule).toBe('missing');
    expect(adapterRefusal(endMill(), chuck, collet(10, 'C25'))?.rule).toBe('colletSeries');
    expect(adapterRefusal(endMill(), chuck, collet(12))?.reason).toMatch(/closes to 11.000 mm.*too thin/);
    expect(adapterRefusal(endMill(), chuck, collet(9))?.reason).toMatch(/larger than the collet's 9.000/);
  });
  it('a hydraulic holder takes its own size, or a sleeve between', () => {
    const holder = piece('hydraulic', { DCONWS: 20 });
    const sleeve = (inside: number) => piece('sleeve', { DCONMS: 20, DCONWS: inside });
    expect(adapterRefusal(endMill(), holder, null)?.rule).toBe('sleeve');
    expect(adapterRefusal(endMill(), holder, sleeve(10))).toBeNull();
    expect(adapterRefusal(endMill(), holder, sleeve(12))?.reason).toMatch(
      /from 20.000 mm to 10.000 mm is needed/,
    );
  });
  it('the collet grips the shank only, never the flutes', () => {
    expect(stickOutRefusal(endMill(), mm(30))).toBeNull();
    expect(stickOutRefusal(endMill(), mm(20))?.reason).toMatch(
      /flutes are 22.000 mm long.*grips the shank only/,
    );
    expect(stickOutRefusal(endMill(), mm(60))?.rule).toBe('grip');
    expect(stickOutRefusal(endMill(), mm(80))?.rule).toBe('grip');
  });
});

describe('the knob must match the machine (H3; common practice, no source)', () => {
  const spindle = { machine: 'Mill 1', interface: 'steep 40', knob: 'P45', throughCoolant: false };
  const knob = (series: string, coolant = false) => piece('knob', {}, { series, coolant });
  it('two machines with one taper can need different knobs', () => {
    expect(knobRefusal(knob('P45'), spindle)).toBeNull();
    expect(knobRefusal(knob('P60'), spindle)?.reason).toMatch(/needs P45. Same taper is not same knob/);
    expect(knobRefusal(null, spindle)?.rule).toBe('missing');
  });
  it('a solid knob where coolant comes through, or a drilled one where the spindle is not sealed, is a mismatch', () => {
    expect(knobRefusal(knob('P45', true), spindle)?.rule).toBe('coolant');
    expect(knobRefusal(knob('P45'), { ...spindle, throughCoolant: true })?.rule).toBe('coolant');
    expect(knobRefusal(knob('P45', true), { ...spindle, throughCoolant: true })).toBeNull();
  });
  it('a hollow taper has none', () => {
    expect(knobRefusal(null, { ...spindle, knob: '' })).toBeNull();
    expect(knobRefusal(knob('P45'), { ...spindle, knob: '' })?.rule).toBe('knob');
  });
});

describe('extensions, nuts and double holders', () => {
  const extension = piece('extension', { LPR: 60, BD: 25, DCONWS: 10, DCONMS: 20 });
  it('an extension takes one shank size, the holder takes the extension', () => {
    expect(extensionRefusal(endMill(), extension)).toBeNull();
    expect(extensionRefusal(drill, extension)?.reason).toMatch(/takes a shank of 10.000 mm, .* 8.500/);
    expect(holderRefusal(endMill(), piece('shrink', { DCONWS: 20 }), extension)).toBeNull();
    expect(holderRefusal(endMill(), piece('shrink', { DCONWS: 10 }), extension)?.rule).toBe('bore');
  });
  it('an extension does not make a drill chuck right for an end mill', () => {
    expect(holderRefusal(endMill(), piece('drillChuck', { DCONWS: 25 }), extension)?.rule).toBe('holderKind');
  });
  it('the flat a side-lock needs is on what it grips', () => {
    const holder = piece('sideLock', { DCONWS: 20 });
    expect(holderRefusal(endMill({ flat: true }), holder, extension)?.rule).toBe('flat');
    expect(holderRefusal(endMill(), holder, { ...extension, flat: true })).toBeNull();
  });
  it('a mill on a pilot takes no extension', () => {
    expect(extensionRefusal(piece('shellMill', { DC: 63, DCONMS: 10, LF: 40 }), extension)?.rule).toBe(
      'extension',
    );
  });
  it('a nut is of the chuck’s series, and only collet chucks have one', () => {
    const chuck = piece('colletChuck', { DCONWS: 20 }, { series: 'C32' });
    expect(nutRefusal(chuck, null)).toBeNull();
    expect(nutRefusal(chuck, piece('nut', {}, { series: 'C32' }))).toBeNull();
    expect(nutRefusal(chuck, piece('nut', {}, { series: 'C20' }))?.reason).toMatch(
      /C20, the chuck takes C32/,
    );
    expect(nutRefusal(piece('shrink'), piece('nut', {}, { series: 'C32' }))?.rule).toBe('nut');
  });
  it('a double holder carries two tools, a single one does not', () => {
    const tool = piece('groovingTool', { LF: 150, DCONMS: 25 });
    const double = piece('turningHolderDouble', { DCONWS: 25 });
    expect(secondRefusal(double, tool)).toBeNull();
    expect(secondRefusal(double, piece('turningBar', { LF: 150, DCONMS: 16 }))?.reason).toMatch(
      /second tool: .*25.000 mm, not 16.000/,
    );
    expect(secondRefusal(piece('turningHolder', { DCONWS: 25 }), tool)?.rule).toBe('second');
  });
});

describe('where it may go (H5; common practice, no source)', () => {
  const limits: ChangerLimits = {
    machine: 'Mill 1',
    unit: 'mm',
    interface: 'steep 40',
    longest: mm(250),
    widest: mm(75),
    widestAlone: mm(140),
    heaviest: 7000,
    moment: 9,
    highestSpeed: 10_000,
  };
  const tool = {
    interface: 'steep 40',
    gaugeLength: mm(120),
    widest: mm(63.55),
    mass: 2000,
    moment: 1,
    speedLimit: null,
    drawbar: null,
  };
  it('within all limits it fits', () => {
    expect(whereMayItGo(tool, limits)).toEqual({ verdict: 'fits', reasons: [], remarks: [] });
  });
  it('too wide beside others it needs empty neighbours; too wide even then it goes by hand only', () => {
    expect(whereMayItGo({ ...tool, widest: mm(80) }, limits).verdict).toBe('neighboursEmpty');
    expect(whereMayItGo({ ...tool, widest: mm(160) }, limits).verdict).toBe('byHand');
  });
  it('too long, too heavy or too much moment for the changer: by hand only, with the numbers', () => {
    expect(whereMayItGo({ ...tool, gaugeLength: mm(260) }, limits)).toMatchObject({
      verdict: 'byHand',
      reasons: ["its length 260.0 mm is over the changer's 250.0 mm"],
    });
    expect(whereMayItGo({ ...tool, mass: 8000 }, limits).reasons[0]).toMatch(
      /8.00 kg is over the changer's 7.00 kg/,
    );
    expect(whereMayItGo({ ...tool, moment: 12 }, limits).verdict).toBe('byHand');
  });
  it('another taper or another knob goes nowhere, whatever else fits', () => {
    expect(whereMayItGo({ ...tool, interface: 'steep 30' }, limits).verdict).toBe('notAtAll');
    expect(whereMayItGo({ ...tool, drawbar: 'The knob is P60' }, limits).verdict).toBe('notAtAll');
  });
  it('a limit that nobody recorded is not a limit that is kept: it is said', () => {
    const where = whereMayItGo(tool, { ...limits, widest: null, heaviest: null });
    expect(where.remarks).toHaveLength(2);
    expect(where.remarks[0]).toMatch(/read it off its plate/);
  });
  it('a spindle that turns faster than the tool may is said', () => {
    expect(whereMayItGo({ ...tool, speedLimit: 6000 }, limits).remarks[0]).toMatch(/not above 6000 rpm/);
    expect(whereMayItGo({ ...tool, gaugeLength: nanometres(1) }, limits).verdict).toBe('fits');
  });
});
