import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import type { ReadingTaken } from '../../src/server/readings.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { checkZero, gaugeNamed, studyOf, writeGauge } from '../../src/server/gauges.ts';
import { takeReading } from '../../src/server/readings.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const mm = (value: number) => lengthOf(value, 'mm');
/** 287.600 ±0.050, by a micrometer 275-300. */
const width = async (size: number, over: Partial<ReadingTaken> = {}) =>
  done(
    await takeReading(as(cell.operator), {
      featureId: await cell.feature('O5103', 'Body width'),
      programId: await cell.program('O5103'),
      jobId: await cell.job('O5103'),
      part: 40,
      measured: mm(size),
      confirmed: true,
      firstOff: true,
      ...over,
    }),
  );
const listed = async (uncertainty: number, due: string | null = null) =>
  done(
    await writeGauge(
      as(cell.inspector),
      { name: 'micrometer 275-300', resolution: mm(0.001), uncertainty: mm(uncertainty), due },
      'mm',
    ),
  );

describe('a gauge on the list', () => {
  it('says whether a part is in only where it is sure of it', async () => {
    expect((await width(287.61)).conformity).toBeNull();
    await listed(0.006);
    expect((await width(287.61)).conformity).toBe('conforms');
    expect((await width(287.648)).conformity).toBe('cannotTell');
    expect((await width(287.652)).conformity).toBe('cannotTell');
    expect((await width(287.66)).conformity).toBe('doesNot');
  });
  it('overdue: the reading is kept, and nothing is corrected by it', async () => {
    await listed(0.006, '2020-01-31');
    const late = await width(287.63);
    expect(late).toMatchObject({ proposalIds: [], answer: { verdict: 'leave' } });
    expect(late.answer.reason).toMatch(/due for calibration on 2020-01-31/);
    expect(late.readingId).not.toBeNull();
    await listed(0.006, '2099-01-31');
    expect((await width(287.63)).proposalIds).toHaveLength(1);
  });
  it('is changed by its name, whatever the case, and not listed twice', async () => {
    await listed(0.006);
    done(
      await writeGauge(
        as(cell.inspector),
        { name: 'Micrometer 275-300', resolution: mm(0.001), uncertainty: null, due: null },
        'mm',
      ),
    );
    expect(await cell.count(`FROM gauge WHERE name ILIKE 'micrometer 275-300'`)).toBe(1);
    const gauge = (await gaugeNamed(pool(), 'MICROMETER 275-300'))!;
    expect(gauge).toMatchObject({ uncertainty: null, zeroAt: null });
    done(await checkZero(as(cell.operator), gauge.id));
    expect((await gaugeNamed(pool(), gauge.name))!.zeroBy).toMatch(/Dede/);
    expect(
      refused(
        await writeGauge(
          as(cell.inspector),
          { name: 'rule', resolution: mm(0.5), uncertainty: mm(0.001), due: null },
          'mm',
        ),
      ),
    ).toMatch(/four times as sure/);
  });
  it('is studied by ten readings or more, each of them a number', () => {
    expect(() => studyOf('10.001 10.002 10.0x', mm(0.001), 'mm')).toThrow(/"10.0x" is not a reading/);
    expect(() => studyOf('10.001 10.002', mm(0.001), 'mm')).toThrow(/there are 2/);
    expect(studyOf(Array(12).fill('10.001').join('\n'), mm(0.001), 'mm').spread).toBe(0);
  });
});

it('a part measured warm is judged as at 20 °C, and what the gauge showed is kept', async () => {
  const taken = await width(287.63, { warm: { celsius: 27, part: 'aluminium', gauge: 'steel' } });
  const kept = await row<{ measured: number; shown: number; celsius: number }>(
    pool(),
    'SELECT measured, shown, celsius FROM reading WHERE id = $1',
    [taken.readingId],
  );
  // 287.63 × 11.5e-6 × 7: 23 µm of it were warmth
  expect(kept!.shown).toBe(mm(287.63));
  expect((kept!.shown - kept!.measured) / 1e6).toBeCloseTo(0.0231, 3);
  expect(kept!.celsius).toBe(27);
});
