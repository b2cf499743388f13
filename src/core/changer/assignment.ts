/**
 * Deals out columns to rows so that the sum of what they are worth is the greatest: for each row its column, or −1 where
 * nothing is worth more than nothing. Shortest augmenting paths (H. W. Kuhn; as in handbooks of optimisation), cubic in the size.
 */
export function bestAssignment(worth: readonly (readonly number[])[]): number[] {
  const rows = worth.length;
  const columns = Math.max(0, ...worth.map((row) => row.length));
  const size = Math.max(rows, columns);
  const cost = (row: number, column: number) => -(worth[row]?.[column] ?? 0);
  const [u, v] = [new Float64Array(size + 1), new Float64Array(size + 1)];
  const rowOf = new Int32Array(size + 1);
  const before = new Int32Array(size + 1);
  for (let row = 1; row <= size; row += 1) {
    rowOf[0] = row;
    let column = 0;
    const least = new Float64Array(size + 1).fill(Infinity);
    const used = new Uint8Array(size + 1);
    do {
      used[column] = 1;
      const at = rowOf[column]!;
      let [delta, next] = [Infinity, 0];
      for (let j = 1; j <= size; j += 1) {
        if (used[j]) continue;
        const reduced = cost(at - 1, j - 1) - u[at]! - v[j]!;
        if (reduced < least[j]!) {
          least[j] = reduced;
          before[j] = column;
        }
        if (least[j]! < delta) [delta, next] = [least[j]!, j];
      }
      for (let j = 0; j <= size; j += 1)
        if (used[j]) {
          u[rowOf[j]!]! += delta;
          v[j]! -= delta;
        } else least[j]! -= delta;
      column = next;
    } while (rowOf[column] !== 0);
    while (column !== 0) {
      const from = before[column]!;
      rowOf[column] = rowOf[from]!;
      column = from;
    }
  }
  const found = new Array<number>(rows).fill(-1);
  for (let j = 1; j <= columns; j += 1) {
    const row = rowOf[j]! - 1;
    if (row < rows && (worth[row]?.[j - 1] ?? 0) > 0) found[row] = j - 1;
  }
  return found;
}
