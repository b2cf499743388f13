import { sweptRadius, type AssemblyShape } from '../../src/core/assembly/silhouette.ts';
import { changerLayout } from '../../src/core/changer/layout.ts';
import { hangingRadius } from '../../src/core/changer/clearance.ts';
import { neighbours } from '../../src/core/changer/neighbours.ts';
import { plannedTools, wantedByPlan } from '../../src/core/changer/planned.ts';
import { searchLayout } from '../../src/core/changer/plan-search.ts';
import { traitsOf } from '../../src/core/changer/traits.ts';
import { orientationOf, type Wanted, type WantedTool } from '../../src/core/changer/wanted.ts';
import { weighed } from '../../src/core/assembly/weighed.ts';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { assembliesOf } from '../../src/server/assemblies.ts';
import { pool, rows } from '../../src/server/db.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import type { SaidStep } from '../../src/server/load-steps.ts';
import {
  dropLoadPlan,
  makeLoadPlan,
  openLoadPlan,
  pocketBroken,
  tickBuilt,
  tickMeasured,
  tickStep,
} from '../../src/server/loads.ts';
import { geometryKinds, machineById, shapeOf, type Machine } from '../../src/server/machines.ts';
import { callPocket, changePocket } from '../../src/server/magazines.ts';
import { notCarried } from '../../src/server/not-carried.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { layoutTask } from '../../src/server/planning.ts';
import { noArm, placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { as, type weirside } from './cell.ts';
import type { chance } from './chance.ts';

type Cell = Awaited<ReturnType<typeof weirside>>;
type Luck = ReturnType<typeof chance>;
interface Standing {
  assemblyId: number;
  tool: number;
}

/**
 * A magazine that is loaded by a plan, step by step, while others act at it as well. What hangs where in the metal is known here alone;
 * number 0 is the spindle.
 */
export class Loader {
  readonly wrong: string[] = [];
  readonly tally = new Map<string, number>();
  private readonly story: string[] = [];
  private readonly metal = new Map<number, Standing>();
  /** What the arm has hung up since the record was looked at. */
  private readonly hung: (Standing & { pocket: number })[] = [];

  constructor(
    private readonly cell: Cell,
    private readonly machine: Machine,
    private readonly luck: Luck,
    private readonly placeIds: ReadonlyMap<number, number>,
    standing: readonly (Standing & { number: number })[],
    private readonly shapes: Map<
      number,
      AssemblyShape & { number: string; name: string; mass: number | null; moment: number | null }
    >,
  ) {
    for (const { number, assemblyId, tool } of standing) this.metal.set(number, { assemblyId, tool });
  }

  private pick = <T>(all: readonly T[]): T | undefined => all[Math.floor(this.luck.next() * all.length)];
  private happens = (share: number) => this.luck.next() < share;
  private fault = (text: string) => this.wrong.push(`${text}\n  ${this.story.slice(-14).join('\n  ')}`);
  private tell(what: string, of = ''): void {
    this.tally.set(what, (this.tally.get(what) ?? 0) + 1);
    this.story.push(`${what} ${of}`);
  }
  private get traits() {
    return traitsOf(shapeOf(this.machine));
  }
  private get loose(): number[] {
    const inside = new Set([...this.metal.values()].map((each) => each.assemblyId));
    return [...this.shapes.keys()].filter((id) => !inside.has(id));
  }
  private get pockets(): number[] {
    return [...this.placeIds.keys()].filter((number) => number > 0);
  }

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
  private several<T>(all: readonly T[], n: number): T[] {
    const left = [...all];
    return Array.from({ length: Math.min(n, left.length) }, () =>
      left.splice(Math.floor(this.luck.next() * left.length), 1),
    ).flat();
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
  private call(pocket: number): void {
    const [spindle, there] = [this.metal.get(0), this.metal.get(pocket)];
    this.metal.delete(0);
    this.metal.delete(pocket);
    if (spindle) {
      this.metal.set(pocket, spindle);
      this.carried(spindle);
      this.hung.push({ pocket, ...spindle });
    }
    if (there) {
      this.metal.set(0, there);
      this.carried(there);
    }
  }
  /** The changer may not take what is heavier or longer than its plate says. */
  private carried({ assemblyId, tool }: Standing): void {
    const shape = this.shapes.get(assemblyId)!;
    const { heaviest, longest } = this.machine;
    if (heaviest !== null && weighed(shape).mass > heaviest) this.fault(`T${tool} is too heavy for the arm`);
    if (longest !== null && shape.gaugeLength > longest) this.fault(`T${tool} is too long for the arm`);
  }

  /** What hangs in the metal is what the record says, and nothing strikes anything. */
  async look(): Promise<void> {
    const places = await placesOf(pool(), this.machine.id);
    for (const { number, tool, assembly } of places) {
      const there = this.metal.get(number);
      if (there?.assemblyId !== assembly?.id || (there?.tool ?? null) !== tool)
        this.fault(`place ${number} holds T${there?.tool}, on record T${tool}`);
    }
    const machine = (await machineById(pool(), this.machine.id))!;
    const kept = await notCarried(pool(), machine);
    for (const { tool, assembly } of places)
      if (assembly && noArm(machine, places, assembly, tool)?.reasons !== kept.get(tool!)?.reasons)
        this.fault(`of T${tool} it is not told that the changer must not carry it`);
    if (!this.traits.hangs) return;
    const shape = shapeOf(this.machine);
    const spots = new Map(changerLayout(shape).map((spot) => [spot.number, spot]));
    const hung = [...this.metal].filter(([number]) => number > 0);
    for (const [i, [a, one]] of hung.entries())
      for (const [b, other] of hung.slice(i + 1)) {
        const apart = Math.hypot(spots.get(a)!.x - spots.get(b)!.x, spots.get(a)!.y - spots.get(b)!.y);
        const radii = [one, other].map(({ assemblyId }) =>
          hangingRadius(shape, this.shapes.get(assemblyId)!),
        );
        if (apart < radii[0]! + radii[1]! - 1e-6) this.fault(`T${one.tool} strikes T${other.tool}`);
      }
    const beside = neighbours(shape);
    for (const { pocket, assemblyId, tool } of this.hung.splice(0)) {
      const place = places.find(({ kind, number }) => kind === 'pocket' && number === pocket)!;
      if (!place.inService) this.fault(`T${tool} was hung into pocket ${pocket}, which is out of service`);
      if (place.reserved && this.shapes.get(assemblyId)!.kind !== 'probe')
        this.fault(`T${tool} was hung into pocket ${pocket}, which is reserved`);
      const { widest } = this.machine;
      const across = 2 * lengthOf(sweptRadius(this.shapes.get(assemblyId)!), 'mm');
      if (widest !== null && across > widest && this.traits.exchanges && !place.wide)
        this.fault(`T${tool} is wide, and pocket ${pocket} is not declared for it`);
    }
    for (const { number, wide } of places) {
      if (wide && beside.get(number)!.some((each) => this.metal.has(each)))
        this.fault(`a tool hangs beside pocket ${number}, which is declared wide`);
    }
  }

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
    const outcome = await placeTool(as(this.cell.crib), { placeId, assemblyId, tool });
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
    const place = await rows<{ id: number }>(
      pool(),
      `SELECT p.id FROM place p WHERE machine_id = $1 AND kind = 'spindle' AND NOT EXISTS (SELECT FROM placement s WHERE s.place_id = p.id)`,
      [this.other],
    );
    if (!place[0]) return;
    const outcome = await placeTool(as(this.cell.crib), { placeId: place[0].id, assemblyId, tool: 199 });
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

/** Some loose tools of every size, long, wide and heavy ones among them, for a machine of the cell. */
export async function loaderOf(cell: Cell, name: string, luck: Luck): Promise<Loader> {
  const machine = (await machineById(pool(), await cell.machine(name)))!;
  await cell.asOwner(async (db) => {
    for (let i = 0; i < 12; i += 1) {
      const size = 20 + Math.floor(luck.next() * 100);
      const long = 90 + Math.floor(luck.next() * 250);
      await db.query(
        `INSERT INTO assembly (number, name, kind, interface, holder, diameter, corner_radius, stick_out, gauge_length, holder_diameter, teeth, mass)
         VALUES ($1, 'cutter', $2, $3, 'holder', $4, 0, $5, $6, $7, 2, $8)`,
        [
          `X-${i}`,
          machine.kind === 'lathe' ? 'drill' : luck.next() < 0.15 ? 'boringBar' : 'drill',
          machine.interface,
          lengthOf(size, 'mm'),
          lengthOf(long / 2, 'mm'),
          lengthOf(long, 'mm'),
          lengthOf(40, 'mm'),
          luck.next() < 0.3 ? null : 1000 + Math.floor(luck.next() * 9000),
        ],
      );
    }
  });
  const places = await placesOf(pool(), machine.id);
  const ids = await rows<{ id: number }>(
    pool(),
    `SELECT id FROM assembly a WHERE interface = $1 AND NOT EXISTS (SELECT FROM placement s WHERE s.assembly_id = a.id AND s.machine_id <> $2)`,
    [machine.interface, machine.id],
  );
  const shapes = await assembliesOf(
    pool(),
    ids.map(({ id }) => id),
  );
  return new Loader(
    cell,
    machine,
    luck,
    new Map(places.map((place) => [place.number, place.id])),
    places.flatMap(({ number, assembly, tool }) =>
      assembly ? [{ number, assemblyId: assembly.id, tool: tool! }] : [],
    ),
    new Map(shapes.map((each) => [each.id, each])),
  );
}
