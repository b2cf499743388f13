import type { DecidedSize } from './decide.ts';
import { begunAt, isAlike, type JudgedReading, type JudgeQuestion } from './judge-question.ts';
import { deviationsOf, estimateBy, POLICY_RULES, schoolOf, type Step } from './policies.ts';

export interface BySchool {
  size: DecidedSize;
  words: string;
  wait: string | null;
  /** It is an estimate from several readings. */
  fine: boolean;
  steps: Step[];
}

/** How far off the size is, by the school that its feature was given; a first-off always by the model. */
export function bySchool(
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
  const begun = begunAt(question, index);
  const since = own.filter(({ at }) => at >= begun);
  const asNow = (reading: JudgedReading) =>
    size.moves.every(({ register }) => reading.held![register] === registers[register]!.value);
  const taken = question.readings[question.taken]!;
  const waits = (wait: string): BySchool => ({ size: model, words: '', fine: false, steps: [], wait });
  const answered =
    'Leave it: this part was cut before the last change of its row, so it is already answered. Measure a part that was cut since.';
  if (!since.includes(taken))
    return waits(
      asNow(taken)
        ? 'Leave it: this part was cut by the edge, or in the set-up, before the one that cuts now, and says nothing of the parts to come. Measure a part that was cut since.'
        : answered,
    );
  if (size.policy === 'model' || question.firstOff) {
    // what other places of the cycle tell of the edge counts as well
    const n = known.filter((each) => each.at >= begun && isAlike(question.sizes[each.size]!, size)).length;
    return {
      // a set-up error is real, and is taken out at once
      size: question.firstOff ? { ...model, error: 0, noise: 0 } : model,
      words: n === 1 ? 'the first reading' : `by ${n} parts it`,
      fine: n > 1,
      wait: null,
      steps: [
        {
          label: n === 1 ? 'by this reading' : `by ${n} parts, the newer the more`,
          sum: `${signed(model.mean)} ${unit}, single parts ±${show(model.noise)}${Math.abs(model.drift) > 2 * model.driftError ? `, ${signed(model.drift * 10)} in ten parts` : ''}`,
        },
      ],
    };
  }
  // the older schools look at parts cut as the next will be, and at nothing else
  const present = since.filter(asNow);
  if (!present.includes(taken)) return waits(answered);
  const { deviation, words, wait, steps } = estimateBy(
    schoolOf(size.policy),
    {
      deviations: deviationsOf(
        present.map((reading) => reading.measured),
        size.target,
      ),
      averageOf: size.averageOf,
      at: present.map((reading) => reading.at),
      settings: settingsOf(since, size),
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

/** How often the rows of a size were set since its edge and set-up began, the first setting counted, as far as its readings show. */
function settingsOf(since: readonly JudgedReading[], size: JudgeQuestion['sizes'][number]): number {
  const rows = size.moves.map(({ register }) => register);
  const held = since.map((reading) => rows.map((register) => reading.held![register]).join(' '));
  return held.filter((each, i) => i === 0 || each !== held[i - 1]).length || 1;
}
