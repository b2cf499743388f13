import { lengthOf, type Length } from '../units/length.ts';

/** When a tool is looked at for breakage: before its cut, after it, both, or never (H12). */
export const CHECK_MOMENTS = ['none', 'before', 'after', 'both'] as const;
export type CheckMoment = (typeof CHECK_MOMENTS)[number];
export const MOMENT_WORDS: Readonly<Record<CheckMoment, string>> = {
  none: 'not checked',
  before: 'before it cuts',
  after: 'after it has cut',
  both: 'before and after',
};

/** With what: touched on a setter, in a beam of light, by a picture, or looked at by a person. */
export const CHECK_METHODS = ['setter', 'laser', 'picture'] as const;
export type CheckMethod = (typeof CHECK_METHODS)[number];
export const METHOD_WORDS: Readonly<Record<CheckMethod, string>> = {
  setter: 'on the setter',
  laser: 'by laser',
  picture: 'by picture',
};

/** What a tool may be shorter or longer by before that is a fault. */
export interface CheckLimits {
  short: Length;
  long: Length;
}

/** A picture sees a fifth of the length reliably (H12). */
const PICTURE_SHARE = 0.2;

/**
 * Limits to begin with. A setter sees hundredths of a millimetre and a spindle that warms up moves by some (common practice, no
 * source for the figures); a picture sees a fifth of what stands out of the holder (H12).
 */
export function usualLimits(method: CheckMethod, stickOut: Length): CheckLimits {
  if (method === 'picture') {
    const share = lengthOf((PICTURE_SHARE * stickOut) / 1e6, 'mm');
    return { short: share, long: share };
  }
  const limit = lengthOf(method === 'setter' ? 0.05 : 0.03, 'mm');
  return { short: limit, long: limit };
}

/** How far off a single check may be: a setter by a hundredth, light by half of that, a picture by a quarter of what it sees (common practice, no source). */
export const uncertaintyOf = (method: CheckMethod, stickOut: Length): Length =>
  method === 'picture'
    ? lengthOf((PICTURE_SHARE * stickOut) / 4 / 1e6, 'mm')
    : lengthOf(method === 'setter' ? 0.01 : 0.005, 'mm');
