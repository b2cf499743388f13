import type { Finder } from './question.ts';

/**
 * Coolant that is pumped through the spindle into a tool that lets none through (H3): it needs a drilled knob, holder and cutter, and a
 * machine with the pump for it. Otherwise the cut runs dry, chips stay in a deep hole, and the pump works against a shut end. What the
 * pieces of an assembly are is known of those that are on record; of others it cannot be told, and that is said.
 */
export const coolantThrough: Finder = ({ tool, calls, loaded }, { machine }) => {
  const line = calls.find((call) => call.throughCoolant)?.throughCoolant;
  if (!line || !loaded) return [];
  const say = (sentence: string, remedy: string) => [
    { weight: 'look' as const, code: 'coolant' as const, tool, line, sentence, remedy },
  ];
  if (machine.throughCoolant === false)
    return say(
      `T${tool} is cut with coolant through the spindle; ${machine.name} has no pump for it on its plate.`,
      'Take the code out, or put the pump on the plate.',
    );
  if (loaded.solid === undefined) return [];
  if (loaded.solid === null)
    return say(
      `T${tool} is cut with coolant through the spindle; whether assembly ${loaded.assembly} lets it through is not known: its pieces are not on record.`,
      'Look at knob, holder and cutter, and put the pieces on record.',
    );
  if (loaded.solid.length === 0) return [];
  return say(
    `T${tool} is cut with coolant through the spindle; in assembly ${loaded.assembly} ${loaded.solid.join(' and ')} ${loaded.solid.length === 1 ? 'is' : 'are'} not drilled for it.`,
    'Build it from drilled pieces, or ask the programmer for coolant from outside.',
  );
};
