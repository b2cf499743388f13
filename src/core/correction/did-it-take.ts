import type { Length } from '../units/length.ts';

export type Took =
  | 'took'
  | 'notKeyed'
  | 'wrongSign'
  | 'radiusForDiameter'
  | 'units'
  | 'decimalPoint'
  | 'tooSmallToTell'
  | 'unclear';

export interface TookAnswer {
  verdict: Took;
  /** Change in size over the change asked for. */
  ratio: number;
  sentence: string;
}

const SIGNS: readonly [number, Took, string][] = [
  [1, 'took', 'The correction took.'],
  [
    0,
    'notKeyed',
    'Nothing moved: it was not keyed, went into the wrong row, or the rougher is cutting below size. Look at what the rougher leaves before touching the finisher.',
  ],
  [-1, 'wrongSign', 'It moved the wrong way by as much: the sign was reversed.'],
  [2, 'radiusForDiameter', 'It moved twice as far as asked: radius and diameter were confused.'],
  [0.5, 'radiusForDiameter', 'It moved half as far as asked: radius and diameter were confused.'],
  [25.4, 'units', 'It moved about 25 times as far: millimetres and inches were confused.'],
  [1 / 25.4, 'units', 'It moved about a 25th as far: millimetres and inches were confused.'],
  [10, 'decimalPoint', 'It moved ten times as far: the decimal point slipped.'],
  [0.1, 'decimalPoint', 'It moved a tenth as far: the decimal point slipped.'],
];

/**
 * Did a correction take (H14)? Compares the change in size with the change asked for, and names the slip whose
 * ratio lies nearest. `noise` is what two readings differ by with nothing changed; an asked change no larger
 * than it cannot be judged, and slips that the noise cannot tell apart are not told apart.
 */
export function didItTake(before: Length, after: Length, asked: Length, noise: Length): TookAnswer {
  if (asked === 0) throw new RangeError('no change was asked for');
  const ratio = (after - before) / asked;
  const unsure = Math.abs(noise / asked);
  if (unsure >= 1)
    return {
      verdict: 'tooSmallToTell',
      ratio,
      sentence:
        'The change asked for is smaller than the spread of the readings: one part cannot tell whether it took.',
    };
  const room = (share: number) => Math.max(Math.abs(share) * 0.2, 0.02, Math.min(unsure, 0.45));
  if (Math.abs(ratio - 1) <= Math.max(0.25, Math.min(unsure, 0.6)))
    return { verdict: 'took', ratio, sentence: 'The correction took.' };
  const fitting = SIGNS.filter(([share]) => Math.abs(ratio - share) <= room(share)).sort(
    (a, b) => Math.abs(ratio - a[0]) / room(a[0]) - Math.abs(ratio - b[0]) / room(b[0]),
  );
  const best = fitting[0];
  if (best) return { verdict: best[1], ratio, sentence: best[2] };
  if (ratio > 0.5 && ratio < 1.6)
    return { verdict: 'took', ratio, sentence: 'The correction took, within the spread of the readings.' };
  return {
    verdict: 'unclear',
    ratio,
    sentence: `The size moved ${ratio.toFixed(2).replace('-', '−')} times what was asked, which no single slip explains. Measure another part, and look at the rougher, the insert and the clamping.`,
  };
}
