import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import type { ChangerShape } from './layout.ts';
import { orientationOf, wantedFault, type WantedPocket, type WantedTool } from './wanted.ts';

const ring: ChangerShape = { kind: 'randomAccess', places: 12, pitch: 80 };
const pockets = (over: Record<number, Partial<WantedPocket>> = {}): WantedPocket[] =>
  Array.from({ length: 12 }, (_, i) => ({
    number: i + 1,
    inService: true,
    reserved: false,
    wide: false,
    tied: null,
    cell: null,
    assemblyId: null,
    ...over[i + 1],
  }));
const tool = (number: number, pocket: number, over: Partial<WantedTool> = {}): WantedTool => ({
  assemblyId: 100 + number,
  number: `A-${number}`,
  name: '',
  tool: number,
  pocket,
  wide: false,
  heavy: false,
  radius: null,
  orientation: null,
  ...over,
});
const fault = (
  tools: WantedTool[],
  table = pockets(),
  radii: [number, number][] = [],
  out: number[] = [],
  shape = ring,
) =>
  wantedFault(
    shape,
    99,
    table,
    { tools, out },
    new Map(radii.map(([id, radius]) => [id, { radius, widest: lengthOf(2 * radius, 'mm') }])),
  );

describe('what a machine can be wanted to hold', () => {
  it('each T once, each pocket once, and only those that are there', () => {
    expect(fault([tool(1, 1), tool(2, 2)])).toBeNull();
    expect(fault([tool(1, 1), tool(2, 1)])).toBe('Two tools are wanted in pocket 1.');
    expect(fault([tool(1, 1), tool(1, 2)])).toBe('T1 is wanted twice.');
    expect(fault([tool(1, 13)])).toMatch(/no such place/);
    expect(fault([tool(100, 1)])).toMatch(/no such place or T/);
  });
  it('nothing new into a pocket out of service; what hangs there already may stay', () => {
    expect(fault([tool(1, 4)], pockets({ 4: { inService: false } }))).toMatch(/Pocket 4, for T1, is out/);
    expect(fault([tool(1, 4)], pockets({ 4: { inService: false, assemblyId: 101 } }))).toBeNull();
  });
  it('a holder goes into no smaller cell; one that hangs there hangs there', () => {
    const cell = lengthOf(60, 'mm');
    expect(fault([tool(1, 4)], pockets({ 4: { cell } }), [[101, 31]])).toBe(
      'T1 does not fit the cell of pocket 4.',
    );
    expect(fault([tool(1, 4)], pockets({ 4: { cell } }), [[101, 30]])).toBeNull();
    expect(fault([tool(1, 4)], pockets({ 4: { cell, assemblyId: 101 } }), [[101, 31]])).toBeNull();
  });
  it('a declared pocket is for its own T, and its neighbours for nothing (H5)', () => {
    const table = pockets({ 4: { wide: true, tied: 7 } });
    expect(fault([tool(7, 4)], table)).toBeNull();
    expect(fault([tool(1, 4)], table)).toMatch(/declared wide for T7/);
    expect(fault([tool(1, 5)], table)).toMatch(/beside pocket 4, which is declared wide/);
  });
  it('a wide tool takes three pockets; two that share the gap take five (H5)', () => {
    const wide = { wide: true };
    expect(fault([tool(1, 4, wide), tool(2, 5)])).toBe('T1 is wide: pocket 5 beside it must stay empty.');
    expect(fault([tool(1, 4, wide), tool(2, 6, wide), tool(3, 8), tool(4, 2)])).toBeNull();
  });
  it('the neighbour of a wide tool counts when it stays, not when it goes', () => {
    const table = pockets({ 5: { assemblyId: 500 } });
    expect(fault([tool(1, 4, { wide: true })], table)).toMatch(/pocket 5 beside it/);
    expect(fault([tool(1, 4, { wide: true })], table, [], [500])).toBeNull();
  });
  it('two tools of 90 mm do not hang side by side at a pitch of 80', () => {
    const radii: [number, number][] = [
      [101, 45],
      [102, 45],
    ];
    expect(fault([tool(1, 4), tool(2, 5)], pockets(), radii)).toMatch(/would strike the tool beside it/);
    expect(fault([tool(1, 4), tool(2, 6)], pockets(), radii)).toBeNull();
    // on a turret what stands out is looked at as swing
    expect(fault([tool(1, 4), tool(2, 5)], pockets(), radii, [], { ...ring, kind: 'turret' })).toBeNull();
  });
  it('a fine boring bar has a tip that faces somewhere, a probe a mark; others do not matter (H10)', () => {
    expect(['boringBar', 'probe', 'endMill', 'drill'].map(orientationOf)).toEqual([
      'tip',
      'probe',
      null,
      null,
    ]);
  });
});
