import { readControlXml } from './control-xml.ts';

export type PartCount = { ok: true; count: number; at: string } | { ok: false; reason: string };

/**
 * Reads the count of parts out of an MTConnect streams document (an open standard: the data item PartCount).
 * Entities are not expanded, so a document cannot grow.
 */
export function readPartCount(xml: string): PartCount {
  const read = readControlXml(xml);
  if (!read.ok) return read;
  const item = find(read.tree, 'PartCount');
  const text = typeof item === 'object' && item !== null ? (item as Record<string, unknown>)['#text'] : item;
  const count = Number(text);
  if (text === undefined || text === null || text === '' || !Number.isInteger(count) || count < 0)
    return { ok: false, reason: 'The control gives no count of parts.' };
  return { ok: true, count, at: String((item as Record<string, unknown>)['@timestamp'] ?? '') };
}

function find(node: unknown, name: string): unknown {
  if (typeof node !== 'object' || node === null) return undefined;
  for (const [key, value] of Object.entries(node)) {
    if (key === name) return Array.isArray(value) ? value[0] : value;
    const below = find(value, name);
    if (below !== undefined) return below;
  }
  return undefined;
}
