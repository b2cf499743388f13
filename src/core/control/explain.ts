import { isWear } from '../inspection/register-words.ts';
import { slipsBetween } from '../correction/slips.ts';
import { registerDecimals } from '../units/register-decimals.ts';
import { nanometres, type Length } from '../units/length.ts';
import type { Explanation, ExplanationCode, HeldRegister, HeldTable } from './held.ts';

/**
 * How often each happens beside the others, before the numbers are looked at (H1, H18: common practice, no source; the order counts, not the
 * second digit).
 */
const USUAL: Readonly<Record<ExplanationCode, number>> = {
  notKeyed: 0.2,
  keyedUnsaid: 0.18,
  programWrote: 0.12,
  byHand: 0.16,
  wearLeft: 0.1,
  takenBack: 0.08,
  twice: 0.06,
  neighbour: 0.06,
  sign: 0.05,
  otherTool: 0.04,
  oldSetUp: 0.04,
  digits: 0.04,
  diameter: 0.03,
  point: 0.03,
  changeSign: 0.02,
  changeAsValue: 0.02,
  units: 0.01,
};
/** Steps within which a hand moves a wear, and a length that is measured anew. */
const [WEAR_STEPS, GEOMETRY_STEPS] = [200, 100_000] as const;
/** Registers that hold a radius where another control would hold the diameter, or the other way round. */
const ACROSS = new Set(['cutterGeometry', 'cutterWear', 'xGeometry', 'xWear']);
/** Two rows that each show what the other explains would be a rare chance otherwise: as good as a fiftieth of a way. */
const PAIR = 0.02;
/** The first is told as what happened from here on. */
const TOLD = 0.8;
/** Rarer than this nobody has to read. */
const LEAST = 0.02;

interface Guess {
  code: ExplanationCode;
  row?: number;
  /** What the control would then show. */
  shows: Length;
  /** Of how many values it could have shown, equally likely: the more there are, the less a match says. */
  ways: number;
}

/**
 * What may have happened to a register that shows something else than it should, each with how likely it is: how often people do so, times how
 * well it foretells the very number that is shown (Bayes). A slip that foretells one number and meets it stands far above one that could
 * have shown a hundred.
 *
 * @param expected what it should show
 */
export function explain(
  table: Pick<HeldTable, 'unit' | 'increment' | 'registers'>,
  register: HeldRegister,
  expected: Length = register.record,
): { explanations: Explanation[]; told: boolean } {
  const weights = new Map<string, Explanation>();
  for (const guess of guesses(table, register, expected)) {
    if (Math.abs(guess.shows - register.control) > table.increment / 2) continue;
    const key = `${guess.code} ${guess.row ?? ''}`;
    const likelihood = USUAL[guess.code] / guess.ways;
    const known = weights.get(key);
    if (known) known.likelihood = Math.max(known.likelihood, likelihood);
    else weights.set(key, { code: guess.code, likelihood, row: guess.row ?? null });
  }
  weights.set('byHand', {
    code: 'byHand',
    likelihood: USUAL.byHand * byHand(register, expected, table.increment),
    row: null,
  });
  const all = [...weights.values()];
  const sum = all.reduce((total, each) => total + each.likelihood, 0);
  const explanations = all
    .map((each) => ({ ...each, likelihood: each.likelihood / sum }))
    .filter(({ likelihood }) => likelihood >= LEAST)
    .sort((a, b) => b.likelihood - a.likelihood);
  // a second slip that foretells the same number may be the one, however rare: then nobody can tell
  const second = explanations
    .slice(1)
    .some(({ code, likelihood }) => code !== 'byHand' && likelihood >= LEAST);
  return { explanations, told: explanations[0]!.likelihood >= TOLD && !second };
}

/** How likely a hand would have left just this: a wear within some steps of what it was, round numbers rather; a length anywhere. */
function byHand({ kind, control }: HeldRegister, expected: Length, increment: Length): number {
  const steps = Math.round((control - expected) / increment);
  if (!isWear(kind)) return 1 / GEOMETRY_STEPS;
  if (Math.abs(steps) > WEAR_STEPS) return 1 / GEOMETRY_STEPS;
  const round = steps % 10 === 0 ? 4 : steps % 5 === 0 ? 2 : 1;
  return round / (2 * WEAR_STEPS);
}

function guesses(
  { unit, increment, registers }: Pick<HeldTable, 'unit' | 'increment' | 'registers'>,
  register: HeldRegister,
  expected: Length,
): Guess[] {
  const { kind, row, before, waiting, seen, control } = register;
  const found: Guess[] = [];
  const guess = (code: ExplanationCode, shows: number, ways = 1, at?: number) =>
    found.push({ code, shows: nanometres(Math.round(shows)), ways, ...(at !== undefined && { row: at }) });
  if (waiting !== null && waiting !== expected) guess('keyedUnsaid', waiting);
  for (const { value } of register.written ?? []) if (value !== expected) guess('programWrote', value);
  const last = before[0];
  if (last && last.value !== expected) {
    const change = expected - last.value;
    const zeroed = last.endedBy === 'zeroed';
    guess(zeroed ? 'wearLeft' : seen ? 'takenBack' : 'notKeyed', last.value);
    // what was made nought is not made twice, and has no sign
    if (!zeroed && last.endedBy === 'corrected') {
      guess('twice', expected + change);
      guess('changeSign', last.value - change);
      guess('changeAsValue', change, 2);
      // a value of nought that is keyed as a change changes nothing
      if (expected !== 0) guess('changeAsValue', last.value + expected, 2);
      if (ACROSS.has(kind)) guess('diameter', last.value + change / 2, 3);
    }
  }
  const older = before.slice(1).filter(({ value }) => value !== expected && value !== last?.value);
  for (const { value } of older) guess('oldSetUp', value, Math.max(2, older.length));
  if (expected !== 0) {
    guess('sign', -expected);
    if (ACROSS.has(kind)) {
      guess('diameter', expected * 2, 3);
      guess('diameter', expected / 2, 3);
    }
    for (const slip of slipsBetween(control, expected, unit, registerDecimals(unit, increment))) {
      if (slip === 'digitsSwapped') guess('digits', control, 4);
      if (slip === 'decimalPoint') guess('point', control, 4);
      if (slip === 'units') guess('units', control, 2);
    }
  }
  const same = registers.filter((other) => other.kind === kind && other.row !== row);
  for (const other of same) {
    const beside = Math.abs(other.row - row) === 1;
    // what belongs beside it went here: its value, or its last change
    if (beside) {
      if (other.record !== 0) guess('neighbour', other.record, 4, other.row);
      const moved = other.before[0];
      if (
        moved &&
        moved.endedBy === 'corrected' &&
        other.control === moved.value &&
        moved.value !== other.record
      )
        guess('neighbour', expected + other.record - moved.value, PAIR, other.row);
    } else if (other.record !== 0 && other.record !== expected)
      guess('otherTool', other.record, Math.max(4, same.length), other.row);
    // what belongs here went there: here the old value stands, there the change or the value too much
    if (beside && last && last.endedBy === 'corrected' && control === last.value) {
      const change = expected - last.value;
      if (
        other.control === other.record + change ||
        (other.control === expected && other.record !== expected)
      )
        guess('neighbour', last.value, PAIR, other.row);
    }
  }
  return found;
}
