import { nanometres, type Length } from '../units/length.ts';

/** What is measured, in the words a measuring plan uses. */
export const FEATURE_KINDS = [
  'outsideDiameter',
  'bore',
  'faceLength',
  'shoulder',
  'partedLength',
  'grooveWidth',
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
  partedLength: 'length to the parted face',
  grooveWidth: 'groove width',
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

/** One register that a size answers to. */
export interface Moves {
  tool: number;
  row: number;
  role: RegisterRole;
  /** Change of the size for a change of one in the register. */
  by: number;
}

/** Who cuts what bounds a size: its own tool and row, and where the other end is cut too, that one's. */
export interface Bounds {
  kind: FeatureKind;
  tool: number;
  row: number;
  /** Null: the other end is not cut on this machine, or is the same cut on both sides. */
  other: { tool: number; row: number } | null;
}

/** Who roughs a size before its own tool finishes it, and the stock that is left for that, measured as the size is. */
export interface Rough {
  tool: number;
  row: number;
  stock: Length;
}

interface BoundRule {
  role: RegisterRole;
  /** What the size grows by with the register of its own boundary; with `both` false it is one of two ends. */
  own: number;
  /** The same for the other end; null: this kind of size has no other end that a tool could cut. */
  other: number | null;
  /** Its own tool cuts both sides as long as no other tool is named. */
  both: boolean;
  /** Its other end, in words. */
  end: string;
}

/**
 * How the boundaries of each kind of size move (H14, common practice, no source). X of a lathe: an OD and a bore both grow with X.
 * Z of a lathe and length wear of a mill: plus moves what is cut away from the chuck or the table. So a front face makes its part
 * longer, the parted end of the same part makes it shorter; a top makes a height larger, a floor makes a depth smaller. Cutter
 * wear: plus leaves more stock at each wall: outside larger, a pocket smaller, twice per width when the register is a radius.
 */
function ruleOf(kind: FeatureKind, reckoning: MachineReckoning): BoundRule | null {
  const wall = reckoning.cutter === 'radius' ? 1 : 0.5;
  const rule = (role: RegisterRole, own: number, other: number | null, end: string, both = false) => ({
    role,
    own,
    other,
    both,
    end,
  });
  switch (kind) {
    case 'outsideDiameter':
    case 'bore':
      return rule('xWear', reckoning.x === 'diameter' ? 1 : 2, null, '');
    case 'faceLength':
      return rule('zWear', 1, -1, 'the back end');
    case 'shoulder':
    case 'partedLength':
      return rule('zWear', -1, 1, 'the front face');
    case 'grooveWidth':
      return rule('zWear', 1, -1, 'its back edge');
    case 'height':
      return rule('lengthWear', 1, -1, 'what it is measured from');
    case 'depth':
      return rule('lengthWear', -1, 1, 'the top');
    case 'outsideWidth':
      return rule('cutterWear', wall, wall, 'the other side', true);
    case 'pocketWidth':
      return rule('cutterWear', -wall, -wall, 'the other side', true);
    case 'wall':
      return rule('cutterWear', wall, wall, 'the other side');
    default:
      return null;
  }
}

/** What the other end of a size is called, for whoever says which tool cuts it; null where there is none. */
export const otherEnd = (kind: FeatureKind): string | null => {
  const rule = ruleOf(kind, { x: 'diameter', cutter: 'radius' });
  return (rule?.other ?? null) === null ? null : rule!.end;
};

/**
 * The registers a size answers to, each with the change of the size for one of it. A size lies between two boundaries (H14): moving
 * a row moves only those it cuts, and a length between two faces that one row cuts does not change with it at all. Empty: no
 * register holds this size.
 */
export function movesOf({ kind, tool, row, other }: Bounds, reckoning: MachineReckoning): Moves[] {
  const rule = ruleOf(kind, reckoning);
  if (!rule) return [];
  const { role } = rule;
  if (!other || rule.other === null) return [{ tool, row, role, by: rule.both ? 2 * rule.own : rule.own }];
  if (other.row !== row)
    return [
      { tool, row, role, by: rule.own },
      { tool: other.tool, row: other.row, role, by: rule.other },
    ];
  const by = rule.own + rule.other;
  return by === 0 ? [] : [{ tool, row, role, by }];
}

/** The register of a size whose other end is not cut on this machine, and the change of size for one of it; null: none holds it. */
export function registerAnswer(
  kind: FeatureKind,
  reckoning: MachineReckoning,
): { role: RegisterRole; sensitivity: number } | null {
  const [moves] = movesOf({ kind, tool: 1, row: 1, other: null }, reckoning);
  return moves ? { role: moves.role, sensitivity: moves.by } : null;
}

/** What to do about a size that no register holds (H14). */
export function withoutRegister({ kind, row, other }: Pick<Bounds, 'kind' | 'row' | 'other'>): string {
  if (kind === 'cutHole') return 'A drill, reamer or tap has no size register: replace or regrind it.';
  if (kind === 'dialledBore') return 'A boring head is turned by hand: dial it, do not key it.';
  if (other && other.row === row)
    return `Row ${row} cuts both ends of it, so that no offset changes it: give one end a row of its own, or change the program.`;
  return 'A position is set by the work offset, not by tool wear.';
}

/** Whether more stock on a part shows as a larger size (1: an OD, a height) or a smaller one (−1: a bore, a depth). */
export const stockSense = (kind: FeatureKind): 1 | -1 =>
  kind === 'bore' ||
  kind === 'shoulder' ||
  kind === 'grooveWidth' ||
  kind === 'depth' ||
  kind === 'pocketWidth' ||
  kind === 'cutHole' ||
  kind === 'dialledBore'
    ? -1
    : 1;
