import { nanometres, type Length } from '../units/length.ts';

/** What is measured, in the words a measuring plan uses. */
export const FEATURE_KINDS = [
  'outsideDiameter',
  'bore',
  'faceLength',
  'shoulder',
  'height',
  'depth',
  'outsideWidth',
  'pocketWidth',
  'wall',
  'cutHole',
  'dialledBore',
  'position',
] as const;
export type FeatureKind = (typeof FEATURE_KINDS)[number];

export const FEATURE_WORDS: Readonly<Record<FeatureKind, string>> = {
  outsideDiameter: 'outside diameter',
  bore: 'bore',
  faceLength: 'length to a face',
  shoulder: 'shoulder from the front face',
  height: 'height',
  depth: 'depth',
  outsideWidth: 'outside profile, both sides',
  pocketWidth: 'pocket width or milled bore',
  wall: 'wall, one side',
  cutHole: 'drilled, reamed or tapped hole',
  dialledBore: 'bore by a boring head',
  position: 'position',
};

/** Limits as a drawing gives them: nominal with an upper and a lower deviation, both signed. */
export interface Limits {
  nominal: Length;
  upper: Length;
  lower: Length;
}

/** The middle of the tolerance, the usual aim: 1.438 +0.001/−0 is aimed at 1.4385 (H14). */
export const middle = ({ nominal, upper, lower }: Limits) =>
  nanometres(nominal + Math.round((upper + lower) / 2));

export const largest = ({ nominal, upper }: Limits) => nanometres(nominal + upper);
export const smallest = ({ nominal, lower }: Limits) => nanometres(nominal + lower);
export const toleranceWidth = ({ upper, lower }: Limits) => nanometres(upper - lower);

export type Standing = 'in' | 'over' | 'under';
export function standing(measured: Length, limits: Limits): Standing {
  if (measured > largest(limits)) return 'over';
  return measured < smallest(limits) ? 'under' : 'in';
}

/** Where on a register a feature answers, and by how much the size moves for one unit of it. */
export type RegisterRole = 'xWear' | 'zWear' | 'lengthWear' | 'cutterWear';

export interface MachineReckoning {
  /** Whether X of a lathe is a diameter, as on nearly all of them. */
  x: 'diameter' | 'radius';
  /** Whether a mill's D register holds a radius or a diameter. */
  cutter: 'diameter' | 'radius';
}

export interface Answer {
  role: RegisterRole;
  /** Change of size for a change of one in the register. */
  sensitivity: 2 | 1 | 0.5 | -1 | -2;
}

/**
 * Signs of H14 (common practice, no source). X of a lathe: an OD and a bore both grow with X. Length wear on a
 * mill and Z wear on a lathe: minus goes deeper, so a height or a length to a face shrinks with it, a depth or
 * a shoulder's distance from the front grows. Cutter wear: plus leaves more stock outside and makes a pocket
 * smaller, twice per width when the register is a radius. Null: no register holds this size.
 */
export function registerAnswer(kind: FeatureKind, reckoning: MachineReckoning): Answer | null {
  const perX = reckoning.x === 'diameter' ? 1 : 2;
  const radius = reckoning.cutter === 'radius';
  switch (kind) {
    case 'outsideDiameter':
    case 'bore':
      return { role: 'xWear', sensitivity: perX };
    case 'faceLength':
      return { role: 'zWear', sensitivity: 1 };
    case 'shoulder':
      return { role: 'zWear', sensitivity: -1 };
    case 'height':
      return { role: 'lengthWear', sensitivity: 1 };
    case 'depth':
      return { role: 'lengthWear', sensitivity: -1 };
    case 'outsideWidth':
      return { role: 'cutterWear', sensitivity: radius ? 2 : 1 };
    case 'pocketWidth':
      return { role: 'cutterWear', sensitivity: radius ? -2 : -1 };
    case 'wall':
      return { role: 'cutterWear', sensitivity: radius ? 1 : 0.5 };
    default:
      return null;
  }
}

/** What to do about a size that no register holds (H14). */
export function withoutRegister(kind: FeatureKind): string {
  if (kind === 'cutHole') return 'A drill, reamer or tap has no size register: replace or regrind it.';
  if (kind === 'dialledBore') return 'A boring head is turned by hand: dial it, do not key it.';
  return 'A position is set by the work offset, not by tool wear.';
}
