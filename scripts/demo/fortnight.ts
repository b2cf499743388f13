import { randomUUID } from 'node:crypto';
import { partsLeft } from '../../src/core/life/count.ts';
import { entry } from '../../src/core/ledger/entry.ts';
import type { Person } from '../../src/core/people/roles.ts';
import { shiftsBetween, type Shift } from '../../src/core/shift/calendar.ts';
import { setFlag } from '../../src/server/assemblies.ts';
import { cellOf } from '../../src/server/cell.ts';
import { pool, transaction } from '../../src/server/db.ts';
import { countedTools, countParts } from '../../src/server/counts.ts';
import { insertJob, runningJob, setJobState } from '../../src/server/jobs.ts';
import { append } from '../../src/server/ledger.ts';
import { signLeaf } from '../../src/server/leaf.ts';
import { lockMachine } from '../../src/server/machines.ts';
import { must } from './files.ts';

const HOUR = 3_600_000;
const MINUTE = 60_000;

/** What ran before the jobs that run now: program, parts of a job, minutes of its cycle. */
const RAN = [
  ['Avocet', 'O2301', 64, 24],
  ['Bittern', 'O3104', 44, 21],
  ['Curlew', 'O1421', 90, 11],
  ['Dunlin', 'O4102', 96, 12],
  ['Egret', 'O5103', 24, 62],
  ['Fulmar', 'O6105', 70, 18],
] as const;

interface Told {
  now: Date;
  /** Sets the clock of what is written next. */
  at: (hoursAgo: number) => Promise<unknown>;
  lead: Person;
  setter: Person;
  /** Who stands at the machines, in turn. */
  operators: readonly Person[];
  machines: ReadonlyMap<string, number>;
  programs: ReadonlyMap<string, number>;
}

/** Says of each part how much longer or shorter than its cycle it took: the same story at every start. */
function pace(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return 0.92 + (0.24 * state) / 2_147_483_648;
  };
}

/**
 * Two weeks of shifts before the demo's own day and a half: parts are counted, tools run out and are renewed, and shifts are
 * handed over, so that the past leaves say what was foreseen and what came. In the end every tool has its full life again.
 */
export async function fortnight(told: Told, from: Date, to: Date): Promise<void> {
  const { now, lead, setter, operators } = told;
  const cell = await cellOf(pool());
  const shifts = shiftsBetween(from, to, cell.patterns, cell.timeZone).filter(
    (shift) => shift.start >= from && shift.end <= to,
  );
  const clock = (time: number) => told.at((now.getTime() - time) / HOUR);
  const jitter = pace(20_251);
  const first = shifts[0];
  if (!first) return;
  await clock(first.start.getTime() - 30 * MINUTE);
  for (const each of RAN) await begin(told, each);
  for (const [nth, shift] of shifts.entries()) {
    const operator = operators[nth % operators.length]!;
    await work(told, shift, operator, clock, jitter);
    // a weekend's last shift hands over to nobody
    const next = shifts[nth + 1];
    if (next && next.start.getTime() - shift.end.getTime() > HOUR) continue;
    await clock(shift.end.getTime() - MINUTE);
    const comer = operators[(nth + 1) % operators.length]!;
    for (const [side, person] of [
      ['leaving', operator],
      ['coming', comer],
    ] as const)
      await must(
        signLeaf(
          { key: randomUUID(), personId: lead.id },
          person,
          shift.key,
          side,
          new Date(shift.end.getTime() - MINUTE),
        ),
      );
  }
  await clock(shifts.at(-1)!.end.getTime() + HOUR);
  for (const [machine] of RAN) {
    const job = (await runningJob(pool(), told.machines.get(machine)!))!;
    for (const tool of await countedTools(pool(), job)) await renew(setter, job.machineId, tool);
    await transaction((db) =>
      setJobState(db, setter.id, {
        jobId: job.id,
        move: 'finish',
        why: job.made < job.quantity ? 'the order was cut' : '',
      }),
    );
  }
}

async function begin({ lead, setter, programs }: Told, [, program, quantity, minutes]: (typeof RAN)[number]) {
  const jobId = await transaction((db) =>
    insertJob(db, lead.id, {
      programId: programs.get(program)!,
      quantity,
      cycleMilliseconds: minutes * MINUTE,
    }),
  );
  await transaction((db) => setJobState(db, setter.id, { jobId, move: 'start' }));
}

interface Stand {
  ran: (typeof RAN)[number];
  /** When something happens next: parts are counted, or the machine goes on. */
  time: number;
  /** Parts that are then counted, and whether a tool runs out by them. */
  run: { parts: number; last: boolean } | null;
}

/** A shift at all machines, in the order of what happens: parts until a tool runs out, its renewal, the count at the bell. */
async function work(
  told: Told,
  shift: Shift,
  operator: Person,
  clock: (time: number) => Promise<unknown>,
  jitter: () => number,
): Promise<void> {
  const end = shift.end.getTime() - 5 * MINUTE;
  const stands: Stand[] = RAN.map((ran, nth) => ({
    ran,
    time: shift.start.getTime() + (10 + nth) * MINUTE,
    run: null,
  }));
  for (;;) {
    stands.sort((a, b) => a.time - b.time);
    const stand = stands[0]!;
    if (stand.time >= end) return;
    await clock(stand.time);
    if (stand.run) await count(told, stand, operator);
    else await goOn(told, stand, end, jitter());
  }
}

/** What ran out is renewed, and the machine runs until the next tool runs out, the job is done or the bell rings. */
async function goOn(told: Told, stand: Stand, end: number, slower: number): Promise<void> {
  const [machine, , , minutes] = stand.ran;
  const job = (await runningJob(pool(), told.machines.get(machine)!))!;
  for (const tool of await countedTools(pool(), job))
    if (tool.flag === 'expired') await renew(told.setter, job.machineId, tool);
  const each = (minutes * MINUTE * slower) / job.partsPerCycle;
  const lasts = Math.min(
    ...(await countedTools(pool(), job)).map((tool) =>
      partsLeft(tool.remaining, tool.basis, tool.use),
    ),
  );
  const parts = Math.min(
    Math.floor((end - 1 - stand.time) / each),
    Math.max(1, lasts),
    job.quantity - job.made,
    200,
  );
  stand.run = parts > 0 ? { parts, last: parts >= lasts } : null;
  stand.time = parts > 0 ? Math.round(stand.time + parts * each) : end;
}

async function count(told: Told, stand: Stand, operator: Person): Promise<void> {
  const job = (await runningJob(pool(), told.machines.get(stand.ran[0])!))!;
  const { parts, last } = stand.run!;
  await transaction((db) =>
    countParts(db, operator.id, {
      jobId: job.id,
      before: job.made,
      parts,
      source: "from the control's count",
    }),
  );
  if (job.made + parts >= job.quantity) {
    await transaction((db) => setJobState(db, told.setter.id, { jobId: job.id, move: 'finish' }));
    await begin(told, stand.ran);
  }
  stand.run = null;
  // what ran out is renewed, and the machine stands meanwhile
  stand.time += last ? 12 * MINUTE : 1;
}

/** A tool has its full life again. */
export const renew = (
  setter: Person,
  machineId: number,
  tool: Awaited<ReturnType<typeof countedTools>>[number],
) =>
  transaction(async (db) => {
    await lockMachine(db, machineId);
    if (tool.flag !== null)
      await setFlag(db, setter.id, { id: tool.assemblyId, number: tool.number, machineId, tool: tool.tool }, null, 'Renewed.');
    if (tool.remaining === tool.fullLife) return;
    await append(
      db,
      entry.life('renewed', {
        personId: setter.id,
        assemblyId: tool.assemblyId,
        machineId,
        tool: tool.tool,
        counterId: tool.counterId,
        before: tool.remaining,
        after: tool.fullLife,
        said: `The life of ${tool.number} was set.`,
      }),
    );
  });
