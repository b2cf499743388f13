import { traitsOf, type ChangerKind } from '$core/changer/traits';
import type { LifeBasis } from '$core/life/count';
import { PER_SHOWN } from '$core/life/count';

/** Words that several screens share. */
export const placeWord = (kind: ChangerKind) => traitsOf({ kind }).place;

/** A life counter's value in the unit people count in. */
export function lifeWords(value: number, basis: LifeBasis): string {
  if (basis === 'minutes') return `${(value / PER_SHOWN.minutes).toFixed(1).replace('-', '−')} min`;
  if (basis === 'wear') return `${(value / PER_SHOWN.wear).toFixed(3).replace('-', '−')} mm`;
  return `${String(value).replace('-', '−')} ${basis === 'pieces' ? 'pcs' : 'holes'}`;
}
