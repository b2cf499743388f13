import type { ChildProcess } from 'node:child_process';
import { freshDatabase } from '../support/databases.ts';
import { standIn, startServer, type RunningServer } from '../support/server.ts';
import { test as base, expect, ready } from './cell.ts';

/** A cell whose machines have the stand-in control behind them, as `npm start` runs it. */
interface Control {
  child: ChildProcess;
  url: string;
  cycle(machine: string): Promise<void>;
}

const test = base.extend<{ server: RunningServer }, { control: Control; served: RunningServer }>({
  control: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures' names from here
    async ({}, use) => {
      const jobs = {
        avocet: { made: 51, cycle: 3_600_000, parts: 1 },
        curlew: { made: 150, cycle: 3_600_000, parts: 2 },
        egret: { made: 28, cycle: 3_600_000, parts: 2 },
      };
      const { child, port } = await standIn('control', {
        SIM_JOBS: JSON.stringify(jobs),
        SIM_CUTTERS: JSON.stringify({
          avocet: [
            { tool: 5, number: 'A-105', length: 138.114, basis: 'holes', left: 640, limit: 900, use: 8 },
            { tool: 6, number: 'A-106', length: 130.046, basis: 'holes', left: 300, limit: 600, use: 8 },
          ],
          egret: [
            { tool: 4, number: 'E-504', length: 185, basis: 'holes', left: 84, limit: 84, use: 6 },
            { tool: 24, number: 'E-524', length: 186, basis: 'holes', left: 160, limit: 160, use: 0 },
          ],
        }),
        SIM_STATE: undefined,
      });
      const url = `http://127.0.0.1:${port}`;
      await use({
        child,
        url,
        cycle: async (machine) => void (await fetch(`${url}/${machine}/part`, { method: 'POST' })),
      });
      child.kill();
    },
    { scope: 'worker' },
  ],
  served: [
    async ({ control }, use) => {
      const database = await freshDatabase('tin_demo');
      const server = await startServer(database.appUrl, { TIN_STAND_IN: control.url });
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  server: ({ served }, use) => use(served),
});

test('the control’s count is recorded by one tap, and again only when it has gone on', async ({
  as,
  control,
}) => {
  const page = await as('operator');
  await page.goto('/machines/1/now');
  await ready(page);
  const before = 51; // what the made-up cell's story has recorded
  await expect(page.getByText(`The control has counted 53, the record ${before}.`)).toBeVisible();
  await page.getByRole('button', { name: `Record ${53 - before} part` }).click();
  await expect(page.getByText(/The control has counted/)).toBeHidden();
  await expect(page.getByText('53 of 90')).toBeVisible();
  // somebody presses cycle start: the next look at the page knows of it
  await control.cycle('avocet');
  await page.reload();
  await ready(page);
  await page.getByRole('button', { name: 'Record 1 part' }).click();
  await expect(page.getByText('54 of 90')).toBeVisible();
  await page.goto('/ledger');
  await expect(page.getByText(/from the control/).first()).toBeVisible();
});

test('what the control measured of a tool is taken by one tap; one that broke there is broken here', async ({
  as,
  control,
}) => {
  const page = await as('operator');
  await page.goto('/machines/1/checks?tool=5');
  await ready(page);
  const row = page.getByRole('listitem').filter({ hasText: 'A-105' });
  await expect(row).toContainText('The control measured 138.11');
  await row.getByRole('button', { name: 'Take that' }).click();
  await expect(row.getByRole('status')).toContainText('worn as expected');
  const answer = await fetch(`${control.url}/avocet/length?tool=5&by=-4.5`, { method: 'POST' });
  expect(answer.ok).toBe(true);
  await page.reload();
  await ready(page);
  await row.getByRole('button', { name: 'Take that' }).click();
  await expect(row.getByRole('status')).toContainText('broken, 4.5');
  await expect(row.getByRole('link', { name: 'In quarantine' })).toBeVisible();
});

test('the life counters of the control stand beside the record, each difference with its reason, and are taken over by one tap', async ({
  as,
  control,
}) => {
  const page = await as('setter');
  await page.goto('/machines/1/counters');
  await ready(page);
  const row = page.getByRole('listitem').filter({ hasText: 'A-106' });
  await expect(row).toContainText(/left by the record \d+ holes/);
  await expect(row).toContainText(/the control shows \d+ holes/);
  await row.getByText('Type what the control shows').click();
  const form = row.getByRole('form', { name: 'What the control shows of T6' });
  await form.getByLabel('The control shows for T6').fill('six');
  await form.getByRole('button', { name: 'Compare' }).click();
  await expect(form.getByRole('alert')).toHaveText('Type the number that the control shows.');
  await form.getByLabel('The control shows for T6').fill('600');
  await form.getByRole('button', { name: 'Compare' }).click();
  await expect(row.getByRole('status')).toHaveText(
    'The control was set to a full life, and no renewal is on record.',
  );
  // parts that the control has counted are recorded first, or they would be counted twice
  await control.cycle('avocet');
  await form.getByRole('button', { name: 'Take it over' }).click();
  await expect(form.getByRole('alert')).toContainText('Record them first');
  await page.goto('/machines/1/now');
  await ready(page);
  await page.getByRole('button', { name: /^Record \d+ part/ }).click();
  await expect(page.getByText(/The control has counted/)).toBeHidden();
  await page.goto('/machines/1/counters');
  await ready(page);
  await row.getByText('Type what the control shows').click();
  await form.getByLabel('The control shows for T6').fill('600');
  await form.getByRole('button', { name: 'Take it over' }).click();
  await expect(row.getByRole('status')).toContainText('Taken over.');
  await expect(row).toContainText('600 holes');
});

test('a group is asked afterwards whether the control did as foretold', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines/5/groups');
  await ready(page);
  // the control was set to a full life, which nobody wrote down
  await expect(page.getByRole('region', { name: 'Group 4' }).getByRole('status')).toContainText(
    /The control did otherwise: T4 should have lost \d+ holes and lost −\d+ holes/,
  );
});

test('two tablets record the same count: the parts are counted once', async ({
  as,
  browser,
  server,
  control,
}) => {
  const one = await as('operator');
  const context = await browser.newContext({ baseURL: server.url });
  const two = await as('lead', await context.newPage());
  await control.cycle('curlew');
  for (const page of [one, two]) {
    await page.goto('/machines/3/now');
    await ready(page);
  }
  const record = { name: /^Record \d+ parts/ };
  const made = async () => Number(/(\d+)\s*of 240/.exec(await one.locator('main').innerText())![1]);
  const before = await made();
  const more = Number(/\d+/.exec(await one.getByRole('button', record).innerText())![0]);
  // both press before either has seen the other's answer
  const buttons = await Promise.all(
    [one, two].map((each) => each.getByRole('button', record).elementHandle()),
  );
  await Promise.all(buttons.map((button) => button!.evaluate((each) => (each as HTMLElement).click())));
  await expect.poll(made).toBe(before + more);
  await one.reload();
  expect(await made()).toBe(before + more);
  await context.close();
});

test('what a machine does stands on every page of it within a second, and its agent gives its table', async ({
  as,
  control,
}) => {
  const page = await as('setter');
  const at = (what: string) => fetch(`${control.url}/egret/${what}`, { method: 'POST' });
  await page.goto('/machines');
  await ready(page);
  const egret = page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: 'Egret' }) });
  await expect(egret.locator('[data-doing=cutting]')).toContainText('Runs');
  await at('put?execution=FEED_HOLD');
  // nothing was loaded anew: the page heard it
  await expect(egret.locator('[data-doing=waiting]')).toContainText('Held', { timeout: 3000 });
  await page.goto('/leaf');
  await ready(page);
  const states = page.getByRole('list', { name: 'What the machines do' });
  await expect(states.getByRole('listitem').filter({ hasText: 'Egret' })).toContainText(
    'waits for somebody at the machine',
  );
  await at('put?alarm=way%20lube%20low');
  await expect(states.getByRole('listitem').filter({ hasText: 'Egret' })).toContainText(
    'Stopped: way lube low',
  );
  await at('put');
  await page.goto('/machines/5/control');
  await ready(page);
  await page.getByRole('button', { name: 'Ask its agent for the table' }).click();
  await expect(page.getByRole('alert')).toContainText('Nothing was taken. The agent gives no offset table.');
});

test('a control that is switched off is a sentence; parts can still be typed', async ({ as, control }) => {
  const page = await as('operator');
  control.child.kill('SIGKILL');
  await page.goto('/machines/1/now');
  await ready(page);
  await expect(page.getByText('The control does not answer.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Record', exact: true })).toBeEnabled();
});

test('a table in columns is told once on a sample and read by its name from then on', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines/5/control');
  await ready(page);
  await page.getByRole('link', { name: /tell its layout on a sample/ }).click();
  await ready(page);
  const form = page.getByRole('form', { name: 'Layout of a table' });
  await form
    .getByLabel('or pasted')
    .fill('OFFSETS\n No.  Geom. length   Rem\n  1   123.4560      mill\n  2   -98.7000      drill\n');
  await expect(form.getByLabel('Parted by')).toHaveValue('columns');
  await expect(form.getByLabel('Column 2 holds')).toHaveValue('lengthGeometry');
  await form.getByLabel('Column 2 holds').selectOption('row');
  await expect(form.getByText('One column must hold the row.')).toBeVisible();
  await form.getByLabel('Column 2 holds').selectOption('length geometry');
  await form.getByLabel('Column 2 is written').selectOption('with its sign turned');
  await expect(form.getByText('2 rows, 2 registers read so.')).toBeVisible();
  await form.getByLabel('Name of this layout').fill('memory card');
  await form.getByRole('button', { name: 'Keep this layout' }).click();
  await expect(form.getByRole('status')).toContainText('the sample has 2 rows that read so');
  await page.getByRole('link', { name: 'Bring a table in' }).click();
  await ready(page);
  const bring = page.getByRole('form', { name: 'Bring its table in' });
  await bring.getByLabel('or pasted').fill('OFFSETS\n No.  Geom. length   Rem\n  1   nothing       mill\n');
  await bring.getByLabel(/or its layout/).selectOption('laid out as memory card');
  await bring.getByLabel('Only a part was read').check();
  await bring.getByRole('button', { name: 'Lay it beside the record' }).click();
  await expect(bring.getByRole('alert')).toContainText('Line 3: "nothing" is no number.');
  await bring.getByLabel('or pasted').fill('OFFSETS\n No.  Geom. length   Rem\n  1   123.4560      mill\n');
  await bring.getByRole('button', { name: 'Lay it beside the record' }).click();
  await expect(page.getByText(/registers? differs?, in mm/)).toBeVisible();
  await expect(page.getByText('−123.456').first()).toBeVisible();
});
