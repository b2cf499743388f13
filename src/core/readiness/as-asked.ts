import type { Finder } from './question.ts';

/**
 * A tool that is not what the program asks for: another size, corner, reach, or a regrind (H2); or one of which that cannot be told,
 * since its record does not say.
 */
export const asAsked: Finder = ({ calls: [call], loaded }) => {
  if (!loaded) return [];
  const { misses = [], doubts = [] } = loaded;
  const about = { weight: 'look', tool: call!.tool, line: call!.line } as const;
  const name = `T${call!.tool}, assembly ${loaded.assembly} in ${loaded.place}`;
  if (misses.length > 0)
    return [
      {
        ...about,
        code: 'notAsAsked',
        sentence: `${name}, is not what the program asks for on line ${call!.line}: ${[...misses, ...doubts].join('; ')}.`,
        remedy: 'Load what is asked for, or correct what is written down as asked for.',
      },
    ];
  if (doubts.length === 0) return [];
  return [
    {
      ...about,
      code: 'maybeNotAsAsked',
      sentence: `${name}: whether it is what the program asks for on line ${call!.line} cannot be told: ${doubts.join('; ')}.`,
      remedy: 'Look at the tool, and write down what is missing: on its record, or of what is asked for.',
    },
  ];
};
