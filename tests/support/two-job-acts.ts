import { nanometres } from '../../src/core/units/length.ts';
import { stockMoved } from '../../src/server/components.ts';
import { clearRow, openCorrections, readBack, recentCorrections } from '../../src/server/corrections.ts';
import { cycleBrokenOff, recordParts } from '../../src/server/counts.ts';
import { pool, rows } from '../../src/server/db.ts';
import { approve, refuse } from '../../src/server/decided-corrections.ts';
import {
  beginFirstPart,
  endFirstPart,
  keyFirst,
  lookedFirst,
  measureFirst,
  openFirstPart,
} from '../../src/server/first-parts.ts';
import {
  addJob,
  changeJob,
  isWaiting,
  jobsOf,
  moveAhead,
  moveJob,
  setUpAgain,
} from '../../src/server/jobs.ts';
import { machineById } from '../../src/server/machines.ts';
import { isolatePallet, movePallet, palletsOf, takePallet } from '../../src/server/pallets.ts';
import { cameBack, openOrders, orderCame, sendToRegrind } from '../../src/server/orders.ts';
import {
  answerParts,
  clearQuarantine,
  quarantineOf,
  withdrawQuarantine,
} from '../../src/server/quarantine.ts';
import { takeReading } from '../../src/server/readings.ts';
import { scrapParts } from '../../src/server/scrapped.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { takeBackReading } from '../../src/server/wrong-readings.ts';
import { as } from './cell.ts';
import type { Maker, Shown } from './two-acts.ts';

const runningOf = async ({ machine }: Shown) =>
  (await jobsOf(pool(), machine.id)).find(({ state }) => state === 'running') ?? null;
const machineNow = async ({ machine }: Shown) => (await machineById(pool(), machine.id))!;

const count: Maker = async (shown) => {
  const job = await runningOf(shown);
  if (!job) return null;
  const parts = shown.pick([1, 2, 7])! * job.partsPerCycle;
  return {
    what: `${parts} of ${job.number} made`,
    run: () =>
      recordParts(as(shown.cell.operator), { jobId: job.id, before: job.made, parts, source: 'typed' }),
  };
};
const wrongCount: Maker = async (shown) => {
  const job = await runningOf(shown);
  const last = job && (await lastCount(pool(), job.id));
  if (!last) return null;
  const really = shown.happens(0.3) ? { really: job.made + 1 } : {};
  return {
    what: `the last count of ${job.number} is taken back`,
    run: () =>
      takeBackCount(as(shown.cell.operator), {
        jobId: job.id,
        count: last.id,
        before: job.made,
        why: 'the other machine',
        ...really,
      }),
  };
};
const breakOff: Maker = async (shown) => {
  const job = await runningOf(shown);
  const tool = shown.focus?.tool;
  if (!job || !tool) return null;
  return {
    what: `a cycle of ${job.number} broken off in T${tool}`,
    run: () =>
      cycleBrokenOff(as(shown.cell.operator), { jobId: job.id, before: job.made, tool, why: 'it screamed' }),
  };
};
const reading: Maker = async (shown) => {
  const job = await runningOf(shown);
  if (!job) return null;
  const features = await rows<{ id: number; name: string; target: number; upper: number }>(
    pool(),
    `SELECT f.id, f.name, f.target, f.upper FROM feature f JOIN program g ON g.number = f.program_number AND g.machine_id = f.machine_id
     WHERE g.id = $1 ORDER BY f.id LIMIT 2`,
    [job.programId],
  );
  const feature = shown.pick(features);
  if (!feature) return null;
  const measured = nanometres(
    Number(feature.target) + shown.pick([0, 1, -1, 2])! * Math.round(Math.abs(Number(feature.upper)) / 2),
  );
  const part = Math.max(1, job.made - shown.pick([0, 1])!);
  return {
    what: `${feature.name} of part ${part} of ${job.number}`,
    run: () =>
      takeReading(as(shown.cell.operator), {
        featureId: feature.id,
        programId: job.programId,
        jobId: job.id,
        part,
        measured,
        confirmed: true,
        partSure: true,
        firstOff: false,
      }),
  };
};
const wrongReading: Maker = async (shown) => {
  const last = shown.pick(
    await rows<{ id: number }>(
      pool(),
      `SELECT r.id FROM reading r JOIN feature f ON f.id = r.feature_id WHERE f.machine_id = $1 AND r.doubt IS NULL ORDER BY r.id DESC LIMIT 2`,
      [shown.machine.id],
    ),
  );
  if (!last) return null;
  return {
    what: `reading ${last.id} taken back`,
    run: () =>
      takeBackReading(as(shown.cell.operator), {
        machineId: shown.machine.id,
        readingId: last.id,
        why: 'of another part',
      }),
  };
};
const correction: Maker = async (shown) => {
  const open = (await openCorrections(pool())).filter(({ machineId }) => machineId === shown.machine.id);
  const done = (await recentCorrections(pool(), 5)).filter(
    ({ machineId, state }) =>
      machineId === shown.machine.id && (state === 'applied' || state === 'superseded'),
  );
  if (done.length > 0 && shown.happens(0.15)) {
    const one = shown.pick(done)!;
    const row = shown.happens(0.5) ? one.present : one.from;
    return {
      what: `row ${one.row} read off`,
      run: () => clearRow(as(shown.cell.setter), one.id, row),
    };
  }
  const one = shown.pick(open.slice(0, 2));
  if (!one) return null;
  if (one.state === 'approved')
    return {
      what: `correction ${one.id} keyed`,
      run: () =>
        readBack(as(shown.cell.setter), one.id, { shown: one.to, again: one.to, first: 'next', job: null }),
    };
  return shown.happens(0.25)
    ? { what: `correction ${one.id} refused`, run: () => refuse(as(shown.cell.lead), one.id, 'wait') }
    : {
        what: `correction ${one.id} approved`,
        run: () => approve(as(shown.cell.lead), shown.cell.lead, one.id),
      };
};
const job: Maker = async (shown) => {
  const jobs = await jobsOf(pool(), shown.machine.id);
  const running = jobs.find(({ state }) => state === 'running');
  const waiting = jobs.filter(isWaiting);
  const dice = Math.floor(shown.pick([0, 1, 2, 3, 4, 5, 6]) ?? 0);
  if (dice === 0) {
    const program = shown.pick(
      await rows<{ id: number }>(pool(), 'SELECT id FROM program WHERE machine_id = $1 ORDER BY id', [
        shown.machine.id,
      ]),
    );
    if (!program) return null;
    return {
      what: `a job of program ${program.id} is added`,
      run: () =>
        addJob(as(shown.cell.lead), { programId: program.id, quantity: 20, cycleMilliseconds: 120_000 }),
    };
  }
  const subject = dice < 3 ? running : shown.pick(waiting);
  if (!subject) return null;
  if (dice === 1)
    return {
      what: `${subject.number} is set up anew`,
      run: () => setUpAgain(as(shown.cell.setter), { jobId: subject.id, why: 'another fixture' }),
    };
  if (dice === 3) {
    const before = waiting[waiting.indexOf(subject) - 1];
    if (!before) return null;
    return {
      what: `job ${subject.id} ahead of ${before.id}`,
      run: () => moveAhead(as(shown.cell.lead), { jobId: subject.id, of: before.id }),
    };
  }
  if (dice === 4)
    return {
      what: `job ${subject.id} is of more parts`,
      run: () =>
        changeJob(as(shown.cell.lead), {
          jobId: subject.id,
          quantity: subject.quantity + 5,
          cycleMilliseconds: subject.cycleMilliseconds,
          shown: subject,
        }),
    };
  const move =
    subject.state === 'running' ? shown.pick(['pause', 'finish'] as const)! : dice === 5 ? 'start' : 'remove';
  return {
    what: `job ${subject.id}: ${move}`,
    run: () => moveJob(as(shown.cell.lead), { jobId: subject.id, move, why: 'so it was said' }),
  };
};
const scrap: Maker = async (shown) => {
  const running = await runningOf(shown);
  if (!running || running.made === 0) return null;
  const again = shown.happens(0.5);
  return {
    what: `one more of ${running.number} is scrap`,
    run: () =>
      scrapParts(as(shown.cell.operator), {
        jobId: running.id,
        shown: running.scrapped,
        scrapped: running.scrapped + 1,
        again,
        why: 'undersize',
      }),
  };
};
const first: Maker = async (shown) => {
  const open = await openFirstPart(pool(), shown.machine);
  if (!open) {
    const program = (await runningOf(shown))?.programId;
    if (program === undefined) return null;
    const features = await rows<{ id: number }>(
      pool(),
      `SELECT f.id FROM feature f JOIN program g ON g.number = f.program_number AND g.machine_id = f.machine_id WHERE g.id = $1 ORDER BY f.id LIMIT 1`,
      [program],
    );
    const school = shown.pick(['equalPasses', 'runAndCorrect'] as const)!;
    return {
      what: 'begin a first part',
      run: async () =>
        beginFirstPart(as(shown.cell.setter), await machineNow(shown), {
          programId: program,
          school,
          sizes: features.map(({ id }) => ({
            featureId: id,
            allowance: nanometres(school === 'runAndCorrect' ? 0 : 200_000),
          })),
        }),
    };
  }
  if (shown.happens(0.15))
    return {
      what: 'drop the first part',
      run: async () =>
        endFirstPart(as(shown.cell.setter), await machineNow(shown), { id: open.id, why: 'another job' }),
    };
  const { step } = open.state;
  if (step.do === 'key')
    return {
      what: 'key the first part',
      run: async () =>
        keyFirst(as(shown.cell.setter), await machineNow(shown), {
          id: open.id,
          shown: open.toKey.map(({ registerId, to }) => ({ registerId, value: to })),
        }),
    };
  if (step.do === 'halt')
    return {
      what: 'look at the halt',
      run: async () =>
        lookedFirst(as(shown.cell.setter), await machineNow(shown), { id: open.id, found: 'all well' }),
    };
  if (step.do === 'done')
    return {
      what: 'end the first part',
      run: async () =>
        endFirstPart(as(shown.cell.setter), await machineNow(shown), { id: open.id, why: null }),
    };
  const task = step.tasks[0]!;
  const size = open.plan.sizes[task.size]!;
  const measured = nanometres((task.expected ?? size.target) + shown.pick([0, 20_000, -15_000])!);
  return {
    what: `measure ${size.name} ${task.stage} of the first part`,
    run: async () =>
      measureFirst(as(shown.cell.operator), await machineNow(shown), {
        id: open.id,
        size: task.size,
        stage: task.stage,
        measured,
        confirmed: true,
      }),
  };
};
const held: Maker = async (shown) => {
  const open = shown.pick(
    await rows<{ id: number }>(
      pool(),
      'SELECT assembly_id AS id FROM quarantine WHERE closed_at IS NULL AND machine_id = $1 ORDER BY id',
      [shown.machine.id],
    ),
  );
  if (!open) return null;
  const of = (await quarantineOf(pool(), open.id))!;
  const dice = shown.pick([0, 1, 2, 2, 2])!;
  if (dice === 0)
    return {
      what: `the parts of assembly ${open.id} are released`,
      run: () => clearQuarantine(as(shown.cell.inspector), { assemblyId: open.id }),
    };
  if (dice === 1)
    return {
      what: `assembly ${open.id} was not broken`,
      run: () => withdrawQuarantine(as(shown.cell.lead), { assemblyId: open.id, why: 'the wrong tool' }),
    };
  const last = of.part ?? 1;
  const from = Math.max(1, last - shown.pick([0, 1, 3])!);
  const good = shown.happens(0.6);
  return {
    what: `parts ${from} to ${last} of assembly ${open.id} are ${good ? 'good' : 'scrap'}`,
    run: () =>
      answerParts(as(shown.cell.inspector), {
        assemblyId: open.id,
        job: of.jobId ?? 0,
        from,
        to: last,
        outcome: good ? 'good' : 'scrap',
        found: 'as measured',
        again: false,
        allBefore: good && from > 1,
      }),
  };
};
const pallet: Maker = async (shown) => {
  const pallets = await palletsOf(pool(), shown.machine.id);
  const one = shown.pick(pallets.slice(0, 3));
  if (!one) return null;
  const dice = shown.pick([0, 1, 2, 3])!;
  if (dice === 0) {
    const by = shown.happens(0.5) ? 1 : -1;
    return {
      what: `pallet ${one.number} moves by ${by}`,
      run: async () => movePallet(as(shown.cell.setter), await machineNow(shown), { id: one.id, by }),
    };
  }
  if (dice === 1)
    return {
      what: `pallet ${one.number} ${one.isolated ? 'joins again' : 'is set aside'}`,
      run: async () =>
        isolatePallet(as(shown.cell.setter), await machineNow(shown), {
          id: one.id,
          why: one.isolated ? null : 'a burr',
        }),
    };
  const running = await runningOf(shown);
  const made =
    running && running.programId === one.programId && shown.happens(0.7)
      ? { parts: one.parts - one.cut, before: running.made }
      : null;
  return {
    what: `pallet ${one.number} comes off${made ? ` with ${made.parts}` : ''}`,
    run: async () => takePallet(as(shown.cell.setter), await machineNow(shown), { id: one.id, made }),
  };
};
const stock: Maker = async (shown) => {
  const one = shown.pick(
    await rows<{ id: number; stock: number; number: string }>(
      pool(),
      `SELECT id, stock, number FROM component WHERE stock > 0 AND kind <> 'holder' ORDER BY id LIMIT 4`,
    ),
  );
  if (!one) return null;
  const order = shown.pick(await openOrders(pool()));
  if (order && shown.happens(0.5))
    return order.kind === 'buy'
      ? {
          what: `order ${order.id} came`,
          run: () =>
            orderCame(as(shown.cell.crib), { orderId: order.id, came: order.came, pieces: 1, rest: true }),
        }
      : {
          what: `order ${order.id} came back ground`,
          run: () =>
            cameBack(as(shown.cell.crib), {
              orderId: order.id,
              came: order.came,
              pieces: 1,
              same: 1,
              scrapped: 0,
              diameter: nanometres(0),
              overall: nanometres(0),
            }),
        };
  if (shown.happens(0.3))
    return {
      what: `${one.number} goes to be ground`,
      run: () =>
        sendToRegrind(as(shown.cell.crib), {
          componentId: one.id,
          before: one.stock,
          pieces: 1,
          place: 'the grinder',
        }),
    };
  const move = shown.pick(['issued', 'returned', 'bought', 'counted'] as const)!;
  return {
    what: `one of ${one.number} ${move}`,
    run: () =>
      stockMoved(as(shown.cell.crib), { componentId: one.id, before: one.stock, move, pieces: 1, why: 'so' }),
  };
};

/** What is done with jobs, parts, sizes, corrections and stock. */
export const JOB_ACTS: readonly Maker[] = [
  count,
  count,
  wrongCount,
  breakOff,
  reading,
  reading,
  wrongReading,
  correction,
  correction,
  job,
  job,
  scrap,
  first,
  first,
  held,
  pallet,
  stock,
];
