import { PROPERTIES, PROPERTY_NAMES, type Component } from '../component/kinds.ts';

/** What tells two lines apart, and what may differ in writing only. */
const LENGTH_PLAY = 5_000;
/** Weighed or rated differently it is still the same piece. */
const NOT_TELLING = new Set(['WT', 'RPMX']);

/** Whether two lines of the catalogue are the same thing under two numbers. */
export function lookAlike(a: Component, b: Component): boolean {
  if (
    a.kind !== b.kind ||
    a.flat !== b.flat ||
    a.coolant !== b.coolant ||
    a.leftHand !== b.leftHand ||
    a.material !== b.material
  )
    return false;
  if (a.interface !== b.interface || plain(a.series) !== plain(b.series)) return false;
  return PROPERTY_NAMES.every((name) => {
    if (NOT_TELLING.has(name)) return true;
    const [x, y] = [a.dimensions[name], b.dimensions[name]];
    if (x === undefined || y === undefined) return x === y;
    return Math.abs(x - y) <= (PROPERTIES[name].type === 'length' ? LENGTH_PLAY : 0);
  });
}
const plain = (text: string) => text.toUpperCase().replace(/[\s-]/g, '');

/** Groups of look-alikes in a catalogue: only what could be alike is compared, so that large ones stay fast. */
export function lookAlikes<C extends Component>(components: readonly C[]): C[][] {
  const buckets = new Map<string, C[]>();
  for (const component of components) {
    const key = `${component.kind}|${plain(component.series)}|${component.interface}|${component.dimensions.ZEFP ?? ''}`;
    const bucket = buckets.get(key);
    if (bucket) bucket.push(component);
    else buckets.set(key, [component]);
  }
  const groups: C[][] = [];
  for (const bucket of buckets.values()) {
    const sorted = bucket.toSorted((a, b) => diameterOf(a) - diameterOf(b));
    const grouped = new Set<C>();
    sorted.forEach((first, i) => {
      if (grouped.has(first)) return;
      const same: C[] = [];
      // in the order of their diameters nothing further on can be alike
      for (
        let k = i + 1;
        k < sorted.length && diameterOf(sorted[k]!) - diameterOf(first) <= LENGTH_PLAY;
        k += 1
      )
        if (!grouped.has(sorted[k]!) && lookAlike(first, sorted[k]!)) same.push(sorted[k]!);
      if (same.length === 0) return;
      groups.push([first, ...same]);
      for (const each of same) grouped.add(each);
    });
  }
  return groups;
}
const diameterOf = ({ dimensions }: Component) => dimensions.DC ?? 0;
