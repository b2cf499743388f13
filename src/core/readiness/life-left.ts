import { isExpired, partsLeft, useOf } from '../life/count.ts';
import type { GroupMember } from '../life/group.ts';
import { groupAfter, leftAfter, type LeftAfter } from '../life/left-after.ts';
import { cutBefore, fromWhere, groupCutBefore } from './before.ts';
import { flagFinding } from './flagged.ts';
import type { Finder, ReadinessQuestion } from './question.ts';

/** A tool whose life ends before the parts are made (H11). */
export const lifeLeft: Finder = ({ calls, loaded }, question) => {
  const first = calls[0]!;
  if (!loaded?.life || loaded.flag) return [];
  if (isExpired(loaded.life.remaining)) return flagFinding(first, loaded, 'expired');
  const at = { weight: 'look', code: 'runsOut', tool: first.tool, line: first.line } as const;
  const name = `T${first.tool}, assembly ${loaded.assembly},`;
  const after =
    afterOthers(first.tool, question) ?? leftAfter(loaded.life, cutBefore(first.tool, question.before));
  // it is one of a group that this program calls too: whether they last is asked of them together
  if (after === 'together') return [];
  if ('out' in after)
    return [
      {
        ...at,
        afterPart: 0,
        sentence: `${name} is one of group ${after.group}, which stops before this job begins: after ${after.afterPart} more ${after.afterPart === 1 ? 'part' : 'parts'} of ${after.job}.`,
        remedy: 'Renew those that are spent before then, or put another sister into the group.',
      },
    ];
  const { life, by, renewed } = after;
  const use = useOf(calls, question.program.partsPerCycle);
  const parts = partsLeft(life.remaining, life.basis, use, life.perPart);
  if (parts >= question.quantity) return [];
  if (parts === 0)
    return [
      {
        ...at,
        afterPart: 0,
        sentence: `${name} is used up as ${by.at(-1)} ends.`,
        remedy: 'Build a replacement now: it is renewed before this job begins.',
      },
    ];
  return [
    {
      ...at,
      afterPart: parts,
      sentence: `${name} runs out at part ${parts} of ${question.quantity}${fromWhere(by)}${renewed > 0 ? ', renewed on the way' : ''}.`,
      remedy: `Build a replacement now, or renew it before part ${parts + 1}.`,
    },
  ];
};

/**
 * What the jobs before leave of a T that is also one of a group, by whichever number they call it. Null: it is in none that they call, or there are none before.
 */
function afterOthers(
  tool: number,
  question: ReadinessQuestion,
): LeftAfter | 'together' | { out: true; group: number; job: string; afterPart: number } | null {
  const { groups, program, loaded } = question;
  const group = groups?.find(({ members }) => members.some((member) => member.tool === tool));
  if (!group) return null;
  if (program.calls.some((call) => call.tool === group.number)) return 'together';
  const members = group.members.flatMap((member): GroupMember[] => {
    const there = loaded.find((each) => each.tool === member.tool);
    return there ? [{ ...member, life: there.life, flag: there.flag, use: NO_USE }] : [];
  });
  const jobs = groupCutBefore(group, question);
  if (jobs.every(({ use }) => use === null)) return null;
  const after = groupAfter(group.rules, members, group.inUse, jobs);
  if (after.out) return { ...after, group: group.number };
  const own = after.members.find((member) => member.tool === tool)!;
  return { life: own.life!, ...(after.each.get(tool) ?? { by: [], renewed: 0 }) };
}

/** A play of jobs before brings what each of them takes. */
const NO_USE = { holes: 0, cutMilliseconds: 0, parts: 1 };
