import { freshDatabase } from '../support/databases.ts';
import { standIn, startServer, type RunningServer } from '../support/server.ts';
import { test as base, expect, ready } from './cell.ts';

/** The cell with a presetter beside it that knows three of its tools. */
const test = base.extend<{ server: RunningServer }, { presetter: string; served: RunningServer }>({
  presetter: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures' names from here
    async ({}, use) => {
      const tools = [
        { number: 'W-1', length: 116.42, diameter: 5.994, radius: 0 },
        { number: 'A-141', length: 117.9655, diameter: 9.9962, radius: 0.2 },
      ];
      const { child, port } = await standIn('presetter', { SIM_TOOLS: JSON.stringify(tools) });
      await use(`127.0.0.1:${port}`);
      child.kill();
    },
    { scope: 'worker' },
  ],
  served: [
    async ({ presetter }, use) => {
      const database = await freshDatabase('tin_demo');
      const server = await startServer(database.appUrl, { TIN_PRESETTER: presetter });
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  server: ({ served }, use) => use(served),
});

test('a tool is built from what fits, measured on the presetter, and found by its code', async ({ as }) => {
  const page = await as('crib');
  await page.goto('/crib');
  await ready(page);
  await page.getByLabel('Find a component').fill('end mill 6');
  await page.getByRole('button', { name: 'EM-6S' }).click();
  await page.getByRole('link', { name: 'Build an assembly with it' }).click();
  await ready(page);
  await page.getByLabel('For which machine').selectOption({ label: 'Avocet, 40-taper' });
  // what may not be is there, with its reason
  const holders = page.getByRole('list', { name: 'Holders' });
  await expect(holders.getByRole('button', { name: /H40-DC13/ })).toContainText(
    'A drill chuck is for drills only',
  );
  await holders.getByRole('button', { name: /H40-CC20/ }).click();
  // the collet that grips best is chosen already
  await expect(
    page.getByRole('list', { name: 'Collets' }).getByRole('button', { name: /C20-6/ }),
  ).toHaveAttribute('aria-pressed', 'true');
  await page
    .getByRole('list', { name: 'Knobs' })
    .getByRole('button', { name: /KN-45C/ })
    .click();
  await page.getByLabel('Stick-out, mm').fill('10');
  await expect(page.getByText(/flutes are 13.000 mm long/)).toBeVisible();
  await page.getByLabel('Stick-out, mm').fill('16');
  await expect(page.getByText('116.000 mm').first()).toBeVisible();
  await expect(page.getByText(/Avocet\s+fits$/)).toBeVisible();
  await expect(page.getByText(/Bittern needs K-60/)).toBeVisible();
  await page.getByLabel('Number', { exact: true }).fill('W-1');
  await page.getByRole('button', { name: 'Build it' }).click();
  await expect(page.getByRole('heading', { name: 'Build card W-1' })).toBeVisible();
  await expect(page.getByText('Click Collet C20, 6 mm into the nut')).toBeVisible();
  await expect(page.getByRole('img', { name: 'Code of W-1' })).toBeVisible();

  await page.goto('/presetter');
  await ready(page);
  await page.getByRole('link', { name: /W-1/ }).click();
  await page.getByRole('button', { name: 'Measure now' }).click();
  await expect(page.getByLabel('Gauge length, mm')).toHaveValue(/^116\.4/);
  await page.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByRole('status')).toHaveText('Recorded.');
  await expect(page.getByText(/1\s+measurement,\s+mean\s+116\.4/)).toBeVisible();
  // a typed slip is named, and not kept
  await page.getByLabel('Gauge length, mm').fill('11.642');
  await page.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByRole('alert')).toContainText('decimal point moved');
  await page.reload();
  await expect(page.getByText(/1\s+measurement,\s+mean\s+116\.4/)).toBeVisible();
  // scanned anywhere, it opens
  await ready(page);
  await page.keyboard.press('/');
  await page.getByRole('dialog').getByRole('combobox').pressSequentially('W-1\n');
  await expect(page.getByRole('heading', { name: 'W-1' })).toBeVisible();
});

test('the presetter has another tool, or none: each is a sentence', async ({ as }) => {
  const page = await as('crib');
  await page.goto('/presetter?number=A-143');
  await ready(page);
  await page.getByRole('button', { name: 'Measure now' }).click();
  await expect(page.getByRole('alert')).toContainText('no tool A-143 in the fixture');
});

test('stock is issued at the shelf, and what falls below its minimum stands on the leaf', async ({ as }) => {
  const page = await as('crib');
  await page.goto('/crib?words=RM-12H7');
  await ready(page);
  await page.getByRole('button', { name: 'RM-12H7' }).click();
  await page.getByRole('button', { name: 'Issue' }).click();
  await expect(page.getByText(/RM-12H7: 1 issued/)).toBeVisible();
  await page.goto('/leaf');
  await expect(page.getByText(/below minimum/)).toContainText('RM-12H7');
  await page.getByText(/below minimum/).click();
  await expect(page.getByRole('button', { name: 'RM-12H7' })).toBeVisible();
});

test('lengths are carried to another machine: keyed, read back, a slip named', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines/1/numbers?to=2');
  await ready(page);
  await expect(page.getByText('T1 on Bittern is B-301: its row stays')).toBeVisible();
  const second = page.getByLabel('What row 2 of Bittern shows');
  await second.fill('15.7162');
  await page.getByRole('button', { name: /record what I read back/ }).click();
  await expect(page.getByRole('alert')).toContainText('sign reversed');
  await second.fill('-15.7162');
  await page.getByRole('button', { name: /record what I read back/ }).click();
  await expect(page.getByRole('status')).toContainText('row 2');
  await expect(page.getByRole('row', { name: /^2 A-102/ }).last()).toContainText('agrees');
});

test('a new plane constant is looked at row by row before anything moves, whoever counts parts meanwhile', async ({
  as,
  browser,
  server,
}) => {
  const page = await as('lead');
  await page.goto('/machines/2/numbers');
  await ready(page);
  await page.getByLabel(/New plane constant/).fill('-20.4');
  const other = await as('operator', await (await browser.newContext({ baseURL: server.url })).newPage());
  await other.goto('/machines/2/now');
  await ready(other);
  const parts = other.getByRole('form', { name: 'Record parts' });
  await parts.getByRole('textbox', { name: 'Parts made' }).fill('1');
  const anew = page.waitForResponse(/numbers\/__data\.json/);
  await parts.getByRole('button', { name: 'Record', exact: true }).click();
  await anew;
  await page.waitForTimeout(300);
  await expect(page.getByLabel(/New plane constant/)).toHaveValue('-20.4');
  await page.getByRole('button', { name: 'Show what changes' }).click();
  await expect(page.getByRole('row', { name: /^1 T1/ }).first()).toContainText('+0.1000');
  await ready(page);
  await page.getByLabel('Why it changed').fill('New setter face.');
  await page.getByRole('button', { name: /^Re-base/ }).click();
  await expect(page.getByText(/tick that you did/)).toBeVisible();
  await page.getByLabel(/keyed and read back/).check();
  await page.getByRole('button', { name: /^Re-base/ }).click();
  await expect(page.getByText('K on Bittern: −20.4000 in')).toBeVisible();
});

test('a file of tools is looked at, taken with its progress, found in the long list, and comes out again', async ({
  as,
  page,
}) => {
  await as('crib');
  await page.goto('/tools/import');
  await ready(page);
  const rows = Array.from(
    { length: 3000 },
    (_, i) => `Z-${String(i).padStart(4, '0')},Long list ${i},endMill,steep 40,10,36,118.5,50`,
  );
  const file = (text: string) => ({ name: 'many.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  const heading = 'number,name,kind,interface,diameter,stick_out,gauge_length,holder_diameter';
  await page
    .locator('input[type=file]')
    .setInputFiles(file(`${heading}\nZ-1,Bad,hammer,steep 40,10,36,118.5,50\n`));
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect(page.getByRole('alert')).toContainText('Line 2, kind: "hammer"');
  await page.locator('input[type=file]').setInputFiles(file(`${heading}\n${rows.join('\n')}\n`));
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect(page.getByText('3000 would be added')).toBeVisible();
  await page.getByRole('button', { name: 'Save all of it' }).click();
  await expect(page.getByRole('status')).toHaveText('3000 added, 0 changed, 0 were already the same.', {
    timeout: 60_000,
  });
  await page.getByRole('link', { name: 'Look at them' }).click();
  await ready(page);
  await page.getByLabel('Find a tool').fill('long list');
  await expect(page.getByText('3000 assemblies')).toBeVisible();
  // only what is seen is drawn, and the end is there when it is scrolled to
  expect(await page.locator('tbody tr').count()).toBeLessThan(120);
  await page
    .getByRole('region', { name: 'Tool assemblies' })
    .evaluate((element) => element.scrollTo({ top: element.scrollHeight }));
  await expect(page.getByRole('link', { name: 'Z-2999' })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.goto('/tools/import').then(() => page.getByRole('link', { name: 'Assemblies, XML' }).click()),
  ]);
  expect(download.suggestedFilename()).toBe('assemblies.xml');
});

test('what a program asks for stands beside what can serve, and a definition can be written down', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/programs');
  await page.getByRole('link', { name: 'O2301' }).click();
  await page.getByRole('link', { name: 'What it asks for, and what will do' }).click();
  await ready(page);
  const three = page.getByRole('listitem').filter({ hasText: 'END MILL 10 FINISH' });
  await expect(three).toContainText('A-103');
  await expect(three).toContainText('is there');
  await three.getByRole('button', { name: 'Change' }).click();
  await three.getByLabel('Reach at least, mm').fill('60');
  await three.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByText('Nothing will do for T3')).toBeVisible();
  await expect(page.getByText(/it stands out 38.000 mm, 60.000 mm is needed/).first()).toBeVisible();
});
