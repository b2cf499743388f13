import { expect, ready, test } from './cell.ts';

test.use({ own: 'wrong-reading' });

test('a part number with a digit too many is asked about, and a reading that was wrong is taken back at the machine', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/5/now');
  await ready(page);
  await page.getByRole('button', { name: /^Face height / }).click();
  const form = page.getByRole('form', { name: 'Type a reading' });
  const part = form.getByLabel('Part', { exact: true });
  const asked = Number(await part.inputValue());
  const answer = page.getByRole('status', { name: 'Answer' });
  await part.fill(`${asked}0`);
  await form.getByLabel(/^Reading, /).fill('80.024');
  await form.getByRole('button', { name: 'What do I do?' }).click();
  await expect(answer).toContainText('Which part?');
  await expect(answer).toContainText(`Part ${asked}0? O5103 stands at`);
  await expect(form.getByRole('checkbox', { name: 'I looked again: the part is right.' })).not.toBeChecked();
  // what was typed stands there still
  await expect(form.getByLabel(/^Reading, /)).toHaveValue('80.024');
  await part.fill(String(asked));
  await form.getByRole('button', { name: 'What do I do?' }).click();
  await expect(answer).toContainText('Too high');
  await answer.getByRole('link', { name: 'To the correction' }).click();
  await expect(page).toHaveURL(/\/corrections\/\d+$/);
  const correction = page.url();

  // it was another feature's size
  await page.goto('/machines/5/now');
  await ready(page);
  await page.getByRole('button', { name: /^Face height / }).click();
  await page.getByText('A reading was wrong?').click();
  const back = page.getByRole('form', { name: 'Take back a reading of Face height' });
  await expect(page.getByRole('radio', { name: new RegExp(`^part ${asked}: 80\\.024`) })).toBeChecked();
  await back.getByLabel('Why').fill('of another feature');
  await back.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('radio', { name: new RegExp(`^part ${asked}: 80\\.024`) })).toHaveCount(0);
  await page.goto(correction);
  await ready(page);
  await expect(page.getByRole('heading', { name: 'This correction was overtaken.' })).toBeVisible();
  await expect(
    page.getByText(/Withdrawn: A reading of Face height of part \d+, 80\.024 mm, was taken back/),
  ).toBeVisible();
});
