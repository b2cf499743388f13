/** Two values that a form may show, whatever the order in which their parts come. */
const alike = (a: unknown, b: unknown): boolean => {
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b;
  const [left, right] = [Object.entries(a), new Map(Object.entries(b))];
  return (
    Array.isArray(a) === Array.isArray(b) &&
    left.length === right.size &&
    left.every(([name, value]) => right.has(name) && alike(value, right.get(name)))
  );
};

/**
 * What somebody typed over what their page showed, laid over what stands now: a field that they left as it was shown stays as somebody else
 * may have changed it meanwhile.
 *
 * @returns the fields that they changed, and those of them that somebody else has changed to something else since
 */
export function laidOver<T extends object>(
  shown: Partial<T>,
  typed: Partial<T>,
  now: T,
): { changed: Partial<T>; clashes: (keyof T)[] } {
  const names = (Object.keys(typed) as (keyof T)[]).filter((name) => !alike(typed[name], shown[name]));
  return {
    changed: Object.fromEntries(names.map((name) => [name, typed[name]])) as Partial<T>,
    clashes: names.filter((name) => !alike(now[name], shown[name]) && !alike(now[name], typed[name])),
  };
}
