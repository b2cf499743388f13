import { type ChangerKind } from './traits.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clashes } from './clearance.ts';
import { neighbours } from './neighbours.ts';
import { wideRefusals } from './wide.ts';
import { after, loadPlan, stepKey, type FoundState, type FoundTool, type LoadStep } from './load-plan.ts';
import { mayHang, otherPocket } from './load-held.ts';
import { stepWords, tipAsked } from './load-words.ts';
import type { Wanted, WantedTool } from './wanted.ts';
import { found, wish } from '../../../tests/support/found.ts';

const machine = (
  kind: ChangerKind,
  places: number,
  standing: Record<number, FoundTool>,
  spindle: FoundTool | null = null,
  wide: number[] = [],
): FoundState => ({
  shape: { kind, places, pitch: 80 },
  pockets: Array.from({ length: places }, (_, i) => ({
    number: i + 1,
    wide: wide.includes(i + 1),
    inService: true,
    reserved: false,
    content: standing[i + 1] ?? null,
  })),
  spindle,
});
const steps = (state: FoundState, wanted: Wanted): LoadStep[] => {
  const plan = loadPlan(state, wanted);
  if (!plan.ok) throw new Error(plan.reason);
  return plan.steps;
};
const short = (state: FoundState, wanted: Wanted) =>
  steps(state, wanted).map((step) =>
    step.act === 'call'
      ? `call ${step.pocket}`
      : step.act === 'unload' || step.act === 'measure'
        ? `${step.act} T${step.tool.tool}`
        : `${step.act} T${step.wanted.tool}`,
  );

/** Pairs of pockets whose tools strike each other. */
const strikes = ({ shape, pockets }: FoundState) =>
  clashes(
    shape,
    pockets.flatMap(({ number, content }) =>
      content?.radius ? [{ pocket: number, tool: content.tool, radius: content.radius, mass: null }] : [],
    ),
    0,
  ).map(({ a, b }) => `T${a.tool} T${b.tool}`);

describe('from what stands to what is wanted', () => {
  it('nothing to do where all is as wanted', () => {
    expect(steps(machine('randomAccess', 6, { 2: found(1) }), { tools: [wish(1, 2)], out: [] })).toEqual([]);
  });
  it('a new tool is loaded through the spindle, measured there, and put away', () => {
    expect(short(machine('randomAccess', 6, {}), { tools: [wish(1, 2)], out: [] })).toEqual([
      'load T1',
      'measure T1',
      'call 2',
    ]);
  });
  it('a tool in the spindle whose own pocket broke is taken out by hand, and one that nobody names goes where it may', () => {
    const broken = machine('fixedCarousel', 6, {}, found(4));
    const pockets = broken.pockets.map((each) => ({ ...each, inService: each.number !== 4 }));
    expect(short({ ...broken, pockets }, { tools: [wish(1, 1)], out: [] })[0]).toBe('unload T4');
    const random = machine('randomAccess', 6, {}, found(4));
    const table = random.pockets.map((each) => ({
      ...each,
      inService: each.number !== 1,
      reserved: each.number === 2,
    }));
    // 3 is wanted by the plan
    expect(short({ ...random, pockets: table }, { tools: [wish(1, 3)], out: [] })[0]).toBe('call 4');
  });
  it('what is taken out for another T comes back, and what goes for good does not', () => {
    const state = machine('randomAccess', 6, { 2: found(9), 3: found(2) });
    const comes = steps(state, { tools: [{ ...wish(2, 3), tool: 5 }], out: [109] }).flatMap((step) =>
      step.act === 'unload' ? [[step.tool.tool, step.comesBack]] : [],
    );
    expect(comes).toEqual([
      [9, false],
      [2, true],
    ]);
  });
  it('what goes out goes first: called to the spindle, then taken out by hand', () => {
    const state = machine('randomAccess', 6, { 2: found(9), 3: found(2) });
    expect(short(state, { tools: [wish(2, 3), wish(1, 2)], out: [109] })).toEqual([
      'call 2',
      'unload T9',
      'load T1',
      'measure T1',
      'call 2',
    ]);
  });
  it('room is made before a wide pocket is declared, and the wide tool is loaded before the others', () => {
    const state = machine('randomAccess', 8, { 3: found(2), 6: found(3) });
    expect(
      short(state, { tools: [wish(1, 4, { wide: true }), wish(2, 8), wish(3, 6), wish(5, 1)], out: [] }),
    ).toEqual([
      'call 3',
      'call 8',
      'declare T1',
      'load T1',
      'measure T1',
      'call 4',
      'load T5',
      'measure T5',
      'call 1',
    ]);
  });
  it('where T n lives in pocket n a tool that gets another T comes out and goes in again', () => {
    const state = machine('fixedCarousel', 6, { 2: found(2), 3: found(3) }, found(1));
    expect(
      short(state, { tools: [wish(1, 1), { ...wish(2, 3), tool: 3 }, { ...wish(3, 5), tool: 5 }], out: [] }),
    ).toEqual([
      'call 1',
      'call 2',
      'unload T2',
      'call 3',
      'unload T3',
      'load T3',
      'measure T3',
      'call 3',
      'load T5',
      'measure T5',
      'call 5',
    ]);
  });
  it('a tool that would hang beside one it strikes comes out by hand, and goes in when there is room', () => {
    // T1 and T2 are 100 mm across, pockets 80 mm apart: where T1 is to come, T2 still hangs beside
    const big = { radius: 50 };
    const state = machine('randomAccess', 10, { 1: found(1, big), 3: found(2, big), 6: found(3) });
    const wanted = { tools: [wish(1, 4, big), wish(2, 6, big), wish(3, 1)], out: [] };
    let now = state;
    for (const step of steps(state, wanted)) {
      now = after(now, step);
      expect(strikes(now)).toEqual([]);
    }
    expect(
      now.pockets.flatMap((each) => (each.content ? [`${each.number} T${each.content.tool}`] : [])),
    ).toEqual(['1 T3', '4 T1', '6 T2']);
  });
  it('a turret has no spindle to go through', () => {
    const state = machine('turret', 6, { 2: found(2) });
    const list = steps(state, { tools: [wish(4, 4)], out: [102] });
    expect(list.map((step) => `${step.act} ${'pocket' in step ? step.pocket : ''}`)).toEqual([
      'unload 2',
      'load 4',
      'measure 4',
    ]);
  });
  it('what must be built holds up nothing, and is told last', () => {
    const state = machine('randomAccess', 6, {});
    const wanted = { tools: [wish(1, 1, { assemblyId: null, number: '' }), wish(2, 2)], out: [] };
    expect(short(state, wanted)).toEqual(['load T2', 'measure T2', 'call 2', 'build T1']);
  });
  it('a tool that was found half way is measured and put away, not loaded again', () => {
    const state = machine('randomAccess', 6, {}, found(1, { measured: false }));
    expect(short(state, { tools: [wish(1, 2)], out: [] })).toEqual(['measure T1', 'call 2']);
  });
  const waiting = (state: FoundState, wanted: Wanted) => {
    const plan = loadPlan(state, wanted);
    if (!plan.ok) throw new Error(plan.reason);
    return plan.held.map((each) => `T${each.wanted.tool}: ${each.reason}`);
  };
  it('a tool waits with its reason when a stranger stands in the way', () => {
    const stranger = machine('fixedCarousel', 6, { 1: found(1, { assemblyId: 999, number: 'X-9' }) });
    expect(waiting(stranger, { tools: [wish(1, 1)], out: [] })).toEqual([
      expect.stringMatching(/^T1: T1 \(X-9\) stands in pocket 1/),
    ]);
    const elsewhere = machine('randomAccess', 6, { 4: found(1, { assemblyId: 999, number: 'X-9' }) });
    expect(waiting(elsewhere, { tools: [wish(1, 1)], out: [] })).toEqual([
      expect.stringMatching(/^T1: T1 .* as X-9/),
    ]);
  });
  it('a pocket that breaks while the plan is open holds up its own tool only, and makes no circles', () => {
    for (const kind of ['fixedCarousel', 'randomAccess'] as const) {
      const whole = machine(kind, 24, {});
      const broken = {
        ...whole,
        pockets: whole.pockets.map((each) => ({ ...each, inService: each.number !== 4 })),
      };
      const wanted = { tools: [wish(1, 1), wish(4, 4), wish(9, 9)], out: [] };
      expect(waiting(broken, wanted)).toEqual(['T4: Pocket 4 is out of service.']);
      expect(short(broken, wanted)).toEqual([
        'load T1',
        'measure T1',
        'call 1',
        'load T9',
        'measure T9',
        'call 9',
      ]);
    }
  });
  it('a stranger put beside a wanted pocket holds up only what it would be struck by', () => {
    const state = machine('randomAccess', 24, { 5: found(77, { radius: 50 }) });
    const wanted = { tools: [wish(1, 1), wish(2, 4), wish(3, 9)], out: [] };
    expect(waiting(state, wanted)).toEqual([expect.stringMatching(/^T2: T2 in pocket 4 would strike T77/)]);
    expect(short(state, wanted).filter((each) => each.startsWith('load'))).toEqual(['load T1', 'load T3']);
  });
  it('the pocket at the spindle is not declared: another is called first', () => {
    const state = { ...machine('randomAccess', 8, {}), at: 4 };
    const row = short(state, { tools: [wish(1, 4, { wide: true })], out: [] });
    expect(row.slice(0, 2)).toEqual(['call 1', 'declare T1']);
  });
  it('another pocket for a tool that waits: the nearest where nothing stands, is wanted or would strike', () => {
    const whole = machine('randomAccess', 12, { 5: found(77), 3: found(78, { radius: 55 }) });
    const wanted = { tools: [wish(2, 4), wish(3, 6)], out: [] };
    // 3 and 5 hold something, 6 is wanted, 2 is beside the broad T78
    expect(otherPocket(whole, wanted, wanted.tools[0]!)).toBe(1);
    expect(otherPocket(machine('fixedCarousel', 12, {}), wanted, wanted.tools[0]!)).toBeNull();
  });
  it('a tool of any size hangs neither beside a wide pocket nor, in that, beside another tool', () => {
    const beside = (standing: Record<number, FoundTool>) =>
      [4, 5, 6, 7, 8].filter((pocket) =>
        mayHang(machine('randomAccess', 12, standing, null, [6]), pocket, found(9, { radius: null })),
      );
    expect(beside({})).toEqual([4, 6, 8]);
    expect(beside({ 7: found(7, { radius: null }) })).toEqual([4, 8]);
    expect(beside({ 5: found(5, { radius: null }) })).toEqual([4, 8]);
    expect(beside({ 4: found(4), 8: found(8) })).toEqual([4, 6, 8]);
  });
  it('tools are carried round what they would strike, in the fewest calls; none is taken out by hand for nothing', () => {
    // T1 and T2, both broad, change places: by the shortest row one would hang beside the other on the way
    const state = machine('randomAccess', 6, { 1: found(1, { radius: 48 }), 3: found(2, { radius: 48 }) });
    const row = short(state, {
      tools: [wish(1, 3, { radius: 48 }), wish(2, 1, { radius: 48 })],
      out: [],
    });
    expect(row.every((each) => each.startsWith('call'))).toBe(true);
  });
  it('a stranger in the spindle is put where the plan wants nothing', () => {
    const state = machine('randomAccess', 4, { 1: found(2) }, found(8));
    expect(short(state, { tools: [wish(2, 1), wish(3, 2)], out: [] })).toEqual([
      'call 3',
      'load T3',
      'measure T3',
      'call 2',
    ]);
  });
});

describe('any plan, from any state', () => {
  const kinds = ['randomAccess', 'chain', 'fixedCarousel', 'rack', 'turret'] as const;
  /** A state and a wish over twelve pockets, wide tools with their neighbours empty in the wish. */
  const cases = fc
    .record({
      kind: fc.constantFrom(...kinds),
      now: fc.shuffledSubarray([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12], { minLength: 0, maxLength: 9 }),
      then: fc.shuffledSubarray([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12], { minLength: 0, maxLength: 9 }),
      spindle: fc.boolean(),
      wide: fc.boolean(),
      large: fc.constantFrom(31, 48),
    })
    .map(({ kind, now, then, spindle, wide, large }) => {
      const random = kind === 'randomAccess' || kind === 'chain';
      const standing: Record<number, FoundTool> = {};
      now.forEach((pocket, i) => {
        const tool = random ? i + 1 : pocket;
        standing[pocket] = found(tool, {
          assemblyId: 200 + i,
          measured: i % 3 !== 0,
          radius: i % 4 === 0 ? large : 31,
        });
      });
      const inSpindle = kind !== 'turret' && spindle && now.length > 0 ? (standing[now[0]!] ?? null) : null;
      const state = machine(
        kind,
        12,
        Object.fromEntries(Object.entries(standing).filter(([, each]) => each !== inSpindle)),
        inSpindle,
      );
      const beside = neighbours(state.shape);
      const tools: WantedTool[] = [];
      then.forEach((pocket, i) => {
        const blocked = tools.some(
          (each) =>
            (each.wide || each.radius! + (i % 4 === 0 ? large : 31) > 79) &&
            beside.get(each.pocket)!.includes(pocket),
        );
        const isWide = wide && random && i === 0 && now.length < 6;
        // the wide one is always new
        const id = isWide ? 900 : 200 + i;
        if (!blocked)
          tools.push(
            wish(random ? (isWide ? 90 : i + 1) : pocket, pocket, {
              assemblyId: id,
              wide: isWide,
              radius: !isWide && i % 4 === 0 ? large : 31,
            }),
          );
      });
      const kept = new Set(tools.map((each) => each.assemblyId));
      const out = Object.values(standing)
        .filter((each) => !kept.has(each.assemblyId))
        .map((each) => each.assemblyId);
      return { state, wanted: { tools, out } };
    });

  it('ends with everything as wanted and measured, and no step breaks a rule on the way', () => {
    fc.assert(
      fc.property(cases, ({ state, wanted }) => {
        let now = state;
        for (const step of steps(state, wanted)) {
          if (step.act === 'load')
            expect(step.pocket === 0 ? now.spindle : now.pockets[step.pocket - 1]!.content).toBeNull();
          if (step.act === 'call' && !['randomAccess', 'chain'].includes(state.shape.kind) && step.puts)
            expect(step.puts.tool).toBe(step.pocket);
          if (step.act === 'declare')
            expect(
              wideRefusals({
                shape: now.shape,
                pockets: now.pockets.map((each) => ({
                  ...each,
                  tool: each.content?.tool ?? null,
                  tied: null,
                  inService: true,
                  reserved: false,
                })),
                pocket: step.pocket,
                tool: step.wanted.tool,
                atSpindle: null,
                spindleTool: now.spindle?.tool ?? null,
                highestTool: 200,
                seenEmpty: true,
              }),
            ).toEqual([]);
          const struck = strikes(now).length;
          now = after(now, step);
          // what hangs wrong at the beginning hangs wrong until it is moved; nothing is made worse
          if (step.act === 'call') expect(strikes(now).length).toBeLessThanOrEqual(struck);
          const there = [now.spindle, ...now.pockets.map((each) => each.content)].flatMap(
            (each) => each ?? [],
          );
          expect(new Set(there.map((each) => each.assemblyId)).size).toBe(there.length);
          expect(new Set(there.map((each) => each.tool)).size).toBe(there.length);
        }
        expect(now.spindle).toBeNull();
        expect(
          now.pockets.flatMap((each) =>
            each.content
              ? [`${each.number} T${each.content.tool} ${each.content.assemblyId} ${each.content.measured}`]
              : [],
          ),
        ).toEqual(
          [...wanted.tools]
            .sort((a, b) => a.pocket - b.pocket)
            .map((each) => `${each.pocket} T${each.tool} ${each.assemblyId} true`),
        );
      }),
      { numRuns: 400 },
    );
  });
  it('asked again after each step it goes on as it said', () => {
    fc.assert(
      fc.property(cases, ({ state, wanted }) => {
        let now = state;
        let list = steps(now, wanted);
        while (list.length > 0) {
          now = after(now, list[0]!);
          const again = steps(now, wanted);
          expect(again.map(stepKey)).toEqual(list.slice(1).map(stepKey));
          list = again;
        }
      }),
      { numRuns: 400 },
    );
  });
});

describe('what a step says', () => {
  const place = {
    changer: 'randomAccess' as const,
    pocket: 'pocket',
    end: '40-taper',
    knob: 'K-45',
    tips: new Map([[5, tipAsked('O2301', 300, 'X+')]]),
    marks: new Map([[77, 'to the door']]),
    otherKnobs: new Map([[104, 'K-60']]),
  };
  const words = (step: LoadStep) => stepWords(step, place);
  it('a call is confirmed by what the control shows, and not hurried', () => {
    const { title, confirm, cautions } = words({
      act: 'call',
      pocket: 4,
      puts: found(1),
      takes: found(2),
      why: 'makeRoom',
    });
    expect(title).toBe('Call pocket 4: T1 goes into pocket 4, T2 comes to the spindle.');
    expect(confirm).toEqual(['The control shows T2']);
    expect(cautions.join()).toMatch(/hurrying jams the changer/);
  });
  it('loading asks for taper, knob and keys, and shows the cautions of the hand (H6)', () => {
    const { confirm, cautions } = words({ act: 'load', pocket: 0, wanted: wish(3, 4) });
    expect(confirm.join()).toMatch(/spindle is empty.*wiped.*40-taper.*K-45.*keys are seated/);
    expect(cautions.join()).toMatch(/below the flange.*air blast.*too low.*manual/);
  });
  it('a boring bar’s tip and a probe’s mark are confirmed by the one who loads (H10)', () => {
    const bar = words({ act: 'load', pocket: 0, wanted: wish(3, 4, { orientation: 'tip' }) });
    expect(bar.confirm.join()).toMatch(/tip faces the way .* you answer for it/);
    const probe = words({ act: 'load', pocket: 0, wanted: wish(3, 4, { orientation: 'probe' }) });
    expect(probe.confirm.join()).toMatch(/half a turn round doubles its error/);
    // nobody said which way, so nothing is written down of it
    expect([bar.turned, probe.turned]).toEqual([undefined, undefined]);
  });
  it('where a program or a calibration says which way, that is confirmed, and written down', () => {
    const bar = words({ act: 'load', pocket: 0, wanted: wish(5, 4, { orientation: 'tip' }) });
    expect([bar.confirm.filter((each) => each.includes('tip points X−')).length, bar.turned]).toEqual([
      1,
      'X-',
    ]);
    const probe = words({
      act: 'load',
      pocket: 0,
      wanted: wish(6, 4, { orientation: 'probe', assemblyId: 77 }),
    });
    expect(probe.confirm.join()).toMatch(/calibrated here \(to the door\)/);
    expect(probe.turned).toBe('mark');
  });
  it('another knob on record than the machine needs is confirmed as changed (H3)', () => {
    const knob = (tool: number) =>
      words({ act: 'load', pocket: 0, wanted: wish(tool, 4) }).confirm.filter((each) => /knob/.test(each));
    expect(knob(3)).toEqual(['The retention knob is K-45, tight, and right for this machine']);
    expect(knob(4)).toEqual([
      'The retention knob was changed: it is K-45 now, tight, and not K-60, which is on record',
    ]);
  });
  it('a pocket is declared only when somebody looked into the magazine (H5)', () => {
    expect(words({ act: 'declare', pocket: 4, wanted: wish(3, 4) }).confirm[0]).toMatch(/empty in the metal/);
  });
  it('a turret’s station asks for no knob and no spindle', () => {
    const { confirm } = stepWords(
      { act: 'load', pocket: 3, wanted: wish(3, 3) },
      {
        changer: 'turret',
        pocket: 'station',
        end: '25 mm square shank',
        knob: '',
        tips: new Map(),
        marks: new Map(),
        otherKnobs: new Map(),
      },
    );
    expect(confirm.join()).not.toMatch(/knob|spindle/);
    expect(confirm).toHaveLength(2);
  });
});
