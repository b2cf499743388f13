import { describe, expect, it } from 'vitest';
import { nanometres } from '../units/length.ts';
import type { ChangerKind } from './traits.ts';
import { carry } from './carry.ts';
import { found, wish } from '../../../tests/support/found.ts';
import { loadPlan, type FoundState, type FoundTool } from './load-plan.ts';
import { stepWords } from './load-words.ts';
import { makeRoom } from './make-room.ts';
import { putAway } from './put-away.ts';
import type { RoomState, RoomTool } from './room.ts';
import { standingRefusal, type StandingQuestion } from './standing.ts';
import type { Wanted } from './wanted.ts';
import { armRefusal, type NoArm, type Where } from './where.ts';

const HEAVY: NoArm = { comes: false, reasons: 'its mass is over' };
const UNDECLARED: NoArm = { comes: true, reasons: 'it is wide' };
const where = (verdict: Where['verdict']): Where => ({ verdict, reasons: ['it is so'], remarks: [] });

describe('what the changer must not carry (H5)', () => {
  it('too much for it is never given to it; what needs room goes only where that is declared', () => {
    const on = (kind: ChangerKind) => ({ kind, places: 12, pitch: 80 });
    for (const kind of ['randomAccess', 'chain', 'fixedCarousel', 'rack'] as const) {
      expect(armRefusal(on(kind), where('fits'), false)).toBeNull();
      expect(armRefusal(on(kind), where('byHand'), true)).toMatchObject({ comes: false });
      expect(armRefusal(on(kind), where('notAtAll'), true)).toMatchObject({ comes: false });
    }
    for (const kind of ['randomAccess', 'chain'] as const) {
      expect(armRefusal(on(kind), where('neighboursEmpty'), false)).toMatchObject({ comes: true });
      expect(armRefusal(on(kind), where('neighboursEmpty'), true)).toBeNull();
    }
    // nothing is declared there
    for (const kind of ['fixedCarousel', 'rack'] as const)
      expect(armRefusal(on(kind), where('neighboursEmpty'), false)).toBeNull();
    // and nothing is called
    for (const kind of ['turret', 'tray'] as const)
      expect(armRefusal(on(kind), where('byHand'), false)).toBeNull();
  });
});

const room = (tool: number, noArm: NoArm | null = null): RoomTool => ({
  tool,
  heavy: false,
  radius: 30,
  home: null,
  noArm,
});
const magazine = (hangs: Readonly<Record<number, RoomTool>>, spindle: RoomTool | null = null): RoomState => ({
  shape: { kind: 'randomAccess', places: 9, pitch: 80 },
  at: 1,
  spindle,
  pockets: Array.from({ length: 9 }, (_, i) => ({
    number: i + 1,
    content: hangs[i + 1] ?? null,
    usable: !hangs[i + 1]?.noArm,
  })),
});

describe('calls that are proposed', () => {
  const TIMES = { arm: 2, perPocket: 0.2, heavyFactor: 1.5, preStaging: true };
  const wish = { centre: 3, span: 3, spindleEmpty: true };
  it('make no room where such a tool hangs, and none while one is in the spindle', () => {
    expect(makeRoom(magazine({ 3: room(3, HEAVY) }), wish, TIMES)).toEqual({
      ok: false,
      reason: 'The changer must not take T3 in pocket 3: its mass is over.',
    });
    expect(makeRoom(magazine({ 3: room(3) }, room(8, HEAVY)), wish, TIMES)).toEqual({
      ok: false,
      reason: 'The changer must not take T8 in the spindle: its mass is over. Take it out by hand first.',
    });
    // nothing is carried, so nothing is in the way
    expect(makeRoom(magazine({}, room(8, HEAVY)), { ...wish, spindleEmpty: false }, TIMES)).toMatchObject({
      ok: true,
    });
    // room is made elsewhere instead
    const best = makeRoom(magazine({ 3: room(3, HEAVY), 7: room(7) }), { ...wish, centre: null }, TIMES);
    expect(best).toMatchObject({ ok: true, plan: { calls: [] } });
  });
  it('carry nothing round it, and say why', () => {
    const state = (hangs: Parameters<typeof magazine>[0], spindle: RoomTool | null = null) => {
      const { shape, pockets } = magazine(hangs);
      return { shape, at: null, spindle, pockets: pockets.map((each) => ({ ...each, usable: true })) };
    };
    const swapped = [null, 2, 1, null, null, null, null, null, null, null];
    expect(carry(state({ 1: room(1), 2: room(2) }), swapped)).toMatchObject({ ok: true, proven: true });
    expect(carry(state({ 1: room(1), 2: room(2, HEAVY) }), swapped)).toMatchObject({
      ok: false,
      proven: true,
      reason: expect.stringMatching(/must not take T2 in pocket 2/),
    });
    expect(
      carry(state({ 1: room(1), 2: room(2) }, room(9, UNDECLARED)), [9, ...swapped.slice(1)]),
    ).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/T9 in the spindle needs a pocket that is declared wide.* by hand first/),
    });
  });
  it('put nothing away that goes into no pocket', () => {
    expect(putAway(magazine({}, room(9)))).toBe(1);
    for (const noArm of [HEAVY, UNDECLARED]) expect(putAway(magazine({}, room(9, noArm)))).toBeNull();
  });
});

describe('a load plan and a tool that goes by hand only', () => {
  const state = (
    hangs: Readonly<Record<number, FoundTool>>,
    spindle: FoundTool | null = null,
    over: Readonly<Record<number, Partial<FoundState['pockets'][number]>>> = {},
    kind: ChangerKind = 'randomAccess',
  ): FoundState => ({
    shape: { kind, places: 9, pitch: 80 },
    spindle,
    pockets: Array.from({ length: 9 }, (_, i) => ({
      number: i + 1,
      wide: false,
      inService: true,
      reserved: false,
      content: hangs[i + 1] ?? null,
      ...over[i + 1],
    })),
  });
  const plan = (from: FoundState, aim: Wanted) => {
    const answer = loadPlan(from, aim);
    if (!answer.ok) throw new Error(answer.reason);
    return {
      held: answer.held.map(({ reason }) => reason),
      steps: answer.steps.map((step) =>
        step.act === 'call'
          ? `call ${step.pocket}`
          : step.act === 'unload'
            ? `unload T${step.tool.tool} of ${step.pocket}${step.comesBack ? ', back' : ''}`
            : step.act === 'measure'
              ? `measure T${step.tool.tool}`
              : `${step.act} T${step.wanted.tool}`,
      ),
    };
  };

  it('it comes out of the spindle by hand and is hung nowhere, whether the plan names it or not', () => {
    const spindle = found(8, { noArm: HEAVY });
    expect(plan(state({}, spindle), { tools: [wish(1, 1)], out: [] }).steps[0]).toBe('unload T8 of 0');
    const named = plan(state({}, spindle), { tools: [wish(8, 4), wish(1, 1)], out: [] });
    expect(named.steps).toEqual(['unload T8 of 0', 'load T1', 'measure T1', 'call 1']);
    expect(named.held).toEqual(['The changer must not take T8 (A-8): its mass is over.']);
  });
  it('it comes out of its pocket by hand; what is only wide may be called for that', () => {
    const standing = state({ 3: found(3, { noArm: HEAVY }), 6: found(6, { noArm: UNDECLARED }) });
    expect(plan(standing, { tools: [], out: [103, 106] }).steps).toEqual([
      'unload T3 of 3',
      'call 6',
      'unload T6 of 0',
    ]);
    const [byHand] = (
      loadPlan(standing, { tools: [], out: [103] }) as Extract<ReturnType<typeof loadPlan>, { ok: true }>
    ).steps;
    const said = stepWords(byHand!, {
      changer: 'randomAccess',
      pocket: 'pocket',
      end: '40-taper',
      knob: '',
      tips: new Map(),
      marks: new Map(),
      otherKnobs: new Map(),
    });
    expect(said.title).toBe('Take T3, A-3 a tool, out of pocket 3.');
    expect(said.confirm.join()).not.toMatch(/spindle/);
    expect(said.cautions.join()).toMatch(/must not carry .* secured against starting/);
  });
  it('it is carried to no other pocket, and no row of calls goes round it', () => {
    const standing = state({ 1: found(1, { noArm: HEAVY }), 2: found(2) });
    const moved = plan(standing, { tools: [wish(1, 5), wish(2, 7)], out: [] });
    expect(moved.held).toEqual(['The changer must not take T1 (A-1): its mass is over.']);
    expect(moved.steps).toEqual(['call 2', 'call 7']);
  });
  it('what may not be loaded waits with its reason, and all else goes on', () => {
    const kept = { loading: 'A-4 stands in Bittern.', pocket: null };
    const broken = plan(state({}), { tools: [wish(4, 4, { kept }), wish(5, 5)], out: [] });
    expect(broken).toEqual({ held: ['A-4 stands in Bittern.'], steps: ['load T5', 'measure T5', 'call 5'] });
    // one that stands where it is wanted is not loaded
    expect(plan(state({ 4: found(4) }), { tools: [wish(4, 4, { kept })], out: [] })).toEqual({
      held: [],
      steps: [],
    });
    // one that is only carried is not either, but where T n lives in pocket n it would be
    expect(plan(state({ 3: found(4) }), { tools: [wish(4, 4, { kept })], out: [] }).steps).toEqual([
      'call 3',
      'call 4',
    ]);
    expect(
      plan(state({ 3: found(3) }, null, {}, 'fixedCarousel'), {
        tools: [wish(4, 4, { kept, assemblyId: 103 })],
        out: [],
      }),
    ).toEqual({
      held: ['A-4 stands in Bittern.'],
      steps: [],
    });
    const shut = { loading: null, pocket: 'Pocket 4 is reserved.' };
    expect(plan(state({ 3: found(4) }), { tools: [wish(4, 4, { kept: shut })], out: [] })).toEqual({
      held: ['Pocket 4 is reserved.'],
      steps: [],
    });
  });
  it('a T that is tied to a pocket goes to no other, and no other goes there', () => {
    const tied = { 4: { wide: true, tied: 4 } };
    expect(plan(state({ 4: found(4) }, null, tied), { tools: [wish(4, 7)], out: [] }).held[0]).toMatch(
      /tied to pocket 4/,
    );
    expect(plan(state({}, null, tied), { tools: [wish(6, 4)], out: [] }).held[0]).toMatch(
      /declared wide for T4/,
    );
    // one that nobody names goes home, not into any empty pocket; and where home is broken it comes out
    expect(plan(state({}, found(4), tied), { tools: [wish(1, 1)], out: [] }).steps[0]).toBe('call 4');
    const broken = { 4: { ...tied[4], inService: false } };
    expect(plan(state({}, found(4), broken), { tools: [wish(1, 1)], out: [] }).steps[0]).toBe(
      'unload T4 of 0',
    );
    // a probe goes back to the pocket that is kept for it
    expect(
      plan(state({}, found(9, { home: 5 }), { 5: { reserved: true } }), { tools: [wish(1, 1)], out: [] })
        .steps[0],
    ).toBe('call 5');
  });
  it('where nothing is declared, nothing is hung beside one whose neighbours must be empty', () => {
    const standing = state({ 4: found(4, { alone: true }) }, null, {}, 'fixedCarousel');
    expect(plan(standing, { tools: [wish(5, 5), wish(7, 7)], out: [] })).toEqual({
      held: ['T4 (A-4) in pocket 4 is so wide that pocket 5 beside it must stay empty.'],
      steps: ['load T7', 'measure T7', 'call 7'],
    });
    // one in the spindle whose home is beside it comes out by hand
    const spindle = state({ 4: found(4, { alone: true }) }, found(3), {}, 'fixedCarousel');
    expect(plan(spindle, { tools: [], out: [] }).steps).toEqual(['unload T3 of 0']);
    expect(plan(state({ 4: found(4) }, found(3), {}, 'fixedCarousel'), { tools: [], out: [] }).steps).toEqual(
      ['call 3'],
    );
    expect(
      plan(state({ 4: found(4) }, found(3, { alone: true }), {}, 'fixedCarousel'), { tools: [], out: [] })
        .steps,
    ).toEqual(['unload T3 of 0']);
  });
  it('one that was built wider since the plan was made waits for room beside it, and holds up nothing else', () => {
    const aim = { tools: [wish(2, 4), wish(3, 5, { wide: true }), wish(6, 8)], out: [] };
    const { held, steps } = plan(state({ 4: found(2) }), aim);
    expect(held).toEqual(['T3 is wide, and T2 (A-2) is wanted beside pocket 5, in pocket 4.']);
    expect(steps).toEqual(['load T6', 'measure T6', 'call 8']);
  });
  it('a tool that is wanted wide in another pocket comes out, so that the pocket can be declared', () => {
    expect(plan(state({ 2: found(2) }), { tools: [wish(2, 6, { wide: true })], out: [] })).toEqual({
      held: [],
      steps: ['call 2', 'unload T2 of 0, back', 'declare T2', 'load T2', 'measure T2', 'call 6'],
    });
  });
});

describe('standing beside what must have its neighbours empty, where nothing is declared', () => {
  const asks = (over: Partial<StandingQuestion>): string | null =>
    standingRefusal({
      shape: { kind: 'fixedCarousel', places: 12, pitch: 80 },
      unit: 'mm',
      pockets: Array.from({ length: 12 }, (_, i) => ({
        number: i + 1,
        tool: null,
        wide: false,
        tied: null,
        inService: true,
        reserved: false,
        cell: null,
      })),
      pocket: 5,
      tool: 5,
      widest: nanometres(90_000_000),
      radius: 20,
      standing: new Map(),
      alone: new Set(),
      where: where('fits'),
      ...over,
    });
  it('the plate’s word holds both ways round the ring, though nothing would strike', () => {
    expect(asks({ where: where('neighboursEmpty') })).toBeNull();
    expect(asks({ where: where('neighboursEmpty'), standing: new Map([[7, 20]]) })).toBeNull();
    expect(asks({ where: where('neighboursEmpty'), standing: new Map([[6, 20]]) })).toMatch(
      /pocket 6: it is so/,
    );
    expect(asks({ standing: new Map([[4, 20]]), alone: new Set([4]) })).toMatch(/pocket 4 is so wide/);
    expect(asks({ pocket: 1, standing: new Map([[12, 20]]), alone: new Set([12]) })).toMatch(/pocket 12/);
    expect(asks({ standing: new Map([[7, 20]]), alone: new Set([7]) })).toBeNull();
  });
});
