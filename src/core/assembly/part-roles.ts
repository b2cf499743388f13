/** The slots of an assembly, from the machine to the part; `second` is the other tool of a double turning holder. */
export const PART_ROLES = [
  'knob',
  'holder',
  'extension',
  'nut',
  'adapter',
  'cutter',
  'second',
  'insert',
] as const;
export type PartRole = (typeof PART_ROLES)[number];
