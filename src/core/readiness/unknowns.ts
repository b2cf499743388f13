import type { Remark } from '../program/reading.ts';
import type { Finding, ReadinessQuestion } from './question.ts';

/** What stops a job whatever is said of it: the control would stop, or cut with whatever is in the spindle. */
const STOPS = new Set(['cutBeforeTool', 'selfCall']);

/** What may be otherwise, in words. */
const MAY_CHANGE = {
  tools: 'tools',
  length: 'lengths',
  radius: 'radii',
  speed: 'speeds',
  depth: 'depth',
  life: 'life',
  time: 'time',
} as const;

export function mayChange({ affects = [] }: Remark): string {
  const words = affects.map((each) => MAY_CHANGE[each]);
  if (words.length === 0) return '';
  if (words.length === Object.keys(MAY_CHANGE).length) return 'It could change anything.';
  return `It could change ${words.length === 1 ? words[0]! : `${words.slice(0, -1).join(', ')} and ${words.at(-1)!}`}.`;
}

/** Whether somebody has settled it: the same thing on the same line of the same revision. */
const isSame = (doubt: Remark, other: { code: string; line: number; text: string }) =>
  doubt.code === other.code && doubt.line === other.line && doubt.text === other.text;

/**
 * What the reader of the program could not know (H9, H15): it beats "ready", until somebody says what it is. That is kept for the revision,
 * and shown with who said so.
 */
export function unknownFindings({ program }: ReadinessQuestion): Finding[] {
  return (program.remarks ?? []).map((doubt): Finding => {
    const settled = program.settled?.find((each) => isSame(doubt, each));
    return {
      weight: settled ? 'settled' : STOPS.has(doubt.code ?? '') ? 'stop' : 'unknown',
      code: 'unknown',
      tool: doubt.tool ?? null,
      line: doubt.line,
      sentence: doubt.text,
      remedy: settled
        ? `${settled.person}: ${settled.said}`
        : `${mayChange(doubt)} ${doubt.settle ?? ''}`.trim(),
      doubt: {
        code: doubt.code ?? '',
        line: doubt.line,
        text: doubt.text,
        unknownCode: doubt.code === 'unknownCode' ? (doubt.wants ?? null) : null,
      },
    };
  });
}
