import { formatLength } from '../units/format-length.ts';
import { nanometres, type LengthUnit } from '../units/length.ts';
import { registerDecimals } from '../units/register-decimals.ts';
import type { Length } from '../units/length.ts';
import type { Crossed, RegisterStep, SizeDid, Stretch } from './crossed-moves.ts';

/** How lengths and times of a machine are written. */
export interface CrossedWritten {
  unit: LengthUnit;
  increment: Length;
  when: (time: number) => string;
}

const NOBODY = 'somebody at the control';
const parts = (count: number) => (count === 1 ? '1 part' : `${count} parts`);

/** Who moved a register by how much and when, in a line. */
export function stepWords({ person, from, to, time }: RegisterStep, written: CrossedWritten): string {
  const { unit, increment, when } = written;
  const change = formatLength(nanometres(to - from), unit, {
    sign: 'always',
    decimals: registerDecimals(unit, increment),
  });
  return `${person ?? NOBODY} ${change} ${unit}, ${person === null ? 'found ' : ''}${when(time)}`;
}

/** What came of it, in a sentence that says what to do. */
export function crossedWords(crossed: Crossed): string {
  if (crossed.kind === 'nudged')
    return crossed.worse === null
      ? 'Moved to and fro. Leave it until a few parts are measured: it cannot be told yet whether that did any good.'
      : crossed.worse
        ? 'Moved to and fro, and the parts spread more for it than if nobody had touched it. Leave it alone until a trend shows.'
        : 'Moved to and fro, and the parts spread less for it: the process itself steps. Look for what does, such as two pallets or two chucks.';
  if (crossed.kind === 'twice' && crossed.righted)
    return 'The same deviation was answered twice, and the second answer was taken back since.';
  if (crossed.kind === 'twice')
    return crossed.needless === 'second'
      ? 'The same deviation was answered twice: the size was right before the second. Measure, and let the next correction take it back.'
      : 'The same deviation may have been answered twice. Measure a part before anything more is keyed.';
  switch (crossed.needless) {
    case 'first':
      return 'Taken back, and rightly: the size was better before the first.';
    case 'second':
      return 'Taken back, though the first was right: the size stands where it stood before. Ask why before it is keyed again.';
    case null:
      return 'Taken back. Which of the two was right cannot be told from what was measured.';
  }
}

/** What a size did, before, between and after; empty where nothing of it was measured. */
export function didWords(
  { name, before, between, after }: SizeDid,
  { unit, increment }: CrossedWritten,
): string {
  const decimals = registerDecimals(unit, increment);
  const one = (word: string, stretch: Stretch | null) =>
    stretch === null
      ? []
      : [
          `${word} ${formatLength(nanometres(Math.round(stretch.mean)), unit, { sign: 'always', decimals })} (${parts(stretch.parts)})`,
        ];
  const told = [...one('before', before), ...one('between', between), ...one('after', after)];
  return told.length === 0 ? '' : `${name} from its target: ${told.join(', ')}`;
}

/** How the parts spread while a register was moved to and fro, and would have. */
export const spreadWords = (
  { name, parts: count, asCut, leftAlone }: { name: string; parts: number; asCut: number; leftAlone: number },
  { unit, increment }: CrossedWritten,
): string => {
  const decimals = registerDecimals(unit, increment) + 1;
  const show = (value: number) => formatLength(nanometres(Math.round(value)), unit, { decimals });
  return `${name}: standard deviation ${show(asCut)} ${unit} as cut, ${show(leftAlone)} left alone (${parts(count)})`;
};
