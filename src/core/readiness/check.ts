import type { ToolCall } from '../program/reading.ts';
import { byHandOnly } from './by-hand.ts';
import { OF_GROUP, OF_TOOL } from './finders.ts';
import { firstStop } from './first-stop.ts';
import { groupFindings } from './group.ts';
import { leftInForce } from './left-in-force.ts';
import { mixedLengths } from './mixed-lengths.ts';
import { provenFindings, settledByProof } from './proven.ts';
import type { Finding, ReadinessQuestion } from './question.ts';
import { tapping } from './tapping.ts';
import { travelFindings } from './travel.ts';
import { unknownFindings } from './unknowns.ts';
import { whereItStands } from './where-it-stands.ts';

/**
 * What stands between a program and its first part (H17, the part of it that the record knows so far): every
 * tool that the program calls against what is in the machine, its measurement, its rows and its life.
 */
export function checkReadiness(question: ReadinessQuestion): Finding[] {
  const byTool = new Map<number, ToolCall[]>();
  for (const call of question.program.calls) byTool.set(call.tool, [...(byTool.get(call.tool) ?? []), call]);
  const findings = [...byTool].flatMap(([tool, calls]) => {
    const group = question.groups?.find(({ number }) => number === tool);
    if (group)
      return [
        ...groupFindings(group, calls, question),
        ...OF_GROUP.flatMap((find) => find({ tool, calls, loaded: undefined }, question)),
      ];
    const loaded = question.loaded.find((candidate) => candidate.tool === tool);
    return OF_TOOL.flatMap((find) => find({ tool, calls, loaded }, question));
  });
  const all = [
    ...unknownFindings(question),
    ...findings,
    ...mixedLengths(question, [...byTool.keys()]),
    ...tapping(question),
    ...provenFindings(question),
    ...firstStop(question),
    ...leftInForce(question),
    ...whereItStands(question),
    ...byHandOnly(question),
    ...travelFindings(question),
  ];
  return settledByProof(all, question).sort(
    (a, b) => ORDER.indexOf(a.weight) - ORDER.indexOf(b.weight) || a.line - b.line,
  );
}

/** Worst first. */
const ORDER: readonly Finding['weight'][] = ['stop', 'unknown', 'look', 'settled'];

export type Verdict = 'ready' | 'look' | 'unknown' | 'stop';

/**
 * 'ready' only when nothing is found but what was settled; 'look' when somebody has to decide; 'unknown' when it cannot be told, which
 * beats both; 'stop' when the job must not start.
 */
export function verdictOf(findings: readonly Finding[]): Verdict {
  const worst = ORDER.find((weight) => findings.some((finding) => finding.weight === weight));
  return worst === undefined || worst === 'settled' ? 'ready' : worst;
}

/** Flags and spent lives, which stand with each tool wherever a job runs. */
const OF_LIFE: readonly Finding['code'][] = ['broken', 'locked', 'expired', 'groupStops'];

/** What has come to stand against the next part of a job that runs: a tool was changed meanwhile, and not measured, or not in each of its rows. */
export const againstNextPart = (findings: readonly Finding[]): Finding[] =>
  findings.filter(({ weight, code }) =>
    code === 'controlDiffers' ? weight !== 'look' : weight === 'stop' && !OF_LIFE.includes(code),
  );

/**
 * What speaks against leaving a program to run with nobody there, but for flags, lives and what is missing, which the play of the night
 * tells itself.
 *
 * @param running its job runs: whoever started it has decided what could not be told then
 */
export const againstLeaving = (findings: readonly Finding[], running: boolean): Finding[] =>
  (running
    ? againstNextPart(findings)
    : findings.filter(
        ({ weight, code }) => (weight === 'stop' || weight === 'unknown') && !OF_LIFE.includes(code),
      )
  ).filter(({ code }) => code !== 'missing');
