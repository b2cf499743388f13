import { REGISTER_WORDS } from '../inspection/register-words.ts';
import { lossOf, type DecidedSize } from './decide.ts';
import type { JudgedSize, JudgeQuestion, StillWorth } from './judge-question.ts';

/**
 * Whether a correction that was approved, and as far as is recorded not keyed, would still do good by all parts measured since: what it
 * leaves is held against what standing still leaves, by the measure that decides corrections. Parts that come to target by themselves
 * have two explanations, that it is not needed and that somebody has keyed it already; only the control can tell, so the row is read
 * before anything is keyed.
 *
 * @param decided what is known of each size, with the registers as they are on record
 * @param changes what was approved for each register, nanometres; 0: nothing
 */
export function stillWorth(
  question: Pick<JudgeQuestion, 'registers' | 'sizes' | 'every' | 'unit'>,
  decided: readonly DecidedSize[],
  changes: readonly number[],
  show: (value: number) => string,
): StillWorth {
  const { registers, sizes, every, unit } = question;
  if (worth(question, decided, changes)) return { worth: true };
  const still = lossOf(
    decided,
    changes.map(() => 0),
    every,
  );
  const keyed = lossOf(decided, changes, every);
  // the size that it would do most harm to
  const harm = sizes.map((_, i) => keyed.bySize[i]! - still.bySize[i]!);
  const worst = harm.indexOf(Math.max(...harm));
  const { name, target } = sizes[worst]!;
  const { mean, moves } = decided[worst]!;
  const after = moves.reduce((sum, { register, by }) => sum + by * changes[register]!, mean);
  const rows = registers.flatMap(({ row, role }, i) =>
    changes[i] === 0 ? [] : [`${REGISTER_WORDS[role]} of row ${row}`],
  );
  return {
    worth: false,
    reason: `Key nothing yet: read ${rows.join(' and ')} off the control first. By the parts measured since, ${name} stands at ${show(target + mean)} ${unit}, and with the correction that was approved and waits it would come to ${show(target + after)} ${unit}. Perhaps it is not needed any more, perhaps somebody has keyed it already: see what the row shows.`,
  };
}

/** Whether changes of the registers leave less than standing still does, by the measure that decides corrections. */
export function worth(
  { every }: Pick<JudgeQuestion, 'every'>,
  decided: readonly DecidedSize[],
  changes: readonly number[],
): boolean {
  const still = lossOf(
    decided,
    changes.map(() => 0),
    every,
  );
  const keyed = lossOf(decided, changes, every);
  return (
    keyed.outside < still.outside - 1e-9 || (keyed.outside < still.outside + 1e-9 && keyed.loss < still.loss)
  );
}

/** How far from what it would be with the correction keyed a reading may lie to be taken for that, in standard deviations. */
const NEAR = 2;

/** What a surprising reading may be where a correction waits: a part that was cut with it. Null where it is not. */
export function asIfKeyed(
  {
    registers,
    readings,
    taken,
    approved,
  }: Pick<JudgeQuestion, 'registers' | 'readings' | 'taken' | 'approved'>,
  { moves }: Pick<JudgedSize, 'moves'>,
  { expected, deviation, open }: { expected: number; deviation: number; open: boolean },
): string | null {
  const shift = moves.reduce((sum, { register, by }) => sum + by * (approved?.[register] ?? 0), 0);
  if (
    open ||
    shift === 0 ||
    Math.abs((readings[taken]!.last ?? readings[taken]!.measured) - expected - shift) > NEAR * deviation
  )
    return null;
  const rows = moves
    .filter(({ register }) => approved![register])
    .map(({ register }) => registers[register]!.row);
  return `This part measures as if the correction of row ${rows.join(' and ')} that waits to be keyed had been keyed before it was cut. If it was, read it back first and say from which part on, then type this again. If not, measure again.`;
}
