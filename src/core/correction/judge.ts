import { largest, smallest, standing, toleranceWidth, withoutRegister } from '../inspection/feature.ts';
import { REGISTER_WORDS } from '../inspection/register-words.ts';
import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length } from '../units/length.ts';
import { byPlace } from './by-place.ts';
import { bySchool } from './by-school.ts';
import { decide, type DecidedSize } from './decide.ts';
import { edgeState, type EdgeState } from './edge-state.ts';
import {
  begunAt,
  isAlike,
  modelOf,
  type Foretold,
  type Judgement,
  type JudgedReading,
  type JudgedSize,
  type JudgeQuestion,
  type RowChange,
} from './judge-question.ts';
import {
  compromise,
  countedIn,
  driftWords,
  jumpWords,
  leave,
  middleOf,
  movedUnseen,
  placesApart,
  waitsForOthers,
} from './judge-words.ts';
import type { Step } from './policies.ts';
import { asIfKeyed, stillWorth, worth } from './still-worth.ts';
import { direction, plainIncrement } from './propose-words.ts';
import { questionReading } from './question-reading.ts';
import { registerDecimals } from '../units/register-decimals.ts';

/**
 * A reading's answer (H14): leave the rows alone, or move them, jointly for all sizes they cut. What is known of a size comes from
 * all readings since its edges began, each held against the offsets its part was cut with.
 */
export function judge(given: JudgeQuestion): Judgement {
  const question = byPlace(given);
  const { unit, sizes, registers, increment } = question;
  const taken = question.readings[question.taken]!;
  const size = sizes[taken.size]!;
  const decimals = registerDecimals(unit, increment);
  const show = (value: number) => formatLength(nanometres(Math.round(value)), unit, { decimals });
  const signed = (value: number) =>
    formatLength(nanometres(Math.round(value)), unit, { decimals, sign: 'always' });
  /** What is estimated from several readings is known finer than a register's step. */
  const fine = (value: number) =>
    formatLength(nanometres(Math.round(value)), unit, { decimals: decimals + 1, sign: 'always' });
  const partOut = standing(taken.measured, size) !== 'in';
  const off = taken.measured - size.target;
  const meant = taken.meant ?? [];
  const arithmetic: Step[] = [
    ...(meant.length > 1
      ? [
          {
            label: `mean of ${meant.length} readings of this part`,
            sum: `(${meant.map(show).join(' + ')}) ÷ ${meant.length} = ${show(taken.measured)} ${unit}`,
          },
        ]
      : []),
    {
      label: 'deviation = measured − target',
      sum: `${show(taken.measured)} − ${show(size.target)} = ${signed(off)} ${unit}`,
    },
  ];
  const say = (verdict: 'leave' | 'measureAgain' | 'noRegister' | 'locked', reason: string): Judgement => ({
    verdict,
    reason,
    arithmetic,
    partOut,
  });
  if (size.moves.length === 0) return say('noRegister', withoutRegister(size));

  const known = question.readings.filter((reading) => reading.held !== null);
  const state = edgeState(modelOf(question));
  const place = known.indexOf(taken);
  if (!question.confirmed) {
    const expected = expectation(question, state, place, size);
    const doubt = questionReading({
      measured: taken.last ?? taken.measured,
      ...expected,
      lower: smallest(size),
      upper: largest(size),
      unit,
      others: sizes
        .filter((other) => !isAlike(other, size))
        .map((other) => ({ name: other.name, target: other.target, width: toleranceWidth(other) })),
    });
    if (doubt) return say('measureAgain', asIfKeyed(question, size, expected) ?? doubt);
  }
  const locked = size.moves.map(({ register }) => registers[register]!.locked).find((why) => why !== null);
  if (locked) return say('locked', locked);
  if (place < 0)
    return say(
      'leave',
      'Leave it: nobody knows with which offset this part was cut, so it says nothing about the offset of now. Measure a part that was surely cut since.',
    );

  const now = sizes.map((each) =>
    each.moves.reduce((sum, { register, by }) => sum + by * registers[register]!.value, 0),
  );
  const measured = measuredSince(question, known);
  const { own, others } = approvedOf(question, size);
  const decided = sizes.map((each, i): DecidedSize => {
    const of = state.sizes[i]!;
    return {
      // what is approved for another row is taken to be keyed
      mean: of.mean + now[i]! + movedBy(each, others),
      error: of.error,
      noise: of.noise,
      drift: of.drift,
      driftError: of.driftError,
      lower: smallest(each) - each.target,
      upper: largest(each) - each.target,
      moves: measured[i] ? each.moves : [],
      share: 1 / sizes.filter((other, k) => other === each || (isAlike(other, each) && measured[k])).length,
    };
  });
  const asked = bySchool(question, known, decided[taken.size]!, partOut, { signed, show });
  arithmetic.push(...asked.steps);
  if (asked.wait) return say('leave', asked.wait);
  decided[taken.size] = asked.size;
  // a set-up error is taken out at once, in all places
  if (question.firstOff)
    for (const [i, each] of sizes.entries())
      if (isAlike(each, size)) decided[i] = { ...decided[i]!, error: 0, noise: 0 };
  const waits = own.some((change) => change !== 0)
    ? { approved: stillWorth(question, decided, own, show) }
    : {};

  // a reading moves the rows that its own size answers to; what else they cut has its say, and other rows have their own readings
  const rows = registers.map(({ value }, i) => ({
    held: value,
    increment,
    largest: size.moves.some(({ register }) => register === i) ? Infinity : 0,
    limit: Infinity,
  }));
  const decision = decide({ rows, sizes: decided, every: question.every });
  const changes = decision.changes.flatMap((change, register) =>
    change === 0 ? [] : [{ change, register }],
  );
  if (changes.length === 0)
    return {
      ...leave(question, state, decided, taken.size, asked.words, {
        say: (verdict, reason) => say(verdict, reason + countedIn(question, others)),
        signed,
        show,
      }),
      ...waits,
    };
  // somebody may turn the other one down, or its tool be changed: a change does good either way, or it waits
  const unkeyed = decided.map((each, i) => ({ ...each, mean: each.mean - movedBy(sizes[i]!, others) }));
  if (others.some((change) => change !== 0) && !worth(question, unkeyed, decision.changes))
    return { ...say('leave', waitsForOthers(question, others)), ...waits };
  const moved: RowChange[] = changes.map(({ change, register }) => {
    const { row, role, value } = registers[register]!;
    const cutBy = size.row === row ? size.tool : (size.other?.tool ?? size.tool);
    return {
      register,
      row,
      role,
      tool: cutBy,
      from: value,
      change: nanometres(change),
      to: nanometres(value + change),
    };
  });
  for (const { row, role, from, change, to } of moved)
    arithmetic.push({
      label: `${REGISTER_WORDS[role]} of row ${row}, in steps of ${plainIncrement(increment, unit)}`,
      sum: `${signed(from)} ${signed(change)} = ${signed(to)} ${unit}`,
    });
  const past = moved.find(({ to, from }) => Math.abs(to) > question.limit && Math.abs(to) > Math.abs(from));
  if (past)
    return {
      ...say(
        'leave',
        `Leave it: ${REGISTER_WORDS[past.role]} of row ${past.row} would stand at ${signed(past.to)} ${unit}, past its limit of ±${show(question.limit)}. Wear does not grow that far: look at the tool, the row and the rougher. Only the lead may raise the limit.`,
      ),
      ...waits,
    };
  const before = decided[taken.size]!.mean;
  const middle = middleOf(sizes, decided, taken.size, asked.words);
  const after =
    before + size.moves.reduce((sum, { register, by }) => sum + by * decision.changes[register]!, 0);
  const foretold = sizes.flatMap((each, i): Foretold[] =>
    measured[i] && each.moves.some(({ register }) => decision.changes[register] !== 0)
      ? [foretell(each, i === taken.size ? after : decision.after[i]!)]
      : [],
  );
  for (const each of foretold)
    if (each.name !== size.name)
      arithmetic.push({ label: `${each.name} is then expected at`, sum: `${show(each.size)} ${unit}` });
  return {
    verdict: 'change',
    ...waits,
    rows: moved,
    sizeBefore: nanometres(Math.round(size.target + before)),
    expectedSize: nanometres(Math.round(size.target + after)),
    foretold,
    reason: `${direction(size.kind, nanometres(Math.round(middle.mean)))}: ${middle.words} is ${asked.fine ? fine(middle.mean) : signed(middle.mean)} ${unit} from target${driftWords(decided[taken.size]!, unit, signed)}, so ${moved
      .map(
        ({ role, row, change }) =>
          `${REGISTER_WORDS[role]} of row ${row} goes ${change < 0 ? 'minus' : 'plus'} ${show(Math.abs(change))}`,
      )
      .join(
        ' and ',
      )}.${compromise(foretold, size, { sizes, proven: decision.proven })}${placesApart(question, decided, taken.size, show)}${jumpWords(question, state, size, signed)}${movedUnseen(question, measured, decision.changes, signed)}${countedIn(question, others)}`,
    arithmetic,
    partOut,
  };
}

/** What is approved and not keyed yet: for rows that a size answers to, and for others, for each register. */
function approvedOf({ registers, approved }: JudgeQuestion, { moves }: JudgedSize) {
  const changes = registers.map((_, i) => approved?.[i] ?? 0);
  const isOwn = changes.map((_, i) => moves.some(({ register }) => register === i));
  return {
    own: changes.map((change, i) => (isOwn[i] ? change : 0)),
    others: changes.map((change, i) => (isOwn[i] ? 0 : change)),
  };
}

/** By how much changes of the registers move a size. */
const movedBy = ({ moves }: Pick<JudgedSize, 'moves'>, changes: readonly number[]) =>
  moves.reduce((sum, { register, by }) => sum + by * changes[register]!, 0);

const foretell = (size: JudgedSize, deviation: number): Foretold => ({
  name: size.name,
  size: nanometres(Math.round(size.target + deviation)),
  in: size.target + deviation >= smallest(size) && size.target + deviation <= largest(size),
});

/** What a reading was expected to be before it was taken. The first of a new edge, or of a new set-up, may be anything. */
function expectation(
  question: JudgeQuestion,
  state: EdgeState,
  place: number,
  size: JudgedSize,
): { expected: Length; deviation: number; open: boolean } {
  const { measured } = question.readings[question.taken]!;
  const innovation = place < 0 ? null : state.innovations[place]!;
  const width = toleranceWidth(size);
  if (innovation === null || innovation.deviation > 3 * width)
    return { expected: size.target, deviation: width / 4, open: true };
  return {
    expected: nanometres(Math.round(measured - innovation.off)),
    deviation: innovation.deviation,
    open: false,
  };
}

/** Sizes measured since their edges and their set-up began: of the others nothing is known now. */
function measuredSince(question: JudgeQuestion, known: readonly JudgedReading[]): boolean[] {
  return question.sizes.map((_, i) => {
    const begun = begunAt(question, i);
    return known.some((reading) => reading.size === i && reading.at >= begun);
  });
}
