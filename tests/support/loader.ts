import { carry } from '../../src/core/changer/carry.ts';
import { hangingRadius } from '../../src/core/changer/clearance.ts';
import { makeRoom } from '../../src/core/changer/make-room.ts';
import { searchLayout } from '../../src/core/changer/plan-search.ts';
import { plannedTools, wantedByPlan } from '../../src/core/changer/planned.ts';
import { orientationOf, type Wanted, type WantedTool } from '../../src/core/changer/wanted.ts';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { pool, rows } from '../../src/server/db.ts';
import type { SaidStep } from '../../src/server/load-steps.ts';
import {
  dropLoadPlan,
  makeLoadPlan,
  openLoadPlan,
  tickBuilt,
  tickMeasured,
  tickStep,
} from '../../src/server/loads.ts';
import { geometryKinds, machineById, shapeOf, type Machine } from '../../src/server/machines.ts';
import { roomState, timesOf } from '../../src/server/magazines.ts';
import { callPocket } from '../../src/server/pocket-calls.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { placesOf } from '../../src/server/places.ts';
import { layoutTask } from '../../src/server/planning.ts';
import { as } from './cell.ts';
import { Meddled } from './meddled.ts';

/** A magazine that is loaded by a plan, step by step, while others act at it as well. Whatever is proposed must be taken. */
export class Loader extends Meddled {
  /** Some of what stands goes, some goes elsewhere, something comes. */
  private aim(): Wanted {
    const out: number[] = [];
    const tools: WantedTool[] = [];
    const free = new Set(this.pockets.filter((number) => !this.metal.has(number)));
    const freeTools = new Set(
      Array.from({ length: this.machine.highestTool }, (_, i) => i + 1).filter((tool) =>
        [...this.metal.values()].every((each) => each.tool !== tool),
      ),
    );
    const wish = (assemblyId: number | null, tool: number, pocket: number, wide: boolean) => {
      const shape = assemblyId === null ? undefined : this.shapes.get(assemblyId);
      tools.push({
        assemblyId,
        number: shape?.number ?? '',
        name: shape?.name ?? 'to be built',
        tool,
        pocket,
        wide,
        heavy: false,
        radius: shape ? hangingRadius(shapeOf(this.machine), shape) : null,
        orientation: shape ? orientationOf(shape.kind) : null,
      });
    };
    for (const [number, { assemblyId, tool }] of this.metal) {
      const dice = this.luck.next();
      if (dice < 0.1) {
        out.push(assemblyId);
        free.add(number);
      } else if (dice < 0.22 && number > 0) {
        const to = this.pick([...free]);
        if (to === undefined) continue;
        free.delete(to);
        free.add(number);
        wish(assemblyId, this.traits.ownPlaces ? to : tool, to, this.happens(0.15));
      } else if (dice < 0.5 && number > 0) wish(assemblyId, tool, number, false);
    }
    const coming = 1 + Math.floor(this.luck.next() * 2);
    for (const assemblyId of this.several(this.loose, coming)) {
      const pocket = this.pick([...free]);
      if (pocket === undefined) continue;
      const tool = this.traits.ownPlaces ? pocket : this.pick([...freeTools])!;
      free.delete(pocket);
      freeTools.delete(tool);
      wish(this.happens(0.1) ? null : assemblyId, tool, pocket, this.happens(0.15));
    }
    return { tools, out };
  }
  /** What the planner makes of some of the machine's programs: it must be taken as it is. */
  private async laidOut(): Promise<Wanted | null> {
    const programs = await rows<{ id: number }>(
      pool(),
      'SELECT id FROM program WHERE machine_id = $1 ORDER BY id',
      [this.machine.id],
    );
    const machine = (await machineById(pool(), this.machine.id))!;
    const chosen = programs.map(({ id }) => id).filter(() => this.happens(0.6));
    const locked = [...this.metal.values()].map(({ tool }) => tool).filter(() => this.happens(0.15));
    const task = await layoutTask(pool(), machine, chosen, locked);
    const weigh = () => this.pick([0, 1, 3])!;
    const weights = { hands: weigh(), time: weigh(), balance: weigh(), gaps: weigh() };
    const search = searchLayout({ ...task.question, weights }, () => this.luck.next(), 400);
    let step = search.next();
    while (!step.done) step = search.next();
    if (!step.value.ok) {
      this.tell('no layout', step.value.reason);
      return null;
    }
    const planned = plannedTools(task, step.value.found.layout, this.traits.ownPlaces);
    this.expected = task.remarks.every((each) => !each.includes('together; the changer'));
    return wantedByPlan(planned);
  }
  /** The aim is the planner's own, and cannot be refused. */
  private expected = false;

  async plan(): Promise<boolean> {
    this.expected = false;
    const wanted = (this.happens(0.4) ? await this.laidOut() : null) ?? this.aim();
    const made = await makeLoadPlan(as(this.cell.lead), { machineId: this.machine.id, wanted });
    const said = wanted.tools.map(
      (each) => `T${each.tool} ${each.number} in ${each.pocket}${each.wide ? ' wide' : ''}`,
    );
    this.tell(
      made.ok ? 'planned' : 'not planned',
      made.ok ? `${said.join(', ')}; out ${wanted.out.join(' ')}` : made.reason,
    );
    if (this.expected) this.tell('laid out');
    if (this.expected && !made.ok && !/Everything already stands|already open/.test(made.reason))
      this.fault(`a layout was not taken: ${made.reason} — ${said.join(', ')}; out ${wanted.out.join(' ')}`);
    return made.ok;
  }

  /** Does what the plan says next; false once it says nothing more. */
  async step(): Promise<boolean> {
    this.machineNow = (await machineById(pool(), this.machine.id))!;
    const plan = await openLoadPlan(pool(), this.machineNow);
    if (!plan) {
      this.tell('worked off');
      return false;
    }
    if (!plan.left.ok) {
      this.fault(`it says nothing more: ${plan.left.reason}`);
      return false;
    }
    const [next] = plan.left.steps;
    if (!next) {
      for (const { reason } of plan.left.held) this.tell('waits', reason);
      await dropLoadPlan(as(this.cell.lead), plan.id);
      return false;
    }
    if (next.step.act === 'build') return this.build(plan.id, plan.wanted, next);
    const outcome = await this.tick(plan.id, next);
    this.tell(next.step.act, next.title);
    if (!outcome.ok) {
      this.fault(`"${next.title}" was refused: ${outcome.reason}`);
      return false;
    }
    this.move(next);
    await this.look();
    return true;
  }
  private machineNow: Machine | null = null;
  private tick(planId: number, { key, step, confirm, turned }: SaidStep): Promise<Outcome<unknown>> {
    if (step.act !== 'measure')
      return tickStep(as(this.cell.setter), {
        planId,
        key,
        confirmed: confirm.length,
        ...(turned && { turned }),
      });
    return this.measured(planId, key, step.tool.assemblyId, step.tool.tool);
  }
  private async measured(planId: number, key: string, assemblyId: number, row: number) {
    const { id: machineId, kind } = this.machine;
    const kinds = kind === 'mill' ? ['lengthGeometry'] : geometryKinds('lathe').slice(0, 2);
    const before = new Map(
      (
        await rows<{ kind: string; value: Length }>(
          pool(),
          'SELECT kind, value FROM register WHERE machine_id = $1 AND row = $2',
          [machineId, row],
        )
      ).map((each) => [each.kind, each.value]),
    );
    const length = lengthOf(100 + Math.floor(this.luck.next() * 60_000) / 1000, 'mm');
    return tickMeasured(as(this.cell.setter), {
      planId,
      key,
      measuring: {
        machineId,
        assemblyId,
        row,
        values: kinds.map((each) => ({ kind: each, value: length, before: before.get(each)! })),
        gaugeLength: kind === 'mill' ? length : null,
        how: 'Measured straight after loading.',
        method: kind === 'mill' ? 'toolSetter' : 'touchOff',
      },
    });
  }
  /** Room is made, or one tool is carried to another pocket, by the calls that are worked out: each must be taken, if nobody acts meanwhile. */
  async carries(): Promise<void> {
    if (!this.traits.exchanges) return;
    const machine = (await machineById(pool(), this.machine.id))!;
    const state = roomState(machine, await placesOf(pool(), machine.id));
    const [from, to] = this.several(this.pockets, 2);
    const now = [state.spindle?.tool ?? null, ...state.pockets.map(({ content }) => content?.tool ?? null)];
    const wanted = now.map((tool, i) => (i === from ? now[to!]! : i === to ? now[from!]! : tool));
    const usable = [from!, to!].every((each) => state.pockets[each - 1]!.usable);
    const wish = {
      centre: this.happens(0.5) ? from! : null,
      span: this.pick([1, 3, 3, 5])!,
      spindleEmpty: this.happens(0.7),
    };
    const room = this.happens(0.5);
    const answer = room
      ? makeRoom(state, wish, timesOf(machine), 20_000)
      : usable
        ? carry(state, wanted, 6_000)
        : null;
    if (!answer?.ok) return this.tell(room ? 'no room' : 'not carried', answer?.reason);
    const calls = 'plan' in answer ? answer.plan.calls : answer.calls;
    this.tell(room ? 'room' : 'carried', `${calls.length} calls`);
    for (const { pocket } of calls) {
      const outcome = await callPocket(as(this.cell.setter), {
        machineId: machine.id,
        pocket,
        spindle: this.metal.get(0)?.assemblyId ?? null,
        inPocket: this.metal.get(pocket)?.assemblyId ?? null,
      });
      if (!outcome.ok)
        return void this.fault(`call ${pocket} of a row that was worked out was refused: ${outcome.reason}`);
      this.tell('row call', String(pocket));
      this.call(pocket);
      await this.look();
    }
    if ('plan' in answer && answer.plan.window.some((each) => this.metal.has(each)))
      this.fault('no room was made');
    if (!room && this.metal.get(to!)?.tool !== (now[from!] ?? undefined))
      this.fault('it was not carried there');
  }

  /** What is to be built: somebody brings something that could be it, or the plan ends there. */
  private async build(planId: number, wanted: Wanted, { key }: SaidStep): Promise<boolean> {
    const named = new Set(wanted.tools.map((each) => each.assemblyId));
    for (const assemblyId of this.several(
      this.loose.filter((each) => !named.has(each)),
      4,
    )) {
      const built = await tickBuilt(as(this.cell.setter), { planId, key, assemblyId });
      this.tell(built.ok ? 'built' : 'not built', built.ok ? String(assemblyId) : built.reason);
      if (built.ok) return true;
    }
    await dropLoadPlan(as(this.cell.lead), planId);
    return false;
  }

  /** The metal after a step. */
  private move({ step }: SaidStep): void {
    if (step.act === 'call') this.call(step.pocket);
    if (step.act === 'unload') this.metal.delete(step.pocket);
    if (step.act === 'load')
      this.metal.set(step.pocket, { assemblyId: step.wanted.assemblyId!, tool: step.wanted.tool });
  }
}
