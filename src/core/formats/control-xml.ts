import { readXml, type XmlRead } from './read-xml.ts';

/** An agent's document is flat: a handful of elements in one another. */
const MOST_NESTED = 40;

/** What a control answered, as XML; refused when it is too large, has a document type by which it could grow, or is none. */
export function readControlXml(xml: string, isArray?: (name: string) => boolean): XmlRead {
  if (xml.length > 1_000_000) return { ok: false, reason: 'The control answered with over a megabyte.' };
  if (/<!DOCTYPE|<!ENTITY/i.test(xml))
    return { ok: false, reason: 'The control answered with a document type, which is not accepted.' };
  const read = readXml(xml, MOST_NESTED, isArray);
  return read.ok ? read : { ok: false, reason: `The control did not answer with XML: ${read.reason}` };
}
