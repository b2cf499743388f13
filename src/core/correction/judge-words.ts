import { largest, smallest } from '../inspection/feature.ts';
import type { LengthUnit } from '../units/length.ts';
import { bandOf, type DecidedSize } from './decide.ts';
import type { EdgeState } from './edge-state.ts';
import type { Foretold, Judgement, JudgedSize, JudgeQuestion } from './judge-question.ts';

type Say = (verdict: 'leave', reason: string) => Judgement;

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
  const { mean, noise } = decided[index]!;
  const { error } = state.sizes[index]!;
  const by = Math.min(...size.moves.map((each) => Math.abs(each.by)));
  const rivals = sizes.filter(
    (other, i) =>
      i !== index &&
      decided[i]!.moves.some(({ register }) => size.moves.some((each) => each.register === register)),
  );
  const band = bandOf(decided[index]!);
  const jumped = jumpWords(question, state, size, signed);
  if (Math.abs(mean) <= band && error > 0.6 * state.sizes[index]!.noise)
    return say(
      'leave',
      `Leave it: ${words} stands ${signed(mean)} ${unit} from target, but that is known to no better than ±${show(2 * error)}. Measure more parts, or tick first-off if it was just set up.${jumped}`,
    );
  if (Math.abs(mean) <= band)
    return say(
      'leave',
      `Leave it: ${words} stands ${signed(mean)} ${unit} from target, known to ±${show(2 * error)}. With parts that differ by ±${show(noise)} it is moved from ±${show(band)} on; chasing it would add spread.${ahead(decided[index]!, band, size, { signed, unit })}${jumped}`,
    );
  if (Math.abs(mean) <= (increment * by) / 2)
    return say(
      'leave',
      `Leave it: ${words} is ${signed(mean)} ${unit}, less than half a step of the register.${jumped}`,
    );
  if (rivals.length > 0)
    return say(
      'leave',
      `Leave it: ${words} is ${signed(mean)} ${unit} from target, but its row also cuts ${rivals.map(({ name }) => name).join(' and ')}, and moving it would put more out than it brings in. Give ${size.name} a row of its own.${jumped}`,
    );
  return say(
    'leave',
    `Leave it: ${words} is ${signed(mean)} ${unit} from target${driftWords(decided[index]!, unit, signed)}, and ${mean * decided[index]!.drift < 0 ? 'is on its way back by itself' : 'no whole step of the register would bring it nearer'}.${jumped}`,
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

/** What a joint decision costs the sizes that share a row, as a sentence; empty where the row cuts no other that is known of. */
export function compromise(foretold: readonly Foretold[], size: JudgedSize, proven: boolean): string {
  const shared = foretold.filter(({ name }) => name !== size.name);
  if (shared.length === 0) return '';
  const names = shared.map(({ name }) => name).join(' and ');
  if (foretold.some((each) => !each.in))
    return proven
      ? ` No setting of the row brings all of it in, with ${names} cut by it too: this is the best there is. Give one of them a row of its own.`
      : ` ${names} ${shared.length === 1 ? 'is' : 'are'} cut by it too, and no setting that brings all of it in was found. Give one of them a row of its own.`;
  return ` ${names} ${shared.length === 1 ? 'is' : 'are'} cut by it too, and stay${shared.length === 1 ? 's' : ''} in.`;
}
