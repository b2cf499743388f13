import { COLUMNS, type FileKind } from './columns.ts';
import { keySizes } from './key-sizes.ts';
import { doubtOf } from './plausible.ts';

/** What taking a row would do; 'left': it says something else of what no file moves, and that is left as it is. */
export type RowVerdict = 'added' | 'changed' | 'left' | 'same' | 'refused';

export interface PlannedRow {
  /** Line of the file, or place in its list; the heading of a CSV is line 1. */
  line: number;
  number: string;
  verdict: RowVerdict;
  /** What it would be, what would change, what is left as it is, or why it is refused. */
  words: string;
  /** Why it is asked whether this can be right; null: nothing speaks against it. */
  doubt: string | null;
}

export interface ImportCounts {
  added: number;
  changed: number;
  left: number;
  same: number;
  refused: number;
  /** Rows among those to be added or changed that look wrong. */
  doubtful: number;
}

type Cells = Readonly<Record<string, string>>;

/** Cells that a file may say but that only entries in the ledger move, and where that is done. */
const KEPT: ReadonlyMap<string, string> = new Map([
  ['stock', 'by counting it in the crib'],
  ['life_basis', 'on its page'],
  ['life_limit', 'on its page'],
  ['life_left', 'on its page'],
  ['status', 'on its page'],
  ['insert_count', 'by building it'],
]);
const whereKept = (name: string) => KEPT.get(name) ?? (name.endsWith('_item') ? 'by building it' : undefined);
/** Cells that no register was worked out from: they may change while the tool stands in a machine. */
const FREE = new Set(['name', 'holder', 'teeth', 'left_hand']);

const WORDS: ReadonlyMap<string, string> = new Map(
  [...COLUMNS.components, ...COLUMNS.assemblies].map(({ name, words }) => [name, words.toLowerCase()]),
);
const wordsOf = (name: string) => WORDS.get(name) ?? name;

/** What is on record under a number, and, where it is written in other capitals, how it is written there. */
export interface KnownRow {
  cells: Cells;
  standsIn: string | null;
}

/**
 * Holds a file's rows against what is known by their numbers: new ones are added, others changed where a cell differs.
 * What stands in a machine keeps the sizes that its registers were worked out from. A number that differs from a known one by its capitals
 * alone is refused: it would be the same piece twice.
 *
 * @param capitals how a number is written on record, by its small letters
 */
export function planImport(
  kind: FileKind,
  rows: readonly Cells[],
  known: ReadonlyMap<string, KnownRow>,
  firstLine: number,
  capitals: ReadonlyMap<string, string> = new Map(),
): PlannedRow[] {
  return rows.map((row, index) => {
    const line = firstLine + index;
    const number = row.number ?? '';
    const there = known.get(number);
    const doubt = doubtOf(kind, row);
    if (!there) {
      const written = capitals.get(number.toLowerCase());
      if (written !== undefined)
        return {
          line,
          number,
          verdict: 'refused',
          words: `${written} is on record: write it so if it is the same`,
          doubt: null,
        };
      const sizes = keySizes(kind, row);
      return {
        line,
        number,
        verdict: 'added',
        words: [row.name ?? '', sizes].filter(Boolean).join(': '),
        doubt,
      };
    }
    const differs = Object.keys(row).filter((name) => (row[name] ?? '') !== (there.cells[name] ?? ''));
    const changes = differs.filter((name) => whereKept(name) === undefined);
    const told = (name: string) =>
      `${wordsOf(name)} ${there.cells[name] || 'nothing'} → ${row[name] || 'nothing'}`;
    // what the file is silent about is not what it wants changed
    const left = differs
      .filter((name) => whereKept(name) !== undefined && (row[name] ?? '') !== '')
      .map((name) => `left as it is: ${told(name)} (it is changed ${whereKept(name)})`);
    const held = changes.filter((name) => !FREE.has(name));
    if (there.standsIn && held.length > 0)
      return {
        line,
        number,
        verdict: 'refused',
        words: `it stands in ${there.standsIn}: take it out before its ${held.map(wordsOf).join(', ')} ${held.length === 1 ? 'is' : 'are'} changed`,
        doubt: null,
      };
    const verdict = changes.length > 0 ? 'changed' : left.length > 0 ? 'left' : 'same';
    return {
      line,
      number,
      verdict,
      words: [...changes.map(told), ...left].join(', '),
      doubt: verdict === 'changed' ? doubt : null,
    };
  });
}

export const countVerdicts = (rows: readonly PlannedRow[]): ImportCounts =>
  rows.reduce(
    (counts, { verdict, doubt }) => {
      counts[verdict] += 1;
      if (doubt !== null) counts.doubtful += 1;
      return counts;
    },
    { added: 0, changed: 0, left: 0, same: 0, refused: 0, doubtful: 0 },
  );
