import { describe, expect, it } from 'vitest';
import { atPresentSpeed, speedsRun, type RunEdge } from './speeds-run.ts';
import { chance } from '../../../tests/support/chance.ts';
import { ANY_SHAPE } from './weibull.ts';

const costs = { planned: 1400, failure: 6000, minutes: 6, perMinute: 100 };
const edge = (program: string | null, speed: number | null, minutes: number | null): RunEdge => ({
  program,
  speed,
  minutes,
  life: 100,
  end: 'worn',
});

describe('the speeds at which edges of a program ran', () => {
  it('two programs are not compared: one speed in each says nothing of speed', () => {
    const run = speedsRun(
      [1, 2, 3, 4].flatMap((i) => [edge('O1', 100, 30 + i), edge('O2', 150, 10 + i)]),
      ANY_SHAPE,
      costs,
    )!;
    expect([run.speeds.length, run.taylor, run.best]).toEqual([1, null, null]);
  });
  it('the program with the most speeds speaks; speeds within a twentieth are one; what is not known is left out', () => {
    const edges = [
      ...Array.from({ length: 9 }, () => edge('O1', 100, 30)),
      edge('O2', 100, 40),
      edge('O2', 104, 38),
      edge('O2', 150, 12),
      edge('O2', null, 12),
      edge('O2', 150, null),
      edge(null, 90, 12),
    ];
    const run = speedsRun(edges, ANY_SHAPE, costs)!;
    expect([run.program, run.present]).toEqual(['O2', 150]);
    expect(run.speeds).toEqual([
      { speed: 102, edges: 2, ends: 2 },
      { speed: 150, edges: 1, ends: 1 },
    ]);
    // a line can be drawn through three, and nothing told from it
    expect(run.taylor).not.toBeNull();
    expect(run.best).toBeNull();
    expect(speedsRun([edge('O1', null, 3)], ANY_SHAPE, costs)).toBeNull();
  });
  it('never sends beyond what was run', () => {
    const { next } = chance(4);
    const at = (speed: number) => edge('O1', speed, 4 * (150 / speed) ** 4 * (-Math.log(next())) ** (1 / 3));
    const edges = Array.from({ length: 40 }, (_, i) => at(i % 2 ? 150 : 120));
    const { best, taylor } = speedsRun(edges, ANY_SHAPE, costs)!;
    // lives of minutes and a change that costs fourteen: slower than anything that was run
    expect(best!.cheapest.run).toBe(false);
    expect(best!.within.speed).toBe(taylor!.from);
    expect(best!.within.costs).toBeLessThan(1);
  });
  it('a limit is learnt from edges that ran as they run now', () => {
    const edges = [
      edge('O1', 45, 1),
      edge('O1', null, 2),
      edge('O1', 37, 3),
      edge('O1', 38, 4),
      edge('O1', null, 5),
    ];
    expect(atPresentSpeed(edges).map(({ minutes }) => minutes)).toEqual([2, 3, 4, 5]);
    expect(atPresentSpeed(edges.slice(0, 2)).length).toBe(2);
    expect(atPresentSpeed([edge('O1', null, 1)]).length).toBe(1);
  });
  it('each program runs at its own: a light metal beside it leaves out nothing', () => {
    const edges = [edge('O1', 90, 1), edge('O2', 300, 2), edge('O1', 91, 3), edge('O2', 305, 4)];
    expect(atPresentSpeed(edges).length).toBe(4);
  });
  it('a program that was made faster since has no edges yet that speak for it', () => {
    const edges = [edge('O1', 90, 1), edge('O2', 300, 2), edge('O1', null, 3)];
    expect(atPresentSpeed(edges, { program: 'O1', speed: 120 }).map(({ minutes }) => minutes)).toEqual([
      2, 3,
    ]);
    expect(atPresentSpeed(edges, { program: 'O1', speed: null }).length).toBe(3);
  });
});
