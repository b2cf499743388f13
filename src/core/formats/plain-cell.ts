/** A cell that a spreadsheet would take for a formula is led by an apostrophe; a plain number, signed or not, is none. */
export const plainCell = (text: string): string =>
  /^[=+\-@\t\r]/.test(text) && !/^[+-]?\d+(\.\d+)?$/.test(text) ? `'${text}` : text;
