import { ASSEMBLY_WORDS, type AssemblyKind } from '../assembly/silhouette.ts';
import { inUnit, type Length } from '../units/length.ts';
import type { CheckMethod, CheckMoment } from './tool-check.ts';

/** A tool as far as it says how likely it is to break. */
export interface CheckedTool {
  kind: AssemblyKind;
  diameter: Length;
  /** What stands out of the holder. */
  stickOut: Length;
  /** How earlier edges of its kind and size ended: how many are known, and how many chipped or broke. */
  history: { ends: number; sudden: number };
  /** T that cuts where this one should have opened the way: the tap after the drill. */
  opensFor: number | null;
}

export interface CheckProposal {
  moment: CheckMoment;
  method: CheckMethod;
  /** Why, each a half sentence. */
  reasons: string[];
}

/** Kinds that break off rather than wear away. */
const BREAKABLE: ReadonlySet<AssemblyKind> = new Set([
  'drill',
  'spotDrill',
  'tap',
  'reamer',
  'endMill',
  'ballMill',
  'threadMill',
]);
/** The figures are common practice, no source: small, slender, and what earlier edges did. */
const SMALL = 6;
const TINY = 3;
const SLENDER = 6;
const VERY_SLENDER = 10;
/** Too fine to be touched. */
const LASER_BELOW = 1.5;
const OFTEN = 0.15;
const SOMETIMES = 0.05;

/**
 * Whether a tool should be checked for breakage, when and how, with the reasons (H12: the tools that may break are small drills, taps,
 * small end mills, long slender ones; large cutters need not be). What earlier edges did outweighs what the kind lets expect. The lead
 * decides. `show` writes a length. Before the cut too, where it is likely: a check after the cut is too late for that part.
 */
export function proposeCheck(
  { kind, diameter, stickOut, history, opensFor }: CheckedTool,
  show: (length: Length) => string,
): CheckProposal {
  const size = inUnit(diameter, 'mm');
  const slenderness = diameter > 0 ? stickOut / diameter : 0;
  const method: CheckMethod = size < LASER_BELOW ? 'laser' : 'setter';
  const share = history.ends > 0 ? history.sudden / history.ends : 0;
  const grave: string[] = [];
  const reasons: string[] = [];
  if (history.sudden >= 2 && share >= OFTEN)
    grave.push(`${history.sudden} of ${history.ends} edges chipped or broke`);
  else if (history.sudden >= 1 && share >= SOMETIMES)
    reasons.push(`${history.sudden} of ${history.ends} edges chipped or broke`);
  if (BREAKABLE.has(kind)) {
    if (size <= TINY) grave.push(`it is only ${show(diameter)} across`);
    else if (size <= SMALL) reasons.push(`it is only ${show(diameter)} across`);
    if (slenderness >= VERY_SLENDER)
      grave.push(`it stands out by ${Math.round(slenderness)} times its diameter`);
    else if (slenderness >= SLENDER)
      reasons.push(`it stands out by ${Math.round(slenderness)} times its diameter`);
    if (kind === 'tap') reasons.push('a tap breaks off in the part');
    if (opensFor !== null) reasons.push(`T${opensFor} would go into what it did not open`);
  }
  if (grave.length + reasons.length === 0)
    return {
      moment: 'none',
      method,
      reasons: [
        BREAKABLE.has(kind)
          ? 'it is neither small nor slender, and none like it is known to have broken'
          : `a ${ASSEMBLY_WORDS[kind]} shows on the part before it breaks`,
      ],
    };
  if (method === 'laser') reasons.push('it is too fine to be touched');
  return { moment: grave.length > 0 ? 'both' : 'after', method, reasons: [...grave, ...reasons] };
}
