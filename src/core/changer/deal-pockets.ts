/**
 * Deals out a pocket to each of the tools from those that each may have, none twice: as many as can be, each tool that finds all
 * its pockets taken asking their holders to move on (augmenting paths, as in handbooks of optimisation). Null when one is left over: then there is no way.
 */
export function deal(mayHave: readonly (readonly number[])[]): number[] | null {
  const holder = new Map<number, number>();
  const given = mayHave.map(() => 0);
  function find(tool: number, asked: Set<number>): boolean {
    for (const pocket of mayHave[tool]!) {
      if (asked.has(pocket)) continue;
      asked.add(pocket);
      const other = holder.get(pocket);
      if (other !== undefined && !find(other, asked)) continue;
      holder.set(pocket, tool);
      given[tool] = pocket;
      return true;
    }
    return false;
  }
  return mayHave.every((_, tool) => find(tool, new Set())) ? given : null;
}
