import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { countAssemblies, findAssemblies } from '../../src/server/assemblies.ts';
import { countComponents, findComponents } from '../../src/server/components.ts';
import { closePool, pool, rows } from '../../src/server/db.ts';
import { weirside } from '../support/cell.ts';

/** The same finding done the plain way, over every row in memory. */
interface Row {
  number: string;
  words: string;
}
const byNumber = (a: Row, b: Row) => (a.number < b.number ? -1 : 1);
function plainly(all: readonly Row[], typed: string): string[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all
    .filter((each) =>
      words.every((word) =>
        word.length < 3 && !/[.\-/]/.test(word)
          ? ` ${each.words}`.includes(` ${word}`)
          : each.words.includes(word),
      ),
    )
    .sort(byNumber);
  const begins = (each: Row) => words.length > 0 && each.number.toLowerCase().startsWith(words[0]!);
  return [...found.filter(begins), ...found.filter((each) => !begins(each))].map((each) => each.number);
}

let cell: Awaited<ReturnType<typeof weirside>>;
let tools: Row[];
let pieces: Row[];
beforeAll(async () => {
  cell = await weirside();
  await cell.asOwner(async (client) => {
    await client.query(`INSERT INTO assembly (number, name, kind, interface, holder, diameter, corner_radius, stick_out, gauge_length, holder_diameter, teeth)
      SELECT (CASE WHEN i % 9 = 0 THEN 'XA' ELSE 'XZ' END) || '-' || i, (ARRAY['End mill','Drill','Tap'])[1 + i % 3] || ' ' || (i % 97) / 8.0, 'drill', 'steep 40',
        'chuck 1/' || i % 7, 1000000, 0, 1000000, 2000000, 1000000, 2 FROM generate_series(1, 9000) i`);
    await client.query(`INSERT INTO component (number, name, kind, dimensions, shelf)
      SELECT 'XK' || i, 'Collet ' || (i % 50) / 4.0 || '_' || i % 3, CASE WHEN i % 2 = 0 THEN 'collet' ELSE 'nut' END, '{}', 'C-' || i % 40 FROM generate_series(1, 9000) i`);
    await client.query('ANALYZE');
  });
  tools = await rows<Row>(
    pool(),
    "SELECT a.number, lower(a.number || ' ' || a.name || ' ' || a.kind || ' ' || a.holder) || coalesce(lower(' ' || m.name || ' t' || s.tool), '') AS words FROM assembly a LEFT JOIN placement s ON s.assembly_id = a.id LEFT JOIN machine m ON m.id = s.machine_id",
  );
  pieces = await rows<Row>(
    pool(),
    "SELECT number, lower(number || ' ' || name || ' ' || kind || ' ' || series || ' ' || shelf) AS words FROM component WHERE merged_into IS NULL",
  );
});
afterAll(closePool);

describe('finding as one types gives what reading the whole list would, page by page', () => {
  const QUESTIONS = [
    '',
    'drill',
    'xa-9',
    'xz-88',
    '1.5',
    'tap 12.125',
    'end 1/3',
    '6',
    '6 mill',
    'avocet',
    'avocet t1',
    'chuck egret',
    '9',
    'nothing of the kind',
    '100%',
    '_',
  ];
  it.each(QUESTIONS)('tools: "%s"', async (typed) => {
    const expected = plainly(tools, typed);
    expect(await countAssemblies(pool(), typed)).toBe(expected.length);
    for (const from of [0, 100, 4000])
      expect((await findAssemblies(pool(), typed, 100, from)).map((each) => each.number)).toEqual(
        expected.slice(from, from + 100),
      );
  });
  it.each(['', 'xk88', '2.25', 'collet 12.25_1', 'c-39 collet', '0_2', '%', 'xk1 7'])(
    'components: "%s"',
    async (typed) => {
      const expected = plainly(pieces, typed);
      expect(await countComponents(pool(), typed, [])).toBe(expected.length);
      for (const from of [0, 100, 4000])
        expect((await findComponents(pool(), typed, [], 100, from)).map((each) => each.number)).toEqual(
          expected.slice(from, from + 100),
        );
    },
  );
});
