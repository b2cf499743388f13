import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { hangingRadius } from '../../src/core/changer/clearance.ts';
import { struckAt } from '../../src/core/changer/standing.ts';
import { closePool, pool, row, rows, transaction } from '../../src/server/db.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { lockMachine, machineById, shapeOf } from '../../src/server/machines.ts';
import { changePocket, declareWide, spindleFound, spindleUnsure } from '../../src/server/magazines.ts';
import { callPocket } from '../../src/server/pocket-calls.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { bearingOf, placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { as, done, weirside } from '../support/cell.ts';
import { chance } from '../support/chance.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let avocet: number;
beforeAll(async () => {
  cell = await weirside();
  avocet = await cell.machine('Avocet');
});
afterAll(closePool);

const standing = () => placesOf(pool(), avocet);
const loose = () =>
  rows<{ id: number }>(
    pool(),
    `SELECT a.id FROM assembly a JOIN machine m ON m.interface = a.interface
     WHERE m.id = $1 AND a.flag IS NULL AND NOT EXISTS (SELECT 1 FROM placement s WHERE s.assembly_id = a.id) ORDER BY a.id`,
    [avocet],
  );

describe('what two people say of one magazine at once', () => {
  it('a pocket that is reserved while somebody puts a tool into it takes none', async () => {
    const free = (await standing()).find(
      (place) => place.kind === 'pocket' && !place.assembly && !place.reserved && place.inService,
    )!;
    const assemblyId = (await loose())[0]!.id;
    let put: Promise<Outcome<void>>;
    await transaction(async (db) => {
      await lockMachine(db, avocet);
      put = placeTool(as(cell.setter), { placeId: free.id, assemblyId, tool: 77 });
      // it is under way, and waits for who is at the machine
      await expect
        .poll(async () => (await row<{ n: number }>(pool(), WAITS, []))!.n, { timeout: 10_000 })
        .toBeGreaterThan(0);
      await db.query(RESERVED, [cell.lead.id, avocet, free.id]);
    });
    const outcome = await put!;
    expect(outcome.ok).toBe(false);
    const after = (await standing()).find(({ id }) => id === free.id)!;
    expect(after.reserved).toBe(true);
    expect(after.assembly).toBeNull();
    done(await changePocket(as(cell.setter), { placeId: free.id, change: 'released', why: '' }));
  });

  it('four people, whatever they do: nothing stands where it must not, and the record agrees', async () => {
    const luck = chance(46);
    const pick = <T>(all: readonly T[]): T => all[Math.floor(luck.next() * all.length)]!;
    const machine = (await machineById(pool(), avocet))!;
    const people = [cell.lead, cell.setter, cell.operator, cell.inspector];
    let taken = 0;
    const refusals = new Set<string>();
    const act = async (places: Awaited<ReturnType<typeof standing>>, ids: readonly { id: number }[]) => {
      const pockets = places.filter(({ kind }) => kind === 'pocket');
      const spindle = places.find(({ kind }) => kind === 'spindle')!;
      // two of them are often after the same few pockets
      const place = pick(pockets.slice(8, 20));
      const who = as(pick(people));
      const dice = luck.next();
      if (dice < 0.3 && ids.length > 0)
        return placeTool(who, {
          placeId: place.id,
          assemblyId: pick(ids).id,
          tool: 1 + Math.floor(luck.next() * 60),
        });
      if (dice < 0.45 && place.assembly)
        return takeOut(who, { placeId: place.id, assemblyId: place.assembly.id, why: 'wanted elsewhere' });
      if (dice < 0.7)
        return callPocket(who, {
          machineId: avocet,
          pocket: place.number,
          spindle: spindle.assembly?.id ?? null,
          inPocket: place.assembly?.id ?? null,
        });
      if (dice < 0.9)
        return changePocket(who, {
          placeId: place.id,
          change: pick(['reserved', 'released', 'outOfService', 'inService', 'undeclared'] as const),
          why: 'it was looked at',
        });
      if (dice < 0.96)
        return declareWide(who, {
          placeId: place.id,
          tool: place.tool ?? 1 + Math.floor(luck.next() * 60),
          seenEmpty: true,
        });
      return machine.spindleSure && luck.next() < 0.5
        ? spindleUnsure(who, { machineId: avocet, why: 'it stood open' })
        : spindleFound(who, { machineId: avocet, tool: spindle.tool ?? 0, assemblyId: null });
    };
    for (let round = 0; round < 120; round += 1) {
      // all of them look at the same page before they do something
      const [places, ids] = await Promise.all([standing(), loose()]);
      const outcomes = await Promise.all([1, 2, 3, 4].map(() => act(places, ids)));
      for (const outcome of outcomes) {
        if (outcome.ok) taken += 1;
        else refusals.add(outcome.reason.replaceAll(/\d+/g, 'n').slice(0, 60));
      }
      const after = await standing();
      const pockets = after.filter(({ kind }) => kind === 'pocket');
      const shape = shapeOf(machine);
      for (const place of pockets) {
        if (!place.assembly) continue;
        expect(place.inService, `pocket ${place.number}`).toBe(true);
        const others = new Map(
          pockets.flatMap((each) =>
            each.assembly && each.id !== place.id ? [[each.number, hangingRadius(shape, each.assembly)]] : [],
          ),
        );
        expect(struckAt(shape, place.number, hangingRadius(shape, place.assembly), others)).toBeNull();
      }
      expect(bearingOf(machine, after).over).toEqual([]);
      const tools = after.flatMap(({ tool }) => (tool === null ? [] : [tool]));
      expect(new Set(tools).size).toBe(tools.length);
    }
    expect(taken).toBeGreaterThan(60);
    // nobody is told of anything but the machine
    for (const reason of refusals) expect(reason).not.toMatch(/deadlock|wrong|again in a moment|error/i);
    expect(await disagreements(pool())).toEqual([]);
  }, 120_000);
});

const WAITS = `SELECT count(*)::integer AS n FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock' AND query LIKE '%FROM machine%'`;
const RESERVED = `INSERT INTO ledger (kind, stage, person_id, machine_id, place_id, said) VALUES ('pocket', 'reserved', $1, $2, $3, 'It is reserved.')`;
