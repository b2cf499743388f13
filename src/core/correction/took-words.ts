import type { Took } from './took.ts';

const IN_SHORT: Readonly<Record<Took, string>> = {
  took: 'took',
  notKeyed: 'nothing moved',
  wrongSign: 'wrong way',
  radiusForDiameter: 'half as far',
  units: 'units',
  decimalPoint: 'decimal point',
  keyedTwice: 'keyed twice',
  valueSign: 'sign of the value',
  changeAsValue: 'change keyed as value',
  digitsSwapped: 'digits swapped',
  doubtful: 'rather not',
  waiting: 'cannot be told yet',
  tooSmallToTell: 'too small to tell',
  unclear: 'unclear',
};

/**
 * Whether a correction took, as a list says it. Once the row has moved on, or another edge cuts, no later part tells: what was
 * open then stays open.
 *
 * @param took the last verdict; null: no part was measured since it was keyed
 * @param movedOn whether the row moved, or its edge changed, since it was keyed
 */
export function tookInShort(took: Took | null, movedOn: boolean): string {
  if (took === null) return movedOn ? 'no part measured before the next' : 'no reading since';
  return took === 'waiting' && movedOn ? 'could not be told' : IN_SHORT[took];
}

/**
 * The same in a sentence.
 *
 * @param said what the parts said when it was last judged
 */
export function tookSentence(took: Took | null, said: string | null, movedOn: boolean): string {
  if (took === null || said === null)
    return movedOn
      ? 'Nobody can tell any more whether it took: no part was measured before that.'
      : 'Did it take? The next reading of this feature will tell.';
  if (!movedOn) return said;
  if (took === 'waiting')
    return 'Nobody can tell any more whether it took: too few parts were measured before that.';
  return took === 'doubtful' ? 'By the parts measured before that it likelier did not take.' : said;
}
