import {
  largest,
  smallest,
  standing,
  toleranceWidth,
  withoutRegister,
  type Bounds,
  type Limits,
  type RegisterRole,
} from '../inspection/feature.ts';
import { REGISTER_WORDS } from '../inspection/register-words.ts';
import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { bandOf, decide, type DecidedSize, type Decision } from './decide.ts';
import { edgeState, type EdgeState, type ModelEdge, type ModelReading } from './edge-state.ts';
import { deviationsOf, estimateBy, POLICY_RULES, schoolOf, type Policy, type Step } from './policies.ts';
import { direction, plainIncrement } from './propose-words.ts';
import { questionReading } from './question-reading.ts';
import { registerDecimals } from './register-text.ts';

/** A size of the set-up: what it should be, what moves it, and by which school it is corrected. */
export interface JudgedSize extends Limits, Bounds {
  name: string;
  target: Length;
  policy: Policy;
  deadBand: Length;
  averageOf: number;
  moves: readonly { register: number; by: number }[];
}

export interface JudgedRegister {
  row: number;
  role: RegisterRole;
  value: Length;
  /** Why nothing is proposed for it until somebody has looked; null: nothing is in the way. */
  locked: string | null;
}

/** A reading with what its part was cut with; `held` null: that cannot be told. */
export interface JudgedReading {
  size: number;
  at: number;
  measured: Length;
  held: readonly number[] | null;
}

export interface JudgeQuestion {
  unit: LengthUnit;
  increment: Length;
  /** The largest value a wear register should ever hold. */
  limit: Length;
  sizes: readonly JudgedSize[];
  registers: readonly JudgedRegister[];
  /** All that count, the newest part last. */
  readings: readonly JudgedReading[];
  edges: readonly ModelEdge[];
  /** Which of the readings was just taken. */
  taken: number;
  /** It is the first-off of a set-up: a set-up error is taken out at once, whatever the school. */
  firstOff: boolean;
  /** Somebody measured again and stands by it. */
  confirmed: boolean;
  /** Parts until the next reading. */
  every: number;
  /** Position of the next part to be cut. */
  next: number;
}

/** What one row is to be set to. */
export interface RowChange {
  register: number;
  row: number;
  role: RegisterRole;
  tool: number;
  from: Length;
  change: Length;
  to: Length;
}

/** What a size is expected to become. */
export interface Foretold {
  name: string;
  size: Length;
  in: boolean;
}

export type Judgement = {
  /** One sentence that a setter would say. */
  reason: string;
  arithmetic: Step[];
  /** The part just measured is outside its limits: hold it. */
  partOut: boolean;
} & (
  | { verdict: 'leave' | 'measureAgain' | 'noRegister' | 'locked' }
  | {
      verdict: 'change';
      rows: RowChange[];
      /** The size that the change starts from, and what it is expected to become. */
      sizeBefore: Length;
      expectedSize: Length;
      /** All sizes the rows touch, where something is known of them. */
      foretold: Foretold[];
    }
);

/**
 * A reading's answer (H14): leave the rows alone, or move them, jointly for all sizes they cut. What is known of a size comes from
 * all readings since its edges began, each held against the offsets its part was cut with.
 */
export function judge(question: JudgeQuestion): Judgement {
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
  const arithmetic: Step[] = [
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
  const state = edgeState({
    registers: registers.length,
    sizes: sizes.map((each) => ({ tolerance: toleranceWidth(each), moves: each.moves })),
    readings: known.map((reading): ModelReading => ({
      size: reading.size,
      at: reading.at,
      deviation: reading.measured - sizes[reading.size]!.target,
      held: reading.held!,
    })),
    edges: question.edges,
    next: question.next,
  });
  const place = known.indexOf(taken);
  if (!question.confirmed) {
    const doubt = questionReading({
      measured: taken.measured,
      ...expectation(question, state, place, size),
      lower: smallest(size),
      upper: largest(size),
      unit,
      others: sizes
        .filter((other) => other !== size)
        .map((other) => ({ name: other.name, target: other.target, width: toleranceWidth(other) })),
    });
    if (doubt) return say('measureAgain', doubt);
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
  const decided = sizes.map((each, i): DecidedSize => {
    const of = state.sizes[i]!;
    return {
      mean: of.mean + now[i]!,
      error: of.error,
      noise: of.noise,
      drift: of.drift,
      driftError: of.driftError,
      lower: smallest(each) - each.target,
      upper: largest(each) - each.target,
      moves: measured[i] ? each.moves : [],
    };
  });
  const asked = bySchool(question, known, decided[taken.size]!, partOut, { signed, show });
  arithmetic.push(...asked.steps);
  if (asked.wait) return say('leave', asked.wait);
  decided[taken.size] = asked.size;

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
    return leave(question, state, decided, taken.size, asked.words, { say, signed, show });
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
    return say(
      'leave',
      `Leave it: ${REGISTER_WORDS[past.role]} of row ${past.row} would stand at ${signed(past.to)} ${unit}, past its limit of ±${show(question.limit)}. Wear does not grow that far: look at the tool, the row and the rougher. Only the lead may raise the limit.`,
    );
  const before = decided[taken.size]!.mean;
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
    rows: moved,
    sizeBefore: nanometres(Math.round(size.target + before)),
    expectedSize: nanometres(Math.round(size.target + after)),
    foretold,
    reason: `${direction(size.kind, nanometres(Math.round(before)))}: ${asked.words} is ${asked.fine ? fine(before) : signed(before)} ${unit} from target${driftWords(decided[taken.size]!, unit, signed)}, so ${moved
      .map(
        ({ role, row, change }) =>
          `${REGISTER_WORDS[role]} of row ${row} goes ${change < 0 ? 'minus' : 'plus'} ${show(Math.abs(change))}`,
      )
      .join(' and ')}.${compromise(question, decided, decision, measured, taken.size)}`,
    arithmetic,
    partOut,
  };
}

const foretell = (size: JudgedSize, deviation: number): Foretold => ({
  name: size.name,
  size: nanometres(Math.round(size.target + deviation)),
  in: size.target + deviation >= smallest(size) && size.target + deviation <= largest(size),
});

/** What a reading was expected to be before it was taken. A new edge's first reading may be anything. */
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

/** Sizes measured since the last change of an edge that cuts them: of the others nothing is known now. */
function measuredSince(question: JudgeQuestion, known: readonly JudgedReading[]): boolean[] {
  return question.sizes.map((size, i) => {
    const edge = Math.max(
      -Infinity,
      ...question.edges
        .filter((each) => size.moves.some(({ register }) => register === each.register))
        .map(({ at }) => at),
    );
    return known.some((reading) => reading.size === i && reading.at >= edge);
  });
}

interface BySchool {
  size: DecidedSize;
  words: string;
  wait: string | null;
  /** It is an estimate from several readings. */
  fine: boolean;
  steps: Step[];
}

/** How far off the size is, by the school that its feature was given; a first-off always by the model. */
function bySchool(
  question: JudgeQuestion,
  known: readonly JudgedReading[],
  model: DecidedSize,
  partOut: boolean,
  { signed, show }: { signed: (value: number) => string; show: (value: number) => string },
): BySchool {
  const { unit, registers } = question;
  const index = question.readings[question.taken]!.size;
  const size = question.sizes[index]!;
  const own = known.filter((reading) => reading.size === index);
  if (size.policy === 'model' || question.firstOff) {
    const n = own.length;
    return {
      // a set-up error is real, and is taken out at once
      size: question.firstOff ? { ...model, error: 0, noise: 0 } : model,
      words: n === 1 ? 'the first reading' : `by ${n} readings it`,
      fine: n > 1,
      wait: null,
      steps: [
        {
          label: n === 1 ? 'by this reading' : `by ${n} readings, the newer the more`,
          sum: `${signed(model.mean)} ${unit}, single parts ±${show(model.noise)}${Math.abs(model.drift) > 2 * model.driftError ? `, ${signed(model.drift * 10)} in ten parts` : ''}`,
        },
      ],
    };
  }
  // the older schools look at parts cut as the next will be, and at nothing else
  const present = own.filter(
    (reading) =>
      size.moves.every(({ register }) => reading.held![register] === registers[register]!.value) &&
      question.edges.every(
        ({ register, at }) => reading.at >= at || size.moves.every((each) => each.register !== register),
      ),
  );
  if (!present.includes(question.readings[question.taken]!))
    return {
      size: model,
      words: '',
      fine: false,
      steps: [],
      wait: 'Leave it: this part was cut before the last change of its row, so it is already answered. Measure a part that was cut since.',
    };
  const { deviation, words, wait, steps } = estimateBy(
    schoolOf(size.policy),
    {
      deviations: deviationsOf(
        present.map((reading) => reading.measured),
        size.target,
      ),
      averageOf: size.averageOf,
      signed,
      unit,
    },
    { partOut, partAfterSetUp: null },
  );
  const leavesIt =
    !partOut && POLICY_RULES[schoolOf(size.policy)].leavesBand && Math.abs(deviation) <= size.deadBand;
  if (leavesIt)
    steps.push({ label: 'dead band', sum: `|${signed(deviation)}| ≤ ${show(size.deadBand)} ${unit}` });
  return {
    // it is answered at its word: no dead band of the model beside its own
    size: { ...model, mean: deviation, error: 0, noise: 0, drift: 0 },
    words,
    fine: false,
    steps,
    wait:
      wait ??
      (leavesIt
        ? `Leave it: ${words} is ${signed(deviation)} ${unit}, inside the dead band of ±${show(size.deadBand)}. Chasing it would add spread.`
        : null),
  };
}

type Say = (verdict: 'leave', reason: string) => Judgement;

/** Why nothing is moved. */
function leave(
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
  if (Math.abs(mean) <= band && error > 0.6 * state.sizes[index]!.noise)
    return say(
      'leave',
      `Leave it: ${words} stands ${signed(mean)} ${unit} from target, but that is known to no better than ±${show(2 * error)}. Measure more parts, or tick first-off if it was just set up.`,
    );
  if (Math.abs(mean) <= band)
    return say(
      'leave',
      `Leave it: ${words} stands ${signed(mean)} ${unit} from target, known to ±${show(2 * error)}. With parts that differ by ±${show(noise)} it is moved from ±${show(band)} on; chasing it would add spread.${ahead(decided[index]!, band, size, { signed, unit })}`,
    );
  if (Math.abs(mean) <= (increment * by) / 2)
    return say(
      'leave',
      `Leave it: ${words} is ${signed(mean)} ${unit}, less than half a step of the register.`,
    );
  if (rivals.length > 0)
    return say(
      'leave',
      `Leave it: ${words} is ${signed(mean)} ${unit} from target, but its row also cuts ${rivals.map(({ name }) => name).join(' and ')}, and moving it would put more out than it brings in. Give ${size.name} a row of its own.`,
    );
  return say(
    'leave',
    `Leave it: ${words} is ${signed(mean)} ${unit} from target${driftWords(decided[index]!, unit, signed)}, and comes back by itself.`,
  );
}

/** A drift that is surely one, as half a sentence; empty where there is none. */
const driftWords = (
  { drift, driftError }: DecidedSize,
  unit: LengthUnit,
  signed: (value: number) => string,
): string =>
  drift === 0 || Math.abs(drift) < 2 * driftError
    ? ''
    : `, drifting by ${signed(drift * 10)} ${unit} in ten parts`;

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

/** What a joint decision costs the sizes that share a row, as a sentence; empty where nothing is lost. */
function compromise(
  question: JudgeQuestion,
  decided: readonly DecidedSize[],
  decision: Decision,
  measured: readonly boolean[],
  index: number,
): string {
  const { sizes } = question;
  const shared = sizes.filter(
    (_, i) =>
      i !== index &&
      measured[i] &&
      decided[i]!.moves.some(({ register }) => decision.changes[register] !== 0),
  );
  if (shared.length === 0) return '';
  const names = shared.map(({ name }) => name).join(' and ');
  if (decision.outside > 0)
    return ` No setting of the row brings all of it in, with ${names} cut by it too: this is the best there is. Give one of them a row of its own.`;
  return ` ${names} ${shared.length === 1 ? 'is' : 'are'} cut by it too, and stay${shared.length === 1 ? 's' : ''} in.`;
}
