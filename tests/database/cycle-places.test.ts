import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf } from '../../src/core/units/length.ts';
import { recordParts } from '../../src/server/counts.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { runningJob } from '../../src/server/jobs.ts';
import { machineById } from '../../src/server/machines.ts';
import { measuringOn } from '../../src/server/now.ts';
import { lookAtReadingsFile } from '../../src/server/program-files.ts';
import { takeReading } from '../../src/server/readings.ts';
import { as, done, weirside } from '../support/cell.ts';

/** O1402 makes two pins from one bar: the first with rows 1 to 9, the second with 21 to 29. */
let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const take = async (name: string, part: number, size: number, over: object = {}, program = 'O1402') =>
  done(
    await takeReading(as(cell.operator), {
      featureId: await cell.feature(program, name),
      programId: await cell.program(program),
      jobId: await cell.job(program),
      part,
      measured: lengthOf(size, program === 'O1402' ? 'in' : 'mm'),
      confirmed: false,
      firstOff: false,
      ...over,
    }),
  );
const proposed = async () => {
  const machine = (await machineById(pool(), await cell.machine('Curlew')))!;
  const job = (await runningJob(pool(), machine.id))!;
  const measuring = await measuringOn(pool(), machine, job, job.programId);
  return new Map(measuring!.features.map(({ name, part }) => [name, part]));
};

describe('two parts that come off together', () => {
  it('each size is proposed on the last part that its row cut', async () => {
    const { made } = (await runningJob(pool(), await cell.machine('Curlew')))!;
    expect(made % 2).toBe(0);
    const parts = await proposed();
    expect(parts.get('Bearing seat OD')).toBe(made - 1);
    expect(parts.get('Bearing seat OD (2nd)')).toBe(made);
  });
  it('a size typed for the part that another row cut is asked about, and counts for nothing by then', async () => {
    const { made } = (await runningJob(pool(), await cell.machine('Curlew')))!;
    // the second pin of the bar is large: its row 22 has to go, and row 2 is right
    const asked = await take('Bearing seat OD', made, 1.3786);
    expect(asked).toMatchObject({
      readingId: null,
      proposalIds: [],
      answer: { verdict: 'measureAgain', about: 'part' },
    });
    expect(asked.answer.reason).toContain('another row (22)');
    expect(asked.answer.reason).toContain(`Is it part ${made - 1}, or "Bearing seat OD (2nd)"?`);
    expect((await take('Bearing seat OD (2nd)', made, 1.3781)).readingId).not.toBeNull();
    expect((await take('Bearing seat OD', made - 1, 1.3781)).readingId).not.toBeNull();
    // whoever numbers the pins otherwise says so
    expect((await take('Bearing seat OD', made, 1.3781, { partSure: true })).readingId).not.toBeNull();
  });
  it('after half a cycle nobody can tell, and nobody is asked', async () => {
    const jobId = await cell.job('O1402');
    const { made } = (await runningJob(pool(), await cell.machine('Curlew')))!;
    done(await recordParts(as(cell.operator), { jobId, before: made, parts: 1, source: 'typed' }));
    expect((await proposed()).get('Bearing seat OD')).toBe(made + 1);
    expect((await take('Bearing seat OD', made, 1.3781)).readingId).not.toBeNull();
  });
  it('nor where both are cut with the same rows', async () => {
    const { made } = (await runningJob(pool(), await cell.machine('Egret')))!;
    for (const part of [made - 1, made])
      expect((await take('Face height', part, 80.011, {}, 'O5103')).readingId).not.toBeNull();
  });
  it('is said of a file before it is taken', async () => {
    const { made } = (await runningJob(pool(), await cell.machine('Curlew')))!;
    const text = `feature,part,value\nBearing seat OD,${made - 1},1.3781\nBearing seat OD,${made},1.3782\n`;
    const look = done(
      await lookAtReadingsFile(pool(), { programId: await cell.program('O1402'), text, part: null }),
    );
    expect(look.readings.map(({ words }) => words)).toEqual([
      '',
      expect.stringContaining('another row (22)'),
    ]);
  });
});
