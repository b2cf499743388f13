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
  await ready(page);
  // somebody reads one row that agrees: of the four nothing is known that was not before
  const bring = page.getByRole('form', { name: 'Bring its table in' });
  await bring.getByLabel('or pasted').fill('390 0.000');
  await bring.locator('select[name=kind]').selectOption('lengthGeometry');
  await bring.getByLabel('Only a part was read').check();
  await bring.getByRole('button', { name: 'Lay it beside the record' }).click();
  await expect(page.getByRole('status').first()).toContainText('1 register agrees, and nothing differs');
  await page.goto('/machines/5/now');
  await ready(page);
  await expect(mark).toBeVisible();
  await page.goto('/programs/8');
  await ready(page);
  await expect(page.getByRole('main')).toContainText('when the control was last read off; the record says');
  await page.goto('/machines/5/control');
  await ready(page);
  await page
    .getByText('This look did not read 4 registers that differed on')
    .getByRole('link', { name: 'answer them there' })
    .click();
  await page.waitForURL(/look=/);
  await ready(page);
  for (const box of await page.getByRole('checkbox', { name: /of row/ }).all()) await box.check();
  const form = page.getByRole('form', { name: 'Which is right' });
  await form.getByLabel('Why').fill('Looked at with the setter.');
  await form.getByRole('button', { name: 'Nobody knows: onto the leaf' }).click();
  await expect(form).toBeHidden();
  await page.goto('/machines/5/now');
  await ready(page);
  await expect(mark).toBeHidden();
});
