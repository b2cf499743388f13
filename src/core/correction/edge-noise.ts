import { alikeWith } from './edge-run.ts';
import type { ModelQuestion } from './edge-state.ts';

/** Readings between two others that weigh as much as what is taken from the tolerance. */
const YOUNG = 3;
/** The middle of the distance of a normal value from nothing, in standard deviations. */
const MIDDLE = 0.6745;

/**
 * Variance of single parts of a size, to begin with: from how far each reading lies off the line between its neighbours, so that a
 * drift is no noise, with what the registers held taken out; while it is young rather an eighth of its tolerance.
 */
export function noiseBefore(question: ModelQuestion, size: number): number {
  const { tolerance } = question.sizes[size]!;
  const alike = alikeWith(question, size);
  // the places of one size are as noisy; where they stand alike, a reading between two of another place tells of noise as well
  const apart = varianceBy(
    alike.flatMap((each) => offLine(question, [each])),
    tolerance,
  );
  return alike.length === 1 ? apart : Math.min(apart, varianceBy(offLine(question, alike), tolerance));
}

function varianceBy(distances: readonly number[], tolerance: number): number {
  const off = [...distances].sort((a, b) => a - b);
  const young = tolerance / 8;
  if (off.length === 0) return young ** 2;
  const learnt = Math.max(off[off.length >> 1]! / MIDDLE, young / 100);
  const share = YOUNG / (YOUNG + off.length);
  return Math.exp(2 * (share * Math.log(young) + (1 - share) * Math.log(learnt)));
}

/** How far each reading of a size, or of the places of one, lies off the line between its neighbours: as many noises, were all noise. */
function offLine({ sizes, readings, setUps = [] }: ModelQuestion, alike: readonly number[]): number[] {
  const { moves } = sizes[alike[0]!]!;
  const own = readings.filter((reading) => alike.includes(reading.size));
  const free = own.map(
    ({ deviation, held }) =>
      deviation - moves.reduce((sum, { register, by }) => sum + by * held[register]!, 0),
  );
  const setUp = setUps.filter(({ size }) => size === alike[0]);
  return (
    own
      .slice(2)
      .map((_, i) => i)
      // across a set-up there is no line between neighbours
      .filter((i) => !setUp.some(({ at }) => at > own[i]!.at && at <= own[i + 2]!.at))
      .map((i) => {
        const span = own[i + 2]!.at - own[i]!.at;
        const share = span > 0 ? (own[i + 1]!.at - own[i]!.at) / span : 0.5;
        return (
          Math.abs(free[i + 1]! - (1 - share) * free[i]! - share * free[i + 2]!) /
          Math.sqrt(1 + share ** 2 + (1 - share) ** 2)
        );
      })
  );
}
