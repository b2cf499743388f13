import { registerDecimals } from '../../src/core/units/register-decimals.ts';
import { chance, type Chance } from './chance.ts';
import type { PlantMachine, PlantSize } from './plant.ts';
import { keyed, READ_WRONG, slipAt, swapped, type KeyingSlip } from './slips.ts';
import type { Tally } from './tally.ts';
import type { Machine, Part } from './world.ts';

/** Minutes that a machine stands (common practice, no source). */
export const STANDS = { keying: 1, changing: 12, looking: 5, broken: 20 } as const;
/** A gauge in a hand strays by this share of a tolerance, one sigma. */
const GAUGE = 1 / 40;
/** Chance that somebody hears or sees that a tool is broken while it cuts a part. */
const NOTICED = 0.3;

/** What people do at the machines, whoever does their sums. */
export abstract class Crew {
  /** Parts that were set aside, by machine. */
  readonly aside = new Map<string, Set<number>>();
  /** The last part at which each size was measured. */
  private readonly measured = new Map<string, number>();
  /** Rows that hold something else than anybody meant, by the slip that it was. */
  private readonly wrong = new Map<string, number>();
  private readonly found = new Set<number>();
  protected readonly luck: Chance;

  constructor(
    protected readonly seed: number,
    readonly tally: Tally,
  ) {
    this.luck = chance(seed, 'crew', tally.crew);
  }

  /** What is done after the parts of a cycle came off. Answers with the minutes that the machine stands. */
  abstract turn(machine: Machine, made: readonly Part[]): Promise<number>;
  /** What is done before the first part: what does not run is put right. */
  abstract begin(machine: Machine): Promise<number>;

  protected setAside({ plant }: Machine, part: number): void {
    this.aside.set(plant.name, (this.aside.get(plant.name) ?? new Set()).add(part));
  }

  /** Sizes that are due to be measured at a part. */
  protected due({ plant }: Machine, part: Part): PlantSize[] {
    return plant.sizes.filter(({ id, every }) => {
      const last = this.measured.get(`${plant.name} ${id}`);
      return last === undefined || part.number - last >= every;
    });
  }

  /** A fresh edge has what it cuts measured at once. */
  protected dueAnew({ plant }: Machine, tool: number): void {
    for (const size of plant.sizes)
      if (size.tool === tool || size.moves.some((move) => move.tool === tool))
        this.measured.delete(`${plant.name} ${size.id}`);
  }

  /** What a gauge shows of a size of a part, as a deviation; null for a part that is not there any more. */
  protected gauge(machine: Machine, part: number, size: PlantSize): number | null {
    const off = machine.off(part, size.id);
    if (off === null) return null;
    this.tally.readings += 1;
    this.measured.set(`${machine.plant.name} ${size.id}`, part);
    return off + this.luck.normal() * (size.upper - size.lower) * GAUGE;
  }

  /** What is written down of it: now and then two digits change places. */
  protected written({ plant }: Machine, size: PlantSize, off: number): { off: number; wrong: boolean } {
    if (!this.luck.happens(READ_WRONG)) return { off, wrong: false };
    const meant = size.target + off;
    const wrong = swapped(meant, plant.unit, registerDecimals(plant.unit, plant.increment)) - size.target;
    if (Math.abs(wrong - off) < plant.increment) return { off, wrong: false };
    this.tally.slips += 1;
    return { off: wrong, wrong: true };
  }

  /** Keys a register at the control, as people do: mostly what was meant. */
  protected key(machine: Machine, register: number, to: number): KeyingSlip | null {
    const { plant, control } = machine;
    const from = control.get(register) ?? 0;
    if (from === to) return null;
    this.tally.moves += 1;
    const slip = slipAt(this.luck);
    const holds = keyed(slip, from, to, plant.unit, registerDecimals(plant.unit, plant.increment));
    if (slip !== null) this.tally.slips += 1;
    if (slip === 'neighbourRow') {
      const next = this.neighbour(plant, register);
      if (next !== null) {
        control.set(next, to);
        this.wrong.set(`${plant.name} ${next}`, this.tally.slips);
      }
    }
    if (holds !== null) control.set(register, holds);
    if (slip !== null) this.wrong.set(`${plant.name} ${register}`, this.tally.slips);
    return slip;
  }

  /** Keys a register once more, looking twice: it holds what was meant. */
  protected keyWell({ plant, control }: Machine, register: number, to: number): void {
    control.set(register, to);
    const slip = this.wrong.get(`${plant.name} ${register}`);
    if (slip === undefined) return;
    this.wrong.delete(`${plant.name} ${register}`);
    // one slip may have spoilt two rows: it is found once
    if (!this.found.has(slip)) this.tally.slipsFound += 1;
    this.found.add(slip);
  }

  protected neighbour({ registers }: PlantMachine, register: number): number | null {
    const own = registers.find(({ id }) => id === register)!;
    return registers.find(({ row, kind }) => kind === own.kind && row === own.row + 1)?.id ?? null;
  }

  /** Whether somebody notices that a tool of these parts is broken, and which. */
  protected notices(made: readonly Part[]): number | null {
    const broken = made.flatMap((part) => part.broken);
    return broken.length > 0 && this.luck.happens(NOTICED) ? broken[0]! : null;
  }

  /** Parts before one that is out are measured until one is good. Answers with those that are bad. */
  protected lookBack(machine: Machine, part: number, size: PlantSize): void {
    this.setAside(machine, part);
    for (let before = part - 1; before > part - 60; before -= 1) {
      const off = this.gauge(machine, before, size);
      this.measured.set(`${machine.plant.name} ${size.id}`, part);
      if (off === null || (off >= size.lower && off <= size.upper)) return;
      this.setAside(machine, before);
    }
  }
}
