import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf } from '../../src/core/units/length.ts';
import { approve, correctionById, readBack } from '../../src/server/corrections.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { driftPage } from '../../src/server/drift.ts';
import { machineById } from '../../src/server/machines.ts';
import { adoptSchool, featureById } from '../../src/server/programs.ts';
import { takeReading } from '../../src/server/readings.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const mm = (value: number) => lengthOf(value, 'mm');
const face = () => cell.feature('O5103', 'Face height');
async function take(part: number, size: number) {
  const taken = done(
    await takeReading(as(cell.operator), {
      featureId: await face(),
      programId: await cell.program('O5103'),
      jobId: await cell.job('O5103'),
      part,
      measured: mm(size),
      confirmed: true,
      firstOff: false,
    }),
  );
  return taken.proposalIds;
}
async function page(risk = 0.001) {
  const feature = (await featureById(pool(), await face()))!;
  return driftPage(pool(), (await machineById(pool(), feature.machineId))!, feature, risk, 40);
}

describe('where a size goes', () => {
  it('nothing is drawn of what was never measured', async () => {
    expect(await page()).toBeNull();
  });

  it('a correction stands between the parts it was keyed between, and its line goes on through it', async () => {
    const proposed = [];
    for (const [part, size] of [
      [1, 80.03],
      [2, 80.031],
      [3, 80.029],
      [4, 80.03],
    ] as const)
      proposed.push(...(await take(part, size)));
    const id = proposed.at(-1)!;
    done(await approve(as(cell.lead), cell.lead, id));
    const { to, from } = (await correctionById(pool(), id))!;
    done(await readBack(as(cell.operator), id, { shown: to, again: to, first: 5 }));
    const moved = (to - from) / 1e6;
    for (const part of [5, 6, 7]) await take(part, 80.03 + moved);
    const { points, steps, charts, drift } = (await page())!;
    expect(points.map(({ part }) => part)).toEqual([1, 2, 3, 4, 5, 6, 7]);
    expect(steps).toEqual([expect.objectContaining({ kind: 'correction', at: points[4]!.at - 0.5 })]);
    // as cut it steps; with the correction taken out all seven lie within two micrometres
    expect(points[3]!.deviation - points[4]!.deviation).toBeCloseTo(from - to, -1);
    const line = points.map(({ uncorrected }) => uncorrected);
    expect(Math.max(...line) - Math.min(...line)).toBeLessThanOrEqual(2_000);
    // and so its spread is that of single parts, not of what was corrected
    expect(charts!.ranges.centre).toBeLessThan(1_500);
    expect(Math.abs(drift.now)).toBeLessThan(5_000);
  });

  it('a bad part sets aside what was cut since the last good one', async () => {
    await take(4, 80.001);
    await take(9, 80.06);
    expect((await page())!.suspects).toMatchObject([{ part: 9, first: 5, last: null, fate: 'rework' }]);
    await take(12, 80.002);
    expect((await page())!.suspects).toMatchObject([{ part: 9, first: 5, last: 11 }]);
  });

  it('a school is adopted once, and not over somebody else’s change', async () => {
    const featureId = await face();
    done(await adoptSchool(as(cell.lead), { featureId, policy: 'average', was: 'model' }));
    expect(await featureById(pool(), featureId)).toMatchObject({ policy: 'average', averageOf: 3 });
    expect(refused(await adoptSchool(as(cell.lead), { featureId, policy: 'ewma', was: 'model' }))).toMatch(
      /Somebody changed/,
    );
  });
});
