import { shareOut } from '../chart/capability.ts';
import { offOf, statesOf, type DriftQuestion } from './drift.ts';

/** What becomes of a size while nobody is there to measure it. */
export interface Unwatched {
  /** Parts cut in that time. */
  parts: number;
  /** How many of them are bad, on average, if nothing is keyed before. */
  bad: number;
  /** The first of them, counted from 1, that is bad with a likelihood above `RISK`; null: none is. */
  riskyFrom: number | null;
  /** It is likely where it goes that makes them bad, not that too little was measured to know where it goes. */
  foreseen: boolean;
}

/** A part that is bad with this likelihood is worth a measurement (our own choice: one in twenty). */
export const RISK = 0.05;
/** Parts that are reckoned one by one; of more, so many evenly spaced. */
const RECKONED = 60;

/**
 * The parts of a size that are cut between two moments with nobody to measure them: by where it stands, where it drifts to, how well both
 * are known, and how much single parts spread. Lengths in nanometres.
 *
 * @param from parts cut from now until they leave; what is measured meanwhile is not known yet
 * @param to parts cut from now until they are back
 */
export function unwatched(question: DriftQuestion, from: number, to: number): Unwatched {
  const parts = Math.max(0, to - from);
  if (parts === 0) return { parts, bad: 0, riskyFrom: null, foreseen: false };
  const { lower, upper } = question;
  const off = offOf(question);
  const { at } = statesOf(question);
  const likely = (nth: number) => {
    const { mean, error, noise } = at(from + nth - 1);
    return {
      chance: shareOut(mean + off, Math.hypot(error, noise), lower, upper),
      // were it known to be where it most likely is
      there: shareOut(mean + off, noise, lower, upper),
    };
  };
  const each = Math.max(1, Math.ceil(parts / RECKONED));
  let bad = 0;
  let riskyFrom: number | null = null;
  let foreseen = false;
  for (let nth = 1; nth <= parts; nth += each) {
    const { chance, there } = likely(nth);
    bad += chance * Math.min(each, parts - nth + 1);
    if (riskyFrom === null && chance > RISK) riskyFrom = nth;
    foreseen ||= there > RISK;
  }
  return { parts, bad, riskyFrom, foreseen };
}

/** When a size falls due in that time, counted in parts from their leaving, even if the last part before it is measured; null: it does not. */
export const dueUnwatched = (every: number | null, parts: number): number | null =>
  every !== null && parts > every ? every : null;
