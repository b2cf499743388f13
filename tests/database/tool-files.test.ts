import { readFileSync } from 'node:fs';
import { stringify } from 'csv-stringify/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { assembliesByNumber, countAssemblies, findAssemblies } from '../../src/server/assemblies.ts';
import {
  askedTools,
  catalogueLookAlikes,
  mergeComponents,
  programsAskingFor,
  writeDefinition,
} from '../../src/server/definitions.ts';
import { componentsByNumber, findComponents, stockMoved } from '../../src/server/components.ts';
import { orderCame } from '../../src/server/orders.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import {
  askAgainFor,
  cancelDraft,
  draftById,
  lookAt,
  lookOf,
  openOfDraft,
  questionOfDraft,
  readDraftBy,
  takeDraft,
} from '../../src/server/imports.ts';
import { disagreements, ledgerEntries } from '../../src/server/ledger.ts';
import { programById } from '../../src/server/programs.ts';
import { toolExport } from '../../src/server/tool-export.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { as, done, refused, weirside } from '../support/cell.ts';
import { until } from '../support/server.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeAll(async () => void (cell = await weirside()));
afterAll(async () => {
  expect(await disagreements(pool())).toEqual([]);
  await closePool();
});

const look = async (content: string, fileName = 'tools.csv') =>
  done(await lookAt(as(cell.crib), { fileName, content })).id;
const draft = async (id: number) => (await draftById(pool(), id))!;
const over = (id: number) =>
  until(async () => !['running', 'cancelling'].includes((await draft(id)).state), 30_000);
const exported = async (kind: 'assemblies' | 'components', format: string) =>
  (await toolExport(0, kind, format))!.text();
const HEADING = 'number,name,kind,interface,diameter,stick_out,gauge_length,holder_diameter';
const many = (count: number) =>
  `${HEADING}\n${Array.from({ length: count }, (_, i) => `M-${i},End mill ${i},endMill,steep 40,10,36,118.5,50`).join('\n')}\n`;

describe('what went out comes in as nothing new', () => {
  it.each([
    ['assemblies', 'csv'],
    ['assemblies', 'json'],
    ['assemblies', 'xml'],
    ['components', 'csv'],
    ['components', 'json'],
  ] as const)('%s as %s', async (kind, format) => {
    const id = await look(await exported(kind, format), `all.${format}`);
    const { counts } = await lookOf(pool(), await draft(id));
    expect(counts).toMatchObject({ added: 0, changed: 0, refused: 0 });
    expect(counts.same).toBe(await cell.count(kind === 'assemblies' ? 'FROM assembly' : 'FROM component'));
  });
  it('and the demo’s own file is the same as what the cell holds of it', async () => {
    const id = await look(readFileSync('demo/components.csv', 'utf8'));
    // a first count on the shelf is not what a second reading of the file changes
    expect((await lookOf(pool(), await draft(id))).counts).toMatchObject({
      added: 0,
      changed: 0,
      refused: 0,
    });
  });
});

describe('a file is looked at before it is taken', () => {
  it('row by row: added, changed with what, refused with why', async () => {
    const id = await look(
      `${HEADING}\nN-1,New drill,drill,steep 40,5,60,130,40\nA-141,End mill 10 other name,endMill,steep 40,9.9962,38,117.9655,32\nA-103,End mill 10 finish,endMill,steep 40,12,38,118.225,32\n`,
    );
    const { counts, rows } = await lookOf(pool(), await draft(id));
    expect(counts).toEqual({ added: 1, changed: 1, left: 0, same: 0, refused: 1, doubtful: 0 });
    expect(rows[0]).toMatchObject({
      line: 4,
      number: 'A-103',
      verdict: 'refused',
      words: expect.stringContaining('stands in Avocet'),
    });
    expect(rows[1]).toMatchObject({
      line: 3,
      verdict: 'changed',
      words: expect.stringContaining('name End mill 10 finish (sister) → End mill 10 other name'),
    });
    expect(await cell.count("FROM assembly WHERE number = 'N-1'")).toBe(0);
    done(await takeDraft(as(cell.crib), id));
    await over(id);
    expect(await draft(id)).toMatchObject({
      state: 'failed',
      answer: expect.stringContaining('nothing was saved'),
    });
    expect(await cell.count("FROM assembly WHERE number = 'N-1'")).toBe(0);
  });
  it('what looks wrong is asked about, and taken only when somebody says that it is right', async () => {
    const text = `${HEADING}\nN-30,Drill,drill,steep 40,6000,60,130,40\n`;
    const id = await look(text);
    const { counts, rows } = await lookOf(pool(), await draft(id));
    expect(counts.doubtful).toBe(1);
    expect(rows[0]).toMatchObject({ verdict: 'added', doubt: 'it is 6000 mm across' });
    done(await takeDraft(as(cell.crib), id));
    await over(id);
    expect(await draft(id)).toMatchObject({ state: 'failed', answer: expect.stringMatching(/looks wrong/) });
    const again = await look(text);
    done(await takeDraft(as(cell.crib), again, true));
    await over(again);
    expect((await draft(again)).state).toBe('done');
    expect(await cell.count("FROM assembly WHERE number = 'N-30'")).toBe(1);
  });
  it('a number in other capitals is not a second piece', async () => {
    const id = await look(`${HEADING}\na-103,End mill,endMill,steep 40,10,38,118.225,32\n`);
    const { rows } = await lookOf(pool(), await draft(id));
    expect(rows[0]).toMatchObject({
      verdict: 'refused',
      words: expect.stringMatching(/^A-103 is on record/),
    });
    expect(
      refused(
        await lookAt(as(cell.crib), {
          fileName: 'x.csv',
          content: `${HEADING}\nq-1,A,drill,steep 40,5,60,130,40\nQ-1,B,drill,steep 40,5,60,130,40\n`,
        }),
      ),
    ).toMatch(/Line 3, number: .* in the file twice/);
  });
  it('a life or a count that a file would change is left as it is, and that stands there', async () => {
    const id = await look(
      (await exported('components', 'csv')).replace(/^(EM-16R05,.*),4,2,(\d*)\r$/m, '$1,9,2,$2\r'),
    );
    const { counts, rows } = await lookOf(pool(), await draft(id));
    expect([counts.left, counts.changed]).toEqual([1, 0]);
    expect(rows[0]!.words).toMatch(
      /^left as it is: on the shelf 4 → 9 \(it is changed by counting it in the crib\)/,
    );
  });
  it('assets of others: what is left of their lives, flags, and what has to be completed', async () => {
    const tool = (number: string, inside: string, kind = 'drill') =>
      `<CuttingTool serialNumber="${number}" toolId="${kind}" assetId="${number}"><Description>Drill 6</Description><CuttingToolLifeCycle>${inside}<ConnectionCodeMachineSide>steep 40</ConnectionCodeMachineSide><Measurements><FunctionalLength>120</FunctionalLength><CuttingDiameterMax>6</CuttingDiameterMax><ProtrudingLength>48</ProtrudingLength><BodyDiameterMax>40</BodyDiameterMax></Measurements></CuttingToolLifeCycle></CuttingTool>`;
    const life = (inside: string, value: number) => `<ToolLife ${inside}>${value}</ToolLife>`;
    const status = (word: string) => `<CutterStatus><Status>${word}</Status></CutterStatus>`;
    const id = await look(
      `<MTConnectAssets><Assets>${[
        tool('X-1', life('type="PART_COUNT" countDirection="UP" limit="100"', 37)),
        tool('X-2', status('BROKEN')),
        tool('X-3', life('type="MINUTES" countDirection="DOWN" initial="60"', 0)),
        tool('X-4', status('TAGGED_OUT') + life('type="PART_COUNT" countDirection="DOWN"', 5)),
        tool('X-5', '', '0815')
          .replace('Drill 6', 'Special')
          .replace('<ProtrudingLength>48</ProtrudingLength>', ''),
      ].join('')}</Assets></MTConnectAssets>`,
      'tools.xml',
    );
    const found = await lookOf(pool(), await draft(id));
    expect([found.counts.added, found.counts.doubtful]).toEqual([4, 1]);
    expect(found.open).toEqual([{ line: 5, number: 'X-5', name: 'Special', missing: ['kind', 'stick-out'] }]);
    expect(await openOfDraft(pool(), id, cell.crib.id, 5)).toMatchObject({ number: 'X-5', diameter: '6' });
    expect(await openOfDraft(pool(), id, cell.lead.id, 5)).toBeNull();
    done(await takeDraft(as(cell.crib), id, true));
    await over(id);
    expect((await draft(id)).answer).toMatch(/^4 added/);
    const standing = async (number: string) => {
      const [each] = await assembliesByNumber(pool(), [number]);
      return [each!.basis, each!.fullLife, each!.remaining, each!.flag];
    };
    expect(await standing('X-1')).toEqual(['pieces', 100, 63, null]);
    expect(await standing('X-2')).toEqual([null, null, null, 'broken']);
    expect(await standing('X-3')).toEqual(['minutes', 3_600_000, 0, 'expired']);
    expect(await standing('X-4')).toEqual([null, null, null, 'locked']);
    expect(
      await cell.count("FROM quarantine q JOIN assembly a ON a.id = q.assembly_id WHERE a.number = 'X-2'"),
    ).toBe(1);
  });
  it('a fault anywhere is told with line and column, and nothing is kept', async () => {
    const outcome = await lookAt(as(cell.crib), {
      fileName: 'x.csv',
      content: `${HEADING}\nN-2,=1+1,drill,steep 40,5,60,x,40\n`,
    });
    expect(refused(outcome)).toMatch(/Line 2, name: .*formula.*\nLine 2, gauge_length/);
  });
  it('taken twice, it is taken once; somebody else cannot take it', async () => {
    const id = await look(`${HEADING}\nN-3,New drill,drill,steep 40,5,60,130,40\n`);
    expect(refused(await takeDraft(as(cell.setter), id))).toMatch(/no longer waiting/);
    const outcomes = await Promise.all([takeDraft(as(cell.crib), id), takeDraft(as(cell.crib), id)]);
    expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
    await over(id);
    expect(await draft(id)).toMatchObject({
      state: 'done',
      answer: '1 added, 0 changed, 0 were already the same.',
    });
    expect(await cell.count("FROM ledger WHERE said LIKE 'N-3 %was added.'")).toBe(1);
  });
  it('a changed row says in the ledger what it was', async () => {
    const id = await look(`${HEADING}\nN-3,New drill,drill,steep 40,5,60,131,40\n`);
    done(await takeDraft(as(cell.crib), id));
    await over(id);
    const [entry] = await ledgerEntries(pool(), { assembly: await cell.assembly('N-3') }, 1);
    expect(entry).toMatchObject({ stage: 'changed', why: 'gauge length 130.000 → 131.000' });
  });
  it('a large one tells how far it is, and stopped in the middle leaves nothing', async () => {
    const id = await look(many(20_000));
    done(await takeDraft(as(cell.crib), id));
    await until(async () => (await draft(id)).rowsDone >= 1000, 30_000);
    done(await cancelDraft(as(cell.crib), id));
    await over(id);
    expect(await draft(id)).toMatchObject({
      state: 'cancelled',
      answer: 'Stopped. None of the file was saved.',
    });
    expect(await cell.count("FROM assembly WHERE number LIKE 'M-%'")).toBe(0);
  });
});

describe('finding', () => {
  it('needs every word, takes % and _ as they are, and knows where a tool stands', async () => {
    const numbers = async (words: string) => (await findAssemblies(pool(), words)).map((each) => each.number);
    expect(await numbers('end mill 10 sister')).toEqual(['A-141']);
    expect(await numbers('avocet t3')).toContain('A-103');
    expect(await numbers('100%')).toEqual([]);
    expect(await numbers('_-103')).toEqual([]);
    expect(await countAssemblies(pool(), '')).toBe(await cell.count('FROM assembly'));
    expect((await findComponents(pool(), 'collet 10', ['collet'])).map((each) => each.number)).toEqual(
      expect.arrayContaining(['C20-10', 'C32-10']),
    );
  });
  it('page by page gives every row once, in order', async () => {
    const all: string[] = [];
    for (let from = 0; ; from += 10) {
      const page = await findAssemblies(pool(), '', 10, from);
      if (page.length === 0) break;
      all.push(...page.map((each) => each.number));
    }
    expect(all).toEqual(all.toSorted());
    expect(new Set(all).size).toBe(await countAssemblies(pool(), ''));
  });
});

describe('what a program asks for', () => {
  it('is read from its comments; what stands there serves, and its sister is proposed', async () => {
    const program = (await programById(pool(), await cell.program('O2301')))!;
    const asked = await askedTools(pool(), program);
    const three = asked.find((each) => each.tool === 3)!;
    expect(three).toMatchObject({
      written: false,
      definition: { kind: 'endMill', diameter: lengthOf(10, 'mm') },
    });
    const good = three.fulfilments
      .filter((each) => each.misses.length === 0)
      .map((each) => each.candidate.number);
    expect(good[0]).toBe('A-103');
    expect(good).toContain('A-141');
  });
  it('written down it counts more than the comment, and each miss has its reason', async () => {
    const program = (await programById(pool(), await cell.program('O2301')))!;
    done(
      await writeDefinition(as(cell.setter), {
        programId: program.id,
        tool: 3,
        kind: 'endMill',
        diameter: lengthOf(10, 'mm'),
        cornerRadius: null,
        reach: lengthOf(60, 'mm'),
        teeth: null,
        thread: '',
        leftHand: null,
        leastLife: null,
      }),
    );
    const three = (await askedTools(pool(), program)).find((each) => each.tool === 3)!;
    expect(three.written).toBe(true);
    expect(three.fulfilments[0]!.misses).toEqual(['it stands out 38.000 mm, 60.000 mm is needed']);
  });
  it('a size that is asked for is known by it', async () => {
    const asking = await programsAskingFor(pool(), 'endMill', lengthOf(16, 'mm'));
    expect(asking.map((each) => `${each.machine} T${each.tool}`)).toContain('Avocet T2');
  });
});

it('a look-alike is found and merged: assemblies and stock go over, and both numbers stay in the ledger', async () => {
  const groups = async (words = '', kinds: string[] = []) =>
    (await catalogueLookAlikes(pool(), words, kinds)).shown.map(({ lines }) =>
      lines.map((each) => each.number).toSorted(),
    );
  expect(await groups()).toEqual([['EM-10S', 'EM-D10-Z3']]);
  // one line of a group goes by the words: the group is shown whole
  expect(await groups('d10 z3')).toEqual([['EM-10S', 'EM-D10-Z3']]);
  expect(await groups('reamer')).toEqual([]);
  expect(await groups('', ['collet'])).toEqual([]);
  const number = async (name: string) => (await componentsByNumber(pool(), [name]))[0]!;
  const [keep, twin] = [await number('EM-10S'), await number('EM-D10-Z3')];
  const order = (await row<{ id: number }>(
    pool(),
    `INSERT INTO supply_order (component_id, kind, pieces, made_by, place) VALUES ($1, 'buy', 5, $2, 'the dealer') RETURNING id`,
    [keep.id, cell.crib.id],
  ))!;
  done(await mergeComponents(as(cell.crib), { from: keep.id, into: twin.id }));
  expect((await number('EM-D10-Z3')).stock).toBe(keep.stock + twin.stock);
  expect((await number('EM-D10-Z3')).used).toBe(keep.used + twin.used);
  expect(await row(pool(), 'SELECT 1 FROM assembly_part WHERE component_id = $1', [keep.id])).toBeNull();
  expect(await groups()).toEqual([]);
  expect(refused(await mergeComponents(as(cell.crib), { from: keep.id, into: twin.id }))).toMatch(
    /EM-10S was merged into EM-D10-Z3 meanwhile/,
  );
  // each into the other would leave none of the two
  expect(refused(await mergeComponents(as(cell.crib), { from: twin.id, into: keep.id }))).toMatch(
    /EM-10S was merged into EM-D10-Z3 meanwhile/,
  );
  // what was on its way comes to the line that is left, and nothing is put on the shelf of the other
  done(await orderCame(as(cell.crib), { orderId: order.id, came: 0, pieces: 5, rest: false }));
  expect((await number('EM-D10-Z3')).stock).toBe(keep.stock + twin.stock + 5);
  const returned = { componentId: keep.id, before: 0, move: 'returned' as const, pieces: 1, why: '' };
  expect(refused(await stockMoved(as(cell.crib), returned))).toMatch(/was merged into EM-D10-Z3/);
});

it('of thousands of look-alikes a page shows some, and says how many there are', async () => {
  await pool().query(
    `INSERT INTO component (number, name, kind, dimensions)
     SELECT 'TWIN-' || i, 'Twin', 'endMillSharp', jsonb_build_object('DC', (i / 20 + 100) * 1000000) FROM generate_series(0, 1999) i`,
  );
  const { shown, groups } = await catalogueLookAlikes(pool(), 'twin-');
  expect(groups).toBe(100);
  expect(shown.length).toBeLessThan(groups);
  for (const { lines, more } of shown) expect(lines.length + more).toBe(20);
});

it('a file of formulas written by a spreadsheet is refused whole', async () => {
  const text = stringify(
    [{ number: 'F-1', name: '=HYPERLINK("x")', kind: 'collet', dconws: 5, dconms: 20 }],
    { header: true },
  );
  expect(refused(await lookAt(as(cell.crib), { fileName: 'f.csv', content: text }))).toMatch(/formula/);
});

describe('tables of other people', () => {
  const SHOP =
    'Tool No.;Description;Type;Taper;Dia (mm);Projection;Tool length;Holder Ø;Remark\nT-71;Drill 6,8;drill;40-taper;6,8;40,5;120,25;32;for brass\n';
  const asked = async (id: number) => (await questionOfDraft(pool(), await draft(id), null))!;
  it('are asked about once; the next file with these headings is read at once', async () => {
    const id = await look(SHOP);
    const question = await asked(id);
    const reading = {
      kind: 'assemblies' as const,
      columns: Object.fromEntries(
        question.headings.map(({ heading, guess }) => [heading.toLowerCase(), guess]),
      ),
      decimal: 'comma' as const,
      unit: 'mm' as const,
    };
    expect(
      refused(
        await readDraftBy(as(cell.crib), id, { ...reading, columns: { ...reading.columns, 'dia (mm)': '' } }),
      ),
    ).toMatch(/No column was given for diameter/);
    expect(refused(await readDraftBy(as(cell.setter), id, reading))).toMatch(/no longer waiting/);
    expect(refused(await readDraftBy(as(cell.crib), id, { ...reading, decimal: 'point' }))).toMatch(/comma/);
    done(await readDraftBy(as(cell.crib), id, reading));
    expect((await lookOf(pool(), await draft(id))).counts).toMatchObject({ added: 1, refused: 0 });
    const next = await look(SHOP.replace('T-71', 'T-72'));
    expect(await questionOfDraft(pool(), await draft(next), null)).toBeNull();
    expect((await lookOf(pool(), await draft(next))).rows[0]).toMatchObject({
      number: 'T-72',
      verdict: 'added',
    });
    done(await askAgainFor(as(cell.crib), next));
    expect(await asked(next)).toMatchObject({ kind: 'assemblies' });
  });
  it('what a file has no column for stays as it is', async () => {
    const before = await componentsByNumber(pool(), ['EM-10R02']);
    const id = await look(
      'number,name,kind,dc,dconms,oal,lcf,zefp,re\nEM-10R02,Another name,endMillRadius,10,10,72,26,4,0.2\n',
    );
    const { rows: planned } = await lookOf(pool(), await draft(id));
    expect(planned[0]).toMatchObject({ verdict: 'changed' });
    expect(planned[0]!.words).not.toMatch(/shelf|minimum|cost|regrinds/);
    done(await takeDraft(as(cell.crib), id));
    await over(id);
    const [after] = await componentsByNumber(pool(), ['EM-10R02']);
    const { shelf, minimum, costCents, regrinds, stock } = before[0]!;
    expect(after).toMatchObject({ name: 'Another name', shelf, minimum, costCents, regrinds, stock });
  });
});
