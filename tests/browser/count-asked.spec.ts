import { expect, ready, test } from './cell.ts';

test.use({ own: 'count-asked' });

test('a count that cannot be is asked about: all parts typed for the new ones, and a number that is right all the same', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/1/now');
  await ready(page);
  const made = page.getByRole('progressbar', { name: 'Parts made' });
  const form = page.getByRole('form', { name: 'Record parts' });
  const number = form.getByRole('textbox', { name: 'Parts made' });
  const record = form.getByRole('button', { name: 'Record', exact: true });
  // 51 of 90 on record; somebody reads 54 off the box and types that
  await expect(made).toHaveAttribute('value', '51');
  await number.fill('54');
  await record.click();
  await expect(form.getByRole('alert')).toContainText('54 more are 105 of 90');
  await expect(made).toHaveAttribute('value', '51');
  await form.getByRole('button', { name: '3 more, 54 in all' }).click();
  await expect(made).toHaveAttribute('value', '54');
  await expect(form.getByRole('alert')).toHaveCount(0);
  // another number is another question; who looked says so
  await number.fill('30');
  await record.click();
  await expect(form.getByRole('button', { name: 'Yes, 30 more, 84 in all' })).toBeVisible();
  await number.fill('20');
  await expect(form.getByRole('button', { name: /^Yes/ })).toHaveCount(0);
  await record.click();
  await form.getByRole('button', { name: 'Yes, 20 more, 74 in all' }).click();
  await expect(made).toHaveAttribute('value', '74');
});

test('typed without a network it comes back as the same question, and is answered there', async ({ as }) => {
  const page = await as('operator');
  await page.goto('/machines/3/now');
  await ready(page);
  await page.context().setOffline(true);
  const form = page.getByRole('form', { name: 'Record parts' });
  await form.getByRole('textbox', { name: 'Parts made' }).fill('88');
  await form.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('88 parts of O1402')).toBeVisible();
  await page.context().setOffline(false);
  const question = page.getByRole('alert', { name: 'Not taken: 88 parts of O1402' });
  await expect(question).toContainText('88 more are 238 of 240', { timeout: 40_000 });
  await question.getByRole('button', { name: 'Yes, 88 more, 238 in all' }).click();
  await expect(question).toHaveCount(0, { timeout: 40_000 });
  await expect(page.getByRole('progressbar', { name: 'Parts made' })).toHaveAttribute('value', '238', {
    timeout: 20_000,
  });
});

test('how long a machine runs on without people is said once, and holds on every page', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/machines/1/night');
  await ready(page);
  const hours = page.getByLabel('Hours it runs on after a shift');
  await expect(hours).toHaveValue('0');
  await hours.fill('500');
  const form = page.getByRole('form', { name: 'How long it runs on' });
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(form.getByRole('alert')).toContainText('at most 168');
  await hours.fill('6');
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(form.getByRole('alert')).toHaveCount(0);
  await page.goto('/ledger');
  await expect(page.getByText('Avocet runs on for 6 hours after the people have gone.')).toBeVisible();
  await page.goto('/machines/1/night');
  await ready(page);
  await expect(hours).toHaveValue('6');
  // who may not change a machine reads it
  const other = await as('operator', await page.context().browser()!.newPage());
  await other.goto('/machines/1/night');
  await expect(other.getByText('It runs on for 6 hours after a shift.')).toBeVisible();
});

test('parts that are scrap are written down with what is wrong, and as many are made again', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/2/now');
  await ready(page);
  const job = page.getByRole('region', { name: /^O3104/ });
  await expect(job).toContainText('5 of 30');
  await job.getByText('Some are scrap').click();
  const form = job.getByRole('form', { name: 'Parts that are scrap' });
  await form.getByLabel('Scrap, of the 5 made').fill('9');
  await form.getByLabel('What is wrong with them').fill('part 4, bore over its limit');
  await form.getByRole('button', { name: 'Write it down' }).click();
  await expect(form.getByRole('alert')).toContainText('9 are more than the 5 that were made');
  await form.getByLabel('Scrap, of the 5 made').fill('1');
  await form.getByRole('button', { name: 'Write it down' }).click();
  await expect(job).toContainText('5 of 31');
  await expect(job.getByText('1 of them scrap')).toBeVisible();
  await page.goto('/leaf');
  await expect(page.getByText(/1 part of O3104 is scrap, 1 in all; 31 are to be made/)).toBeVisible();
});
