import { COLUMNS } from './columns.ts';

/** What taking a row would do. */
export type RowVerdict = 'added' | 'changed' | 'same' | 'refused';

export interface PlannedRow {
  /** Line of the file, or place in its list; the heading of a CSV is line 1. */
  line: number;
  number: string;
  verdict: RowVerdict;
  /** What would change, or why it is refused. */
  words: string;
}

export interface ImportCounts {
  added: number;
  changed: number;
  same: number;
  refused: number;
}

type Cells = Readonly<Record<string, string>>;

/** Cells that a file may say but that only entries in the ledger move. */
const KEPT = new Set(['stock', 'life_basis', 'life_limit', 'insert_count']);
/** Cells that no register was worked out from: they may change while the tool stands in a machine. */
const FREE = new Set(['name', 'holder', 'teeth', 'left_hand']);

const WORDS: ReadonlyMap<string, string> = new Map(
  [...COLUMNS.components, ...COLUMNS.assemblies].map(({ name, words }) => [name, words.toLowerCase()]),
);
const wordsOf = (name: string) => WORDS.get(name) ?? name;

/**
 * Holds a file's rows against what is known by their numbers: new ones are added, others changed where a cell differs.
 * What stands in a machine keeps the sizes that its registers were worked out from.
 */
export function planImport(
  rows: readonly Cells[],
  known: ReadonlyMap<string, { cells: Cells; standsIn: string | null }>,
  firstLine: number,
): PlannedRow[] {
  return rows.map((row, index) => {
    const line = firstLine + index;
    const number = row.number ?? '';
    const there = known.get(number);
    if (!there) return { line, number, verdict: 'added', words: row.name ?? '' };
    const changes = Object.keys(row).filter(
      (name) => !KEPT.has(name) && !name.endsWith('_item') && (row[name] ?? '') !== (there.cells[name] ?? ''),
    );
    if (changes.length === 0) return { line, number, verdict: 'same', words: '' };
    const held = changes.filter((name) => !FREE.has(name));
    if (there.standsIn && held.length > 0)
      return {
        line,
        number,
        verdict: 'refused',
        words: `it stands in ${there.standsIn}: take it out before its ${held.map(wordsOf).join(', ')} ${held.length === 1 ? 'is' : 'are'} changed`,
      };
    return {
      line,
      number,
      verdict: 'changed',
      words: changes
        .map((name) => `${wordsOf(name)} ${there.cells[name] || 'nothing'} → ${row[name] || 'nothing'}`)
        .join(', '),
    };
  });
}

export const countVerdicts = (rows: readonly PlannedRow[]): ImportCounts =>
  rows.reduce(
    (counts, { verdict }) => {
      counts[verdict] += 1;
      return counts;
    },
    { added: 0, changed: 0, same: 0, refused: 0 },
  );
