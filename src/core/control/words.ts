import type { ControlLife } from '../formats/cutting-tools.ts';
import { REGISTER_WORDS } from '../inspection/register-words.ts';
import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import type { Assumed } from './assumed.ts';
import type { Difference, Explanation, ExplanationCode, WholeTable } from './held.ts';

/** How a length of this table is written. */
export interface Written {
  unit: LengthUnit;
  decimals: number;
}
const show = (value: Length, { unit, decimals }: Written) =>
  formatLength(value, unit, { decimals, sign: 'always' });

/** What may have happened to a register, as a setter would say it. */
export function explanationWords(
  { code, row }: Explanation,
  { register, expected }: Pick<Difference, 'register' | 'expected'>,
  written: Written,
): string {
  const change = nanometres(expected - (register.before[0]?.value ?? expected));
  switch (code) {
    case 'programWrote': {
      const by = register.written?.find(({ value }) => value === register.control);
      return by ? `${by.program} writes it itself, on line ${by.line}.` : 'A program writes it itself.';
    }
    case 'keyedUnsaid':
      return 'The correction that waits was keyed, and nobody said so.';
    case 'notKeyed':
      return `The last change, ${show(change, written)}, was never keyed: it holds the old value.`;
    case 'takenBack':
      return `The last change, ${show(change, written)}, was there and was taken back.`;
    case 'twice':
      return `The last change, ${show(change, written)}, was keyed twice.`;
    case 'changeSign':
      return `The last change, ${show(change, written)}, went the wrong way.`;
    case 'changeAsValue':
      return 'A change was keyed as a value, or a value as a change.';
    case 'sign':
      return 'Its sign is turned.';
    case 'digits':
      return 'Two digits are swapped.';
    case 'point':
      return 'The decimal point has slipped.';
    case 'units':
      return 'Inches for millimetres, or the other way round.';
    case 'diameter':
      return 'A radius for a diameter, or the other way round.';
    case 'neighbour':
      return `It went into the wrong row: look at row ${row} beside it.`;
    case 'otherTool':
      return `It is what row ${row} should hold.`;
    case 'oldSetUp':
      return 'It is a value from before: an old set-up, or an old tool.';
    case 'wearLeft':
      return 'The wear was not cleared when the edge was renewed.';
    case 'byHand':
      return `Somebody changed it by hand, by ${show(nanometres(register.control - expected), written)}, and wrote nothing down.`;
  }
}

/** What happened to several registers alike, each by a number of its own. */
const SEVERAL: Readonly<Partial<Record<ExplanationCode, string>>> = {
  programWrote: 'Programs write them themselves.',
  notKeyed: 'The last change of each was never keyed: they hold the old values.',
  takenBack: 'The last change of each was there and was taken back.',
  twice: 'The last change of each was keyed twice.',
  changeSign: 'The last change of each went the wrong way.',
  neighbour: 'They went into the wrong rows.',
  otherTool: 'They are what other rows should hold.',
  byHand: 'Somebody changed them by hand, and wrote nothing down.',
};

/**
 * The one reason for several registers at once.
 *
 * @param likeliest of each register, what may have happened to it, and that in words
 * @returns a sentence that is true of every one of them; null where they have nothing in common
 */
export function reasonFor(likeliest: readonly { code: ExplanationCode; words: string }[]): string | null {
  const first = likeliest[0];
  if (first === undefined) return null;
  if (likeliest.every(({ words }) => words === first.words)) return first.words;
  return likeliest.every(({ code }) => code === first.code) ? (SEVERAL[first.code] ?? null) : null;
}

/** What a program takes a register for, as it stands beside record and control. */
export function assumedWords({ program, tool, line, code, value }: Assumed, written: Written): string {
  const by = tool === null ? program : `${program} T${tool}`;
  switch (code) {
    case 'writes':
      return `${by}: writes ${show(value!, written)} itself, line ${line}`;
    case 'adds':
      return `${by}: adds to it itself, line ${line}`;
    case 'path':
      return `${by}: ${show(value!, written)}, its path is made for the cutter`;
    case 'cutter':
      return `${by}: ${show(value!, written)}, the cutter that it asks for`;
    case 'nose':
      return `${by}: ${show(value!, written)}, the nose that it asks for`;
    case 'length':
      return `${by}: a length, line ${line}`;
    case 'used':
      return `${by}: used, line ${line}`;
  }
}

/** The register, as it is called at the machine. */
export const registerWords = ({ kind, row }: { kind: string; row: number }): string =>
  `${REGISTER_WORDS[kind] ?? kind} of row ${row}`;

/** A life as a control counts it: the number on its screen, which way it counts and where it ends. */
export const countedWords = ({ type, direction, value, limit }: ControlLife): string =>
  `${value} ${{ PART_COUNT: 'uses', MINUTES: 'min', WEAR: 'mm' }[type]}${direction === 'DOWN' ? ' left' : limit === null ? ', no limit' : ` of ${limit} used`}`;

/** What explains a table as a whole. */
export function wholeWords({ code, by, from, machine, explains, of }: WholeTable, written: Written): string {
  const share = `${explains} of ${of} registers say so.`;
  switch (code) {
    case 'shifted':
      return `${from === null ? 'Every' : `From row ${from} on every`} value stands ${Math.abs(by) === 1 ? 'one row' : `${Math.abs(by)} rows`} further ${by > 0 ? 'down' : 'up'} than it should. ${share}`;
    case 'units':
      return `Every value is ${by > 1 ? 'multiplied' : 'divided'} by 25.4: the table is in the other unit, or was read in it. ${share}`;
    case 'rebased':
      return `Every length is ${show(nanometres(Math.round(by)), written)} off: they count from another plane. ${share}`;
    case 'otherMachine':
      return `This is the table of ${machine}. ${share}`;
    case 'cleared':
      return `Its lengths are at zero: they were cleared, or the control has lost them. ${share} No tool may be called until they are put back.`;
    case 'emptied':
      return `Its table is at zero: it was cleared, or the control has lost it. ${share} No tool may be called until it is put back.`;
  }
}
