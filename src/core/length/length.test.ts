import fc from 'fast-check';
import { expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import { pointHeight, silhouette, sweptRadius } from '../assembly/silhouette.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import { TIP_DIRECTIONS, tipWords } from './tip-direction.ts';
import { mixedMethods, rebaseRegister, transferLength } from './transfer.ts';
import {
  gaugeLengthFromRegister,
  LENGTH_SCHOOLS,
  registerFromGaugeLength,
  type LengthReference,
} from './schools.ts';

const reference = { planeConstant: lengthOf(-412.6, 'mm'), masterLength: lengthOf(87.25, 'mm') };

it('a tool of 120.351 mm is keyed as 120.351, −292.249 or 33.101 by school (B = K + L, C = L − L_M; worked by hand)', () => {
  const keyed = LENGTH_SCHOOLS.map((school) =>
    registerFromGaugeLength(lengthOf(120.351, 'mm'), { school, ...reference }),
  );
  expect(keyed).toEqual([lengthOf(120.351, 'mm'), lengthOf(-292.249, 'mm'), lengthOf(33.101, 'mm')]);
});

it('a register leads back to the gauge length it came from, in every school', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 4e8 }), fc.constantFrom(...LENGTH_SCHOOLS), (nm, school) => {
      const there = registerFromGaugeLength(nanometres(nm), { school, ...reference });
      expect(gaugeLengthFromRegister(there, { school, ...reference })).toBe(nm);
    }),
  );
});

it('the point of a 118° drill is 0.3004 × D high (geometry)', () => {
  expect(checks.drillPoint.rule).toContain('0.3004');
  expect(pointHeight(10, 118)).toBeCloseTo(3.004, 3);
});

it('a silhouette ends at the gauge length and is as wide as the widest of flange, holder and cutter', () => {
  const mm = (value: number) => lengthOf(value, 'mm');
  const face = {
    kind: 'faceMill',
    interface: 'steep 40',
    gaugeLength: mm(95),
    stickOut: mm(40),
    holderDiameter: mm(50),
    diameter: mm(80),
  } as const;
  expect(Math.max(...silhouette(face).map(([along]) => along))).toBe(95);
  expect(sweptRadius(face)).toBe(40);
  expect(sweptRadius({ ...face, diameter: mm(10) })).toBeCloseTo(63.55 / 2);
});

it('a length is carried from a touch-off machine in inches to a gauge-length one in millimetres (worked by hand)', () => {
  // K = −18 in, register −13.25 in: L = 4.75 in = 120.65 mm
  const from = {
    school: 'touchOff',
    planeConstant: lengthOf(-18, 'in'),
    masterLength: nanometres(0),
  } as const;
  const to = { school: 'gaugeLength', planeConstant: nanometres(0), masterLength: nanometres(0) } as const;
  expect(transferLength(lengthOf(-13.25, 'in'), from, to, nanometres(1000))).toMatchObject({
    gaugeLength: lengthOf(4.75, 'in'),
    register: lengthOf(120.65, 'mm'),
  });
});

it('there and back again is the same register, to half of the other machine’s increment', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 20_000_000, max: 400_000_000 }),
      fc.constantFrom(...LENGTH_SCHOOLS),
      fc.constantFrom(...LENGTH_SCHOOLS),
      fc.constantFrom(1000, 2540),
      (nm, p, q, increment) => {
        const [from, to] = [
          { school: p, ...reference },
          { school: q, planeConstant: lengthOf(-500, 'mm'), masterLength: lengthOf(75, 'mm') },
        ];
        const there = transferLength(nanometres(nm), from, to, nanometres(increment));
        const back = transferLength(there.register, to, from, nanometres(1));
        expect(Math.abs(back.register - nm)).toBeLessThanOrEqual(increment / 2);
      },
    ),
  );
});

it('re-basing moves every filled row by the change of the plane, and leaves an empty one empty', () => {
  const before = { school: 'touchOff', ...reference } as const;
  const after = { ...before, planeConstant: lengthOf(-410.1, 'mm') };
  expect(rebaseRegister(lengthOf(-292.249, 'mm'), before, after, nanometres(1000))).toBe(
    lengthOf(-289.749, 'mm'),
  );
  expect(rebaseRegister(nanometres(0), before, after, nanometres(1000))).toBe(0);
  const master = { school: 'masterTool', ...reference } as const;
  // a master that is 2 mm longer makes every tool 2 mm shorter by comparison
  expect(
    rebaseRegister(
      lengthOf(33.101, 'mm'),
      master,
      { ...master, masterLength: lengthOf(89.25, 'mm') },
      nanometres(1000),
    ),
  ).toBe(lengthOf(31.101, 'mm'));
});

it('the master that goes keeps its length: it is now what it differs by from the one that comes, and that one is at zero', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 40_000, max: 300_000 }),
      fc.integer({ min: 40_000, max: 300_000 }),
      (old, next) => {
        const [from, to] = [old, next].map((micron) => ({
          school: 'masterTool' as const,
          ...reference,
          masterLength: nanometres(micron * 1000),
        })) as [LengthReference, LengthReference];
        const step = nanometres(1000);
        expect(rebaseRegister(nanometres(0), from, to, step, true)).toBe((old - next) * 1000);
        expect(rebaseRegister(nanometres((next - old) * 1000), from, to, step, true)).toBe(0);
        // a row that nobody measured is no tool as long as the master
        expect(rebaseRegister(nanometres(0), from, to, step)).toBe(0);
      },
    ),
  );
  const plane = { school: 'touchOff', ...reference } as const;
  expect(
    rebaseRegister(nanometres(0), plane, { ...plane, planeConstant: nanometres(1) }, nanometres(1), true),
  ).toBe(0);
});

it('one set-up measured in two ways is reported, one way is not (common practice, no source)', () => {
  expect(
    mixedMethods([
      { tool: 1, method: 'presetter' },
      { tool: 2, method: 'presetter' },
      { tool: 5, method: 'touchOff' },
    ]),
  ).toMatch(/presetter: T1, T2; touched off: T5/);
  expect(
    mixedMethods([
      { tool: 1, method: 'presetter' },
      { tool: 2, method: 'rebase' },
      { tool: 3, method: 'typed' },
    ]),
  ).toBeNull();
});

it('the eight tip directions stand around the nose once each', () => {
  expect(new Set(TIP_DIRECTIONS.map(({ x, z }) => `${x} ${z}`)).size).toBe(9);
  expect(tipWords(3)).toBe('points to X− and Z−');
  expect(tipWords(2)).toBe('points to X+ and Z−');
  expect(tipWords(0)).toBe('not set');
});
