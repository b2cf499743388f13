import { expect, ready, test } from './cell.ts';

test('a size is followed to where it goes, and the lab says which school serves it', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/programs');
  await page.getByRole('link', { name: /O6105/ }).first().click();
  await page.waitForURL(/programs\/\d+$/);
  await page.getByRole('table').getByRole('link', { name: 'Seat height' }).click();
  await page.waitForURL(/drift\?feature=/);
  await ready(page);
  await expect(page.getByRole('heading', { name: 'Seat height', level: 1 })).toBeVisible();
  await expect(page.getByLabel(/readings of Seat height and where it goes/)).toBeVisible();
  await expect(page.getByText(/With corrections taken out: Cp/)).toBeVisible();
  await page.getByLabel('Chance of a bad part').selectOption('0.01');
  await page.waitForURL(/risk=0\.01/);
  await page.getByRole('button', { name: 'Try them all' }).click();
  const found = page.getByRole('status').filter({ hasText: /Keep it|holds it closer/ });
  await expect(found).toBeVisible({ timeout: 60_000 });
  await expect(found).toContainText('Correcting every part would spread them');
  // each school on a page of its own: what it would have made of the past, with its sums
  await page.getByRole('link', { name: 'by the mean of several' }).click();
  await page.waitForURL(/drift\/average\?feature=/);
  await expect(page.getByRole('heading', { name: 'By the mean of several', level: 1 })).toBeVisible();
  await expect(
    page
      .getByRole('row')
      .filter({ hasText: /÷ \d+ = / })
      .first(),
  ).toBeVisible();
  await page.getByRole('navigation', { name: 'Schools' }).getByRole('link', { name: 'every part' }).click();
  await page.waitForURL(/drift\/everyPart/);
  const keyed = await page.locator('dt', { hasText: 'Corrections keyed' }).locator('+ dd').innerText();
  expect(Number(keyed)).toBeGreaterThan(50);
  await page.getByRole('link', { name: 'Seat height' }).click();
  await ready(page);
  await page.getByRole('button', { name: 'Try them all' }).click();
  await expect(found).toBeVisible({ timeout: 60_000 });
  const row = page.getByRole('row').filter({ hasText: 'by a weighted mean' });
  await row.getByRole('button', { name: 'Use it' }).click();
  // what the lab found was found for the school that was in use
  await expect(found).toHaveCount(0);
  await page.goto('/ledger');
  await expect(page.getByText('Seat height of O6105 is corrected by a weighted mean')).toBeVisible();
});
