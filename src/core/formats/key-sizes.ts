import { COLUMNS, type FileKind } from './columns.ts';

type Cells = Readonly<Record<string, string>>;

/** Cells that say nothing of what a tool is. */
const PASSED_OVER = new Set(['number', 'name', 'insert_count', 'left_hand']);

/** What a row holds, in words: its kind and every size of it, as it would be taken. */
export function keySizes(kind: FileKind, cells: Cells): string {
  return COLUMNS[kind]
    .flatMap(({ name, words, type }) => {
      const value = cells[name] ?? '';
      if (PASSED_OVER.has(name) && !(name === 'left_hand' && value === 'yes')) return [];
      if (value === '' || ((type === 'length' || type === 'whole') && Number(value) === 0)) return [];
      if (name === 'kind' || name === 'interface' || name === 'material') return [value];
      if (type === 'yes') return value === 'yes' ? [words.toLowerCase()] : [];
      return [`${words.toLowerCase()} ${value}${type === 'length' ? ' mm' : ''}`];
    })
    .join(', ');
}
