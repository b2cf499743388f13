import fc from 'fast-check';
import { expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import { pointHeight, silhouette, sweptRadius } from '../assembly/silhouette.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import { gaugeLengthFromRegister, LENGTH_SCHOOLS, registerFromGaugeLength } from './schools.ts';

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
