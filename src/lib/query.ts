/** An address's query with some of it changed; what is set to nothing is left out. */
export function changedQuery(
  search: string,
  change: Readonly<Record<string, number | string | null>>,
): string {
  const changed = Object.keys(change);
  const kept = [...new URLSearchParams(search)].filter(([name]) => !changed.includes(name));
  const added = Object.entries(change).flatMap(([name, value]): [string, string][] =>
    value ? [[name, String(value)]] : [],
  );
  return `?${new URLSearchParams([...kept, ...added])}`;
}
