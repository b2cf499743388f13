import { sweptRadius, type AssemblyShape } from '../../src/core/assembly/silhouette.ts';
import { weighed } from '../../src/core/assembly/weighed.ts';
import { hangingRadius } from '../../src/core/changer/clearance.ts';
import { changerLayout } from '../../src/core/changer/layout.ts';
import { neighbours } from '../../src/core/changer/neighbours.ts';
import { traitsOf } from '../../src/core/changer/traits.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { assembliesOf } from '../../src/server/assemblies.ts';
import { pool, rows } from '../../src/server/db.ts';
import { machineById, shapeOf, type Machine } from '../../src/server/machines.ts';
import { notCarried } from '../../src/server/not-carried.ts';
import { noArm, placesOf } from '../../src/server/places.ts';
import type { weirside } from './cell.ts';
import { Player, type Luck } from './player.ts';

type Cell = Awaited<ReturnType<typeof weirside>>;

export interface Standing {
  assemblyId: number;
  tool: number;
}

/** A tool as somebody would see it. */
type Seen = AssemblyShape & { number: string; name: string; mass: number | null; moment: number | null };

/** A magazine of the cell as it really hangs: what is where in the metal is known here alone; number 0 is the spindle. */
export class HungMetal extends Player {
  protected readonly metal = new Map<number, Standing>();
  /** What the arm has hung up since the record was looked at. */
  private readonly hung: (Standing & { pocket: number })[] = [];

  constructor(
    protected readonly cell: Cell,
    protected readonly machine: Machine,
    luck: Luck,
    protected readonly placeIds: ReadonlyMap<number, number>,
    standing: readonly (Standing & { number: number })[],
    protected readonly shapes: Map<number, Seen>,
  ) {
    super(luck);
    for (const { number, assemblyId, tool } of standing) this.metal.set(number, { assemblyId, tool });
  }

  protected get traits() {
    return traitsOf(shapeOf(this.machine));
  }
  protected get loose(): number[] {
    const inside = new Set([...this.metal.values()].map((each) => each.assemblyId));
    return [...this.shapes.keys()].filter((id) => !inside.has(id));
  }
  protected get pockets(): number[] {
    return [...this.placeIds.keys()].filter((number) => number > 0);
  }
  protected several<T>(all: readonly T[], n: number): T[] {
    const left = [...all];
    return Array.from({ length: Math.min(n, left.length) }, () =>
      left.splice(Math.floor(this.luck.next() * left.length), 1),
    ).flat();
  }

  protected call(pocket: number): void {
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
}

/** Some loose tools of every size, long, wide and heavy ones among them, for a machine of the cell. */
export async function hungIn<T>(
  as: new (...given: ConstructorParameters<typeof HungMetal>) => T,
  cell: Cell,
  name: string,
  luck: Luck,
): Promise<T> {
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
  return new as(
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
