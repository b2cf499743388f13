import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { edgeState, type ModelQuestion } from './edge-state.ts';

/** What may have become of a correction, told by the parts cut since. */
export type Took =
  | 'took'
  | 'notKeyed'
  | 'keyedTwice'
  | 'wrongSign'
  | 'valueSign'
  | 'changeAsValue'
  | 'radiusForDiameter'
  | 'units'
  | 'decimalPoint'
  | 'digitsSwapped'
  | 'unclear'
  /** It is likelier not to have taken, and cannot be told: asked only before another change of the row. */
  | 'doubtful'
  | 'waiting'
  | 'tooSmallToTell';

/** Verdicts under which nothing is wrong, or nothing can be said. */
export const HARMLESS: readonly Took[] = ['took', 'waiting', 'tooSmallToTell'];

export interface TookAnswer {
  verdict: Took;
  sentence: string;
  /** Slips that explain the parts, the likeliest first, with what the control would hold. */
  ranked: { slip: Took; holds: Length; share: number }[];
  /** More parts until it can be told, where it cannot yet. */
  more: number | null;
  /** How much likelier the parts are under the slips together than if it took. */
  against: number;
}

export interface TookQuestion {
  /** All readings with what their parts were cut with, were the correction keyed as told. */
  model: ModelQuestion;
  register: number;
  /** Readings whose part was cut after it, by their place. */
  since: readonly number[];
  from: Length;
  to: Length;
  /** Change of the judged size for one of the register, and the spread of its single parts. */
  by: number;
  noise: number;
  unit: LengthUnit;
  decimals: number;
}

interface Slip {
  slip: Took;
  holds: number;
  weight: number;
}

/** Odds against "it took" at which it is said: at most one correct keying in a hundred is then ever accused (J. Ville 1939; A. Wald 1945). */
const ACCUSED = 60;
/** Odds against it at which the row is read before anything more is keyed into it: about one correct keying in forty is asked about. */
export const DOUBTED = 4;
/** Readings from which on their spread is known rather by them than by the tolerance. */
const FEW = 6;
/** Odds for it at which it is believed. */
const BELIEVED = 20;
/** A slip whose effect needs more parts than this to be seen is too small to tell. */
const PATIENCE = 25;

const WORDS: Readonly<Record<Exclude<Took, 'waiting' | 'tooSmallToTell' | 'took' | 'doubtful'>, string>> = {
  notKeyed:
    'Nothing moved: it was not keyed, went into another row, was undone, or the rougher is cutting below size. Read the row, and look at what the rougher leaves before touching the finisher.',
  keyedTwice: 'It moved twice as far as asked: it was keyed twice. Ask who else was at the control.',
  wrongSign: 'It moved the wrong way by as much: the sign of the change was reversed.',
  valueSign: 'It moved as if the value had been keyed with its sign reversed.',
  changeAsValue: 'It moved as if the change had been keyed as the value.',
  radiusForDiameter: 'It moved half as far as asked: radius and diameter were confused.',
  units: 'It moved as if millimetres and inches were confused.',
  decimalPoint: 'It moved as if the decimal point had slipped.',
  digitsSwapped: 'It moved as if two digits had been swapped.',
  unclear: 'It did not do what was asked, and no single slip explains it.',
};

/** What the control would hold under each slip of the old value, the new one or the change (H14, H18). */
export function slipsOf(from: Length, to: Length, unit: LengthUnit, decimals: number): Slip[] {
  const change = to - from;
  const slips: Slip[] = [
    { slip: 'notKeyed', holds: from, weight: 6 },
    { slip: 'wrongSign', holds: from - change, weight: 3 },
    { slip: 'keyedTwice', holds: to + change, weight: 2 },
    { slip: 'valueSign', holds: -to, weight: 1 },
    { slip: 'changeAsValue', holds: change, weight: 1 },
    { slip: 'radiusForDiameter', holds: from + change / 2, weight: 1 },
    { slip: 'decimalPoint', holds: to * 10, weight: 0.5 },
    { slip: 'decimalPoint', holds: to / 10, weight: 0.5 },
    { slip: 'decimalPoint', holds: from + change * 10, weight: 0.5 },
    { slip: 'decimalPoint', holds: from + change / 10, weight: 0.5 },
    { slip: 'units', holds: to * 25.4, weight: 0.25 },
    { slip: 'units', holds: to / 25.4, weight: 0.25 },
    { slip: 'units', holds: from + change * 25.4, weight: 0.25 },
    { slip: 'units', holds: from + change / 25.4, weight: 0.25 },
  ];
  const text = formatLength(nanometres(Math.abs(to)), unit, { decimals, minus: '-' });
  for (let i = 0; i + 1 < text.length; i += 1) {
    const j = text[i + 1] === '.' ? i + 2 : i + 1;
    if (text[i] === '.' || text[j] === undefined || text[i] === text[j]) continue;
    const digits = [...text];
    [digits[i], digits[j]] = [text[j]!, text[i]!];
    const scale = unit === 'mm' ? 1e6 : 25.4e6;
    slips.push({
      slip: 'digitsSwapped',
      holds: Math.sign(to) * Math.round(Number(digits.join('')) * scale),
      weight: 0.5,
    });
  }
  // slips that come to the same value, or to the right one, are told once
  const kept: Slip[] = [];
  for (const each of slips) {
    if (Math.abs(each.holds - to) < 1) continue;
    const same = kept.find(({ holds }) => Math.abs(holds - each.holds) < 1);
    if (!same) kept.push({ ...each });
  }
  const whole = kept.reduce((sum, { weight }) => sum + weight, 0);
  return kept.map((each) => ({ ...each, weight: each.weight / whole }));
}

/**
 * Did a correction take (H14)? All readings are told once as if it had been keyed, and once for each slip with what the control
 * would then hold; how likely they are under each is compared, part after part. Until it can be told it says after how many more
 * parts it will be.
 */
export function didItTake(asked: TookQuestion): TookAnswer {
  const { model, register, since, from, to, by, noise, unit, decimals } = asked;
  if (from === to) throw new RangeError('no change was asked for');
  const slips = slipsOf(from, to, unit, decimals);
  const asMuch = Math.abs(by * (to - from));
  const before = Math.max(1, model.readings.length - since.length);
  // a change that did nothing looks like spread as long as there are few readings
  const young = model.sizes[0]!.tolerance / 8;
  const spread = model.readings.length < FEW ? Math.min(noise, young) : noise;
  // what the parts before it left unknown, no number of parts after it makes up for
  const needed = (effect: number) => {
    const each = effect ** 2 / (2 * spread ** 2 * Math.log(ACCUSED)) - 1 / before;
    return each <= 0 ? Infinity : Math.ceil(1 / each);
  };
  const nothing = (
    verdict: 'waiting' | 'tooSmallToTell',
    sentence: string,
    more: number | null,
    against: number,
  ): TookAnswer => ({
    verdict,
    sentence,
    ranked: [],
    more,
    against,
  });
  if (since.length === 0)
    return nothing(
      'waiting',
      'No part was measured since it was keyed.',
      Math.max(1, Math.min(PATIENCE, needed(asMuch))),
      0,
    );
  const after = new Set(since);
  const evidence = (holds: number) =>
    edgeState({
      ...model,
      full: true,
      readings: model.readings.map((reading, i) =>
        after.has(i)
          ? {
              ...reading,
              held: reading.held.map((value, r) => (r === register ? value + holds - to : value)),
            }
          : reading,
      ),
    }).evidence;
  const took = evidence(to);
  const told = slips.map((slip) => ({ ...slip, odds: Math.exp(Math.min(500, evidence(slip.holds) - took)) }));
  const against = told.reduce((sum, { weight, odds }) => sum + weight * odds, 0);
  const whole = told.reduce((sum, { weight, odds }) => sum + weight * odds, 1);
  const ranked = told
    .map(({ slip, holds, weight, odds }) => ({
      slip,
      holds: nanometres(Math.round(holds)),
      share: (weight * odds) / whole,
    }))
    .sort((a, b) => b.share - a.share);
  if (against >= ACCUSED)
    return {
      verdict: ranked[0]!.slip,
      sentence: WORDS[ranked[0]!.slip as keyof typeof WORDS],
      ranked: ranked.slice(0, 3),
      more: null,
      against,
    };
  if (needed(asMuch) > PATIENCE)
    return nothing(
      'tooSmallToTell',
      'The change is small beside the spread of the parts: measuring cannot tell whether it took. Read the row instead.',
      null,
      against,
    );
  // it is believed when nothing that could be seen by now speaks against it
  const visible = told.filter(({ holds }) => needed(Math.abs(by * (holds - to))) <= PATIENCE);
  if (visible.every(({ odds }) => odds <= 1 / BELIEVED))
    return { verdict: 'took', sentence: 'The correction took.', ranked: [], more: null, against };
  const doubtful = visible.filter(({ odds }) => odds > 1 / BELIEVED);
  const effect = Math.min(...doubtful.map(({ holds }) => Math.abs(by * (holds - to))));
  const more = Math.max(1, needed(effect) - since.length);
  return {
    verdict: 'waiting',
    sentence: `It cannot be told yet whether the correction took: ${more === 1 ? 'another part' : `about ${more} more parts`}, or a look at the row, will tell.`,
    ranked: ranked.slice(0, 2),
    more,
    against,
  };
}
