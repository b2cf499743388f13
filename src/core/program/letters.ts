type Letter =
  | ('A' | 'B' | 'C' | 'D' | 'E' | 'F' | 'G' | 'H' | 'I' | 'J' | 'K' | 'L' | 'M')
  | ('N' | 'O' | 'P' | 'Q' | 'R' | 'S' | 'T' | 'U' | 'V' | 'W' | 'X' | 'Y' | 'Z');

/** Character codes of the letters that words begin with. */
export const LETTER = Object.fromEntries(
  [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].map((letter) => [letter, letter.charCodeAt(0)]),
) as Readonly<Record<Letter, number>>;
