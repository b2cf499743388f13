import type { ToolCall } from '../program/reading.ts';
import type { Finder, Finding, LoadedTool } from './question.ts';

/** A tool that is broken, locked or out of life must not start a job (H11, H12). */
export const flagged: Finder = ({ calls, loaded }) =>
  loaded ? flagFinding(calls[0]!, loaded, loaded.flag) : [];

/** What a flag says, whoever set it. */
export function flagFinding(call: ToolCall, loaded: LoadedTool, flag: LoadedTool['flag']): Finding[] {
  const at = { tool: call.tool, line: call.line };
  const name = `T${call.tool}, assembly ${loaded.assembly} in ${loaded.place},`;
  if (flag === 'broken')
    return [
      {
        ...at,
        weight: 'stop',
        code: 'broken',
        sentence: `${name} is flagged broken and in quarantine.`,
        remedy:
          'Inspect the part it was in and all since the last good check, replace the tool, and only then clear the flag.',
      },
    ];
  if (flag === 'locked')
    return [
      {
        ...at,
        weight: 'stop',
        code: 'locked',
        sentence: `${name} is locked.`,
        remedy: 'Ask who locked it and why; unlock it or load another.',
      },
    ];
  if (flag === 'expired')
    return [
      {
        ...at,
        weight: 'stop',
        code: 'expired',
        sentence: `${name} is expired.`,
        remedy: 'Renew it: change the edge, set its life, clear the flag, measure it and zero its wear.',
      },
    ];
  return [];
}
