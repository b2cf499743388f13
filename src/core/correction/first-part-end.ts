import { largest, smallest, stockSense, withoutRegister } from '../inspection/feature.ts';
import { conformity } from '../inspection/gauge.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { nanometres } from '../units/length.ts';
import { decide } from './decide.ts';
import type { FirstPlan, Keyed } from './first-part-plan.ts';
import type { Finding } from './first-part-state.ts';

/** Whole steps of the finishers' registers that bring all measured sizes nearest to their targets, jointly. */
export function finishersFor(
  plan: FirstPlan,
  /** Of each size how far it lies off; null: it was not measured. */
  off: readonly (number | null)[],
): Keyed[] {
  const own = new Set(plan.sizes.flatMap(({ own: register }) => (register === null ? [] : [register])));
  const sizes = plan.sizes.flatMap((size, i) =>
    off[i] !== null
      ? [
          {
            mean: off[i]!,
            error: 0,
            noise: 0,
            drift: 0,
            driftError: 0,
            lower: smallest(size) - size.target,
            upper: largest(size) - size.target,
            moves: size.moves.filter(({ register }) => own.has(register)),
          },
        ]
      : [],
  );
  const rows = plan.registers.map((_, i) => ({
    held: 0,
    increment: plan.increment,
    largest: own.has(i) ? Infinity : 0,
    limit: Infinity,
  }));
  return decide({ rows, sizes, every: 1 }).changes.flatMap((change, register) =>
    change === 0 ? [] : [{ register, change: nanometres(change) }],
  );
}

/** What was measured of a size at last, off the machine where it was measured there. */
const lastOf = (findings: readonly Finding[], size: number): Finding | undefined =>
  findings.findLast((each) => each.size === size && each.stage !== 'rough');

/** Whether every size was measured at last and is in its limits, as surely as its gauge can tell (ISO 14253-1). */
export const isRight = (plan: FirstPlan, findings: readonly Finding[]): boolean =>
  plan.sizes.every((size, i) => {
    const last = lastOf(findings, i);
    return last?.standing === 'in' && conformity(last.measured, size, size.uncertainty ?? 0) === 'conforms';
  });

/** What is said at the end: of sizes that are not right, and of the part that comes next. */
export function doneWords(plan: FirstPlan, findings: readonly Finding[], corrected: boolean): string[] {
  const words = plan.sizes.flatMap((size, i) => {
    const last = lastOf(findings, i);
    if (!last) return [`${size.name} was not measured: it is not known to be right.`];
    const unsure = size.uncertainty ?? 0;
    if (last.standing === 'in')
      return conformity(last.measured, size, unsure) === 'conforms'
        ? []
        : [
            `${size.name} of this part is within its limits, but nearer to one than its gauge is sure (${formatWithUnit(nanometres(unsure), plan.unit)}): nobody can tell whether it is good. Measure it with a finer gauge.`,
          ];
    const scrap =
      (last.standing === 'over') === stockSense(size.kind) > 0
        ? 'there is stock left on it'
        : 'it cannot be cut again';
    return [
      `${size.name} of this part is outside its limits: hold it; ${scrap}.${size.own === null ? ` ${withoutRegister({ kind: size.kind, row: size.row, other: null })}` : ''}`,
    ];
  });
  if (corrected || plan.school === 'runAndCorrect')
    words.push('Measure the next part as a first part too: it is the first cut with what was keyed.');
  else if (plan.school === 'safeSide')
    words.push(
      'Measure the second part too: its finisher cuts deeper than this last light cut did, and deflects more.',
    );
  return words;
}
