import { randomUUID } from 'node:crypto';
import pg from 'pg';
import type { Person } from '../../src/core/people/roles.ts';
import { pool, row } from '../../src/server/db.ts';
import { changeJob, openJobs } from '../../src/server/jobs.ts';
import { AppCrew, type CrewPeople } from './app-crew.ts';
import { setClock, shiftToPlay } from './clock.ts';
import { HandCrew } from './hand-crew.ts';
import { readPlant, type PlantMachine } from './plant.ts';
import { run } from './run.ts';
import { emptyTally, settle, type Tally } from './tally.ts';
import { Machine } from './world.ts';

/** Badges of the made-up cell that play. */
async function crewPeople(): Promise<CrewPeople> {
  const of = async (role: string) =>
    (await row<Person>(
      pool(),
      'SELECT id, badge, name, role FROM person WHERE role = $1 AND active ORDER BY id LIMIT 1',
      [role],
    ))!;
  return { lead: await of('lead'), setter: await of('setter'), operator: await of('operator') };
}

/** No order ends within the play: the lead has them made longer first. */
async function longerOrders(lead: Person, milliseconds: number): Promise<void> {
  for (const job of (await openJobs(pool())).filter(({ state }) => state === 'running')) {
    const quantity = job.made + Math.ceil(milliseconds / job.cycleMilliseconds) * job.partsPerCycle + 10;
    if (job.quantity >= quantity) continue;
    const changed = await changeJob(
      { key: randomUUID(), personId: lead.id },
      {
        jobId: job.id,
        quantity,
        cycleMilliseconds: job.cycleMilliseconds,
        shown: { quantity: job.quantity, cycleMilliseconds: job.cycleMilliseconds },
      },
    );
    if (!changed.ok) throw new Error(changed.reason);
  }
}

/** The next shift after a moment, made ready to be played: its people, orders that last, the clock at its beginning, the plant. */
export async function readyToPlay(owner: pg.Client, after: Date) {
  const shift = await shiftToPlay(after);
  const people = await crewPeople();
  await longerOrders(people.lead, shift.end.getTime() - shift.start.getTime());
  await setClock(owner, shift.start, 0);
  return { shift, people, plant: await readPlant() };
}

/** One shift without the application: the same metal, the same people, their own sums. */
export async function playByHand(
  seed: number,
  plant: readonly PlantMachine[],
  shift: { start: Date; end: Date },
): Promise<Tally> {
  const machines = plant.map((each) => new Machine(each, seed));
  const crew = new HandCrew(seed, emptyTally(seed, 'by hand'));
  await run({
    machines,
    crew,
    seed,
    from: shift.start.getTime(),
    to: shift.end.getTime(),
    until: async () => {},
  });
  return settle(crew.tally, machines, crew.aside);
}

/** One shift of the cell in a database, as fast as it goes: with the application, and by hand as the reference. */
export async function playBoth(seed: number, ownerUrl: string): Promise<{ ours: Tally; byHand: Tally }> {
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  try {
    const { shift, people, plant } = await readyToPlay(owner, new Date());
    const byHand = await playByHand(seed, plant, shift);
    const machines = plant.map((each) => new Machine(each, seed));
    const crew = new AppCrew(seed, emptyTally(seed, 'with it'), people);
    await run({
      machines,
      crew,
      seed,
      from: shift.start.getTime(),
      to: shift.end.getTime(),
      until: (at) => setClock(owner, new Date(at), 0),
    });
    return { ours: settle(crew.tally, machines, crew.aside), byHand };
  } finally {
    await owner.end();
  }
}
