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
const LEFT_HAND = /\bL\.?H\.?\b|\bLEFT\b|\bLINKS\b/i;

/** A right-hand tool that a mill turns counter-clockwise: it rubs, burns and breaks. */
export const turnsRight: Finder = ({ tool, calls, loaded }, { machine }) => {
  if (machine.kind !== 'mill' || !loaded?.kind || !ONE_WAY.has(loaded.kind)) return [];
  const wrong = calls.find(
    (call) =>
      call.turns?.includes('ccw') && !LEFT_HAND.test(call.remark) && !LEFT_HAND.test(loaded.name ?? ''),
  );
  if (!wrong) return [];
  return [
    {
      weight: 'stop',
      code: 'wrongWay',
      tool,
      line: wrong.line,
      sentence: `T${tool} cuts with the spindle turning counter-clockwise (M4): assembly ${loaded.assembly} is not said to be left-hand.`,
      remedy: 'Change M4 to M3; for a left-hand tool, say so in its name.',
    },
  ];
};
