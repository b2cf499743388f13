import { randomUUID } from 'node:crypto';
import { HARMLESS } from '../../src/core/correction/took.ts';
import { nanometres } from '../../src/core/units/length.ts';
import type { Person } from '../../src/core/people/roles.ts';
import { geometryKinds, machineById } from '../../src/server/machines.ts';
import {
  correctionById,
  isLarge,
  openCorrections,
  readBack,
  clearRow,
  strayCorrections,
} from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { countedTools, recordParts } from '../../src/server/counts.ts';
import { pool } from '../../src/server/db.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import { openJobs } from '../../src/server/jobs.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { answerParts, clearQuarantine, quarantineOf, standOf } from '../../src/server/quarantine.ts';
import { takeReading } from '../../src/server/readings.ts';
import { registersOf } from '../../src/server/registers.ts';
import { otherGeometry, startRenewal, takeStep, wearOf, type StepData } from '../../src/server/renewals.ts';
import { Crew, STANDS } from './crew.ts';
import type { PlantSize } from './plant.ts';
import { NOT_LOOKED, WEAR_LEFT } from './slips.ts';
import type { Tally } from './tally.ts';
import type { Machine, Part } from './world.ts';

/** Who does what at the machines. */
export interface CrewPeople {
  lead: Person;
  setter: Person;
  operator: Person;
}

/** The same people with the application: they make the same slips, and do what it answers, by the acts of its pages. */
export class AppCrew extends Crew {
  constructor(
    seed: number,
    tally: Tally,
    private readonly people: CrewPeople,
  ) {
    super(seed, tally);
  }

  private as(who: keyof CrewPeople) {
    return { key: randomUUID(), personId: this.people[who].id };
  }

  async begin(machine: Machine): Promise<number> {
    let minutes = 0;
    for (const { tool, flag } of machine.plant.tools)
      if (flag === 'broken' || flag === 'expired') minutes += await this.renew(machine, tool);
    // what the shift before left approved is keyed first
    return minutes + (await this.keyApproved(machine));
  }

  async turn(machine: Machine, made: readonly Part[]): Promise<number> {
    const { plant } = machine;
    let minutes = 0;
    const job = (await openJobs(pool())).find(({ id }) => id === plant.job.id)!;
    const heard = this.notices(made);
    const counted = await recordParts(this.as('operator'), {
      jobId: job.id,
      before: job.made,
      parts: machine.made - job.made,
      source: 'counted at the control',
    });
    must(counted);
    if (heard !== null) minutes += await this.broke(machine, heard, 'It was heard.');
    for (const tool of await countedTools(pool(), job))
      if (tool.flag === 'expired') minutes += await this.renew(machine, tool.tool);
    const part = made.at(-1)!;
    for (const size of this.due(machine, part)) minutes += await this.measure(machine, part, size);
    return minutes + (await this.keyApproved(machine));
  }

  private async take(machine: Machine, part: Part, size: PlantSize, off: number, confirmed: boolean) {
    return must(
      await takeReading(this.as('operator'), {
        featureId: size.id,
        programId: machine.plant.job.programId,
        jobId: machine.plant.job.id,
        part: part.number,
        // as a gauge shows it: in steps of a tenth of the control's
        measured: nanometres(
          Math.round((size.target + off) / (machine.plant.increment / 10)) * (machine.plant.increment / 10),
        ),
        confirmed,
        firstOff: false,
      }),
    );
  }

  private async measure(machine: Machine, part: Part, size: PlantSize): Promise<number> {
    const shown = this.gauge(machine, part.number, size)!;
    const first = this.written(machine, size, shown);
    let { off } = first;
    let taken = await this.take(machine, part, size, off, false);
    if (taken.answer.verdict === 'measureAgain') {
      if (first.wrong) this.tally.slipsFound += 1;
      off = this.gauge(machine, part.number, size)!;
      taken = await this.take(machine, part, size, off, true);
    }
    let minutes = 0;
    if (off < size.lower || off > size.upper) {
      this.lookBack(machine, part.number, size);
      minutes += STANDS.looking;
      const tools = [size.tool, ...size.moves.map(({ tool }) => tool)];
      const broken = tools.find((tool) => machine.isBroken(tool));
      if (broken !== undefined && Math.abs(off) > size.upper - size.lower)
        return minutes + (await this.broke(machine, broken, `${size.name} is far out.`));
    }
    if (taken.took !== null && !HARMLESS.includes(taken.took.verdict)) minutes += await this.readOff(machine);
    return minutes;
  }

  /** Rows whose correction did not do what was asked are read off the control. */
  private async readOff(machine: Machine): Promise<number> {
    const since = new Date(0);
    const strays = (await strayCorrections(pool(), since)).filter(
      (each) => each.machineId === machine.plant.id && !each.cleared,
    );
    for (const stray of strays) {
      const holds = nanometres(machine.control.get(stray.registerId) ?? 0);
      await clearRow(this.as('setter'), stray.id, holds);
      if (holds !== stray.present) this.keyWell(machine, stray.registerId, holds);
    }
    return strays.length > 0 ? STANDS.looking : 0;
  }

  /** What was approved is keyed, and what the control then shows is read back: once more, where that says what went wrong. */
  private async keyApproved(machine: Machine): Promise<number> {
    const open = (await openCorrections(pool())).filter((each) => each.machineId === machine.plant.id);
    let minutes = 0;
    for (const { id } of open) {
      // approved with another that belongs to it, maybe
      if ((await correctionById(pool(), id))!.state === 'proposed') {
        const decided = await approve(this.as('lead'), this.people.lead, id);
        if (!decided.ok || !decided.value.done) continue;
      }
      const correction = (await correctionById(pool(), id))!;
      if (correction.state !== 'approved') continue;
      const slip = this.key(machine, correction.registerId, correction.to);
      minutes += STANDS.keying;
      // who forgot it altogether has it on the list again at the next part
      if (slip === 'forgotten' && !this.luck.happens(NOT_LOOKED)) continue;
      const looked = !this.luck.happens(NOT_LOOKED);
      const shows = () => nanometres(machine.control.get(correction.registerId) ?? 0);
      const shown = looked ? shows() : correction.to;
      const again = isLarge(correction) ? shown : null;
      const answer = await readBack(this.as('operator'), id, { shown, again });
      if (!answer.ok || answer.value.kept) continue;
      // the neighbour is told by what the row shows: it is set back as the record has it
      if (slip === 'neighbourRow') await this.setBack(machine, correction.registerId);
      this.keyWell(machine, correction.registerId, correction.to);
      minutes += STANDS.keying;
      await readBack(this.as('operator'), id, {
        shown: shows(),
        again: isLarge(correction) ? shows() : null,
      });
    }
    return minutes;
  }

  private async setBack(machine: Machine, register: number): Promise<void> {
    const next = this.neighbour(machine.plant, register);
    const record = (await registersOf(pool(), machine.plant.id)).find(({ id }) => id === next);
    if (record) this.keyWell(machine, record.id, record.value);
  }

  private async broke(machine: Machine, tool: number, why: string): Promise<number> {
    const assembly = machine.plant.tools.find((each) => each.tool === tool)!;
    must(await flagAssembly(this.as('operator'), { assemblyId: assembly.assemblyId, flag: 'broken', why }));
    return STANDS.broken + (await this.renew(machine, tool));
  }

  /** A fresh edge, step by step as the page has it; the quarantine of one that broke is worked off with it. */
  private async renew(machine: Machine, tool: number): Promise<number> {
    const { plant } = machine;
    const { assemblyId } = plant.tools.find((each) => each.tool === tool)!;
    const held = await quarantineOf(pool(), assemblyId);
    const open = held !== null && held.closedAt === null ? held : null;
    const suspect = open ? (await standOf(pool(), open)).parts : [];
    machine.renew(tool);
    this.tally.renewals += 1;
    must(await startRenewal(this.as('setter'), assemblyId));
    const job = (await openJobs(pool())).find(({ id }) => id === plant.job.id)!;
    const counted = (await countedTools(pool(), job)).find((each) => each.assemblyId === assemblyId);
    const base: Omit<StepData, 'step'> = {
      assemblyId,
      what: 'A fresh edge was put in.',
      ended: open ? { end: 'broken', sign: null, flank: null } : null,
      life: counted?.fullLife ?? null,
      row: null,
      values: [],
      gaugeLength: null,
      others: [],
      shown: [],
    };
    const step = async (name: StepData['step'], more: Partial<StepData> = {}) =>
      must(await takeStep(this.as('setter'), { ...base, ...more, step: name }));
    await step('changed');
    await step('lifeSet');
    await step('flagCleared');
    const kinds = geometryKinds((await machineById(pool(), plant.id))!.kind);
    const all = await registersOf(pool(), plant.id);
    const lengths = all.filter(
      ({ row, kind }) => row === tool && /^(length|x|z)Geometry$/.test(kind) && kinds.includes(kind),
    );
    const fresh = (value: number) => nanometres(value + Math.round(this.luck.normal() * 8) * plant.increment);
    const values = lengths.map(({ id, kind, value }) => ({ id, kind, before: value, value: fresh(value) }));
    const others = (await otherGeometry(pool(), plant.id, tool)).map((register) => ({
      registerId: register.id,
      before: register.value,
      value: fresh(register.value),
    }));
    await step('measured', {
      row: tool,
      values: values.map(({ kind, value, before }) => ({ kind, value, before })),
      others,
    });
    for (const { id, value } of values) machine.control.set(id, value);
    for (const { registerId, value } of others) machine.control.set(registerId, value);
    await this.zeroWear(machine, tool, step);
    this.dueAnew(machine, tool);
    if (open) await this.inspect(machine, assemblyId, suspect);
    return STANDS.changing;
  }

  private async zeroWear(
    machine: Machine,
    tool: number,
    step: (name: StepData['step'], more: Partial<StepData>) => Promise<unknown>,
  ): Promise<void> {
    const worn = await wearOf(pool(), machine.plant.id, tool);
    const shown = () =>
      worn.map(({ id }) => ({ registerId: id, value: nanometres(machine.control.get(id) ?? 0) }));
    const left = this.luck.happens(WEAR_LEFT) && worn.length > 0;
    const zero = () => worn.forEach(({ id }) => machine.control.set(id, 0));
    if (left) this.tally.slips += 1;
    else zero();
    try {
      await step('wearZeroed', { shown: shown() });
    } catch {
      // the page refuses what is not nought: it is keyed, and read again
      if (left) this.tally.slipsFound += 1;
      zero();
      await step('wearZeroed', { shown: shown() });
    }
  }

  /** The parts that are held back are measured one by one, and the tool is free again. */
  private async inspect(
    machine: Machine,
    assemblyId: number,
    suspect: readonly { job: number; part: number; outcome: string | null }[],
  ): Promise<void> {
    for (const { job, part, outcome } of suspect) {
      if (outcome !== null) continue;
      const bad = machine.parts.find((each) => each.number === part)?.bad.length ?? 0;
      if (bad > 0) this.setAside(machine, part);
      must(
        await answerParts(this.as('operator'), {
          assemblyId,
          job,
          from: part,
          to: part,
          outcome: bad > 0 ? 'scrap' : 'good',
          found: bad > 0 ? 'Out of its limits.' : '',
          again: false,
          allBefore: false,
        }),
      );
    }
    must(await clearQuarantine(this.as('setter'), { assemblyId }));
  }
}

function must<T>(outcome: Outcome<T>): T {
  if (!outcome.ok) throw new Error(outcome.reason);
  return outcome.value;
}
