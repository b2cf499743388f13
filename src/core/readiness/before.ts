import { cycleUse } from '../life/count.ts';
import type { CutBefore } from '../life/left-after.ts';
import type { JobBefore } from './question.ts';

/** What jobs before take of a tool, or of a group, that they call by this number. */
export const cutBefore = (tool: number, before: readonly JobBefore[] = []): CutBefore[] =>
  before.map(({ job, parts, partsPerCycle, calls }) => {
    const called = calls.some((call) => call.tool === tool);
    return { job, parts, use: called ? cycleUse(calls, tool, partsPerCycle) : null };
  });

/** Names of jobs, each once: O1, O2 and O3. */
export const jobsInWords = (jobs: readonly string[]): string =>
  [...new Set(jobs)].join(', ').replace(/, ([^,]+)$/, ' and $1');
