import { lengthOf } from '../../src/core/units/length.ts';
import { assembliesOf } from '../../src/server/assemblies.ts';
import { pool, rows } from '../../src/server/db.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import type { SaidStep } from '../../src/server/load-steps.ts';
import { openLoadPlan, pocketBroken } from '../../src/server/loads.ts';
import { machineById } from '../../src/server/machines.ts';
import { changePocket } from '../../src/server/magazines.ts';
import { callPocket } from '../../src/server/pocket-calls.ts';
import { placeTool, takeOut } from '../../src/server/places.ts';
import { as } from './cell.ts';
import { HungMetal } from './hung-metal.ts';

/** Others who act at the magazine, or with the tools of its load plan, while somebody works the plan off. */
export class Meddled extends HungMetal {
  /** Somebody else does something at the machine, or to a tool of the plan. */
  async surprise(): Promise<void> {
    const plan = await openLoadPlan(pool(), (await machineById(pool(), this.machine.id))!);
    const wished = plan?.wanted.tools.flatMap(({ assemblyId }) => assemblyId ?? []) ?? [];
    const loose = wished.filter((each) => this.loose.includes(each));
    if (loose.length > 0 && this.happens(0.3))
      return this.happens(0.5) ? this.goesElsewhere(this.pick(loose)) : this.builtAnew(this.pick(loose));
    const dice = this.luck.next();
    if (dice < 0.25) await this.placeBy();
    else if (dice < 0.4) await this.takeBy();
    else if (dice < 0.55) await this.callBy();
    else if (dice < 0.65) await this.outOfService();
    else if (dice < 0.8) await this.breaks(this.pick(wished));
    else if (plan?.left.ok && plan.left.steps[0]) await this.pocketBreaks(plan.id, plan.left.steps[0]);
  }
  private async placeBy(): Promise<void> {
    const number = this.pick([...this.placeIds.keys()].filter((each) => !this.metal.has(each)));
    const assemblyId = this.pick(this.loose);
    if (number === undefined || assemblyId === undefined) return;
    const tool =
      this.traits.ownPlaces && number > 0
        ? number
        : 1 + Math.floor(this.luck.next() * Math.min(99, this.machine.highestTool));
    const placeId = this.placeIds.get(number)!;
    const outcome = await placeTool(as(this.cell.crib), {
      placeId,
      assemblyId,
      tool,
      knob: this.machine.knob,
    });
    if (!outcome.ok) return this.tell('others did not place', outcome.reason);
    this.tell('others placed', `T${tool} in ${number}`);
    this.metal.set(number, { assemblyId, tool });
  }
  private async takeBy(): Promise<void> {
    const found = this.pick([...this.metal]);
    if (!found) return;
    const [number, { assemblyId, tool }] = found;
    const placeId = this.placeIds.get(number)!;
    const outcome = await takeOut(as(this.cell.crib), { placeId, assemblyId, why: '' });
    if (!outcome.ok) return this.tell('others did not take out', outcome.reason);
    this.tell('others took out', `T${tool} of ${number}`);
    this.metal.delete(number);
  }
  private async callBy(): Promise<void> {
    const pocket = this.pick(this.pockets);
    if (pocket === undefined || !this.traits.throughSpindle) return;
    const outcome = await callPocket(as(this.cell.crib), {
      machineId: this.machine.id,
      pocket,
      spindle: this.metal.get(0)?.assemblyId ?? null,
      inPocket: this.metal.get(pocket)?.assemblyId ?? null,
    });
    if (!outcome.ok) return this.tell('others did not call', outcome.reason);
    this.tell('others called', String(pocket));
    this.call(pocket);
  }
  private async outOfService(): Promise<void> {
    const number = this.pick(this.pockets)!;
    const change = this.happens(0.5) ? 'outOfService' : 'inService';
    const placeId = this.placeIds.get(number)!;
    const outcome = await changePocket(as(this.cell.crib), { placeId, change, why: 'bent' });
    this.tell(outcome.ok ? change : 'others did not change', String(number));
  }
  private async breaks(assemblyId: number | undefined): Promise<void> {
    if (assemblyId === undefined) return;
    const outcome = await flagAssembly(as(this.cell.crib), { assemblyId, flag: 'broken', why: 'dropped' });
    this.tell(outcome.ok ? 'broke' : 'did not break', String(assemblyId));
  }
  private async goesElsewhere(assemblyId: number | undefined): Promise<void> {
    if (assemblyId === undefined) return;
    await this.cell.asOwner((db) =>
      db.query('UPDATE machine SET spindle_sure = true, interface = $1 WHERE id = $2', [
        this.machine.interface,
        this.other,
      ]),
    );
    const place = await rows<{ id: number; knob: string }>(
      pool(),
      `SELECT p.id, (SELECT knob FROM machine WHERE id = $1) AS knob FROM place p WHERE machine_id = $1 AND kind = 'spindle' AND NOT EXISTS (SELECT FROM placement s WHERE s.place_id = p.id)`,
      [this.other],
    );
    if (!place[0]) return;
    const outcome = await placeTool(as(this.cell.crib), {
      placeId: place[0].id,
      assemblyId,
      tool: 199,
      knob: place[0].knob,
    });
    this.tell(outcome.ok ? 'went elsewhere' : 'did not go elsewhere', outcome.ok ? '' : outcome.reason);
  }
  /** A tool of the plan is built anew on the bench: wider, longer, heavier or less so. */
  private async builtAnew(assemblyId: number | undefined): Promise<void> {
    if (assemblyId === undefined) return;
    const [across, long, mass] = [
      20 + this.luck.next() * 130,
      90 + this.luck.next() * 250,
      800 + this.luck.next() * 9000,
    ];
    await this.cell.asOwner((db) =>
      db.query(
        'UPDATE assembly SET diameter = $2, stick_out = $3, gauge_length = $4, mass = $5, outline = NULL, seats = NULL WHERE id = $1',
        [
          assemblyId,
          lengthOf(Math.round(across), 'mm'),
          lengthOf(Math.round(long / 2), 'mm'),
          lengthOf(Math.round(long), 'mm'),
          Math.round(mass),
        ],
      ),
    );
    const [shape] = await assembliesOf(pool(), [assemblyId]);
    this.shapes.set(assemblyId, shape!);
    this.tell('built anew', `${assemblyId}, ${Math.round(across)} mm across`);
  }
  private get other(): number {
    return this.machine.name === 'Avocet' ? 5 : 1;
  }
  private async pocketBreaks(planId: number, { key, step }: SaidStep): Promise<void> {
    const pocket = 'pocket' in step && step.pocket > 0 ? step.pocket : this.pick(this.pockets)!;
    const there = this.metal.get(pocket);
    const outcome = await pocketBroken(as(this.cell.setter), {
      planId,
      key,
      pocket,
      why: 'spring broken',
      takenOut: true,
    });
    if (!outcome.ok) return this.tell('did not say broken', outcome.reason);
    this.tell('pocket broken', String(pocket));
    if (there) this.metal.delete(pocket);
  }
}
