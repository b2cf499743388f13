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

/** Wear is corrected from what parts measure; everything else is measured or set. */
export const isWear = (kind: string): boolean => kind.endsWith('Wear');
