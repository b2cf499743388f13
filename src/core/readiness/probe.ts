import { nanometres, type Length } from '../units/length.ts';
import type { Finder } from './question.ts';

/** How a probe stands to its calibration: none on record, older than its tip, put back since, or put back with its mark seen in place. */
export type ProbeStand = 'never' | 'tipChanged' | 'putBack' | 'markSeen' | 'calibrated';

const WORDS: Readonly<Record<Exclude<ProbeStand, 'calibrated'>, readonly [string, string]>> = {
  never: ['has no calibration on record', 'Calibrate it, and write down where its mark pointed.'],
  tipChanged: [
    'has had its tip or its holder changed since it was calibrated',
    'Calibrate it again before anything is measured with it.',
  ],
  markSeen: [
    'has been put back since it was calibrated, and its mark was seen where it was',
    'The calibration is not proven by that: measure a ring of known size first where tenths count.',
  ],
  putBack: [
    'has been put back since it was calibrated',
    'Look whether its mark points as it did: half a turn round, its error is doubled, not gone.',
  ],
};

/** A probe that is not known to be as it was calibrated (H10). */
export const probeFinder: Finder = ({ tool, calls, loaded }) => {
  const stand = loaded?.probe;
  if (!stand || stand === 'calibrated') return [];
  const [what, remedy] = WORDS[stand];
  return [
    {
      weight: stand === 'markSeen' ? 'settled' : 'look',
      code: 'probe',
      tool,
      line: calls[0]!.line,
      sentence: `T${tool}, the probe ${loaded.assembly}, ${what}.`,
      remedy,
    },
  ];
};

/** How far a probe's tip runs off centre, and how far off a point is measured when it is put back half a turn round: twice that (H10). */
export function offCentre({ x, y }: { x: Length; y: Length }): { off: Length; turned: Length } {
  const off = nanometres(Math.round(Math.hypot(x, y)));
  return { off, turned: nanometres(off * 2) };
}
