import { formatWithUnit } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { fieldWords } from './plan-fields.ts';
import { partedSince, type Change } from './parted.ts';

/** What stands under a T: what it is to a program, and which piece. */
export interface StandsThere {
  /** The same for tools that may be taken for one another; empty: nothing stands there. */
  meaning: string;
  number: string;
}

/** A T that the programs of a family call, on one machine. */
export interface FamilyTool {
  tool: number;
  stands: readonly Change<StandsThere>[];
  gaugeLength: readonly Change<Length>[];
  /** How long it is good for, in words; "not counted". */
  life: readonly Change<string>[];
  /** The rows that its length and radius are called with here. */
  rows: string;
}

/** A field of a size in a measuring plan: a length, or words. */
export interface FamilyField {
  field: string;
  history: readonly Change<Length | string>[];
}

/** One machine with the newest program of the family's number. */
export interface FamilyMachine {
  id: number;
  name: string;
  unit: LengthUnit;
  /** How its control reckons, in words: what D and X hold. */
  reckoning: string;
  /** Hashes of the program's texts, one for each revision. */
  text: readonly Change<string>[];
  tools: readonly FamilyTool[];
  sizes: readonly { name: string; fields: readonly FamilyField[] }[];
}

/** Something in which the machines of a family part. */
export interface Parting {
  /** What it is of: the program, the control, a T, a size. */
  of: string;
  what: string;
  sides: { machine: string; words: string }[];
  /** By how much, in words, where that is a length. */
  by: string | null;
  since: { since: Date; atLeast: boolean } | null;
}

/** What may spoil a part comes first, habits last. */
const WORST = ['stands', 'rows', 'text', 'limits', 'reckoning', 'geometry', 'aim', 'habit', 'life'] as const;
type Weight = (typeof WORST)[number];

/** Fields of a size that say what a good part is, and those that say how it is corrected and measured. */
const LIMITS = new Set(['kind', 'nominal', 'upper limit', 'lower limit', 'cut by', 'roughed by']);
const AIMS = new Set(['aim']);

const allEqual = <T>(values: readonly T[]) => values.every((value) => value === values[0]);

/**
 * Where the machines that run one program part: under which T another tool stands, with which rows it is called, whether the text is
 * the same, what a good part is, what is aimed at, how it is corrected and how long its tools are good for; by how much and since
 * when, worst first.
 *
 * @param within lengths that differ by no more than this are equal: what presetting leaves is no difference
 */
export function partings(machines: readonly FamilyMachine[], within: Length): Parting[] {
  const found: (Parting & { weight: Weight })[] = [];
  const lay = <T>(
    weight: Weight,
    of: string,
    what: string,
    histories: readonly (readonly Change<T>[])[],
    words: (value: T, machine: FamilyMachine) => string,
    alike: (values: readonly T[]) => boolean = allEqual,
  ) => {
    const present = machines.flatMap((machine, i) => {
      const value = histories[i]!.at(-1)?.value ?? null;
      return value === null ? [] : [{ machine, value, history: histories[i]! }];
    });
    if (present.length < 2 || alike(present.map(({ value }) => value))) return;
    const lengths = present.map(({ value }) => value).filter((value) => typeof value === 'number');
    found.push({
      weight,
      of,
      what,
      sides: present.map(({ machine, value }) => ({ machine: machine.name, words: words(value, machine) })),
      by:
        lengths.length === present.length
          ? formatWithUnit(nanometres(Math.max(...lengths) - Math.min(...lengths)), machines[0]!.unit)
          : null,
      since: known(
        partedSince(
          present.map(({ history }) => history),
          alike,
        ),
      ),
    });
  };
  lay(
    'text',
    'program',
    'text',
    machines.map(({ text }) => text),
    (_, machine) => `revision ${machine.text.length}`,
  );
  lay(
    'reckoning',
    'control',
    'reckons',
    machines.map(({ reckoning }) => now(reckoning)),
    String,
  );
  for (const tool of [...new Set(machines.flatMap(({ tools }) => tools.map((each) => each.tool)))].sort(
    (a, b) => a - b,
  )) {
    const own = machines.map((machine) => machine.tools.find((each) => each.tool === tool));
    const of = `T${tool}`;
    lay(
      'stands',
      of,
      'tool',
      own.map((each) => each?.stands ?? []),
      ({ meaning, number }) => (meaning === '' ? 'nothing there' : `${meaning} (${number})`),
      (values) => allEqual(values.map(({ meaning }) => meaning)),
    );
    lay(
      'rows',
      of,
      'rows',
      own.map((each) => (each ? now(each.rows) : [])),
      String,
    );
    lay(
      'geometry',
      of,
      'gauge length',
      own.map((each) => each?.gaugeLength ?? []),
      (value, { unit }) => formatWithUnit(value, unit),
      (values) => Math.max(...values) - Math.min(...values) <= within,
    );
    lay(
      'life',
      of,
      'good for',
      own.map((each) => each?.life ?? []),
      String,
    );
  }
  for (const name of new Set(machines.flatMap(({ sizes }) => sizes.map((each) => each.name)))) {
    const own = machines.map((machine) => machine.sizes.find((each) => each.name === name));
    lay(
      'limits',
      name,
      'measured',
      own.map((each) => now(each ? 'yes' : 'no')),
      String,
    );
    for (const field of new Set(own.flatMap((each) => each?.fields.map((one) => one.field) ?? [])))
      lay(
        LIMITS.has(field) ? 'limits' : AIMS.has(field) ? 'aim' : 'habit',
        name,
        field,
        own.map((each) => each?.fields.find((one) => one.field === field)?.history ?? []),
        (value, { unit }) =>
          typeof value === 'number' ? formatWithUnit(value, unit) : fieldWords(field, value),
      );
  }
  return found
    .sort((a, b) => WORST.indexOf(a.weight) - WORST.indexOf(b.weight))
    .map(({ weight: _, ...parting }) => parting);
}

/** What is so now, and nobody kept since when. */
const now = <T>(value: T): Change<T>[] => [{ at: new Date(0), value }];
const known = (parted: Parting['since']) => (parted?.since.getTime() === 0 ? null : parted);
