import type { ChangerShape } from './layout.ts';
import { trayColumns } from './layout.ts';

/**
 * Holders that a tray of the same size takes when its cells are so far apart, millimetres: whole cells along and across. A
 * larger holder needs larger cells, so fewer of them fit (H4).
 */
export function trayCapacity(shape: ChangerShape, cellPitch: number): number {
  const columns = trayColumns(shape.places);
  const rows = Math.ceil(shape.places / columns);
  const fit = (cells: number) => Math.floor((cells * shape.pitch) / cellPitch + 1e-9);
  return fit(columns) * fit(rows);
}

/** Cells of one size, by the largest diameter that goes in, nanometres; null: as the plate says for the widest tool. */
export interface CellRange {
  from: number;
  to: number;
  cell: number | null;
}

/** Rows of cells of one size, in order, from what each pocket takes. */
export function cellRanges(pockets: readonly { number: number; cell: number | null }[]): CellRange[] {
  const ranges: CellRange[] = [];
  for (const { number, cell } of [...pockets].sort((a, b) => a.number - b.number)) {
    const last = ranges.at(-1);
    if (last && last.cell === cell && last.to === number - 1) last.to = number;
    else ranges.push({ from: number, to: number, cell });
  }
  return ranges;
}
