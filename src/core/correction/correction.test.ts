import { describe, expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import type { FeatureKind } from '../inspection/feature.ts';
import { middle } from '../inspection/feature.ts';
import { lengthOf, nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { parseLength } from '../units/parse-length.ts';
import { averageOfLast, harmonicShare } from './estimate.ts';
import { propose, type FeatureAim } from './propose.ts';
import { explainReadBack } from './read-back.ts';

const inch = (value: number) => lengthOf(value, 'in');
const mm = (value: number) => lengthOf(value, 'mm');
const LATHE = { x: 'diameter', cutter: 'radius' } as const;
const aim = (
  kind: FeatureKind,
  nominal: Length,
  upper: Length,
  lower: Length,
  over: Partial<FeatureAim> = {},
): FeatureAim => ({
  kind,
  nominal,
  upper,
  lower,
  target: middle({ nominal, upper, lower }),
  policy: 'deadBand',
  deadBand: nanometres(0),
  averageOf: 1,
  ...over,
});
const register = (unit: LengthUnit, value = nanometres(0)) => ({
  value,
  increment: unit === 'in' ? inch(0.0001) : mm(0.001),
  unit,
  limit: mm(2),
});
const one = (reading: Length) => ({ readings: [reading], partAfterSetUp: null, confirmed: true });
const changeOf = (answer: ReturnType<typeof propose>) => (answer.verdict === 'change' ? answer.change : null);

describe('corrections of the handbook (common practice, no source)', () => {
  const { odCorrection: od, boreCorrection: bore, lengthWearDeeper: deeper } = checks.commonPractice;
  it('an OD aimed at 1.4965 and measured 1.5074 asks for X wear −0.0109', () => {
    const answer = propose(
      aim('outsideDiameter', inch(od.target), inch(0.0002), inch(-0.0002)),
      LATHE,
      register('in'),
      one(inch(od.measured)),
    );
    expect(changeOf(answer)).toBe(inch(od.wearX));
  });
  it('a bore of 1.438 +0.001/−0 is aimed at 1.4385; measured 1.4333 it asks for +0.0052', () => {
    const feature = aim('bore', inch(bore.nominal), inch(bore.plus), inch(bore.minus));
    expect(feature.target).toBe(inch(bore.target));
    expect(changeOf(propose(feature, LATHE, register('in'), one(inch(bore.measured))))).toBe(
      inch(bore.wearX),
    );
  });
  it('length wear of −0.010 makes a 3.000 in length 2.990', () => {
    const answer = propose(
      aim('height', inch(deeper.after), inch(0.001), inch(-0.001)),
      LATHE,
      register('in'),
      one(inch(deeper.before)),
    );
    expect(changeOf(answer)).toBe(inch(deeper.wear));
    expect(answer.verdict === 'change' && answer.expectedSize).toBe(inch(deeper.after));
  });
});

describe('signs and factors', () => {
  const cases: [FeatureKind, 'radius' | 'diameter', number, number, string][] = [
    ['outsideDiameter', 'radius', 0.02, -0.02, 'a big OD goes minus'],
    ['bore', 'radius', 0.02, -0.02, 'a big bore goes minus'],
    ['faceLength', 'radius', 0.02, -0.02, 'a long part goes minus'],
    ['shoulder', 'radius', 0.02, 0.02, 'a shoulder too deep goes plus'],
    ['height', 'radius', 0.02, -0.02, 'too high: minus goes deeper'],
    ['depth', 'radius', 0.02, 0.02, 'too deep goes plus'],
    ['depth', 'radius', -0.02, -0.02, 'too shallow goes minus'],
    ['outsideWidth', 'radius', 0.02, -0.01, 'outside too big, radius register: half, minus'],
    ['outsideWidth', 'diameter', 0.02, -0.02, 'outside too big, diameter register: whole'],
    ['pocketWidth', 'radius', 0.02, 0.01, 'pocket too big, radius register: half, plus'],
    ['pocketWidth', 'diameter', -0.02, -0.02, 'pocket too small, diameter register: whole, minus'],
    ['wall', 'radius', 0.02, -0.02, 'one wall too thick, radius register: whole'],
    ['wall', 'diameter', 0.02, -0.04, 'one wall too thick, diameter register: twice'],
  ];
  it.each(cases)('%s on a %s register, %f mm off asks for %f mm: %s', (kind, cutter, off, change) => {
    const answer = propose(
      aim(kind, mm(40), mm(0.01), mm(-0.01)),
      { x: 'diameter', cutter },
      register('mm'),
      one(mm(40 + off)),
    );
    expect(changeOf(answer)).toBe(mm(change));
    expect(answer.verdict === 'change' && answer.expectedSize).toBe(mm(40));
  });
  it('an X register that holds a radius takes half', () => {
    const answer = propose(
      aim('bore', mm(40), mm(0.01), mm(-0.01)),
      { x: 'radius', cutter: 'radius' },
      register('mm'),
      one(mm(40.02)),
    );
    expect(changeOf(answer)).toBe(mm(-0.01));
  });
  it('a drilled hole, a boring head and a position have no register, and say what to do instead', () => {
    for (const [kind, words] of [
      ['cutHole', /replace/],
      ['dialledBore', /dial/],
      ['position', /work offset/],
    ] as const) {
      const answer = propose(aim(kind, mm(10), mm(0.1), mm(0)), LATHE, register('mm'), one(mm(10.2)));
      expect(answer.verdict).toBe('noRegister');
      expect(answer.reason).toMatch(words);
    }
  });
});

describe('when to leave it alone (H14)', () => {
  const feature = aim('outsideDiameter', mm(38), mm(0.02), mm(-0.02), { deadBand: mm(0.006) });
  const verdict = (reading: number, over: Partial<FeatureAim> = {}, k: number | null = null) =>
    propose({ ...feature, ...over }, LATHE, register('mm'), {
      readings: [mm(reading)],
      partAfterSetUp: k,
      confirmed: false,
    });
  it('inside the dead band it is left, outside it is corrected in full', () => {
    expect(verdict(38.006).verdict).toBe('leave');
    expect(changeOf(verdict(38.007))).toBe(mm(-0.007));
  });
  it('a first-off is corrected at once, dead band or not, and the third part by a third', () => {
    expect(changeOf(verdict(38.006, {}, 1))).toBe(mm(-0.006));
    expect(changeOf(verdict(38.006, {}, 3))).toBe(mm(-0.002));
  });
  it('a correction under half a step of the register is nothing', () => {
    const answer = propose(
      { ...feature, deadBand: nanometres(0) },
      LATHE,
      register('mm'),
      one(nanometres(38_000_400)),
    );
    expect(answer.verdict).toBe('leave');
    expect(answer.reason).toMatch(/half a step/);
  });
  it('an average waits for its readings while parts are good, and not once one is out', () => {
    const averaged = { policy: 'average', averageOf: 3 } as const;
    expect(verdict(38.015, averaged).verdict).toBe('leave');
    expect(changeOf(verdict(38.025, averaged))).toBe(mm(-0.025));
    const three = propose({ ...feature, ...averaged }, LATHE, register('mm'), {
      readings: [mm(38.01), mm(38.012), mm(38.014)],
      partAfterSetUp: null,
      confirmed: false,
    });
    expect(changeOf(three)).toBe(mm(-0.012));
  });
  it('a part outside its limits is named, and corrected even inside a dead band set too wide', () => {
    const answer = verdict(38.03, { deadBand: mm(0.05) });
    expect(answer.partOut).toBe(true);
    expect(answer.verdict).toBe('change');
  });
  it('a surprising reading is measured again before anything moves, and the slip is named', () => {
    expect(verdict(1.496).reason).toMatch(/inches/);
    expect(verdict(3.8).reason).toMatch(/decimal point/);
    expect(verdict(38.3).reason).toMatch(/measure again/);
    expect(verdict(83).reason).toMatch(/measure again|swapped/);
  });
  it('a wear value past the limit of the register is a sign of a mistake', () => {
    const held = register('mm', mm(1.99));
    const answer = propose(feature, LATHE, held, {
      readings: [mm(37.97)],
      partAfterSetUp: null,
      confirmed: false,
    });
    expect(answer.verdict).toBe('measureAgain');
    expect(answer.reason).toMatch(/past its limit/);
  });
});

/** A small seeded source of normal deviates, so that the statistics below are the same on every run. */
function normalSource(seed: number) {
  let state = seed >>> 0;
  const uniform = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return (((t ^ (t >>> 14)) >>> 0) + 0.5) / 4294967296;
  };
  return () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
}
const variance = (values: number[]) => {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return values.reduce((a, b) => a + (b - mean) ** 2, 0) / (values.length - 1);
};

describe('what correcting does to the spread', () => {
  /** Variance of the sizes, over the variance of the same process left alone. */
  const run = (policy: Partial<FeatureAim>) => {
    const normal = normalSource(20261123);
    const feature = aim('outsideDiameter', mm(38), mm(0.2), mm(-0.2), policy);
    let wear = nanometres(0);
    let since: Length[] = [];
    const sizes: number[] = [];
    for (let i = 0; i < 40_000; i += 1) {
      const size = nanometres(Math.round(38_000_000 + normal() * 10_000) + wear);
      sizes.push(size);
      since = [...since, size].slice(-20);
      const now = { ...register('mm', wear), increment: nanometres(1), limit: mm(50) };
      const answer = propose(feature, LATHE, now, { readings: since, partAfterSetUp: null, confirmed: true });
      if (answer.verdict !== 'change') continue;
      wear = answer.to;
      since = [];
    }
    return variance(sizes) / 10_000 ** 2;
  };
  const sigmas = (n: number) => nanometres(n * 10_000);
  it('full correction after every part doubles the variance (W. E. Deming, funnel experiment, rule 2; from memory)', () => {
    expect(run({ policy: 'everyPart' })).toBeCloseTo(
      checks.overadjustment.varianceRatioOfFullCorrectionEveryPart,
      1,
    );
  });
  it('a dead band on one reading helps little, on the mean of five takes most of the harm away (our own finding)', () => {
    const single = run({ policy: 'deadBand', deadBand: sigmas(2) });
    const mean = run({ policy: 'average', averageOf: 5, deadBand: sigmas(1.5) });
    expect(single).toBeGreaterThan(1.5);
    expect(mean).toBeLessThan(1.25);
  });
  it('harmonic shares leave a set-up variance of σ²/n (F. E. Grubbs; from memory)', () => {
    const normal = normalSource(7);
    const left: number[] = [];
    for (let trial = 0; trial < 20_000; trial += 1) {
      let offset = 0;
      for (let k = 1; k <= 5; k += 1)
        offset -= harmonicShare(nanometres(Math.round(offset + normal() * 10_000)), k);
      left.push(offset);
    }
    expect(variance(left) / (10_000 ** 2 / 5)).toBeCloseTo(1, 1);
  });
  it('an average is the mean of the last readings only', () => {
    expect(averageOfLast([mm(9), mm(1), mm(2), mm(3)], 3)).toBe(mm(2));
  });
});

describe('reading back what was keyed', () => {
  const keyed = {
    row: 4,
    from: mm(-0.12),
    to: mm(-0.147),
    unit: 'mm',
    decimals: 3,
    neighbours: [
      { row: 3, value: mm(0.05) },
      { row: 5, value: mm(-0.3) },
    ],
  } as const;
  const faultOf = (shown: number) => {
    const answer = explainReadBack(mm(shown), keyed);
    return answer.matches ? 'matches' : answer.fault;
  };
  it('nothing keyed: the rows above and below are named, not the row itself', () => {
    const answer = explainReadBack(keyed.from, keyed);
    expect(!answer.matches && answer.remedy).toContain(`rows ${keyed.row - 1} and ${keyed.row + 1} `);
  });
  it.each([
    [-0.147, 'matches'],
    [-0.12, 'notKeyed'],
    [0.147, 'sign'],
    [-0.093, 'sign'],
    [-0.027, 'changeKeyedAsValue'],
    [-0.267, 'changeKeyedAsValue'],
    [-0.174, 'keyedTwice'],
    [-1.47, 'decimalPoint'],
    [-0.0147, 'decimalPoint'],
    [-0.417, 'digitsSwapped'],
    [0.05, 'neighbourRow'],
    [-0.3, 'neighbourRow'],
    [-3.734, 'units'],
    [-0.5, 'unknown'],
  ])('the control shows %f: %s', (shown, fault) => expect(faultOf(shown)).toBe(fault));
});

it('a sum typed at the machine is the deviation it stands for', () => {
  const { odCorrection: od } = checks.commonPractice;
  const typed = parseLength(`${od.measured}-${od.target}`, 'in');
  expect(typed.ok && typed.value).toBe(inch(-od.wearX));
});
