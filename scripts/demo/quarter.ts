import { randomUUID } from 'node:crypto';
import { entry } from '../../src/core/ledger/entry.ts';
import type { Person } from '../../src/core/people/roles.ts';
import { lengthOf, nanometres, type Length } from '../../src/core/units/length.ts';
import { readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import { countedTools, countParts } from '../../src/server/counts.ts';
import { pool, row, transaction } from '../../src/server/db.ts';
import { insertJob, runningJob, setJobState } from '../../src/server/jobs.ts';
import { append } from '../../src/server/ledger.ts';
import { takeReading } from '../../src/server/readings.ts';
import { renew } from './fortnight.ts';
import { lockMachine } from '../../src/server/machines.ts';
import { must } from './files.ts';

/** Seats that were cut before the fortnight, how many between two measured ones, and the days that it took. */
const [PARTS, EVERY, FROM, TO] = [640, 5, 102, 17];
/** The edge is renewed after so many parts, before it is worn out. */
const EDGE = 130;
/** What is true of the height of the seat, mm: spread of single parts, wear a part, and where new edges begin. */
const TRUTH = { spread: 0.0035, wear: 0.0001, begins: 0.007 };

interface Told {
  at: (hoursAgo: number) => Promise<unknown>;
  lead: Person;
  setter: Person;
  operator: Person;
  machineId: number;
  programId: number;
}

/** Made-up chance, the same at every start: about normal, from twelve even numbers. */
function chance(seed: number): () => number {
  let state = seed;
  const even = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  return () => Array.from({ length: 12 }, even).reduce((sum, each) => sum + each, -6);
}

/** Three months of one size on one row: parts counted and measured, edges renewed, and corrected as the answers said. */
export async function quarter({ at, lead, setter, operator, machineId, programId }: Told): Promise<void> {
  const as = (person: Person) => ({ key: randomUUID(), personId: person.id });
  const feature = (await row<{ id: number; row: number; target: Length }>(
    pool(),
    `SELECT f.id, f.row, f.target FROM feature f JOIN program g ON g.number = f.program_number AND g.machine_id = f.machine_id
     WHERE g.id = $1 AND f.name = 'Seat height'`,
    [programId],
  ))!;
  const wear = async () =>
    (await row<{ id: number; value: Length }>(
      pool(),
      `SELECT id, value FROM register WHERE machine_id = $1 AND row = $2 AND kind = 'lengthWear'`,
      [machineId, feature.row],
    ))!;
  const normal = chance(20_260);
  await at(FROM * 24);
  const jobId = await transaction((db) =>
    insertJob(db, lead.id, { programId, quantity: PARTS, cycleMilliseconds: 14 * 60_000 }),
  );
  await transaction((db) => setJobState(db, setter.id, { jobId, move: 'start' }));
  let edge = { begun: 0, off: TRUTH.begins * normal() };
  for (let part = EVERY; part <= PARTS; part += EVERY) {
    const hours = 24 * (FROM - ((FROM - TO) * part) / PARTS);
    await at(hours);
    await transaction((db) =>
      countParts(db, operator.id, {
        jobId,
        before: part - EVERY,
        parts: EVERY,
        source: "from the control's count",
      }),
    );
    const { value } = await wear();
    const size = edge.off + TRUTH.wear * (part - edge.begun) + TRUTH.spread * normal();
    const measured = nanometres(
      feature.target + value + 1_000 * Math.round(lengthOf(size, 'mm') / 1_000),
    );
    const taken = await must(
      takeReading(as(operator), {
        featureId: feature.id,
        programId,
        jobId,
        part,
        measured,
        confirmed: true,
        firstOff: false,
      }),
    );
    for (const proposalId of taken.proposalIds) {
      await must(approve(as(lead), lead, proposalId));
      const { to } = (await row<{ to: Length }>(pool(), 'SELECT to_value AS "to" FROM proposal WHERE id = $1', [
        proposalId,
      ]))!;
      await must(readBack(as(operator), proposalId, { shown: to, again: to }));
    }
    await at(hours - 0.3);
    const job = (await runningJob(pool(), machineId))!;
    for (const tool of await countedTools(pool(), job)) {
      const own = tool.tool === feature.row;
      if (tool.flag !== 'expired' && !(own && part - edge.begun >= EDGE)) continue;
      await renew(setter, machineId, tool);
      if (!own) continue;
      const before = await wear();
      if (before.value !== 0)
        await transaction(async (db) => {
          await lockMachine(db, machineId);
          await append(
            db,
            entry.register('zeroed', {
              personId: setter.id,
              machineId,
              registerId: before.id,
              tool: tool.tool,
              before: before.value,
              after: nanometres(0),
              said: `Wear of row ${feature.row} was zeroed for a fresh edge.`,
            }),
          );
        });
      edge = { begun: part, off: TRUTH.begins * normal() };
    }
  }
  await at(TO * 24 - 1);
  for (const tool of await countedTools(pool(), (await runningJob(pool(), machineId))!))
    await renew(setter, machineId, tool);
  await transaction((db) => setJobState(db, setter.id, { jobId, move: 'finish' }));
}
