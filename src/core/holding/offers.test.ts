import { describe, expect, it } from 'vitest';
import { piece } from '../../../tests/support/pieces.ts';
import { COMPONENT_KIND_NAMES, type Component } from '../component/kinds.ts';
import { lengthOf } from '../units/length.ts';
import { adapterKindsOf, offersFor, takesTwo, usualStickOut, type Shelf } from './offers.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const bare: Shelf<Component> = {
  holders: [],
  adapters: [],
  extensions: [],
  nuts: [],
  seconds: [],
  inserts: [],
  knobs: [],
};
const endMill = piece('endMillSharp', { DC: 10, DCONMS: 10, OAL: 72, LCF: 22 });
const chuck = piece('colletChuck', { DCONWS: 20 }, { interface: 'A40', series: 'K32' });
const ask = (chosen: Partial<Parameters<typeof offersFor<Component>>[0]>, shelf: Partial<Shelf<Component>>) =>
  offersFor(
    { cutter: endMill, holder: chuck, extension: null, second: null, end: null, ...chosen },
    { ...bare, ...shelf },
  );

describe('what may be chosen beside a cutter (H3)', () => {
  it('holders of the spindle it is for, those that may be chosen first and each group as it lay', () => {
    const drillChuck = piece('drillChuck', { DCONWS: 13 }, { interface: 'A40' });
    const shrink = piece('shrink', { DCONWS: 10 }, { interface: 'A40' });
    const other = piece('shrink', { DCONWS: 10 }, { interface: 'A30' });
    const holders = [drillChuck, chuck, other, shrink];
    const offered = ask({ holder: null, end: 'A40' }, { holders }).holders;
    expect(offered.map(({ component }) => component)).toEqual([chuck, shrink, drillChuck]);
    expect(offered.map(({ refusal }) => refusal === null)).toEqual([true, true, false]);
    expect(ask({ holder: null }, { holders }).holders).toHaveLength(4);
    expect(ask({}, { holders }).holders).toHaveLength(4);
  });
  it('what an extension changes: the holder grips the extension', () => {
    const extension = piece('extension', { DCONMS: 16, DCONWS: 10 });
    const wide = piece('shrink', { DCONWS: 16 });
    const of = (between: Component | null) =>
      ask({ holder: null, extension: between }, { holders: [wide] }).holders[0]!;
    expect(of(null).refusal).toMatch(/16.000 mm, not 10.000 mm/);
    expect(of(extension).refusal).toBeNull();
  });
  it('collets of its series with the reason, of another not at all; begins with the one that closes least', () => {
    const collet = (nominal: number, series = 'K32') => piece('collet', { DCONWS: nominal }, { series });
    const [ten, ten5, twelve, strange] = [collet(10), collet(10.5), collet(12), collet(10, 'K25')];
    const { adapters, adapter } = ask({}, { adapters: [twelve, ten5, strange, ten] });
    expect(adapters.map(({ component }) => component)).toEqual([twelve, ten5, ten]);
    expect(adapters[0]!.refusal).toMatch(/too thin/);
    expect(adapters.slice(1).map(({ refusal }) => refusal)).toEqual([null, null]);
    expect(adapter).toBe(ten.id);
    expect(ask({}, { adapters: [twelve] }).adapter).toBeNull();
    expect(ask({ holder: null }, { adapters: [ten] })).toMatchObject({ adapters: [], adapter: null });
  });
  it('none is begun with where the holder needs none', () => {
    const hydraulic = piece('hydraulic', { DCONWS: 10 }, { series: 'K32' });
    const ten = piece('sleeve', { DCONMS: 20, DCONWS: 10 }, { series: 'K32' });
    expect(ask({ holder: hydraulic }, { adapters: [ten] }).adapter).toBeNull();
    const wide = piece('hydraulic', { DCONWS: 20 });
    expect(ask({ holder: wide }, { adapters: [ten] }).adapter).toBe(ten.id);
  });
  it('the collet goes on the extension’s shank, not on the cutter’s', () => {
    const extension = piece('extension', { DCONMS: 16, DCONWS: 10 });
    const [ten, sixteen] = [10, 16].map((nominal) => piece('collet', { DCONWS: nominal }, { series: 'K32' }));
    expect(ask({ extension }, { adapters: [ten!, sixteen!] }).adapter).toBe(sixteen!.id);
  });
  it('extensions: those that take the shank first; none on a turning holder, none before a holder is chosen', () => {
    const [eight, ten] = [8, 10].map((bore) => piece('extension', { DCONMS: 16, DCONWS: bore }));
    const { extensions } = ask({}, { extensions: [eight!, ten!] });
    expect(extensions.map(({ component }) => component)).toEqual([ten, eight]);
    expect(extensions.map(({ refusal }) => refusal === null)).toEqual([true, false]);
    const thick = piece('extension', { DCONMS: 25, DCONWS: 10 });
    expect(ask({}, { extensions: [thick] }).extensions[0]!.refusal).toMatch(/larger than the holder takes/);
    expect(ask({ holder: null }, { extensions: [ten!] }).extensions).toEqual([]);
    for (const kind of ['turningHolder', 'turningHolderDouble'] as const)
      expect(ask({ holder: piece(kind, { DCONWS: 25 }) }, { extensions: [ten!] }).extensions).toEqual([]);
  });
  it('nuts, second tools, inserts and knobs: only what fits', () => {
    const nuts = ['K32', 'K25'].map((series) => piece('nut', {}, { series }));
    expect(ask({}, { nuts }).nuts).toEqual([nuts[0]]);
    expect(ask({ holder: null }, { nuts }).nuts).toEqual([]);
    const double = piece('turningHolderDouble', { DCONWS: 25 });
    const seconds = [25, 20].map((shank) => piece('turningTool', { DCONMS: shank }));
    expect(ask({ holder: double }, { seconds }).seconds).toEqual([seconds[0]]);
    expect(ask({}, { seconds }).seconds).toEqual([]);
    expect(ask({ holder: null }, { seconds }).seconds).toEqual([]);
    const faceMill = piece('faceMill', { DC: 50, DCONMS: 22 }, { series: 'SEHT 12' });
    const inserts = ['SEHT 1204', 'APKT 1003'].map((series) => piece('insert', {}, { series }));
    expect(ask({ cutter: faceMill }, { inserts }).inserts).toEqual([inserts[0]]);
    expect(ask({}, { inserts }).inserts).toEqual([]);
    const knobs = ['A40', 'A30'].map((end) => piece('knob', {}, { interface: end }));
    expect(ask({}, { knobs }).knobs).toEqual([knobs[0]]);
    expect(ask({ holder: null }, { knobs }).knobs).toEqual([]);
  });
  it('by the holder’s kind: what goes between, and how many tools', () => {
    for (const kind of COMPONENT_KIND_NAMES) {
      expect(adapterKindsOf(kind)).toEqual(
        kind === 'colletChuck' ? ['collet'] : kind === 'hydraulic' ? ['sleeve'] : [],
      );
      expect(takesTwo(kind)).toBe(kind === 'turningHolderDouble');
    }
    expect([adapterKindsOf(undefined), takesTwo(undefined)]).toEqual([[], false]);
  });
});

describe('how far a cutter usually stands out', () => {
  it('flutes and two millimetres, as far as twice its diameter stays in the holder', () => {
    expect(usualStickOut(endMill, chuck, null)).toBe(mm(24));
    expect(usualStickOut(endMill, chuck, mm(20))).toBe(mm(24));
    expect(usualStickOut(endMill, chuck, mm(40))).toBe(mm(40));
    expect(usualStickOut(endMill, chuck, mm(60))).toBe(mm(52));
    // so little shank that its flutes are all that may stand out
    expect(usualStickOut(piece('endMillSharp', { DCONMS: 10, OAL: 41, LCF: 22 }), chuck, null)).toBe(mm(22));
    expect(usualStickOut(piece('endMillSharp', { DCONMS: 10, OAL: 43, LCF: 22 }), chuck, null)).toBe(mm(23));
    expect(usualStickOut(piece('endMillSharp', { OAL: 43, LCF: 22 }), null, mm(60))).toBe(mm(43));
  });
  it('a turning tool a quarter more than its shank is high; what has no flutes by its own length', () => {
    const tool = piece('turningTool', { DCONMS: 20 });
    for (const kind of ['turningHolder', 'turningHolderDouble'] as const)
      expect(usualStickOut(tool, piece(kind, {}), null)).toBe(mm(25));
    const mill = piece('faceMill', { DC: 50, DCONMS: 22, LF: 40 });
    expect(usualStickOut(mill, piece('arbor', {}), null)).toBe(mm(40));
    expect(usualStickOut(mill, null, null)).toBe(mm(40));
    expect(usualStickOut(piece('faceMill', { LCF: 10 }), null, null)).toBe(0);
    expect(usualStickOut(piece('turningTool', {}), piece('turningHolder', {}), null)).toBe(0);
  });
});
