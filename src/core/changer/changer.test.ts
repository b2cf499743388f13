import { CHANGER_KINDS } from './traits.ts';
import { describe, expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import { changerLayout, toolsHeld } from './layout.ts';
import { placingRefusal, type PlaceQuestion } from './place-tool.ts';

describe('changers drawn to scale', () => {
  it.each(CHANGER_KINDS)(
    'on a %s every pocket is at least a pitch from the next, but for the bend of a chain',
    (kind) => {
      const spots = changerLayout({ kind, places: 30, pitch: 80 });
      expect(spots.map((spot) => spot.number)).toEqual(Array.from({ length: 30 }, (_, i) => i + 1));
      const nearest = Math.min(
        ...spots.flatMap((a, i) => spots.slice(i + 1).map((b) => Math.hypot(a.x - b.x, a.y - b.y))),
      );
      // round a wheel the pitch lies on the arc: six pockets in half a turn are a chord of 98.9 % of it
      expect(nearest).toBeGreaterThan(kind === 'chain' ? 79 : 79.999);
    },
  );
  it('with the spindle a changer holds one more than its pockets (H4; common practice, no source)', () => {
    const { pockets30, pockets24 } = checks.commonPractice.toolsHeld;
    expect(toolsHeld({ kind: 'randomAccess', places: 30, pitch: 63.5 })).toBe(pockets30);
    expect(toolsHeld({ kind: 'fixedCarousel', places: 24, pitch: 63.5 })).toBe(pockets24);
    expect(toolsHeld({ kind: 'turret', places: 12, pitch: 60 })).toBe(12);
  });
});

describe('placing a tool', () => {
  const fine: PlaceQuestion = {
    changer: 'randomAccess',
    place: { number: 7, kind: 'pocket', inService: true, reserved: false },
    tool: 12,
    highestTool: 200,
    occupant: null,
    toolElsewhere: null,
    assemblyElsewhere: null,
    assemblyFlag: null,
    standing: null,
    spindleSure: true,
    fits: { assembly: '40-taper', machine: '40-taper' },
  };
  const refusal = (over: Partial<PlaceQuestion>) => placingRefusal({ ...fine, ...over });
  it('is allowed where nothing speaks against it', () => expect(refusal({})).toBeNull());
  it.each([
    ['T0 is no tool', { tool: 0 }, /T0 means/],
    ['a T above the range', { tool: 201 }, /1 to 200/],
    ['a T that exists', { toolElsewhere: 'pocket 3' }, /unique on a machine/],
    ['an assembly that is elsewhere', { assemblyElsewhere: 'Bittern, pocket 2' }, /one place/],
    ['a full pocket', { occupant: 'T4' }, /take it out first/],
    ['a pocket out of service', { place: { ...fine.place, inService: false } }, /out of service/],
    ['a reserved pocket', { place: { ...fine.place, reserved: true } }, /reserved/],
    ['another taper', { fits: { assembly: '30-taper', machine: '40-taper' } }, /this machine takes 40-taper/],
    ['a broken tool', { assemblyFlag: 'broken' as const }, /flagged broken/],
    ['another T in a fixed pocket', { changer: 'fixedCarousel' as const }, /no other T/],
  ])('%s is refused with its reason', (_, over, words) => expect(refusal(over)).toMatch(words));
});
