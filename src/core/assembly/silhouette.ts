import { inUnit, lengthOf, type Length } from '../units/length.ts';

export const ASSEMBLY_KINDS = [
  'endMill',
  'ballMill',
  'faceMill',
  'chamferMill',
  'drill',
  'spotDrill',
  'reamer',
  'tap',
  'threadMill',
  'boringBar',
  'probe',
  'turning',
  'turningBoring',
  'grooving',
  'parting',
  'threading',
  'barStop',
] as const;
export type AssemblyKind = (typeof ASSEMBLY_KINDS)[number];

/** Tools that stand still while the part turns. */
export const TURNED: readonly AssemblyKind[] = [
  'turning',
  'turningBoring',
  'grooving',
  'parting',
  'threading',
];

export const ASSEMBLY_WORDS: Readonly<Record<AssemblyKind, string>> = {
  endMill: 'end mill',
  ballMill: 'ball end mill',
  faceMill: 'face mill',
  chamferMill: 'chamfer mill',
  drill: 'drill',
  spotDrill: 'spot drill',
  reamer: 'reamer',
  tap: 'tap',
  threadMill: 'thread mill',
  boringBar: 'fine boring bar',
  probe: 'probe',
  turning: 'turning tool',
  turningBoring: 'boring bar (lathe)',
  grooving: 'grooving tool',
  parting: 'parting tool',
  threading: 'threading tool',
  barStop: 'bar stop',
};

/**
 * Spindle interfaces and lathe shanks: the flange diameter in millimetres that a drawing needs, and what the taper above the
 * gauge line weighs, reckoned as steel from its large end, length and 7/24 (the hollow ones as three fifths full), grams.
 */
export const INTERFACES = {
  'steep 40': { words: '40-taper', flange: 63.55, taperGrams: 515, source: 'ISO 7388-1, from memory' },
  'steep 30': { words: '30-taper', flange: 50, taperGrams: 186, source: 'ISO 7388-1, from memory' },
  // by the same frustum of 7/24, large end and length of the standard
  'steep 45': { words: '45-taper', flange: 82.55, taperGrams: 1060, source: 'ISO 7388-1, from memory' },
  'steep 50': { words: '50-taper', flange: 97.5, taperGrams: 1940, source: 'ISO 7388-1, from memory' },
  'hollow 32': {
    words: 'hollow short taper 32',
    flange: 32,
    taperGrams: 33,
    source: 'ISO 12164-1, from memory',
  },
  'hollow 40': {
    words: 'hollow short taper 40',
    flange: 40,
    taperGrams: 64,
    source: 'ISO 12164-1, from memory',
  },
  'hollow 50': {
    words: 'hollow short taper 50',
    flange: 50,
    taperGrams: 126,
    source: 'ISO 12164-1, from memory',
  },
  'hollow 80': {
    words: 'hollow short taper 80',
    flange: 80,
    taperGrams: 516,
    source: 'ISO 12164-1, from memory',
  },
  'hollow 100': {
    words: 'hollow short taper 100',
    flange: 100,
    taperGrams: 1010,
    source: 'ISO 12164-1, from memory',
  },
  'hollow 63': {
    words: 'hollow short taper 63',
    flange: 63,
    taperGrams: 250,
    source: 'ISO 12164-1, from memory',
  },
  'shank 20': {
    words: '20 mm square shank',
    flange: 20,
    taperGrams: 0,
    source: 'common practice, no source',
  },
  'shank 12': {
    words: '12 mm square shank',
    flange: 12,
    taperGrams: 0,
    source: 'common practice, no source',
  },
  'shank 16': {
    words: '16 mm square shank',
    flange: 16,
    taperGrams: 0,
    source: 'common practice, no source',
  },
  'shank 32': {
    words: '32 mm square shank',
    flange: 32,
    taperGrams: 0,
    source: 'common practice, no source',
  },
  'shank 25': {
    words: '25 mm square shank',
    flange: 25,
    taperGrams: 0,
    source: 'common practice, no source',
  },
} as const;
export type Interface = keyof typeof INTERFACES;
export const INTERFACE_NAMES = Object.keys(INTERFACES) as [Interface, ...Interface[]];

export interface AssemblyShape {
  kind: AssemblyKind;
  interface: Interface;
  gaugeLength: Length;
  stickOut: Length;
  holderDiameter: Length;
  diameter: Length;
  /** The outline that its pieces gave when it was built; without one it is drawn from the main dimensions. */
  outline?: readonly OutlinePoint[] | null;
  /** What it is called: a drawing tells a finisher's corner from a rougher's by it. */
  name?: string;
  /** The two tools of a double turning holder, side by side; null for everything that has one tool on its axis. */
  seats?: Seats | null;
}

/** A double turning holder as it is drawn: the body alone, and each tool about an axis of its own. */
export interface Seats {
  body: readonly OutlinePoint[];
  tools: readonly {
    /** Millimetres from the middle of the body to this tool's axis. */
    across: number;
    outline: readonly OutlinePoint[];
  }[];
}

/** A closed figure of a drawing: millimetres along from the gauge line, and across, below nothing on the other side. */
export type Figure = readonly (readonly [along: number, across: number])[];

/** A corner of the outline: millimetres from the gauge line towards the tip, and from the axis. */
export type OutlinePoint = readonly [along: number, radius: number];

/** Height of a drill's point: half the diameter over the tangent of half the point angle; 0.3004 × D at 118°. */
export const pointHeight = (diameter: number, pointAngle: number) =>
  diameter / 2 / Math.tan((pointAngle / 2) * (Math.PI / 180));

/** Half the outline of an assembly at true size, from gauge line to tip; the other half is its mirror image. */
export function silhouette(shape: AssemblyShape): OutlinePoint[] {
  if (shape.outline && shape.outline.length > 2) return [...shape.outline];
  const mm = (length: Length) => inUnit(length, 'mm');
  const length = Math.max(1, mm(shape.gaugeLength));
  const out = Math.min(length, Math.max(0, mm(shape.stickOut)));
  const cutter = mm(shape.diameter) / 2;
  const holder = mm(shape.holderDiameter) / 2;
  const nose = length - out;
  if (shape.interface.startsWith('shank'))
    return [
      [0, INTERFACES[shape.interface].flange / 2],
      [nose, INTERFACES[shape.interface].flange / 2],
      [nose, cutter],
      [length, cutter],
    ];
  const flange = INTERFACES[shape.interface].flange / 2;
  const flangeEnd = Math.min(nose, flange * 0.6);
  const body: OutlinePoint[] = [
    [0, flange],
    [flangeEnd, flange],
    [flangeEnd, holder],
    [Math.max(flangeEnd, nose - holder * 0.35), holder],
    [nose, Math.max(cutter, holder * 0.72)],
  ];
  return [...body, ...cuttingEnd(shape.kind, nose, length, cutter)];
}

/** The end that cuts, from `nose` (where the flutes begin) to the tip. */
export function cuttingEnd(kind: AssemblyKind, nose: number, length: number, radius: number): OutlinePoint[] {
  const tip = (angle: number): OutlinePoint[] => [
    [nose, radius],
    [Math.max(nose, length - pointHeight(2 * radius, angle)), radius],
    [length, 0],
  ];
  if (kind === 'drill') return tip(118);
  if (kind === 'spotDrill' || kind === 'chamferMill') return tip(90);
  if (kind === 'ballMill')
    return [
      [nose, radius],
      ...Array.from({ length: 7 }, (_, i): OutlinePoint => {
        const angle = (i / 6) * (Math.PI / 2);
        return [length - radius + radius * Math.sin(angle), radius * Math.cos(angle)];
      }),
    ];
  if (kind === 'probe')
    return [
      [nose, radius * 0.4],
      [length - 2 * radius, radius * 0.4],
      [length - radius, radius],
      [length, 0],
    ];
  if (kind === 'faceMill')
    return [
      [nose, radius],
      [length, radius],
      [length, radius * 0.5],
    ];
  return [
    [nose, radius],
    [length, radius],
  ];
}

/** The whole outline about an axis that stands `across` from the middle. */
const mirrored = (half: readonly OutlinePoint[], across = 0): Figure => [
  ...half.map(([along, radius]) => [along, across + radius] as const),
  ...[...half].reverse().map(([along, radius]) => [along, across - radius] as const),
];

/** Every closed figure of the assembly's drawing: one, or a double holder's tools and its body over them. */
export const figures = (shape: AssemblyShape): Figure[] =>
  shape.seats
    ? [
        ...shape.seats.tools.map(({ across, outline }) => mirrored(outline, across)),
        mirrored(shape.seats.body),
      ]
    : [mirrored(silhouette(shape))];

/** What of a turning holder's body is seen beside the turret's face, millimetres, besides the stick-out (common practice, no source). */
export const STUB = 34;

/** How far a turning tool stands out of its turret, millimetres. */
export const standOut = (shape: AssemblyShape): number => inUnit(shape.stickOut, 'mm') + STUB;

/** Half the largest width of the assembly, millimetres: what a neighbour in the magazine would strike. */
export const sweptRadius = (shape: AssemblyShape) =>
  // of two tools side by side the wider one may be on either side
  Math.max(...figures(shape).flatMap((figure) => figure.map(([, across]) => Math.abs(across))));

/** Its largest width as a length. */
export const widestOf = (shape: AssemblyShape): Length => lengthOf(2 * sweptRadius(shape), 'mm');
