import { nanometres } from '../../src/core/units/length.ts';
import { answering, typedAgo } from '../../src/server/asked.ts';
import { assemblyById } from '../../src/server/assemblies.ts';
import { cellNow } from '../../src/server/clock.ts';
import { readCounter } from '../../src/server/counters.ts';
import { countedTools, cycleBrokenOff, recordParts } from '../../src/server/counts.ts';
import { pool, rows } from '../../src/server/db.ts';
import { jobsOf, moveJob, type Job } from '../../src/server/jobs.ts';
import { machineById } from '../../src/server/machines.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { placeTool, takeOut } from '../../src/server/places.ts';
import { callsOf } from '../../src/server/programs.ts';
import { registersOf } from '../../src/server/registers.ts';
import {
  openRenewal,
  otherGeometry,
  startRenewal,
  wearOf,
  type StepData,
} from '../../src/server/renewals.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { as, type weirside } from './cell.ts';
import { stepOf } from './egret.ts';
import { Player, type Luck } from './player.ts';

/** Long enough that no edge runs out and no order is done while it is played. */
export const LONG = 1e9;

/** A job, and what one part of it takes of the tool in each T. */
export interface Cutting {
  id: number;
  takes: ReadonlyMap<number, number>;
  /** The order of its calls. */
  calls: readonly number[];
}

/**
 * A machine whose tools are taken out, exchanged and put back while parts are made on it, and people who say what they see, some of it late.
 * What each tool has really cut is known here alone.
 */
export class Rack extends Player {
  /** What each assembly has used, and which stands in which T. */
  readonly used = new Map<number, number>();
  private readonly standing = new Map<number, number>();
  private readonly home = new Map<number, number>();
  /** Parts of each job: really made, and told. */
  private readonly made = new Map<number, number>();
  private readonly told = new Map<number, number>();
  /** What a tablet without a network keeps, each by when it was typed; null: it has one. */
  private kept: { at: number; jobId: number; before: number; parts: number }[] | null = null;
  /** A count that is wrong and not taken back yet. */
  private over: { jobId: number; parts: number; really: number } | null = null;
  private running: Cutting;
  /** Steps that are left of a renewal, and tools whose fresh edge has no life on record yet. */
  private renewing: (() => Promise<void>)[] = [];
  private readonly unset = new Set<number>();

  constructor(
    private readonly cell: Awaited<ReturnType<typeof weirside>>,
    private readonly machineId: number,
    luck: Luck,
    private readonly jobs: readonly Cutting[],
    places: readonly { tool: number; assemblyId: number; placeId: number }[],
    private readonly alike: ReadonlyMap<number, readonly number[]>,
    states: readonly Job[],
  ) {
    super(luck);
    for (const { tool, assemblyId, placeId } of places) {
      this.standing.set(tool, assemblyId);
      this.home.set(tool, placeId);
    }
    for (const { id, made } of states) {
      this.made.set(id, made);
      this.told.set(id, made);
    }
    this.running = jobs.find(({ id }) => states.some((each) => each.id === id && each.state === 'running'))!;
  }

  private one = <T>(all: readonly T[]): T => this.pick(all)!;
  private taken<T>(what: string, of: string, outcome: Outcome<T>): boolean {
    this.tell(what, of);
    if (!outcome.ok) this.fault(`${what} ${of} was refused: ${outcome.reason}`);
    return outcome.ok;
  }
  private get open(): number {
    const { id } = this.running;
    const waits = (this.kept ?? []).reduce((sum, { parts }) => sum + parts, 0);
    return this.made.get(id)! - this.told.get(id)! - waits;
  }
  private use(assemblyId: number, by: number): void {
    this.used.set(assemblyId, (this.used.get(assemblyId) ?? 0) + by);
  }

  cut(parts: number): void {
    const { id, takes } = this.running;
    if ([...takes.keys()].some((tool) => !this.standing.has(tool))) return;
    for (const [tool, each] of takes) this.use(this.standing.get(tool)!, each * parts);
    this.made.set(id, this.made.get(id)! + parts);
    this.tell('cut', `${parts} of job ${id} to ${this.made.get(id)}`);
  }

  /** All that was made is told, by the tablet that has a network or by one that keeps it. */
  async count(): Promise<void> {
    const { id } = this.running;
    const parts = this.open;
    if (parts <= 0) return;
    if (this.kept) {
      const before = this.made.get(id)! - parts;
      this.kept.push({ at: cellNow().getTime(), jobId: id, before, parts });
      return this.tell('kept', `${parts} after ${before}`);
    }
    await this.takeBack();
    await this.record(id, this.told.get(id)!, this.made.get(id)! - this.told.get(id)!);
    this.told.set(id, this.made.get(id)!);
  }
  private record = async (jobId: number, before: number, parts: number, what = 'counted') =>
    parts <= 0 ||
    this.taken(
      what,
      `${parts} after ${before}`,
      await recordParts(as(this.cell.operator), { jobId, before, parts, source: 'typed' }),
    );
  /** What was kept is sent in its order, with when it was typed; what somebody else has told meanwhile is dropped by who typed it. */
  async online(): Promise<void> {
    const kept = this.kept ?? [];
    this.kept = null;
    for (const { at, jobId, before, parts } of kept) {
      if (before !== this.told.get(jobId)) continue;
      const ago = String((cellNow().getTime() - at) / 1000);
      await answering('kept', typedAgo(ago), () => this.record(jobId, before, parts, 'counted late'));
      this.told.set(jobId, before + parts);
    }
  }

  async miscount(): Promise<void> {
    if (this.kept || this.over) return;
    await this.count();
    const { id } = this.running;
    const [really, parts] = [1 + Math.floor(this.luck.next() * 5), 1 + Math.floor(this.luck.next() * 9)];
    if (really === parts) return;
    this.cut(really);
    if (this.made.get(id) === this.told.get(id)) return;
    if (!(await this.record(id, this.told.get(id)!, parts, 'miscounted'))) return;
    this.over = { jobId: id, parts, really };
    this.told.set(id, this.made.get(id)!);
  }
  private async takeBack(): Promise<void> {
    if (!this.over) return;
    const { jobId, parts, really } = this.over;
    this.over = null;
    const before = this.told.get(jobId)! - really + parts;
    const count = (await lastCount(pool(), jobId))!.id;
    this.taken(
      'put right',
      `${parts} for ${really}`,
      await takeBackCount(as(this.cell.operator), { jobId, count, before, why: 'miscounted', really }),
    );
  }

  /** A tool is taken out: what is not told yet is told first, by whoever stands there, unless it waits on a tablet. */
  async out(): Promise<void> {
    if (this.standing.size === 0) return;
    const tool = this.one([...this.standing.keys()]);
    const assemblyId = this.standing.get(tool)!;
    const { id } = this.running;
    const cuts = this.running.takes.has(tool);
    // who says how many there are by now tells what waits on a tablet as well, as if it were cut just now: nobody here does that
    const says = cuts && !this.over && !this.kept && this.happens(this.open > 0 ? 0.6 : 0.3);
    // of what is not told, and was cut before: nothing is made without it until it is counted
    if (cuts && this.open > 0 && !says && !this.happens(0.5)) return;
    const made = says ? this.made.get(id)! : null;
    const outcome = await takeOut(as(this.cell.setter), {
      placeId: this.home.get(tool)!,
      assemblyId,
      why: 'to the presetter',
      ...(made === null ? {} : { made, sure: made }),
    });
    if (!this.taken('taken out', `T${tool} ${assemblyId}, ${made ?? 'nothing'} said`, outcome)) return;
    if (made !== null) this.told.set(id, made);
    this.standing.delete(tool);
  }
  async in(): Promise<void> {
    const empty = [...this.home.keys()].filter((tool) => !this.standing.has(tool));
    if (empty.length === 0) return;
    // what was cut with the tool that went is told before another comes
    await this.count();
    const tool = this.one(empty);
    const there = new Set(this.standing.values());
    const assemblyId = this.one(this.alike.get(tool)!.filter((each) => !there.has(each)));
    const placing = { placeId: this.home.get(tool)!, assemblyId, tool };
    if (this.taken('put in', `T${tool} ${assemblyId}`, await placeTool(as(this.cell.setter), placing)))
      this.standing.set(tool, assemblyId);
  }

  async brokenOff(): Promise<void> {
    const { id, takes, calls } = this.running;
    if (this.kept || [...takes.keys()].some((tool) => !this.standing.has(tool))) return;
    await this.count();
    await this.takeBack();
    // of a T that is called twice nobody here knows what it took by then
    const once = [...takes].filter(([each]) => calls.indexOf(each) === calls.lastIndexOf(each));
    if (once.length < takes.size) return;
    const [tool] = this.one(once);
    const cut = once.filter(([each]) => calls.indexOf(each) <= calls.indexOf(tool));
    for (const [each, takesOf] of cut) this.use(this.standing.get(each)!, takesOf);
    this.taken(
      'broken off',
      `at T${tool}`,
      await cycleBrokenOff(as(this.cell.operator), {
        jobId: id,
        before: this.told.get(id)!,
        tool,
        why: 'a chip',
      }),
    );
  }

  /** A fresh edge is put in, in the machine or on the bench; its steps come one by one, with whatever lies between. */
  async renew(): Promise<void> {
    if (this.renewing.length > 0) return void (await this.renewing.shift()!());
    const assemblyId = this.one(
      this.happens(0.6) ? [...this.standing.values()] : [...this.alike.values()].flat(),
    );
    if (assemblyId === undefined || (await openRenewal(pool(), assemblyId))) return;
    if (!this.taken('renewal', `${assemblyId}`, await startRenewal(as(this.cell.setter), assemblyId))) return;
    const step = async (name: StepData['step'], over: Partial<StepData> = {}) =>
      this.taken(
        name,
        `${assemblyId} ${over.life ? LONG - over.life : ''}`,
        await stepOf(this.cell, assemblyId, name, over),
      );
    this.renewing = [
      async () => {
        const tool = [...this.standing].find(([, each]) => each === assemblyId)?.[0];
        // a count that waits on a tablet, and parts that nobody has told: it is sent first
        if (this.kept && this.open > 0) await this.online();
        const open = this.open > 0 && tool !== undefined && this.running.takes.has(tool);
        const made = this.made.get(this.running.id)!;
        // nobody else counts while a count is wrong: it is put right first
        if (open) await this.takeBack();
        await step('changed', open ? { made, sure: made } : {});
        if (open) this.told.set(this.running.id, made);
        this.used.set(assemblyId, 0);
        this.unset.add(assemblyId);
      },
      async () => {
        await step('lifeSet', { life: LONG - (await openRenewal(pool(), assemblyId))!.cutSince });
        this.unset.delete(assemblyId);
      },
      async () => void (await step('flagCleared')),
      async () => {
        const where = [...this.standing].find(([, each]) => each === assemblyId);
        const { gaugeLength } = (await assemblyById(pool(), assemblyId))!;
        if (!where) return void (await step('measured', { gaugeLength }));
        const [row] = where;
        const values = (await registersOf(pool(), this.machineId))
          .filter((each) => each.row === row && each.kind === 'lengthGeometry')
          .map(({ kind, value }) => ({ kind, before: value, value: nanometres(value || 150e6) }));
        const others = (await otherGeometry(pool(), this.machineId, row)).map(({ id, value }) => ({
          registerId: id,
          before: value,
          value,
        }));
        await step('measured', { row, values, others });
      },
      async () => {
        const tool = [...this.standing].find(([, each]) => each === assemblyId)?.[0];
        const worn = tool === undefined ? [] : await wearOf(pool(), this.machineId, tool);
        await step('wearZeroed', { shown: worn.map(({ id }) => ({ registerId: id, value: nanometres(0) })) });
      },
    ];
  }
  /** Somebody sees that the control has more uses left than the record, which a wrong count had taken, and takes that over. */
  async readOff(): Promise<void> {
    if (this.kept || !this.over || this.over.really >= this.over.parts || this.open > 0) return;
    const machine = (await machineById(pool(), this.machineId))!;
    const counted = await rows<{ tool: number; assemblyId: number; basis: string; value: number }>(
      pool(),
      `SELECT s.tool, s.assembly_id AS "assemblyId", c.basis, c.value FROM placement s JOIN life_counter c ON c.assembly_id = s.assembly_id
       WHERE s.machine_id = $1 AND c.basis IN ('holes', 'pieces') ORDER BY s.tool`,
      [this.machineId],
    );
    for (const { tool, assemblyId, value } of counted) {
      if (this.standing.get(tool) !== assemblyId || this.unset.has(assemblyId)) continue;
      const left = LONG - (this.used.get(assemblyId) ?? 0);
      if (left <= value) continue;
      const outcome = await readCounter(as(this.cell.setter), machine, {
        tool,
        assemblyId,
        seen: value,
        shown: left - (machine.expiry === 'belowZero' ? 1 : 0),
        take: true,
      });
      this.taken('read off', `T${tool} ${assemblyId}: ${LONG - left} for ${LONG - value}`, outcome);
      return;
    }
  }

  /** Another job is taken up: all of the one before is told first. */
  async change(): Promise<void> {
    if (this.kept) return;
    await this.count();
    await this.takeBack();
    const next = this.one(this.jobs.filter((each) => each !== this.running));
    for (const [move, { id }] of [
      ['pause', this.running],
      ['start', next],
    ] as const)
      this.taken(
        move,
        `job ${id}`,
        await moveJob(as(this.cell.lead), { jobId: id, move, why: 'it is wanted first' }),
      );
    this.running = next;
  }

  /** Once all is told, each tool has what it had, less what it has cut. */
  async look(): Promise<void> {
    if (this.kept || this.over || this.open > 0) return;
    const left = await rows<{ id: number; value: number }>(
      pool(),
      'SELECT assembly_id AS id, value FROM life_counter WHERE assembly_id = ANY($1)',
      [[...this.alike.values()].flat()],
    );
    for (const { id, value } of left) {
      if (this.unset.has(id)) continue;
      const really = this.used.get(id) ?? 0;
      if (LONG - value !== really) this.fault(`assembly ${id} has used ${really}, on record ${LONG - value}`);
    }
  }

  async something(): Promise<void> {
    const dice = this.luck.next();
    if (this.kept && this.happens(0.12)) await this.online();
    if (dice < 0.34) this.cut(1 + Math.floor(this.luck.next() * 4));
    else if (dice < 0.5) await this.count();
    else if (dice < 0.58) await this.renew();
    else if (dice < 0.61) await this.readOff();
    else if (dice < 0.67) await this.out();
    else if (dice < 0.87) await this.in();
    else if (dice < 0.91) await this.miscount();
    else if (dice < 0.93) await this.takeBack();
    else if (dice < 0.97) this.kept ??= this.over ? null : [];
    else if (dice < 0.985) await this.brokenOff();
    else await this.change();
  }
}

/** Makes a machine ready to be played: orders that are never done, edges that never run out, and what is known of it at the beginning. */
export async function rackOf(cell: Awaited<ReturnType<typeof weirside>>, luck: Luck) {
  const machineId = await cell.machine('Avocet');
  await cell.asOwner(async (db) => {
    await db.query("UPDATE job SET quantity = 5000 WHERE machine_id = $1 AND state <> 'done'", [machineId]);
    await db.query('UPDATE life_counter SET full_life = $1, value = $1', [LONG]);
  });
  const tools = await rows<{
    id: number;
    like: string;
    tool: number | null;
    machineId: number | null;
    placeId: number | null;
  }>(
    pool(),
    `SELECT a.id, a.kind || c.basis AS like, s.tool, s.machine_id AS "machineId", s.place_id AS "placeId"
     FROM assembly a JOIN life_counter c ON c.assembly_id = a.id LEFT JOIN placement s ON s.assembly_id = a.id
     WHERE a.interface = 'steep 40' AND a.flag IS NULL AND (s.machine_id IS NULL OR s.machine_id = $1) ORDER BY s.tool, a.id`,
    [machineId],
  );
  const places = tools.flatMap(({ id, tool, placeId }) =>
    tool === null ? [] : [{ tool, assemblyId: id, placeId: placeId! }],
  );
  const alike = new Map(
    places.map(({ tool, assemblyId }) => {
      const { like } = tools.find(({ id }) => id === assemblyId)!;
      const spare = tools.filter((each) => each.tool === null && each.like === like);
      return [tool, [assemblyId, ...spare.map(({ id }) => id)]] as const;
    }),
  );
  const states = (await jobsOf(pool(), machineId)).filter(({ state }) => state !== 'done');
  const jobs: Cutting[] = [];
  for (const job of states) {
    const takes = new Map<number, number>();
    for (const { tool, basis, direct } of await countedTools(pool(), job)) {
      const { parts, holes, cutMilliseconds } = direct!;
      const cycle = { pieces: parts, holes, minutes: cutMilliseconds, wear: 0 }[basis];
      if (cycle > 0) takes.set(tool, cycle / parts);
    }
    const calls = (await callsOf(pool(), job.programId)).map(({ tool }) => tool);
    jobs.push({ id: job.id, takes, calls });
  }
  return new Rack(cell, machineId, luck, jobs, places, alike, states);
}
