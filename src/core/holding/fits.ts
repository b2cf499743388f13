import { capital } from '../words/capital.ts';
import { COMPONENT_KINDS, kindFacts, type Component, type ComponentKind } from '../component/kinds.ts';
import { seatTakes } from '../component/insert-designation.ts';
import { formatLength } from '../units/format-length.ts';
import { nanometres } from '../units/length.ts';
import { closesBy, colletGrips } from './collet.ts';

/** Why a piece may not go into an assembly, as a setter would say it; and the rule it comes from. */
export interface Refusal {
  rule:
    | 'holderKind'
    | 'bore'
    | 'flat'
    | 'collet'
    | 'colletSeries'
    | 'sleeve'
    | 'extension'
    | 'nut'
    | 'second'
    | 'flutes'
    | 'grip'
    | 'knob'
    | 'coolant'
    | 'missing';
  reason: string;
}

type HolderKind = ComponentKind;
const CHUCKS: readonly HolderKind[] = ['sideLock', 'colletChuck', 'shrink', 'hydraulic'];
const TURNING: readonly HolderKind[] = ['turningHolder', 'turningHolderDouble'];

/** Holder kinds allowed for each cutter (H3). Drill chucks are for drills only: never a tool with side load. */
const ALLOWED: Partial<Record<ComponentKind, readonly HolderKind[]>> = {
  endMillSharp: CHUCKS,
  endMillRadius: CHUCKS,
  ballMill: CHUCKS,
  chamferMill: CHUCKS,
  threadMill: CHUCKS,
  drillJobber: [...CHUCKS, 'drillChuck'],
  drillStub: [...CHUCKS, 'drillChuck'],
  drillLong: [...CHUCKS, 'drillChuck'],
  centreDrill: [...CHUCKS, 'drillChuck'],
  spotDrill: [...CHUCKS, 'drillChuck'],
  reamer: ['colletChuck', 'shrink', 'hydraulic'],
  tapCutting: ['colletChuck'],
  tapForming: ['colletChuck'],
  boringBar: ['boringHead', ...CHUCKS],
  faceMill: ['arbor'],
  shellMill: ['arbor'],
  probe: ['sideLock', 'colletChuck', 'hydraulic'],
  turningTool: TURNING,
  turningBar: TURNING,
  groovingTool: TURNING,
  partingTool: TURNING,
  threadingTool: TURNING,
};
export const holdersFor = (cutter: ComponentKind): readonly HolderKind[] => ALLOWED[cutter] ?? [];

const mm = (value: number | undefined) => `${formatLength(nanometres(value ?? 0), 'mm')} mm`;
/**
 * Shanks and bores of one nominal size, which one catalogue writes to the micrometre and another to the hundredth: 9.525 and 9.53. What
 * differs by more is another size: 9.5 falls out of a bore for three eighths, and 19.05 does not go into one for 19.
 */
const WRITTEN_TO = 6000;
const sameSize = (a: number | undefined, b: number | undefined) => Math.abs((a ?? 0) - (b ?? 0)) < WRITTEN_TO;

/**
 * Whether this holder may carry this cutter at all, before collets and sleeves are looked at. With an extension between
 * them the holder grips the extension's shank, but it is still the cutter that says which holders it may stand in.
 */
export function holderRefusal(
  cutter: Component,
  holder: Component,
  extension: Component | null = null,
): Refusal | null {
  const words = kindFacts(cutter.kind).words;
  if (holder.kind === 'drillChuck' && !holdersFor(cutter.kind).includes('drillChuck'))
    return {
      rule: 'holderKind',
      reason: `A drill chuck is for drills only: ${words} has side load, or needs a grip that three jaws do not give.`,
    };
  if (!holdersFor(cutter.kind).includes(holder.kind))
    return {
      rule: 'holderKind',
      reason: `${capital(words)} does not go in a ${COMPONENT_KINDS[holder.kind].words}; use ${listed(holdersFor(cutter.kind))}.`,
    };
  const gripped = extension ?? cutter;
  const [shank, bore] = [gripped.dimensions.DCONMS, holder.dimensions.DCONWS];
  if (holder.kind === 'sideLock') {
    if (!gripped.flat)
      return {
        rule: 'flat',
        reason: 'A side-lock needs a shank with a flat for its screw; this shank is round.',
      };
    if (!sameSize(shank, bore))
      return { rule: 'bore', reason: `A side-lock takes one shank only: ${mm(bore)}, not ${mm(shank)}.` };
  }
  if (holder.kind === 'arbor' && !sameSize(shank, bore))
    return { rule: 'bore', reason: `The arbor's pilot is ${mm(bore)}, the mill's bore ${mm(shank)}.` };
  if ((holder.kind === 'shrink' || TURNING.includes(holder.kind)) && !sameSize(shank, bore))
    return { rule: 'bore', reason: `This holder takes a shank of ${mm(bore)}, not ${mm(shank)}.` };
  if (
    ['colletChuck', 'hydraulic', 'drillChuck', 'boringHead'].includes(holder.kind) &&
    (shank ?? 0) > (bore ?? 0) &&
    !sameSize(shank, bore)
  )
    return { rule: 'bore', reason: `A shank of ${mm(shank)} is larger than the holder takes (${mm(bore)}).` };
  return null;
}

/** Whether an extension takes this cutter: one shank size only, and never a mill that sits on a pilot. */
export function extensionRefusal(cutter: Component, extension: Component | null): Refusal | null {
  if (!extension) return null;
  if (holdersFor(cutter.kind).includes('arbor'))
    return {
      rule: 'extension',
      reason: `${capital(kindFacts(cutter.kind).words)} sits on an arbor: no extension goes between.`,
    };
  return sameSize(cutter.dimensions.DCONMS, extension.dimensions.DCONWS)
    ? null
    : {
        rule: 'extension',
        reason: `The extension takes a shank of ${mm(extension.dimensions.DCONWS)}, the cutter's is ${mm(cutter.dimensions.DCONMS)}.`,
      };
}

/** Whether a nut belongs on this holder; without one the holder's own is meant. */
export function nutRefusal(holder: Component, nut: Component | null): Refusal | null {
  if (!nut) return null;
  if (holder.kind !== 'colletChuck')
    return { rule: 'nut', reason: `A ${COMPONENT_KINDS[holder.kind].words} takes no collet nut.` };
  return nut.series === holder.series
    ? null
    : {
        rule: 'nut',
        reason: `The nut is of series ${nut.series || 'unknown'}, the chuck takes ${holder.series || 'another'}.`,
      };
}

/** Whether the second tool of a holder may be there: a double turning holder has a seat for it, like the first. */
export function secondRefusal(holder: Component, second: Component | null): Refusal | null {
  if (!second) return null;
  if (holder.kind !== 'turningHolderDouble')
    return { rule: 'second', reason: 'Only a double turning holder carries a second tool.' };
  const refusal = holderRefusal(second, holder);
  return refusal && { rule: 'second', reason: `The second tool: ${refusal.reason}` };
}

/** What stands between holder and shank: a collet in a collet chuck, a sleeve in a hydraulic holder. */
export function adapterRefusal(
  cutter: Component,
  holder: Component,
  adapter: Component | null,
): Refusal | null {
  const shank = cutter.dimensions.DCONMS ?? 0;
  if (holder.kind === 'colletChuck') {
    if (adapter?.kind !== 'collet') return { rule: 'missing', reason: 'A collet chuck needs a collet.' };
    if (adapter.series !== holder.series)
      return {
        rule: 'colletSeries',
        reason: `The collet is of series ${adapter.series || 'unknown'}, the chuck takes ${holder.series || 'another'}.`,
      };
    const nominal = adapter.dimensions.DCONWS ?? 0;
    if (!colletGrips(nominal, shank))
      return {
        rule: 'collet',
        reason:
          shank > nominal
            ? `The shank of ${mm(shank)} is larger than the collet's ${mm(nominal)}.`
            : `The collet of ${mm(nominal)} closes to ${mm(nominal - closesBy(nominal))}: a shank of ${mm(shank)} is too thin for it.`,
      };
    return null;
  }
  const bore = holder.dimensions.DCONWS ?? 0;
  if (holder.kind === 'hydraulic' && !sameSize(shank, bore)) {
    if (adapter?.kind !== 'sleeve')
      return { rule: 'sleeve', reason: `A reduction sleeve from ${mm(bore)} to ${mm(shank)} is missing.` };
    if (!sameSize(adapter.dimensions.DCONMS, bore) || !sameSize(adapter.dimensions.DCONWS, shank))
      return {
        rule: 'sleeve',
        reason: `This sleeve goes from ${mm(adapter.dimensions.DCONMS)} to ${mm(adapter.dimensions.DCONWS)}; from ${mm(bore)} to ${mm(shank)} is needed.`,
      };
    return null;
  }
  return adapter && holder.kind !== 'hydraulic'
    ? {
        rule: 'sleeve',
        reason: `A ${COMPONENT_KINDS[holder.kind].words} takes no ${COMPONENT_KINDS[adapter.kind].words}.`,
      }
    : null;
}

/** Cutters whose edges are inserts, where they say for which; of the others some are brazed or of one piece. */
const SEATED: readonly ComponentKind[] = [
  'faceMill',
  'shellMill',
  'boringBar',
  'turningTool',
  'turningBar',
  'groovingTool',
  'partingTool',
  'threadingTool',
];
export const hasSeats = ({ kind, series }: Pick<Component, 'kind' | 'series'>) =>
  SEATED.includes(kind) && series.trim() !== '';

/** How many inserts a cutter takes. */
export const seatsOf = ({ dimensions }: Pick<Component, 'dimensions'>) => dimensions.ZEFP ?? 1;

/** Whether these inserts sit in the cutter's seats; a solid cutter takes none. */
export function insertRefusal(cutter: Component, insert: Component | null): Refusal | null {
  if (!hasSeats(cutter)) return insert ? { rule: 'missing', reason: 'This cutter takes no inserts.' } : null;
  if (!insert) return { rule: 'missing', reason: `It has seats for inserts ${cutter.series}: choose them.` };
  return seatTakes(cutter.series, insert.series)
    ? null
    : { rule: 'bore', reason: `The seats are for ${cutter.series}; ${insert.series} does not fit them.` };
}

/** The same of the other tool of a double holder; where there is none, there is no seat either. */
export function secondInsertRefusal(second: Component | null, insert: Component | null): Refusal | null {
  if (!second)
    return insert ? { rule: 'missing', reason: 'There is no second tool that could take an insert.' } : null;
  const refusal = insertRefusal(second, insert);
  return refusal && { rule: refusal.rule, reason: `The second tool: ${refusal.reason}` };
}

/** How deep a shank must sit at least: twice its diameter (common practice, no source). */
export const LEAST_GRIP = 2;

/** Whether a stick-out grips the shank only, and enough of it. */
export function stickOutRefusal(cutter: Component, stickOut: number): Refusal | null {
  const { OAL: overall, LCF: flutes, DCONMS: shank } = cutter.dimensions;
  if (overall === undefined) return null;
  if (stickOut <= 0 || stickOut >= overall)
    return {
      rule: 'grip',
      reason: `The cutter is ${mm(overall)} long: a stick-out of ${mm(stickOut)} leaves nothing to grip.`,
    };
  if (flutes !== undefined && stickOut < flutes)
    return {
      rule: 'flutes',
      reason: `The flutes are ${mm(flutes)} long: at ${mm(stickOut)} the holder would grip them. It grips the shank only.`,
    };
  const inside = overall - stickOut;
  if (shank !== undefined && inside < LEAST_GRIP * shank)
    return {
      rule: 'grip',
      reason: `Only ${mm(inside)} of the shank would be held; twice its diameter, ${mm(LEAST_GRIP * shank)}, is the least.`,
    };
  return null;
}

/** What a machine's drawbar takes: knob pattern and coolant through the spindle (H3). */
export interface Drawbar {
  machine: string;
  interface: string;
  /** Empty: this spindle takes no knob (hollow short tapers). */
  knob: string;
  throughCoolant: boolean;
}

/** Why an assembly with a knob of this pattern on record does not go into a spindle as it is (H3); null: nothing on record speaks against it. */
export const knobOnRecord = (carries: string | null, { machine, knob }: Pick<Drawbar, 'machine' | 'knob'>) =>
  carries !== null && knob !== '' && carries !== knob
    ? `It carries a ${carries} knob; ${machine} needs ${knob}. Change the knob, and measure again.`
    : null;

export function knobRefusal(knob: Component | null, drawbar: Drawbar): Refusal | null {
  if (drawbar.knob === '')
    return knob
      ? { rule: 'knob', reason: `${drawbar.machine} grips the taper from inside: no knob goes on it.` }
      : null;
  if (!knob) return { rule: 'missing', reason: `${drawbar.machine} needs a retention knob ${drawbar.knob}.` };
  if (knob.series !== drawbar.knob)
    return {
      rule: 'knob',
      reason: `The knob is ${knob.series}; ${drawbar.machine} needs ${drawbar.knob}. Same taper is not same knob: look before every load.`,
    };
  if (knob.coolant && !drawbar.throughCoolant)
    return {
      rule: 'coolant',
      reason: `A drilled knob in ${drawbar.machine}, whose spindle is not sealed for coolant, is a mismatch.`,
    };
  if (!knob.coolant && drawbar.throughCoolant)
    return {
      rule: 'coolant',
      reason: `${drawbar.machine} pumps coolant through the spindle: a solid knob is a mismatch.`,
    };
  return null;
}

function listed(kinds: readonly ComponentKind[]): string {
  const words = kinds.map((kind) => `a ${COMPONENT_KINDS[kind].words}`);
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} or ${words.at(-1)}`;
}
