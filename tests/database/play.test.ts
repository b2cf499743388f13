import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import pg from 'pg';
import { cellNow, cellRate } from '../../src/server/clock.ts';
import { closePool, pool, row, rows } from '../../src/server/db.ts';
import { AppCrew } from '../../sim/play/app-crew.ts';
import { playByHand, readyToPlay } from '../../sim/play/both.ts';
import { setClock, type shiftToPlay } from '../../sim/play/clock.ts';
import { run } from '../../sim/play/run.ts';
import { emptyTally, settle, type Tally } from '../../sim/play/tally.ts';
import { Machine } from '../../sim/play/world.ts';
import { weirside } from '../support/cell.ts';

const SEED = 7;

let cell: Awaited<ReturnType<typeof weirside>>;
let owner: pg.Client;
let machines: Machine[];
let ours: Tally;
let byHand: Tally;
let shift: Awaited<ReturnType<typeof shiftToPlay>>;
let before: number;

beforeAll(async () => {
  cell = await weirside();
  owner = new pg.Client({ connectionString: cell.database.ownerUrl });
  await owner.connect();
  const ready = await readyToPlay(owner, new Date());
  const { people, plant } = ready;
  shift = ready.shift;
  before = (await row<{ n: number }>(pool(), 'SELECT coalesce(max(id), 0) AS n FROM ledger', []))!.n;
  byHand = await playByHand(SEED, plant, shift);
  machines = plant.map((each) => new Machine(each, SEED));
  const crew = new AppCrew(SEED, emptyTally(SEED, 'with it'), people);
  await run({
    machines,
    crew,
    seed: SEED,
    from: shift.start.getTime(),
    to: shift.end.getTime(),
    until: (at) => setClock(owner, new Date(at), 0),
  });
  ours = settle(crew.tally, machines, crew.aside);
}, 300_000);
afterAll(async () => {
  await owner.end();
  await closePool();
});

describe('a shift that is played, from the first part to the bell', () => {
  it('was written down at the time of the cell, and in no other shift', async () => {
    const { first, last } = (await row<{ first: Date; last: Date }>(
      pool(),
      'SELECT min(at) AS first, max(at) AS last FROM ledger WHERE id > $1',
      [before],
    ))!;
    expect(first >= shift.start).toBe(true);
    expect(last <= shift.end).toBe(true);
    // the clock stands where the last thing was done
    expect(cellRate()).toBe(0);
    expect(cellNow() <= shift.end && cellNow() >= last).toBe(true);
  });

  it('counts every part that was cut, and no other', async () => {
    for (const { plant, made } of machines)
      expect(
        (await row<{ made: number }>(pool(), 'SELECT made FROM job WHERE id = $1', [plant.job.id]))!.made,
      ).toBe(made);
    expect(ours.parts).toBeGreaterThan(100);
  });

  it('holds in the record what the controls hold, but for slips that nobody has found yet', async () => {
    const record = new Map(
      (await rows<{ id: number; value: number }>(pool(), 'SELECT id, value FROM register', [])).map(
        (each) => [each.id, each.value],
      ),
    );
    const open = await cell.count("FROM proposal_state WHERE state IN ('proposed', 'approved')");
    const differ = machines.flatMap(({ control, plant }) =>
      [...control].filter(([id, value]) => record.get(id) !== value).map(([id]) => `${plant.name} ${id}`),
    );
    // one slip leaves at most its own row and the neighbour's otherwise; a correction that waits leaves none
    expect(differ.length).toBeLessThanOrEqual(2 * (ours.slips - ours.slipsFound) + open);
  });

  it('ends with no tool in quarantine that was changed, and none past its limit in the record', async () => {
    const calls = machines.flatMap(({ plant }) => plant.tools.map(({ assemblyId }) => assemblyId));
    expect(
      await cell.count('FROM quarantine WHERE closed_at IS NULL AND assembly_id = ANY($1::integer[])', calls),
    ).toBe(0);
    expect(await cell.count("FROM assembly WHERE flag = 'expired' AND id = ANY($1::integer[])", calls)).toBe(
      0,
    );
    expect(
      await cell.count('FROM renewal WHERE finished_at IS NULL AND assembly_id = ANY($1::integer[])', calls),
    ).toBe(0);
  });

  it('makes no more bad parts than the same shift corrected by hand, with fewer moves, and finds most slips', () => {
    expect(ours.caught + ours.missed).toBe(ours.bad);
    expect(ours.bad).toBeLessThanOrEqual(byHand.bad);
    expect(ours.missed).toBeLessThanOrEqual(byHand.missed);
    expect(ours.moves).toBeLessThan(byHand.moves);
    expect(ours.slipsFound * 2).toBeGreaterThanOrEqual(ours.slips);
  });
});

describe('the clock of a cell', () => {
  it('is the wall’s for every cell but a made-up one, and nobody of the application can set it', async () => {
    await expect(pool().query('UPDATE play_clock SET rate = 2')).rejects.toThrow(/permission denied/);
    await cell.asOwner(async (client) => {
      const now = async () => (await client.query<{ now: Date }>('SELECT tin_now() AS now')).rows[0]!.now;
      expect((await now()).getTime()).toBeGreaterThanOrEqual(shift.start.getTime());
      await client.query('BEGIN');
      await client.query('ALTER TABLE cell DISABLE TRIGGER USER');
      await client.query('UPDATE cell SET demo = false');
      expect(Math.abs((await now()).getTime() - Date.now())).toBeLessThan(60_000);
      await client.query('ROLLBACK');
    });
  });
});
