import pg from 'pg';
import { afterAll, describe, expect, it } from 'vitest';
import { readyToPlay } from '../../sim/play/both.ts';
import { setClock } from '../../sim/play/clock.ts';
import type { PlantSize } from '../../sim/play/plant.ts';
import { HARMLESS } from '../../src/core/correction/took.ts';
import { nanometres, type Length } from '../../src/core/units/length.ts';
import {
  clearRow,
  correctionById,
  isLarge,
  openCorrections,
  readBack,
  strayCorrections,
} from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { countedTools, recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { closePool, pool, rows } from '../../src/server/db.ts';
import { withEnds } from '../../src/server/edge-at-end.ts';
import { openJobs, setUpAgain } from '../../src/server/jobs.ts';
import { geometryKinds, machineById } from '../../src/server/machines.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { takeReading } from '../../src/server/readings.ts';
import { foundAtControl, registersOf } from '../../src/server/registers.ts';
import {
  openRenewal,
  otherGeometry,
  startRenewal,
  takeStep,
  wearOf,
  type StepData,
} from '../../src/server/renewals.ts';
import { dropRenewal } from '../../src/server/renewal-dropped.ts';
import { takeBackReading } from '../../src/server/wrong-readings.ts';
import { answering, typedAgo } from '../../src/server/asked.ts';
import { cellNow } from '../../src/server/clock.ts';
import { as, weirside } from '../support/cell.ts';
import { chance, seedsOr } from '../support/chance.ts';
import { Metal } from '../support/metal.ts';

afterAll(closePool);

const STEPS = 350;
/** A correction does harm where a size lies further off after it, by a tenth of its tolerance, and then by a quarter. */
const [HARM, FAR] = [0.1, 0.25];

/** People who do, truthfully, whatever can be done at a machine, in any order, each when it comes to them. */
class Shop {
  /** What went wrong, each with what came before it on that machine. */
  readonly wrong: string[] = [];
  readonly tally = new Map<string, number>();
  private readonly story = new Map<Metal, string[]>();
  /** Corrections that were keyed here. */
  private readonly ours = new Set<number>();

  constructor(
    private readonly cell: Awaited<ReturnType<typeof weirside>>,
    private readonly luck: ReturnType<typeof chance>,
    readonly metals: readonly Metal[],
  ) {}

  pick = <T>(all: readonly T[]): T => all[Math.floor(this.luck.next() * all.length)]!;
  private happens = (share: number) => this.luck.next() < share;

  private tell(metal: Metal, text: string): void {
    this.story.set(metal, [...(this.story.get(metal) ?? []), `${metal.made}/${metal.recorded} ${text}`]);
  }
  private fault(metal: Metal, text: string): void {
    const before = (this.story.get(metal) ?? []).slice(-14).join('\n  ');
    this.wrong.push(`${metal.plant.name} ${metal.made}/${metal.recorded}: ${text}\n  ${before}`);
  }
  /** The value of an act that must be taken; null where it was not, which is a fault. */
  private taken<T>(metal: Metal, what: string, outcome: Outcome<T>): T | null {
    this.tally.set(what, (this.tally.get(what) ?? 0) + 1);
    if (outcome.ok) {
      this.tell(metal, `${what}: ${JSON.stringify(outcome.value ?? 'done').slice(0, 240)}`);
      return outcome.value;
    }
    this.fault(metal, `${what} was refused: ${outcome.reason}`);
    return null;
  }

  /** What was typed at a tablet that has no network is sent in its order when it has one again, with when it was typed. */
  async online(metal: Metal): Promise<void> {
    const kept = metal.kept ?? [];
    metal.kept = null;
    for (const { at, send } of kept)
      await answering('kept', typedAgo(String((cellNow().getTime() - at) / 1000)), send);
  }
  /** Somebody measures one of the last parts: the newest mostly, by the gauge's steps, and once more where that is asked. */
  async measure(metal: Metal): Promise<void> {
    if (metal.parts.length === 0) return;
    if (metal.kept) {
      const [part, size] = [metal.parts.at(-1)!, this.pick(metal.plant.sizes)];
      metal.kept.push({
        at: cellNow().getTime(),
        send: async () => {
          const answer = await this.read(metal, size, part.number, part.off.get(size.id)!, false);
          if (answer?.took && !HARMLESS.includes(answer.took.verdict))
            await this.readOff(metal, answer.took.sentence);
        },
      });
      return;
    }
    const part = this.happens(0.7) ? metal.parts.at(-1)! : this.pick(metal.parts.slice(-6));
    const size = this.pick(metal.plant.sizes);
    for (const confirmed of [false, true]) {
      const answer = await this.read(metal, size, part.number, part.off.get(size.id)!, confirmed);
      // of which part a row is, whoever stands there sees: it is another size's
      if (answer === null || answer.answer.about === 'part') return;
      const { took } = answer;
      if (took && !HARMLESS.includes(took.verdict)) await this.readOff(metal, took.sentence);
      if (answer.answer.verdict !== 'measureAgain') return;
    }
  }
  private async read(metal: Metal, size: PlantSize, part: number, off: number, confirmed: boolean) {
    const step = metal.plant.increment / 10;
    return this.taken(
      metal,
      `${size.name} of part ${part}`,
      await takeReading(as(this.pick([this.cell.operator, this.cell.inspector])), {
        featureId: size.id,
        programId: metal.plant.job.programId,
        jobId: metal.plant.job.id,
        part,
        measured: nanometres(Math.round(size.target + Math.round(off / step) * step)),
        confirmed,
        firstOff: false,
      }),
    );
  }
  /** Rows whose corrections are said not to have done what was asked: nobody keyed wrongly here. */
  async readOff(metal: Metal, why: string): Promise<void> {
    for (const { id, machineId, cleared, registerId } of await strayCorrections(pool(), new Date(0))) {
      if (machineId !== metal.plant.id || cleared) continue;
      if (this.ours.has(id)) this.fault(metal, `correction ${id} is accused: ${why}`);
      await clearRow(as(this.cell.setter), id, nanometres(metal.control.get(registerId)!));
    }
  }

  async decide(metal: Metal): Promise<void> {
    for (const { id, machineId } of await openCorrections(pool()))
      if (machineId === metal.plant.id && (await correctionById(pool(), id))!.state === 'proposed')
        this.taken(metal, 'approved', await approve(as(this.cell.lead), this.cell.lead, id));
  }

  /** What is approved, and is to be keyed by the page, is keyed; some of it is told only later. */
  async key(metal: Metal): Promise<void> {
    const open = (await openCorrections(pool())).filter(
      ({ id, machineId, state, held }) =>
        machineId === metal.plant.id &&
        state === 'approved' &&
        held === null &&
        !metal.untold.some((each) => each.id === id),
    );
    const fresh = (await withEnds(pool(), metal.plant.id, open)).filter(({ ending }) => ending === null);
    const moved = metal.plant.sizes.filter((size) =>
      size.moves.some(({ register }) => fresh.some(({ registerId }) => registerId === register)),
    );
    const before = moved.map((size) => metal.off(size));
    for (const { id, registerId, to } of fresh) {
      metal.control.set(registerId, to);
      metal.untold.push({ id, register: registerId, first: metal.made + 1 });
      this.ours.add(id);
    }
    // of two sizes that want different things of one row the worse one counts
    const worst = Math.max(...moved.map((size, i) => Math.abs(before[i]!) / metal.width(size)));
    moved.forEach((size, i) => {
      const [was, is] = [before[i]!, metal.off(size)].map((off) => Math.abs(off) / metal.width(size));
      const named = fresh.some(({ feature }) => feature === size.name);
      this.tell(metal, `${size.name} from ${was!.toFixed(2)} to ${is!.toFixed(2)} of its tolerance`);
      if (named && is! > worst + HARM && is! > FAR) this.fault(metal, `a correction made ${size.name} worse`);
    });
    if (this.happens(0.5)) await this.tellKeyed(metal);
  }
  async tellKeyed(metal: Metal): Promise<void> {
    for (const { id, register, first } of metal.untold.splice(0)) {
      const shown = nanometres(metal.control.get(register)!);
      const next = first > metal.made && metal.made === metal.recorded;
      const kept = this.taken(
        metal,
        'read back',
        await readBack(as(this.cell.operator), id, {
          shown,
          again: isLarge((await correctionById(pool(), id))!) ? shown : null,
          first: this.pick(next ? (['next', first] as const) : ([first, 'unsure'] as const)),
          until: metal.made,
        }),
      );
      if (kept?.kept) continue;
      // it was overtaken meanwhile: the row is keyed back, or what it shows is said
      const { value } = (await registersOf(pool(), metal.plant.id)).find((each) => each.id === register)!;
      if (value === shown) continue;
      if (this.happens(0.5)) metal.control.set(register, value);
      else
        this.taken(
          metal,
          'found',
          await foundAtControl(as(this.cell.setter), {
            registerId: register,
            before: value,
            after: shown,
            why: 'it was keyed already',
          }),
        );
    }
  }

  async count(metal: Metal): Promise<void> {
    await this.takeBack(metal);
    const open = metal.made - metal.recorded;
    const parts = this.happens(0.7) ? open : Math.ceil(this.luck.next() * open);
    if (parts > 0) await this.record(metal, parts);
    metal.recorded += parts;
  }
  private record = async (metal: Metal, parts: number) =>
    this.taken(
      metal,
      `${parts} counted`,
      await recordParts(as(this.cell.operator), {
        jobId: metal.plant.job.id,
        before: metal.recorded,
        parts,
        source: 'typed',
      }),
    );
  /** Somebody counts wrong; it is seen before anybody counts again, and whatever else is done in between. */
  async miscount(metal: Metal): Promise<void> {
    await this.takeBack(metal);
    const parts = 1 + Math.floor(this.luck.next() * 6);
    if (metal.left < 12 || (await this.record(metal, parts)) === null) return;
    Object.assign(metal, { over: parts, counted: metal.made, byWrong: false });
  }
  private async takeBack(metal: Metal): Promise<void> {
    if (metal.over === 0) return;
    const jobId = metal.plant.job.id;
    const { id } = (await lastCount(pool(), jobId))!;
    const wrong = { jobId, count: id, before: metal.recorded + metal.over, why: 'miscounted' };
    const made = metal.counted - metal.recorded;
    const really = made !== metal.over && (metal.byWrong || this.happens(0.5)) ? made : 0;
    metal.over = 0;
    metal.recorded += really;
    this.taken(
      metal,
      really > 0 ? 'count put right' : 'count taken back',
      await takeBackCount(as(this.cell.operator), { ...wrong, really }),
    );
  }
  /** A size of another part is typed for the newest, and taken back. */
  async misread(metal: Metal): Promise<void> {
    if (metal.parts.length < 2) return;
    const size = this.pick(metal.plant.sizes);
    const off =
      this.pick(metal.parts.slice(-8)).off.get(size.id)! + (this.luck.normal() * metal.width(size)) / 6;
    const answer = await this.read(metal, size, metal.made, off, true);
    if (answer?.readingId)
      this.taken(
        metal,
        'reading taken back',
        await takeBackReading(as(this.cell.operator), {
          machineId: metal.plant.id,
          readingId: answer.readingId,
          why: 'of another part',
        }),
      );
  }
  async setUp(metal: Metal): Promise<void> {
    await this.takeBack(metal);
    const job = { jobId: metal.plant.job.id, why: 'the jaws were bored anew' };
    const first = { first: metal.made + 1, until: metal.made };
    if (this.taken(metal, 'set up', await setUpAgain(as(this.cell.setter), { ...job, ...first })) !== null)
      metal.setUpAnew();
  }

  /** A renewal is begun: of a tool that has run out, or now and then of another. Its steps come one by one, with whatever lies between. */
  async renew(metal: Metal): Promise<void> {
    const { plant } = metal;
    const tools = plant.tools.filter(({ tool }) =>
      plant.sizes.some(({ moves }) => moves.some((move) => move.tool === tool)),
    );
    const spent = await rows<{ tool: number }>(
      pool(),
      "SELECT s.tool FROM placement s JOIN assembly a ON a.id = s.assembly_id WHERE s.machine_id = $1 AND a.flag = 'expired'",
      [plant.id],
    );
    const due = tools.filter(({ tool }) => spent.some((each) => each.tool === tool));
    if (tools.length === 0 || metal.untold.length > 0 || (due.length === 0 && this.happens(0.7))) return;
    const { tool, assemblyId } = this.pick(due.length > 0 ? due : tools);
    if (this.taken(metal, 'renewal', await startRenewal(as(this.cell.setter), assemblyId)) === null) return;
    const job = (await openJobs(pool())).find(({ id }) => id === plant.job.id)!;
    const life = (await countedTools(pool(), job)).find((each) => each.assemblyId === assemblyId)?.fullLife;
    const step =
      (name: StepData['step'], more: () => Promise<Partial<StepData>> = async () => ({})) =>
      async () => {
        const data = await more();
        const none = { row: null, values: [], gaugeLength: null, others: [], shown: [], ended: null };
        this.taken(
          metal,
          `T${tool} ${name}`,
          await takeStep(as(this.cell.setter), {
            ...none,
            assemblyId,
            what: 'A fresh edge was put in.',
            life: null,
            ...data,
            step: name,
          }),
        );
      };
    // it was another tool that was to be changed: seen sooner or later, and dropped
    if (this.happens(0.2)) {
      const steps = [
        step('changed', async () => {
          await this.takeBack(metal);
          metal.recorded = metal.made;
          return { made: metal.made, sure: metal.made };
        }),
        step('lifeSet', async () =>
          life === undefined
            ? {}
            : { life: Math.max(1, life - (await openRenewal(pool(), assemblyId))!.cutSince) },
        ),
        step('flagCleared'),
      ];
      metal.doorOpen = 0;
      metal.renewing = [
        ...steps.slice(0, Math.floor(this.luck.next() * 4)),
        async () =>
          void this.taken(
            metal,
            'renewal dropped',
            await dropRenewal(as(this.cell.setter), { assemblyId, why: 'it was another tool' }),
          ),
      ];
      return;
    }
    const fresh = (value: Length) => nanometres(value + Math.round(this.luck.normal() * 8) * plant.increment);
    metal.doorOpen = 4;
    metal.renewing = [
      step('changed', async () => {
        // in a hurry nobody looks whether the number on record is right
        metal.byWrong =
          metal.over > 0 &&
          metal.counted === metal.made &&
          metal.counted - metal.recorded !== metal.over &&
          this.happens(0.7);
        if (!metal.byWrong) await this.takeBack(metal);
        metal.renew(tool);
        if (metal.byWrong) return {};
        metal.recorded = metal.made;
        return { made: metal.made, sure: metal.made };
      }),
      // what it has cut since it was put in is taken off, as the page proposes
      step('lifeSet', async () => {
        if (life === undefined) return {};
        const left = life - (await openRenewal(pool(), assemblyId))!.cutSince;
        // it has run out before its life was set: nobody can say so, and it runs out with the next part
        if (left <= 0) metal.cut.delete(tool);
        return { life: Math.max(1, left) };
      }),
      step('flagCleared'),
      step('measured', async () => {
        const kinds = geometryKinds((await machineById(pool(), plant.id))!.kind);
        const lengths = (await registersOf(pool(), plant.id)).filter(
          ({ row, kind }) => row === tool && /^(length|x|z)Geometry$/.test(kind) && kinds.includes(kind),
        );
        const others = await otherGeometry(pool(), plant.id, tool);
        return {
          row: tool,
          values: lengths.map(({ kind, value }) => ({ kind, before: value, value: fresh(value) })),
          others: others.map(({ id, value }) => ({ registerId: id, before: value, value: fresh(value) })),
        };
      }),
      step('wearZeroed', async () => {
        const worn = await wearOf(pool(), plant.id, tool);
        for (const { id } of worn) metal.control.set(id, 0);
        return { shown: worn.map(({ id }) => ({ registerId: id, value: nanometres(0) })) };
      }),
    ];
  }

  /** The record holds what the control holds, but for what nobody has told yet; all parts, and what each edge has cut. */
  async look(metal: Metal): Promise<void> {
    const record = new Map((await registersOf(pool(), metal.plant.id)).map((each) => [each.id, each]));
    for (const register of new Set(metal.plant.sizes.flatMap(({ moves }) => moves.map((m) => m.register)))) {
      const { row, kind, value } = record.get(register)!;
      if (!metal.untold.some((each) => each.register === register) && value !== metal.control.get(register))
        this.fault(metal, `${kind} of row ${row} is ${metal.control.get(register)}, on record ${value}`);
    }
    if (metal.made !== metal.recorded || metal.renewing.length > 0 || metal.over > 0) return;
    const job = (await openJobs(pool())).find(({ id }) => id === metal.plant.job.id)!;
    if (job.made !== metal.made) this.fault(metal, `${metal.made} were made, on record ${job.made}`);
    for (const { tool, basis, fullLife, remaining, direct } of await countedTools(pool(), job)) {
      const cut = metal.cut.get(tool);
      if (cut === undefined || direct === null || basis === 'wear') continue;
      const each = { pieces: direct.parts, holes: direct.holes, minutes: direct.cutMilliseconds }[basis];
      const used =
        Math.ceil((job.made * each) / direct.parts) - Math.ceil(((job.made - cut) * each) / direct.parts);
      if (fullLife - remaining !== used)
        this.fault(metal, `T${tool} has used ${used} by ${cut} parts, on record ${fullLife - remaining}`);
    }
  }

  /** One thing happens at one machine. */
  async something(metal: Metal, cut: (metal: Metal, parts: number) => Promise<void>): Promise<void> {
    const dice = this.luck.next();
    if (metal.kept && this.happens(0.2)) await this.online(metal);
    if (dice < 0.26) {
      // the door is open while it is measured and its wear is zeroed; between the steps before it may run on
      if (metal.renewing.length > 0 && metal.renewing.length < metal.doorOpen)
        return metal.renewing.shift()!();
      await cut(metal, Math.min(metal.left, 1 + Math.floor(this.luck.next() * 4)));
      if (this.happens(0.6)) await this.count(metal);
    } else if (dice < 0.58) await this.measure(metal);
    else if (dice < 0.7) await this.decide(metal);
    else if (dice < 0.84) await this.key(metal);
    else if (dice < 0.88) await this.tellKeyed(metal);
    else if (dice < 0.91) await this.miscount(metal);
    else if (dice < 0.925) await this.setUp(metal);
    else if (dice < 0.94) await this.miscount(metal);
    else if (dice < 0.945) metal.kept ??= [];
    else if (dice < 0.95) await this.misread(metal);
    else if (metal.renewing.length > 0) await metal.renewing.shift()!();
    else await this.renew(metal);
    await this.look(metal);
  }
}

const done = new Map<string, number>();
describe('whatever is done in whatever order, by people who say what they see', () => {
  it.each(seedsOr([3, 7, 39]))(
    'no correction does harm, nobody is accused, nothing is lost: seed %i',
    async (seed) => {
      const cell = await weirside();
      const owner = new pg.Client({ connectionString: cell.database.ownerUrl });
      await owner.connect();
      const { plant, shift } = await readyToPlay(owner, new Date());
      const luck = chance(seed * 7919);
      const metals = plant.filter(({ sizes }) => sizes.length > 0);
      const shop = new Shop(
        cell,
        luck,
        metals.map((each) => new Metal(each, luck)),
      );
      let at = shift.start.getTime();
      const passes = async (milliseconds: number) => setClock(owner, new Date((at += milliseconds)), 0);
      // what is in doubt from before the play is looked at first
      for (const metal of shop.metals) await shop.readOff(metal, '');
      for (let step = 0; step < STEPS && shop.wrong.length === 0; step += 1) {
        await passes(20_000);
        await shop.something(shop.pick(shop.metals), async (metal, parts) => {
          for (let i = 0; i < parts; i += 1) metal.cycle();
          await passes(parts * metal.plant.job.cycle);
        });
      }
      await owner.end();
      expect(shop.wrong).toEqual([]);
      for (const [what, times] of shop.tally) done.set(what, (done.get(what) ?? 0) + times);
    },
    120_000,
  );
  it('each of it was done', () => {
    for (const what of [
      'read back',
      'approved',
      'renewal',
      'set up',
      'count taken back',
      'count put right',
      'renewal dropped',
      'reading taken back',
    ])
      expect(done.get(what), what).toBeGreaterThan(0);
  });
});
