import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { lengthOf } from '../../src/core/units/length.ts';
import { indexInserts } from '../../src/server/builds.ts';
import { cellOf, nameCell, setException, setShift } from '../../src/server/cell.ts';
import { cellNow } from '../../src/server/clock.ts';
import { componentById, stockMoved } from '../../src/server/components.ts';
import { lastEntry } from '../../src/server/control-roads.ts';
import { cycleBrokenOff } from '../../src/server/counts.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { writeDefinition } from '../../src/server/definitions.ts';
import { addEndCheck } from '../../src/server/end-checks.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import { writeGauge } from '../../src/server/gauges.ts';
import { logInterruption } from '../../src/server/interruptions.ts';
import { addJob, runningJob, setUpAgain, type Job } from '../../src/server/jobs.ts';
import { keepLifeCosts } from '../../src/server/life-costs.ts';
import { setLifeLimit, stopCounting } from '../../src/server/lives.ts';
import { setRunsOn } from '../../src/server/machine-hours.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { setNightSchool } from '../../src/server/pallets.ts';
import type { Asking } from '../../src/server/once.ts';
import { openOrders, orderCame, recordOrder, linesToOrder } from '../../src/server/orders.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { takeOut } from '../../src/server/places.ts';
import { recordCells } from '../../src/server/plates.ts';
import { setMaterial } from '../../src/server/programs.ts';
import { proveProgram } from '../../src/server/proofs.ts';
import { decideCheck } from '../../src/server/tool-checks.ts';
import { as, done, refused, weirside } from '../support/cell.ts';
import { momentNow, standsAs } from '../support/same-end.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let machine: Machine;
let job: Job;
let loose: number;
let timeZone: string;
beforeAll(async () => {
  cell = await weirside();
  machine = (await machineById(pool(), await cell.machine('Avocet')))!;
  job = (await runningJob(pool(), machine.id))!;
  timeZone = (await cellOf(pool())).timeZone;
  // one with inserts stands on the bench
  loose = await cell.assembly('A-108');
  const { place } = (await row<{ place: number }>(
    pool(),
    'SELECT place_id AS place FROM placement WHERE assembly_id = $1',
    [loose],
  ))!;
  done(await takeOut(as(cell.setter), { placeId: place, assemblyId: loose, why: 'to be indexed' }));
});
afterAll(closePool);

const mm = (value: number) => lengthOf(value, 'mm');
type Said = (asking: Asking, second: boolean) => Promise<Outcome<unknown>>;
const coming = (days: number) => new Date(cellNow().getTime() + days * 86_400_000).toISOString().slice(0, 10);
const limits = { short: mm(1), long: mm(1) };
const definition = {
  kind: 'drill' as const,
  cornerRadius: null,
  reach: null,
  teeth: null,
  thread: '',
  leftHand: null,
  leastLife: null,
};

/** One says it with one value, the other with another. */
const SETTINGS: Record<string, Said> = {
  'how long a tool lasts': (asking, second) =>
    setLifeLimit(asking, {
      assemblyId: loose,
      basis: 'pieces',
      fullLife: second ? 90 : 40,
      left: 40,
      why: 'as it was seen',
    }),
  'that a tool is not counted': (asking, second) =>
    second
      ? stopCounting(asking, { assemblyId: loose, why: 'it never wears' })
      : setLifeLimit(asking, { assemblyId: loose, basis: 'pieces', fullLife: 33, left: null, why: 'chips' }),
  'how a tool is checked': (asking, second) =>
    decideCheck(asking, machine, {
      tool: 3,
      moment: second ? 'none' : 'both',
      method: 'setter',
      limits,
    }),
  'what a change costs': (asking, second) =>
    keepLifeCosts(asking, machine.id, { changeMinutes: second ? 9 : 4, hourCents: 9000, failureCents: 100 }),
  'which holders pockets take': (asking, second) =>
    recordCells(asking, { machineId: machine.id, from: 29, to: 29, cell: mm(second ? 140 : 130) }),
  'how it goes on at night': (asking, second) =>
    setNightSchool(asking, machine, { school: second ? 'stop' : 'isolate' }),
  'how long it runs on': (asking, second) => setRunsOn(asking, machine, { hours: second ? 7 : 3 }),
  'what a program asks for': (asking, second) =>
    writeDefinition(asking, {
      ...definition,
      programId: job.programId,
      tool: 4,
      diameter: mm(second ? 11 : 10.5),
    }),
  'what a program cuts': (asking, second) =>
    setMaterial(asking, { programId: job.programId, material: second ? 'cork' : 'amber' }),
  'whether a program is proven': (asking, second) =>
    proveProgram(asking, { programId: job.programId, proven: second, said: 'as it was seen' }),
  'whether a tool is locked': (asking, second) =>
    flagAssembly(asking, { assemblyId: loose, flag: second ? null : 'locked', why: 'as it was seen' }),
  'what a gauge shows': (asking, second) =>
    writeGauge(
      asking,
      { name: 'Bore gauge', resolution: mm(second ? 0.001 : 0.01), uncertainty: null, due: null },
      'mm',
    ),
  'when a shift begins': (asking, second) =>
    setShift(
      asking,
      {
        name: 'Sunday',
        startMinute: second ? 600 : 480,
        lengthMinutes: 60,
        days: [7],
        from: coming(20),
      },
      cellNow(),
    ),
  'whether a shift runs': (asking, second) =>
    setException(
      asking,
      { date: coming(30), name: 'Early', runs: second ? null : false, why: 'feast' },
      cellNow(),
    ),
  'what the cell is called': (asking, second) =>
    nameCell(asking, { name: second ? 'Weir' : 'Weirbank', timeZone }),
};

/** Two saw one thing, and both write it down. */
const HAPPENED: Record<string, Said> = {
  'a cycle was broken off': (asking) =>
    cycleBrokenOff(asking, { jobId: job.id, before: job.made, tool: 2, why: 'coolant ran dry' }),
  'a job was set up anew': (asking) => setUpAgain(asking, { jobId: job.id, why: 'other jaws' }),
  'a job is wanted': (asking) =>
    addJob(asking, { programId: job.programId, quantity: 12, cycleMilliseconds: 90_000 }),
  'a program stopped': (asking) =>
    logInterruption(asking, { programId: job.programId, line: 40, why: 'power', doubt: true }),
  'inserts were turned': (asking) => indexInserts(asking, loose),
};

describe('what somebody else wrote since a page was read', () => {
  const both = async (said: Said) => {
    const seen = await lastEntry(pool());
    done(await said(as(cell.setter), false));
    const stood = await momentNow();
    const second = await said({ ...as(cell.lead), seen }, true);
    expect(refused(second)).toContain(`${cell.setter.name} wrote down meanwhile: "`);
    expect((await standsAs(stood)).filter((line) => !/^\w+: \d+ others/.test(line))).toEqual([]);
    expect(second).toMatchObject({ ask: [{ name: 'meant', value: 'yes' }] });
    return seen;
  };
  it.each(Object.entries(SETTINGS))(
    '%s: it is not written over unseen, unless it is meant',
    async (_, said) => {
      const seen = await both(said);
      done(await said({ ...as(cell.lead), seen, meant: true }, true));
    },
  );
  it.each(Object.entries(HAPPENED))('%s: it is written down once, unless it was another', async (_, said) => {
    const seen = await both(said);
    done(await said({ ...as(cell.lead), seen, meant: true }, true));
    // whoever read the page after that knows of both
    done(await said({ ...as(cell.setter), seen: await lastEntry(pool()) }, true));
    // and whoever wrote it themselves meant another
    done(await said({ ...as(cell.setter), seen: (await lastEntry(pool())) - 1 }, true));
  });
  it('a tool that is broken is said to be at once, whatever another said of it', async () => {
    const seen = await lastEntry(pool());
    done(await flagAssembly(as(cell.setter), { assemblyId: loose, flag: 'locked', why: 'a chip' }));
    const broken = { assemblyId: loose, flag: 'broken' as const, why: 'in two' };
    done(await flagAssembly({ ...as(cell.lead), seen }, broken));
  });
  it('what was put on the shelf as bought, and came by an order', async () => {
    const [line] = await linesToOrder(pool());
    const { id, coming: before } = line!;
    done(await recordOrder(as(cell.crib), { lines: [{ id, pieces: 2, coming: before }], place: '' }));
    // from the same page: it is on its way already
    const again = { lines: [{ id, pieces: 1, coming: before }], place: '' };
    expect(refused(await recordOrder(as(cell.lead), again))).toMatch(
      /somebody ordered some meanwhile|no longer below its minimum/,
    );
    const [order] = await openOrders(pool(), id);
    const seen = await lastEntry(pool());
    const stock = (await componentById(pool(), id))!.stock;
    const bought = { componentId: id, before: stock, move: 'bought' as const, pieces: 2, why: '' };
    done(await stockMoved(as(cell.setter), bought));
    const came = { orderId: order!.id, came: 0, pieces: 2, rest: true };
    expect(refused(await orderCame({ ...as(cell.crib), seen }, came))).toMatch(/wrote down meanwhile/);
    done(await orderCame({ ...as(cell.crib), seen, meant: true }, came));
    expect((await componentById(pool(), id))!.stock).toBe(stock + 4);
  });
  it('a line for the end of the shift is put on the list once', async () => {
    const line = { machineId: machine.id, text: 'Lamp off' };
    const both = await Promise.all([
      addEndCheck(as(cell.lead), line),
      addEndCheck(as(cell.lead), { ...line, text: 'lamp off' }),
    ]);
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
  });
});
