/** How far a tool goes in X and Y under one work offset, millimetres: the least and the most of each. */
export interface Extent {
  offset: string;
  x: [number, number] | null;
  y: [number, number] | null;
}

/** The bit of an axis among those whose place is known. */
export const KNOWN = { x: 1, y: 2 } as const;

/**
 * Gathers where a tool goes, by work offset. Only places that the program itself said: before an axis has its first word nobody knows where
 * it stands. Arcs count by their ends, so that what comes out is "at least".
 */
export class Extents {
  private readonly byOffset = new Map<string, Extent>();
  private last: Extent | null = null;

  see(offset: string, x: number, y: number, known: number): void {
    if (known === 0) return;
    let extent = this.last;
    if (extent?.offset !== offset) {
      extent = this.byOffset.get(offset) ?? { offset, x: null, y: null };
      this.byOffset.set(offset, extent);
      this.last = extent;
    }
    if (known & KNOWN.x) extent.x = wider(extent.x, x);
    if (known & KNOWN.y) extent.y = wider(extent.y, y);
  }

  list(): Extent[] {
    return [...this.byOffset.values()];
  }
}

function wider(range: [number, number] | null, value: number): [number, number] {
  if (range === null) return [value, value];
  if (value < range[0]) range[0] = value;
  else if (value > range[1]) range[1] = value;
  return range;
}

/** How far all calls together go under the work offset where they go furthest, millimetres; null: nobody said. */
export function spanOf(calls: readonly { extents?: readonly Extent[] }[], axis: 'x' | 'y'): number | null {
  const byOffset = new Map<string, [number, number]>();
  for (const { extents = [] } of calls)
    for (const extent of extents) {
      const range = extent[axis];
      if (!range) continue;
      const known = byOffset.get(extent.offset);
      byOffset.set(
        extent.offset,
        known ? [Math.min(known[0], range[0]), Math.max(known[1], range[1])] : [range[0], range[1]],
      );
    }
  const spans = [...byOffset.values()].map(([least, most]) => most - least);
  return spans.length === 0 ? null : Math.max(...spans);
}
