import { largest, smallest, toleranceWidth } from '../inspection/feature.ts';
import { REGISTER_WORDS } from '../inspection/register-words.ts';
import type { LengthUnit } from '../units/length.ts';
import { capital } from '../words/capital.ts';
import { bandOf, type DecidedSize } from './decide.ts';
import type { EdgeState } from './edge-state.ts';
import {
  isAlike,
  type Foretold,
  type Judgement,
  type JudgedSize,
  type JudgeQuestion,
} from './judge-question.ts';

type Say = (verdict: 'leave', reason: string) => Judgement;

const COUNTED = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight'];

/** How far off a size stands, from where on it is moved, and what that is: of one that is cut in several places the middle of those that were measured. */
export function middleOf(
  sizes: readonly JudgedSize[],
  decided: readonly DecidedSize[],
  index: number,
  words: string,
): { mean: number; band: number; words: string } {
  const places = decided.filter(
    ({ moves }, i) => i === index || (moves.length > 0 && isAlike(sizes[i]!, sizes[index]!)),
  );
  // the same move must pay for all of them
  const band = Math.max(...places.map(bandOf));
  if (places.length === 1) return { mean: decided[index]!.mean, band, words };
  return {
    mean: places.reduce((sum, each) => sum + each.mean, 0) / places.length,
    band,
    words: `the middle of its ${COUNTED[places.length] ?? places.length} places`,
  };
}

/** Why nothing is moved. */
export function leave(
  question: JudgeQuestion,
  state: EdgeState,
  decided: readonly DecidedSize[],
  index: number,
  words: string,
  { say, signed, show }: { say: Say; signed: (value: number) => string; show: (value: number) => string },
): Judgement {
  const { unit, sizes, increment } = question;
  const size = sizes[index]!;
  const { noise } = decided[index]!;
  const { mean, band, words: what } = middleOf(sizes, decided, index, words);
  const { error } = state.sizes[index]!;
  const by = Math.min(...size.moves.map((each) => Math.abs(each.by)));
  const rivals = sizes.filter(
    (other, i) =>
      i !== index &&
      !isAlike(other, size) &&
      decided[i]!.moves.some(({ register }) => size.moves.some((each) => each.register === register)),
  );
  const jumped = jumpWords(question, state, size, signed) + placesApart(question, decided, index, show);
  if (Math.abs(mean) <= band && error > 0.6 * state.sizes[index]!.noise)
    return say(
      'leave',
      `Leave it: ${what} stands ${signed(mean)} ${unit} from target, but that is known to no better than ±${show(2 * error)}. Measure more parts, or tick first-off if it was just set up.${jumped}`,
    );
  if (Math.abs(mean) <= band)
    return say(
      'leave',
      `Leave it: ${what} stands ${signed(mean)} ${unit} from target, known to ±${show(2 * error)}. With parts that differ by ±${show(noise)} it is moved from ±${show(band)} on; chasing it would add spread.${ahead(decided[index]!, band, size, { signed, unit })}${jumped}`,
    );
  if (Math.abs(mean) <= (increment * by) / 2)
    return say(
      'leave',
      `Leave it: ${what} is ${signed(mean)} ${unit}, less than half a step of the register.${jumped}`,
    );
  if (rivals.length > 0)
    return say(
      'leave',
      `Leave it: ${what} is ${signed(mean)} ${unit} from target, but its row also cuts ${rivals.map(({ name }) => name).join(' and ')}, and moving it would put more out than it brings in. Give ${size.name} a row of its own.${jumped}`,
    );
  return say(
    'leave',
    `Leave it: ${what} is ${signed(mean)} ${unit} from target${driftWords(decided[index]!, unit, signed)}, and ${mean * decided[index]!.drift < 0 ? 'is on its way back by itself' : 'no whole step of the register would bring it nearer'}.${jumped}`,
  );
}

/** A drift that is surely one, as half a sentence; empty where there is none. */
export const driftWords = (
  { drift, driftError }: DecidedSize,
  unit: LengthUnit,
  signed: (value: number) => string,
): string =>
  drift === 0 || Math.abs(drift) < 2 * driftError
    ? ''
    : `, drifting by ${signed(drift * 10)} ${unit} in ten parts`;

/** For how many readings a jump is news. */
const NEWS = 6;

/**
 * What a row that jumped does to a size, as a sentence; empty where it did not, or long ago, or where an offset was keyed between the
 * same two parts: that is asked about as a correction that did not take.
 */
export function jumpWords(
  { registers, readings, next, unit }: JudgeQuestion,
  { jump }: Pick<EdgeState, 'jump'>,
  { moves }: Pick<JudgedSize, 'moves'>,
  signed: (value: number) => string,
): string {
  const by = moves.find(({ register }) => register === jump?.register)?.by;
  if (!jump || by === undefined || jump.readings > NEWS || !registers[jump.register]) return '';
  const held = readings.flatMap(({ at, held }) =>
    held !== null && at >= jump.after && at <= jump.before ? [held[jump.register]!] : [],
  );
  if (held.some((each) => each !== held[0])) return '';
  const parts = Math.max(1, Math.round(next - jump.before));
  return ` It jumped by ${signed(jump.by * by)} ${unit} about ${parts === 1 ? 'a part' : `${parts} parts`} ago, which no wear does: look at the edge, the clamping and for chips under the part before the next.`;
}

/** Where a size that surely drifts goes: parts until it is worth a move, and until a limit; empty where it does not. */
function ahead(
  { mean, drift, driftError }: DecidedSize,
  band: number,
  size: JudgedSize,
  { signed, unit }: { signed: (value: number) => string; unit: LengthUnit },
): string {
  if (Math.abs(drift) < 2 * driftError || drift === 0) return '';
  const up = drift > 0;
  const until = (level: number) => Math.max(1, Math.round((level - mean) / drift));
  const limit = (up ? largest(size) : smallest(size)) - size.target;
  return ` It drifts by ${signed(drift * 10)} ${unit} in ten parts: in about ${until(up ? band : -band)} parts it is moved, in about ${until(limit)} it would be out.`;
}

/** Places nearer to each other than this share of the tolerance need nothing (common practice, no source). */
const NEAR = 0.1;

/** That one place surely stands off another, as a sentence: no row moves one without the other. Empty where none does. */
export function placesApart(
  { sizes, unit }: Pick<JudgeQuestion, 'sizes' | 'unit'>,
  decided: readonly DecidedSize[],
  index: number,
  show: (value: number) => string,
): string {
  const size = sizes[index]!;
  const places = sizes
    .flatMap((each, i) => {
      const words = each.place?.words;
      return words && isAlike(each, size) && decided[i]!.moves.length > 0 ? [{ words, ...decided[i]! }] : [];
    })
    .sort((a, b) => b.mean - a.mean);
  const [high, low] = [places[0], places.at(-1)];
  if (!high || !low || high === low) return '';
  const apart = high.mean - low.mean;
  // what is common to both is counted twice: it is rather said too late than in vain
  if (apart < 2 * Math.hypot(high.error, low.error) || apart < NEAR * toleranceWidth(size)) return '';
  const named = ({ words }: { words: string }) => (words.startsWith('pallet') ? words : `the ${words}`);
  return ` ${capital(named(high))} measures about ${show(apart)} ${unit} more than ${named(low)}: no row moves one without the other, so they are kept about the middle. Look at how the parts are clamped there, and at the work offsets.`;
}

/** Sizes of the same program that move with a correction and of which nothing is known since their edges began, as a sentence; empty where there are none. */
export function movedUnseen(
  { sizes, unit, readings, taken }: Pick<JudgeQuestion, 'sizes' | 'unit' | 'readings' | 'taken'>,
  measured: readonly boolean[],
  changes: readonly number[],
  signed: (value: number) => string,
): string {
  const moved = sizes.flatMap((size) => {
    const by = size.moves.reduce((sum, { register, by: each }) => sum + each * changes[register]!, 0);
    const seen = sizes.some((other, k) => measured[k] && isAlike(other, size));
    // another program is set up before it runs, and measured then
    const other = size.programNumber !== sizes[readings[taken]!.size]!.programNumber;
    return seen || other || by === 0 ? [] : [{ name: size.name, by }];
  });
  const names = new Map(moved.map(({ name, by }) => [name, by]));
  if (names.size === 0) return '';
  const told = [...names].map(([name, by]) => `${name} moves by ${signed(by)} ${unit} with it`).join(', ');
  return ` ${told}, and ${names.size === 1 ? 'was' : 'were'} not measured since ${names.size === 1 ? 'its' : 'their'} edge or set-up began: measure ${names.size === 1 ? 'it' : 'them'} too.`;
}

const waitingRows = ({ registers }: Pick<JudgeQuestion, 'registers'>, others: readonly number[]) =>
  registers
    .flatMap(({ row, role }, i) => (others[i] === 0 ? [] : [`${REGISTER_WORDS[role]} of row ${row}`]))
    .join(' and ');

/** That an answer counts with what is approved for other rows, as a sentence; empty where nothing is. */
export const countedIn = (question: Pick<JudgeQuestion, 'registers'>, others: readonly number[]): string =>
  others.every((change) => change === 0)
    ? ''
    : ` What is approved for ${waitingRows(question, others)}, and not keyed yet, is counted in.`;

/** That a correction does good only if another that waits is keyed as well, as a sentence. */
export function waitsForOthers(
  question: Pick<JudgeQuestion, 'registers' | 'sizes'>,
  others: readonly number[],
): string {
  const names = question.sizes
    .filter(({ moves }) => moves.some(({ register }) => others[register] !== 0))
    .map(({ name }) => name);
  return `Wait: a correction of ${waitingRows(question, others)} is approved and not keyed yet, and ${names.join(' and ')} ${names.length === 1 ? 'answers' : 'answer'} to it. Key it first, or turn it down, then type this again.`;
}

/** What a joint decision costs the sizes that share a row, as a sentence; empty where the row cuts no other that is known of. */
export function compromise(
  foretold: readonly Foretold[],
  size: JudgedSize,
  { sizes, proven }: { sizes: readonly JudgedSize[]; proven: boolean },
): string {
  const own = sizes.filter((each) => isAlike(each, size)).map(({ name }) => name);
  const shared = foretold.filter(({ name }) => !own.includes(name));
  if (shared.length === 0 && foretold.some((each) => !each.in) && own.length > 1)
    return proven
      ? ' No setting of the row brings all places in: this is the best there is, until the places are brought together.'
      : ' No setting of the row that brings all places in was found: bring the places together.';
  if (shared.length === 0) return '';
  const names = shared.map(({ name }) => name).join(' and ');
  if (foretold.some((each) => !each.in))
    return proven
      ? ` No setting of the row brings all of it in, with ${names} cut by it too: this is the best there is. Give one of them a row of its own.`
      : ` ${names} ${shared.length === 1 ? 'is' : 'are'} cut by it too, and no setting that brings all of it in was found. Give one of them a row of its own.`;
  return ` ${names} ${shared.length === 1 ? 'is' : 'are'} cut by it too, and stay${shared.length === 1 ? 's' : ''} in.`;
}
