import { expect, ready, test } from './cell.ts';

test.use({ own: 'night' });

/** The wall clock of the cell in so many hours. */
const clockIn = (hours: number) =>
  new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: 'Europe/Paris' }).format(
    Date.now() + 3_600_000 * hours,
  );

test('the night does not last as it stands; pallets are moved, set aside and taken off by name', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/machines');
  await page.getByRole('navigation', { name: 'Egret' }).getByRole('link', { name: 'Now' }).click();
  await page.getByRole('link', { name: 'Night' }).click();
  await ready(page);
  const said = page.getByRole('status').filter({ hasText: /parts/ });
  await expect(said).toContainText('on pallet 2: T5 has expired. 12 of 24 parts');
  await expect(page.getByRole('img', { name: 'The pallets along the clock' })).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'T6 does not last' })).toContainText(
    'Load one full sister',
  );
  // by its shifts somebody is always here; what nobody measures is asked of hours that are supposed
  const alone = page.getByRole('form', { name: 'Hours with nobody at it' });
  await alone.getByLabel('Suppose nobody is here from').fill(clockIn(3));
  await alone.getByLabel('to', { exact: true }).fill(clockIn(15));
  await alone.getByRole('button', { name: 'Ask' }).click();
  await expect(page.getByText(/Nobody is here from/)).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'Body depth' })).toContainText(
    'It was not measured on this job',
  );
  await page.getByRole('link', { name: 'By the shifts again' }).click();
  await expect(page.getByText(/Nobody is here from/)).toHaveCount(0);
  const row = (number: number) =>
    page.getByRole('row').filter({ has: page.getByRole('rowheader', { name: String(number), exact: true }) });
  await row(2).getByRole('button', { name: 'Set aside' }).click();
  await page.getByLabel('Why pallet 2 is set aside').fill('loose clamp');
  await page.getByRole('button', { name: 'Set it aside' }).click();
  await expect(row(2)).toContainText('set aside: loose clamp');
  await expect(said).toContainText('on pallet 4');
  await row(4).getByRole('button', { name: 'Off' }).click();
  const off = page.getByRole('form', { name: 'Off: pallet 4' });
  await off.getByLabel('Parts made of it').fill('0');
  await off.getByRole('button', { name: 'Take it off' }).click();
  // its tools last; that does not make it ready
  await expect(said).toContainText('Its tools would last: 10 parts');
  await expect(page.getByRole('listitem').filter({ hasText: 'O5103 is not ready.' })).toContainText(
    'when the control was last read off',
  );
  await row(6).getByRole('button', { name: 'Earlier' }).click();
  await row(6).getByRole('button', { name: 'Earlier' }).click();
  await expect(page.getByRole('row').nth(3)).toContainText('6');
  const form = page.getByRole('form', { name: 'Put a pallet into the queue' });
  await form.getByLabel('Pallet').fill('4');
  await form.getByLabel('Parts').fill('20');
  await form.getByRole('button', { name: 'Put it in' }).click();
  await expect(row(4)).toBeVisible();
  await expect(said).toContainText('It stops');
});
