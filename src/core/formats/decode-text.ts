type Encoding = 'UTF-8' | 'UTF-16' | 'Windows-1252' | 'tape';

/** Bytes that are looked at to tell what they are. */
const LOOKED_AT = 4000;

/**
 * The text of a file by its bytes: UTF-16 by the mark at its beginning or by every other byte being nought; seven bits with even parity,
 * as punched tape and old transfer programs have it; UTF-8; and what is none of them as Windows-1252, which spreadsheets save as "ANSI"
 * (WHATWG Encoding Standard for the names). Noughts, which leaders of tapes are made of, are left out.
 */
export function decodeText(bytes: Uint8Array): { text: string; encoding: Encoding } {
  const wide = wideBy(bytes);
  if (wide) return { text: clean(new TextDecoder(wide).decode(bytes)), encoding: 'UTF-16' };
  if (hasParity(bytes))
    return {
      text: clean(new TextDecoder('utf-8').decode(bytes.map((byte) => byte & 0x7f))),
      encoding: 'tape',
    };
  try {
    return { text: clean(new TextDecoder('utf-8', { fatal: true }).decode(bytes)), encoding: 'UTF-8' };
  } catch {
    return { text: clean(new TextDecoder('windows-1252').decode(bytes)), encoding: 'Windows-1252' };
  }
}

const clean = (text: string) => (text.includes('\0') ? text.replaceAll('\0', '') : text);

function wideBy(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const seen = Math.min(bytes.length - (bytes.length % 2), LOOKED_AT);
  if (seen < 8 || bytes.length % 2 === 1) return null;
  const noughts = [0, 0];
  for (let i = 0; i < seen; i += 1) if (bytes[i] === 0) noughts[i % 2]! += 1;
  const [even, odd] = noughts.map((count) => count / (seen / 2)) as [number, number];
  if (odd > 0.8 && even < 0.1) return 'utf-16le';
  return even > 0.8 && odd < 0.1 ? 'utf-16be' : null;
}

/** Every byte has an even number of bits, many have the eighth, and without it they are letters, digits and line ends. */
function hasParity(bytes: Uint8Array): boolean {
  const seen = Math.min(bytes.length, LOOKED_AT);
  let eighth = 0;
  for (let i = 0; i < seen; i += 1) {
    const byte = bytes[i]!;
    let bits = byte ^ (byte >> 4);
    bits ^= bits >> 2;
    if (((bits ^ (bits >> 1)) & 1) === 1) return false;
    if (byte & 0x80) eighth += 1;
    const plain = byte & 0x7f;
    if (plain < 32 && plain !== 0 && plain !== 9 && plain !== 10 && plain !== 13) return false;
  }
  return eighth * 8 > seen;
}
