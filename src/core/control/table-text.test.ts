import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dialectSchema } from '../program/dialect.ts';
import { nanometres } from '../units/length.ts';
import { readPocketTable } from './pocket-map.ts';
import { readTable, tableText, type TableOf, type TableValue } from './table-text.ts';

const machine = (name: string): TableOf => {
  const file = JSON.parse(readFileSync(`demo/machines/${name.toLowerCase()}.json`, 'utf8')) as {
    unit: 'mm' | 'in';
    dialect: unknown;
  };
  return { name, unit: file.unit, dialect: dialectSchema.parse(file.dialect) };
};
const MACHINES = ['Avocet', 'Bittern', 'Curlew', 'Dunlin', 'Egret', 'Fulmar'].map(machine);
const AT = '2026-11-27T12:00:00.000Z';

/** Values that each machine can write, rows in any order. */
const values = (of: TableOf) =>
  fc
    .uniqueArray(
      fc.record({
        kind: fc.constantFrom(...Object.keys(of.dialect.setRegister)),
        row: fc.integer({ min: 1, max: 99 }),
        value: fc
          .integer({ min: -400_000, max: 400_000 })
          .map((step) => nanometres(of.unit === 'mm' ? step * 1000 : step * 2540)),
      }),
      { minLength: 1, maxLength: 60, selector: ({ kind, row }) => `${kind} ${row}` },
    )
    // some controls name the axis in the line only: kinds that share their line are one register there
    .filter((all) => {
      const lines = all.map(({ kind, row }) => `${of.dialect.setRegister[kind]} ${row}`);
      return new Set(lines).size === lines.length;
    });
const sorted = (all: readonly TableValue[]) =>
  [...all].sort((a, b) => a.kind.localeCompare(b.kind) || a.row - b.row);

describe('a table as a text of the machine', () => {
  it.each(MACHINES.map((each) => [each.name, each] as const))(
    '%s: what is written is read back to the last digit, and what was changed on the way is refused',
    (_, of) => {
      fc.assert(
        fc.property(values(of), fc.nat(), (all, which) => {
          const { text, left } = tableText(of, all, AT);
          expect(left).toEqual([]);
          const read = readTable(of, text, null);
          expect(read.problems).toEqual([]);
          expect(sorted(read.values)).toEqual(sorted(all));
          // a line that is lost on the way
          const lines = text.split('\n');
          const at = 5 + (which % all.length);
          const cut = lines.filter((_line, i) => i !== at).join('\n');
          expect(readTable(of, cut, null).problems.join()).toContain(all.length === 1 ? '' : 'hash');
          // and another machine's
          for (const other of MACHINES)
            if (other.name !== of.name)
              expect(readTable(other, text, null).problems[0]).toContain(`not of ${other.name}`);
        }),
        { numRuns: 60 },
      );
    },
  );

  it('a row and a number need to be told what they are of; absolute mode says nothing; increments are refused', () => {
    const avocet = machine('Avocet');
    expect(readTable(avocet, '3 118.225\n4 -0.010', null).problems).toEqual([
      'Row 3: say which register its number is of.',
    ]);
    expect(readTable(avocet, 'OFFSET TABLE\n3 118.225', 'lengthGeometry').values).toEqual([
      { kind: 'lengthGeometry', row: 3, value: 118_225_000 },
    ]);
    const line = tableText(avocet, [{ kind: 'lengthGeometry', row: 3, value: nanometres(1_000_000) }], AT)
      .text.split('\n')
      .find((each) => each.includes('P3'))!;
    expect(readTable(avocet, `G90\nG90 ${line}`, null)).toMatchObject({ problems: [], values: [{ row: 3 }] });
    expect(readTable(avocet, `G91 ${line}`, null).problems[0]).toContain('by how much');
    expect(readTable(avocet, 'hello', null).problems).toEqual(['There is no row in it.']);
  });

  it('any text is read or refused, and never breaks', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        const read = readTable(machine('Avocet'), text, 'lengthWear');
        expect(read.problems.length + read.values.length).toBeGreaterThan(0);
      }),
    );
  });

  it.each([
    '('.repeat(400_000),
    '(TABLE OF '.repeat(40_000),
    `(TABLE OF ${' '.repeat(400_000)}`,
    `1${'\t'.repeat(400_000)}x`,
    `${'1 '.repeat(400_000)}`,
    '1 5.0\n'.repeat(80_000),
  ])('a text that was made to take long is refused as quickly as it is read: %#', (text) => {
    const avocet = machine('Avocet');
    expect(readTable(avocet, text, 'lengthWear').problems.length).toBeGreaterThan(0);
    expect(readPocketTable(text, new Set([1])).problems.length).toBeGreaterThan(0);
  });
});
