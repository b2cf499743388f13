import { expect, ready, test } from './cell.ts';

test.use({ own: 'crib' });

test('a table of other headings is read once its columns are said, with decimal commas; then without asking', async ({
  as,
}) => {
  const page = await as('crib');
  const bring = async (number: string) => {
    await page.goto('/tools/import');
    await ready(page);
    await page.locator('input[type=file]').setInputFiles({
      name: 'shop.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        `Tool No.;Description;Type;Taper;Dia (mm);Projection;Tool length;Holder Ø;Remark\n${number};Drill 6,8 long;drill;40-taper;6,8;40,5;120,25;32;for brass\n`,
      ),
    });
    await page.getByRole('button', { name: 'Look at it' }).click();
  };
  await bring('T-71');
  const form = page.getByRole('form', { name: 'What the columns are' });
  await expect(form.getByLabel('What Dia (mm) is')).toHaveValue('diameter');
  await expect(form.getByLabel('What Remark is')).toHaveValue('');
  await expect(form.getByRole('radio', { name: '1,5' })).toBeChecked();
  await form.getByLabel('What Projection is').selectOption('');
  await expect(form.getByRole('status')).toContainText('stick-out');
  await form.getByRole('button', { name: 'Read it like this' }).click();
  await expect(form.getByRole('alert')).toContainText('stick-out');
  await form.getByLabel('What Projection is').selectOption('stick_out');
  await form.getByRole('button', { name: 'Read it like this' }).click();
  await expect(page.getByRole('row', { name: /T-71/ })).toContainText('added');
  await page.getByRole('button', { name: 'Save all of it' }).click();
  await expect(page.getByRole('status')).toContainText('1 added');
  await bring('T-72');
  await expect(page.getByRole('row', { name: /T-72/ })).toContainText('added');
  await page.goto('/tools/import');
  await expect(page.getByRole('listitem').filter({ hasText: 'shop.csv' })).toContainText('1 added');
});

test('a tool is put on record by hand and described anew; a number that is taken is refused and nothing is lost', async ({
  as,
}) => {
  const page = await as('crib');
  await page.goto('/tools');
  await ready(page);
  await page.getByRole('link', { name: 'Put one on record' }).click();
  const form = page.getByRole('form', { name: 'The tool' });
  await expect(form.getByLabel('Number', { exact: true })).not.toHaveValue('');
  await form.getByLabel('Number', { exact: true }).fill('A-101');
  await form.getByLabel('Name', { exact: true }).fill('Drill 9 by hand');
  await form.getByLabel('Kind').selectOption('drill');
  await form.getByLabel('Taper or shank').selectOption({ label: '40-taper' });
  for (const [field, value] of [
    ['Diameter', '9'],
    ['Stick-out', '60'],
    ['Gauge length', '131.2'],
    ['Holder diameter', '40'],
  ] as const)
    await form.getByLabel(new RegExp(`^${field}`)).fill(value);
  await form.getByRole('button', { name: 'Put it on record' }).click();
  await expect(form.getByRole('alert')).toContainText('A-101 is already on record');
  await expect(form.getByLabel('Name', { exact: true })).toHaveValue('Drill 9 by hand');
  await form.getByLabel('Number', { exact: true }).fill('H-1');
  await form.getByRole('button', { name: 'Put it on record' }).click();
  await expect(page.getByRole('heading', { name: 'H-1' })).toBeVisible();
  await page.getByRole('link', { name: 'Change its description' }).click();
  await page.getByRole('form', { name: 'The tool' }).getByLabel('Teeth').fill('2');
  await page.getByRole('button', { name: 'Record the change' }).click();
  await expect(page.getByText('H-1 was changed.')).toBeVisible();
  await page.goto('/tools/labels');
  await ready(page);
  await page.getByRole('checkbox', { name: /H-1/ }).check();
  await page.getByRole('link', { name: 'Make the 1 ticked' }).click();
  await page.getByRole('button', { name: 'It is printed' }).click();
  await expect(page.getByRole('status')).toContainText('On record');
  await page.goto('/tools/labels');
  await expect(page.getByRole('checkbox', { name: /H-1/ })).toHaveCount(0);
});

test('what is below its minimum is ordered once, and comes in two parts', async ({ as }) => {
  const page = await as('crib');
  await page.goto('/crib/order');
  await ready(page);
  const rows = page.getByRole('row').filter({ has: page.getByRole('checkbox') });
  for (const box of (await rows.getByRole('checkbox').all()).slice(1)) await box.uncheck();
  const number = await rows.first().getByRole('rowheader').innerText();
  const count = await rows.count();
  await page.getByLabel('From whom').fill('the usual');
  await page.getByRole('button', { name: 'Mark the ticked lines' }).click();
  await expect(rows).toHaveCount(count - 1);
  const order = page.getByRole('listitem').filter({ hasText: number });
  await expect(order).toContainText('the usual');
  await order.getByLabel('Pieces that came').fill('1');
  await order.getByRole('button', { name: 'came', exact: true }).click();
  await expect(order).toContainText(/2 of 3\s+still to come/);
  await order.getByRole('button', { name: 'came', exact: true }).click();
  await expect(order).toHaveCount(0);
});

test('what somebody else put on the shelf as bought meanwhile is asked about; the answer keeps what was meant', async ({
  as,
  browser,
  server,
}) => {
  const page = await as('crib');
  await page.goto('/crib/order');
  await ready(page);
  const rows = page.getByRole('row').filter({ has: page.getByRole('checkbox') });
  for (const box of (await rows.getByRole('checkbox').all()).slice(1)) await box.uncheck();
  const number = await rows.first().getByRole('rowheader').innerText();
  await page.getByRole('button', { name: 'Mark the ticked lines' }).click();
  const order = page.getByRole('listitem').filter({ hasText: number });
  await order.getByLabel('Pieces that came').fill('1');
  const other = await as('lead', await (await browser.newContext({ baseURL: server.url })).newPage());
  await other.goto('/crib/order');
  await ready(other);
  await other.getByRole('link', { name: number }).click();
  const move = other.getByRole('form', { name: 'Move stock' });
  await move.getByLabel('Pieces', { exact: true }).fill('1');
  await move.getByRole('button', { name: 'Bought' }).click();
  await expect(move.getByLabel('Pieces', { exact: true })).toHaveValue('1');
  await order.getByRole('button', { name: 'came, and no more will' }).click();
  await expect(order.getByRole('alert')).toContainText('bought');
  await order.getByRole('button', { name: 'Another delivery' }).click();
  // nothing is waited for any more
  await expect(order).toHaveCount(0);
});

test('cutters go to the grinder and come back smaller, as a line of their own', async ({ as }) => {
  const page = await as('crib');
  await page.goto('/crib?words=EM-10R02');
  await ready(page);
  await page.getByRole('button', { name: 'EM-10R02', exact: true }).click();
  const plate = page.getByRole('region', { name: 'EM-10R02' });
  await plate.getByText('Send to regrind').click();
  const send = plate.getByRole('form', { name: 'Send to regrind' });
  await send.getByLabel('pieces').fill('2');
  await send.getByLabel('to whom').fill('the grinder');
  await send.getByRole('button', { name: 'They leave the shelf' }).click();
  await expect(plate).toContainText('2 at the grinder');
  await plate.getByText('They came back').click();
  const back = plate.getByRole('form', { name: 'Back from regrinding' });
  await back.getByLabel('reground').fill('1');
  await back.getByLabel('new cutting diameter').fill('11');
  await back.getByLabel('new overall length').fill('71');
  await back.getByRole('button', { name: 'Book them in' }).click();
  await expect(back.getByRole('alert')).toContainText('never larger');
  await back.getByLabel('new cutting diameter').fill('9.7');
  await back.getByLabel('scrapped').fill('1');
  await back.getByRole('button', { name: 'Book them in' }).click();
  await expect(plate).not.toContainText('at the grinder');
  await page.goto('/crib?words=EM-10R02-R1');
  await expect(page.getByRole('button', { name: 'EM-10R02-R1' })).toBeVisible();
});

test('a double turning holder is built with an insert in each of its tools, and both are turned on', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/tools/builder');
  await ready(page);
  await page.getByLabel('Which cutter?').fill('turning tool 80');
  await page
    .getByRole('list', { name: 'Cutters' })
    .getByRole('button', { name: /^TT-80/ })
    .click();
  const from = (list: RegExp | string) => page.getByRole('list', { name: list });
  const holders = from('Holders');
  await expect(holders.getByRole('button', { name: /^H40-AR22/ })).toContainText(
    'use a turning holder or a turning holder, double',
  );
  await holders.getByRole('button', { name: /^T25-D/ }).click();
  // what the seats do not take is not offered
  await expect(from('Insert').getByRole('button')).toHaveCount(1);
  await from(/^Second tool/)
    .getByRole('button', { name: /^TG-3/ })
    .click();
  const build = page.getByRole('form', { name: 'Build it' });
  await from('Insert')
    .first()
    .getByRole('button', { name: /^IN-CNMG08/ })
    .click();
  await expect(from('Insert').first().getByRole('button', { pressed: true })).toHaveCount(1);
  await build.getByLabel('Number').fill('L-300');
  await build.getByRole('button', { name: 'Build it' }).click();
  await expect(build.getByRole('alert')).toContainText('The second tool: It has seats for inserts GR-3');
  await from('Insert of the second tool')
    .getByRole('button', { name: /^IN-GR3/ })
    .click();
  await expect(from('Insert of the second tool').getByRole('button', { pressed: true })).toHaveCount(1);
  await build.getByRole('button', { name: 'Build it' }).click();
  await page.waitForURL(/card$/);
  await expect(page.getByText(/Grooving insert 3\.2 \(GR-3 0\.2\) into Grooving tool/)).toBeVisible();
  await page.goto(page.url().replace(/\/card$/, ''));
  await ready(page);
  const pieces = page.getByRole('region', { name: 'Built from' });
  await expect(pieces.getByRole('link', { name: /IN-CNMG08/ })).toContainText('edge 1 of 4');
  await pieces.getByRole('button', { name: 'Index the inserts' }).click();
  await expect(pieces.getByRole('link', { name: /IN-CNMG08/ })).toContainText('edge 2 of 4');
  await expect(pieces.getByRole('link', { name: /IN-GR3/ })).toContainText('edge 2 of 2');
});

test('who goes on to a piece while words are still being looked for is not called back to the list', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/tools/builder');
  await ready(page);
  // the answer takes longer than the typing rests
  await page.route(/__data\.json.*cutter=/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 600));
    await route.continue();
  });
  await page.evaluate(() => {
    const field = document.querySelector<HTMLInputElement>('input[type=search]')!;
    field.value = 'tap';
    field.dispatchEvent(new Event('input', { bubbles: true }));
    document.querySelector<HTMLButtonElement>('ul[aria-label=Cutters] button')!.click();
  });
  await expect(page.getByRole('list', { name: 'Holders' })).toBeVisible();
  await expect(page).toHaveURL(/cutter=\d+/);
});

test('two pieces that are chosen faster than the answers come are both chosen, and nothing is built meanwhile', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/tools/builder?words=turning+tool+80');
  await ready(page);
  await page
    .getByRole('list', { name: 'Cutters' })
    .getByRole('button', { name: /^TT-80/ })
    .click();
  await page
    .getByRole('list', { name: 'Holders' })
    .getByRole('button', { name: /^T25-D/ })
    .click();
  const second = page.getByRole('list', { name: /^Second tool/ }).getByRole('button', { name: /^TG-3/ });
  await expect(second).toBeVisible();
  let answer = () => {};
  const held = new Promise<void>((resolve) => (answer = resolve));
  await page.route(/__data\.json/, async (route) => {
    await held;
    await route.continue();
  });
  await second.click();
  await page.getByRole('button', { name: /^IN-CNMG08/ }).click();
  const build = page.getByRole('button', { name: 'Build it' });
  await expect(build).toBeDisabled();
  answer();
  await expect(build).toBeEnabled();
  await expect(second).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('button', { name: /^IN-CNMG08/ })).toHaveAttribute('aria-pressed', 'true');
});
