import fc from 'fast-check';
import { expect, it } from 'vitest';
import { groupDid } from './group-did.ts';
import { NEXT_RULES, playGroup, type GroupMember, type GroupRules } from './group.ts';

const member = (tool: number, remaining: number): GroupMember => ({
  tool,
  role: 'original',
  life: { basis: 'holes', remaining, limit: 200 },
  flag: null,
  use: { holes: 6, cutMilliseconds: 0, parts: 1 },
});

it('a control that goes by its rule is found to have done as foretold; one that goes by another is found out wherever that shows', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 2, maxLength: 4 }),
      fc.constantFrom(...NEXT_RULES),
      fc.constantFrom(...NEXT_RULES),
      fc.integer({ min: 0, max: 30 }),
      fc.constantFrom('atZero' as const, 'belowZero' as const),
      (lives, rule, truth, parts, expiry) => {
        const members = lives.map((left, i) => member(i + 1, left));
        const by = (next: GroupRules['next']): GroupRules => ({ next, renewed: 'spareRuns', spares: true });
        // the control, by the rule that it really has
        const cut = new Map(members.map(({ tool }) => [tool, 0]));
        for (const { tool, from, to } of playGroup(by(truth), members, null, parts).runs)
          cut.set(tool, cut.get(tool)! + 6 * (to - from + 1));
        const shown = new Map(
          members.map(({ tool, life }) => [
            tool,
            life!.remaining - cut.get(tool)! - (expiry === 'belowZero' ? 1 : 0),
          ]),
        );
        const told = groupDid({ rules: by(rule), members, inUse: null, parts, shown, expiry });
        const foretold = new Map(members.map(({ tool }) => [tool, 0]));
        for (const { tool, from, to } of playGroup(by(rule), members, null, parts).runs)
          foretold.set(tool, foretold.get(tool)! + 6 * (to - from + 1));
        const same = members.every(({ tool }) => foretold.get(tool) === cut.get(tool));
        expect(told.told).toBe(same ? 'asForetold' : 'otherwise');
        if (told.told === 'otherwise')
          expect(told.members).toEqual(
            members.map(({ tool }) => ({ tool, foretold: foretold.get(tool), took: cut.get(tool) })),
          );
      },
    ),
  );
});

it('where a counter is not shown nobody can tell', () => {
  const rules: GroupRules = { next: 'lowest', renewed: 'atOnce', spares: true };
  const asked = {
    rules,
    members: [member(1, 30), member(2, 60)],
    inUse: 1,
    parts: 2,
    expiry: 'atZero' as const,
  };
  expect(groupDid({ ...asked, shown: new Map([[1, 18]]) })).toEqual({ told: 'cannotTell' });
  expect(groupDid({ ...asked, members: [], shown: new Map() })).toEqual({ told: 'cannotTell' });
  expect(
    groupDid({
      ...asked,
      shown: new Map([
        [1, 18],
        [2, 60],
      ]),
    }),
  ).toEqual({ told: 'asForetold' });
  expect(
    groupDid({
      ...asked,
      shown: new Map([
        [1, 30],
        [2, 48],
      ]),
    }),
  ).toMatchObject({
    told: 'otherwise',
    members: [
      { tool: 1, foretold: 12, took: 0 },
      { tool: 2, foretold: 0, took: 12 },
    ],
  });
});

it('minutes agree to the tenth that a control shows', () => {
  const minutes: GroupMember = {
    ...member(1, 0),
    life: { basis: 'minutes', remaining: 600_000, limit: 900_000 },
    use: { holes: 0, cutMilliseconds: 61_000, parts: 1 },
  };
  const rules: GroupRules = { next: 'lowest', renewed: 'atOnce', spares: true };
  const told = (shown: number) =>
    groupDid({
      rules,
      members: [minutes],
      inUse: 1,
      parts: 1,
      shown: new Map([[1, shown]]),
      expiry: 'belowZero',
    }).told;
  expect([told(539_000), told(534_000), told(540_000), told(520_000)]).toEqual([
    'asForetold',
    'asForetold',
    'asForetold',
    'otherwise',
  ]);
});
