import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import type { LoadStep } from '../../src/core/changer/load-plan.ts';
import type { Wanted, WantedTool } from '../../src/core/changer/wanted.ts';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import {
  dropLoadPlan,
  lastLoadPlan,
  makeLoadPlan,
  openLoadPlan,
  pocketBroken,
  stepWrong,
  tickBuilt,
  tickMeasured,
  tickStep,
} from '../../src/server/loads.ts';
import { kitsToBuild } from '../../src/server/load-steps.ts';
import { editDialect, machineById } from '../../src/server/machines.ts';
import { changePocket, spindleFound } from '../../src/server/magazines.ts';
import { callPocket } from '../../src/server/pocket-calls.ts';
import { setLifeLimit } from '../../src/server/lives.ts';
import { layoutTask } from '../../src/server/planning.ts';
import { shortLived } from '../../src/server/short-lived.ts';
import { seeMark, turnedOf } from '../../src/server/oriented.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const avocet = async () => (await machineById(pool(), await cell.machine('Avocet')))!;
const plan = async () => (await openLoadPlan(pool(), await avocet()))!;
const left = async () => {
  const { left: answer } = await plan();
  if (!answer.ok) throw new Error(answer.reason);
  return answer.steps;
};
/** Everything that stands in Avocet stays, but for what is changed. */
async function wanted(change: Partial<Wanted> = {}, moved: Record<number, number> = {}): Promise<Wanted> {
  const machine = await avocet();
  const standing = (await placesOf(pool(), machine.id)).flatMap((place): WantedTool[] =>
    place.assembly && !change.out?.includes(place.assembly.id)
      ? [
          {
            assemblyId: place.assembly.id,
            number: place.assembly.number,
            name: place.assembly.name,
            tool: place.tool!,
            pocket: moved[place.tool!] ?? place.number,
            wide: place.wide,
            heavy: false,
            radius: null,
            orientation: null,
          },
        ]
      : [],
  );
  return { tools: [...standing, ...(change.tools ?? [])], out: change.out ?? [] };
}
const fresh = async (number: string, tool: number, pocket: number, over: Partial<WantedTool> = {}) => ({
  assemblyId: await cell.assembly(number),
  number,
  name: number,
  tool,
  pocket,
  wide: false,
  heavy: false,
  radius: null,
  orientation: null,
  ...over,
});
const make = async (aim: Wanted) =>
  done(await makeLoadPlan(as(cell.lead), { machineId: (await avocet()).id, wanted: aim }));
const lengthRow = async (tool: number) => (await cell.register('Avocet', tool, 'lengthGeometry')).value;

/** Does a step as somebody at the machine would. */
async function doStep(person = cell.setter) {
  const { id: planId } = await plan();
  const [next] = await left();
  const { step, key, confirm, turned } = next!;
  if (step.act !== 'measure')
    return tickStep(as(person), { planId, key, confirmed: confirm.length, ...(turned && { turned }) });
  return tickMeasured(as(person), {
    planId,
    key,
    measuring: {
      machineId: (await avocet()).id,
      assemblyId: step.tool.assemblyId,
      row: step.tool.tool,
      values: [
        {
          kind: 'lengthGeometry',
          value: lengthOf(141.25, 'mm'),
          before: (await lengthRow(step.tool.tool)) as Length,
        },
      ],
      gaugeLength: lengthOf(141.25, 'mm'),
      how: 'Measured straight after loading.',
      method: 'toolSetter',
    },
  });
}
const acts = (steps: readonly { step: LoadStep }[]) => steps.map(({ step }) => step.act);

describe('a load plan at the machine', () => {
  it('is worked off to its end by two people, each tick an entry of the ledger, and closes itself', async () => {
    const out = await cell.assembly('A-112');
    await make(await wanted({ out: [out], tools: [await fresh('A-110', 10, 16)] }));
    expect(acts(await left())).toEqual(['call', 'unload', 'load', 'measure', 'call', 'measure']);
    const before = await cell.count("FROM ledger WHERE kind = 'placement'");
    for (let i = 0; i < 6; i += 1) done(await doStep(i % 2 === 0 ? cell.setter : cell.lead));
    expect(await openLoadPlan(pool(), await avocet())).toBeNull();
    const closed = (await lastLoadPlan(pool(), (await avocet()).id))!;
    expect(closed.outcome).toBe('done');
    expect(new Set(closed.ticks.map((tick) => tick.person)).size).toBe(2);
    expect(await cell.count("FROM ledger WHERE kind = 'placement'")).toBe(before + 4);
    const places = await placesOf(pool(), (await avocet()).id);
    expect(places.find((place) => place.number === 16 && place.kind === 'pocket')).toMatchObject({
      tool: 10,
      assembly: { number: 'A-110', measured: true },
    });
    expect(places.some((place) => place.assembly?.id === out)).toBe(false);
    expect(await lengthRow(10)).toBe(lengthOf(141.25, 'mm'));
  });
  it('a wide tool: room is made, the pocket declared, and the neighbours are empty', async () => {
    // T5 and T6 stand in 10 and 12; 11 is to be wide
    const aim = await wanted({ tools: [await fresh('A-151', 40, 11, { wide: true })] }, { 5: 16, 6: 18 });
    await make(aim);
    expect(acts(await left())).toEqual([
      'call',
      'call',
      'call',
      'call',
      'declare',
      'load',
      'measure',
      'call',
      'measure',
    ]);
    for (let i = 0; i < 9; i += 1) done(await doStep());
    const pockets = (await placesOf(pool(), (await avocet()).id)).filter((place) => place.kind === 'pocket');
    expect(pockets.filter((place) => [10, 11, 12].includes(place.number))).toMatchObject([
      { assembly: null },
      { wide: true, tied: 40, tool: 40 },
      { assembly: null },
    ]);
  });
  it('a step is not ticked before each of its lines is confirmed, and not out of order', async () => {
    await make(await wanted({ tools: [await fresh('A-110', 10, 16)] }));
    const { id: planId } = await plan();
    const [first, second] = await left();
    expect(
      refused(
        await tickStep(as(cell.setter), { planId, key: first!.key, confirmed: first!.confirm.length - 1 }),
      ),
    ).toMatch(/Confirm each line/);
    expect(refused(await tickStep(as(cell.setter), { planId, key: second!.key, confirmed: 9 }))).toMatch(
      /another comes first/,
    );
    expect((await plan()).ticks).toEqual([]);
  });
  it('a measuring step takes no tick alone', async () => {
    await make(await wanted({ tools: [await fresh('A-110', 10, 16)] }));
    done(await doStep());
    const { id: planId } = await plan();
    const [measure] = await left();
    expect(measure!.step.act).toBe('measure');
    expect(refused(await tickStep(as(cell.setter), { planId, key: measure!.key, confirmed: 9 }))).toMatch(
      /a tick alone is no measurement/,
    );
  });
  it('two tablets tick the same step: it is done once', async () => {
    await make(await wanted({ tools: [await fresh('A-110', 10, 16)] }));
    const { id: planId } = await plan();
    const [first] = await left();
    const tick = (person = cell.setter) =>
      tickStep(as(person), { planId, key: first!.key, confirmed: first!.confirm.length });
    const answers = await Promise.all([tick(), tick(cell.lead)]);
    expect(answers.filter((answer) => answer.ok)).toHaveLength(1);
    expect(answers.find((answer) => !answer.ok)).toMatchObject({
      reason: expect.stringMatching(/already ticked this step/),
    });
    expect((await plan()).ticks).toHaveLength(1);
  });
  it('what was done by hand meanwhile is seen: the plan goes on from what is there', async () => {
    const out = await cell.assembly('A-112');
    await make(await wanted({ out: [out] }));
    expect(acts(await left())).toEqual(['call', 'unload', 'measure']);
    done(
      await takeOut(as(cell.setter), { placeId: await cell.place('Avocet', 25), assemblyId: out, why: '' }),
    );
    expect(acts(await left())).toEqual(['measure']);
  });
  it('a step that finds something else stops until somebody says what is there; then it is planned anew', async () => {
    const out = await cell.assembly('A-112');
    await make(await wanted({ out: [out] }));
    const { id: planId } = await plan();
    const [call] = await left();
    expect(refused(await stepWrong(as(cell.setter), { planId, key: call!.key, why: ' ' }))).toMatch(
      /what you found/,
    );
    done(await stepWrong(as(cell.setter), { planId, key: call!.key, why: 'The control shows T7' }));
    expect(refused(await tickStep(as(cell.setter), { planId, key: call!.key, confirmed: 1 }))).toMatch(
      /sure what is in the spindle/,
    );
    done(await spindleFound(as(cell.lead), { machineId: (await avocet()).id, tool: 7, assemblyId: null }));
    // T7 is in the spindle now; its pocket is 14, T12 still has to go
    expect((await left()).map((each) => each.title)).toEqual([
      expect.stringMatching(/^Measure T7/),
      expect.stringMatching(/^Call pocket 14: T7 goes into pocket 14/),
      expect.stringMatching(/^Call pocket 25/),
      expect.stringMatching(/^Take T12/),
      expect.stringMatching(/^Measure T9/),
    ]);
    expect((await plan()).ticks).toMatchObject([{ outcome: 'wrong', why: 'The control shows T7' }]);
  });
  it('a call made elsewhere in between is refused by the map, not entered twice', async () => {
    await make(await wanted({ out: [await cell.assembly('A-112')] }));
    const { id: planId } = await plan();
    const [call] = await left();
    done(
      await callPocket(as(cell.lead), {
        machineId: (await avocet()).id,
        pocket: 25,
        spindle: null,
        inPocket: await cell.assembly('A-112'),
      }),
    );
    expect(refused(await tickStep(as(cell.setter), { planId, key: call!.key, confirmed: 1 }))).toMatch(
      /Look again/,
    );
    expect(acts(await left())).toEqual(['unload', 'measure']);
  });
});

describe('making and closing a plan', () => {
  it('one at a time on a machine; dropped, another may be made', async () => {
    const aim = await wanted({ tools: [await fresh('A-110', 10, 16)] });
    const { id } = await make(aim);
    const again = () =>
      avocet().then(({ id: machineId }) => makeLoadPlan(as(cell.lead), { machineId, wanted: aim }));
    expect(refused(await again())).toMatch(/already open/);
    done(await dropLoadPlan(as(cell.setter), id));
    expect(refused(await dropLoadPlan(as(cell.setter), id))).toMatch(/already closed/);
    done(await again());
  });
  it('what could never be is refused: a pocket twice, a T twice, a T that the control does not have', async () => {
    const attempt = async (tools: WantedTool[]) =>
      refused(
        await makeLoadPlan(as(cell.lead), {
          machineId: (await avocet()).id,
          wanted: { tools, out: [] },
        }),
      );
    const one = await fresh('A-110', 10, 16);
    expect(await attempt([one, { ...one, tool: 11 }])).toMatch(/Two tools are wanted in pocket 16/);
    expect(await attempt([one, { ...one, pocket: 17 }])).toMatch(/T10 is wanted twice/);
    expect(await attempt([{ ...one, tool: 9000 }])).toMatch(/no such place or T/);
    expect(await attempt([{ ...one, pocket: 17 }])).toMatch(/Pocket 17, for T10, is out of service/);
    expect(await attempt([{ ...one, pocket: 4 }])).toMatch(/beside pocket 3, which is declared wide/);
    expect(await attempt([{ ...one, pocket: 11, wide: true }])).toMatch(
      /T10 is wide: pocket 10 beside it must stay empty/,
    );
    expect(await attempt([{ ...one, pocket: 25 }])).toMatch(/T12 \(A-112\) stands in pocket 25/);
  });
  it('what must be built is named, and loaded once somebody says which one it is', async () => {
    const aim = await wanted({
      tools: [{ ...(await fresh('A-110', 10, 16)), assemblyId: null, number: '', name: 'tap M10' }],
    });
    await make(aim);
    const { id: planId } = await plan();
    const build = (await left()).at(-1)!;
    expect(build.title).toMatch(/Build first: T10, tap M10/);
    expect(
      refused(
        await tickBuilt(as(cell.setter), {
          planId,
          key: build.key,
          assemblyId: await cell.assembly('L-221'),
        }),
      ),
    ).toMatch(/shank 25 end; Avocet takes steep 40/);
    expect(
      refused(
        await tickBuilt(as(cell.setter), {
          planId,
          key: build.key,
          assemblyId: await cell.assembly('B-301'),
        }),
      ),
    ).toMatch(/Bittern/);
    done(
      await tickBuilt(as(cell.setter), { planId, key: build.key, assemblyId: await cell.assembly('A-110') }),
    );
    expect(acts(await left())).toEqual(['load', 'measure', 'call', 'measure']);
  });
  it('the pieces of what must be built are named from the shelves, by what the program asks for', async () => {
    const program = await cell.program('O2205');
    const machine = await avocet();
    const asked = { ...(await fresh('A-110', 10, 16)), assemblyId: null, asked: { program, tool: 10 } };
    const [kit] = await kitsToBuild(pool(), machine, await wanted({ tools: [asked] }));
    expect(kit).toMatchObject({ tool: 10, asked: { program, tool: 10 } });
    expect(kit!.kit!.pieces.map(({ role, piece, count }) => `${role} ${piece.number} ${count}`)).toEqual([
      'holder H40-TAP 1',
      'adapter C25-10T 1',
      'cutter TC-M10 1',
      'knob KN-45C 1',
    ]);
    expect(kit!.kit!.lacking).toEqual([]);
    // a T of which no program says anything has no kit, and a plan of standing tools none either
    expect(await kitsToBuild(pool(), machine, await wanted({ tools: [{ ...asked, asked: null }] }))).toEqual(
      [],
    );
    expect(await kitsToBuild(pool(), machine, await wanted())).toEqual([]);
  });
  it('the one who loads a fine boring bar is told which way its tip must point, and by which line', async () => {
    const bar = await cell.assembly('A-108');
    const place = await cell.place('Avocet', 20);
    done(await takeOut(as(cell.setter), { placeId: place, assemblyId: bar, why: '' }));
    const confirmed = async () =>
      (await left()).find(({ step }) => step.act === 'load')!.confirm.find((line) => /tip/.test(line));
    await make(await wanted({ tools: [await fresh('A-108', 8, 20, { orientation: 'tip' })] }));
    expect(await confirmed()).toBe(
      'The spindle is oriented, and the tip points X−, since O2205 shifts X+ on line 126: you answer for it',
    );
    const machine = await avocet();
    done(
      await editDialect(as(cell.lead), {
        machineId: machine.id,
        dialect: { ...machine.dialect, boringShift: 'Y+' },
      }),
    );
    expect(await confirmed()).toMatch(/the tip points Y−, since O2205 shifts Y\+/);
    // what was confirmed is written down with the step, unless it was changed since the page was opened
    while ((await left())[0]!.step.act !== 'load') done(await doStep());
    const [load] = await left();
    const { id: planId } = await plan();
    const as2 = { planId, key: load!.key, confirmed: load!.confirm.length };
    expect(refused(await tickStep(as(cell.setter), { ...as2, turned: 'X-' }))).toMatch(/changed meanwhile/);
    expect((await turnedOf(pool(), machine.id)).get(8)?.way ?? null).toBeNull();
    done(await tickStep(as(cell.setter), { ...as2, turned: 'Y-' }));
    expect((await turnedOf(pool(), machine.id)).get(8)).toMatchObject({ way: 'Y-', number: 'A-108' });
  });
  it('a probe that is loaded with its mark where it was is not looked for again', async () => {
    const probe = await cell.assembly('A-130');
    const machine = await avocet();
    const standing = (await placesOf(pool(), machine.id)).find((place) => place.assembly?.id === probe)!;
    const probeOf = async () => (await turnedOf(pool(), machine.id)).get(standing.tool!)?.probe;
    expect(await probeOf()).toBe('calibrated');
    done(await takeOut(as(cell.setter), { placeId: standing.id, assemblyId: probe, why: '' }));
    await make(
      await wanted({
        tools: [await fresh('A-130', standing.tool!, standing.number, { orientation: 'probe' })],
      }),
    );
    while ((await left())[0]!.step.act !== 'load') done(await doStep());
    expect((await left())[0]!.confirm.join()).toMatch(/mark points as it was calibrated here \(/);
    done(await doStep());
    expect(await probeOf()).toBe('markSeen');
    // put in by hand, without the step, nobody has said how it is turned
    const now = (await placesOf(pool(), machine.id)).find((place) => place.assembly?.id === probe)!;
    done(await takeOut(as(cell.setter), { placeId: now.id, assemblyId: probe, why: '' }));
    done(await placeTool(as(cell.setter), { placeId: standing.id, assemblyId: probe, tool: standing.tool! }));
    expect(await probeOf()).toBe('putBack');
    done(await seeMark(as(cell.setter), { machineId: machine.id, assemblyId: probe }));
    expect(await probeOf()).toBe('markSeen');
  });
  it('a tool in the spindle that the plan does not name goes into no pocket out of service or reserved', async () => {
    const change = async (pocket: number, to: 'outOfService' | 'reserved') =>
      done(
        await changePocket(as(cell.setter), {
          placeId: await cell.place('Avocet', pocket),
          change: to,
          why: 'for the test',
        }),
      );
    await change(1, 'outOfService');
    await change(6, 'reserved');
    done(
      await placeTool(as(cell.setter), {
        placeId: await cell.place('Avocet', 0),
        assemblyId: await cell.assembly('A-141'),
        tool: 41,
      }),
    );
    await make({ tools: [await fresh('A-110', 10, 16)], out: [] });
    const [first] = await left();
    expect(first!.title).toMatch(/^Call pocket 7: T41 goes into pocket 7/);
    done(await doStep());
  });
  it('a tick is for ever: the application may not take it back', async () => {
    await make(await wanted({ tools: [await fresh('A-110', 10, 16)] }));
    await expect(pool().query('DELETE FROM load_tick')).rejects.toMatchObject({ code: '42501' });
    await expect(pool().query("UPDATE load_tick SET said = 'x'")).rejects.toMatchObject({ code: '42501' });
  });
});

describe('the planner’s question', () => {
  it('knows what is called, what stands, what is loose, and what must stay', async () => {
    const task = await layoutTask(pool(), await avocet(), [await cell.program('O2205')], [11]);
    const of = (tool: number) => {
      const i = task.pieces.findIndex((piece) => piece.tool === tool);
      return { ...task.pieces[i]!, ...task.question.tools[i]! };
    };
    expect(of(10)).toMatchObject({ number: 'A-110', state: 'loose', now: null, called: true });
    expect(of(9)).toMatchObject({ number: 'A-109', state: 'standing', now: 22, called: true });
    expect(of(1)).toMatchObject({ wide: true, locked: 3 });
    expect(of(11)).toMatchObject({ locked: 24, called: false });
    expect(of(30)).toMatchObject({ locked: 30, orientation: 'probe' });
    // beside the wide one, reserved, and out of service
    for (const pocket of [2, 3, 4, 30]) expect(task.question.usable).not.toContain(pocket);
    expect(task.question.runs).toMatchObject([{ name: 'O2205' }]);
  });
  it('runs a program as often as its open jobs have parts left', async () => {
    const task = await layoutTask(pool(), await avocet(), [await cell.program('O2310')], []);
    const open = await row<{ n: number }>(
      pool(),
      `SELECT sum(j.quantity - j.made)::integer AS n FROM job j JOIN program g ON g.id = j.program_id WHERE g.number = 'O2310' AND j.state <> 'done'`,
    );
    expect(task.question.runs[0]!.cycles).toBe(Math.max(1, open!.n));
  });
});

describe('a pocket that breaks while the plan is open', () => {
  it('is taken out of service at once, its tool gets another pocket, and the rest goes on', async () => {
    const fresh1 = await fresh('A-110', 26, 26);
    done(
      await makeLoadPlan(as(cell.setter), {
        machineId: (await avocet()).id,
        wanted: await wanted({ tools: [fresh1] }),
      }),
    );
    const open = await plan();
    const next = (await left())[0]!;
    expect(
      refused(await pocketBroken(as(cell.setter), { planId: open.id, key: next.key, pocket: 26, why: ' ' })),
    ).toMatch(/what is wrong/);
    const { moved } = done(
      await pocketBroken(as(cell.setter), {
        planId: open.id,
        key: next.key,
        pocket: 26,
        why: 'spring broken',
      }),
    );
    expect(moved).toMatchObject({ tool: 26 });
    const places = await placesOf(pool(), (await avocet()).id);
    expect(places.find((place) => place.number === 26)!.inService).toBe(false);
    const again = await plan();
    expect(again.wanted.tools.find((tool) => tool.tool === 26)!.pocket).toBe(moved!.pocket);
    expect(again.left).toMatchObject({ ok: true, held: [] });
    expect((await left()).every((each) => !('pocket' in each.step) || each.step.pocket !== 26)).toBe(true);
  });

  it('a pocket that breaks with its tool in it: the tool comes out by hand, and goes into another by the same plan', async () => {
    const places = async () => placesOf(pool(), (await avocet()).id);
    const machineId = (await avocet()).id;
    const standing = (await places()).find(
      (place) => place.kind === 'pocket' && place.assembly && !place.wide && !place.reserved,
    )!;
    const free = (await places()).find(
      (place) =>
        place.kind === 'pocket' &&
        place.inService &&
        !place.assembly &&
        !place.reserved &&
        place.tied === null &&
        place.number === 26,
    )!;
    done(
      await makeLoadPlan(as(cell.setter), {
        machineId,
        wanted: await wanted({}, { [standing.tool!]: free.number }),
      }),
    );
    const open = await plan();
    let steps = await left();
    while (!('pocket' in steps[0]!.step && steps[0]!.step.pocket === standing.number)) {
      done(await tickStep(as(cell.setter), { planId: open.id, key: steps[0]!.key, confirmed: 9 }));
      steps = await left();
    }
    const broken = { planId: open.id, key: steps[0]!.key, pocket: standing.number, why: 'pot bent' };
    expect(refused(await pocketBroken(as(cell.setter), broken))).toMatch(
      new RegExp(`T${standing.tool} .* stands in pocket ${standing.number}.*by hand`),
    );
    expect((await places()).find((place) => place.number === standing.number)!.inService).toBe(true);
    done(await pocketBroken(as(cell.setter), { ...broken, takenOut: true }));
    const after = (await places()).find(
      (place) => place.kind === 'pocket' && place.number === standing.number,
    )!;
    expect(after).toMatchObject({ inService: false, assembly: null });
    const rest = await left();
    expect(rest.every((each) => !('pocket' in each.step) || each.step.pocket !== standing.number)).toBe(true);
    // it stood on the bench, so it is loaded and measured
    const own = rest.filter((each) => 'wanted' in each.step && each.step.wanted.tool === standing.tool);
    expect(own.map((each) => each.step.act)).toContain('load');
  });
});

describe('a plan with sisters', () => {
  it('names what does not last and plans its sister in under a T that nothing uses; what was loaded meanwhile is not planned twice', async () => {
    const machine = await avocet();
    const program = await cell.program('O2301');
    const drill = await cell.assembly('A-105');
    done(
      await setLifeLimit(as(cell.lead), {
        assemblyId: drill,
        basis: 'holes',
        fullLife: 480,
        left: null,
        why: 'trial',
      }),
    );
    const short = await shortLived(pool(), machine, [program]);
    const found = short.find(({ tool }) => tool === 5)!;
    expect(found).toMatchObject({ number: 'A-105', program: 'O2301', sister: { number: 'A-142' } });
    expect(found.part).toBeLessThan(found.of);
    const { sister } = found;
    expect(
      await cell.count('FROM placement WHERE machine_id = $1 AND tool = $2', machine.id, sister!.tool),
    ).toBe(0);
    expect(
      await cell.count(
        'FROM program g JOIN program_call c ON c.program_id = g.id WHERE g.machine_id = $1 AND c.tool = $2',
        machine.id,
        sister!.tool,
      ),
    ).toBe(0);
    const sisters = [{ assemblyId: sister!.id, tool: sister!.tool }];
    const task = await layoutTask(pool(), machine, [program], [], sisters);
    expect(task.pieces.filter(({ number }) => number === 'A-142')).toEqual([
      expect.objectContaining({ tool: sister!.tool, state: 'loose' }),
    ]);
    const broken = await layoutTask(pool(), machine, [program], [], [{ assemblyId: drill, tool: 77 }]);
    expect(broken.pieces.filter(({ number }) => number === 'A-105')).toHaveLength(1);
  });
  it('a tool without a sister on the rack says so', async () => {
    const short = await shortLived(pool(), await avocet(), [await cell.program('O2301')]);
    expect(short.length).toBeGreaterThan(0);
    expect(short.find(({ number }) => number === 'A-102')).toMatchObject({ sister: null });
  });
});
