import { listed } from '../words/listed.ts';
import { cycleUse, ownUse, type CycleUse } from '../life/count.ts';
import type { CutBefore } from '../life/left-after.ts';
import type { AskedGroup, JobBefore, ReadinessQuestion } from './question.ts';

/** What jobs before take of a tool, or of a group, that they call by this number. */
export const cutBefore = (tool: number, before: readonly JobBefore[] = []): CutBefore[] =>
  before.map(({ job, parts, partsPerCycle, calls }) => {
    const called = calls.some((call) => call.tool === tool);
    return { job, parts, use: called ? cycleUse(calls, tool, partsPerCycle) : null };
  });

/** The same of a group, whose members they may call by their own T as well. */
export const groupCutBefore = (
  { number, members }: Pick<AskedGroup, 'number' | 'members'>,
  { before = [], groups = [] }: Pick<ReadinessQuestion, 'before' | 'groups'>,
): CutBefore[] =>
  cutBefore(number, before).map((cut, i) => {
    const { calls, partsPerCycle } = before[i]!;
    const own = members.flatMap(({ tool }): [number, CycleUse][] => {
      const use = ownUse(calls, tool, partsPerCycle, groups);
      return use ? [[tool, use]] : [];
    });
    return { ...cut, alone: new Map(own) };
  });

/** From where a life is counted, as the end of a sentence; empty: from now. */
export function fromWhere(by: readonly string[]): string {
  const jobs = [...new Set(by)];
  return jobs.length === 0 ? '' : `, from where ${listed(jobs)} leave${jobs.length === 1 ? 's' : ''} it`;
}
