import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { entry, STAGES } from '../../src/core/ledger/entry.ts';
import { closePool, pool, row, rows, transaction } from '../../src/server/db.ts';
import { append, disagreements, ledgerEntries } from '../../src/server/ledger.ts';
import { placeTool, takeOut } from '../../src/server/places.ts';
import { ledgerCsv } from '../../src/server/ledger-csv.ts';
import { parse } from 'csv-parse/sync';
import { as, done, entered, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeAll(async () => void (cell = await weirside()));
afterAll(closePool);

const denied = (sql: string, values: unknown[] = []) =>
  expect(pool().query(sql, values)).rejects.toMatchObject({ code: '42501' });

describe('what the application’s role may not do', () => {
  it('is to change or remove an entry', async () => {
    await denied('UPDATE ledger SET why = $1', ['nothing happened']);
    await denied('DELETE FROM ledger');
    await denied('TRUNCATE ledger');
  });
  it('is to set a register, a counter, a placement, a count of parts or a flag past the ledger', async () => {
    await denied('UPDATE register SET value = 1');
    await denied('UPDATE life_counter SET value = 1');
    await denied('UPDATE placement SET tool = 1');
    await denied('DELETE FROM placement');
    await denied('UPDATE job SET made = 0');
    await denied('UPDATE assembly SET flag = NULL');
    await denied('INSERT INTO register (machine_id, row, kind, value) VALUES (1, 999, $1, 5)', ['xWear']);
    await denied('INSERT INTO life_counter (assembly_id, basis, full_life, value) VALUES (1, $1, 5, 5)', [
      'pieces',
    ]);
  });
  it('is to rewrite readings, proposals or signatures', async () => {
    await denied('UPDATE reading SET measured = 0');
    await denied('DELETE FROM proposal');
    await denied('UPDATE leaf_signature SET person_id = 1');
  });
  it('is to turn a cell into a demo, where history may be told in the past', async () => {
    await denied('UPDATE cell SET demo = true');
  });
  it('even the owner cannot change an entry while the trigger stands', async () => {
    await expect(
      cell.asOwner((client) => client.query('UPDATE ledger SET why = $1', ['x'])),
    ).rejects.toMatchObject({ code: 'TA009' });
  });
});

describe('kinds and stages', () => {
  it('are the same in the database as in the core', async () => {
    const listed = await rows<{ kind: string; stage: string }>(
      pool(),
      'SELECT kind, stage FROM ledger_stage ORDER BY kind COLLATE "C", stage COLLATE "C"',
    );
    const core = Object.entries(STAGES).flatMap(([kind, stages]) =>
      stages.map((stage) => `${kind} ${stage}`),
    );
    expect(listed.map(({ kind, stage }) => `${kind} ${stage}`)).toEqual(core.sort());
  });
  it('one that is not there does not compile', () => {
    const said = { personId: 1, said: 'x', machineId: 1 };
    // @ts-expect-error -- misspelt
    expect(entry.machine('plated', said).stage).toBe('plated');
    // @ts-expect-error -- a stage of another kind
    expect(entry.reading('measured', { ...said, readingId: 1 }).kind).toBe('reading');
    // @ts-expect-error -- without what an entry of a register moves
    expect(entry.register('measured', said).stage).toBe('measured');
    expect(entry.machine('plate', said)).toEqual({ kind: 'machine', stage: 'plate', ...said });
  });
  it('no statement asks for one that is not there', () => {
    const known = new Set<string>(Object.values(STAGES).flat());
    const asked = readdirSync('src/server')
      .filter((name) => name.endsWith('.ts'))
      .flatMap((name) =>
        [
          ...readFileSync(`src/server/${name}`, 'utf8').matchAll(
            /stage (?:=|<>|IN \() ?('[^)\n]*?')(?=[\s)])/g,
          ),
        ].flatMap((match) => [...match[1]!.matchAll(/'([^']+)'/g)].map((each) => each[1]!)),
      );
    expect(asked.length).toBeGreaterThan(3);
    expect(asked.filter((stage) => !known.has(stage))).toEqual([]);
  });
  it.each<[words: string, columns: string, values: string]>([
    [
      'a misspelt stage',
      'stage, register_id, before_value, change_value, after_value',
      `'register', 'mesured', 1, 0, 0, 0`,
    ],
    ['a reading without its reading', 'stage', `'reading', 'taken'`],
    ['a flag that does not say which', 'stage, assembly_id', `'assembly', 'flag', 1`],
    ['parts without their count', 'stage, job_id', `'parts', 'made', 1`],
    ['a machine’s entry without the machine', 'stage', `'machine', 'plate'`],
    ['a wide pocket without its T', 'stage, machine_id, place_id', `'pocket', 'declared', 1, 1`],
    [
      'a tool that came in without its T',
      'stage, machine_id, place_id, assembly_id',
      `'placement', 'in', 1, 1, 1`,
    ],
    ['a call that does not say what it found', 'stage, machine_id, place_id', `'placement', 'called', 1, 1`],
  ])('%s is refused by the database, whatever the code does', async (_, columns, values) => {
    await expect(
      pool().query(`INSERT INTO ledger (kind, ${columns}, person_id, said) VALUES (${values}, 1, 'x')`),
    ).rejects.toMatchObject({ code: expect.stringMatching(/^2350[23]|23514|TA00/) as string });
  });
});

it('an entry of a machine or of a shelf that nobody holds is a fault of ours, and is not written', async () => {
  const machineId = await cell.machine('Curlew');
  const [{ id: componentId, stock }] = (await rows<{ id: number; stock: number }>(
    pool(),
    'SELECT id, stock FROM component WHERE stock > 0 ORDER BY id LIMIT 1',
  )) as [{ id: number; stock: number }];
  const common = { personId: cell.lead.id, said: 'past the code' };
  await expect(
    transaction((db) => append(db, { ...common, kind: 'machine', stage: 'plate', machineId })),
  ).rejects.toThrow('of a machine that is not held');
  await expect(
    transaction((db) =>
      append(db, { ...common, kind: 'stock', stage: 'issued', componentId, before: stock, after: stock - 1 }),
    ),
  ).rejects.toThrow('of a line of the catalogue that is not held');
  expect(await cell.count(`FROM ledger WHERE said = 'Past the code'`)).toBe(0);
});

describe('sums', () => {
  it('after a day and a half of demo every register and counter is the sum of its entries', async () => {
    expect(await disagreements(pool())).toEqual([]);
    expect(await cell.count(`FROM ledger WHERE kind IN ('register', 'life')`)).toBeGreaterThan(200);
  });
  it('a kept value that is not the sum would be found', async () => {
    const { id } = await cell.register('Bittern', 90, 'lengthWear');
    await cell.asOwner((client) => client.query('UPDATE register SET value = 5 WHERE id = $1', [id]));
    expect(await disagreements(pool())).toEqual([{ kind: 'register', id, value: 5, summed: 0 }]);
    await cell.asOwner((client) => client.query('UPDATE register SET value = 0 WHERE id = $1', [id]));
  });
  it('any run of changes adds up to the last nanometre', async () => {
    const { id } = await cell.register('Curlew', 60, 'zWear');
    const machineId = await cell.machine('Curlew');
    let value = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: -2_000_000_000, max: 2_000_000_000 }), { minLength: 1, maxLength: 12 }),
        async (values) => {
          for (const after of values) {
            const before = value;
            await entered({
              kind: 'register',
              stage: 'found',
              personId: cell.lead.id,
              machineId,
              registerId: id,
              before,
              after,
              said: 'a change',
            });
            value = after;
          }
          const sums = await row<{ summed: number; kept: number }>(
            pool(),
            `SELECT (SELECT sum(change_value)::bigint FROM ledger WHERE register_id = $1) AS summed, (SELECT value FROM register WHERE id = $1) AS kept`,
            [id],
          );
          expect(sums).toEqual({ summed: value, kept: value });
        },
      ),
      { numRuns: 15 },
    );
  });
  it('an entry that does not start from the present value is refused, and nothing moves', async () => {
    const { id, value } = await cell.register('Curlew', 60, 'zWear');
    const entry = {
      kind: 'register',
      stage: 'found',
      personId: cell.lead.id,
      registerId: id,
      before: value + 1,
      after: 0,
      said: 'stale',
    } as const;
    await expect(entered(entry)).rejects.toMatchObject({ code: 'TA001' });
    expect((await cell.register('Curlew', 60, 'zWear')).value).toBe(value);
  });
  it('before + change = after, or the database refuses', async () => {
    const { id } = await cell.register('Curlew', 59, 'zWear');
    await expect(
      pool().query(
        `INSERT INTO ledger (kind, stage, person_id, register_id, before_value, change_value, after_value, said) VALUES ('register', 'found', 1, $1, 0, 5, 6, 'wrong')`,
        [id],
      ),
    ).rejects.toMatchObject({ code: '23514' });
  });
  it('the CSV holds every entry and its sums', async () => {
    const { id, value } = await cell.register('Curlew', 60, 'zWear');
    const text = await new Response(ledgerCsv((work) => work(pool()), { register: id })).text();
    const lines = parse(text, { columns: true }) as Record<string, string>[];
    expect(lines.length).toBe(await cell.count('FROM ledger WHERE register_id = $1', id));
    expect(lines[0]!.unit).toBe('in');
    const summed = lines.reduce((sum, line) => sum + Math.round(Number(line.change) * 25_400_000), 0);
    expect(Math.abs(summed - value)).toBeLessThanOrEqual(lines.length * 13);
  });
  it('is filtered by machine, tool, person, kind and time', async () => {
    const all = await ledgerEntries(pool(), {}, 10_000);
    const machine = await cell.machine('Avocet');
    const some = await ledgerEntries(pool(), { machine, kind: 'register', person: cell.setter.id }, 10_000);
    expect(some.length).toBeGreaterThan(5);
    expect(
      some.every(
        (entry) =>
          entry.machine === 'Avocet' && entry.kind === 'register' && entry.person === cell.setter.name,
      ),
    ).toBe(true);
    expect(some.length).toBe(
      all.filter(
        (entry) =>
          entry.machine === 'Avocet' && entry.kind === 'register' && entry.person === cell.setter.name,
      ).length,
    );
    const cut = all[50]!.at;
    expect((await ledgerEntries(pool(), { from: cut }, 10_000)).every((entry) => entry.at >= cut)).toBe(true);
  });
});

describe('places', () => {
  it('two tools with one T are refused, in words by the code and underneath by the database', async () => {
    const [place, loose] = [await cell.place('Avocet', 1), await cell.assembly('A-141')];
    expect(refused(await placeTool(as(cell.setter), { placeId: place, assemblyId: loose, tool: 3 }))).toMatch(
      /T3 already/,
    );
    const machineId = await cell.machine('Avocet');
    const entry = {
      kind: 'placement',
      stage: 'in',
      personId: cell.setter.id,
      machineId,
      placeId: place,
      said: 'past the code',
    } as const;
    await expect(entered({ ...entry, assemblyId: loose, tool: 3 })).rejects.toMatchObject({
      constraint: 'one_tool_number_on_a_machine',
    });
    const placed = await cell.assembly('A-103');
    await expect(entered({ ...entry, assemblyId: placed, tool: 77 })).rejects.toMatchObject({
      constraint: 'one_assembly_in_one_place',
    });
    const taken = await cell.place('Avocet', 8);
    await expect(entered({ ...entry, placeId: taken, assemblyId: loose, tool: 77 })).rejects.toMatchObject({
      constraint: 'one_assembly_in_a_place',
    });
  });
  it('two setters put the same assembly into two pockets at once: one wins, the other is told', async () => {
    const loose = await cell.assembly('A-141');
    const [one, two] = [await cell.place('Avocet', 1), await cell.place('Avocet', 11)];
    const outcomes = await Promise.all([
      placeTool(as(cell.setter), { placeId: one, assemblyId: loose, tool: 41 }),
      placeTool(as(cell.lead), { placeId: two, assemblyId: loose, tool: 42 }),
    ]);
    expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
    expect(outcomes.map(refused).join()).toMatch(/in one place/);
    expect(await cell.count('FROM placement WHERE assembly_id = $1', loose)).toBe(1);
  });
  it('what is taken out is gone once, however often it is pressed', async () => {
    const assemblyId = await cell.assembly('A-109');
    const placeId = await cell.place('Avocet', 22);
    const asking = as(cell.setter);
    const outcomes = await Promise.all(
      [1, 2, 3].map(() => takeOut(asking, { placeId, assemblyId, why: '' })),
    );
    outcomes.map(done);
    expect(
      await cell.count(
        `FROM ledger WHERE kind = 'placement' AND stage = 'out' AND assembly_id = $1`,
        assemblyId,
      ),
    ).toBe(1);
    expect(refused(await takeOut(as(cell.setter), { placeId, assemblyId, why: '' }))).toMatch(
      /no longer there/,
    );
  });
  it('history may be told in the past in the made-up cell only', async () => {
    await transaction(async (db) => {
      await db.query(`SET LOCAL tin.at = '2026-01-01T00:00:00Z'`);
      const told = await row<{ at: Date }>(db, 'SELECT tin_now() AS at');
      expect(told!.at.toISOString()).toBe('2026-01-01T00:00:00.000Z');
    });
    await cell.asOwner((client) => client.query('UPDATE cell SET demo = false'));
    await transaction(async (db) => {
      await db.query(`SET LOCAL tin.at = '2026-01-01T00:00:00Z'`);
      const told = await row<{ at: Date }>(db, 'SELECT tin_now() AS at');
      expect(Date.now() - told!.at.getTime()).toBeLessThan(60_000);
    });
  });
});
