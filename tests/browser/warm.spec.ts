import { expect, ready, test } from './cell.ts';

test.use({ own: 'warm' });

test('a part that is measured warm is judged as it is at 20 °C, and what was said of it stays while its fields are closed', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/5/now');
  await ready(page);
  await page.getByRole('button', { name: /^Body width/ }).click();
  const measure = page.getByRole('form', { name: 'Type a reading' });
  await measure.getByLabel(/^Reading, /).fill('287.604');
  await measure.getByText('Measured warm?').click();
  await measure.getByLabel('Part and gauge, °C').fill('27');
  await measure.getByLabel('Part of').selectOption({ label: 'aluminium' });
  await measure.getByText('Measured warm?').click();
  await expect(measure.getByLabel('Part and gauge, °C')).toBeHidden();
  await measure.getByRole('button', { name: 'What do I do?' }).click();
  await page.goto('/ledger');
  await ready(page);
  await expect(
    page.getByText(/Body width of part \d+ measured .* at 20 °C \(287\.604 mm at 27 °C\)/).first(),
  ).toBeVisible();
});
