import type { Length } from '../units/length.ts';
import { trayColumns, type ChangerShape } from './layout.ts';

/**
 * Holders that a tray of so many cells along and across takes when its cells are another distance apart, millimetres: whole
 * cells each way. A larger holder needs larger cells, so fewer of them fit (H4).
 */
export function trayCapacity(
  { columns, rows, pitch }: { columns: number; rows: number; pitch: number },
  cellPitch: number,
): number {
  const fit = (cells: number) => Math.floor((cells * pitch) / cellPitch + 1e-9);
  return fit(columns) * fit(rows);
}

/** Cells of one size, by the largest diameter that goes in, nanometres; null: as the plate says for the widest tool. */
export interface CellRange {
  from: number;
  to: number;
  cell: Length | null;
}

/** Rows of cells of one size, in order, from what each pocket takes. */
export function cellRanges(pockets: readonly { number: number; cell: Length | null }[]): CellRange[] {
  const ranges: CellRange[] = [];
  for (const { number, cell } of [...pockets].sort((a, b) => a.number - b.number)) {
    const last = ranges.at(-1);
    if (last && last.cell === cell && last.to === number - 1) last.to = number;
    else ranges.push({ from: number, to: number, cell });
  }
  return ranges;
}

/** What the same tray would hold with smaller and larger cells: pitch in millimetres, and places. */
export function capacitiesOf({ places, pitch }: Pick<ChangerShape, 'places' | 'pitch'>) {
  const columns = trayColumns(places);
  const tray = { columns, rows: Math.ceil(places / columns), pitch };
  return [0.8, 1, 1.25, 1.6].map((times) => {
    const apart = Math.round(pitch * times);
    return { pitch: apart, holds: times === 1 ? places : trayCapacity(tray, apart) };
  });
}
