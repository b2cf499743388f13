/**
 * Keeps the last thing that was made, for so long, for all who ask for the same meanwhile: what never changes under its key, and is dear to make.
 * What could not be made is tried again. Nobody may change what they are given.
 */
export function keptLast<T>(milliseconds: number): (key: string, make: () => Promise<T>) => Promise<T> {
  let last: { key: string; made: Promise<T>; forget: NodeJS.Timeout } | null = null;
  return (key, make) => {
    if (last?.key === key) return last.made;
    if (last) clearTimeout(last.forget);
    const mine = {
      key,
      made: make(),
      forget: setTimeout(() => last === mine && (last = null), milliseconds).unref(),
    };
    last = mine;
    mine.made.catch(() => last === mine && (last = null));
    return mine.made;
  };
}
