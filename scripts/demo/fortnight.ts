import { randomUUID } from 'node:crypto';
import { partsLeft } from '../../src/core/life/count.ts';
import { entry } from '../../src/core/ledger/entry.ts';
import type { Person } from '../../src/core/people/roles.ts';
import { shiftsBetween, type Shift } from '../../src/core/shift/calendar.ts';
import { setFlag } from '../../src/server/assemblies.ts';
import { cellOf } from '../../src/server/cell.ts';
import { pool, row, transaction } from '../../src/server/db.ts';
import { countedTools, countParts, insertJob, runningJob, setJobState } from '../../src/server/jobs.ts';
import { append } from '../../src/server/ledger.ts';
import { signLeaf } from '../../src/server/leaf.ts';
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
  machine: (typeof RAN)[number];
  /** When its last part was done. */
  time: number;
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
  const stands: Stand[] = RAN.map((machine) => ({ machine, time: shift.start.getTime() + 10 * MINUTE }));
  for (;;) {
    stands.sort((a, b) => a.time - b.time);
    const stand = stands[0]!;
    if (stand.time >= end) return;
    stand.time = await oneRun(told, stand, end, operator, clock, jitter());
  }
}

/** Runs until a tool runs out, the job is done or the bell rings; when that was. */
async function oneRun(
  told: Told,
  { machine: ran, time }: Stand,
  end: number,
  operator: Person,
  clock: (time: number) => Promise<unknown>,
  slower: number,
): Promise<number> {
  const [machine, , , minutes] = ran;
  const job = (await runningJob(pool(), told.machines.get(machine)!))!;
  const tools = await countedTools(pool(), job);
  const spent = tools.filter((tool) => tool.flag === 'expired');
  if (spent.length > 0) {
    await clock(time);
    for (const tool of spent) await renew(told.setter, job.machineId, tool);
  }
  const each = (minutes * MINUTE * slower) / job.partsPerCycle;
  const lasts = Math.min(
    ...tools
      .filter((tool) => tool.flag === null)
      .map((tool) => partsLeft(tool.remaining, tool.basis, tool.use, tool.rule)),
  );
  const parts = Math.min(
    Math.floor((end - time) / each),
    Math.max(1, spent.length > 0 ? 2 : lasts),
    job.quantity - job.made,
    200,
  );
  if (parts <= 0) return end;
  const done = Math.round(time + parts * each);
  await clock(done);
  await transaction(async (db) => {
    const { made: before } = (await row<{ made: number }>(db, 'SELECT made FROM job WHERE id = $1', [job.id]))!;
    await countParts(db, operator.id, { jobId: job.id, before, parts, source: "from the control's count" });
  });
  if (job.made + parts >= job.quantity) {
    await transaction((db) => setJobState(db, told.setter.id, { jobId: job.id, move: 'finish' }));
    await begin(told, ran);
  }
  // what ran out is renewed, and the machine stands meanwhile
  return done + (parts === lasts ? 12 * MINUTE : 0);
}

/** A tool has its full life again. */
const renew = (
  setter: Person,
  machineId: number,
  tool: Awaited<ReturnType<typeof countedTools>>[number],
) =>
  transaction(async (db) => {
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
