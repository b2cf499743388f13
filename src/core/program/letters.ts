type Letter =
  | ('A' | 'B' | 'C' | 'D' | 'E' | 'F' | 'G' | 'H' | 'I' | 'J' | 'K' | 'L' | 'M')
  | ('N' | 'O' | 'P' | 'Q' | 'R' | 'S' | 'T' | 'U' | 'V' | 'W' | 'X' | 'Y' | 'Z');

/** Character codes of the letters that words begin with. */
export const LETTER = Object.fromEntries(
  [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].map((letter) => [letter, letter.charCodeAt(0)]),
) as Readonly<Record<Letter, number>>;

/** The bit of a letter among those that stand in a block. */
const bit = (letter: keyof typeof LETTER) => 1 << (LETTER[letter] - 65);
/** Letters of axes on a mill and on a lathe, and of the centre of an arc. */
export const MILL_AXES = bit('X') | bit('Y') | bit('Z');
export const CENTRE = bit('I') | bit('J') | bit('K');
export const LATHE_AXES = MILL_AXES | bit('U') | bit('V') | bit('W');
