/** What a file is by its first bytes, where that is no text: a sheet in a packed file, or one of an older kind. */
export function packedKind(bytes: Uint8Array): 'packed' | 'oldSheet' | null {
  const starts = (...signs: number[]) => signs.every((sign, i) => bytes[i] === sign);
  if (starts(0x50, 0x4b, 0x03, 0x04) || starts(0x50, 0x4b, 0x05, 0x06)) return 'packed';
  return starts(0xd0, 0xcf, 0x11, 0xe0) ? 'oldSheet' : null;
}
