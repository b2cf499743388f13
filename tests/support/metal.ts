import type { PlantMachine, PlantSize } from '../../sim/play/plant.ts';
import type { chance } from './chance.ts';

/** Spread of single parts, wear of an edge a part, and where a fresh one or a new set-up stands: shares of the tolerance (invented). */
const SPREAD = 1 / 24;
const WEARS = 1 / 300;
const FRESH = 0.35;
const SET_UP = 0.3;

/** What a machine really is, whatever the record says: its control's table, where its edges stand, its parts. Nanometres. */
export class Metal {
  readonly control: Map<number, number>;
  readonly parts: { number: number; off: ReadonlyMap<number, number> }[] = [];
  /** Corrections that were keyed at the control and are not told yet, each with the first part cut with it. */
  untold: { id: number; register: number; first: number }[] = [];
  /** Steps that are left of a renewal. */
  renewing: (() => Promise<void>)[] = [];
  /** How many are left when the door is opened for the rest of them. */
  doorOpen = 0;
  /** Parts that each T's edge has cut since it was put in here. */
  readonly cut = new Map<number, number>();
  /** What a tablet without a network keeps, each by when it was typed, in milliseconds; null: it has one. */
  kept: { at: number; send: () => Promise<void> }[] | null = null;
  made: number;
  /** Parts that were rightly counted, and those that somebody counted beyond them and has not taken back yet. */
  recorded: number;
  over = 0;
  /** Parts made when that was counted; and that something was changed since by the wrong number: whoever takes it back says how many they were. */
  counted = 0;
  byWrong = false;
  /** How far each row's edge stands off what its row held at the beginning, and each size off by its set-up. */
  private readonly edges = new Map<number, number>();
  private readonly setUp = new Map<number, number>();
  private readonly wears = new Map<number, number>();

  constructor(
    readonly plant: PlantMachine,
    private readonly luck: ReturnType<typeof chance>,
  ) {
    this.control = new Map(plant.registers.map(({ id, value }) => [id, value]));
    for (const [id, value] of this.control) this.edges.set(id, -value);
    this.made = this.recorded = plant.job.made;
    for (const size of plant.sizes)
      for (const { register, by } of size.moves) {
        const wears = (Math.sign(by) * WEARS * this.width(size)) / Math.abs(by);
        if (Math.abs(wears) < Math.abs(this.wears.get(register) ?? Infinity)) this.wears.set(register, wears);
      }
  }

  width = (size: PlantSize) => size.upper - size.lower;
  /** Cycles until the order is nearly done. */
  get left(): number {
    return Math.max(0, Math.floor((this.plant.job.quantity - 2 - this.made) / this.plant.job.parts));
  }

  /** How far off a size would come out of the next cycle, but for its spread. */
  off(size: PlantSize): number {
    return size.moves.reduce(
      (sum, { register, by }) => sum + by * (this.control.get(register)! + this.edges.get(register)!),
      (size.off ?? 0) + (this.setUp.get(size.id) ?? 0),
    );
  }

  cycle(): void {
    for (let i = 0; i < this.plant.job.parts; i += 1) this.part();
    for (const [register, wears] of this.wears) this.edges.set(register, this.edges.get(register)! + wears);
  }
  private part(): void {
    this.made += 1;
    const off = this.plant.sizes.map(
      (size) => [size.id, this.off(size) + this.luck.normal() * SPREAD * this.width(size)] as const,
    );
    this.parts.push({ number: this.made, off: new Map(off) });
    for (const [tool, cut] of this.cut) this.cut.set(tool, cut + 1);
  }

  /** A fresh edge: what its row holds is as it was until somebody keys it. */
  renew(tool: number): void {
    for (const size of this.plant.sizes)
      for (const move of size.moves)
        if (move.tool === tool)
          this.edges.set(move.register, (this.luck.normal() * FRESH * this.width(size)) / Math.abs(move.by));
    this.cut.set(tool, 0);
  }

  setUpAnew(): void {
    for (const size of this.plant.sizes)
      this.setUp.set(size.id, this.luck.normal() * SET_UP * this.width(size));
  }
}
