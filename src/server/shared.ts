/**
 * What many ask for at the same moment is read once for all of them. Whoever asks while it is being read may have seen more than that reading
 * will: they wait for the next, which begins after they asked. So nobody is given anything older than their question, and nothing is kept.
 *
 * @param keyOf what is asked for: who asks for the same is given the same, which nobody may change
 */
export function shared<A extends unknown[], T>(
  keyOf: (...asked: A) => string | number,
  read: (...asked: A) => Promise<T>,
): (...asked: A) => Promise<T> {
  const reading = new Map<string | number, { now: Promise<T>; next: Promise<T> | null }>();
  const begin = (key: string | number, asked: A): Promise<T> => {
    const now = read(...asked);
    const mine = { now, next: null as Promise<T> | null };
    reading.set(key, mine);
    const over = () => {
      if (reading.get(key) === mine && mine.next === null) reading.delete(key);
    };
    now.then(over, over);
    return now;
  };
  return (...asked) => {
    const key = keyOf(...asked);
    const found = reading.get(key);
    if (!found) return begin(key, asked);
    found.next ??= found.now.then(
      () => begin(key, asked),
      () => begin(key, asked),
    );
    return found.next;
  };
}
