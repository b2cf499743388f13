import { chance, type Chance } from './chance.ts';
import type { PlantMachine, PlantSize, PlantTool } from './plant.ts';

/** How the metal behaves. All lengths in nanometres; what is not from the record is invented for the play. */
const CAPABILITY = 1.5;
/** What an edge wears over its life moves the tightest size it cuts by so many of its tolerances: from, to. */
const WORN = [0.35, 1.1] as const;
/** A new edge does not sit where it was measured: this share of the tolerance, one sigma. */
const SEATED = 0.12;
/** A program stands off by itself by this share of the tolerance, one sigma. */
const PROGRAM = 0.05;
/** Chance that an edge breaks within its life, and that it pulls out of its holder. */
const EARLY = 0.04;
const PULLED = 0.015;
/** An edge that is good lasts beyond its limit: so much of it (W. Weibull's distribution, of this shape). */
const LASTS = 1.7;
const SHAPE = 5;
/** Past its end an edge wears this many times as fast. */
const DULL = 6;

/** One cutting edge, as it really is. */
interface Edge {
  nth: number;
  /** Parts that it has cut, those from before the play among them. */
  cut: number;
  /** Parts after which it is blunt, breaks or pulls out, whatever anybody thinks. */
  blunt: number;
  breaks: number;
  pulls: number;
  /** Wear of the row for a part, and where the edge sits: as if the register held so much more. By register. */
  wears: Map<number, number>;
  sits: Map<number, number>;
  /** Parts from which `wears` counts. */
  from: number;
  broken: boolean;
}

/** One part as it really came out. */
export interface Part {
  number: number;
  at: number;
  /** How far off each size truly is. */
  off: ReadonlyMap<number, number>;
  /** Sizes that are outside their limits. */
  bad: readonly number[];
  /** T that were past their limit, or broken, when it was cut. */
  past: readonly number[];
  broken: readonly number[];
}

/** A machine as it really is: its table, its edges, its parts. */
export class Machine {
  readonly control: Map<number, number>;
  readonly parts: Part[] = [];
  made: number;
  private readonly edges = new Map<number, Edge>();
  /** How far off each size is by itself, now and with a fresh edge. */
  private readonly own = new Map<number, number>();
  private readonly program = new Map<number, number>();
  /** What each row held when its edge was set up: nought for an edge that was changed in. */
  private readonly base: Map<number, number>;
  private readonly noise: Chance;

  constructor(
    readonly plant: PlantMachine,
    private readonly seed: number,
  ) {
    this.control = new Map(plant.registers.map(({ id, value }) => [id, value]));
    this.base = new Map(this.control);
    this.made = plant.job.made;
    this.noise = chance(seed, plant.name, 'parts');
    for (const tool of plant.tools) this.edges.set(tool.tool, this.edge(tool, 0));
    for (const size of plant.sizes) this.settle(size);
  }

  /** At the beginning every size stands where it was last measured; with a fresh edge, where its program has it. */
  private settle(size: PlantSize): void {
    const tolerance = size.upper - size.lower;
    const program = chance(this.seed, this.plant.name, size.id, 'own').normal() * tolerance * PROGRAM;
    this.program.set(size.id, program);
    this.own.set(size.id, Math.max(-tolerance, Math.min(tolerance, size.off ?? program)));
  }

  /** The tightest size of a register, and what a change of it moves. */
  private tightest(register: number): { tolerance: number } {
    const all = this.plant.sizes.flatMap((size) =>
      size.moves
        .filter((move) => move.register === register)
        .map((move) => (size.upper - size.lower) / Math.abs(move.by)),
    );
    return { tolerance: Math.min(...all) };
  }

  private edge(tool: PlantTool, nth: number): Edge {
    const own = chance(this.seed, this.plant.name, `T${tool.tool}`, nth);
    const life = tool.life ?? 400;
    const cut = nth === 0 ? Math.max(0, life - (tool.left ?? life)) : 0;
    const registers = [
      ...new Set(
        this.plant.sizes.flatMap(({ moves }) =>
          moves.filter((move) => move.tool === tool.tool).map(({ register }) => register),
        ),
      ),
    ];
    const blunt = Math.max(cut + 3, life * LASTS * (-Math.log(own.uniform())) ** (1 / SHAPE));
    const breaks = own.happens(EARLY) ? cut + own.uniform() * Math.max(1, life - cut) : Infinity;
    const pulls = own.happens(PULLED) ? cut + own.uniform() * Math.max(1, life - cut) : Infinity;
    return {
      nth,
      cut,
      blunt,
      breaks: tool.flag === 'broken' && nth === 0 ? 0 : breaks,
      pulls,
      from: cut,
      broken: tool.flag === 'broken' && nth === 0,
      wears: new Map(
        registers.map((register) => [
          register,
          ((WORN[0] + own.uniform() * (WORN[1] - WORN[0])) * this.tightest(register).tolerance) / life,
        ]),
      ),
      sits: new Map(
        registers.map((register) => [
          register,
          // what is measured at a change takes the new edge's length, and not how it cuts
          nth === 0 ? 0 : own.normal() * SEATED * this.tightest(register).tolerance,
        ]),
      ),
    };
  }

  /** How far off a size is on average now. */
  private stands(size: PlantSize): number {
    const tolerance = size.upper - size.lower;
    let off = this.own.get(size.id) ?? 0;
    for (const { register, tool, by } of size.moves) {
      const edge = this.edges.get(tool);
      const worn = edge
        ? (edge.wears.get(register) ?? 0) *
          (Math.min(edge.cut, edge.blunt) - edge.from + DULL * Math.max(0, edge.cut - edge.blunt))
        : 0;
      const pulled = edge && edge.cut >= edge.pulls ? this.tightest(register).tolerance * 1.5 : 0;
      const held = (this.control.get(register) ?? 0) - (this.base.get(register) ?? 0);
      off += by * (held + worn + pulled + (edge?.sits.get(register) ?? 0));
    }
    if (this.edges.get(size.tool)?.broken) off += 4 * tolerance;
    return off;
  }

  /** Cuts what one cycle makes. */
  cycle(at: number): Part[] {
    const made: Part[] = [];
    for (const edge of this.edges.values())
      edge.broken ||= edge.cut >= edge.breaks || edge.cut >= edge.blunt * 1.6;
    for (let i = 0; i < this.plant.job.parts; i += 1) {
      this.made += 1;
      const off = new Map<number, number>();
      for (const size of this.plant.sizes)
        off.set(
          size.id,
          this.stands(size) + (this.noise.normal() * (size.upper - size.lower)) / (6 * CAPABILITY),
        );
      const past = this.plant.tools.flatMap(({ tool, life }) =>
        life !== null && (this.edges.get(tool)?.cut ?? 0) >= life ? [tool] : [],
      );
      made.push({
        number: this.made,
        at,
        off,
        bad: this.plant.sizes
          .filter(({ id, lower, upper }) => off.get(id)! < lower || off.get(id)! > upper)
          .map(({ id }) => id),
        past,
        broken: [...this.edges].filter(([, edge]) => edge.broken).map(([tool]) => tool),
      });
      for (const edge of this.edges.values()) edge.cut += 1;
    }
    this.parts.push(...made);
    return made;
  }

  /** Puts a fresh edge in. The new length is measured and keyed with it; what the wear registers hold stays until somebody clears it. */
  renew(tool: number): void {
    const old = this.edges.get(tool);
    const plant = this.plant.tools.find((each) => each.tool === tool);
    if (!old || !plant) return;
    const fresh = this.edge(plant, old.nth + 1);
    for (const size of this.plant.sizes)
      if (size.moves.some((move) => move.tool === tool)) this.own.set(size.id, this.program.get(size.id)!);
    for (const register of fresh.wears.keys()) this.base.set(register, 0);
    this.edges.set(tool, fresh);
  }

  isBroken = (tool: number) => this.edges.get(tool)?.broken ?? false;
  /** How often its edge was changed. */
  edgeOf = (tool: number) => this.edges.get(tool)?.nth ?? 0;
  cutBy = (tool: number) => this.edges.get(tool)?.cut ?? 0;

  /** True deviation of a size of a part that was made. */
  off(part: number, size: number): number | null {
    return this.parts.find(({ number }) => number === part)?.off.get(size) ?? null;
  }
}
