import { ownUse, useOf } from '../life/count.ts';
import { playGroup, type GroupMember } from '../life/group.ts';
import { groupAfter } from '../life/left-after.ts';
import { listed } from '../words/listed.ts';
import type { ToolCall } from '../program/reading.ts';
import { fromWhere, groupCutBefore } from './before.ts';
import { OF_CUTTER } from './finders.ts';
import { flagged } from './flagged.ts';
import { holesCounted } from './life-counted.ts';
import type { AskedGroup, Finding, LoadedTool, ReadinessQuestion } from './question.ts';

/** What stands between a call of a group of sisters and the parts that it is to cut (H11, H12): at each member what is looked for at any tool, and whether they last together. */
export function groupFindings(
  group: AskedGroup,
  calls: readonly ToolCall[],
  question: ReadinessQuestion,
): Finding[] {
  const first = calls[0]!;
  const at = { tool: group.number, line: first.line };
  const name = `Group ${group.number}${group.purpose ? ` (${group.purpose})` : ''}`;
  const standing = group.members.map((member) => ({
    ...member,
    loaded: question.loaded.find(({ tool }) => tool === member.tool),
  }));
  const there = standing.filter(({ loaded }) => loaded);
  if (there.length === 0)
    return [
      {
        ...at,
        weight: 'stop',
        code: 'missing',
        sentence: `${name} is called on line ${first.line} and none of ${toolsOf(group.members)} is in ${question.machine.name}.`,
        remedy: 'Load its tools and measure them before the job starts.',
      },
    ];
  const found = [...rowFindings(name, calls, question)];
  for (const member of standing) {
    if (!member.loaded) {
      found.push({
        ...at,
        weight: 'look',
        code: 'groupMember',
        sentence: `T${member.tool} of group ${group.number} is not in ${question.machine.name}.`,
        remedy: 'Load it, or take it out of the group: the control would alarm when its turn comes.',
      });
      continue;
    }
    const own = calls.map((call) => ({
      ...call,
      tool: member.tool,
      lengthRows: member.lengthRows.map((row) => ({ row, line: call.line })),
      radiusRows: call.radiusRows.flatMap(({ line }) => member.radiusRows.map((row) => ({ row, line }))),
    }));
    const called = { tool: member.tool, calls: own, loaded: member.loaded };
    const flag = member.loaded.flag === 'expired' ? [] : flagged(called, question);
    found.push(...flag, ...OF_CUTTER.flatMap((find) => find(called, question)));
    if (member.fresh)
      found.push({
        ...at,
        weight: 'look',
        code: 'groupMember',
        sentence: `T${member.tool} of group ${group.number} has new data that the control has not taken up.`,
        remedy:
          'Key its life by the life card and initialise the group: until then the control passes it over.',
      });
  }
  if (there.some(({ loaded }) => loaded!.life?.basis === 'holes'))
    found.push(...holesCounted(calls, question.program.calls));
  return [...found, ...lifeOfGroup(group, name, calls, there, question)];
}

/** Whether a group lasts for the parts that are asked for, after what the jobs before leave of it. */
function lifeOfGroup(
  group: AskedGroup,
  name: string,
  calls: readonly ToolCall[],
  there: readonly (AskedGroup['members'][number] & { loaded: LoadedTool | undefined })[],
  question: ReadinessQuestion,
): Finding[] {
  const { partsPerCycle, calls: all } = question.program;
  const members = there.map(({ loaded, ...member }): GroupMember => ({
    ...member,
    life: loaded!.life,
    flag: loaded!.flag,
    use: useOf(calls, partsPerCycle),
    alone: ownUse(all, member.tool, partsPerCycle, question.groups ?? []),
  }));
  const at = { tool: group.number, line: calls[0]!.line };
  const renew = 'Renew those that are spent before then, or put another sister into the group.';
  const now = { members, inUse: group.inUse, by: [] };
  const after = groupAfter(group.rules, members, group.inUse, groupCutBefore(group, question));
  if (after.out && after.afterPart > 0)
    return [
      {
        ...at,
        weight: 'look',
        code: 'runsOut',
        afterPart: 0,
        sentence: `${name} is out before this job begins: after ${after.afterPart} more ${after.afterPart === 1 ? 'part' : 'parts'} of ${after.job}.`,
        remedy: renew,
      },
    ];
  // what stops the job before at its first call stops this one as well
  const then = after.out ? now : after;
  const played = playGroup(group.rules, then.members, then.inUse, question.quantity);
  // a broken member has said so itself
  if (played.stopsAfter === null || played.why === 'broken') return [];
  const last = then.by.at(-1);
  // what is spent or flagged now is said where its own T is called
  if (played.why === 'ownCall' && played.stopsAfter === 0 && !last) return [];
  const remedy =
    played.why === 'ownCall'
      ? `Renew T${played.own!} before then: the program calls it by its own T as well.`
      : played.why === 'noSpare'
        ? 'Renew it before then, or let the group take its spares.'
        : renew;
  if (played.stopsAfter === 0)
    return [
      {
        ...at,
        weight: last ? 'look' : 'stop',
        code: last ? 'runsOut' : 'groupStops',
        afterPart: 0,
        sentence: last
          ? `${played.why === 'ownCall' ? `T${played.own!} of group ${group.number}` : name} is used up as ${last} ends.`
          : `${name} has no tool left: the machine stops at its first call.`,
        remedy,
      },
    ];
  const whole = question.quantity;
  const from = fromWhere(then.by);
  return [
    {
      ...at,
      weight: 'look',
      code: 'runsOut',
      afterPart: played.stopsAfter,
      sentence:
        played.why === 'ownCall'
          ? `T${played.own!}, called as one of group ${group.number} and by its own T, runs out at part ${played.stopsAfter} of ${whole}${from}.`
          : played.why === 'noSpare'
            ? `${name} runs without spares: T${played.runs.at(-1)!.tool} expires in part ${played.stopsAfter} of ${whole} and the machine stops${from}.`
            : `${name} is out after part ${played.stopsAfter} of ${whole}, with ${toolsOf(played.runs)} spent one after the other${from}.`,
      remedy,
    },
  ];
}

/** Offsets in a program that calls a group: they must be those of whatever member is there. */
function rowFindings(name: string, calls: readonly ToolCall[], { machine }: ReadinessQuestion): Finding[] {
  return calls.flatMap((call): Finding[] => {
    const letter = machine.kind === 'lathe' ? 'row ' : 'H';
    const uses = [
      ...call.lengthRows.map((use) => ({ ...use, as: `${letter}${use.row}` })),
      ...call.radiusRows.map((use) => ({ ...use, as: `D${use.row}` })),
    ];
    const fixed = uses
      .filter(({ automatic, row }) => automatic === false || (automatic === undefined && row !== call.tool))
      .map(({ line, as }): Finding => ({
        weight: 'stop',
        code: 'fixedRow',
        tool: call.tool,
        line,
        sentence: `${name} is called on line ${call.line}, but line ${line} fixes ${as}: its sisters would cut with that offset too.`,
        remedy:
          'Change the program to the automatic offset of this control, so that each member brings its own.',
      }));
    if (machine.kind === 'mill' && call.lengthRows.length === 0 && call.cutMilliseconds > 0)
      fixed.push({
        weight: 'stop',
        code: 'noLengthRow',
        tool: call.tool,
        line: call.line,
        sentence: `${name} cuts from line ${call.line} on with no length applied.`,
        remedy: 'Give the program back to the programmer: the length call is missing.',
      });
    return fixed;
  });
}

const toolsOf = (members: readonly { tool: number }[]) =>
  listed(members.map(({ tool }) => `T${tool}`)) || 'its tools';
