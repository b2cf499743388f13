import type { ToolCall } from '../program/reading.ts';
import type { Finder, Finding, LoadedTool, ReadinessQuestion } from './question.ts';

/** Speeds above what the machine, or the lowest of the tool's stack, allows. */
export const speeds: Finder = ({ calls, loaded }, question) => [
  ...calls.flatMap((call) => speedFinding(call, question)),
  ...(loaded ? calls.flatMap((call) => toolSpeedFinding(call, loaded)) : []),
];

function speedFinding(call: ToolCall, { machine }: ReadinessQuestion): Finding[] {
  // what a constant surface speed comes to is told by what was in force; of an old reading by its ceiling
  const surface = call.surfaceSpeed && call.topSpeed === undefined ? (call.speedCeiling ?? 0) : 0;
  const most = Math.max(call.speeds?.most ?? 0, surface);
  if (most <= machine.highestSpeed) return [];
  return [
    {
      weight: 'stop',
      code: 'overSpeed',
      tool: call.tool,
      line: call.line,
      sentence: `T${call.tool} asks for ${most} rpm; ${machine.name} is limited to ${machine.highestSpeed}.`,
      remedy: 'Lower the speed in the program. A chuck or holder may be limited further: see its plate.',
    },
  ];
}

/** A holder or cutter may be limited below the spindle: the lowest of the stack counts. */
function toolSpeedFinding(call: ToolCall, loaded: LoadedTool): Finding[] {
  const most = Math.max(call.speeds?.most ?? 0, Math.round(call.topSpeed ?? 0));
  if (loaded.speedLimit === null || loaded.speedLimit === undefined || most <= loaded.speedLimit) return [];
  return [
    {
      weight: 'stop',
      code: 'toolSpeed',
      tool: call.tool,
      line: call.line,
      sentence: `T${call.tool} is run at ${most} rpm; assembly ${loaded.assembly} is rated for ${loaded.speedLimit} at most.`,
      remedy: 'Lower the speed in the program, or build the tool from pieces that are rated for it.',
    },
  ];
}
