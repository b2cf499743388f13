import type { Page } from '@playwright/test';
import { expect, ready, test } from './cell.ts';

test.use({ own: 'held-back' });

async function measured(page: Page, size: string, part: number): Promise<void> {
  const form = page.getByRole('form', { name: 'Type a reading' });
  await form.getByLabel('Part', { exact: true }).fill(String(part));
  await form.getByLabel(/^Reading, /).fill(size);
  await form.getByRole('button', { name: 'What do I do?' }).click();
  await expect(page.getByRole('status', { name: 'Answer' })).toBeVisible();
}

test('an approved correction that newer parts speak against: nothing is keyed before the row was read, and what it shows settles it', async ({
  as,
  browser,
}) => {
  const page = await as('lead');
  const now = async () => {
    await page.goto('/machines/5/now');
    await ready(page);
    await page.getByRole('button', { name: /^Face height / }).click();
  };
  await now();
  const field = page.getByRole('form', { name: 'Type a reading' }).getByLabel('Part', { exact: true });
  const part = Number(await field.inputValue());
  await measured(page, '80.024', part);
  const answer = page.getByRole('status', { name: 'Answer' });
  await answer.getByRole('link', { name: 'To the correction' }).click();
  await page.getByRole('button', { name: /^Approve/ }).click();
  await expect(page.getByRole('heading', { name: 'Key on Egret' })).toBeVisible();
  const address = page.url();
  const from = (await page.getByText('It shows').locator('xpath=following-sibling::dd[1]').textContent())!;

  // whoever stands at the machine has the card before them as the parts come in
  const operator = await as('operator', await browser.newPage());
  await operator.goto(address);
  await ready(operator);
  await expect(operator.getByText('Make it', { exact: true })).toBeVisible();
  for (const [i, size] of ['80.001', '79.999', '80.000'].entries()) {
    await now();
    await measured(page, size, part + 1 + i);
  }
  await expect(answer).toContainText('Key nothing yet: read length wear of row 1 off the control first.');
  await expect(operator.getByRole('heading', { name: 'Read row 1 of Egret first' })).toBeVisible();
  await expect(operator.getByText('Make it', { exact: true })).toHaveCount(0);

  await page.goto('/machines/5/key');
  await ready(page);
  await expect(page.getByText('length wear, row 1, T1', { exact: false })).toBeVisible();
  await expect(page.getByText('Nothing to key')).toBeVisible();
  await page.goto('/leaf');
  await ready(page);
  await expect(
    page.getByRole('link', { name: /Egret T1, Face height .* held back, the row is to be read first/ }),
  ).toBeVisible();

  const back = operator.getByRole('form', { name: 'Read back' });
  await expect(back.getByRole('checkbox', { name: 'I do not know' })).toBeChecked();
  for (const name of [/^Read row 1 off the control/, /type it once more/])
    if ((await back.getByLabel(name).count()) > 0) await back.getByLabel(name).fill(from.replace('−', '-'));
  await back.getByRole('button', { name: 'The control shows this' }).click();
  await expect(operator.getByRole('heading', { name: 'This correction was overtaken.' })).toBeVisible();
  await expect(operator.getByText('it was not keyed, and by the parts since it is not needed')).toBeVisible();
});
