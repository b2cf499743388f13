import { expect, noMoreMade, ready, test } from './cell.ts';
import { takenAsLoadPlan } from './planned.ts';

test.use({ own: 'keys' });

test('a stray scan or key changes nothing: a scan only opens what it names, whatever has the focus', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/1');
  await ready(page);
  await page.locator('[data-pocket="9"]').click();
  const takeOut = page.getByRole('button', { name: /Take it out/ });
  await expect(takeOut).toBeVisible();
  const chosen = page.getByRole('heading', { name: /^T\d+ / }).first();
  const before = await chosen.innerText();
  await takeOut.focus();
  // x takes out with Alt only; a scanner types the letters at once, with Enter behind them
  await page.keyboard.press('x');
  await page.waitForTimeout(120);
  // all at once, as a scanner sends them: one by one they are as slow as the machine that runs the test
  await Promise.all([...'fx-12x'].map((key) => page.keyboard.press(key)));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await expect(page.getByRole('dialog').getByRole('combobox')).toHaveValue(/fx-12/);
  await page.keyboard.press('Escape');
  await expect(takeOut).toBeVisible();
  await expect(chosen).toHaveText(before);
});

test('keys can be switched off, and stay off', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/corrections');
  await ready(page);
  await page.keyboard.press('/');
  await page.getByLabel(/keyboard shortcuts off/).check();
  await page.keyboard.press('Escape');
  await page.waitForTimeout(120);
  await page.keyboard.press('g');
  await page.waitForTimeout(120);
  await page.keyboard.press('t');
  await page.reload();
  await ready(page);
  await page.keyboard.press('/');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page).toHaveURL(/corrections/);
  await page.keyboard.press('Control+k');
  await page.getByLabel(/keyboard shortcuts off/).uncheck();
  await page.keyboard.press('Escape');
  await page.waitForTimeout(120);
  await page.keyboard.press('/');
  await expect(page.getByRole('dialog')).toBeVisible();
});

test('whoever signs in in another tab does not sign what this page was opened for; what was typed stays', async ({
  as,
  context,
}) => {
  const page = await as('setter');
  await page.goto('/machines/1');
  await ready(page);
  await page.locator('[data-pocket="9"]').click();
  const why = page.getByLabel('Why it is taken out');
  await why.fill('to look at it');
  const other = await context.newPage();
  await as('lead', other);
  await noMoreMade(page.getByRole('form', { name: 'Take out' }));
  await page.getByRole('button', { name: /Take it out/ }).click();
  await expect(page.getByRole('alert')).toContainText('opened by somebody else');
  await expect(why).toHaveValue('to look at it');
});

test('after a step of a load plan the focus is on the next', async ({ as }) => {
  const page = await as('setter');
  await takenAsLoadPlan(page, 'program=3&program=4');
  const card = page.getByRole('region', { name: 'The next step' });
  await expect(card).toBeVisible();
  await ready(page);
  const before = await page.getByRole('status').innerText();
  for (const box of await card.getByRole('checkbox').all()) await box.check();
  await card.getByRole('button', { name: /Done/ }).click();
  await expect(page.getByRole('status')).not.toHaveText(before);
  await expect
    .poll(() => page.evaluate(() => document.activeElement?.closest('[data-goes-on]') !== null))
    .toBe(true);
});
