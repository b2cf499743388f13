import { XMLParser } from 'fast-xml-parser';

export type XmlNode = Record<string, unknown>;
export type XmlRead = { ok: true; tree: XmlNode } | { ok: false; reason: string };

const MOST_BYTES = 40_000_000;

/**
 * Reads a document without namespaces, values as texts, attributes with an @ before them. Document types and entities are refused, so
 * that a document cannot grow; so is what is over 40 MB, or nests deeper than `most`.
 */
export function readXml(xml: string, most: number, isArray?: (name: string) => boolean): XmlRead {
  const bad = (reason: string): XmlRead => ({ ok: false, reason });
  if (xml.length > MOST_BYTES) return bad('The XML is over 40 MB: split it.');
  if (/<!DOCTYPE|<!ENTITY/i.test(xml))
    return bad('The XML has a document type or entities, which are not accepted.');
  if (deeperThan(xml, most)) return bad(`The XML nests over ${most} elements deep.`);
  try {
    const parser = new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: '@',
      parseTagValue: false,
      parseAttributeValue: false,
      removeNSPrefix: true,
      ...(isArray ? { isArray } : {}),
    });
    return { ok: true, tree: parser.parse(xml.replace(/^\uFEFF/, ''), true) as XmlNode };
  } catch (error) {
    return bad(`This is not XML: ${(error as Error).message}.`);
  }
}

/** Whether elements stand in one another deeper than this; told from the brackets alone, before anything is built. */
function deeperThan(xml: string, most: number): boolean {
  let depth = 0;
  for (let open = xml.indexOf('<'); open >= 0; open = xml.indexOf('<', open + 1)) {
    const next = xml[open + 1];
    const closed = xml.startsWith('<!--', open) ? xml.indexOf('-->', open) : open;
    if (closed < 0) return false;
    open = closed;
    if (next === '?' || next === '!') continue;
    if (next === '/') depth -= 1;
    else if (xml[xml.indexOf('>', open) - 1] !== '/') depth += 1;
    if (depth > most) return true;
  }
  return false;
}
