import { nanometres, type Length } from '../units/length.ts';
import { largest, smallest, type Limits } from './feature.ts';

/** What a reading says of its size. */
export type Conformity = 'conforms' | 'doesNot' | 'cannotTell';

/**
 * Whether a size is inside its limits, by a gauge of an expanded uncertainty U (k = 2): in only where it is in by U, out only where
 * it is out by U, and otherwise nobody can tell. On the bound itself it counts as the surer of both.
 *
 * Source: ISO 14253-1, guard bands by U (memory).
 */
export function conformity(measured: Length, limits: Limits, uncertainty: number): Conformity {
  const [low, high] = [smallest(limits), largest(limits)];
  if (measured < low - uncertainty || measured > high + uncertainty) return 'doesNot';
  return measured >= low + uncertainty && measured <= high - uncertainty ? 'conforms' : 'cannotTell';
}

/** Expansion of what is cut and measured with, for one degree. Source: handbook values (memory). */
export const EXPANSION = {
  steel: { words: 'steel', perKelvin: 11.5e-6 },
  aluminium: { words: 'aluminium', perKelvin: 23e-6 },
  bronze: { words: 'bronze', perKelvin: 18e-6 },
  duplexStainless: { words: 'duplex stainless', perKelvin: 13e-6 },
} as const;
export type Material = keyof typeof EXPANSION;
export const MATERIALS = Object.keys(EXPANSION) as [Material, ...Material[]];

/** Sizes hold at this temperature, °C. Source: ISO 1. */
export const REFERENCE = 20;

/**
 * What a size comes to at 20 °C, read at another temperature that part and gauge both have: a warm gauge is long and reads short, a
 * warm part is large.
 */
export function atReference(shown: Length, celsius: number, part: Material, gauge: Material): Length {
  const by = celsius - REFERENCE;
  return nanometres(
    Math.round((shown * (1 + EXPANSION[gauge].perKelvin * by)) / (1 + EXPANSION[part].perKelvin * by)),
  );
}

export interface RepeatStudy {
  /** Standard deviation of the repeats, and the expanded uncertainty (k = 2) that follows from it and the resolution. */
  spread: number;
  uncertainty: number;
}

/** A study of fewer readings says too little. */
export const STUDY_READINGS = 10;

/**
 * How well a gauge repeats, from readings of one and the same size; null with fewer than `STUDY_READINGS`. A gauge that always shows
 * the same is as good as its resolution: half a step is even over its width, 1/√12 of it.
 *
 * Source: JCGM 100 (GUM) 4.2 and 4.3.7 (memory).
 */
export function repeatStudy(readings: readonly Length[], resolution: number): RepeatStudy | null {
  if (readings.length < STUDY_READINGS) return null;
  const mean = readings.reduce((sum, each) => sum + each, 0) / readings.length;
  const spread = Math.sqrt(
    readings.reduce((sum, each) => sum + (each - mean) ** 2, 0) / (readings.length - 1),
  );
  return { spread, uncertainty: 2 * Math.hypot(spread, resolution / Math.sqrt(12)) };
}

/** Why a gauge may not be used for a size now; null where it may. */
export function gaugeFault(
  gauge: { name: string; uncertainty: number | null; due: string | null },
  tolerance: number,
  today: string,
): string | null {
  if (gauge.due !== null && gauge.due < today)
    return `${gauge.name} was due for calibration on ${gauge.due}. Take another, or have it calibrated: nothing is corrected by what it shows.`;
  if (gauge.uncertainty !== null && 2 * gauge.uncertainty >= tolerance)
    return `${gauge.name} is not sure enough for this size: by its uncertainty no part could be told to be in. Take a finer gauge.`;
  return null;
}
