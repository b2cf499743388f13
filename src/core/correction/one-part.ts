import { formatWithUnit } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { FAR_APART } from '../inspection/several.ts';
import type { Series } from './cut-with.ts';

/** A reading as it was typed. */
export interface TypedReading {
  id: number;
  featureId: number;
  series: Series;
  part: number;
  measured: Length;
  /** Place in the one order of all entries. */
  entry: number;
  recut: boolean;
  firstOff: boolean;
  /** Where it was cut, as a key; parts of one number in two places are two. */
  where: string;
}

/** All readings of one size of one part, as it was cut once: one reading, however many took it. */
export type OneReading<R> = R & {
  /** Those of which `measured` is the mean, and all there are of this cut, in the order they arrived. */
  meant: Length[];
  typed: Length[];
};

/**
 * Readings of one size of one part are one reading: measuring a part again tells more of the gauge, and nothing more of the parts
 * to come. Taken for several they would make an estimate look surer than it is, fill an average with one part, narrow control limits
 * to the gauge's own spread, and accuse a correction by one part alone.
 *
 * Their mean counts; what lies further from the newest than readings of one part do (a quarter of the tolerance) was of another part, or of a
 * chip: whoever measured again and stood by it saw the part. A part that was put back and cut again is another cut, and what is
 * measured of it afterwards is of that one; so is a first-off after a reading that was none.
 *
 * @param readings of any sizes, in the order they were typed
 * @param widthOf tolerance of a size, by its feature
 * @returns one for each cut, by its first entry; the id is of the one that arrived last
 */
export function onePart<R extends TypedReading>(
  readings: readonly R[],
  widthOf: (featureId: number) => number,
): OneReading<R>[] {
  const open = new Map<string, R[]>();
  const cuts: R[][] = [];
  for (const reading of readings) {
    const key = [reading.featureId, reading.series, reading.part, reading.where].join(' ');
    const same = open.get(key);
    if (same && !reading.recut && (!reading.firstOff || same[0]!.firstOff)) same.push(reading);
    else {
      const cut = [reading];
      open.set(key, cut);
      cuts.push(cut);
    }
  }
  return cuts.map((cut): OneReading<R> => {
    const [first, newest] = [cut[0]!, cut.at(-1)!];
    const near = cut.filter(
      ({ measured }) => Math.abs(measured - newest.measured) <= FAR_APART * widthOf(newest.featureId),
    );
    const meant = near.map(({ measured }) => measured);
    // one that a device kept arrives after others that were typed later
    const arrived = cut.toSorted((a, b) => a.id - b.id);
    return {
      ...newest,
      id: arrived.at(-1)!.id,
      entry: first.entry,
      recut: first.recut,
      firstOff: first.firstOff,
      measured: nanometres(Math.round(meant.reduce((sum, each) => sum + each, 0) / meant.length)),
      meant,
      typed: arrived.map(({ measured }) => measured),
    };
  });
}

/**
 * Why a part that was measured before is measured once more before it counts: it was of another size then.
 *
 * @param typed all readings of the size of the part, the newest last
 */
export function notAsBefore(
  typed: readonly Length[],
  part: number,
  width: number,
  unit: LengthUnit,
): string | null {
  const [before, now] = [typed.at(-2), typed.at(-1)!];
  if (before === undefined || Math.abs(now - before) <= FAR_APART * width) return null;
  return `Part ${part} was measured before: ${formatWithUnit(before, unit)}, which is ${formatWithUnit(nanometres(Math.abs(now - before)), unit)} from this. Look at its number, wipe it, and measure again; if it was put back and cut again, say so.`;
}
