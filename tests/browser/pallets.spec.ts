import { expect, ready, test } from './cell.ts';
import { measureHeight } from './height.ts';

test.use({ own: 'pallets' });

test('on a machine with pallets a reading is of the pallet that its part was cut on, and what is set aside is told pallet by pallet', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/5/sheet');
  await ready(page);
  const pallet = page.getByLabel('Pallet');
  // of what was cut before anybody kept it, nobody knows; what the control has made since stands on the first of the queue
  await page.getByLabel('Part', { exact: true }).fill('20');
  await expect(pallet.locator('option:checked')).toHaveText('nobody knows which');
  await page.getByLabel('Part', { exact: true }).fill('30');
  await expect(pallet.locator('option:checked')).toHaveText('pallet 3');
  await page.getByLabel('Part', { exact: true }).fill('32');
  await expect(pallet.locator('option:checked')).toHaveText('pallet 1');
  await measureHeight(
    page,
    28,
    '80.001',
    async () => void (await pallet.selectOption({ label: 'pallet 1' })),
  );
  await measureHeight(page, 30, '80.044', () =>
    expect(pallet.locator('option:checked')).toHaveText('pallet 3'),
  );
  await page.goto('/programs/8/drift');
  await ready(page);
  await page.getByLabel('Feature').selectOption({ label: 'Face height' });
  const alert = page.getByRole('alert').filter({ hasText: 'Part 30 measured 80.044' });
  await expect(alert.getByRole('listitem')).toHaveText([
    /of each cycle the second of the two on pallet 3/,
    /of those cut where none was measured, not measured since/,
    /every part from 29 on, of each cycle the second of the two on pallet 1, not measured since/,
  ]);
  await expect(page.getByLabel('Place it was cut in').locator('option')).toHaveText([
    'second of the two on pallet 1',
    'second of the two on pallet 3',
  ]);
});
