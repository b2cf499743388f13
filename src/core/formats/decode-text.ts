/**
 * The text of a file by its bytes: UTF-8 or UTF-16 by the mark at its beginning, UTF-8 without one, and what is neither as
 * Windows-1252, which spreadsheets save as "ANSI" (WHATWG Encoding Standard for the names).
 */
export function decodeText(bytes: Uint8Array): {
  text: string;
  encoding: 'UTF-8' | 'UTF-16' | 'Windows-1252';
} {
  const [first, second] = bytes;
  if (first === 0xff && second === 0xfe)
    return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'UTF-16' };
  if (first === 0xfe && second === 0xff)
    return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'UTF-16' };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'Windows-1252' };
  }
}
