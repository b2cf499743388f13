import { traitsOf, type ChangerKind } from './traits.ts';
import { type LoadStep } from './load-plan.ts';
import { shiftWords, tipFor, type Shift } from '../program/boring-shift.ts';

/** How a step is said, what must be confirmed before it is ticked, and the cautions at it (H5, H6, H10). */
export interface StepWords {
  title: string;
  /** Each is confirmed by itself. */
  confirm: string[];
  cautions: string[];
  /** What is confirmed of how an oriented tool is turned: the way of its tip, or a probe's mark. */
  turned?: Shift | 'mark';
}

/** What was recorded of the machine that a step's words need. */
export interface StepPlace {
  changer: ChangerKind;
  /** What a pocket is called on it. */
  pocket: string;
  /** Taper or shank, and the retention knob when it takes one. */
  end: string;
  knob: string;
  /** Knobs that assemblies carry by the record, where that is another. */
  otherKnobs: ReadonlyMap<number, string>;
  /** Which way the tip of a T must point and why, as its programs shift it; nothing where none says so. */
  tips: ReadonlyMap<number, TipAsked>;
  /** Where the mark of a probe points, by assembly, as it was calibrated here. */
  marks: ReadonlyMap<number, string>;
}

/** Which way a bar's tip must point, and that in words. */
export interface TipAsked {
  way: Shift;
  words: string;
}

/** What is confirmed of a bar's tip: which way, why, and who answers for it (H10). */
export const tipAsked = (program: string, line: number, shift: Shift): TipAsked => ({
  way: tipFor(shift),
  words: `The spindle is oriented, and the tip points ${shiftWords(tipFor(shift))}, since ${program} shifts ${shiftWords(shift)} on line ${line}: you answer for it`,
});

const EYES =
  'Eye protection on, ear protection for the air blast, safety boots. Guards and interlocks stay in place.';
const FIRST =
  'The machine’s manual, the site’s rules and local codes come first. Nothing here moves the machine.';
const BELOW =
  'Hold the holder below the flange: the gap between flange and spindle nose closes. Never hold cutter, taper or flange.';

/** A step as it is said to the person at the machine. */
export function stepWords(
  step: LoadStep,
  { changer, pocket, end, knob, otherKnobs, tips, marks }: StepPlace,
): StepWords {
  const direct = !traitsOf({ kind: changer }).throughSpindle;
  switch (step.act) {
    case 'call': {
      const puts = step.puts ? `T${step.puts.tool} goes into ${pocket} ${step.pocket}` : null;
      const takes = step.takes ? `T${step.takes.tool} comes to the spindle` : null;
      return {
        title: `Call ${pocket} ${step.pocket}: ${[puts, takes ?? 'the spindle is then empty'].filter(Boolean).join(', ')}.`,
        confirm: [`The control shows ${step.takes ? `T${step.takes.tool}` : 'T0, no tool'}`],
        cautions: [
          'Wait until the control shows the new T: the motion stops before the register changes, and hurrying jams the changer.',
        ],
      };
    }
    case 'unload':
      return {
        title: `Take T${step.tool.tool}, ${step.tool.number} ${step.tool.name}, out of ${step.pocket === 0 ? 'the spindle' : `${pocket} ${step.pocket}`}${step.comesBack ? '; it comes back by a later step' : ''}.`,
        confirm: [
          ...(direct || step.pocket > 0 ? [] : [`The control shows T${step.tool.tool} in the spindle`]),
          `${step.tool.number} is in your hand, and the control was told that the place is empty`,
        ],
        cautions: direct
          ? [EYES, FIRST]
          : step.pocket > 0
            ? [
                'The changer must not carry this tool: take it out of the magazine by hand, as the machine’s manual says, with the magazine stopped and secured against starting.',
                EYES,
                FIRST,
              ]
            : [
                'Hold first, then press: the tool drops. Leave the second release button on the console alone.',
                BELOW,
                EYES,
                FIRST,
              ],
      };
    case 'declare':
      return {
        title: `Declare pocket ${step.pocket} wide for T${step.wanted.tool} at the control.`,
        confirm: [
          `Pocket ${step.pocket} and both neighbours are empty in the metal: you have looked`,
          `The control’s table has pocket ${step.pocket} as wide, for T${step.wanted.tool}`,
        ],
        cautions: [
          'The table alone does not know what hangs in the magazine.',
          'A declared T keeps its pocket for good, and both neighbours stay empty.',
        ],
      };
    case 'load': {
      const { tool, orientation, assemblyId } = step.wanted;
      const tip = orientation === 'tip' ? tips.get(tool) : undefined;
      const other = otherKnobs.get(assemblyId ?? 0);
      const mark = orientation === 'probe' && assemblyId !== null ? marks.get(assemblyId) : undefined;
      return {
        title: `Load ${step.wanted.number} ${step.wanted.name} as T${step.wanted.tool}${step.pocket === 0 ? ' into the spindle' : ` into ${pocket} ${step.pocket}`}.`,
        confirm: [
          ...(direct
            ? []
            : [
                `T${step.wanted.tool} is called: the control shows T${step.wanted.tool}, and the spindle is empty`,
              ]),
          direct
            ? `Shank and seat are wiped, and the end is ${end}`
            : `Taper and spindle are wiped, the taper is ${end}`,
          ...(other !== undefined
            ? [
                `The retention knob was changed: it is ${knob} now, tight, and not ${other}, which is on record`,
              ]
            : direct || knob === ''
              ? []
              : [`The retention knob is ${knob}, tight, and right for this machine`]),
          ...(orientation === 'tip'
            ? [
                tip?.words ??
                  'The spindle is oriented, and the tip faces the way the program’s shift expects: you answer for it',
              ]
            : []),
          ...(orientation === 'probe'
            ? [
                mark === undefined
                  ? 'The probe’s mark is where it always was: half a turn round doubles its error'
                  : `The probe’s mark points as it was calibrated here (${mark}): half a turn round doubles its error`,
              ]
            : []),
          ...(direct ? ['It is clamped, and pulled on'] : ['Tugged and spun: the drive keys are seated']),
        ],
        cautions: [
          ...(direct
            ? []
            : [
                BELOW,
                'Press and hold the clamp button through the air blast until the claw has opened.',
                'A holder that sits on the keys stands too low: the arm will hit it. If it is wrong, take it out and try again.',
              ]),
          ...(step.wanted.heavy || step.wanted.wide
            ? ['It is heavy or wide: two hands, or a second person, and the arm set slow.']
            : []),
          EYES,
          FIRST,
        ],
        ...(tip && { turned: tip.way }),
        ...(mark !== undefined && { turned: 'mark' as const }),
      };
    }
    case 'measure':
      return {
        title: `Measure T${step.tool.tool}, ${step.tool.number} ${step.tool.name}, straight after loading.`,
        confirm: [],
        cautions: [
          'First approach after this: single block, rapids low, a hand on feed hold, distance-to-go against a scale.',
        ],
      };
    case 'build':
      return {
        title: `Build first: T${step.wanted.tool}, ${step.wanted.name}, for ${pocket} ${step.wanted.pocket}.`,
        confirm: [],
        cautions: [],
      };
  }
}
