import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import {
  FEATURE_KINDS,
  middle,
  movesOf,
  otherEnd,
  registerAnswer,
  standing,
  stockSense,
  toleranceWidth,
  withoutRegister,
  type FeatureKind,
  type MachineReckoning,
} from './feature.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const OWN = { tool: 2, row: 12 };
const OTHER = { tool: 5, row: 15 };

/*
 * The metal, apart from the rules: each boundary is a face at a place, a register moves the tip of its tool, and the size is what
 * lies between. Z is away from the chuck or the table, X a radius from the centre line, cutter wear the distance from a wall.
 * Common practice (H14), no source.
 */
interface Metal {
  axis: 'x' | 'z' | 'length' | 'wall';
  /** The size from where the own boundary stands and where the other does. */
  size: (own: number, other: number) => number;
}
const METAL: Partial<Record<FeatureKind, Metal>> = {
  // twice the radius at which the tip stands
  outsideDiameter: { axis: 'x', size: (own) => 2 * own },
  bore: { axis: 'x', size: (own) => 2 * own },
  // from the back end out to the face
  faceLength: { axis: 'z', size: (own, other) => own - other },
  // from the front face in to the shoulder or the parted face
  shoulder: { axis: 'z', size: (own, other) => other - own },
  partedLength: { axis: 'z', size: (own, other) => other - own },
  // from its back edge out to its front edge
  grooveWidth: { axis: 'z', size: (own, other) => own - other },
  height: { axis: 'length', size: (own, other) => own - other },
  depth: { axis: 'length', size: (own, other) => other - own },
  // walls stand off the path by the wear of the cutter: outside further apart, in a pocket nearer each other
  outsideWidth: { axis: 'wall', size: (own, other) => own + other },
  pocketWidth: { axis: 'wall', size: (own, other) => -own - other },
  wall: { axis: 'wall', size: (own, other) => own + other },
};
const ROLE = { x: 'xWear', z: 'zWear', length: 'lengthWear', wall: 'cutterWear' } as const;
/** How far a boundary moves when its register is moved by one. */
const perUnit = (axis: Metal['axis'], reckoning: MachineReckoning) =>
  axis === 'x'
    ? reckoning.x === 'diameter'
      ? 0.5
      : 1
    : axis === 'wall' && reckoning.cutter === 'diameter'
      ? 0.5
      : 1;
const RECKONINGS: MachineReckoning[] = (['diameter', 'radius'] as const).flatMap((x) =>
  (['diameter', 'radius'] as const).map((cutter) => ({ x, cutter })),
);
const TWO_ENDED = FEATURE_KINDS.filter((kind) => METAL[kind] && METAL[kind].axis !== 'x');
/** One tool goes round: it cuts both sides as long as no other is named. */
const BOTH_SIDES: FeatureKind[] = ['outsideWidth', 'pocketWidth'];

describe('which registers a size answers to, and by how much, held against the metal (H14)', () => {
  it.each(FEATURE_KINDS)('%s: by its own tool alone', (kind) => {
    for (const reckoning of RECKONINGS) {
      const metal = METAL[kind];
      const moves = movesOf({ kind, ...OWN, other: null }, reckoning);
      if (!metal) {
        expect(moves).toEqual([]);
        expect(registerAnswer(kind, reckoning)).toBeNull();
        continue;
      }
      const step = perUnit(metal.axis, reckoning);
      const by = metal.size(step, BOTH_SIDES.includes(kind) ? step : 0);
      expect(moves).toEqual([{ ...OWN, role: ROLE[metal.axis], by }]);
      expect(registerAnswer(kind, reckoning)).toEqual({ role: ROLE[metal.axis], sensitivity: by });
    }
  });
  it.each(FEATURE_KINDS)('%s: with another tool named for its other end', (kind) => {
    for (const reckoning of RECKONINGS) {
      const moves = movesOf({ kind, ...OWN, other: OTHER }, reckoning);
      const metal = METAL[kind];
      if (!metal || !TWO_ENDED.includes(kind)) {
        // there is no other end: what was named for it moves nothing
        expect(moves).toEqual(movesOf({ kind, ...OWN, other: null }, reckoning));
        continue;
      }
      const step = perUnit(metal.axis, reckoning);
      expect(moves).toEqual([
        { ...OWN, role: ROLE[metal.axis], by: metal.size(step, 0) },
        { ...OTHER, role: ROLE[metal.axis], by: metal.size(0, step) },
      ]);
    }
  });
  it.each(FEATURE_KINDS)('%s: both ends cut with one row', (kind) => {
    for (const reckoning of RECKONINGS) {
      const metal = METAL[kind];
      if (!metal || !TWO_ENDED.includes(kind)) continue;
      const step = perUnit(metal.axis, reckoning);
      const by = metal.size(step, step);
      expect(movesOf({ kind, ...OWN, other: { tool: 5, row: 12 } }, reckoning)).toEqual(
        by === 0 ? [] : [{ ...OWN, role: ROLE[metal.axis], by }],
      );
    }
  });
  it('names the other end just where there is one that a tool could cut', () => {
    for (const kind of FEATURE_KINDS) expect(otherEnd(kind) !== null).toBe(TWO_ENDED.includes(kind));
    expect(otherEnd('grooveWidth')).toMatch(/back edge/);
    expect(otherEnd('shoulder')).toMatch(/front face/);
    expect(otherEnd('depth')).toMatch(/top/);
    expect(otherEnd('faceLength')).toMatch(/back end/);
    expect(otherEnd('pocketWidth')).toMatch(/side/);
  });
  it('more stock shows as a larger size outside, as a smaller one inside', () => {
    const inside: FeatureKind[] = [
      'bore',
      'shoulder',
      'grooveWidth',
      'depth',
      'pocketWidth',
      'cutHole',
      'dialledBore',
    ];
    for (const kind of FEATURE_KINDS)
      expect([kind, stockSense(kind)]).toEqual([kind, inside.includes(kind) ? -1 : 1]);
  });
  it('says what to do about a size that no register holds', () => {
    const said = (kind: FeatureKind, other: typeof OTHER | null = null) =>
      withoutRegister({ kind, row: 12, other });
    expect(said('cutHole')).toMatch(/replace or regrind/);
    expect(said('dialledBore')).toMatch(/by hand/);
    expect(said('position')).toMatch(/work offset/);
    expect(said('position', OTHER)).toMatch(/work offset/);
    expect(said('shoulder', { tool: 5, row: 12 })).toMatch(/^Row 12 cuts both ends/);
  });
});

describe('limits as a drawing gives them', () => {
  const seat = { nominal: mm(36.525), upper: mm(0.025), lower: mm(0) };
  it('1.438 +0.001/−0 in is aimed at 1.4385 (H14); the width is the upper less the lower', () => {
    const limits = { nominal: lengthOf(1.438, 'in'), upper: lengthOf(0.001, 'in'), lower: lengthOf(0, 'in') };
    expect(middle(limits)).toBe(lengthOf(1.4385, 'in'));
    expect(middle({ nominal: mm(20), upper: mm(-0.02), lower: mm(-0.041) })).toBe(mm(19.9695));
    expect(toleranceWidth({ ...seat, lower: mm(-0.01) })).toBe(mm(0.035));
  });
  it('a limit itself is in', () => {
    expect(standing(mm(36.55), seat)).toBe('in');
    expect(standing(mm(36.525), seat)).toBe('in');
    expect(standing(mm(36.550001), seat)).toBe('over');
    expect(standing(mm(36.524999), seat)).toBe('under');
  });
});
