import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { figures, standOut, type AssemblyShape, type Figure } from './silhouette.ts';
import { turningFigures, turningFiguresStanding } from './turning-figure.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const tool = (kind: AssemblyShape['kind'], over: Partial<AssemblyShape> = {}): AssemblyShape => ({
  kind,
  interface: 'shank 25',
  gaugeLength: mm(150),
  stickOut: mm(32),
  holderDiameter: mm(25),
  diameter: mm(10),
  ...over,
});
const KINDS = ['turning', 'turningBoring', 'grooving', 'parting', 'threading'] as const;
const along = (drawn: readonly Figure[]) => drawn.flat().map(([each]) => each);
const across = (drawn: readonly Figure[]) => drawn.flat().map(([, each]) => each);
/** The angle at the first corner of a figure, by the law of cosines. */
function cornerOf([tip, a, , b]: Figure): number {
  const arm = (to: readonly [number, number]) => [to[0] - tip![0], to[1] - tip![1]] as const;
  const [u, v] = [arm(a!), arm(b!)];
  const cosine = (u[0] * v[0] + u[1] * v[1]) / (Math.hypot(...u) * Math.hypot(...v));
  return (Math.acos(cosine) * 180) / Math.PI;
}

describe('turning tools as they look (common practice, no source)', () => {
  it.each(KINDS)('%s: a shank of its width, an edge at its length, beyond one side only', (kind) => {
    const [shank, edge] = turningFigures(tool(kind)) as [Figure, Figure];
    expect(Math.max(...along([shank, edge]))).toBeCloseTo(150, 9);
    expect(Math.min(...across([shank]))).toBe(-12.5);
    expect(Math.min(...along([shank]))).toBe(0);
    const front = shank.filter(([each]) => each > 120);
    expect(Math.max(...across([edge]))).toBeGreaterThanOrEqual(Math.max(...across([front])));
    expect(Math.min(...across([edge]))).toBeGreaterThan(-12.5);
    for (const value of [...along([shank, edge]), ...across([shank, edge])])
      expect(Number.isFinite(value)).toBe(true);
  });
  it('a rougher has 80 degrees at its corner, a finisher 35; a thread 60', () => {
    expect(cornerOf(turningFigures(tool('turning', { name: 'OD rougher 80 deg' }))[1]!)).toBeCloseTo(80, 6);
    expect(cornerOf(turningFigures(tool('turning', { name: 'OD finisher 35 deg' }))[1]!)).toBeCloseTo(35, 6);
    const [a, tip, b] = turningFigures(tool('threading'))[1]!;
    expect(cornerOf([tip!, a!, a!, b!])).toBeCloseTo(60, 6);
  });
  it('a groove is as wide as its tool, parting reaches further', () => {
    const wide = (kind: 'grooving' | 'parting') => {
      const blade = turningFigures(tool(kind, { diameter: mm(3.2) }))[1]!;
      const tip = Math.max(...across([blade]));
      const corners = blade.filter(([, each]) => each === tip).map(([each]) => each);
      return [Math.max(...corners) - Math.min(...corners), tip] as const;
    };
    expect(wide('grooving')[0]).toBeCloseTo(3.2, 9);
    expect(wide('parting')[1]).toBeGreaterThan(wide('grooving')[1]);
  });
  it('a bar is as thick as it is, and what turns about its axis is drawn as on a mill', () => {
    const bar = turningFigures(tool('turningBoring', { diameter: mm(8) }))[0]!;
    expect(bar.some(([, each]) => each === 4)).toBe(true);
    for (const shape of [
      tool('drill'),
      tool('endMill', { interface: 'steep 40' }),
      tool('turning', { interface: 'hollow 63' }),
    ])
      expect(turningFigures(shape)).toEqual(figures(shape));
  });
  it('standing in a turret it reaches as far as it stands out', () => {
    for (const kind of KINDS)
      expect(Math.max(...along(turningFiguresStanding(tool(kind))))).toBeCloseTo(standOut(tool(kind)), 9);
  });
});
