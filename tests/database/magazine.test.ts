import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeRoom } from '../../src/core/changer/make-room.ts';
import { CHANGERS } from '../../src/core/changer/traits.ts';
import { closePool, pool, row, rows } from '../../src/server/db.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { machineById } from '../../src/server/machines.ts';
import {
  calibrateChanges,
  changePocket,
  declareWide,
  placementsAt,
  roomState,
  spindleFound,
  spindleUnsure,
  tableAt,
  timesOf,
} from '../../src/server/magazines.ts';
import { callPocket } from '../../src/server/pocket-calls.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { as, done, entered, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let avocet: number;
beforeAll(async () => {
  cell = await weirside();
  avocet = await cell.machine('Avocet');
});
afterAll(async () => {
  expect(await disagreements(pool())).toEqual([]);
  await closePool();
});

const map = async () =>
  new Map((await placesOf(pool(), avocet)).map((place) => [place.number, place.tool] as const));
const call = async (pocket: number) => {
  const places = await placesOf(pool(), avocet);
  const at = (number: number) => places.find((place) => place.number === number)!.assembly?.id ?? null;
  return callPocket(as(cell.setter), { machineId: avocet, pocket, spindle: at(0), inPocket: at(pocket) });
};
const now = async () => (await row<{ at: Date }>(pool(), 'SELECT tin_now() AS at', []))!.at;

describe('calls through the spindle', () => {
  it('a call exchanges the spindle and one pocket, and nothing else', async () => {
    const before = await map();
    done(await call(5));
    done(await call(8));
    const after = await map();
    expect([after.get(0), after.get(5), after.get(8)]).toEqual([before.get(8), null, before.get(5)]);
    for (const [number, tool] of before)
      if (![0, 5, 8].includes(number)) expect(after.get(number)).toBe(tool);
  });
  it('what was measured stays measured: a call is no loading', async () => {
    const tool = (await placesOf(pool(), avocet)).find((place) => place.number === 0)!;
    expect(tool.assembly!.measured).toBe(true);
  });
  it('two tablets call at once: the map moves once, the other is told', async () => {
    const places = await placesOf(pool(), avocet);
    const at = (number: number) => places.find((place) => place.number === number)!.assembly?.id ?? null;
    const outcomes = await Promise.all(
      [9, 10].map((pocket) =>
        callPocket(as(cell.setter), { machineId: avocet, pocket, spindle: at(0), inPocket: at(pocket) }),
      ),
    );
    expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
    expect(outcomes.map(refused).join()).toMatch(/map has changed/);
  });
  it('a pocket out of service is not called', async () => {
    expect(refused(await call(17))).toMatch(/out of service/);
  });
  it('the picture of any moment can be had again', async () => {
    const [moment, before] = [await now(), await map()];
    done(await call(12));
    done(await call(1));
    const then = await placementsAt(pool(), avocet, moment);
    const places = await placesOf(pool(), avocet);
    const tools = new Map(
      then.map((each) => [places.find((place) => place.id === each.placeId)!.number, each.tool]),
    );
    for (const [number, tool] of before) expect(tools.get(number) ?? null, `pocket ${number}`).toBe(tool);
    expect(await map()).not.toEqual(before);
  });
});

describe('the table as it was', () => {
  it('what was declared, reserved or out of service at a moment comes back, whatever was changed since', async () => {
    const change = async (pocket: number, to: Parameters<typeof changePocket>[1]['change'], why = '') =>
      done(
        await changePocket(as(cell.setter), { placeId: await cell.place('Avocet', pocket), change: to, why }),
      );
    const table = async (at: Date) => {
      const places = await placesOf(pool(), avocet);
      const then = await tableAt(pool(), avocet, places, at);
      return new Map(places.map((place) => [place.number, then.get(place.id)!]));
    };
    const beginning = await now();
    await change(17, 'inService');
    await change(26, 'outOfService', 'its claw is bent');
    await change(28, 'reserved');
    const middle = await now();
    await change(26, 'inService');
    await change(28, 'released');
    await change(17, 'outOfService', 'as before');
    const first = await table(beginning);
    expect([17, 26].map((number) => first.get(number)!.inService)).toEqual([false, true]);
    expect(first.get(28)!.reserved).toBe(false);
    expect(first.get(3)).toMatchObject({ wide: true, tied: 1 });
    const second = await table(middle);
    expect([17, 26].map((number) => second.get(number)!.inService)).toEqual([true, false]);
    expect(second.get(28)!.reserved).toBe(true);
    expect(await table(await now())).toEqual(
      new Map(
        (await placesOf(pool(), avocet)).map(({ number, wide, tied, heavy, reserved, inService }) => [
          number,
          { wide, tied, heavy, reserved, inService },
        ]),
      ),
    );
  });
});

describe('declared width', () => {
  it('is refused while a neighbour holds a tool, and while nobody looked', async () => {
    const placeId = await cell.place('Avocet', 23);
    expect(refused(await declareWide(as(cell.setter), { placeId, tool: 60, seenEmpty: true }))).toMatch(
      /neighbour 22 holds T9.*neighbour 24 holds T11/,
    );
    const free = await cell.place('Avocet', 19);
    expect(
      refused(await declareWide(as(cell.setter), { placeId: free, tool: 60, seenEmpty: false })),
    ).toMatch(/in the metal too/);
  });
  it('a tool goes neither beside it, nor under another T into it, nor its T elsewhere', async () => {
    const loose = await cell.assembly('A-141');
    const put = async (pocket: number, tool: number) =>
      refused(
        await placeTool(as(cell.setter), {
          placeId: await cell.place('Avocet', pocket),
          assemblyId: loose,
          tool,
        }),
      );
    expect(await put(4, 50)).toMatch(/beside pocket 3, which is declared wide/);
    const out = { placeId: await cell.place('Avocet', 3), assemblyId: await cell.assembly('A-101'), why: '' };
    done(await takeOut(as(cell.setter), out));
    expect(await put(3, 50)).toMatch(/tied to T1/);
    expect(await put(18, 1)).toMatch(/T1 is tied to pocket 3/);
  });
  it('a tool wider than its neighbours leave must have its pocket declared first', async () => {
    const face = await cell.assembly('A-101');
    const place18 = await cell.place('Avocet', 18);
    expect(
      refused(await placeTool(as(cell.setter), { placeId: place18, assemblyId: face, tool: 70 })),
    ).toMatch(/Declare pocket 18 wide first/);
    const place3 = await cell.place('Avocet', 3);
    done(await placeTool(as(cell.setter), { placeId: place3, assemblyId: face, tool: 1 }));
  });
  it('the database holds the same rules underneath', async () => {
    const loose = await cell.assembly('A-141');
    const past = async (pocket: number, tool: number) =>
      entered({
        kind: 'placement',
        stage: 'in',
        personId: cell.setter.id,
        machineId: avocet,
        placeId: await cell.place('Avocet', pocket),
        assemblyId: loose,
        tool,
        said: 'past the code',
      });
    await expect(past(2, 50)).rejects.toMatchObject({ code: 'TA006' });
    await expect(past(17, 50)).rejects.toMatchObject({ code: 'TA007' });
    await expect(
      entered({
        kind: 'pocket',
        stage: 'declared',
        personId: cell.setter.id,
        machineId: avocet,
        placeId: await cell.place('Avocet', 4),
        tool: 51,
        said: 'past the code',
      }),
    ).rejects.toMatchObject({ code: 'TA006' });
    await expect(pool().query('UPDATE place SET wide = false, tied_tool = NULL')).rejects.toMatchObject({
      code: '42501',
    });
    await expect(pool().query('UPDATE place SET reserved = false')).rejects.toMatchObject({ code: '42501' });
  });
  it('the neighbours in SQL are the neighbours of the drawing', async () => {
    const { neighbours } = await import('../../src/core/changer/neighbours.ts');
    for (const [kind, places] of [
      ['randomAccess', 30],
      ['randomAccess', 3],
      ['fixedCarousel', 20],
      ['chain', 60],
      ['rack', 10],
      ['tray', 96],
      ['tray', 5],
    ] as const)
      for (const [pocket, beside] of neighbours({ kind, places, pitch: 60 })) {
        const { found } = (await row<{ found: number[] }>(
          pool(),
          'SELECT pockets_beside((SELECT ordering FROM changer_kind WHERE kind = $1), $2, $3) AS found',
          [kind, places, pocket],
        ))!;
        expect(
          [...found].sort((a, b) => a - b),
          `${kind} ${places}, pocket ${pocket}`,
        ).toEqual(beside);
      }
  });
});

it('the kinds of changer are the same in the database as in the core', async () => {
  const kept = await rows<{ kind: string; order: string; ownPlaces: boolean; spindle: boolean }>(
    pool(),
    'SELECT kind, ordering AS "order", own_places AS "ownPlaces", spindle FROM changer_kind ORDER BY kind COLLATE "C"',
  );
  expect(kept).toEqual(
    Object.entries(CHANGERS)
      .map(([kind, { order, ownPlaces, spindle }]) => ({ kind, order, ownPlaces, spindle }))
      .sort((a, b) => (a.kind < b.kind ? -1 : 1)),
  );
});

describe('pockets and the spindle', () => {
  it('a pocket goes out of service with a reason, empty, and comes back', async () => {
    const change = async (pocket: number, to: 'outOfService' | 'inService', why = '') =>
      changePocket(as(cell.setter), { placeId: await cell.place('Avocet', pocket), change: to, why });
    expect(refused(await change(20, 'outOfService', 'broken'))).toMatch(/T8 stands in pocket 20/);
    expect(refused(await change(21, 'outOfService'))).toMatch(/what is wrong/);
    done(await change(21, 'outOfService', 'The finger is bent.'));
    expect(refused(await call(21))).toMatch(/out of service/);
    done(await change(21, 'inService'));
  });
  it('while the spindle is not sure every act asks first; what is found there is put right', async () => {
    done(await spindleUnsure(as(cell.setter), { machineId: avocet, why: 'Swapped by hand at night.' }));
    expect(refused(await call(1))).toMatch(/sure what is in the spindle/);
    const place = {
      placeId: await cell.place('Avocet', 18),
      assemblyId: await cell.assembly('A-141'),
      tool: 50,
    };
    expect(refused(await placeTool(as(cell.setter), place))).toMatch(/say what the control shows first/);
    const standing = (await placesOf(pool(), avocet)).find((each) => each.tool === 9)!;
    const out = { placeId: standing.id, assemblyId: standing.assembly!.id, why: '' };
    expect(refused(await takeOut(as(cell.setter), out))).toMatch(/say what the control shows first/);
    const { number } = standing;
    done(await spindleFound(as(cell.setter), { machineId: avocet, tool: 9, assemblyId: null }));
    const after = await map();
    expect([after.get(0), after.get(number)]).toEqual([9, null]);
    expect((await machineById(pool(), avocet))!.spindleSure).toBe(true);
  });
  it('a plan to make room, carried out call by call, leaves the window empty on the table', async () => {
    const state = roomState((await machineById(pool(), avocet))!, await placesOf(pool(), avocet));
    const answer = makeRoom(
      state,
      { centre: 10, span: 3, spindleEmpty: true },
      timesOf((await machineById(pool(), avocet))!),
    );
    if (!answer.ok) throw new Error(answer.reason);
    expect(answer.plan.calls.length).toBeGreaterThan(2);
    for (const { pocket } of answer.plan.calls) done(await call(pocket));
    const after = await map();
    expect([0, 9, 10, 11].map((number) => after.get(number))).toEqual([null, null, null, null]);
    const placeId = await cell.place('Avocet', 10);
    done(await declareWide(as(cell.setter), { placeId, tool: 66, seenEmpty: true }));
  });
  it('two timed changes set the machine’s change times; a wrong pair is refused and changes nothing', async () => {
    const timed = (a: number, b: number) =>
      calibrateChanges(as(cell.lead), {
        machineId: avocet,
        a: { pockets: 1, seconds: a },
        b: { pockets: 15, seconds: b },
        heavyFactor: 1.8,
      });
    expect(refused(await timed(6, 4))).toMatch(/longer way took less time/);
    done(await timed(3.2, 6));
    const machine = (await machineById(pool(), avocet))!;
    expect([machine.armSeconds, machine.pocketSeconds, machine.heavyFactor]).toEqual([
      3,
      expect.closeTo(0.2, 9),
      1.8,
    ]);
  });
});
