import type { ToolCall } from '../program/reading.ts';
import { FEATURE_WORDS, movesOf, type Bounds, type MachineReckoning, type Rough } from './feature.ts';
import { REGISTER_WORDS } from './register-words.ts';

/** A size of a plan, as far as checking it against a program needs it. */
export interface CheckedSize extends Bounds {
  name: string;
  rough: Rough | null;
}

/**
 * What of a measuring plan does not go with the program and the machine (H8, H14): a tool that is not called, a row that its tool is
 * never called with, a register that this kind of machine does not have. A correction by such a size would go where nothing cuts.
 *
 * A tool whose call names no row that could be read is not judged by it.
 *
 * @returns a sentence for each fault; empty: none was found.
 */
export function planFaults(
  sizes: readonly CheckedSize[],
  calls: readonly Pick<ToolCall, 'tool' | 'lengthRows' | 'radiusRows'>[],
  machine: MachineReckoning & { kind: 'mill' | 'lathe' },
): string[] {
  const rowsOf = (tool: number, which: 'lengthRows' | 'radiusRows') => [
    ...new Set(
      calls.filter((call) => call.tool === tool).flatMap((call) => call[which].map(({ row }) => row)),
    ),
  ];
  return sizes.flatMap((size): string[] => {
    const ends = [size, ...(size.other ? [size.other] : []), ...(size.rough ? [size.rough] : [])];
    const strange = ends.find(({ tool }) => !calls.some((call) => call.tool === tool));
    if (strange) return [`"${size.name}" names T${strange.tool}, which the program does not call.`];
    const [first] = movesOf({ ...size, other: null }, machine);
    if (!first) return [];
    const { role } = first;
    const lathes = role === 'xWear' || role === 'zWear';
    if (lathes !== (machine.kind === 'lathe'))
      return [
        `"${size.name}": ${FEATURE_WORDS[size.kind]} is held by ${REGISTER_WORDS[role]}, which a ${machine.kind} does not have.`,
      ];
    return ends.flatMap(({ tool, row }) => {
      const called = rowsOf(tool, role === 'cutterWear' ? 'radiusRows' : 'lengthRows');
      return called.length === 0 || called.includes(row)
        ? []
        : [
            `"${size.name}": T${tool} is called with row ${called.join(' and ')}, not with row ${row}. A correction there would move nothing it cuts.`,
          ];
    });
  });
}

/** What taking a plan would do with one of its sizes. */
export interface PlannedSize {
  name: string;
  verdict: 'added' | 'changed' | 'same';
  /** Column, what stands on record, and what would. */
  changes: { column: string; before: string; after: string }[];
}

type Cells = Readonly<Record<string, string>>;

/** What a plan would change, cell by cell: sizes are known by their names, and none is removed. */
export function planLook(
  planned: readonly Cells[],
  known: readonly Cells[],
  columns: readonly string[],
): PlannedSize[] {
  const name = (cells: Cells) => (cells.feature ?? '').toLowerCase();
  return planned.map((after) => {
    const before = known.find((each) => name(each) === name(after));
    const changes = columns
      .filter((column) => column !== 'feature' && (before?.[column] ?? '') !== (after[column] ?? ''))
      .map((column) => ({ column, before: before?.[column] ?? '', after: after[column] ?? '' }));
    return {
      name: after.feature ?? '',
      verdict: !before ? 'added' : changes.length === 0 ? 'same' : 'changed',
      changes,
    };
  });
}
