/** What a code of ours stands for, by the letter behind its prefix. */
const KINDS = { T: 'tool', C: 'component', P: 'pocket', O: 'order', W: 'person' } as const;
export type CodeKind = (typeof KINDS)[keyof typeof KINDS];
export interface Code {
  kind: CodeKind;
  /** A number as it is on record; of a pocket its machine and its number. */
  value: string;
}

const LETTER = Object.fromEntries(Object.entries(KINDS).map(([letter, kind]) => [kind, letter])) as Record<
  CodeKind,
  string
>;
/** A point parts the words: a scanner that types for a keyboard of another country still types it as one. */
const CODE = /^TIN([TCPOW])\.(\S.{0,39})$/i;

/** The text of a code: what it is and its number. */
export const codeText = ({ kind, value }: Code): string => `TIN${LETTER[kind]}.${value}`;

/** Reads a scanned text as a code of ours; null: it is none, and is taken as it is. */
export function readCode(text: string): Code | null {
  const match = CODE.exec(text.trim());
  if (!match) return null;
  return { kind: KINDS[match[1]!.toUpperCase() as keyof typeof KINDS], value: match[2]!.trim() };
}

/** Whether a text is one number rather than words: it must then be exact, or nothing. */
export const isNumber = (text: string): boolean => /^\S*\d\S*$/.test(text.trim());
