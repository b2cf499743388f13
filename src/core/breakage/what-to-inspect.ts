import { ASSEMBLY_WORDS, type AssemblyKind } from '../assembly/silhouette.ts';
import { inUnit, type Length } from '../units/length.ts';

export interface FaultyTool {
  tool: number;
  kind: AssemblyKind;
  diameter: Length;
}

export interface LaterTool extends FaultyTool {
  /** Holes it makes, so that one that works in the same holes is known by their number. */
  holes: number;
}

export interface LaterCut {
  tool: number;
  /** What it did to the part, as a sentence. */
  sentence: string;
  /** It may have been hurt by what was left there. */
  hurt: boolean;
}

/** Kinds that go into a hole that another tool has opened. */
const FOLLOWERS: ReadonlySet<AssemblyKind> = new Set(['tap', 'reamer', 'boringBar', 'threadMill']);

/** Whether a tool goes into the hole that a drill of this size opens: not thinner, and not by more than a thread or a reamer's stock thicker. */
export function followsInHole(drill: FaultyTool, later: Omit<LaterTool, 'tool'>): boolean {
  if (drill.kind !== 'drill' || !FOLLOWERS.has(later.kind)) return false;
  const [made, goes] = [inUnit(drill.diameter, 'mm'), inUnit(later.diameter, 'mm')];
  // a tap of nominal D stands in a hole of D less its pitch, 0.75 to 0.93 of it for coarse and fine threads (ISO 2306, from memory); a reamer takes some tenths
  if (later.kind === 'tap') return made < goes && made > 0.74 * goes;
  if (later.kind === 'threadMill') return goes <= made;
  if (later.kind === 'reamer') return made < goes && goes - made <= 0.8;
  return made < goes && made > 0.6 * goes;
}

/**
 * What the tools that came after a broken one in the same part did to it (H12: all parts since the last good check, and what later tools
 * did with them). Pulled out, a tool has cut too deep, and what comes after finds nothing to cut.
 */
export function laterCuts(
  faulty: FaultyTool,
  verdict: 'broken' | 'pullingOut',
  holes: number,
  later: readonly LaterTool[],
): LaterCut[] {
  return later.map((each) => {
    const { tool, kind } = each;
    const name = `T${tool} (${ASSEMBLY_WORDS[kind]})`;
    if (
      verdict === 'broken' &&
      followsInHole(faulty, each) &&
      (holes === 0 || each.holes === 0 || each.holes <= holes)
    )
      return {
        tool,
        hurt: true,
        sentence:
          kind === 'tap'
            ? `${name} went into holes that T${faulty.tool} had not drilled to depth: it may have tapped into the solid or onto a broken end. Look at the tap too.`
            : `${name} went into holes that T${faulty.tool} had not drilled to depth and took all that was left there. Look at its edges too.`,
      };
    if (verdict === 'pullingOut' && followsInHole(faulty, each))
      return {
        tool,
        hurt: false,
        sentence: `${name} worked in holes that are too deep: what it made may stand right, the ground of the hole does not.`,
      };
    return { tool, hurt: false, sentence: `${name} cut the same part afterwards.` };
  });
}

/** What to look for on a part that a tool spoilt or may have spoilt (common practice, no source). */
export function whatToInspect(kind: AssemblyKind, verdict: 'broken' | 'pullingOut'): string[] {
  if (verdict === 'pullingOut')
    return [
      'Depth of everything it cut: pulled out, it goes too deep, by more from part to part.',
      'Marks of the holder or of the shank where it ran close to a wall.',
    ];
  const stub = 'A broken end left in the part: nothing may be cut over it.';
  switch (kind) {
    case 'drill':
    case 'spotDrill':
      return [
        stub,
        'Depth and run-out of every hole, with a pin to the ground.',
        'Holes that are not there at all.',
      ];
    case 'tap':
    case 'threadMill':
    case 'threading':
      return [stub, 'Every thread with go and no-go gauge to its full depth.'];
    case 'reamer':
    case 'boringBar':
    case 'turningBoring':
      return [stub, 'Bore size at both ends, its finish, and scores along it.'];
    default:
      return [
        stub,
        'Sizes and corners that it cuts: a chipped edge leaves stock and a step.',
        'Finish and burrs where it left off.',
      ];
  }
}
