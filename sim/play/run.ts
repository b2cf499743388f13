import { chance } from './chance.ts';
import type { Crew } from './crew.ts';
import type { Machine } from './world.ts';

/** Minutes between the end of a cycle and the next start: a part out, a part in (invented for the play). */
const LOADING = 0.7;
const MINUTE = 60_000;

export interface Play {
  machines: readonly Machine[];
  crew: Crew;
  from: number;
  to: number;
  seed: number;
  /** Waits until it is so late in the cell, or makes it so. */
  until: (at: number) => Promise<void>;
  /** Whether somebody else works a machine: the crew leaves it alone. */
  taken?: (machine: Machine) => boolean;
  /** A cycle begins, and a machine stands, for whoever shows it. */
  began?: (machine: Machine, at: number, milliseconds: number) => void;
  stands?: (machine: Machine, minutes: number) => void;
}

/** Plays a cell from one moment to another: each machine cuts its parts, and the crew does what it does. */
export async function run(play: Play): Promise<void> {
  const paces = new Map(
    play.machines.map((machine) => [machine, chance(play.seed, machine.plant.name, 'pace')]),
  );
  const ends = new Map<Machine, number>();
  const start = (machine: Machine, at: number) => {
    const milliseconds = Math.round(
      machine.plant.job.cycle * (0.98 + 0.04 * paces.get(machine)!.uniform()) + LOADING * MINUTE,
    );
    ends.set(machine, at + milliseconds);
    play.began?.(machine, at, milliseconds);
  };
  const others = new Set<Machine>();
  await play.until(play.from);
  for (const [i, machine] of play.machines.entries()) {
    const at = play.from + i * MINUTE;
    await play.until(at);
    const minutes = play.taken?.(machine) ? 0 : await play.crew.begin(machine);
    stand(play, machine, minutes);
    start(machine, at + minutes * MINUTE);
  }
  for (;;) {
    const [machine, at] = [...ends].reduce((first, each) => (each[1] < first[1] ? each : first));
    if (at >= play.to) return;
    await play.until(at);
    if (play.taken?.(machine)) {
      others.add(machine);
      ends.set(machine, at + MINUTE);
      continue;
    }
    if (others.delete(machine)) {
      // given back: whatever was begun there was somebody else's
      start(machine, at);
      continue;
    }
    const made = machine.cycle(at);
    const minutes = await play.crew.turn(machine, made);
    stand(play, machine, minutes);
    if (machine.made >= machine.plant.job.quantity) ends.delete(machine);
    else start(machine, at + minutes * MINUTE);
    if (ends.size === 0) return;
  }
}

function stand(play: Play, machine: Machine, minutes: number): void {
  play.crew.tally.stopped += minutes;
  if (minutes > 0) play.stands?.(machine, minutes);
}
