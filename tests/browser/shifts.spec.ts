import { atLeaf, expect, ready, test } from './cell.ts';

test.use({ own: 'shifts' });

test('a shift is handed over in words that wrote themselves, after the machines were left', async ({
  as,
}) => {
  const page = await as('operator');
  await atLeaf(page);
  const crossed = page.getByRole('region', { name: 'Moved by both shifts' });
  await expect(crossed).toContainText('The same deviation was answered twice');
  await expect(crossed).toContainText(/somebody at the control [+−]0\.0\d+ mm/);
  await expect(crossed).toContainText(/Pocket depth from its target: before \+0\.023 \(2 parts\), after/);
  await page.getByText('Write on the leaf').click();
  const write = page.getByRole('form', { name: 'Write on the leaf' });
  await write.getByLabel('What to write').fill('Jaws are turned tonight');
  await write.getByRole('button', { name: 'Promise' }).click();
  const spoken = page.getByRole('group', { name: 'To be read out' });
  await expect(spoken).toContainText('Jaws are turned tonight');
  const words = (await spoken.locator('p:not(.small-words)').allTextContents()).join(' ').trim().split(/\s+/);
  expect(words.length).toBeLessThanOrEqual(150);

  await page.getByRole('link', { name: 'How the machines are left' }).click();
  await ready(page);
  await expect(page.getByText('6 of 6 open')).toBeVisible();
  const avocet = page.getByRole('region', { name: 'Avocet' });
  await expect(avocet).toContainText('By the record the spindle is empty.');
  await avocet.getByText('Not so').first().click();
  await avocet.getByLabel('What it is instead').first().fill('T5 would not let go');
  await avocet.getByRole('button', { name: 'Write down' }).first().click();
  await expect(avocet).toContainText('Not so: T5 would not let go.');
  await avocet.getByRole('button', { name: 'The rest is so' }).click();
  await expect(avocet.getByText(/^Done\./)).toHaveCount(3);
  await avocet.getByRole('button', { name: 'Put right' }).click();
  await expect(page.getByText('5 of 6 open')).toBeVisible();
  await page
    .getByRole('region', { name: 'Bittern' })
    .getByRole('button', { name: 'All of it is so' })
    .click();
  await expect(page.getByText('4 of 6 open')).toBeVisible();
  await expect(page.getByText('Change the list')).toHaveCount(0);
  await page.getByRole('link', { name: 'The leaf' }).click();
  await ready(page);
  await expect(page.getByText('open: Curlew, Dunlin, Egret, Fulmar')).toBeVisible();
});

test('whoever comes reads what happened since; the lead keeps the list', async ({ as }) => {
  const page = await as('lead');
  await atLeaf(page);
  await page.getByRole('link', { name: 'Since you left' }).click();
  await ready(page);
  await expect(page.getByText(/your last entry, /)).toBeVisible();
  await expect(page.getByText('Moved by both shifts: Dunlin row 2.')).toBeVisible();
  await expect(
    page
      .getByRole('region', { name: /What happened/ })
      .getByRole('listitem')
      .first(),
  ).toBeVisible();

  await page.goto('/leaf/end');
  await ready(page);
  await page.getByText('Change the list').click();
  const add = page.getByRole('form', { name: 'Put a line on the list' });
  await add.getByLabel('New line').fill('The bar feeder is empty.');
  await add.getByLabel('Where').selectOption('Curlew');
  await add.getByRole('button', { name: 'Put on' }).click();
  const curlew = page.getByRole('region', { name: 'Curlew' });
  await expect(curlew).toContainText('The bar feeder is empty.');
  await expect(curlew).not.toContainText('spindle');
  await page.getByRole('button', { name: 'Take off the list: The bar feeder is empty.' }).click();
  await expect(curlew).not.toContainText('The bar feeder is empty.');
});
