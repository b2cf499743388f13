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

test('the work offset was moved in the middle of a job: whoever did it says so, what waits is withdrawn, and the next part is a first-off', async ({
  as,
  browser,
}) => {
  const page = await as('setter');
  await page.goto('/machines/2/now');
  await ready(page);
  await page.getByText('Work offset, jaws or fixture changed').click();
  const form = page.getByRole('form', { name: 'Say that it was set up anew' });
  await form.getByRole('button', { name: 'It was set up anew' }).click();
  // without what was changed nobody could look for it later
  await expect(form.getByRole('alert')).toContainText('What was changed');
  await form.getByLabel('What was changed').fill('work offset moved');
  await expect(form.getByLabel('First part cut so')).not.toHaveValue('');
  // somebody else records a part meanwhile: what is being said stays open
  const other = await as('operator', await browser.newPage());
  await other.goto('/machines/2/now');
  await ready(other);
  await other.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('The last count: 1 part')).toBeVisible();
  await expect(form.getByLabel('What was changed')).toHaveValue('work offset moved');
  await form.getByRole('button', { name: 'It was set up anew' }).click();
  await expect(page.getByRole('button', { name: /^Ring width .*not yet/ })).toBeVisible();
  await page.getByRole('button', { name: /^Ring width / }).click();
  await expect(page.getByRole('checkbox', { name: 'after a set-up (first-off)' })).toBeChecked();
  // a sheet begins with the first part of the new set-up too, not with one that was cut before
  const part = await page.getByLabel('Part', { exact: true }).inputValue();
  await page.goto('/machines/2/sheet');
  await ready(page);
  await expect(page.getByLabel('Part', { exact: true })).toHaveValue(part);
  await expect(page.getByRole('checkbox', { name: 'after a set-up (first-off)' })).toBeChecked();
  // nothing is foretold of a set-up that nobody has measured
  await page.goto('/programs/6/drift');
  await ready(page);
  await expect(page.getByText('Set up anew since it was measured')).toBeVisible();
  await expect(page.getByText('the next part, as a first-off')).toBeVisible();
  await expect(page.getByText('Next correction')).toHaveCount(0);
  await expect(page.getByText('What lies ahead is of another set-up, and not foretold.')).toBeVisible();
  await page.goto('/ledger?machine=2');
  await expect(page.getByRole('row', { name: /O3104 .* was set up anew on Bittern/ }).first()).toBeVisible();
});

test('whoever only looks, or records parts, is not asked whether it was set up anew', async ({ as }) => {
  const page = await as('viewer');
  await page.goto('/machines/3/now');
  await ready(page);
  await expect(page.getByText('Work offset, jaws or fixture changed')).toHaveCount(0);
});

test('the first part of a new set-up is proposed by what is cut when somebody asks, not when the page was opened', async ({
  as,
  browser,
}) => {
  const page = await as('setter');
  await page.goto('/machines/4/now');
  await ready(page);
  const other = await as('operator', await browser.newPage());
  await other.goto('/machines/4/now');
  await ready(other);
  await other.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('41 of 80')).toBeVisible();
  await page.getByText('Work offset, jaws or fixture changed').click();
  const form = page.getByRole('form', { name: 'Say that it was set up anew' });
  await expect(form.getByLabel('First part cut so')).toHaveValue('42');
  await expect(form.getByRole('checkbox', { name: 'I do not know' })).not.toBeChecked();
});
