import type { ToolCall } from '../program/reading.ts';
import type { Finding, ReadinessQuestion } from './question.ts';

const ROUGH = /\bROUGH|\bRGH\b|\bSCHRUPP|\bEBAUCHE/i;
const FINISH = /\bFINISH|\bFIN\b|\bSCHLICHT|\bFINITION/i;
const stops = (call: ToolCall) => call.optionalStops.length + (call.stops?.length ?? 0) > 0;

/**
 * On a first-off somebody measures between rougher and finisher, while there is still something to correct (H13): a program that was not
 * proven yet and does not stop there leaves no moment for it.
 */
export function firstStop({ program }: ReadinessQuestion): Finding[] {
  if (!program.proof || program.proof.state === 'proven') return [];
  return program.calls.flatMap((finisher, i): Finding[] => {
    const rougher = program.calls[i - 1];
    if (!rougher || !ROUGH.test(rougher.remark) || !FINISH.test(finisher.remark) || stops(rougher)) return [];
    return [
      {
        weight: 'look',
        code: 'noStop',
        tool: finisher.tool,
        line: finisher.line,
        sentence: `Between T${rougher.tool} (${rougher.remark}) and T${finisher.tool} (${finisher.remark}) the program does not stop.`,
        remedy:
          'For the first part: single block at the change, or an M1 before it; measure what the rougher left.',
      },
    ];
  });
}
