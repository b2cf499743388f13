import { describe, expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import { calibrate, changeSeconds } from './change-time.ts';
import { clashes, ringLoad, turretSwing } from './clearance.ts';
import { toolsHeld, type ChangerShape } from './layout.ts';
import { indexSteps, neighbours, windowAbout } from './neighbours.ts';
import { blockedBy, pocketsTaken, wideRefusals, type TablePocket, type WideQuestion } from './wide.ts';

const COMMON = checks.commonPractice;
const ring = (places: number, pitch = 63.5): ChangerShape => ({ kind: 'randomAccess', places, pitch });
const table = (
  places: number,
  tools: Record<number, number>,
  over: Partial<TablePocket> = {},
): TablePocket[] =>
  Array.from({ length: places }, (_, i) => ({
    number: i + 1,
    tool: tools[i + 1] ?? null,
    wide: false,
    tied: null,
    inService: true,
    reserved: false,
    ...over,
  }));
const asks = (over: Partial<WideQuestion> = {}): WideQuestion => ({
  shape: ring(30),
  pockets: table(30, {}),
  pocket: 10,
  tool: 40,
  atSpindle: null,
  spindleTool: null,
  highestTool: 200,
  seenEmpty: true,
  ...over,
});

describe('declared width (common practice, no source: H5)', () => {
  it('one wide tool takes three pockets, two that share the gap take five', () => {
    expect(pocketsTaken(ring(30), [10]).size).toBe(COMMON.pocketsTakenByWideTools.one);
    expect(pocketsTaken(ring(30), [10, 12]).size).toBe(COMMON.pocketsTakenByWideTools.two);
    expect(pocketsTaken(ring(30), [10, 13]).size).toBe(6);
  });
  it('the first and the last pocket of a ring are neighbours; those of a rack are not', () => {
    expect([...pocketsTaken(ring(30), [1])].sort((a, b) => a - b)).toEqual([1, 2, 30]);
    expect(pocketsTaken({ kind: 'rack', places: 10, pitch: 120 }, [1]).size).toBe(2);
    expect(neighbours({ kind: 'chain', places: 60, pitch: 100 }).get(60)).toEqual([1, 59]);
    expect(neighbours({ kind: 'tray', places: 96, pitch: 55 }).get(20)).toHaveLength(4);
  });
  it('an empty pocket between empty neighbours may be declared', () => {
    expect(wideRefusals(asks())).toEqual([]);
  });
  it('neither the pocket nor a neighbour may hold a tool on the table', () => {
    expect(wideRefusals(asks({ pockets: table(30, { 10: 4 }) })).join()).toMatch(/Pocket 10 holds T4/);
    expect(wideRefusals(asks({ pockets: table(30, { 9: 5, 11: 6 }) })).join()).toMatch(
      /neighbour 9 holds T5.*neighbour 11 holds T6/,
    );
  });
  it('the table does not know the metal: somebody must have looked', () => {
    expect(wideRefusals(asks({ seenEmpty: false })).join()).toMatch(/empty in the metal too/);
  });
  it('the pocket at the spindle may not be declared', () => {
    expect(wideRefusals(asks({ atSpindle: 10 })).join()).toMatch(/is the one at the spindle/);
  });
  it('the T must not exist elsewhere on the table, nor be tied elsewhere, nor be in the spindle', () => {
    expect(wideRefusals(asks({ pockets: table(30, { 20: 40 }) })).join()).toMatch(/T40 .* pocket/);
    const tied = table(30, {}).map((each) => (each.number === 20 ? { ...each, wide: true, tied: 40 } : each));
    expect(wideRefusals(asks({ pockets: tied })).join()).toMatch(/tied to pocket 20/);
    expect(wideRefusals(asks({ spindleTool: 40 })).join()).toMatch(/in the spindle/);
  });
  it('two wide pockets side by side are refused; with one between them they share it', () => {
    const wide = table(30, {}).map((each) => (each.number === 11 ? { ...each, wide: true, tied: 7 } : each));
    expect(wideRefusals(asks({ pockets: wide })).join()).toMatch(/neighbour 11 is declared wide itself/);
    expect(wideRefusals(asks({ pockets: wide, pocket: 9 }))).toEqual([]);
    expect(blockedBy(ring(30), new Set([11]), 10)).toBe(11);
    expect(blockedBy(ring(30), new Set([11]), 9)).toBeNull();
  });
  it('on a carousel of fixed pockets nothing is declared', () => {
    const shape: ChangerShape = { kind: 'fixedCarousel', places: 20, pitch: 95 };
    expect(wideRefusals(asks({ shape, pockets: table(20, {}) })).join()).toMatch(/T n lives in pocket n/);
  });
});

describe('true geometry', () => {
  const tool = (pocket: number, radius: number, mass: number | null = 1000) => ({
    pocket,
    tool: pocket,
    radius,
    mass,
  });
  it('two tools as wide as the pitch touch; the flange is as wide as the pitch on a common changer', () => {
    expect(clashes(ring(30), [tool(1, 63.5 / 2), tool(2, 63.5 / 2)], 0)).toEqual([]);
    const [clash] = clashes(ring(30), [tool(1, 40), tool(2, 31.75)], 0);
    expect(clash!.gap).toBeCloseTo(63.5 - 71.75, 9);
  });
  it('a tool of 100 mm reaches its neighbour on a pitch of 80 but not the next but one', () => {
    const shape = ring(30, 80);
    expect(clashes(shape, [tool(5, 50), tool(6, 31)])).toHaveLength(1);
    expect(clashes(shape, [tool(5, 50), tool(7, 50)])).toHaveLength(0);
  });
  it('a ring loaded evenly is balanced, one tool is out by its mass times the radius', () => {
    const shape = ring(24, 80);
    const all = Array.from({ length: 24 }, (_, i) => tool(i + 1, 20, 3000));
    expect(ringLoad(shape, all).unbalance).toBeCloseTo(0, 6);
    expect(ringLoad(shape, all).total).toBe(72_000);
    const one = ringLoad(shape, [tool(7, 20, 3000)]);
    expect(one.unbalance).toBeCloseTo((3 * 80) / (2 * Math.sin(Math.PI / 24)), 6);
    expect(one.towards).toBe(7);
    expect(ringLoad(shape, [tool(7, 20, null)])).toMatchObject({ unknown: 1, towards: null });
  });
  it('a turret swings its radius and what stands out, on both sides', () => {
    const shape: ChangerShape = { kind: 'turret', places: 4, pitch: 100 * Math.SQRT2 };
    expect(turretSwing(shape, [30, 45])).toBeCloseTo(290, 9);
  });
});

describe('indexing and its time', () => {
  it('a ring goes the shorter way, a rack straight, a tray is fetched from', () => {
    expect(indexSteps(ring(30), 2, 28)).toBe(4);
    expect(indexSteps({ kind: 'rack', places: 10, pitch: 120 }, 1, 9)).toBe(8);
    expect(indexSteps({ kind: 'tray', places: 96, pitch: 55 }, 1, 90)).toBe(0);
    expect(windowAbout(ring(30), 1, 3)).toEqual([30, 1, 2]);
    expect(windowAbout({ kind: 'rack', places: 10, pitch: 120 }, 1, 3)).toBeNull();
  });
  it('with the spindle a changer holds one tool more than pockets (common practice, no source)', () => {
    expect(toolsHeld(ring(30))).toBe(COMMON.toolsHeld.pockets30);
    expect(toolsHeld(ring(24))).toBe(COMMON.toolsHeld.pockets24);
  });
  it('two timed changes give arm and index time; two alike or impossible ones are refused', () => {
    const answer = calibrate({ pockets: 1, seconds: 4.3 }, { pockets: 10, seconds: 7 });
    expect(answer).toMatchObject({ ok: true });
    if (answer.ok)
      expect([answer.arm, answer.perPocket].map((each) => each.toFixed(6))).toEqual(['4.000000', '0.300000']);
    expect(calibrate({ pockets: 3, seconds: 4 }, { pockets: 3, seconds: 5 }).ok).toBe(false);
    expect(calibrate({ pockets: 1, seconds: 5 }, { pockets: 9, seconds: 4 }).ok).toBe(false);
    expect(calibrate({ pockets: 1, seconds: 1 }, { pockets: 2, seconds: 9 }).ok).toBe(false);
  });
  it('a carousel waits for indexing; a pre-staging magazine only when the cut is shorter than the index', () => {
    const times = { arm: 2, perPocket: 0.5, heavyFactor: 1.5, preStaging: false };
    expect(changeSeconds(ring(20), times, 1, 11, false, 60)).toBe(7);
    const staging = { ...times, preStaging: true };
    expect(changeSeconds(ring(20), staging, 1, 11, false, 60)).toBe(2);
    expect(changeSeconds(ring(20), staging, 1, 11, false, 3)).toBe(4);
    expect(changeSeconds(ring(20), staging, 1, 11, true, 60)).toBe(3);
  });
});
