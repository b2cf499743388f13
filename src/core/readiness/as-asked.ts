import type { Finder } from './question.ts';

/** A tool that is not what the program asks for: another size, corner, reach, or a regrind (H2). */
export const asAsked: Finder = ({ calls: [call], loaded }) =>
  !loaded?.misses || loaded.misses.length === 0
    ? []
    : [
        {
          weight: 'look',
          code: 'notAsAsked',
          tool: call!.tool,
          line: call!.line,
          sentence: `T${call!.tool}, assembly ${loaded.assembly} in ${loaded.place}, is not what the program asks for on line ${call!.line}: ${loaded.misses.join('; ')}.`,
          remedy: 'Load what is asked for, or correct what is written down as asked for.',
        },
      ];
