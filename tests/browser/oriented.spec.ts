import { expect, ready, test } from './cell.ts';

// tips are looked at and a probe is calibrated: a cell of its own
test.use({ own: 'oriented' });

test('a bore is seen from above: not looked at, put in the wrong way round, and right', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/programs/4');
  await ready(page);
  await expect(page.getByText('its tip must point X−.')).toBeVisible();
  await page.getByRole('link', { name: 'Bores from above' }).click();
  await ready(page);
  await expect(page.getByText('Nobody has looked')).toBeVisible();
  const tip = page.getByRole('form', { name: 'The tip of T8, line 300' });
  await tip.getByRole('button', { name: 'X+' }).click();
  await expect(page.getByText('Into the wall', { exact: true })).toBeVisible();
  await expect(page.getByText('It goes 0.200 mm into the wall.')).toBeVisible();
  await expect(page.getByText('N2780 G98 G76 X0. Y0. Z-14. R2. I-0.2 F70.')).toBeVisible();
  await page.getByRole('link', { name: 'O2301' }).click();
  await expect(page.getByRole('heading', { name: 'Not ready' })).toBeVisible();
  await expect(page.getByText('and its tip points X+: it would be driven into the wall.')).toBeVisible();
  await page.getByRole('link', { name: 'Bores from above' }).click();
  await ready(page);
  await tip.getByRole('button', { name: 'X−' }).click();
  await expect(page.getByText('Comes off the wall')).toBeVisible();
  await page.goto('/ledger');
  await expect(page.getByText('The tip of A-108 points X− with the spindle oriented.')).toBeVisible();
});

test('a probe’s calibration is written down, and what half a turn costs is said', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/tools');
  await ready(page);
  await page.getByRole('link', { name: /A-130/ }).first().click();
  await page.getByRole('link', { name: 'its calibration' }).click();
  await ready(page);
  await expect(page.getByRole('status')).toContainText('It stands as it was calibrated.');
  // six and eight micrometres make ten, and twice that
  await expect(page.getByText(/Its tip runs 0.010 mm off centre/)).toContainText('0.020 mm away');
  const form = page.getByRole('form', { name: 'A calibration' });
  await form.getByLabel(/in X/).fill('0.003');
  await form.getByLabel(/in Y/).fill('nought');
  await form.getByLabel('Where its mark points').fill('towards the door');
  await form.getByRole('button').click();
  await expect(form.getByRole('alert')).toBeVisible();
  await form.getByLabel(/in Y/).fill('0.004');
  await form.getByRole('button').click();
  await expect(page.getByText(/Its tip runs 0.005 mm off centre/)).toContainText('its mark towards the door');
});
