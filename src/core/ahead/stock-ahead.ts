/** A piece that is taken off the shelf as edges are used up. */
export interface ShelfLine {
  id: number;
  stock: number;
  minimum: number;
}

/** What an edge takes: so many pieces, of which each has so many edges. */
export interface Taking {
  component: number;
  pieces: number;
  edges: number;
  /** Edges of the pieces in the tool that are used, with the one in work. */
  edgesUsed: number;
}

export interface StockAhead {
  component: number;
  /** Edges that are used up, and pieces that are taken for them. */
  edges: number;
  taken: number;
  left: number;
  /** When the shelf falls below its minimum, and when a piece is wanted that is not there; null: neither within the time looked at. */
  below: number | null;
  out: number | null;
}

/**
 * What the edges that will be used up take off the shelves, and when a line falls below its minimum or runs out. An insert is turned to
 * its next edge first, and new ones are taken when the last is used; a solid cutter is a piece with one edge. What is on order is not
 * counted on: nobody knows when it comes.
 *
 * @param spent in order of time: which tool, when, and what it takes
 */
export function stockAhead(
  spent: readonly { assembly: number; at: number; takes: readonly Taking[] }[],
  shelves: readonly ShelfLine[],
): StockAhead[] {
  const used = new Map<string, number>();
  const lines = new Map(
    shelves.map(({ id, stock, minimum }): [number, StockAhead & { minimum: number }] => [
      id,
      {
        component: id,
        edges: 0,
        taken: 0,
        left: stock,
        below: stock < minimum ? 0 : null,
        out: null,
        minimum,
      },
    ]),
  );
  for (const { assembly, at, takes } of spent)
    for (const { component, pieces, edges, edgesUsed } of takes) {
      const line = lines.get(component);
      if (!line) continue;
      line.edges += pieces;
      const key = `${assembly}/${component}`;
      const turned = (used.get(key) ?? edgesUsed) + 1;
      used.set(key, turned >= edges ? 0 : turned);
      if (turned < edges) continue;
      if (line.left < pieces) line.out ??= at;
      line.taken += pieces;
      line.left -= pieces;
      if (line.left < line.minimum) line.below ??= at;
    }
  return [...lines.values()].filter(({ edges }) => edges > 0).map(({ minimum: _, ...line }) => line);
}
