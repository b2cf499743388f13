import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import outside from '../../../tests/outside/check-values.json';
import { chance } from '../../../tests/support/chance.ts';
import { inUnit, lengthOf, nanometres } from '../units/length.ts';
import { atReference, conformity, EXPANSION, gaugeFault, repeatStudy } from './gauge.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const limits = { nominal: mm(25), upper: mm(0.01), lower: mm(-0.01) };

describe('in, out, or cannot tell (ISO 14253-1, memory)', () => {
  const { u, conformsWithin_U: within, doesNotBeyond_U: beyond } = outside.conformity.case;
  const at = (deviation: number) => conformity(nanometres(mm(25) + mm(deviation)), limits, 2 * mm(u));
  it('is guarded by U on both sides of each limit', () => {
    expect([at(within[0]!), at(within[1]!), at(0)]).toEqual(['conforms', 'conforms', 'conforms']);
    expect([at(within[1]! + 1e-6), at(0.01), at(beyond[1]!)]).toEqual([
      'cannotTell',
      'cannotTell',
      'cannotTell',
    ]);
    expect([at(beyond[0]! - 1e-6), at(beyond[1]! + 1e-6)]).toEqual(['doesNot', 'doesNot']);
  });
  it('says "in" of a bad part, or "out" of a good one, in less than one of forty', () => {
    const { next, normal } = chance(11);
    let [wrong, said] = [0, 0];
    for (let i = 0; i < 20_000; i += 1) {
      const size = mm(25) + mm(0.012) * (2 * next() - 1);
      const good = Math.abs(size - mm(25)) <= mm(0.01);
      const verdict = conformity(nanometres(Math.round(size + mm(u) * normal())), limits, 2 * mm(u));
      if (verdict === 'cannotTell') continue;
      said += 1;
      if ((verdict === 'conforms') !== good) wrong += 1;
    }
    expect(said).toBeGreaterThan(10_000);
    expect(wrong / said).toBeLessThan(1 / 40);
  });
});

describe('at 20 °C', () => {
  it('handbook values (memory): a warm part is large, a gauge of the same metal knows nothing of it', () => {
    for (const [name, value] of Object.entries(outside.thermalExpansionPerKelvin))
      if (name !== 'source') expect(EXPANSION[name as 'steel'].perKelvin).toBe(value);
    // 100 mm of aluminium at 27 °C, by steel: (23 − 11.5)e-6 × 7 × 100 mm = 8 µm too large
    expect(inUnit(atReference(mm(100), 27, 'aluminium', 'steel'), 'mm')).toBeCloseTo(100 - 0.00805, 5);
    expect(atReference(mm(100), 27, 'steel', 'steel')).toBe(mm(100));
    expect(atReference(mm(100), 20, 'bronze', 'steel')).toBe(mm(100));
    expect(atReference(mm(100), 15, 'aluminium', 'steel')).toBeGreaterThan(mm(100));
  });
  it('is what the part is once it has cooled', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 5, max: 60 }), (size, celsius) => {
        const by = celsius - 20;
        const shown = (mm(size) * (1 + 23e-6 * by)) / (1 + 11.5e-6 * by);
        expect(
          Math.abs(atReference(nanometres(Math.round(shown)), celsius, 'aluminium', 'steel') - mm(size)),
        ).toBeLessThan(3);
      }),
    );
  });
});

describe('a gauge', () => {
  it('repeats as well as its spread and its step', () => {
    expect(
      repeatStudy(
        Array.from({ length: 9 }, () => mm(10)),
        1000,
      ),
    ).toBeNull();
    const still = repeatStudy(
      Array.from({ length: 10 }, () => mm(10)),
      1000,
    )!;
    expect(still.spread).toBe(0);
    expect(still.uncertainty).toBeCloseTo(577.35, 1);
    const { normal } = chance(3);
    const study = repeatStudy(
      Array.from({ length: 400 }, () => nanometres(Math.round(mm(10) + 2000 * normal()))),
      1,
    )!;
    expect(study.spread).toBeGreaterThan(1800);
    expect(study.spread).toBeLessThan(2200);
  });
  it('overdue, or not sure enough, corrects nothing', () => {
    const gauge = { name: 'micrometer', uncertainty: 2000, due: '2026-11-26' };
    expect(gaugeFault(gauge, mm(0.02), '2026-11-26')).toBeNull();
    expect(gaugeFault(gauge, mm(0.02), '2026-11-27')).toMatch(/due for calibration on 2026-11-26/);
    expect(gaugeFault(gauge, 4000, '2026-11-26')).toMatch(/not sure enough/);
    expect(gaugeFault({ ...gauge, uncertainty: null, due: null }, 1, '2030-01-01')).toBeNull();
  });
});
