import { lengthOf } from '../../src/core/units/length.ts';
import { runningJob } from '../../src/server/jobs.ts';
import { pool } from '../../src/server/db.ts';
import { takeReading } from '../../src/server/readings.ts';
import { takeStep, type StepData } from '../../src/server/renewals.ts';
import { as, done, type weirside } from './cell.ts';

type Cell = Awaited<ReturnType<typeof weirside>>;

/** The job that runs on Egret. */
export const onEgret = async (cell: Cell) => (await runningJob(pool(), await cell.machine('Egret')))!;

/** A size of a part of that job, in millimetres, by somebody who stands by it: the face that T1 cuts, unless another is named. */
export const takeSize = async (cell: Cell, size: number, part: number, name = 'Face height') =>
  done(
    await takeReading(as(cell.operator), {
      featureId: await cell.feature('O5103', name),
      programId: await cell.program('O5103'),
      jobId: await cell.job('O5103'),
      part,
      measured: lengthOf(size, 'mm'),
      confirmed: true,
      partSure: true,
      firstOff: false,
    }),
  );

/** A step of a renewal, by the setter unless somebody else is named, with nothing typed but what is given. */
export const stepOf = (
  cell: Cell,
  assemblyId: number,
  step: StepData['step'],
  over: Partial<StepData> = {},
  by = cell.setter,
) =>
  takeStep(as(by), {
    assemblyId,
    what: 'a fresh edge',
    life: null,
    row: null,
    values: [],
    gaugeLength: null,
    others: [],
    shown: [],
    ended: null,
    ...over,
    step,
  });
