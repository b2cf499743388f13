import { describe, expect, it } from 'vitest';
import { boardOf, countOf, worstFirst, type ListedJob } from './board.ts';
import type { Finding } from './question.ts';

const job = (jobId: number, over: Partial<ListedJob> = {}): ListedJob => ({
  jobId,
  programId: jobId,
  number: `O${jobId}`,
  title: 'PLATE',
  quantity: 10,
  made: 0,
  cycleMilliseconds: 60_000,
  pace: null,
  partsPerCycle: 1,
  ...over,
});
const finding = (weight: Finding['weight'], tool = 1): Finding => ({
  weight,
  code: 'missing',
  tool,
  line: tool,
  sentence: '',
  remedy: '',
});
const listed = (jobId: number, ...weights: Finding['weight'][]) => ({
  ...job(jobId),
  findings: weights.map((weight, i) => finding(weight, i)),
});
const machine = (name: string, running: ListedJob | null, ...jobs: ReturnType<typeof listed>[]) =>
  boardOf({ machineId: 1, machine: name }, running, jobs, 0);

describe('a board of the next jobs', () => {
  it('each comes to its turn when what stands before it is done, by cycles that make two as well', () => {
    const { next } = machine('A', job(1, { made: 4, quantity: 10, partsPerCycle: 2 }), listed(2), listed(3));
    expect(next.map(({ after }) => after)).toEqual([180_000, 780_000]);
    expect(machine('A', null, listed(2)).next[0]!.after).toBe(0);
    // what was cut since it was counted is behind it
    expect(machine('A', job(1, { made: 4, likely: 6.5 }), listed(2)).next[0]!.after).toBe(210_000);
    // more were made than ordered: nothing is left of it
    expect(machine('A', job(1, { made: 12 }), listed(2)).next[0]!.after).toBe(0);
  });
  it('what was settled speaks against nothing; four are shown and the rest counted', () => {
    const [ready, full] = machine(
      'A',
      null,
      listed(1, 'settled'),
      listed(2, 'stop', 'stop', 'look', 'look', 'look', 'settled'),
    ).next;
    expect([ready!.verdict, ready!.against.length]).toEqual(['ready', 0]);
    expect([full!.verdict, full!.against.length, full!.more]).toEqual(['stop', 4, 1]);
  });
  it('machines stand worst first: by their first job that is not ready, however many are fine before it', () => {
    const order = worstFirst([
      machine('idle', null),
      machine('fine', null, listed(1)),
      machine('look', null, listed(1, 'look')),
      machine('later', job(9), listed(1, 'stop')),
      machine('behind', null, listed(1), listed(2, 'stop')),
      machine('now', null, listed(1, 'stop')),
      machine('unsure', null, listed(1, 'unknown')),
    ]).map((each) => each.machine);
    expect(order).toEqual(['now', 'behind', 'later', 'unsure', 'look', 'fine', 'idle']);
  });
  it('counts jobs by how they stand', () => {
    const all = [machine('A', null, listed(1, 'stop'), listed(2)), machine('B', null, listed(3, 'stop'))];
    expect([countOf(all, 'stop'), countOf(all, 'ready'), countOf(all, 'unknown')]).toEqual([2, 1, 0]);
  });
});
