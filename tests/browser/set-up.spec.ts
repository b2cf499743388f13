import type { Page } from '@playwright/test';
import { expect, ready, test } from './cell.ts';

test.use({ own: 'set-up' });

async function pause(page: Page, number: string): Promise<void> {
  await page.getByText(new RegExp(`^Pause ${number}`)).click();
  const form = page.getByRole('form', { name: `Pause ${number}` });
  await form.getByLabel('Why').fill('the other is wanted first');
  await form.getByRole('button', { name: 'Pause' }).click();
  await expect(form).toHaveCount(0);
}

test('a job that is taken up after another ran: every size is due again, and the first part is proposed as a first-off and taken out whole', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/1/now');
  await ready(page);
  const sizes = page.getByRole('button', { name: /^Body height / });
  const tick = page.getByRole('checkbox', { name: 'after a set-up (first-off)' });
  await sizes.click();
  await expect(tick).not.toBeChecked();

  await pause(page, 'O2301');
  await page.getByText('Start O2310 though it is not ready').click();
  const start = page.getByRole('form', { name: 'Start O2310 though it is not ready' });
  await start.getByLabel('Why').fill('the plate goes first');
  await start.getByRole('button', { name: 'Start it all the same' }).click();
  await pause(page, 'O2310');
  await page
    .getByRole('form', { name: 'Take up O2301' })
    .getByRole('button', { name: 'Take up again' })
    .click();
  await expect(page.getByRole('heading', { name: /^O2301/ })).toBeVisible();

  // what was measured at the start of the job is to be measured again
  await expect(page.getByRole('button', { name: /^Body width .*not yet/ })).toBeVisible();
  await sizes.click();
  await expect(tick).toBeChecked();
  const form = page.getByRole('form', { name: 'Type a reading' });
  await form.getByLabel(/^Reading, /).fill('36.031');
  await form.getByRole('button', { name: 'What do I do?' }).click();
  const answer = page.getByRole('status', { name: 'Answer' });
  await expect(answer).toContainText('length wear of row 1 goes minus 0.031');
  await expect(answer).not.toContainText('Measure again');
  // the same part's other sizes are first-offs as well, the next part's are not
  await page.getByRole('button', { name: /^Bearing pocket / }).click();
  await expect(tick).toBeChecked();
  const part = form.getByLabel('Part', { exact: true });
  await part.fill(String(Number(await part.inputValue()) + 1));
  await expect(tick).not.toBeChecked();
});
