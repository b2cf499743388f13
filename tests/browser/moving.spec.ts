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
