import { freshDatabase } from '../support/databases.ts';
import { lineTo, type Line } from '../support/line.ts';
import { startServer, type RunningServer } from '../support/server.ts';
import { atLeaf, expect, ready, test as base } from './cell.ts';

const test = base.extend<{ server: RunningServer }, { line: Line; served: RunningServer }>({
  line: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures' names from here
    async ({}, use) => {
      const { hostname, port } = new URL(process.env.TIN_TEST_APP_URL!);
      const line = await lineTo(hostname, Number(port));
      await use(line);
      await line.cut();
    },
    { scope: 'worker' },
  ],
  served: [
    async ({ line }, use) => {
      const url = new URL((await freshDatabase('tin_demo')).appUrl);
      url.hostname = '127.0.0.1';
      url.port = String(line.port);
      const server = await startServer(url.href);
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  server: ({ served }, use) => use(served),
});

test('the database goes away: a page asked for says so, and turns into itself when it is back', async ({
  as,
  line,
}) => {
  const page = await as('lead');
  await line.cut();
  const answer = await page.goto('/corrections');
  expect(answer!.status()).toBe(503);
  await expect(page.getByRole('heading', { name: 'The database is away' })).toBeVisible();
  await line.mend();
  await expect(page.getByRole('heading', { name: 'Corrections' })).toBeVisible({ timeout: 20_000 });
});

test('the database goes away under an open page: what was typed stays, and is taken once it is back', async ({
  as,
  line,
}) => {
  const page = await as('operator');
  await atLeaf(page);
  const text = 'Coolant is low on Egret.';
  await page.getByText('Write on the leaf').click();
  const field = page.getByLabel('What to write');
  await field.fill(text);
  await line.cut();
  const press = () => page.getByRole('button', { name: 'Add note' }).click();
  await press();
  await expect(page.getByText('The database is away. Press again')).toBeVisible();
  await expect(field).toHaveValue(text);
  await line.mend();
  await expect
    .poll(
      async () => {
        if ((await field.inputValue()) === text) await press();
        return page.locator('main li').filter({ hasText: text }).count();
      },
      { timeout: 20_000, intervals: [1500] },
    )
    .toBeGreaterThan(0);
  await page.reload();
  await ready(page);
  expect(await page.locator('main').getByText(text, { exact: false }).count()).toBeGreaterThan(0);
});

test('the database goes away while the open page loads itself anew: what is being typed stays', async ({
  as,
  line,
  browser,
}) => {
  const page = await as('operator');
  await atLeaf(page);
  await page.getByText('Write on the leaf').click();
  const field = page.getByLabel('What to write');
  await field.fill('Half a sentence');
  let cut = () => {};
  const isCut = new Promise<void>((resolve) => (cut = resolve));
  let asked = () => {};
  const isAsked = new Promise<void>((resolve) => (asked = resolve));
  await page.route('**/__data.json*', async (route) => {
    asked();
    await isCut;
    await route.continue();
  });
  // somebody else writes, so this page loads its data
  const other = await as('setter', await browser.newPage());
  await atLeaf(other, new URL(page.url()).origin);
  await other.getByText('Write on the leaf').click();
  await other.getByLabel('What to write').fill('Swarf bin of Avocet is full.');
  await other.getByRole('button', { name: 'Add note' }).click();
  await isAsked;
  await line.cut();
  const answered = page.waitForResponse(
    (answer) => answer.url().includes('__data.json') && answer.status() === 503,
  );
  cut();
  await answered;
  await page.waitForResponse((answer) => answer.url().includes('__data.json') && answer.status() === 503);
  await expect(field).toHaveValue('Half a sentence');
  await line.mend();
  await expect(page.locator('main').getByText('Swarf bin of Avocet is full.').first()).toBeVisible({
    timeout: 20_000,
  });
  await expect(field).toHaveValue('Half a sentence');
});

test('the network breaks off in the middle of an answer: what is being typed stays, and the page asks again', async ({
  as,
}) => {
  const page = await as('operator');
  await page.addInitScript(() => {
    const ask = window.fetch.bind(window);
    const told = { broken: 0 };
    Object.assign(window, { told });
    window.fetch = async (input, init) => {
      const answer = await ask(input, init);
      if (!String(input).includes('__data.json') || told.broken > 0) return answer;
      told.broken += 1;
      // its head has come, and the first of its text
      const half = (await answer.text()).slice(0, 40);
      let sent = false;
      const text = new ReadableStream({
        pull: (to) => {
          if (sent) to.error(new TypeError('network error'));
          else to.enqueue(new TextEncoder().encode(half));
          sent = true;
        },
      });
      return new Response(text, answer);
    };
  });
  await atLeaf(page);
  await page.getByText('Write on the leaf').click();
  const field = page.getByLabel('What to write');
  await field.fill('Half a sentence');
  // somebody else writes, so this page loads its data
  const other = await as('setter', await page.context().browser()!.newPage());
  await atLeaf(other, new URL(page.url()).origin);
  await other.getByText('Write on the leaf').click();
  await other.getByLabel('What to write').fill('The coolant of Egret is low.');
  await other.getByRole('button', { name: 'Add note' }).click();
  await expect(page.locator('main').getByText('The coolant of Egret is low.').first()).toBeVisible({
    timeout: 20_000,
  });
  await expect(field).toHaveValue('Half a sentence');
  expect(await page.evaluate(() => (window as unknown as { told: { broken: number } }).told.broken)).toBe(1);
});

test('a reading typed while the database is away is kept, the next can be typed, and both are sent once', async ({
  as,
  line,
}) => {
  const page = await as('operator');
  await page.goto('/machines/3/now');
  await ready(page);
  await page.getByRole('button', { name: /^Bearing seat OD (?!\(2nd)/ }).click();
  const measure = page.getByRole('form', { name: 'Type a reading' });
  const reading = measure.getByLabel(/^Reading, /);
  await expect(reading).toBeVisible();
  const field = measure.getByLabel('Part', { exact: true });
  const last = Number(await field.inputValue());
  // of two parts on a bar this size is on the first
  const parts = [last + 6, last + 8].map(String);
  await line.cut();
  for (const part of parts) {
    await field.fill(part);
    await reading.fill('1.3781');
    await measure.getByRole('button', { name: 'What do I do?' }).click();
    // it is out of the way of the next one
    await expect(page.getByRole('status', { name: 'Waits to be sent' })).toContainText(
      `part ${part}: 1.3781`,
    );
    await expect(reading).toHaveValue('');
  }
  await line.mend();
  await expect(page.getByRole('status', { name: 'Sent late' })).toHaveCount(2, { timeout: 20_000 });
  await expect(page.getByRole('status', { name: 'Waits to be sent' })).toHaveCount(0);
  await expect(page.getByRole('status', { name: 'Sent late' }).first()).toContainText(
    `part ${parts[0]}: 1.3781`,
  );
  await page.getByRole('button', { name: 'Seen' }).first().click();
  await expect(page.getByRole('status', { name: 'Sent late' })).toHaveCount(1);
  // each is in the record once
  await page.goto('/ledger');
  await ready(page);
  for (const part of parts)
    await expect(page.getByText(new RegExp(`of part ${part} measured`))).toHaveCount(1);
});

test('who goes on to another page while an act is on its way arrives there, and the act is done', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/1/checks');
  await ready(page);
  await page.route('**/checks?/decide', async (route) => {
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue();
  });
  const row = page.getByRole('listitem').filter({ hasText: 'A-111' });
  await row.getByText('Decide how').click();
  const form = row.getByRole('form', { name: /^Decide how/ });
  await form.getByLabel('When').selectOption('before it cuts');
  const sent = page.waitForResponse(/checks\?\/decide/);
  await form.getByRole('button', { name: 'Decide' }).click();
  await page.getByRole('link', { name: 'Counters' }).click();
  await sent;
  await expect(page).toHaveURL(/\/counters$/);
  await expect(page.getByRole('heading', { name: 'Life counters, here and on the control' })).toBeVisible();
  await page.waitForTimeout(1500);
  await expect(page).toHaveURL(/\/counters$/);
  await page.getByRole('link', { name: 'Checks' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'A-111' })).toContainText('before it cuts');
});
