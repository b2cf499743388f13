import writeSheet from 'write-excel-file/node';
import { expect, ready, test } from './cell.ts';

test('readings come in as a file: looked at, put right, taken once', async ({ as }) => {
  const page = await as('inspector');
  await page.goto('/programs');
  await ready(page);
  const bring = async (text: string) => {
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'bench.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
    await page
      .getByLabel('For a measuring plan or readings: the program')
      .selectOption({ label: 'Egret: O5103 HUB BODY OP1' });
    await page.getByRole('button', { name: 'Read it' }).click();
  };
  await bring('feature;part;value\nFace height;310;80.004\nRim;310;12.0\n');
  const look = page.getByRole('region', { name: /Readings of O5103/ });
  await expect(look.getByRole('alert')).toContainText('Nothing is taken: one reading cannot be');
  await expect(look.getByText(/The plan has no size of this name/)).toBeVisible();
  await bring('feature;part;value\nFace height;310;80.004\nBody width;310;287.602\n');
  await look.getByRole('button', { name: 'Take 2 readings' }).click();
  await expect(look.getByRole('status')).toContainText('2 readings taken');
  await bring('feature;part;value\nFace height;310;80.004\n');
  await expect(look.getByText('All of them stand already.')).toBeVisible();
});

test('a plan is looked at: what it would change, and what does not go with the program', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/programs');
  await ready(page);
  const bring = async (row: string) => {
    await page.locator('input[type=file]').setInputFiles({
      name: 'plan.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(`feature,kind,nominal,upper,lower,tool,every,also\n${row}\n`),
    });
    await page
      .getByLabel('For a measuring plan or readings: the program')
      .selectOption({ label: 'Egret: O5103 HUB BODY OP1' });
    await page.getByRole('button', { name: 'Read it' }).click();
  };
  const look = page.getByRole('region', { name: /A measuring plan for O5103/ });
  await bring('Rim,outsideDiameter,90,0.1,-0.1,1,,');
  await expect(look.getByRole('alert')).toContainText('which a mill does not have');
  await bring('Rim height,height,90,0.1,-0.1,1,5,renewal');
  await expect(look.getByRole('row', { name: /Rim height/ })).toContainText('added');
  await look.getByRole('button', { name: 'Take it' }).click();
  await expect(look.getByRole('status')).toContainText('One feature was taken for O5103');
  await look.getByRole('link', { name: 'To the program' }).click();
  await expect(page.getByRole('row', { name: /Rim height/ })).toBeVisible();
});

test('a size that shares its row gets one of its own: prepared, keyed, and the lines to change', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/programs/1');
  await page.getByRole('link', { name: 'Journal OD', exact: true }).click();
  await page.getByRole('link', { name: 'Give it a row of its own' }).click();
  await ready(page);
  await expect(page.getByText(/Journal OD\s+gets row 32/)).toBeVisible();
  await expect(page.getByRole('cell', { name: 'N620 T0232' })).toBeVisible();
  const rows = page.getByRole('row').filter({ hasText: /^X|^Z/ });
  const many = await rows.count();
  const make = await Promise.all(
    Array.from({ length: many }, (_, i) => rows.nth(i).getByRole('cell').nth(2).innerText()),
  );
  const page_ = await Promise.all(
    Array.from({ length: many }, (_, i) => rows.nth(i).getByRole('cell').first().innerText()),
  );
  await page.getByRole('button', { name: 'I have keyed them' }).click();
  for (const [i, value] of make.entries())
    await page.getByLabel(`${page_[i]}, row 32`, { exact: true }).fill(value);
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByText('Row 32 is on record as it should be.')).toBeVisible();
});

test('a spreadsheet comes in as its table does, with the sheet that was read', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/tools/import');
  await ready(page);
  const rows = [
    ['number', 'name', 'kind', 'interface', 'diameter', 'stick_out', 'gauge_length', 'holder_diameter'],
    ['A-801', 'Drill 5.1 from a sheet', 'drill', 'steep 40', 5.1, 50, 0.1 + 0.2 + 120, 32],
  ];
  const buffer = await writeSheet(
    rows.map((row) => row.map((value) => ({ value }) as never)),
    { sheet: 'New drills' },
  ).toBuffer();
  const bring = (name: string, content: Buffer) =>
    page
      .locator('input[type=file]')
      .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: content });
  await bring('old.xls', Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 1, 2, 3, 4]));
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect(page.getByRole('alert')).toContainText('old kind (.xls)');
  await bring('drills.xlsx', buffer);
  await page.getByRole('button', { name: 'Look at it' }).click();
  await page.waitForURL(/draft=/);
  await expect(page.getByText('drills.xlsx, sheet "New drills"')).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'A-801' })).toContainText('120.300');
  // and a list of tools is not taken unseen on the page of programs
  await page.goto('/programs');
  await ready(page);
  await bring('tools.csv', Buffer.from(rows.map((row) => row.join(',')).join('\n')));
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByRole('alert')).toContainText('bring it in under Tools');
});
