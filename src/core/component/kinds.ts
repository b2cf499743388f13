import type { AssemblyKind } from '../assembly/silhouette.ts';

/**
 * What an assembly is built from (H2, H3). Dimensions carry their property names of ISO 13399 (from memory), so that
 * exports and other programs know them; `short` is what a setter calls them in a narrow column.
 */
export const PROPERTIES = {
  DC: { words: 'cutting diameter', short: '⌀', type: 'length' },
  DCX: { words: 'largest cutting diameter', short: 'largest ⌀', type: 'length' },
  DCONMS: { words: 'connection diameter, machine side', short: 'shank ⌀', type: 'length' },
  DCONWS: { words: 'connection diameter, workpiece side', short: 'bore ⌀', type: 'length' },
  OAL: { words: 'overall length', short: 'length', type: 'length' },
  LF: { words: 'functional length', short: 'length', type: 'length' },
  LPR: { words: 'protruding length', short: 'projection', type: 'length' },
  LCF: { words: 'length of chip flute', short: 'flutes', type: 'length' },
  LU: { words: 'usable length', short: 'usable', type: 'length' },
  APMX: { words: 'greatest depth of cut', short: 'depth', type: 'length' },
  RE: { words: 'corner radius', short: 'corner R', type: 'length' },
  BD: { words: 'body diameter', short: 'body ⌀', type: 'length' },
  TP: { words: 'thread pitch', short: 'pitch', type: 'length' },
  SIG: { words: 'point angle', short: 'point', type: 'angle' },
  KAPR: { words: 'cutting edge angle', short: 'lead', type: 'angle' },
  ZEFP: { words: 'effective cutting edges', short: 'teeth', type: 'count' },
  CEDC: { words: 'cutting edges to index', short: 'edges', type: 'count' },
  RPMX: { words: 'greatest speed', short: 'max rpm', type: 'speed' },
  WT: { words: 'mass', short: 'mass', type: 'mass' },
} as const;
export type Property = keyof typeof PROPERTIES;
export const PROPERTY_NAMES = Object.keys(PROPERTIES) as readonly Property[];

/** Lengths in nanometres, angles in degrees, counts plain, speeds per minute, masses in grams. */
export type Dimensions = Partial<Record<Property, number>>;

export const COMPONENT_GROUPS = ['cutter', 'holder', 'adaptive', 'knob', 'insert'] as const;
export type ComponentGroup = (typeof COMPONENT_GROUPS)[number];

interface KindFacts {
  group: ComponentGroup;
  words: string;
  needs: readonly Property[];
  /** What an assembly with this cutter is. */
  makes?: AssemblyKind;
}
const round = ['DC', 'DCONMS', 'OAL', 'LCF'] as const;

export const COMPONENT_KINDS = {
  endMillSharp: {
    group: 'cutter',
    words: 'end mill, sharp corner',
    needs: [...round, 'ZEFP'],
    makes: 'endMill',
  },
  endMillRadius: {
    group: 'cutter',
    words: 'end mill, corner radius',
    needs: [...round, 'ZEFP', 'RE'],
    makes: 'endMill',
  },
  ballMill: { group: 'cutter', words: 'ball end mill', needs: [...round, 'ZEFP'], makes: 'ballMill' },
  chamferMill: { group: 'cutter', words: 'chamfer mill', needs: [...round, 'ZEFP'], makes: 'chamferMill' },
  drillJobber: { group: 'cutter', words: 'jobber drill', needs: [...round, 'SIG'], makes: 'drill' },
  drillStub: { group: 'cutter', words: 'stub drill', needs: [...round, 'SIG'], makes: 'drill' },
  drillLong: { group: 'cutter', words: 'long drill', needs: [...round, 'SIG'], makes: 'drill' },
  centreDrill: { group: 'cutter', words: 'centre drill', needs: [...round, 'SIG'], makes: 'spotDrill' },
  spotDrill: { group: 'cutter', words: 'spot drill', needs: [...round, 'SIG'], makes: 'spotDrill' },
  reamer: { group: 'cutter', words: 'reamer', needs: round, makes: 'reamer' },
  tapCutting: { group: 'cutter', words: 'cutting tap', needs: [...round, 'TP'], makes: 'tap' },
  tapForming: { group: 'cutter', words: 'forming tap', needs: [...round, 'TP'], makes: 'tap' },
  threadMill: { group: 'cutter', words: 'thread mill', needs: [...round, 'TP'], makes: 'threadMill' },
  boringBar: {
    group: 'cutter',
    words: 'boring bar',
    needs: ['DC', 'DCONMS', 'OAL', 'LCF'],
    makes: 'boringBar',
  },
  faceMill: { group: 'cutter', words: 'face mill', needs: ['DC', 'DCONMS', 'LF', 'ZEFP'], makes: 'faceMill' },
  shellMill: {
    group: 'cutter',
    words: 'shell mill',
    needs: ['DC', 'DCONMS', 'LF', 'ZEFP'],
    makes: 'faceMill',
  },
  probe: { group: 'cutter', words: 'probe', needs: round, makes: 'probe' },
  turningTool: { group: 'cutter', words: 'turning tool', needs: ['LF', 'DCONMS'], makes: 'turning' },
  turningBar: {
    group: 'cutter',
    words: 'boring bar for turning',
    needs: ['LF', 'DCONMS'],
    makes: 'turningBoring',
  },
  groovingTool: { group: 'cutter', words: 'grooving tool', needs: ['LF', 'DCONMS'], makes: 'grooving' },
  partingTool: { group: 'cutter', words: 'parting tool', needs: ['LF', 'DCONMS'], makes: 'parting' },
  threadingTool: { group: 'cutter', words: 'threading tool', needs: ['LF', 'DCONMS'], makes: 'threading' },
  sideLock: { group: 'holder', words: 'side-lock holder', needs: ['LPR', 'BD', 'DCONWS'] },
  colletChuck: { group: 'holder', words: 'collet chuck', needs: ['LPR', 'BD', 'DCONWS'] },
  drillChuck: { group: 'holder', words: 'drill chuck', needs: ['LPR', 'BD', 'DCONWS'] },
  shrink: { group: 'holder', words: 'shrink holder', needs: ['LPR', 'BD', 'DCONWS'] },
  hydraulic: { group: 'holder', words: 'hydraulic holder', needs: ['LPR', 'BD', 'DCONWS'] },
  arbor: { group: 'holder', words: 'shell-mill arbor', needs: ['LPR', 'BD', 'DCONWS'] },
  boringHead: { group: 'holder', words: 'boring head', needs: ['LPR', 'BD', 'DCONWS'] },
  turningHolder: { group: 'holder', words: 'turning holder', needs: ['LPR', 'BD', 'DCONWS'] },
  turningHolderDouble: { group: 'holder', words: 'turning holder, double', needs: ['LPR', 'BD', 'DCONWS'] },
  collet: { group: 'adaptive', words: 'collet', needs: ['DCONWS', 'DCONMS'] },
  sleeve: { group: 'adaptive', words: 'reduction sleeve', needs: ['DCONWS', 'DCONMS'] },
  extension: { group: 'adaptive', words: 'extension', needs: ['LPR', 'BD', 'DCONWS', 'DCONMS'] },
  nut: { group: 'adaptive', words: 'collet nut', needs: ['BD', 'DCONMS'] },
  knob: { group: 'knob', words: 'retention knob', needs: [] },
  insert: { group: 'insert', words: 'insert', needs: [] },
} as const satisfies Record<string, KindFacts>;
export type ComponentKind = keyof typeof COMPONENT_KINDS;
export const COMPONENT_KIND_NAMES = Object.keys(COMPONENT_KINDS) as [ComponentKind, ...ComponentKind[]];

export const kindFacts = (kind: ComponentKind): KindFacts => COMPONENT_KINDS[kind];

/** One line of the crib's catalogue. */
export interface Component {
  id: number;
  number: string;
  name: string;
  kind: ComponentKind;
  dimensions: Dimensions;
  /** The taper it goes into (holders and knobs), as `Interface`; empty for the rest. */
  interface: string;
  /** Series of a collet, its chuck and its nut; pattern of a knob; designation of an insert or the seat for it. */
  series: string;
  /** Shank with a flat, for side-locks. */
  flat: boolean;
  /** Drilled for coolant through the spindle. */
  coolant: boolean;
  /** It cuts with the spindle turning counter-clockwise. */
  leftHand: boolean;
  /** Carbide is stiffer and heavier than steel. */
  material: 'carbide' | 'steel';
  /** Newton metres, as entered for this holder; null when nobody entered it. */
  torque: number | null;
}

/** The kinds of a group that somebody named; none when it is no group, which means all. */
export const kindsOfGroup = (group: string | null): readonly ComponentKind[] =>
  COMPONENT_GROUPS.some((each) => each === group)
    ? COMPONENT_KIND_NAMES.filter((kind) => kindFacts(kind).group === group)
    : [];
