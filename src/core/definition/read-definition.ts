import { ASSEMBLY_WORDS, type AssemblyKind } from '../assembly/silhouette.ts';
import { saysLeftHand } from '../assembly/hand.ts';
import type { Length, LengthUnit } from '../units/length.ts';
import { cornerIn, plainComment, reachIn, sizeIn, teethIn, threadIn } from './comment-sizes.ts';

/** What a program asks for under one T (H2: a tool definition, fulfilled by many assemblies). */
export interface Definition {
  kind: AssemblyKind;
  diameter: Length | null;
  cornerRadius: Length | null;
  /** How far the cutter must at least stand out. */
  reach: Length | null;
  teeth: number | null;
  /** A thread as it is called, or nothing. */
  thread: string;
  /** Which way round it is to cut; null: it is not said. */
  leftHand: boolean | null;
  /** Share of its full life that must at least be left. */
  leastLife: number | null;
}

/** Words that programmers put into comments, what they mean, and the narrower before the wider (common practice, no source). */
const KIND_WORDS: readonly (readonly [words: RegExp, kind: AssemblyKind])[] = [
  // what goes before a tap or a reamer is a drill; a slot drill is a mill, and a mill drill chamfers
  [/\b(?:TAP|TAPPING|REAM|REAMER|REAMING|PILOT)[\s-]*DR(?:IL)?L\b|\bPRE[\s-]?DRILL/, 'drill'],
  [/\bSLOT[\s-]*DRILL/, 'endMill'],
  [/\bMILL[\s-]*DRILL|\bDRILL[\s-]*MILL/, 'chamferMill'],
  [/\bBALL(?:\s*(?:NOSE|END))?\s*(?:END\s*)?MILL\b|\bBALL\b/, 'ballMill'],
  [/\bFACE\s*MILL\b|\bSHELL\s*MILL\b/, 'faceMill'],
  [/\bCHAMFER|\bC(?:OUNTER|')?\s*SINK|\bCSK\b/, 'chamferMill'],
  [/\bTHREAD\s*MILL\b/, 'threadMill'],
  [/\bEND\s*MILL\b|\bBULL\s*NOSE\b|\bE[./]?M\b/, 'endMill'],
  [/\bSPOT(?:TING)?\s*DR(?:IL)?L\b|\bC(?:ENTER|ENTRE|TR)\s*DR(?:IL)?L\b|\bSPOT\b(?!\s*FAC)/, 'spotDrill'],
  [/\bREAM/, 'reamer'],
  [/\bTAP(?:PING)?\b/, 'tap'],
  [/\bDR(?:IL)?L\b/, 'drill'],
  [/\bPROBE\b/, 'probe'],
  [/\bPART(?:ING)?[\s-]*OFF\b|\bPARTING\b/, 'parting'],
  [/\bGROOV/, 'grooving'],
  [/\bTHREAD(?:ING)?\b/, 'threading'],
  [/\bBAR\s*STOP\b/, 'barStop'],
];
/** A drill, and what goes into its hole: which of the two the T is, they do not say. */
const BOTH = [/\bDR(?:IL)?L\b/, /\b(?:TAP|TAPPING|REAM|REAMER|REAMING)\b/] as const;

/**
 * Reads what a tool comment says: "END MILL 10 FINISH", "TAP M8", "DRILL 6.8 FOR M8", "BALL MILL 6 R3", "1 1/2 FACE MILL", "TAP 10-32",
 * "DRILL F", "5XD DRILL 8.5". Boring bars mean one thing on a mill and another on a lathe. What it does not say, or what could be read
 * two ways, is left open. Null when no kind of tool is named, or two.
 */
export function readDefinition(
  comment: string,
  unit: LengthUnit,
  machine: 'mill' | 'lathe',
): Definition | null {
  const plain = plainComment(comment);
  // what it is for stands behind what it is
  const before = plain.split(/\b(?:FOR|BEFORE|AFTER)\b|\bF\//, 1)[0]!;
  const kind = kindIn(before, machine) ?? kindIn(plain, machine);
  if (!kind) return null;
  const text = kindIn(before, machine) ? before : plain;
  const { thread, named, rest } = threadIn(text, kind === 'tap');
  const across = () => (machine === 'mill' ? sizeIn(rest, kind, unit) : null);
  const diameter = kind !== 'tap' ? across() : thread ? thread.diameter : named ? null : across();
  const corner = cornerIn(rest, unit, machine === 'lathe');
  return {
    kind,
    diameter,
    // of a ball that says nothing more than its size
    cornerRadius: kind === 'ballMill' && corner !== null && 2 * corner === diameter ? null : corner,
    reach: reachIn(rest, unit),
    teeth: teethIn(text),
    thread: kind === 'tap' && thread ? thread.name : '',
    leftHand: saysLeftHand(comment) || null,
    leastLife: null,
  };
}

function kindIn(text: string, machine: 'mill' | 'lathe'): AssemblyKind | null {
  const found = KIND_WORDS.find(([words]) => words.test(text));
  if (found) {
    const rest = text.replace(KIND_WORDS[0]![0], ' ');
    const two = BOTH.every((words) => words.test(rest)) && !/\b(?:SPOT|CENT|CTR|SLOT|MILL)/.test(rest);
    return two ? null : found[1];
  }
  // a counterbore is no boring bar
  if (/(?<!\bC['-]?\s?)\bBOR(?:E|ING)\b/.test(text))
    return machine === 'mill' ? 'boringBar' : 'turningBoring';
  return machine === 'lathe' && /\b(?:OD|ROUGH|FINISH|TURN|FACE)/.test(text) ? 'turning' : null;
}

/** A definition in words. */
export const definitionWords = (definition: Definition, show: (value: Length) => string): string =>
  [
    ASSEMBLY_WORDS[definition.kind],
    definition.thread || (definition.diameter === null ? '' : show(definition.diameter)),
    definition.cornerRadius ? `R ${show(definition.cornerRadius)}` : '',
    definition.teeth ? `${definition.teeth} teeth` : '',
    definition.reach ? `reach ${show(definition.reach)} or more` : '',
    definition.leftHand === null ? '' : definition.leftHand ? 'left-hand' : 'right-hand',
    definition.leastLife ? `at least ${Math.round(definition.leastLife * 100)} % of its life left` : '',
  ]
    .filter(Boolean)
    .join(', ');
