import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { edgesAhead } from '../ahead/edges-ahead.ts';
import { partsLeft, takenByPart, type CountedLife, type CycleUse } from './count.ts';
import { playGroup, type GroupMember, type GroupRules } from './group.ts';
import { groupAfter, leftAfter, type CutBefore } from './left-after.ts';

const use = (over: Partial<CycleUse> = {}): CycleUse => ({
  holes: 0,
  cutMilliseconds: 0,
  parts: 1,
  ...over,
});
const pieces = (remaining: number, limit = 100): CountedLife => ({ basis: 'pieces', remaining, limit });

describe('what jobs leave of an edge to the one after them', () => {
  it.each([
    ['it lasts through them', 60, [39], 21, 0],
    ['renewed in their middle', 30, [39], 91, 1],
    ['spent as they end', 39, [39], 0, 0],
    ['spent as the first ends, renewed for the second', 39, [39, 5], 95, 1],
    ['renewed twice', 10, [120], 90, 2],
    ['the renewed one spent as they end', 10, [110], 0, 1],
    ['spent already', 0, [1], 99, 1],
    ['nothing before', 7, [], 7, 0],
    ['a job without parts', 7, [0], 7, 0],
  ])('%s', (_, remaining, parts, left, renewed) => {
    const jobs = parts.map((each, i) => ({ job: `O${i}`, parts: each, use: use() }));
    expect(leftAfter(pieces(remaining), jobs)).toEqual({
      life: pieces(left),
      by: parts.flatMap((each, i) => (each > 0 ? [`O${i}`] : [])),
      renewed,
    });
  });
  it('what does not call it, or takes nothing of it, leaves it', () => {
    const holes: CountedLife = { basis: 'holes', remaining: 40, limit: 100 };
    const wear: CountedLife = { basis: 'wear', remaining: 40, limit: 100 };
    expect(leftAfter(holes, [{ job: 'O1', parts: 30, use: null }]).by).toEqual([]);
    expect(leftAfter(holes, [{ job: 'O1', parts: 30, use: use() }])).toMatchObject({ life: holes, by: [] });
    expect(leftAfter(wear, [{ job: 'O1', parts: 30, use: use() }])).toMatchObject({ life: wear, by: [] });
    expect(leftAfter({ ...wear, perPart: 3 }, [{ job: 'O1', parts: 10, use: use() }]).life.remaining).toBe(
      10,
    );
  });
  it('is what one part after the other leaves (brute force)', () => {
    for (let seed = 1; seed <= 2000; seed += 1) {
      const { next } = chance(seed);
      const whole = (most: number) => Math.floor(next() * (most + 1));
      const basis = (['pieces', 'holes', 'minutes'] as const)[whole(2)]!;
      const limit = 1 + whole(60);
      const life: CountedLife = { basis, limit, remaining: whole(limit) };
      const jobs: CutBefore[] = Array.from({ length: whole(3) }, (_, i) => ({
        job: `O${i}`,
        parts: whole(90),
        use: next() < 0.2 ? null : use({ holes: whole(9), cutMilliseconds: whole(9), parts: 1 + whole(2) }),
      }));
      let { remaining } = life;
      let renewed = 0;
      for (const job of jobs)
        for (let part = 0; part < job.parts; part += 1) {
          const takes = job.use ? takenByPart(basis, job.use) : 0;
          if (takes === 0) continue;
          if (remaining <= 1e-9) [remaining, renewed] = [limit, renewed + 1];
          remaining -= takes;
        }
      const found = leftAfter(life, jobs);
      expect(found.life.remaining, `seed ${seed}`).toBeCloseTo(Math.max(0, remaining), 6);
      expect(found.renewed, `seed ${seed}`).toBe(renewed);
    }
  });
});

it('says the same of the next job as the edges of a fortnight, which are played by another rule', () => {
  for (let seed = 1; seed <= 1000; seed += 1) {
    const { next } = chance(seed);
    const whole = (most: number) => Math.floor(next() * (most + 1));
    const [limit, takes, first, then] = [5 + whole(60), 1 + whole(4), 1 + whole(80), 1 + whole(60)];
    const life: CountedLife = { basis: 'holes', limit, remaining: 1 + whole(limit - 1) };
    const member = { tool: 4, role: 'original' as const, life, flag: null, use: use({ holes: takes }) };
    const job = (id: number, parts: number) => ({
      job: id,
      parts,
      milliseconds: 1,
      uses: [{ tool: 4, perPart: () => takes }],
    });
    const spent = edgesAhead(
      [job(1, first), job(2, then)],
      [{ tool: 4, rules: null, inUse: null, members: [member] }],
      Infinity,
    );
    const left = leftAfter(life, [{ job: 'O1', parts: first, use: member.use }]).life;
    const lasts = partsLeft(left.remaining, left.basis, member.use);
    const own = spent.filter((each) => each.job === 2);
    // spent as the first ends: it is renewed before the second, and no part of that one spends it
    if (lasts === 0) expect(spent.filter((each) => each.job === 1).at(-1)!.part, `seed ${seed}`).toBe(first);
    else expect(own[0]?.part ?? Infinity, `seed ${seed}`).toBe(lasts <= then ? lasts : Infinity);
  }
});

describe('what jobs leave of a group of sisters', () => {
  const rules: GroupRules = { next: 'lowest', renewed: 'spareRuns', spares: true };
  const members = (...left: number[]): GroupMember[] =>
    left.map((remaining, i) => ({
      tool: i + 1,
      role: 'original',
      life: pieces(remaining),
      flag: null,
      use: use(),
    }));
  const before = (parts: number) => [{ job: 'O1', parts, use: use() }];
  it('takes from one after the other, and says who cuts then', () => {
    const then = groupAfter(rules, members(10, 30), 1, before(25));
    expect(then).toMatchObject({ out: false, inUse: 2, by: ['O1'] });
    expect(!then.out && then.members.map(({ life }) => life!.remaining)).toEqual([0, 15]);
  });
  it('is out before they are through', () => {
    expect(groupAfter(rules, members(10, 30), 1, before(41))).toEqual({
      out: true,
      job: 'O1',
      afterPart: 40,
    });
  });
  it('leaves what playing them in one go would leave (brute force)', () => {
    for (let seed = 1; seed <= 500; seed += 1) {
      const { next } = chance(seed);
      const whole = (most: number) => Math.floor(next() * (most + 1));
      const all = members(...Array.from({ length: 1 + whole(3) }, () => whole(30)));
      const [first, then] = [whole(40), 1 + whole(40)];
      const inUse = whole(all.length) || null;
      const once = playGroup(rules, all, inUse, first + then);
      const after = groupAfter(rules, all, inUse, before(first));
      if (after.out) {
        expect(once.stopsAfter, `seed ${seed}`).toBe(after.afterPart);
        continue;
      }
      const rest = playGroup(rules, after.members, after.inUse, then);
      expect(rest.stopsAfter === null ? null : rest.stopsAfter + first, `seed ${seed}`).toBe(once.stopsAfter);
    }
  });
  it('with members that are called by their own T too, in the same job or in others, is what one part after the other leaves (brute force)', () => {
    let [outs, changed, both] = [0, 0, 0];
    for (let seed = 1; seed <= 2000; seed += 1) {
      const { next } = chance(seed);
      const whole = (most: number) => Math.floor(next() * (most + 1));
      const all = Array.from({ length: 1 + whole(2) }, (_, i): GroupMember => {
        const limit = 10 + whole(50);
        const basis = (['pieces', 'holes'] as const)[whole(1)]!;
        return { ...members(0)[0]!, tool: i + 1, life: { basis, limit, remaining: 1 + whole(limit - 1) } };
      });
      const jobs: CutBefore[] = Array.from({ length: 1 + whole(3) }, (_, i) => ({
        job: `O${i}`,
        parts: whole(12),
        use: next() < 0.4 ? null : use({ holes: 1 + whole(3) }),
        alone: new Map(
          all.flatMap(({ tool }) => (next() < 0.3 ? [[tool, use({ holes: 1 + whole(3) })] as const] : [])),
        ),
      }));
      const left = new Map(all.map(({ tool, life }) => [tool, life!.remaining]));
      const lives = (tool: number) => left.get(tool)! > 0;
      let cutting: number | null = null;
      let out: { job: string; afterPart: number } | null = null;
      const renewed = new Map<number, number>();
      for (const { job, parts, use: picked, alone } of jobs)
        for (let part = 0; part < parts && !out; part += 1) {
          const own = [...alone!.keys()];
          // a job that calls the group stops where any of its calls cannot be cut; one that calls a T alone has it changed
          if (picked) {
            const may: number | null =
              cutting !== null && lives(cutting)
                ? cutting
                : (all.find(({ tool }) => lives(tool))?.tool ?? null);
            if (may === null || own.some((tool) => !lives(tool))) {
              out = { job, afterPart: part };
              break;
            }
            cutting = may;
          } else
            for (const tool of own.filter((each) => !lives(each))) {
              left.set(tool, all.find((each) => each.tool === tool)!.life!.limit);
              renewed.set(tool, (renewed.get(tool) ?? 0) + 1);
            }
          for (const { tool, life } of all) {
            const calls = [
              ...(picked && tool === cutting ? [picked] : []),
              ...(alone!.has(tool) ? [alone!.get(tool)!] : []),
            ];
            const holes = calls.reduce((sum, each) => sum + each.holes, 0);
            left.set(tool, left.get(tool)! - (life!.basis === 'pieces' ? Math.min(1, calls.length) : holes));
          }
        }
      const after = groupAfter(rules, all, null, jobs);
      if (out) {
        outs += 1;
        expect(after, `seed ${seed}`).toEqual({ out: true, ...out });
        continue;
      }
      if (after.out) throw new Error(`seed ${seed}: it was not out`);
      changed += renewed.size;
      both += jobs.filter((job) => job.use && job.alone!.size > 0 && job.parts > 0).length;
      for (const { tool, life } of after.members) {
        expect(Math.max(0, life!.remaining), `seed ${seed}, T${tool}`).toBe(Math.max(0, left.get(tool)!));
        expect(after.each.get(tool)?.renewed ?? 0, `seed ${seed}, T${tool}`).toBe(renewed.get(tool) ?? 0);
      }
    }
    expect(Math.min(outs, changed, both)).toBeGreaterThan(100);
  });
});
