import type { Flag } from '../life/flag.ts';
import { partsLeft, type CycleUse, type LifeBasis } from '../life/count.ts';
import { afterWorking, type Working } from './working-time.ts';

export interface RunningJob {
  machine: string;
  /** Parts still to be made, by the record. */
  partsToGo: number;
  /** Of those, parts that are made by now if it ran on since it was last told of. */
  unrecorded: number;
  /** Milliseconds from part to part. */
  cycleMilliseconds: number;
  tools: readonly RunningTool[];
}

export interface RunningTool {
  tool: number;
  remaining: number;
  basis: LifeBasis;
  use: CycleUse;
  /** Of one that is counted by wear, what a part takes; null or undefined: not known. */
  perPart?: number | null;
  /** Parts that it lasts with its sisters, where it is one of a group: the run-out of a T is that of its group. */
  lasts?: number;
}

export interface RunOut {
  tool: number;
  /** It is spent after this many more parts than are on record; 0 when it is spent already. */
  afterParts: number;
  /** When, in the cell's working time: at the earliest; null when that lies past the calendar that was given. */
  at: Date | null;
  /** Not spent by the record, but by now, if the machine ran on since it was last told of. */
  byNow: boolean;
  /** Whether the job is finished first. */
  beyondJob: boolean;
}

/** When each tool of a running job runs out: parts left × time a part, counted in working time (H17, H18), from when the job was last told of. */
export function runOuts(job: RunningJob, now: Date, stretches: readonly Working[]): RunOut[] {
  return job.tools
    .map((tool) => {
      const afterParts = tool.lasts ?? partsLeft(tool.remaining, tool.basis, tool.use, tool.perPart);
      const at = Number.isFinite(afterParts) ? comes(afterParts, job, now, stretches) : null;
      const byNow = afterParts > 0 && afterParts <= job.unrecorded;
      return { tool: tool.tool, afterParts, at, byNow, beyondJob: afterParts >= job.partsToGo };
    })
    .filter((runOut) => Number.isFinite(runOut.afterParts))
    .sort((a, b) => a.afterParts - b.afterParts);
}

/** When a job makes its last part. */
export const jobEnds = (
  job: Omit<RunningJob, 'machine' | 'tools'>,
  now: Date,
  stretches: readonly Working[],
) => comes(job.partsToGo, job, now, stretches);

/** When a part comes, counted from the record: of what is made by now, now. */
const comes = (
  part: number,
  { unrecorded, cycleMilliseconds }: Pick<RunningJob, 'unrecorded' | 'cycleMilliseconds'>,
  now: Date,
  stretches: readonly Working[],
) => afterWorking(now, Math.max(0, part - unrecorded) * cycleMilliseconds, stretches);

/**
 * Tools in the order in which they ask for somebody: the broken first, since a part is suspect; then what has run out or is locked;
 * then by the time at which they will run out, those of which it is not known last.
 */
export function mostUrgent(
  a: { flag: Flag | null; at: Date | null },
  b: { flag: Flag | null; at: Date | null },
): number {
  const rank = ({ flag }: { flag: Flag | null }) => (flag === 'broken' ? 0 : flag === null ? 2 : 1);
  return rank(a) - rank(b) || (a.at?.getTime() ?? Infinity) - (b.at?.getTime() ?? Infinity) || 0;
}
