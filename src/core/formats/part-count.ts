import { best, COUNTS, wholeIn } from '../agent/best-said.ts';
import { readControlXml } from './control-xml.ts';

export type PartCount = { ok: true; count: number; at: string } | { ok: false; reason: string };

/**
 * Reads the count of parts out of an MTConnect streams document (an open standard: the data item PartCount). Of several that of all parts
 * counts, before one without a sub-type, before the good ones; two of one kind that differ, or of two machines, are no count. Entities are
 * not expanded, so a document cannot grow.
 */
export function readPartCount(xml: string): PartCount {
  const read = readControlXml(xml);
  if (!read.ok) return read;
  if (all(read.tree, 'DeviceStream').length > 1)
    return { ok: false, reason: 'The agent serves several machines: its address must name one of them.' };
  const said = all(read.tree, 'PartCount').map((item) => ({
    subType: textOf(item, '@subType'),
    count: wholeIn(textOf(item, '#text')?.trim() ?? null),
    at: textOf(item, '@timestamp') ?? '',
  }));
  const [first, ...others] = best(said, COUNTS);
  if (first === undefined || first.count === null)
    return { ok: false, reason: 'The control gives no count of parts.' };
  const { count, at } = first;
  const other = others.find((each) => each.count !== count);
  return other
    ? { ok: false, reason: `The control gives two counts of parts, ${count} and ${other.count ?? 'none'}.` }
    : { ok: true, count, at };
}

function textOf(item: unknown, name: string): string | null {
  if (typeof item === 'string') return name === '#text' ? item : null;
  const found = (item as Record<string, unknown>)[name];
  return typeof found === 'string' ? found : null;
}

/** Every element of a name, however deep. */
function all(node: unknown, name: string): unknown[] {
  if (typeof node !== 'object' || node === null) return [];
  return Object.entries(node).flatMap(([key, value]) =>
    key === name ? (Array.isArray(value) ? value : [value]) : all(value, name),
  );
}
