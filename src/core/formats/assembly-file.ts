import { ASSEMBLY_KINDS, INTERFACE_NAMES, type AssemblyShape } from '../assembly/silhouette.ts';
import { saysLeftHand } from '../assembly/hand.ts';
import { PART_ROLES, type PartRole } from '../assembly/part-roles.ts';
import { FLAGS, type Flag } from '../life/flag.ts';
import { LIFE_BASES, PER_SHOWN, type LifeBasis } from '../life/count.ts';
import { plainDecimal } from '../units/format-length.ts';
import { nanometres, type Length } from '../units/length.ts';
import {
  choiceWords,
  columnNames,
  FLAG_CHOICES,
  INTERFACE_CHOICES,
  KIND_CHOICES,
  LIFE_CHOICES,
} from './columns.ts';
import type { FileResult } from './csv-table.ts';
import { readRows, type RowReader } from './row-reader.ts';

export interface AssemblyRow extends AssemblyShape {
  number: string;
  name: string;
  holder: string;
  cornerRadius: Length;
  leftHand: boolean;
  teeth: number;
  /** Units of its counter that it is good for, and that are left; null: all of them. */
  life: { basis: LifeBasis; limit: number; left: number | null } | null;
  flag: Flag | null;
  /** Catalogue numbers of its pieces, as far as they are known. */
  items: Partial<Record<PartRole, string>>;
  insertCount: number;
}

/** Units of a counter in what a cell says: whole numbers, of wear in thousandths of a millimetre. */
const PER_CELL: Readonly<Record<LifeBasis, number>> = { ...PER_SHOWN, wear: PER_SHOWN.wear / 1000 };

/** A life as it is written: minutes may have a fraction, what is counted has none. */
const lifeIn = (row: RowReader, column: string, basis: LifeBasis, least: number) =>
  basis === 'minutes' ? row.decimal(column, least, 1_000_000) : row.whole(column, least, 1_000_000);

/** Assemblies as CSV: one physical, numbered piece a row. Lengths in millimetres or with a suffix. */
export const readAssemblyFile = (text: string): FileResult<AssemblyRow> =>
  readRows(text, columnNames('assemblies', true), columnNames('assemblies', false), assemblyReader());

/** Reads assemblies one row at a time; a number that comes twice is told at its second row. */
export function assemblyReader(): (row: RowReader) => AssemblyRow {
  const numbers = new Set<string>();
  return (row) => {
    const number = row.text('number', 20);
    if (numbers.has(number.toLowerCase()))
      row.say('number', `${number} is in the file twice: a number is one physical piece.`);
    numbers.add(number.toLowerCase());
    const items = Object.fromEntries(
      PART_ROLES.flatMap((role) => {
        const item = row.optional(`${role}_item`);
        return item === null ? [] : [[role, item]];
      }),
    );
    const basis =
      row.optional('life_basis') === null ? null : row.choice('life_basis', LIFE_BASES, LIFE_CHOICES);
    const name = row.text('name');
    return {
      number,
      name,
      kind: row.choice('kind', ASSEMBLY_KINDS, KIND_CHOICES.assemblies),
      interface: row.choice('interface', INTERFACE_NAMES, INTERFACE_CHOICES),
      holder: row.words('holder'),
      diameter: row.size('diameter', 'mm'),
      cornerRadius: row.optionalLength('corner_radius', 'mm', nanometres(0)),
      stickOut: row.size('stick_out', 'mm'),
      gaugeLength: row.size('gauge_length', 'mm'),
      holderDiameter: row.size('holder_diameter', 'mm'),
      teeth: row.whole('teeth', 0, 99, 0),
      leftHand: row.optional('left_hand') === null ? saysLeftHand(name) : row.yes('left_hand'),
      items,
      insertCount: row.whole('insert_count', 1, 40, 1),
      life: basis && {
        basis,
        limit: Math.round(lifeIn(row, 'life_limit', basis, basis === 'minutes' ? 0.01 : 1) * PER_CELL[basis]),
        left:
          row.optional('life_left') === null
            ? null
            : Math.round(lifeIn(row, 'life_left', basis, -1_000_000) * PER_CELL[basis]),
      },
      flag: row.optional('status') === null ? null : row.choice('status', FLAGS, FLAG_CHOICES),
    };
  };
}

/** The cells of an assembly, as `readAssemblyFile` reads them; lengths exact, in millimetres. */
export function assemblyCells(row: AssemblyRow): Record<string, string> {
  const mm = (value: Length) => plainDecimal(value, 'mm');
  return {
    number: row.number,
    name: row.name,
    kind: choiceWords(KIND_CHOICES.assemblies, row.kind),
    interface: row.interface,
    diameter: mm(row.diameter),
    stick_out: mm(row.stickOut),
    gauge_length: mm(row.gaugeLength),
    holder_diameter: mm(row.holderDiameter),
    holder: row.holder,
    corner_radius: mm(row.cornerRadius),
    teeth: String(row.teeth),
    left_hand: row.leftHand ? 'yes' : 'no',
    life_basis: row.life?.basis ?? '',
    life_limit: row.life ? String(row.life.limit / PER_CELL[row.life.basis]) : '',
    life_left:
      row.life === null || row.life.left === null ? '' : String(row.life.left / PER_CELL[row.life.basis]),
    status: row.flag ?? '',
    insert_count: String(row.insertCount),
    ...Object.fromEntries(PART_ROLES.map((role) => [`${role}_item`, row.items[role] ?? ''])),
  };
}
