import type { AssemblyKind } from '../assembly/silhouette.ts';
import type { Finder } from './question.ts';

/** Kinds that cut one way round only; a tap comes back the other way by its cycle, a fine boring bar is oriented. */
const ONE_WAY = new Set<AssemblyKind>([
  'endMill',
  'ballMill',
  'faceMill',
  'chamferMill',
  'drill',
  'spotDrill',
  'reamer',
  'threadMill',
  'boringBar',
]);
/** A tool that a mill turns against its own hand: it rubs, burns and breaks. What hand it is stands in its field; a remark may ask for it. */
export const turnsRight: Finder = ({ tool, calls, loaded }, { machine }) => {
  if (machine.kind !== 'mill' || !loaded?.kind || !ONE_WAY.has(loaded.kind)) return [];
  const left = loaded.leftHand ?? false;
  const wrong = calls.find((call) => call.turns?.includes(left ? 'cw' : 'ccw'));
  if (!wrong) return [];
  return [
    {
      weight: 'stop',
      code: 'wrongWay',
      tool,
      line: wrong.line,
      sentence: left
        ? `T${tool} cuts with the spindle turning clockwise (M3): assembly ${loaded.assembly} is left-hand.`
        : `T${tool} cuts with the spindle turning counter-clockwise (M4): assembly ${loaded.assembly} is not said to be left-hand.`,
      remedy: left
        ? 'Change M3 to M4, or put a right-hand tool there.'
        : 'Change M4 to M3; of a left-hand tool, say so in its description.',
    },
  ];
};
