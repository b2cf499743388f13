import { connect } from 'node:net';
import { freshDatabase } from '../support/databases.ts';
import { standIn, startServer, type RunningServer } from '../support/server.ts';
import { test as base, expect, ready } from './cell.ts';
import { measureHeight } from './height.ts';

interface Box {
  address: string;
  press: (line: string) => void;
}

/** The cell with bench gauges beside it. */
const test = base.extend<{ server: RunningServer }, { box: Box; served: RunningServer }>({
  box: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures' names from here
    async ({}, use) => {
      const { child, port } = await standIn('gauge');
      await use({
        address: `127.0.0.1:${port}`,
        press: (said) => void connect(port, '127.0.0.1').end(`PRESS ${said}\n`),
      });
      child.kill();
    },
    { scope: 'worker' },
  ],
  served: [
    async ({ box }, use) => {
      const database = await freshDatabase('tin_demo');
      const server = await startServer(database.appUrl, { TIN_GAUGES: box.address });
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  server: ({ served }, use) => use(served),
});

test('one part after the other size: typed, sent by a gauge, several of one, each with its answer beside it', async ({
  as,
  box,
}) => {
  const page = await as('operator');
  await page.goto('/machines/5/sheet');
  await ready(page);
  const size = (name: string) =>
    page.getByRole('listitem').filter({ has: page.getByRole('heading', { name }) });
  const field = (name: string) => page.getByLabel(`${name}, mm`, { exact: true });

  // the gauge's name says which size it is, even when no field was touched
  await expect(async () => {
    box.press('height gauge = 80.0010 MM');
    await expect(field('Face height')).toHaveValue(/^80\.0010 mm/, { timeout: 1000 });
  }).toPass();
  await field('Face height').fill('80.001 mm');
  await field('Face height').press('Enter');
  await expect(page.getByRole('status', { name: 'Answer to Face height' })).toContainText('Leave it');
  // the next size on the sheet has the keys now
  await expect(field('Dowel bore')).toBeFocused();

  // several readings of one size: first far apart, then taken again
  await field('Body depth').fill('207.600');
  await size('Body depth').getByRole('button', { name: 'One more reading of it' }).click();
  await expect(field('Body depth')).toHaveValue('207.600; ');
  await field('Body depth').press('End');
  await page.keyboard.type('207.640');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status', { name: 'Answer to Body depth' })).toContainText(
    'They differ by 0.040 mm',
  );
  await field('Body depth').fill('207.600; 207.604');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status', { name: 'Answer to Body depth' })).toContainText('Leave it');

  // a gauge that no size here is measured with, and one that is asked
  box.press('feeler = 0.1 MM');
  await expect(page.getByText('feeler sent 0.1 mm: no size here is measured with it.')).toBeVisible();
  await field('Body width').focus();
  await size('Body width').getByRole('button', { name: 'Ask the gauge' }).click();
  await expect(field('Body width')).toHaveValue(/^287\.(59|60)\d+ mm$/);
  box.press('height gauge = eighty MM');
  await expect(page.getByText(/which is no reading/)).toBeVisible();
});

test('two parts a cycle, cut with the same rows: each place is measured in turn, and that one stands off the other is said', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/5/sheet');
  await ready(page);
  const place = page.getByLabel('Place in the cycle');
  const measure = (number: number, size: string, told: string) =>
    measureHeight(page, number, size, () => expect(place.locator('option:checked')).toHaveText(told));
  for (const [number, size] of [
    [21, '79.99'],
    [22, '80.014'],
    [23, '79.989'],
    [24, '80.015'],
    [25, '79.99'],
    [26, '80.014'],
  ] as const)
    await measure(number, size, number % 2 === 1 ? 'first of the two' : 'second of the two');
  await expect(page.getByRole('status', { name: 'Answer to Face height' })).toContainText(
    /The second of the two measures about 0\.0\d+ mm more than the first of the two: no row moves one without the other/,
  );
  // it may also be said otherwise, or that nobody knows
  await measureHeight(page, 27, '80.002', async () => {
    await expect(place.locator('option:checked')).toHaveText('first of the two');
    await place.selectOption({ label: 'nobody knows which' });
  });
  // and of the next part it is proposed again
  await page.getByLabel('Part', { exact: true }).fill('28');
  await expect(place.locator('option:checked')).toHaveText('second of the two');
});

test('who types on while an answer is on its way is not called away from it, and loses nothing of it', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/5/sheet');
  await ready(page);
  const field = page.getByLabel('Face height, mm', { exact: true });
  const part = page.getByLabel('Part', { exact: true });
  const answer = page.getByRole('status', { name: 'Answer to Face height' });
  let goOn = () => {};
  await page.route(/\/take$/, async (route) => {
    await new Promise<void>((resolve) => (goOn = resolve));
    await route.continue();
  });
  const sent = async (of: string, size: string) => {
    await part.fill(of);
    await field.fill(size);
    const asked = page.waitForRequest(/\/take$/);
    await field.press('Enter');
    await asked;
  };
  // the number of the next part
  await sent('31', '80.001');
  await part.focus();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('3');
  goOn();
  await expect(answer).toContainText(/Leave it|Measure|row 1/);
  await expect(field).toHaveValue('');
  await page.waitForTimeout(200);
  await page.keyboard.type('2');
  await expect(part).toHaveValue('32');
  // another size of the same field
  await sent('32', '80.002');
  await field.fill('80.0');
  goOn();
  await expect(answer).toContainText(/Leave it|Measure|row 1/);
  await page.keyboard.type('03');
  await expect(field).toHaveValue('80.003');
});

test('an act loads its own page once, and others when they hear of it', async ({ as, context }) => {
  const page = await as('operator');
  const beside = await context.newPage();
  const loads = new Map([page, beside].map((each) => [each, 0]));
  for (const each of [page, beside]) {
    await each.goto('/machines/5/sheet');
    await ready(each);
    each.on('request', (asked) => {
      if (asked.url().includes('__data.json')) loads.set(each, loads.get(each)! + 1);
    });
  }
  await page.waitForTimeout(1500);
  for (const each of loads.keys()) loads.set(each, 0);
  await page.getByLabel('Part', { exact: true }).fill('33');
  const field = page.getByLabel('Face height, mm', { exact: true });
  await field.fill('80.001');
  await field.press('Enter');
  await expect(field).toHaveValue('');
  await expect.poll(() => loads.get(beside)).toBeGreaterThan(0);
  await page.waitForTimeout(1000);
  expect(loads.get(page)).toBe(1);
});
