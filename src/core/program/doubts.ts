/** What of a reading hangs on something that the reader does not know. */
export const ALL = ['tools', 'length', 'radius', 'speed', 'depth', 'life', 'time'] as const;
export type Affected = (typeof ALL)[number];

export type DoubtCode =
  | 'noTool'
  | 'cutBeforeTool'
  | 'missingSub'
  | 'selfCall'
  | 'deepCall'
  | 'tooLong'
  | 'unknownWord'
  | 'unknownCode'
  | 'unknownValue'
  | 'perhaps'
  | 'lostLogic'
  | 'noLabel'
  | 'mainProgram'
  | 'wideT'
  | 'blockDelete'
  | 'macroMode'
  | 'noContour'
  | 'doubledN'
  | 'noSurfaceSpeed'
  | 'notPosition'
  | 'rotary'
  | 'shifted'
  | 'writes';

/** Something that could not be read for certain: where, what, what hangs on it, and what would settle it. Lines count from 1. */
export interface Doubt {
  code: DoubtCode;
  line: number;
  text: string;
  settle: string;
  affects: readonly Affected[];
  /** T that was in the spindle; null: none. */
  tool: number | null;
  /** What would settle it, by name: the program that is missing. */
  wants?: string;
  /** What is written is added to what stands there (G91). */
  adds?: boolean;
}

/** Doubts that are kept; of one kind so many lines. */
const [MOST, MOST_OF_A_KIND] = [300, 40];

/** Gathers doubts: each line of a kind once, and never more than somebody could read. */
export class Doubts {
  readonly list: Doubt[] = [];
  private readonly seen = new Set<string>();
  private readonly kinds = new Map<DoubtCode, number>();

  add(doubt: Doubt): void {
    const key = `${doubt.code} ${doubt.line} ${doubt.text}`;
    const many = this.kinds.get(doubt.code) ?? 0;
    if (this.seen.has(key) || many > MOST_OF_A_KIND || this.list.length >= MOST) return;
    this.seen.add(key);
    this.kinds.set(doubt.code, many + 1);
    this.list.push(
      many === MOST_OF_A_KIND ? { ...doubt, text: `${doubt.text} And more of the same behind it.` } : doubt,
    );
  }
}
