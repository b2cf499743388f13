import { Device, type OffsetRows } from '../device.ts';
import { assets, type Cutter } from '../assets.ts';
import { chance } from './chance.ts';
import type { Machine, Part } from './world.ts';

const MINUTE = 60_000;

/** One machine of a cell that is played, as it is seen from outside: its agent, its screen, and who stands at it. */
export class Station {
  readonly device: Device;
  /** A person has taken it, and the crew leaves it alone. */
  taken = false;
  /** What the screen says. */
  message = '';
  private begunAt: number;
  private milliseconds = 0;
  /** A cycle of the person's own is on. */
  private own = false;
  private held = false;
  private readonly begunWith = new Map<number, number>();

  constructor(
    readonly machine: Machine,
    private readonly cutters: readonly Cutter[],
    private readonly now: () => number,
  ) {
    const { plant } = machine;
    this.begunAt = now();
    this.device = new Device(
      plant.name.toLowerCase(),
      {
        made: machine.made,
        cycle: plant.job.cycle,
        parts: plant.job.parts,
        program: plant.job.number,
        calls: plant.calls,
      },
      () => machine.made,
      () => this.begunAt,
      {},
      4096,
      now,
    );
    for (const { tool } of plant.tools) this.begunWith.set(tool, machine.cutBy(tool));
    this.show();
  }

  /** The crew started a cycle. */
  began(at: number, milliseconds: number): void {
    this.begunAt = at;
    this.milliseconds = milliseconds;
    this.say('ACTIVE', '');
  }

  /** The crew has it stand for so many minutes. */
  stands(minutes: number): void {
    if (minutes > 0) this.say('PROGRAM_STOPPED', '');
  }

  /** Somebody takes it, or gives it back: a cycle that is on runs to its end. */
  take(taken: boolean): void {
    this.taken = taken;
    this.own = taken && this.now() < this.begunAt + this.milliseconds;
    if (taken && !this.own) this.say('READY', '');
    this.message = taken ? 'It is yours. The crew leaves it alone.' : 'The crew works it again.';
  }

  /** The bell: nothing runs on. */
  end(): void {
    this.own = false;
    this.held = false;
    this.milliseconds = 0;
    this.say('READY', 'The shift is over.');
  }

  cycleStart(): void {
    if (this.held) {
      this.held = false;
      return this.say('ACTIVE', 'It goes on.');
    }
    if (this.own) return void (this.message = 'A cycle is on already.');
    this.own = true;
    this.begunAt = this.now();
    this.milliseconds = this.machine.plant.job.cycle;
    this.say('ACTIVE', '');
  }

  hold(): void {
    if (!this.own) return void (this.message = 'No cycle is on.');
    this.held = true;
    this.say('FEED_HOLD', 'The feed is held.');
  }

  /** Somebody keys a register; the value in nanometres. */
  key(register: number, value: number): void {
    const known = this.machine.plant.registers.find(({ id }) => id === register);
    if (!known) return void (this.message = 'There is no such row.');
    this.machine.control.set(register, value);
    this.message = `Row ${known.row} holds what was keyed.`;
    this.show();
  }

  /** Somebody puts a fresh edge in by hand; the probe on the table keys its length, and the wear stays as it is. */
  change(tool: number): void {
    if (this.own) return void (this.message = 'Not while a cycle is on.');
    if (!this.machine.plant.tools.some((each) => each.tool === tool))
      return void (this.message = `There is no T${tool}.`);
    this.machine.renew(tool);
    const { plant, control } = this.machine;
    const luck = chance(plant.name, tool, this.machine.edgeOf(tool), 'probed');
    for (const { id, row, kind } of plant.registers)
      if (row === tool && /^(length|x|z)Geometry$/.test(kind) && (control.get(id) ?? 0) !== 0)
        control.set(id, (control.get(id) ?? 0) + Math.round(luck.normal() * 8) * plant.increment);
    this.message = `T${tool} has a fresh edge; the probe on the table measured it and set its geometry. Its wear holds what it held.`;
    this.show();
  }

  /** Time goes on: a cycle of the person's own ends. */
  tick(): Part[] {
    const now = this.now();
    if (this.held) this.begunAt += 250;
    this.show();
    this.device.tick();
    if (!this.taken || !this.own || this.held || now < this.begunAt + this.milliseconds) return [];
    this.own = false;
    const made = this.machine.cycle(now);
    this.say('READY', `Part ${this.machine.made} is done. It waits for cycle start.`);
    return made;
  }

  private say(execution: 'ACTIVE' | 'READY' | 'FEED_HOLD' | 'PROGRAM_STOPPED', message: string): void {
    this.message = message;
    this.device.put(execution, '');
  }

  private show(): void {
    const { plant, control } = this.machine;
    const held: OffsetRows = {};
    for (const { id, row, kind } of plant.registers) {
      const value = control.get(id) ?? 0;
      if (value !== 0) (held[row] ??= {})[kind] = kind === 'tipDirection' ? value : value / 1e6;
    }
    this.device.offsets = held;
  }

  /** Tools as the agent tells them, with the lives that its own counters have come to. */
  assets(): string {
    const { plant } = this.machine;
    return assets(
      this.device.name,
      this.cutters.map((cutter) => {
        const known = plant.tools.find(({ tool }) => tool === cutter.tool);
        const cut = this.machine.cutBy(cutter.tool);
        const before = this.begunWith.get(cutter.tool) ?? 0;
        if (!known || cutter.use === 0) return { ...cutter, parts: 0 };
        return this.machine.edgeOf(cutter.tool) === 0
          ? { ...cutter, parts: cut - before }
          : { ...cutter, left: cutter.limit, parts: cut };
      }),
      new Date(this.now()),
    );
  }

  /** What stands on its screen. */
  screen() {
    const { plant, control, made } = this.machine;
    const now = this.now();
    const runs = this.taken ? this.own : now < this.begunAt + this.milliseconds;
    return {
      name: plant.name,
      unit: plant.unit,
      program: plant.job.number,
      made,
      taken: this.taken,
      state: this.held ? 'FEED HOLD' : runs ? 'RUNNING' : 'READY',
      left: runs ? Math.max(0, Math.ceil((this.begunAt + this.milliseconds - now) / MINUTE)) : 0,
      message: this.message,
      rows: plant.registers.map(({ id, row, kind }) => ({ id, row, kind, value: control.get(id) ?? 0 })),
      tools: plant.tools.map(({ tool }) => ({ tool, cut: Math.round(this.machine.cutBy(tool)) })),
      sizes: plant.sizes.map(({ id, name, gauge }) => ({ id, name, gauge })),
    };
  }
}
