import { expect, ready, test } from './cell.ts';

// One first part from its beginning to its end, by several people on the real screens; the steps build on each other.
test.describe.configure({ mode: 'serial' });

test('a setter begins it: rougher and finisher are kept away, keyed and read back blind', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines/3/first-part');
  await ready(page);
  await expect(page.getByRole('heading', { name: 'Bring a first part to size' })).toBeVisible();
  for (const name of ['Bearing seat OD', 'Journal OD', 'Shoulder to seat', 'Overall length'])
    await page
      .getByRole('checkbox', { name: new RegExp(`^${name}`) })
      .first()
      .uncheck();
  await page.getByRole('checkbox', { name: /\(2nd\)/ }).uncheck();
  await page.getByLabel('Bore: stay away by').fill('0.008');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: /First part of O1402/ })).toBeVisible();
  const rows = page.getByRole('row').filter({ hasText: 'X wear' });
  await expect(rows).toHaveCount(2);
  const make = await Promise.all([0, 1].map((i) => rows.nth(i).getByRole('cell').nth(2).innerText()));
  await page.getByRole('button', { name: 'I have keyed them' }).click();
  for (const [i, row] of [4, 5].entries()) {
    // nothing on the page says what it should be
    await expect(page.getByText(make[i]!, { exact: true })).toHaveCount(0);
    await page.getByLabel(`X wear, row ${row}`, { exact: true }).fill(make[i]!);
  }
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByRole('heading', { name: 'Bore', exact: true })).toBeVisible();
  await expect(page.getByText('what T4 left, before T5 runs')).toBeVisible();
  await expect(page.getByText(/Optional stop in line \d+: switch it on/)).toBeVisible();
});

test('an operator takes it up: a slip is asked about, the rougher comes first, then the finisher', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/3/now');
  await page.getByRole('link', { name: 'First part' }).click();
  await ready(page);
  await page.getByLabel(/It measures/).fill('5.622');
  await page.getByRole('button', { name: 'It measures this' }).click();
  await expect(page.getByRole('alert')).toContainText('decimal point');
  await page.getByLabel(/It measures/).fill('0.5622');
  await page.getByRole('button', { name: 'It measures this' }).click();
  await expect(page.getByText(/The rougher leaves 0\.0205 in production: right/)).toBeVisible();
  await page.getByLabel(/It measures/).fill('0.5823');
  await page.getByRole('button', { name: 'It measures this' }).click();
  await expect(page.getByText('0.5823 − 0.5907 = −0.0084')).toBeVisible();
  // an operator sees what is to be keyed, and does not key it
  await expect(page.getByText('the allowance comes off')).toBeVisible();
  await expect(page.getByText('Setters and the lead key a first part.')).toBeVisible();
});

test('another setter ends it: keyed, cut again, parted off, finished', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/machines/3/first-part');
  await ready(page);
  const rows = page.getByRole('row').filter({ hasText: 'X wear' });
  await expect(rows).toHaveCount(2);
  const make = await Promise.all([0, 1].map((i) => rows.nth(i).getByRole('cell').nth(2).innerText()));
  await page.getByRole('button', { name: 'I have keyed them' }).click();
  // row 5 is mistyped at the control: it stays to be keyed, row 4 is on record
  await page.getByLabel('X wear, row 4', { exact: true }).fill(make[0]!);
  await page.getByLabel('X wear, row 5', { exact: true }).fill('0.5');
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByRole('alert')).toBeVisible();
  await page.getByLabel('X wear, row 5', { exact: true }).fill(make[1]!);
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByText(/Put it back on and run rougher and finisher again/)).toBeVisible();
  await page.getByLabel(/It measures/).fill('0.5907');
  await page.getByRole('button', { name: 'It measures this' }).click();
  await expect(page.getByText(/Part it off and measure once more/)).toBeVisible();
  await page.getByLabel(/It measures/).fill('0.5908');
  await page.getByRole('button', { name: 'It measures this' }).click();
  await expect(page.getByText('Brought to size')).toBeVisible();
  await expect(page.getByText('Parting off moved it by +0.0001.')).toBeVisible();
  await page.getByRole('button', { name: 'Finish' }).click();
  await expect(page.getByRole('heading', { name: 'Bring a first part to size' })).toBeVisible();
});
