import { expect, ready, test } from './cell.ts';

test('a gauge is studied, put on the list, and then says when nobody can tell', async ({ as }) => {
  const page = await as('inspector');
  await page.goto('/gauges');
  await ready(page);
  await page
    .getByRole('listitem')
    .filter({ hasText: 'micrometer 200-225' })
    .getByRole('button', { name: 'Put it on the list' })
    .click();
  const gauge = page.getByRole('form', { name: 'A gauge' });
  await expect(gauge.getByLabel('What measuring plans call it')).toHaveValue('micrometer 200-225');
  await gauge.getByLabel('Step it shows, mm').fill('0.001');
  const study = page.getByRole('form', { name: 'Repeat study' });
  await study.getByLabel('Readings').fill('207.600 207.601');
  await study.getByRole('button', { name: 'Work it out' }).click();
  await expect(study.getByRole('alert')).toContainText('there are 2');
  await study
    .getByLabel('Readings')
    .fill('207.600 207.610 207.590 207.600 207.610 207.590 207.600 207.610 207.590 207.600');
  await study.getByRole('button', { name: 'Work it out' }).click();
  await expect(study.getByRole('status')).toContainText('±0.0163 mm');
  await study.getByRole('button', { name: 'Take this' }).click();
  await expect(gauge.getByLabel(/Sure to/)).toHaveValue('0.0164');
  await gauge.getByRole('button', { name: 'Save it' }).click();
  const row = page.getByRole('row').filter({ hasText: 'micrometer 200-225' });
  await expect(row).toContainText('0.0164');
  await row.getByRole('button', { name: 'Its zero is right' }).click();
  await expect(row).not.toContainText('not yet');

  await page.goto('/machines/5/now');
  await ready(page);
  await page.getByRole('button', { name: /^Body depth/ }).click();
  await page.getByLabel(/^Reading, mm/).fill('207.640');
  const press = () => page.getByRole('button', { name: 'What do I do?' }).click();
  await press();
  const answer = page.getByRole('status', { name: 'Answer' });
  await expect(answer).toBeVisible();
  const again = page.getByLabel('I measured again and got the same.');
  if (await again.count()) {
    await again.check();
    await press();
  }
  await expect(answer).toContainText('nobody can tell');
});
