import { atLeaf, expect, ready, test } from './cell.ts';

test.use({ own: 'differs' });

test('a control that differs is marked wherever its machine stands, until it is answered', async ({ as }) => {
  const page = await as('lead');
  await atLeaf(page);
  await expect(
    page.getByText('its control holds something else than the record in 4 registers'),
  ).toBeVisible();
  const mark = page.getByRole('link', { name: 'Its control holds something else in 4 registers' });
  await page.goto('/machines');
  await ready(page);
  await expect(page.getByRole('listitem').filter({ hasText: 'Egret' }).filter({ has: mark })).toHaveCount(1);
  await page.goto('/machines/5/now');
  await ready(page);
  await mark.click();
  await page.waitForURL('**/machines/5/control');
  for (const box of await page.getByRole('checkbox', { name: /of row/ }).all()) await box.check();
  const form = page.getByRole('form', { name: 'Which is right' });
  await form.getByLabel('Why').fill('Looked at with the setter.');
  await form.getByRole('button', { name: 'Nobody knows: onto the leaf' }).click();
  await expect(form).toBeHidden();
  await page.goto('/machines/5/now');
  await ready(page);
  await expect(mark).toBeHidden();
});
