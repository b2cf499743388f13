/** What a register of a row is called, on a mill and on a lathe (H8). */
export const REGISTER_WORDS: Readonly<Record<string, string>> = {
  xGeometry: 'X geometry',
  zGeometry: 'Z geometry',
  xWear: 'X wear',
  zWear: 'Z wear',
  noseRadius: 'nose radius',
  tipDirection: 'tip direction',
  lengthGeometry: 'length geometry',
  lengthWear: 'length wear',
  cutterGeometry: 'cutter geometry',
  cutterWear: 'cutter wear',
};

/** A tip's direction is a number from 0 to 9 (H8), and no length. */
export const isDirection = (kind: string): boolean => kind === 'tipDirection';

/** Wear is corrected from what parts measure; everything else is measured or set. */
export const isWear = (kind: string): boolean => kind.endsWith('Wear');
