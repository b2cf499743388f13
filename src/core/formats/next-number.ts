/**
 * A number that is free, by the newest of those that are taken: its last digits and one, further where that is taken too. Null
 * when the newest has no digits at its end, or there is none.
 */
export function nextNumber(newest: string | undefined, taken: ReadonlySet<string>): string | null {
  const found = /^(.*?)(\d+)$/.exec(newest ?? '');
  if (!found) return null;
  const [, before, digits] = found as unknown as [string, string, string];
  for (let next = BigInt(digits) + 1n; ; next += 1n) {
    const number = before + next.toString().padStart(digits.length, '0');
    if (!taken.has(number)) return number;
  }
}
