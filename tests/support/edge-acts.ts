import { traitsOf } from '../../src/core/changer/traits.ts';
import { shapeOf, WEAR_KINDS } from '../../src/server/machines.ts';
import { nanometres } from '../../src/core/units/length.ts';
import { indexInserts } from '../../src/server/builds.ts';
import { pool, rows } from '../../src/server/db.ts';
import { groupsOf } from '../../src/server/groups.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { recordPresetting } from '../../src/server/presettings.ts';
import { foundAtControl, measureTool } from '../../src/server/registers.ts';
import {
  openRenewal,
  otherGeometry,
  startRenewal,
  wearOf,
  type StepData,
} from '../../src/server/renewals.ts';
import { dropRenewal } from '../../src/server/renewal-dropped.ts';
import { as } from './cell.ts';
import { stepOf } from './egret.ts';

import { TrueLengths } from './true-lengths.ts';

/** People at the machine and on the bench: tools come and go, are measured, corrected and get fresh edges. */
export class EdgeActs extends TrueLengths {
  protected async takeOut(): Promise<void> {
    const tool = this.pick([...this.stands.keys()]);
    if (tool === undefined) return;
    const { assemblyId, placeId } = this.stands.get(tool)!;
    const outcome = await takeOut(as(this.cell.setter), { placeId, assemblyId, why: 'to the presetter' });
    if (this.took('taken out', `T${tool} ${assemblyId}`, outcome)) this.stands.delete(tool);
  }
  protected async place(): Promise<void> {
    const places = await placesOf(pool(), this.machine.id);
    const place = this.pick(places.filter(({ kind, assembly }) => kind === 'pocket' && !assembly));
    const called = this.programs.flatMap(({ calls }) => calls.map(({ tool }) => tool));
    const members = (await groupsOf(pool(), this.machine.id)).flatMap(({ members }) =>
      members.map(({ tool }) => tool),
    );
    const free = [...called, ...members].filter((each) => !this.stands.has(each));
    const tool = traitsOf(shapeOf(this.machine)).ownPlaces ? place?.number : this.pick(free);
    const loose = await rows<{ id: number }>(
      pool(),
      'SELECT id FROM assembly a WHERE interface = $1 AND flag IS NULL AND NOT EXISTS (SELECT FROM placement s WHERE s.assembly_id = a.id) ORDER BY id',
      [this.machine.interface],
    );
    const assemblyId = this.pick(loose)?.id;
    if (!place || tool === undefined || assemblyId === undefined) return;
    const outcome = await placeTool(as(this.cell.setter), {
      placeId: place.id,
      assemblyId,
      tool,
      knob: this.machine.knob,
    });
    if (!this.took('placed', `T${tool} ${assemblyId} in ${place.number}`, outcome)) return;
    this.meet(assemblyId);
    this.stands.set(tool, { assemblyId, placeId: place.id, since: (this.placings += 1) });
  }
  protected async measure(): Promise<void> {
    const tool = this.pick([...this.stands.keys()]);
    if (tool === undefined) return;
    const row = this.pick(await this.rowsOf(tool))!;
    const registers = (await this.registers()).filter(
      (each) => each.row === row && this.kinds.includes(each.kind),
    );
    if (registers.length === 0) return;
    const outcome = await measureTool(as(this.cell.setter), {
      machineId: this.machine.id,
      assemblyId: this.stands.get(tool)!.assemblyId,
      row,
      values: registers.map((each) => ({
        kind: each.kind,
        before: each.value,
        value: this.expected(each, tool),
      })),
      gaugeLength: null,
      how: 'on the setter',
      method: 'typed',
    });
    if (!this.took('measured', `T${tool} into ${row}`, outcome)) return;
    for (const each of registers) {
      this.key(each, this.expected(each, tool));
      this.known.set(each.id, this.epoch(tool));
    }
  }
  /** Wear is moved by hand at the control, for the edge that cuts, and written down with its reason. */
  protected async wear(): Promise<void> {
    const tool = this.pick([...this.stands.keys()]);
    if (tool === undefined) return;
    const own = await this.rowsOf(tool);
    const register = this.pick(
      (await this.registers()).filter(({ row, kind }) => own.includes(row) && WEAR_KINDS.includes(kind)),
    );
    if (!register || this.secret.has(register.id)) return;
    const value = nanometres(this.happens(0.2) ? 0 : (this.happens(0.5) ? 1 : -1) * this.step(60));
    const outcome = await foundAtControl(as(this.cell.setter), {
      registerId: register.id,
      before: register.value,
      after: value,
      why: 'corrected by the part',
    });
    if (!this.took('wear', `${register.kind} ${register.row} of T${tool} ${value}`, outcome)) return;
    this.key(register, value);
    this.wanted.set(register.id, { epoch: this.epoch(tool), value });
  }
  protected async bench(): Promise<void> {
    const standing = new Set([...this.stands.values()].map(({ assemblyId }) => assemblyId));
    const assemblyId = this.pick([...this.edges.keys()].filter((each) => !standing.has(each)));
    if (assemblyId === undefined) return;
    if (this.happens(0.5)) {
      const outcome = await indexInserts(as(this.cell.setter), assemblyId);
      if (this.took('indexed on the bench', String(assemblyId), outcome)) this.fresh(assemblyId);
      return;
    }
    if (this.machine.kind === 'lathe') return;
    const outcome = await recordPresetting(as(this.cell.setter), {
      assemblyId,
      gaugeLength: nanometres(this.edges.get(assemblyId)!.get('lengthGeometry')!),
      diameter: null,
      cornerRadius: null,
      runOut: null,
      instrument: 'presetter',
      confirmed: true,
    });
    this.took('preset', String(assemblyId), outcome);
  }

  protected async renew(): Promise<void> {
    if (this.renewing) {
      const { assemblyId, steps } = this.renewing;
      await steps.shift()?.();
      if (steps.length === 0) this.renewing = null;
      else if (this.happens(0.02)) this.tell('left lying', String(assemblyId));
      return;
    }
    const assemblyId = this.pick([...this.edges.keys()]);
    if (assemblyId === undefined || (await openRenewal(pool(), assemblyId))) return;
    if (!this.took('renewal', String(assemblyId), await startRenewal(as(this.cell.setter), assemblyId)))
      return;
    /** By mistake: the edge stays as it is, and somebody notices. */
    const really = this.happens(0.75);
    const step = async (name: StepData['step'], over: Partial<StepData> = {}) =>
      this.took(name, String(assemblyId), await stepOf(this.cell, assemblyId, name, over));
    const tool = () => [...this.stands].find(([, each]) => each.assemblyId === assemblyId)?.[0];
    const steps = [
      async () => {
        if ((await step('changed')) && really) this.fresh(assemblyId);
      },
      async () => {
        const [life] = await rows<{ full: number }>(
          pool(),
          'SELECT full_life AS full FROM life_counter WHERE assembly_id = $1',
          [assemblyId],
        );
        await step('lifeSet', { life: life?.full ?? null });
      },
      async () => void (await step('flagCleared')),
      async () => {
        const at = tool();
        if (at === undefined)
          return void (await step('measured', {
            gaugeLength: nanometres(Math.abs(this.edges.get(assemblyId)!.values().next().value!)),
          }));
        const registers = await this.registers();
        const own = registers.filter((each) => each.row === at && this.kinds.includes(each.kind));
        const others = await otherGeometry(pool(), this.machine.id, at);
        const taken = await step('measured', {
          row: at,
          values: own.map((each) => ({
            kind: each.kind,
            before: each.value,
            value: this.expected(each, at),
          })),
          others: others.map((each) => ({
            registerId: each.id,
            before: each.value,
            value: this.expected(each, at),
          })),
        });
        if (!taken) return;
        for (const each of [...own, ...others]) {
          this.key(each, this.expected(each, at));
          this.known.set(each.id, this.epoch(at));
        }
      },
      async () => {
        const at = tool();
        const worn = at === undefined ? [] : await wearOf(pool(), this.machine.id, at);
        if (
          !(await step('wearZeroed', {
            shown: worn.map(({ id }) => ({ registerId: id, value: nanometres(0) })),
          }))
        )
          return;
        for (const each of worn) {
          this.key(each, nanometres(0));
          this.wanted.delete(each.id);
        }
      },
    ];
    if (!really)
      steps.splice(1 + Math.floor(this.luck.next() * 4), 9, async (): Promise<void> => {
        this.took(
          'renewal dropped',
          String(assemblyId),
          await dropRenewal(as(this.cell.setter), { assemblyId, why: 'the wrong tool' }),
        );
      });
    this.renewing = { assemblyId, steps };
  }
}
