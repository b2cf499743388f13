import type { LifeBasis } from '../life/count.ts';

/** A ToolLife of a cutting-tool asset, as it is written: what it counts, which way, where it began and where it ends, where it is now. */
export interface AssetLife {
  type: string;
  direction: string;
  initial: number | null;
  limit: number | null;
  value: number;
}

/** A life as it is kept: what it is good for and what is left of that, in minutes, pieces or millimetres of wear. */
export type LifeRead =
  | { ok: true; basis: LifeBasis; full: number; left: number }
  | { ok: false; reason: string };

const BASES: Readonly<Record<string, LifeBasis>> = {
  MINUTES: 'minutes',
  PART_COUNT: 'pieces',
  WEAR: 'wear',
};

/**
 * What is left of a life (MTConnect Part 4.1, cutting tools, from memory). A counter that goes up began at its initial value, or at nought,
 * and is spent at its limit; one that goes down began at its initial value and is spent at its limit, or at nought. Where neither end says
 * how much there was in all, that is not made up.
 */
export function readAssetLife({ type, direction, initial, limit, value }: AssetLife): LifeRead {
  const basis = BASES[type];
  const no = (reason: string): LifeRead => ({ ok: false, reason });
  if (!basis) return no(`a life of type "${type}" is none that is known`);
  if (direction !== 'UP' && direction !== 'DOWN')
    return no(`it is not said whether its ${basis} are counted up or down`);
  const up = direction === 'UP';
  const ends = up ? limit : initial;
  if (ends === null)
    return no(`how many ${basis} it is good for is not said: it ${up ? 'has no limit' : 'began nowhere'}`);
  const full = up ? ends - (initial ?? 0) : ends - (limit ?? 0);
  const left = up ? ends - value : value - (limit ?? 0);
  if (!(full > 0)) return no(`it would be good for ${full} ${basis}`);
  if (left > full) return no(`more ${basis} are left than it is good for`);
  return { ok: true, basis, full, left };
}
