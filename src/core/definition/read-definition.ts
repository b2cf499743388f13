import { ASSEMBLY_WORDS, type AssemblyKind } from '../assembly/silhouette.ts';
import { saysLeftHand } from '../assembly/hand.ts';
import { readDrillSize } from '../component/drill-size.ts';
import { readThread } from '../component/thread.ts';
import { lengthOf, type Length, type LengthUnit } from '../units/length.ts';

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

/** Words that programmers put into comments, the longest first, and what they mean. */
const KIND_WORDS: readonly (readonly [words: RegExp, kind: AssemblyKind])[] = [
  [/\bball(?:\s*(?:nose|end))?\s*(?:end\s*)?mill\b|\bball\b/i, 'ballMill'],
  [/\bface\s*mill\b|\bshell\s*mill\b/i, 'faceMill'],
  [/\bchamfer/i, 'chamferMill'],
  [/\bthread\s*mill\b/i, 'threadMill'],
  [/\bend\s*mill\b|\bendmill\b/i, 'endMill'],
  [/\bspot\s*drill\b|\bcent(?:re|er)\s*drill\b/i, 'spotDrill'],
  [/\bream/i, 'reamer'],
  [/\btap\b/i, 'tap'],
  [/\bdrill\b/i, 'drill'],
  [/\bprobe\b/i, 'probe'],
  [/\bpart(?:ing)?[\s-]*off\b|\bparting\b/i, 'parting'],
  [/\bgroov/i, 'grooving'],
  [/\bthread(?:ing)?\b/i, 'threading'],
  [/\bbar\s*stop\b/i, 'barStop'],
];

/**
 * Reads what a tool comment says: "END MILL 10 FINISH", "TAP M8", "DRILL 6.8", "BALL MILL 6 R3". Boring bars mean one
 * thing on a mill and another on a lathe. Null when no kind of tool is named.
 */
export function readDefinition(
  comment: string,
  unit: LengthUnit,
  machine: 'mill' | 'lathe',
): Definition | null {
  const text = comment.replace(/^\s*T\d+\s*[-:=]?\s*/i, '');
  const kind =
    KIND_WORDS.find(([words]) => words.test(text))?.[1] ??
    (/\bbor(?:e|ing)\b/i.test(text)
      ? machine === 'mill'
        ? 'boringBar'
        : 'turningBoring'
      : machine === 'lathe' && /\b(od|rough|finish|turn|face)/i.test(text)
        ? 'turning'
        : null);
  if (!kind) return null;
  const rest = text.replace(/\b\d+\s*(?:-?\s*(?:edge|flute|teeth|deg))\w*/gi, ' ');
  const teeth = /\b(\d{1,2})\s*-?\s*(?:edge|flute|teeth)/i.exec(text);
  const radius = /\bR\s*(\d*\.?\d+)\b/i.exec(rest);
  const threadWord =
    /\bM\d+(?:\.\d+)?(?:\s*x\s*\d+(?:\.\d+)?)?\b|(?:#\d+|\d+\/\d+|\b\d)-\d{1,2}\b/i.exec(rest)?.[0] ?? '';
  const thread = kind === 'tap' && threadWord ? readThread(threadWord) : null;
  return {
    kind,
    diameter: thread?.ok ? thread.thread.diameter : machine === 'mill' ? diameterIn(rest, kind, unit) : null,
    cornerRadius: radius ? lengthOf(Number(radius[1]), unit) : null,
    reach: null,
    teeth: teeth ? Number(teeth[1]) : null,
    thread: thread?.ok ? thread.thread.name : '',
    leftHand: saysLeftHand(text) || null,
    leastLife: null,
  };
}

function diameterIn(text: string, kind: AssemblyKind, unit: LengthUnit): Length | null {
  const word = /#\d{1,2}|\d+\/\d+|\d*\.\d+|\b\d+/.exec(text.replace(/\b[RH]\s*\d*\.?\d+/gi, ' '))?.[0];
  if (!word) return null;
  if (kind === 'drill' || kind === 'spotDrill' || /[#/]/.test(word)) {
    const size = readDrillSize(/[#/]/.test(word) || unit === 'mm' ? word : `${word}in`);
    return size.ok ? size.size.diameter : null;
  }
  const value = Number(word);
  return Number.isFinite(value) && value > 0 ? lengthOf(value, unit) : null;
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
