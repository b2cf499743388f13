import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lengthOf, nanometres, type Length } from '../units/length.ts';
import { proposeCheck as propose, type CheckedTool } from './check-proposal.ts';
import { judgeCheck, type CheckQuestion } from './check-verdict.ts';
import { partsIn, suspectParts, type CountedParts, type LastGood } from './suspect-parts.ts';
import { uncertaintyOf, usualLimits } from './tool-check.ts';
import { followsInHole, laterCuts, whatToInspect } from './what-to-inspect.ts';

const mm = (value: number): Length => lengthOf(value, 'mm');
const proposeCheck = (tool: CheckedTool) => propose(tool, (length) => `${length / 1e6} mm`);

describe('which tools are checked', () => {
  const tool = (over: Partial<CheckedTool>): CheckedTool => ({
    kind: 'drill',
    diameter: mm(10),
    stickOut: mm(40),
    history: { ends: 0, sudden: 0 },
    opensFor: null,
    ...over,
  });
  it('small drills, taps, small end mills and long slender ones are; large cutters are not (H12)', () => {
    expect(proposeCheck(tool({ diameter: mm(5) })).moment).toBe('after');
    expect(proposeCheck(tool({ diameter: mm(6) })).moment).toBe('after');
    expect(proposeCheck(tool({ diameter: mm(6.1), stickOut: mm(30) })).moment).toBe('none');
    expect(proposeCheck(tool({ diameter: mm(3) })).moment).toBe('both');
    expect(proposeCheck(tool({ kind: 'tap', diameter: mm(12) })).moment).toBe('after');
    expect(proposeCheck(tool({ kind: 'endMill', diameter: mm(4), stickOut: mm(12) })).moment).toBe('after');
    expect(proposeCheck(tool({ kind: 'endMill', diameter: mm(10), stickOut: mm(60) })).moment).toBe('after');
    expect(proposeCheck(tool({ kind: 'endMill', diameter: mm(10), stickOut: mm(100) })).moment).toBe('both');
    for (const kind of ['faceMill', 'boringBar', 'probe', 'turning', 'chamferMill'] as const)
      expect(proposeCheck(tool({ kind, diameter: mm(5), stickOut: mm(80) })).moment).toBe('none');
  });
  it('what earlier edges did outweighs the kind, either way up', () => {
    const history = (ends: number, sudden: number) =>
      proposeCheck(tool({ kind: 'faceMill', diameter: mm(63), history: { ends, sudden } })).moment;
    expect(history(37, 1)).toBe('none');
    expect(history(20, 1)).toBe('after');
    expect(history(37, 4)).toBe('after');
    expect(history(13, 2)).toBe('both');
    // one of one is not a habit
    expect(history(1, 1)).toBe('after');
  });
  it('a drill that a tap follows is checked before the tap goes in, and each reason is said', () => {
    expect(
      proposeCheck(
        tool({ diameter: mm(8.5), stickOut: mm(61), opensFor: 10, history: { ends: 20, sudden: 2 } }),
      ),
    ).toEqual({
      moment: 'after',
      method: 'setter',
      reasons: [
        '2 of 20 edges chipped or broke',
        'it stands out by 7 times its diameter',
        'T10 would go into what it did not open',
      ],
    });
    expect(proposeCheck(tool({ opensFor: 8 })).moment).toBe('after');
  });
  it('a small one says its size in the unit of its machine', () => {
    expect(propose(tool({ diameter: mm(5.105) }), () => '0.2010 in').reasons).toContain(
      'it is only 0.2010 in across',
    );
  });
  it('what is too fine to be touched is proposed for light', () => {
    expect(proposeCheck(tool({ kind: 'endMill', diameter: mm(1.4), stickOut: mm(4) }))).toMatchObject({
      moment: 'both',
      method: 'laser',
    });
    expect(proposeCheck(tool({ kind: 'endMill', diameter: mm(1.5), stickOut: mm(4) })).method).toBe('setter');
  });
});

describe('what a length says of a tool that has cut', () => {
  const asked = (over: Partial<CheckQuestion>): CheckQuestion => ({
    method: 'setter',
    limits: { short: mm(0.05), long: mm(0.05) },
    stickOut: mm(58),
    reference: mm(138.114),
    measured: mm(138.114),
    others: [],
    ...over,
  });
  const by = (change: number, over: Partial<CheckQuestion> = {}) =>
    judgeCheck(asked({ measured: mm(138.114 + change), ...over })).verdict;

  it('too short is broken, too long is pulling out of its holder (H12)', () => {
    expect(by(0)).toBe('asExpected');
    expect(by(-0.03)).toBe('asExpected');
    expect(by(-6.2)).toBe('broken');
    expect(by(-0.07)).toBe('broken');
    expect(by(0.07)).toBe('pullingOut');
    expect(by(1.2)).toBe('pullingOut');
  });
  it('each side has its own limit', () => {
    const limits = { short: mm(0.2), long: mm(0.03) };
    expect(by(-0.1, { limits })).toBe('asExpected');
    expect(by(0.1, { limits })).toBe('pullingOut');
  });
  it('round a limit, as far as the check is unsure, nobody can tell', () => {
    for (const change of [-0.055, -0.045, 0.045, 0.055]) expect(by(change)).toBe('cannotTell');
    expect(judgeCheck(asked({ measured: mm(138.064) }))).toMatchObject({
      doubt: 'atTheLimit',
      change: mm(-0.05),
    });
    // light is twice as sure
    expect(by(-0.056, { method: 'laser' })).toBe('broken');
  });
  it('a picture sees a fifth of the length and no less (H12)', () => {
    const limits = usualLimits('picture', mm(58));
    expect(limits.short).toBe(mm(11.6));
    expect(by(-3, { method: 'picture', limits })).toBe('asExpected');
    expect(by(-11, { method: 'picture', limits })).toBe('cannotTell');
    expect(by(-20, { method: 'picture', limits })).toBe('broken');
  });
  it('without a length from before it cut nothing can be told', () => {
    expect(judgeCheck(asked({ reference: null }))).toEqual({
      verdict: 'cannotTell',
      change: null,
      doubt: 'noReference',
      tool: null,
    });
  });
  it('a slip of whoever measured is named and nothing is concluded from it', () => {
    const doubt = (over: Partial<CheckQuestion>) => judgeCheck(asked(over));
    expect(doubt({ measured: mm(130.046), others: [{ tool: 6, length: mm(130.045) }] })).toMatchObject({
      verdict: 'cannotTell',
      doubt: 'anotherTool',
      tool: 6,
    });
    expect(doubt({ measured: mm(-138.114) }).doubt).toBe('signTurned');
    expect(doubt({ measured: mm(138.114 / 25.4) }).doubt).toBe('otherUnit');
    expect(doubt({ measured: mm(138.114 + 9) }).doubt).toBe('farTooLong');
    expect(doubt({ measured: mm(138.114 - 70) }).doubt).toBe('farTooShort');
    // near its own length it is its own, whoever else is as long
    expect(doubt({ measured: mm(138.014), others: [{ tool: 6, length: mm(138.014) }] }).verdict).toBe(
      'broken',
    );
  });
  it('a hidden truth: beyond twice the uncertainty of the limit nothing broken passes and nothing whole is called broken', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.constantFrom('setter' as const, 'laser' as const),
        (truth, noise, method) => {
          const limits = usualLimits(method, mm(58));
          const off = uncertaintyOf(method, mm(58));
          const change = truth * 4 * limits.short;
          const measured = nanometres(Math.round(mm(138.114) + change + noise * off));
          const { verdict } = judgeCheck(asked({ method, limits, measured }));
          const gone = Math.abs(change) > limits.short + 2 * off + 1;
          const whole = Math.abs(change) < limits.short - 2 * off - 1;
          if (gone) expect(verdict).toBe(change < 0 ? 'broken' : 'pullingOut');
          if (whole) expect(verdict).toBe('asExpected');
        },
      ),
    );
  });
});

describe('parts since the last good check', () => {
  it('in the job that ran at the check the part number decides, elsewhere when it was counted', () => {
    const counts = [
      { job: 1, from: 1, to: 10, at: 100 },
      { job: 1, from: 11, to: 20, at: 300 },
      { job: 2, from: 1, to: 4, at: 400 },
    ];
    const lastGood = { at: 200, job: 1, afterPart: 14 };
    expect(suspectParts({ lastGood, counts, found: { job: 2, part: 6 } })).toEqual([
      { job: 1, from: 15, to: 20 },
      { job: 2, from: 1, to: 6 },
    ]);
    expect(
      suspectParts({ lastGood: { ...lastGood, job: null, afterPart: null }, counts, found: null }),
    ).toEqual([
      { job: 1, from: 11, to: 20 },
      { job: 2, from: 1, to: 4 },
    ]);
    expect(partsIn(suspectParts({ lastGood: null, counts, found: null }))).toBe(24);
    // a job that was left and taken up again lies on both sides of the other
    const taken = [...counts, { job: 1, from: 21, to: 22, at: 500 }];
    expect(suspectParts({ lastGood, counts: taken, found: { job: 1, part: 23 } })).toEqual([
      { job: 1, from: 15, to: 20 },
      { job: 2, from: 1, to: 4 },
      { job: 1, from: 21, to: 23 },
    ]);
    // counted out before the part that is in the machine was found
    expect(
      suspectParts({ lastGood: { at: 500, job: 2, afterPart: 4 }, counts, found: { job: 2, part: 5 } }),
    ).toEqual([{ job: 2, from: 5, to: 5 }]);
  });
  it('a hidden truth: no part that was cut after the check is ever left out, none before it is suspect where its number was noted', () => {
    const steps = fc.array(
      fc.oneof(
        { weight: 6, arbitrary: fc.constant('cut' as const) },
        { weight: 2, arbitrary: fc.constant('count' as const) },
        { weight: 1, arbitrary: fc.constant('check' as const) },
        { weight: 1, arbitrary: fc.constant('checkUnnumbered' as const) },
        { weight: 1, arbitrary: fc.constant('otherJob' as const) },
      ),
      { minLength: 1, maxLength: 60 },
    );
    fc.assert(
      fc.property(steps, (events) => {
        let job = 1;
        const made = new Map<number, number>();
        const counted = new Map<number, number>();
        const cutAt: { job: number; part: number; at: number }[] = [];
        const counts: CountedParts[] = [];
        let lastGood: LastGood | null = null;
        const count = (at: number) => {
          const [from, to] = [(counted.get(job) ?? 0) + 1, made.get(job) ?? 0];
          if (to < from) return;
          counts.push({ job, from, to, at });
          counted.set(job, to);
        };
        events.forEach((event, i) => {
          const at = 10 * i;
          if (event === 'cut') {
            made.set(job, (made.get(job) ?? 0) + 1);
            cutAt.push({ job, part: made.get(job)!, at });
          } else if (event === 'count') count(at);
          else if (event === 'check') lastGood = { at, job, afterPart: made.get(job) ?? 0 };
          else if (event === 'checkUnnumbered') lastGood = { at, job: null, afterPart: null };
          else {
            // a job is not left before its parts are counted
            count(at);
            job += 1;
          }
        });
        const inMachine = (made.get(job) ?? 0) + 1;
        const ranges = suspectParts({ lastGood, counts, found: { job, part: inMachine } });
        const suspect = (of: number, part: number) =>
          ranges.some((range) => range.job === of && range.from <= part && part <= range.to);
        expect(suspect(job, inMachine)).toBe(true);
        const good = lastGood as LastGood | null;
        for (const each of cutAt) {
          if (!good || each.at > good.at) expect(suspect(each.job, each.part)).toBe(true);
          else if (good.afterPart !== null) expect(suspect(each.job, each.part)).toBe(false);
          else {
            const count = counts.find(
              (one) => one.job === each.job && one.from <= each.part && each.part <= one.to,
            );
            expect(suspect(each.job, each.part)).toBe(!count || count.at > good.at);
          }
        }
        expect(partsIn(ranges)).toBe(
          new Set(
            ranges.flatMap(({ job: of, from, to }) =>
              Array.from({ length: to - from + 1 }, (_, i) => `${of}/${from + i}`),
            ),
          ).size,
        );
      }),
      { numRuns: 500 },
    );
  });
});

describe('what came after a broken tool', () => {
  const drill = { tool: 5, kind: 'drill' as const, diameter: mm(6.8) };
  it('the tap after the drill went into the solid: it is looked at too', () => {
    const [tap, mill] = laterCuts(drill, 'broken', 4, [
      { tool: 6, kind: 'tap', diameter: mm(8), holes: 4 },
      { tool: 3, kind: 'endMill', diameter: mm(10), holes: 0 },
    ]);
    expect(tap).toMatchObject({ tool: 6, hurt: true });
    expect(tap!.sentence).toContain('T6 (tap) went into holes that T5 had not drilled');
    expect(mill).toMatchObject({ tool: 3, hurt: false });
  });
  it('tapping drills stand in holes for their taps, M3 to M20 coarse (drill = D − P, ISO 2306 from memory), and for no size beside', () => {
    const coarse = [
      [3, 2.5],
      [4, 3.3],
      [5, 4.2],
      [6, 5],
      [8, 6.8],
      [10, 8.5],
      [12, 10.2],
      [16, 14],
      [20, 17.5],
    ] as const;
    for (const [size, hole] of coarse)
      for (const [other] of coarse)
        expect([
          other,
          size,
          followsInHole({ ...drill, diameter: mm(hole) }, { kind: 'tap', diameter: mm(other), holes: 1 }),
        ]).toEqual([other, size, other === size]);
  });
  it('a reamer follows with its stock, a boring bar with more, a thread mill fits in', () => {
    const follows = (kind: 'reamer' | 'boringBar' | 'threadMill' | 'endMill', size: number) =>
      followsInHole({ ...drill, diameter: mm(11.8) }, { kind, diameter: mm(size), holes: 1 });
    expect([follows('reamer', 12), follows('reamer', 14), follows('reamer', 11)]).toEqual([
      true,
      false,
      false,
    ]);
    expect([
      follows('boringBar', 15),
      follows('boringBar', 52),
      follows('threadMill', 10),
      follows('threadMill', 12),
    ]).toEqual([true, false, true, false]);
    expect(follows('endMill', 12)).toBe(false);
    expect(followsInHole({ ...drill, kind: 'endMill' }, { kind: 'tap', diameter: mm(8), holes: 1 })).toBe(
      false,
    );
  });
  it('a reamer with more holes than the drill made is another’s; pulled out, the holes are too deep and nothing is hurt', () => {
    expect(
      laterCuts(drill, 'broken', 2, [{ tool: 6, kind: 'tap', diameter: mm(8), holes: 4 }])[0]!.hurt,
    ).toBe(false);
    const [tap] = laterCuts(drill, 'pullingOut', 4, [{ tool: 6, kind: 'tap', diameter: mm(8), holes: 4 }]);
    expect(tap).toMatchObject({ hurt: false });
    expect(tap!.sentence).toContain('too deep');
  });
  it('what to inspect goes by what it makes', () => {
    expect(whatToInspect('drill', 'broken').join(' ')).toContain('Depth');
    expect(whatToInspect('tap', 'broken').join(' ')).toContain('go and no-go');
    expect(whatToInspect('endMill', 'pullingOut').join(' ')).toContain('too deep');
  });
});
