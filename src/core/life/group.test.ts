import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { groupParts, memberInUse, playGroup, type GroupMember, type GroupRules } from './group.ts';

/*
 * A control, part by part and unit by unit, written apart from the rule: at each part it looks whether the one in use may still cut,
 * takes another if not, cuts, and counts (H11; common practice, no source).
 */
function control(rules: GroupRules, members: readonly GroupMember[], inUse: number | null, parts: number) {
  const state = members.map((each) => ({ ...each, left: each.life?.remaining ?? Infinity }));
  const dead = (each: (typeof state)[number]) => each.flag !== null || each.fresh || each.left <= 0;
  const cut: number[] = [];
  let spindle = state.find(({ tool }) => tool === inUse) ?? null;
  const stop = (why: string) => ({ cut, why });
  if (state.length === 0) return stop('empty');
  for (let part = 0; part < parts; part += 1) {
    if (state.some(({ flag }) => flag === 'broken')) return stop('broken');
    if (state.some((each) => each.alone && (each.flag !== null || each.left <= 0))) return stop('ownCall');
    if (spindle && dead(spindle)) {
      if (!rules.spares) return stop('noSpare');
      spindle = null;
    }
    const pick = (from: typeof state) => {
      const living = from.filter((each) => !dead(each));
      const key = (each: (typeof state)[number]) => {
        const spent = each.life ? each.life.limit - each.left : 0;
        return rules.next === 'lowest' ? 0 : rules.next === 'mostUsed' ? -spent : spent;
      };
      let best: (typeof state)[number] | null = null;
      for (const each of living)
        if (!best || key(each) < key(best) || (key(each) === key(best) && each.tool < best.tool)) best = each;
      return best;
    };
    if (!spindle) spindle = pick(state);
    else if (rules.renewed === 'atOnce' && spindle.role === 'spare' && part === 0)
      spindle = pick(state.filter(({ role }) => role === 'original')) ?? spindle;
    if (!spindle) return stop('out');
    cut.push(spindle.tool);
    for (const each of state) {
      const calls = [...(each === spindle ? [each.use] : []), ...(each.alone ? [each.alone] : [])];
      const { basis } = each.life ?? { basis: 'pieces' as const };
      // a part is a part, however often it calls the tool; holes and minutes come together
      if (basis === 'pieces') each.left -= calls.length > 0 ? 1 : 0;
      else
        for (const use of calls)
          each.left -= (basis === 'holes' ? use.holes : use.cutMilliseconds) / use.parts;
    }
  }
  return stop('');
}

// a part takes whole units, or halves of them: nothing that binary fractions cannot say
const cycle = (least: number) =>
  fc.record({
    holes: fc.integer({ min: least, max: 6 }),
    cutMilliseconds: fc.integer({ min: least, max: 6 }),
    parts: fc.constant(1),
  });
const member = fc.record({
  role: fc.constantFrom('original' as const, 'spare' as const),
  life: fc.option(
    fc.record({
      basis: fc.constantFrom('pieces' as const, 'holes' as const, 'minutes' as const),
      remaining: fc.integer({ min: -2, max: 14 }),
      limit: fc.integer({ min: 14, max: 20 }),
    }),
    { freq: 8, nil: null },
  ),
  flag: fc.constantFrom(
    null,
    null,
    null,
    null,
    null,
    null,
    null,
    'expired' as const,
    'locked' as const,
    'broken' as const,
  ),
  fresh: fc.constantFrom(false, false, false, true),
  use: cycle(1),
  alone: fc.option(cycle(0), { freq: 3, nil: null }),
});
const rules = fc.record({
  next: fc.constantFrom('lowest' as const, 'mostUsed' as const, 'leastUsed' as const),
  renewed: fc.constantFrom('atOnce' as const, 'spareRuns' as const),
  spares: fc.boolean(),
});
const shuffled = fc
  .tuple(fc.array(member, { maxLength: 5 }), fc.constantFrom(1, 2))
  .chain(([members, parts]) =>
    fc
      .shuffledSubarray([1, 5, 9, 21, 25], { minLength: members.length, maxLength: members.length })
      .map((tools) =>
        members.map((each, i): GroupMember => ({
          ...each,
          tool: tools[i]!,
          use: { ...each.use, parts },
          alone: each.alone && { ...each.alone, parts },
        })),
      ),
  );
const cutBy = (runs: { tool: number; from: number; to: number }[]) =>
  runs.flatMap(({ tool, from, to }) => Array.from({ length: to - from + 1 }, () => tool));

describe('a group of sisters, held against a control that is played part by part', () => {
  it('which member cuts each part, when the machine stops and why', () => {
    fc.assert(
      fc.property(rules, shuffled, fc.nat(4), fc.integer({ min: 0, max: 40 }), (rule, members, at, parts) => {
        const inUse = members[at]?.tool ?? null;
        const played = playGroup(rule, members, inUse, parts);
        const really = control(rule, members, inUse, parts);
        if (parts === 0) return;
        expect(cutBy(played.runs)).toEqual(really.cut);
        expect(played.why ?? '').toBe(really.why);
        expect(played.stopsAfter).toBe(really.why === '' ? null : really.cut.length);
        expect(groupParts(rule, members, inUse)).toBe(
          playGroup(rule, members, inUse, Infinity).stopsAfter ?? Infinity,
        );
      }),
      { numRuns: 4000 },
    );
  });
  it('a run is said to expire where nothing is left of it, and only there', () => {
    fc.assert(
      fc.property(rules, shuffled, fc.integer({ min: 1, max: 40 }), (rule, members, parts) => {
        for (const { tool, from, to, expires } of playGroup(rule, members, null, parts).runs) {
          const { life, use, alone } = members.find((each) => each.tool === tool)!;
          const picked = to - from + 1;
          const per = (each: typeof use) =>
            (life?.basis === 'holes' ? each.holes : each.cutMilliseconds) / each.parts;
          const worn =
            life?.basis === 'pieces'
              ? alone
                ? to
                : picked
              : picked * per(use) + (alone ? to * per(alone) : 0);
          expect(expires).toBe(life !== null && life.remaining <= worn);
        }
      }),
      { numRuns: 1000 },
    );
  });
});

const one = (tool: number, remaining: number, over: Partial<GroupMember> = {}): GroupMember => ({
  tool,
  role: 'original',
  life: { basis: 'pieces', remaining, limit: 10 },
  flag: null,
  use: { holes: 0, cutMilliseconds: 0, parts: 1 },
  ...over,
});
const lowest: GroupRules = { next: 'lowest', renewed: 'atOnce', spares: true };

describe('what the handbook says of groups (H11, H12)', () => {
  it('expired, the next is taken at the next call, silently; when the whole group is out the machine stops', () => {
    expect(playGroup(lowest, [one(5, 3), one(25, 4)], 5, 10)).toEqual({
      runs: [
        { tool: 5, from: 1, to: 3, expires: true },
        { tool: 25, from: 4, to: 7, expires: true },
      ],
      stopsAfter: 7,
      why: 'out',
    });
  });
  it('without spares it stops with an alarm', () =>
    expect(playGroup({ ...lowest, spares: false }, [one(5, 3), one(25, 4)], 5, 10)).toMatchObject({
      stopsAfter: 3,
      why: 'noSpare',
    }));
  it('a tool that expires in the cut finishes its part', () => {
    const drill = one(5, 10, {
      life: { basis: 'holes', remaining: 10, limit: 100 },
      use: { holes: 4, cutMilliseconds: 0, parts: 1 },
    });
    expect(playGroup(lowest, [drill], 5, 10)).toMatchObject({ stopsAfter: 3 });
  });
  it('a broken one: no sister takes over', () =>
    expect(playGroup(lowest, [one(5, 3, { flag: 'broken' }), one(25, 4)], 5, 1)).toEqual({
      runs: [],
      stopsAfter: 0,
      why: 'broken',
    }));
  it('a renewed original takes its place back, or waits until the spare has expired', () => {
    const members = [one(5, 10), one(25, 4, { role: 'spare' })];
    expect(memberInUse(lowest, members, 25)?.tool).toBe(5);
    expect(memberInUse({ ...lowest, renewed: 'spareRuns' }, members, 25)?.tool).toBe(25);
    // one that the control has not taken up yet is not there
    expect(memberInUse(lowest, [one(5, 10, { fresh: true }), members[1]!], 25)?.tool).toBe(25);
  });
  it('an empty group stops before its first part', () =>
    expect(playGroup(lowest, [], null, 1)).toEqual({ runs: [], stopsAfter: 0, why: 'empty' }));
});
