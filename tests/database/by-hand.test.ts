import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { carry } from '../../src/core/changer/carry.ts';
import { makeRoom } from '../../src/core/changer/make-room.ts';
import { putAway } from '../../src/core/changer/put-away.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { knobsOf } from '../../src/server/knobs.ts';
import { makeLoadPlan, openLoadPlan, tickStep } from '../../src/server/loads.ts';
import { machineById } from '../../src/server/machines.ts';
import { changePocket, roomState, timesOf } from '../../src/server/magazines.ts';
import { callPocket } from '../../src/server/pocket-calls.ts';
import { layoutTask } from '../../src/server/planning.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const machineOf = async (name: string) => (await machineById(pool(), await cell.machine(name)))!;
const shaped = (number: string, what: string, value: number) =>
  cell.asOwner((db) =>
    db.query(`UPDATE assembly SET ${what} = $2, outline = NULL, seats = NULL WHERE number = $1`, [
      number,
      value,
    ]),
  );
const put = async (machine: string, pocket: number, number: string, tool: number) =>
  placeTool(as(cell.setter), {
    knob: (await machineOf(machine)).knob,
    placeId: await cell.place(machine, pocket),
    assemblyId: await cell.assembly(number),
    tool,
  });
async function call(pocket: number, over: { made?: boolean } = {}) {
  const { id: machineId } = await machineOf('Avocet');
  const places = await placesOf(pool(), machineId);
  const at = (number: number) => places.find((place) => place.number === number)!.assembly?.id ?? null;
  return callPocket(as(cell.setter), { machineId, pocket, spindle: at(0), inPocket: at(pocket), ...over });
}
const avocetRoom = async () => {
  const machine = await machineOf('Avocet');
  return { machine, state: roomState(machine, await placesOf(pool(), machine.id)) };
};

describe('what the changer must not take (H5)', () => {
  it('is in the spindle by hand, and no call takes it there or away; one that was made is written down', async () => {
    await shaped('A-141', 'mass', 9000);
    done(await put('Avocet', 0, 'A-141', 41));
    expect(refused(await call(7))).toMatch(
      /must not take T41 in the spindle: its mass 9.00 kg is over the changer's 6.80 kg\. Take it out by hand/,
    );
    const { machine, state } = await avocetRoom();
    expect(putAway(state)).toBeNull();
    expect(makeRoom(state, { centre: null, span: 3, spindleEmpty: true }, timesOf(machine))).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/T41 in the spindle/),
    });
    done(await call(7, { made: true }));
    expect(refused(await call(7))).toMatch(/must not take T41 in pocket 7/);
    const after = (await avocetRoom()).state;
    expect(after.pockets[6]).toMatchObject({ usable: false, content: { tool: 41 } });
    const now = [null, ...after.pockets.map(({ content }) => content?.tool ?? null)];
    const wanted = [...now];
    [wanted[7], wanted[15]] = [now[15]!, now[7]!];
    expect(carry(after, wanted)).toMatchObject({ ok: false, proven: true });
    // a layout leaves it where it hangs
    const task = await layoutTask(pool(), machine, [await cell.program('O2205')], []);
    expect(task.question.tools.find(({ tool }) => tool === 41)).toMatchObject({ now: 7, locked: 7 });
  });
  it('what is wider than neighbours leave goes into no pocket that is not declared for it, and none into a reserved one', async () => {
    await shaped('A-141', 'diameter', lengthOf(95, 'mm'));
    done(await put('Avocet', 0, 'A-141', 41));
    expect(refused(await call(7))).toMatch(
      /T41 in the spindle needs a pocket that is declared wide for it: 95.0 mm across/,
    );
    await shaped('A-141', 'diameter', lengthOf(20, 'mm'));
    done(
      await changePocket(as(cell.setter), {
        placeId: await cell.place('Avocet', 7),
        change: 'reserved',
        why: '',
      }),
    );
    expect(refused(await call(7))).toMatch(/Pocket 7 is reserved: T41 does not go there/);
    done(await call(15));
  });
  it('is planned into no pocket, by whatever hand', async () => {
    await shaped('A-110', 'gauge_length', lengthOf(300, 'mm'));
    const wanted = {
      tools: [
        {
          assemblyId: await cell.assembly('A-110'),
          number: 'A-110',
          name: '',
          tool: 10,
          pocket: 16,
          wide: false,
          heavy: false,
          radius: null,
          orientation: null,
        },
      ],
      out: [],
    };
    const { id: machineId } = await machineOf('Avocet');
    expect(refused(await makeLoadPlan(as(cell.lead), { machineId, wanted }))).toMatch(
      /must not take T10 \(A-110\): its length 300.0 mm is over the changer's 280.0 mm/,
    );
  });
  it('a wide tool on a carousel keeps its neighbours empty, though nothing is declared there', async () => {
    const places = await placesOf(pool(), (await machineOf('Bittern')).id);
    const free = places.find(
      ({ kind, number, assembly, inService, reserved }) =>
        kind === 'pocket' &&
        !assembly &&
        inService &&
        !reserved &&
        [number - 1, number + 1].every((beside) =>
          places.some(
            (each) => each.kind === 'pocket' && each.number === beside && !each.assembly && each.inService,
          ),
        ),
    )!;
    const [wide, slim] = (
      await pool().query<{ number: string }>(
        `SELECT number FROM assembly a WHERE interface = 'dual contact 40' OR interface = (SELECT interface FROM machine WHERE name = 'Bittern')
         AND flag IS NULL AND NOT EXISTS (SELECT FROM placement s WHERE s.assembly_id = a.id) ORDER BY number LIMIT 2`,
      )
    ).rows.map(({ number }) => number);
    await shaped(wide!, 'diameter', lengthOf(3.5, 'in'));
    done(await put('Bittern', free.number, wide!, free.number));
    expect(refused(await put('Bittern', free.number + 1, slim!, free.number + 1))).toMatch(
      new RegExp(
        `in pocket ${free.number} is so wide that pocket ${free.number + 1} beside it must stay empty`,
      ),
    );
  });
});

describe('another knob than the machine needs (H3)', () => {
  const loose = async () => {
    const { id: machineId, knob } = await machineOf('Avocet');
    // A-110 comes with its pieces on record
    const assemblyId = await cell.assembly('A-110');
    await cell.asOwner((db) =>
      db.query(
        `INSERT INTO component (number, name, kind, interface, series, dimensions)
         SELECT 'KN-OTHER', 'another knob', kind, interface, 'K-OTHER', dimensions FROM component WHERE kind = 'knob' AND series = $1 LIMIT 1`,
        [knob],
      ),
    );
    await cell.asOwner((db) =>
      db.query(
        `INSERT INTO assembly_part (assembly_id, role, component_id, count)
         SELECT $1, 'knob', id, 1 FROM component WHERE number = 'KN-OTHER'
         ON CONFLICT (assembly_id, role) DO UPDATE SET component_id = excluded.component_id`,
        [assemblyId],
      ),
    );
    return { machineId, knob, assemblyId, placeId: await cell.place('Avocet', 7) };
  };
  const carries = async (assemblyId: number) => (await knobsOf(pool(), [assemblyId])).get(assemblyId);

  it('is asked before the tool goes in, and is on record as changed when somebody says so', async () => {
    const { knob, assemblyId, placeId } = await loose();
    const placing = { placeId, assemblyId, tool: 10 };
    const asked = await placeTool(as(cell.setter), placing);
    expect(asked).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/carries a K-OTHER knob; Avocet needs .*drops/),
      ask: [{ name: 'knob', value: knob }],
    });
    expect(refused(await placeTool(as(cell.setter), { ...placing, knob: 'K-OTHER' }))).toMatch(/K-OTHER/);
    expect(await carries(assemblyId)).toBe('K-OTHER');
    done(await placeTool(as(cell.setter), { ...placing, knob }));
    expect(await carries(assemblyId)).toBe(knob);
    const { rows: told } = await pool().query<{ why: string }>(
      "SELECT why FROM ledger WHERE kind = 'placement' AND stage = 'in' AND assembly_id = $1 ORDER BY id DESC LIMIT 1",
      [assemblyId],
    );
    expect(told[0]!.why).toBe(`Its knob was changed from K-OTHER to ${knob}.`);
  });
  it('is a line of its own at the step that loads it', async () => {
    const { machineId, knob, assemblyId } = await loose();
    const tool = {
      assemblyId,
      number: 'A-110',
      name: '',
      tool: 10,
      pocket: 16,
      wide: false,
      heavy: false,
      radius: null,
      orientation: null,
    };
    done(await makeLoadPlan(as(cell.lead), { machineId, wanted: { tools: [tool], out: [] } }));
    const plan = (await openLoadPlan(pool(), await machineOf('Avocet')))!;
    if (!plan.left.ok) throw new Error(plan.left.reason);
    const [step] = plan.left.steps;
    expect(step!.confirm.join()).toMatch(/knob was changed: it is .* now, tight, and not K-OTHER/);
    const tick = (confirmed: number) =>
      tickStep(as(cell.setter), { planId: plan.id, key: step!.key, confirmed });
    expect(refused(await tick(step!.confirm.length - 1))).toMatch(/Confirm each line/);
    done(await tick(step!.confirm.length));
    expect(await carries(assemblyId)).toBe(knob);
  });
});

it('a tool is called into no pocket that placing by hand would refuse it: beside a declared one, or declared for another T', async () => {
  done(await put('Avocet', 0, 'A-110', 41));
  // pocket 3 is declared wide for T1; with that out of the machine nothing would strike in 2
  const { id } = await machineOf('Avocet');
  const wide = (await placesOf(pool(), id)).find(({ kind, number }) => kind === 'pocket' && number === 3)!;
  done(await takeOut(as(cell.setter), { placeId: wide.id, assemblyId: wide.assembly!.id, why: '' }));
  expect(refused(await call(2))).toMatch(
    /pocket 2 with T41 in the spindle.*beside pocket 3, which is declared wide/,
  );
  expect(refused(await call(3))).toMatch(/tied to T1: no other T goes there/);
});
