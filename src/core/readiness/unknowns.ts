import type { Remark } from '../program/reading.ts';
import type { Finding, ReadinessQuestion } from './question.ts';

/** What stops a job whatever is said of it: the control would stop, or cut with whatever is in the spindle. */
const STOPS = new Set(['cutBeforeTool', 'selfCall']);

/** What hangs on it, in words. */
const HANGS = {
  tools: 'its tools',
  length: 'lengths',
  radius: 'radii',
  speed: 'speeds',
  depth: 'depths',
  life: 'life',
  time: 'times',
} as const;

export const hangsOn = ({ affects = [] }: Remark) =>
  affects.length === Object.keys(HANGS).length
    ? 'All of it hangs on that.'
    : affects.length === 0
      ? ''
      : `${affects.map((each) => HANGS[each]).join(', ')} hang on that.`.replace(/^./, (sign) =>
          sign.toUpperCase(),
        );

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
        : `${hangsOn(doubt)} ${doubt.settle ?? ''}`.trim(),
      doubt: { code: doubt.code ?? '', line: doubt.line, text: doubt.text },
    };
  });
}
