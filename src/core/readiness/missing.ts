import type { Finder } from './question.ts';

/** A T that is called and is not in the machine. */
export const missing: Finder = ({ calls: [call], loaded }, { machine }) =>
  loaded
    ? []
    : [
        {
          weight: 'stop',
          code: 'missing',
          tool: call!.tool,
          line: call!.line,
          sentence: `T${call!.tool}${call!.remark ? ` (${call!.remark})` : ''} is called on line ${call!.line} and is not in ${machine.name}.`,
          remedy: 'Build it if needed, load it, and measure it before the job starts.',
        },
      ];
