import { expect, ready, test } from './cell.ts';

test('a job is moved to another machine by one sheet', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/programs/9/elsewhere');
  await ready(page);
  await page
    .getByRole('region', { name: /Egret/ })
    .getByRole('link', { name: /one sheet/ })
    .click();
  await ready(page);
  await expect(page.getByRole('heading', { name: 'O6105 from Fulmar to Egret' })).toBeVisible();
  await expect(page.getByRole('region', { name: '1. Tools' }).getByRole('row')).not.toHaveCount(1);
  const wear = page.getByRole('region', { name: /3\. Wear/ });
  await expect(wear.getByRole('row', { name: /length wear, row 20/ })).toContainText('Seat height');
  await expect(page.getByRole('region', { name: /To key at Egret/ })).toBeVisible();
  await expect(page.getByText(/Bring it in for Egret/)).toBeVisible();
  expect((await page.request.get('/programs/9/elsewhere/6')).status()).toBe(404);
  expect((await page.request.get('/programs/9/elsewhere/99')).status()).toBe(404);
});

test('a program on two machines: where they part is laid side by side, worst first, with since when', async ({
  as,
}) => {
  const page = await as('viewer');
  await page.goto('/machines');
  await ready(page);
  await page.getByRole('link', { name: 'Families' }).click();
  await expect(page.getByRole('heading', { name: 'Families' })).toBeVisible();
  const rows = page.getByRole('row');
  await expect(rows.nth(1)).toContainText('T1');
  await expect(rows.nth(1)).toContainText('face mill 80.0 mm');
  await expect(page.getByRole('row', { name: /Cover width aim/ })).toContainText('0.010 mm');
  await expect(page.getByRole('row', { name: /gauge length/ })).toHaveCount(2);
  await page.getByLabel('Lengths may differ by, mm').fill('half a mm');
  await page.getByRole('button', { name: 'Lay side by side' }).click();
  await expect(page.getByRole('alert')).toContainText('was not understood');
  await page.getByLabel('Lengths may differ by, mm').fill('30');
  await page.getByRole('button', { name: 'Lay side by side' }).click();
  await expect(page.getByRole('row', { name: /gauge length/ })).toHaveCount(0);
  await page.getByRole('link', { name: 'Move the job from Avocet to Egret' }).click();
  await expect(page).toHaveURL(/\/elsewhere\/5$/);
});
