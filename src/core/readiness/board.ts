import { perPart, type JobPace } from '../shift/job.ts';
import { verdictOf, type Verdict } from './check.ts';
import type { Finding } from './question.ts';

/** A job on a machine's list, in its order. */
export interface ListedJob extends JobPace {
  jobId: number;
  programId: number;
  number: string;
  title: string;
  quantity: number;
  made: number;
  /** Parts that are made by now, of a job that runs; undefined: those on record. */
  likely?: number;
}

export interface BoardJob extends ListedJob {
  /** Milliseconds of running before it: what the running job and those ahead of it still take. */
  after: number;
  verdict: Verdict;
  /** What speaks against it, worst first; and how much more there is. */
  against: Finding[];
  more: number;
}

export interface BoardMachine {
  machineId: number;
  machine: string;
  running: ListedJob | null;
  next: BoardJob[];
  /** Jobs behind those that are shown. */
  behind: number;
}

/** Findings of a job that stand on the board. */
const SHOWN = 4;
const WORST: readonly Verdict[] = ['stop', 'unknown', 'look', 'ready'];

/** Running time that a job still takes, in milliseconds. */
export const leftOf = (job: ListedJob) => Math.max(0, job.quantity - (job.likely ?? job.made)) * perPart(job);

/** The next jobs of a machine as they stand, each with the running time until its turn. */
export function boardOf(
  machine: { machineId: number; machine: string },
  running: ListedJob | null,
  waiting: readonly (ListedJob & { findings: readonly Finding[] })[],
  behind: number,
): BoardMachine {
  let after = running ? leftOf(running) : 0;
  const next = waiting.map(({ findings, ...job }): BoardJob => {
    const open = findings.filter(({ weight }) => weight !== 'settled');
    const line = {
      ...job,
      after,
      verdict: verdictOf(findings),
      against: open.slice(0, SHOWN),
      more: Math.max(0, open.length - SHOWN),
    };
    after += leftOf(job);
    return line;
  });
  return { ...machine, running, next, behind };
}

/** When the first job that cannot start comes to its turn; Infinity: none of those that are shown. */
const trouble = ({ next }: BoardMachine, of: Verdict) =>
  Math.min(...next.filter(({ verdict }) => verdict === of).map(({ after }) => after), Infinity);

/**
 * Machines worst first: where a job that is not ready comes first, then where one cannot be told, then where somebody must look; those
 * with nothing on their list last. What is due sooner comes before what is worse but later only within one kind of trouble.
 */
export const worstFirst = (machines: readonly BoardMachine[]): BoardMachine[] =>
  [...machines].sort((a, b) => {
    for (const of of WORST) {
      const [one, other] = [trouble(a, of), trouble(b, of)];
      if (one !== other) return one - other;
    }
    return a.machine.localeCompare(b.machine);
  });

/** How many jobs that are shown stand how. */
export const countOf = (machines: readonly BoardMachine[], of: Verdict) =>
  machines.reduce((sum, { next }) => sum + next.filter(({ verdict }) => verdict === of).length, 0);
