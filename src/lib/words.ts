import type { LifeBasis } from '$core/life/count';
import { MILLISECONDS_PER_MINUTE } from '$core/life/count';

/** Words that several screens share. */
export const CHANGER_WORDS: Readonly<Record<string, string>> = {
  randomAccess: 'random access',
  fixedCarousel: 'fixed-pocket carousel',
  turret: 'turret',
  rack: 'linear rack',
  chain: 'chain, random access',
  tray: 'outside tray',
};

export const placeWord = (changer: string) =>
  changer === 'turret' ? 'station' : changer === 'rack' ? 'fork' : 'pocket';

/** A life counter's value in the unit people count in. */
export function lifeWords(value: number, basis: LifeBasis): string {
  if (basis === 'minutes') return `${(value / MILLISECONDS_PER_MINUTE).toFixed(1).replace('-', '−')} min`;
  return `${String(value).replace('-', '−')} ${basis === 'pieces' ? 'pcs' : 'holes'}`;
}
