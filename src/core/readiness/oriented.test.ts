import { describe, expect, it } from 'vitest';
import { boringShift } from '../program/boring-shift.ts';
import type { ToolCall } from '../program/reading.ts';
import { nanometres } from '../units/length.ts';
import { orientedFindings, type ShiftSetting } from './oriented.ts';

const MM: ShiftSetting = { boringShift: 'X+', unit: 'mm' };
/** A call of a fine boring bar whose cycles say these words, from line 20 on. */
const bar = (...words: Partial<Record<'q' | 'i' | 'j', number>>[]) =>
  [
    {
      tool: 8,
      boringShifts: words.map((each, i) => ({
        line: 20 + i,
        ...boringShift({ q: null, i: null, j: null, ...each })!,
      })),
    },
  ] as unknown as ToolCall[];
const said = (calls: ToolCall[], setting = MM) =>
  orientedFindings(calls, setting).map(({ weight, line, sentence }) => `${weight} ${line}: ${sentence}`);

describe('an oriented tool before its job (H10, H17)', () => {
  it('no fine boring cycle, no question', () => expect(said(bar())).toEqual([]));
  it('says where the tip must point', () => {
    expect(said(bar({ q: 0.2 }))).toEqual([
      'look 20: T8 is shifted X+ by 0.200 mm on line 20: its tip must point X−.',
    ]);
    expect(said(bar({ q: 0.2 }), { ...MM, boringShift: 'Y+' })[0]).toMatch(/shifted Y\+ .* must point Y−/);
    expect(said(bar({ j: -0.2 }))[0]).toMatch(/shifted Y− .* must point Y\+/);
  });
  it('two ways in one program stop the job: one bar cannot face both', () => {
    expect(said(bar({ q: 0.2 }, { j: 0.2 }))).toEqual([
      'stop 20: T8 is shifted X+ and Y+: one bar cannot point both ways.',
    ]);
    expect(said(bar({ q: 0.2 }, { i: 0.1 }))).toHaveLength(1);
    expect(said(bar({ i: 0.1, j: 0.1 }))[0]).toMatch(/^stop .* no tip can be set to that/);
  });
  it('I or J beside a Q stops the job: the Q must go', () => {
    expect(said(bar({ q: 0.2, j: 0.2 }))).toContain(
      'stop 20: I or J on line 20 has no effect: Q overrides it, and T8 is shifted X+.',
    );
  });
  it('half an inch is asking for a broken bar; 0.010 in is plenty (common practice, no source)', () => {
    const inch: ShiftSetting = { boringShift: 'X+', unit: 'in' };
    expect(said(bar({ q: 12.7 }), inch)[1]).toBe(
      'look 20: T8 is shifted by 0.5000 in on line 20; 0.0100 in is plenty.',
    );
    expect(said(bar({ q: 0.254 }), inch)).toHaveLength(1);
    expect(nanometres(254_000)).toBe(254_000);
  });
});
