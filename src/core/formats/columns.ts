import { capital } from '../words/capital.ts';
import {
  ASSEMBLY_KINDS,
  ASSEMBLY_WORDS,
  INTERFACE_NAMES,
  INTERFACES,
  type AssemblyKind,
  type Interface,
} from '../assembly/silhouette.ts';
import { ROLE_WORDS, PART_ROLES } from '../assembly/part-roles.ts';
import { COMPONENT_KIND_NAMES, kindFacts, PROPERTIES, PROPERTY_NAMES } from '../component/kinds.ts';
import { FLAGS } from '../life/flag.ts';
import { LIFE_BASES, type LifeBasis } from '../life/count.ts';

/** What a column of a file of tools holds; the same column is a field of a form. */
export interface Column {
  /** Its heading in our files. */
  name: string;
  /** What a setter calls it. */
  words: string;
  type: 'text' | 'length' | 'number' | 'whole' | 'yes' | 'choice';
  choices?: readonly Choice[];
  needed?: boolean;
  /** Other headings it goes by in the files of other people. */
  also?: readonly string[];
  /** Moved by entries of its own once the tool is on record. */
  first?: boolean;
}
export interface Choice {
  value: string;
  words: string;
}

const choices = <T extends string>(values: readonly T[], words: (value: T) => string): readonly Choice[] =>
  values.map((value) => ({ value, words: words(value) }));

export const KIND_CHOICES: Readonly<Record<FileKind, readonly Choice[]>> = {
  assemblies: choices(ASSEMBLY_KINDS, (kind: AssemblyKind) => ASSEMBLY_WORDS[kind]),
  components: choices(COMPONENT_KIND_NAMES, (kind) => kindFacts(kind).words),
};
export const INTERFACE_CHOICES = choices(INTERFACE_NAMES, (name: Interface) => INTERFACES[name].words);
const LIFE_WORDS: Readonly<Record<LifeBasis, string>> = {
  pieces: 'pieces',
  holes: 'holes',
  minutes: 'minutes in cut',
  wear: 'thousandths of wear',
};
export const LIFE_CHOICES = choices(LIFE_BASES, (basis) => LIFE_WORDS[basis]);

/** Flags that a tool may come with. */
export const FLAG_CHOICES = choices(FLAGS, (flag) => flag);

export type FileKind = 'assemblies' | 'components';

const NUMBER: Column = {
  name: 'number',
  words: 'Number',
  type: 'text',
  needed: true,
  also: ['no', 'tool no', 'tool number', 'id', 'item', 'item no', 'part no', 'article', 'nummer', 'art nr'],
};
const NAME: Column = {
  name: 'name',
  words: 'Name',
  type: 'text',
  needed: true,
  also: ['description', 'designation', 'text', 'title', 'bezeichnung', 'désignation'],
};

const LEFT_HAND: Column = {
  name: 'left_hand',
  words: 'Left-hand',
  type: 'yes',
  also: ['left hand', 'lh', 'linksschneidend'],
};

/** Headings that dimensions go by where their names of ISO 13399 are not used (common practice, no source). */
const PROPERTY_ALSO: Partial<Record<(typeof PROPERTY_NAMES)[number], readonly string[]>> = {
  DC: ['diameter', 'dia', 'ø', 'd', 'cutting dia', 'durchmesser', 'diamètre'],
  DCONMS: ['shank', 'shank diameter', 'shank dia', 'schaft'],
  DCONWS: ['bore', 'clamping diameter', 'spanndurchmesser'],
  OAL: ['overall length', 'length', 'total length', 'gesamtlänge', 'longueur'],
  LPR: ['projection', 'gauge length', 'a dimension'],
  LCF: ['flute length', 'length of cut', 'loc', 'schneidenlänge'],
  RE: ['corner radius', 'radius', 'r', 'nose radius'],
  BD: ['body diameter', 'body dia', 'outside diameter'],
  TP: ['pitch', 'steigung'],
  SIG: ['point angle', 'tip angle', 'spitzenwinkel'],
  KAPR: ['lead angle', 'approach angle', 'einstellwinkel'],
  ZEFP: ['teeth', 'flutes', 'z', 'zähne', 'dents'],
  RPMX: ['max rpm', 'max speed', 'n max'],
  WT: ['weight', 'mass', 'gewicht'],
};

export const COLUMNS: Readonly<Record<FileKind, readonly Column[]>> = {
  assemblies: [
    NUMBER,
    NAME,
    {
      name: 'kind',
      words: 'Kind',
      type: 'choice',
      choices: KIND_CHOICES.assemblies,
      needed: true,
      also: ['type', 'tool type', 'typ', 'art'],
    },
    {
      name: 'interface',
      words: 'Taper or shank',
      type: 'choice',
      choices: INTERFACE_CHOICES,
      needed: true,
      also: ['taper', 'spindle', 'end', 'shank', 'aufnahme'],
    },
    {
      name: 'diameter',
      words: 'Diameter',
      type: 'length',
      needed: true,
      also: ['dia', 'ø', 'd', 'dc', 'cutter diameter', 'durchmesser', 'diamètre'],
    },
    {
      name: 'stick_out',
      words: 'Stick-out',
      type: 'length',
      needed: true,
      also: ['stickout', 'projection', 'out of holder', 'auskraglänge'],
    },
    {
      name: 'gauge_length',
      words: 'Gauge length',
      type: 'length',
      needed: true,
      also: ['length', 'tool length', 'gage length', 'set length', 'l', 'länge', 'longueur'],
    },
    {
      name: 'holder_diameter',
      words: 'Holder diameter',
      type: 'length',
      needed: true,
      also: ['holder dia', 'holder ø', 'nose diameter', 'bd'],
    },
    { name: 'holder', words: 'Holder', type: 'text', also: ['holder name', 'chuck', 'halter'] },
    {
      name: 'corner_radius',
      words: 'Corner radius',
      type: 'length',
      also: ['radius', 're', 'r', 'nose radius', 'eckenradius'],
    },
    {
      name: 'teeth',
      words: 'Teeth',
      type: 'whole',
      also: ['flutes', 'z', 'no of teeth', 'edges', 'zähne', 'dents'],
    },
    LEFT_HAND,
    {
      name: 'life_basis',
      words: 'Life is counted in',
      type: 'choice',
      choices: LIFE_CHOICES,
      first: true,
      also: ['life unit', 'counted in'],
    },
    {
      name: 'life_limit',
      words: 'Good for',
      type: 'number',
      first: true,
      also: ['tool life', 'life', 'limit', 'standzeit'],
    },
    {
      name: 'life_left',
      words: 'Left of that',
      type: 'number',
      first: true,
      also: ['remaining', 'remaining life', 'life left', 'rest', 'restschnittzeit'],
    },
    { name: 'status', words: 'Flag', type: 'choice', choices: FLAG_CHOICES, first: true, also: ['flag'] },
    { name: 'insert_count', words: 'Number of inserts', type: 'whole', first: true, also: ['inserts'] },
    ...PART_ROLES.map((role): Column => ({
      name: `${role}_item`,
      words: `Catalogue number of its ${ROLE_WORDS[role]}`,
      type: 'text',
      first: true,
    })),
  ],
  components: [
    NUMBER,
    NAME,
    {
      name: 'kind',
      words: 'Kind',
      type: 'choice',
      choices: KIND_CHOICES.components,
      needed: true,
      also: ['type', 'typ', 'art'],
    },
    ...PROPERTY_NAMES.map((name): Column => ({
      name: name.toLowerCase(),
      words: capital(PROPERTIES[name].words),
      type: { length: 'length', angle: 'number', count: 'whole', speed: 'whole', mass: 'whole' }[
        PROPERTIES[name].type
      ] as Column['type'],
      also: PROPERTY_ALSO[name] ?? [],
    })),
    {
      name: 'interface',
      words: 'Taper or shank (holders and knobs)',
      type: 'choice',
      choices: INTERFACE_CHOICES,
      also: ['taper', 'spindle', 'aufnahme'],
    },
    {
      name: 'series',
      words: 'Series, thread or designation',
      type: 'text',
      also: ['thread', 'iso code', 'size'],
    },
    { name: 'flat', words: 'Shank with a flat', type: 'yes' },
    { name: 'coolant', words: 'Drilled for coolant', type: 'yes', also: ['through coolant', 'cooling'] },
    LEFT_HAND,
    {
      name: 'material',
      words: 'Material',
      type: 'choice',
      choices: [
        { value: 'carbide', words: 'carbide' },
        { value: 'steel', words: 'steel' },
      ],
    },
    { name: 'torque', words: 'Tightening torque, N·m', type: 'number' },
    { name: 'cost', words: 'Cost each', type: 'number', also: ['price', 'unit price', 'preis', 'prix'] },
    { name: 'edges', words: 'Edges', type: 'whole', also: ['cutting edges', 'schneiden'] },
    { name: 'regrinds', words: 'Regrinds left', type: 'whole' },
    {
      name: 'shelf',
      words: 'Shelf',
      type: 'text',
      also: ['location', 'bin', 'place', 'lagerort', 'lagerplatz'],
    },
    {
      name: 'stock',
      words: 'On the shelf',
      type: 'whole',
      first: true,
      also: ['qty', 'quantity', 'on hand', 'bestand', 'menge'],
    },
    {
      name: 'minimum',
      words: 'Minimum',
      type: 'whole',
      also: ['min', 'min stock', 'reorder point', 'mindestbestand'],
    },
    {
      name: 'maximum',
      words: 'Maximum',
      type: 'whole',
      also: ['max', 'max stock', 'order up to', 'höchstbestand'],
    },
  ],
};

export const columnNames = (kind: FileKind, needed: boolean): string[] =>
  COLUMNS[kind].filter((column) => (column.needed ?? false) === needed).map((column) => column.name);

/** A kind, taper or basis as a setter says it. */
export const choiceWords = (list: readonly Choice[], value: string): string =>
  list.find((choice) => choice.value === value)?.words ?? value;
