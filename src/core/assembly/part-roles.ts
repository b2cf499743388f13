/** The slots of an assembly, from the machine to the part; `second` is the other tool of a double turning holder, with an insert of its own. */
export const PART_ROLES = [
  'knob',
  'holder',
  'extension',
  'nut',
  'adapter',
  'cutter',
  'second',
  'insert',
  'second_insert',
] as const;
export type PartRole = (typeof PART_ROLES)[number];
/** Slots of what is turned to its next edge. */
export const INSERT_ROLES = ['insert', 'second_insert'] as const satisfies readonly PartRole[];

export const ROLE_WORDS: Readonly<Record<PartRole, string>> = {
  knob: 'knob',
  holder: 'holder',
  extension: 'extension',
  nut: 'nut',
  adapter: 'adapter',
  cutter: 'cutter',
  second: 'second tool',
  insert: 'insert',
  second_insert: 'second tool’s insert',
};
