import type { ToolCall } from '../program/reading.ts';
import { asAsked } from './as-asked.ts';
import { cutterRow } from './cutter-row.ts';
import { flagged } from './flagged.ts';
import { groupFindings } from './group.ts';
import { lifeCounted } from './life-counted.ts';
import { lifeLeft } from './life-left.ts';
import { measured } from './measured.ts';
import { missing } from './missing.ts';
import { mixedLengths } from './mixed-lengths.ts';
import { orientedFindings } from './oriented.ts';
import type { Finder, Finding, ReadinessQuestion } from './question.ts';
import { rowsFollow } from './rows-follow.ts';
import { speeds } from './speeds.ts';

const oriented: Finder = ({ calls }, { machine }) => orientedFindings(calls, machine);

/** What is looked for at each called tool, in the order in which it is told: one finding, one file. */
const FINDERS: readonly Finder[] = [
  missing,
  flagged,
  asAsked,
  measured,
  rowsFollow,
  cutterRow,
  oriented,
  speeds,
  lifeCounted,
  lifeLeft,
];

/**
 * What stands between a program and its first part (H17, the part of it that the record knows so far): every
 * tool that the program calls against what is in the machine, its measurement, its rows and its life.
 */
export function checkReadiness(question: ReadinessQuestion): Finding[] {
  const byTool = new Map<number, ToolCall[]>();
  for (const call of question.program.calls) byTool.set(call.tool, [...(byTool.get(call.tool) ?? []), call]);
  const findings = [...byTool].flatMap(([tool, calls]) => {
    const group = question.groups?.find(({ number }) => number === tool);
    if (group) return groupFindings(group, calls, question);
    const loaded = question.loaded.find((candidate) => candidate.tool === tool);
    return FINDERS.flatMap((find) => find({ tool, calls, loaded }, question));
  });
  return [...findings, ...mixedLengths(question, [...byTool.keys()])].sort(
    (a, b) => Number(a.weight === 'look') - Number(b.weight === 'look') || a.line - b.line,
  );
}

/** 'ready' only when nothing is found; 'look' when somebody has to decide; 'stop' when the job must not start. */
export function verdictOf(findings: readonly Finding[]): 'ready' | 'look' | 'stop' {
  if (findings.some((finding) => finding.weight === 'stop')) return 'stop';
  return findings.length > 0 ? 'look' : 'ready';
}
