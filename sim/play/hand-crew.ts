import { Crew, STANDS } from './crew.ts';
import type { PlantSize } from './plant.ts';
import { END_MISSED, WEAR_LEFT } from './slips.ts';
import type { Machine, Part } from './world.ts';

/** Chance that who keyed a number by hand sees on the screen that it is not what was meant. */
const SEEN = 0.5;

/**
 * The reference: people who correct every part that they measure by all it is off, with their own arithmetic, tally lives on paper and
 * see half of their slips by themselves.
 */
export class HandCrew extends Crew {
  /** The part at which each tool is to be changed, by the tally on its card. */
  private readonly ends = new Map<string, number>();

  async begin(machine: Machine): Promise<number> {
    let minutes = 0;
    for (const { tool, flag, left } of machine.plant.tools) {
      if (flag === 'broken' || flag === 'expired') minutes += this.renew(machine, tool);
      else if (left !== null) this.tallied(machine, tool, left);
    }
    return minutes;
  }

  /** Writes down at which part a tool ends; now and then that is overlooked for a while. */
  private tallied({ plant, made }: Machine, tool: number, left: number): void {
    const missed = this.luck.happens(END_MISSED);
    if (missed) this.tally.slips += 1;
    this.ends.set(`${plant.name} ${tool}`, made + left + (missed ? Math.ceil(left * 0.3) : 0));
  }

  private renew(machine: Machine, tool: number): number {
    const { plant, control } = machine;
    const life = plant.tools.find((each) => each.tool === tool)?.life ?? null;
    machine.renew(tool);
    this.tally.renewals += 1;
    const left = this.luck.happens(WEAR_LEFT);
    if (left) this.tally.slips += 1;
    else
      for (const register of new Set(
        plant.sizes.flatMap(({ moves }) =>
          moves.filter((move) => move.tool === tool).map((move) => move.register),
        ),
      ))
        control.set(register, 0);
    this.dueAnew(machine, tool);
    if (life !== null) this.tallied(machine, tool, life);
    return STANDS.changing;
  }

  async turn(machine: Machine, made: readonly Part[]): Promise<number> {
    const { plant } = machine;
    let minutes = 0;
    const heard = this.notices(made);
    if (heard !== null) {
      for (const part of made) this.setAside(machine, part.number);
      minutes += STANDS.broken + this.renew(machine, heard);
    }
    for (const { tool } of plant.tools)
      if (machine.made >= (this.ends.get(`${plant.name} ${tool}`) ?? Infinity))
        minutes += this.renew(machine, tool);
    const part = made.at(-1)!;
    for (const size of this.due(machine, part)) minutes += this.measure(machine, part, size);
    return minutes;
  }

  private measure(machine: Machine, part: Part, size: PlantSize): number {
    const { plant } = machine;
    const tolerance = size.upper - size.lower;
    const shown = this.gauge(machine, part.number, size)!;
    const read = this.written(machine, size, shown);
    let { off } = read;
    let minutes = 0;
    if (read.wrong && Math.abs(off) > 2 * tolerance) {
      // nobody believes that: it is measured again
      this.tally.slipsFound += 1;
      off = shown;
    }
    if (off < size.lower || off > size.upper) {
      this.lookBack(machine, part.number, size);
      minutes += STANDS.looking;
      const broken = [size.tool, ...size.moves.map(({ tool }) => tool)].find((tool) =>
        machine.isBroken(tool),
      );
      if (broken !== undefined && Math.abs(off) > tolerance)
        return minutes + STANDS.broken + this.renew(machine, broken);
    }
    const [move] = size.moves;
    if (!move) return minutes;
    const from = machine.control.get(move.register) ?? 0;
    const to = from + Math.round(-off / move.by / plant.increment) * plant.increment;
    if (to === from) return minutes;
    const slip = this.key(machine, move.register, to);
    if (slip !== null && this.luck.happens(SEEN)) this.keyWell(machine, move.register, to);
    return minutes + STANDS.keying;
  }
}
