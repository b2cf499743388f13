import { atLeaf, expect, ready, test } from './cell.ts';

test.use({ own: 'jobs' });

test('jobs are put in order, paused with a reason, taken up again, and one is taken off the list', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/1/now');
  await ready(page);
  const list = page.getByRole('region', { name: 'Next on the list' });
  const items = list.getByRole('listitem');
  const first = await items.nth(0).locator('b').first().innerText();
  const second = await items.nth(1).locator('b').first().innerText();
  await list.getByRole('button', { name: `${second} ahead of ${first}` }).click();
  await expect(items.nth(0)).toContainText(second);
  await expect(list.getByRole('button', { name: 'Start' })).toHaveCount(0);

  await page.getByText(/^Pause O2301/).click();
  const pause = page.getByRole('form', { name: 'Pause O2301' });
  await pause.getByRole('button', { name: 'Pause' }).click();
  await expect(pause.getByRole('alert')).toContainText('Say why');
  await pause.getByLabel('Why').fill('material is missing');
  await pause.getByRole('button', { name: 'Pause' }).click();
  await expect(list).toContainText('paused at 51 of 90: material is missing');
  await list.getByRole('button', { name: 'Take up again' }).click();
  await expect(list).not.toContainText('paused at');

  await list.getByText(`Change or remove ${first}`).click();
  const off = page.getByRole('form', { name: `Take ${first} off the list` });
  await off.getByLabel('Why').fill('the order was cut');
  await off.getByRole('button').click();
  await expect(items.filter({ hasText: `Change or remove ${first}` })).toHaveCount(0);
});

test('a job without a cycle time says why nothing was added; the last one is proposed', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines/1/now');
  await ready(page);
  await page.getByText('Add a job to the list').click();
  const job = page.getByRole('form', { name: 'New job' });
  await job.getByLabel('Program').selectOption({ label: 'O2301 BEARING CARRIER OP1' });
  await expect(job.getByLabel(/Cycle/)).toHaveValue('24:00');
  await job.getByLabel('Parts', { exact: true }).fill('7');
  await job.getByLabel(/Cycle/).fill('');
  await job.getByRole('button', { name: 'Add' }).click();
  await expect(job.getByRole('alert')).toContainText('nothing was added');
  await expect(job.getByLabel('Parts', { exact: true })).toHaveValue('7');
  await job.getByLabel(/Cycle/).fill('23:30');
  await job.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByRole('region', { name: 'Next on the list' })).toContainText('7 parts at 23:30');
});

test('a past leaf says what was foreseen and what came', async ({ as }) => {
  const page = await as('viewer');
  await atLeaf(page);
  const earlier = page.getByRole('navigation', { name: 'Leaves' }).getByRole('link').first();
  for (let back = 0; back < 40; back += 1) {
    const before = (await earlier.getAttribute('href'))!;
    await earlier.click();
    await page.waitForURL((url) => url.pathname === before);
    await ready(page);
    await expect(earlier).not.toHaveAttribute('href', before);
    const came = page.getByRole('region', { name: 'What was foreseen, and what came' });
    if ((await came.getByText(/ran out [\d.]+ (min|h) (later|earlier)/).count()) > 0) return;
  }
  throw new Error('no past leaf has a forecast');
});
