import { readFileSync } from 'node:fs';
import { atLeaf, expect, noMoreMade, ready, test } from './cell.ts';

// readings are held against those before: no other file's may stand there
test.use({ own: 'round' });

// One tool's round as the shop goes through it, on the real screens; the steps build on each other.
test.describe.configure({ mode: 'serial' });

test('a program is dropped in, read, and its tools stand with lines, rows and time', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/programs');
  await ready(page);
  const text = readFileSync('demo/programs/O2301-bearing-carrier-op1.nc', 'utf8')
    .replace('O2301 (BEARING CARRIER OP1)', 'O2399 (TRIAL CARRIER)')
    .replace('T3 M6', 'T44 M6');
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'O2399.nc', mimeType: 'text/plain', buffer: Buffer.from(text) });
  await page.getByLabel('For an NC program: the machine').selectOption({ label: 'Avocet' });
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'O2399' })).toContainText('10 tools');
  await page.getByRole('link', { name: 'Open it' }).click();
  await expect(page.getByRole('heading', { name: 'O2399' })).toBeVisible();
  await expect(page.getByText('T44 (END MILL 10 FINISH) is called on line')).toBeVisible();
  await expect(page.getByText(/T44 is called on line \d+, but line \d+ applies length row H3/)).toBeVisible();
  await page
    .getByRole('button', { name: /^Line / })
    .first()
    .click();
  await expect(page.locator('.nc-here').filter({ hasText: /N\d+/ })).toBeVisible();
});

test('a file that is not NC text says so, with its line', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/programs');
  await ready(page);
  await page.locator('input[type=file]').setInputFiles({
    name: 'minutes.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('Minutes, of the meeting:\n- coffee & cake?\n- "who" <pays>\n'),
  });
  await page.getByLabel('For an NC program: the machine').selectOption({ label: 'Avocet' });
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByRole('alert')).toContainText('This is not NC text');
});

test('a sister is placed, not yet measured, measured, and taken out again', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines');
  await page.getByRole('link', { name: 'Avocet', exact: true }).click();
  await ready(page);
  await page.getByRole('button', { name: 'pocket 1: empty' }).click();
  await page.getByLabel('Assembly').selectOption({ label: 'A-141 End mill 10 finish (sister)' });
  await page.getByLabel('T number').fill('3');
  await page.getByRole('button', { name: 'It is in: record it' }).click();
  await expect(page.getByRole('alert')).toContainText('T3 already exists');
  await page.getByLabel('T number').fill('44');
  await page.getByRole('button', { name: 'It is in: record it' }).click();
  await expect(page.getByRole('heading', { name: /T44/ })).toBeVisible();
  await expect(page.getByText('Not measured since it was loaded', { exact: true })).toBeVisible();
  await page.getByLabel(/Gauge length/).fill('117.9');
  await page.getByRole('button', { name: 'Write into row 44' }).click();
  await expect(page.getByText('Measured since it was loaded', { exact: true })).toBeVisible();
  await expect(page.getByText('length geometry, row 44:')).toContainText('117.900 mm');
});

test('a reading is answered, approved, keyed wrongly, stopped, keyed rightly, and the next reading is held against it', async ({
  as,
  browser,
  server,
}) => {
  const page = await as('operator');
  await page.goto('/machines');
  await page.getByRole('navigation', { name: 'Curlew' }).getByRole('link', { name: 'Now' }).click();
  await ready(page);
  await page.getByRole('button', { name: /^Bore/ }).first().click();
  await page.getByLabel(/^Reading, in/).fill('0.5907-0.0017');
  await page.getByRole('button', { name: 'What do I do?' }).click();
  const answer = page.getByRole('status', { name: 'Answer' });
  await expect(answer).toContainText('This part is outside its limits: hold it.');
  await expect(answer).toContainText('X wear, row 5: +0.0017');
  await answer.getByRole('link', { name: 'To the correction' }).click();
  // 0.0017 is over the operator's limit of 0.0008: it waits for the lead
  await expect(page.getByText('It waits for the cell lead.')).toBeVisible();
  await expect(page.getByRole('button', { name: /Approve/ })).toHaveCount(0);

  const desk = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await as('lead', desk);
  await desk.goto(page.url());
  await ready(desk);
  await desk.keyboard.press('Alt+a');
  await expect(desk.getByRole('heading', { name: 'Key on Curlew' })).toBeVisible();

  // the operator's page hears of it by itself
  await expect(page.getByRole('heading', { name: 'Key on Curlew' })).toBeVisible();
  await page.getByText('Or run these lines').click();
  await expect(page.locator('pre')).toHaveText(/^G20\nIF .*#\[\d+\+5\] NE .*\nG10 P5 X.*\nN99 M30$/);
  const make = await page.locator('dd.text-6xl').innerText();
  await page.getByRole('button', { name: 'I have keyed it' }).click();
  // the number is put away while what the screen shows is typed
  await expect(page.locator('dd.text-6xl')).toHaveCount(0);
  const shown = page.getByLabel(/Now read row 5 off the control/);
  // it moves far: what the row shows is typed twice, and the two must agree
  const again = page.getByLabel(/type it once more/);
  const turned = make.startsWith('−') ? make.slice(1) : `-${make.slice(1)}`;
  await shown.fill(turned);
  await again.fill(make);
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByRole('alert')).toContainText('typed twice, with two numbers');
  await again.fill(turned);
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByRole('alert')).toContainText('has its sign reversed');
  await expect(page.getByRole('heading', { name: 'Key on Curlew' })).toBeVisible();
  await shown.fill(make);
  await again.fill(make);
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByRole('heading', { name: /The control shows/ })).toBeVisible();
  await page.getByRole('link', { name: 'Type the next reading' }).click();
  await ready(page);
  await expect(page.getByRole('heading', { name: 'Bore' })).toBeVisible();
  await page.getByLabel(/^Reading, in/).fill('15.004mm');
  await page.getByRole('button', { name: 'What do I do?' }).click();
  await expect(page.getByRole('status', { name: 'Answer' })).toContainText('Last correction:');
  expect(server.child.exitCode).toBeNull();
});

test('parts are recorded, a tool expires, and is renewed by two people', async ({ as }) => {
  const page = await as('operator');
  await page.goto('/machines');
  await page.getByRole('navigation', { name: 'Curlew' }).getByRole('link', { name: 'Now' }).click();
  await ready(page);
  await page.getByLabel('Parts made', { exact: true }).last().fill('9');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('T2 (L-202) has now run out');
  await page.getByText('L-202', { exact: true }).click();
  await page.getByRole('link', { name: 'Open L-202' }).click();
  await expect(page.getByText('Expired.', { exact: true })).toBeVisible();
  await expect(page.getByText('key 157 on Curlew, which expires below zero')).toBeVisible();

  await as('setter');
  await page.goto('/tools?words=L-202');
  await page.getByRole('link', { name: 'L-202' }).click();
  await ready(page);
  await page.getByRole('button', { name: 'Begin' }).click();
  await noMoreMade(page.getByRole('form', { name: 'Change the edge or the tool' }));
  await page.getByLabel('What was changed').fill('fresh edge 2 of 2');
  await page.getByRole('button', { name: /^Done: change/ }).click();
  await page.getByRole('button', { name: /^Done: set the life/ }).click();
  await page.getByRole('button', { name: /^Done: clear/ }).click();

  const where = page.url();
  await as('crib');
  await page.goto(where);
  await ready(page);
  await page.getByLabel('X geometry, row 2, in').fill('-8.4752');
  await page.getByLabel('Z geometry, row 2, in').fill('-19.8221');
  // the second part on the bar is cut by the same edge
  await page.getByLabel('X geometry, row 22, in').fill('-8.4752');
  await page.getByLabel('Z geometry, row 22, in').fill('-23.4721');
  await page.getByRole('button', { name: /^Done: measure/ }).click();
  await expect(page.getByText('Key zero into these')).toBeVisible();
  for (const field of await page.getByLabel(/wear of row \d+ shows/).all()) await field.fill('0');
  await page.getByRole('button', { name: /^Done: zero/ }).click();
  await expect(page.getByRole('button', { name: 'Begin' })).toBeVisible();
  await expect(page.getByText('158 pcs').first()).toBeVisible();
});

test('the leaf tells it, asks, and is handed over with two signatures of two people', async ({ as }) => {
  const page = await as('lead');
  await atLeaf(page);
  await expect(page.getByRole('heading', { name: /shift$/ })).toBeVisible();
  await expect(page.getByText('L-202 is renewed.').first()).toBeVisible();
  await page.getByText('Write on the leaf').click();
  await page.getByLabel('What to write').fill('Why was row 22 not zero?');
  await page.getByRole('button', { name: 'Ask' }).click();
  const question = page
    .getByRole('region', { name: 'Not understood' })
    .getByRole('listitem')
    .filter({ hasText: 'Why was row 22 not zero?' });
  await question.getByText('Answer').first().click();
  await question.getByLabel('Answer').fill('The second part was re-set on Sunday.');
  await question.getByRole('button', { name: 'Answer' }).click();
  await expect(question).toHaveCount(0);

  await page.getByLabel('Handed over by: PIN').fill('2580');
  await page.getByRole('form', { name: 'Handed over by' }).getByRole('button', { name: 'Sign' }).click();
  await expect(page.getByRole('heading', { name: 'Handed over by' }).locator('..')).toContainText(
    'Maren Holt',
  );
  const taking = page.getByRole('form', { name: 'Taken over by' });
  await taking.getByLabel(/badge/).fill('1001');
  await taking.getByLabel(/PIN/).fill('2580');
  await taking.getByRole('button', { name: 'Sign' }).click();
  await expect(page.getByRole('alert')).toContainText('two people');
  await taking.getByLabel(/badge/).fill('1007');
  await taking.getByLabel(/PIN/).fill('1590');
  await taking.getByRole('button', { name: 'Sign' }).click();
  await expect(page.getByRole('heading', { name: 'Taken over by' }).locator('..')).toContainText(
    'Tomas Weller',
  );
});

test('leaves are paged back and forward, and the ledger comes out as CSV', async ({ as }) => {
  const page = await as('lead');
  await atLeaf(page);
  const here = page.url();
  await page.keyboard.press('ArrowLeft');
  await expect(page).not.toHaveURL(here);
  await expect(page.getByText('as it was')).toBeVisible();
  await page.getByRole('link', { name: 'Now' }).click();
  await expect(page).toHaveURL(here);
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('as it is foreseen')).toBeVisible();

  await page.goto('/ledger');
  await expect(page.getByText('Every register and counter is the sum of its entries.')).toBeVisible();
  await page.getByLabel('Kind').selectOption('register');
  await page.getByRole('button', { name: 'Show' }).click();
  await expect(page).toHaveURL(/kind=register/);
  await expect(page.getByRole('link', { name: 'Export as CSV' })).toHaveAttribute('href', /kind=register/);
  await expect(page.getByRole('row').filter({ hasText: 'X wear, row 2.' }).first()).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export as CSV' }).click(),
  ]);
  const csv = readFileSync(await download.path(), 'utf8').split('\r\n');
  expect(csv[0]).toMatch(/^id,at,kind/);
  expect(
    csv
      .slice(1)
      .filter(Boolean)
      .every((line) => line.split(',')[2] === 'register'),
  ).toBe(true);
});

test('what waits to be keyed on a machine is keyed in one go, and read back from a pasted table', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/1/key');
  await ready(page);
  const rows = page.getByRole('table').getByRole('row');
  await expect(rows).not.toHaveCount(1);
  const first = rows.nth(1);
  const row = await first.getByRole('rowheader').innerText();
  const make = await first.getByRole('cell').nth(2).innerText();
  await page.getByText('Or run these lines').click();
  await expect(page.locator('pre')).toContainText(`P${row} R${make.replace('+', '').replace('−', '-')}`);
  await page.getByRole('button', { name: 'I have keyed them' }).click();
  await expect(page.getByRole('table')).toHaveCount(0);
  await page.getByText('Paste the control’s table instead').click();
  await page.getByLabel('Table of the control').fill(`row  wear\n${row}\t${make}\n99 0.500\nno 1 2 3`);
  await page.getByRole('button', { name: 'Fill in the rows' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'rows found' })).toContainText('Line 4');
  const again = page.getByLabel('It moves far: once more');
  if (await again.count()) await again.first().fill(make);
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByText('Nothing to key')).toBeVisible();
});
