import type { Page } from '@playwright/test';
import { expect, ready, test } from './cell.ts';

test.use({ own: 'typed' });

/** Somebody else counts parts of what runs on a machine; the open page of the first shows it. */
async function counted(colleague: Page, machine: number, parts: string, page: Page): Promise<void> {
  await colleague.goto(`/machines/${machine}/now`);
  await ready(colleague);
  const made = colleague.getByRole('progressbar', { name: 'Parts made' });
  const before = Number(await made.getAttribute('value'));
  const form = colleague.getByRole('form', { name: 'Record parts' });
  await form.getByRole('textbox', { name: 'Parts made' }).fill(parts);
  // the page asks for its data anew once it has heard of it
  const heard = page.waitForResponse((answer) => answer.url().includes('__data.json'));
  await form.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(made).toHaveAttribute('value', String(before + Number(parts)));
  await heard;
  await page.waitForTimeout(300);
}
const measuredOf = async (page: Page, part: number) => {
  await page.goto('/ledger');
  await ready(page);
  return page.getByText(new RegExp(`of part ${part} measured`));
};

test('the part that somebody typed stays while others count, and while the reading is questioned', async ({
  as,
  browser,
}) => {
  const page = await as('operator');
  const colleague = await as('setter', await browser.newPage());
  await page.goto('/machines/3/now');
  await ready(page);
  await page.getByRole('button', { name: /^Bearing seat OD (?!\(2nd)/ }).click();
  const form = page.getByRole('form', { name: 'Type a reading' });
  const part = form.getByLabel('Part', { exact: true });
  const reading = form.getByLabel(/^Reading, /);
  const proposed = Number(await part.inputValue());
  // a few that nobody has recorded yet
  const other = proposed + 7;
  await part.fill(String(other));
  await counted(colleague, 3, '1', page);
  await expect(part).toHaveValue(String(other));
  // a digit left out: it is questioned, and the part is what it was
  await reading.fill('1.3781');
  await reading.fill('1.278');
  await form.getByRole('button', { name: 'What do I do?' }).click();
  await expect(page.getByRole('status', { name: 'Answer' })).toContainText('Measure again');
  await page.waitForTimeout(800);
  await expect(part).toHaveValue(String(other));
  await reading.fill('1.3781');
  await form.getByRole('button', { name: 'What do I do?' }).click();
  await expect(reading).toHaveValue('');
  // the next is the one that is likely measured next, again
  await expect(part).not.toHaveValue(String(other));
  expect(Number(await part.inputValue())).toBeGreaterThanOrEqual(proposed);

  // who has begun to type a size means the part that stood beside it then
  const standing = await part.inputValue();
  await reading.fill('1.37');
  await counted(colleague, 3, '2', page);
  await expect(part).toHaveValue(standing);
  // the one that was questioned, and the one that counts
  await expect(await measuredOf(page, other)).toHaveCount(2);
});

test('a size that somebody has begun to type stays, whatever becomes more urgent; of another program it is put aside with a word', async ({
  as,
  browser,
}) => {
  const page = await as('operator');
  const colleague = await as('setter', await browser.newPage());
  await page.goto('/machines/3/now');
  await ready(page);
  const form = page.getByRole('form', { name: 'Type a reading' });
  const first = await page.getByRole('button', { pressed: true }).first().innerText();
  const name = first.split('\n')[0]!;
  const heading = page.locator('#measure');
  await expect(heading).toHaveText(name);
  await form.getByLabel(/^Reading, /).fill('1.3');
  // the colleague measures it: another size is due first now
  await colleague.goto('/machines/3/sheet');
  await ready(colleague);
  await colleague.getByLabel(`${name}, in`, { exact: true }).fill('1.3780');
  const heard = page.waitForResponse((answer) => answer.url().includes('__data.json'));
  await colleague.getByLabel(`${name}, in`, { exact: true }).press('Enter');
  await heard;
  // what is to be measured again is as due as it was
  const sure = colleague.getByRole('checkbox', { name: 'I measured again and got the same.' });
  const said = colleague.getByRole('status', { name: `Answer to ${name}`, exact: true });
  await expect(said).toContainText(/\w/);
  if ((await sure.count()) > 0) {
    await sure.check();
    await colleague.getByLabel(`${name}, in`, { exact: true }).press('Enter');
    await expect(said).not.toContainText('Measure again');
  }
  await colleague.goto('/machines/3/now');
  await ready(colleague);
  await expect(colleague.locator('#measure')).not.toHaveText(name);
  await expect(heading).toHaveText(name);
  await expect(form.getByLabel(/^Reading, /)).toHaveValue('1.3');

  const other = page.getByLabel('Program', { exact: true });
  const options = await other
    .locator('option')
    .evaluateAll((all) => all.map((each) => each.getAttribute('value')!));
  const now = await other.inputValue();
  await other.selectOption(options.find((each) => each !== now)!);
  await expect(page.getByRole('alert').filter({ hasText: 'was typed for' })).toContainText(
    `1.3 in was typed for ${name}`,
  );
  await expect(form.getByLabel(/^Reading, /)).toHaveValue('');
  await page.getByRole('button', { name: 'Put it aside' }).click();
  await expect(page.getByText('was typed for')).toHaveCount(0);
});

test('what was typed is told as well where nothing at all is measured of what the machine runs next', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/machines/1/now');
  await ready(page);
  const name = await page.locator('#measure').innerText();
  await page
    .getByRole('form', { name: 'Type a reading' })
    .getByLabel(/^Reading, /)
    .fill('35.01');
  const bare = await page
    .locator('select[name="program"] option', { hasText: 'O2205' })
    .first()
    .getAttribute('value');
  // as the page itself goes from one program to another
  await page.evaluate((program) => {
    const link = document.createElement('a');
    link.href = `?program=${program}`;
    document.body.append(link);
    link.click();
  }, bare);
  await expect(page.locator('#measure')).toHaveCount(0);
  await expect(page.getByRole('alert').filter({ hasText: 'was typed for' })).toContainText(
    `35.01 mm was typed for ${name}`,
  );
  await page.getByRole('button', { name: 'Put it aside' }).click();
  await expect(page.getByText('was typed for')).toHaveCount(0);
});

test('all sizes on a sheet are of one part, whoever counts meanwhile, until the next part is asked for', async ({
  as,
  browser,
}) => {
  const page = await as('operator');
  const colleague = await as('setter', await browser.newPage());
  await page.goto('/machines/5/sheet');
  await ready(page);
  const part = page.getByLabel('Part', { exact: true });
  const field = (name: string) => page.getByLabel(`${name}, mm`, { exact: true });
  const other = Number(await part.inputValue()) + 9;
  await part.fill(String(other));
  await field('Face height').fill('80.001');
  await field('Face height').press('Enter');
  await expect(page.getByRole('status', { name: 'Answer to Face height' })).toContainText('Leave it');
  await expect(part).toHaveValue(String(other));
  await counted(colleague, 5, '1', page);
  await expect(part).toHaveValue(String(other));
  await field('Body depth').fill('207.602');
  await field('Body depth').press('Enter');
  await expect(page.getByRole('status', { name: 'Answer to Body depth' })).toContainText(
    /Leave it|Measure again/,
  );
  await page.getByRole('button', { name: 'Next part' }).click();
  await expect(part).not.toHaveValue(String(other));
  await expect(page.getByRole('status', { name: 'Answer to Face height' })).not.toContainText('Leave it');
  await expect(await measuredOf(page, other)).toHaveCount(2);
});

test('the first part cut with what was keyed is the one after the last that was counted then', async ({
  as,
  browser,
}) => {
  const page = await as('lead');
  const colleague = await as('setter', await browser.newPage());
  await page.goto('/machines/1/key');
  await ready(page);
  await page.getByRole('button', { name: 'I have keyed them' }).click();
  const first = page.getByLabel('First part cut with it');
  const standing = await first.inputValue();
  expect(Number(standing)).toBeGreaterThan(0);
  await counted(colleague, 1, '1', page);
  await expect(first).toHaveValue(standing);
  await first.fill('5');
  await counted(colleague, 1, '1', page);
  await expect(first).toHaveValue('5');
});

test('what was typed for one machine does not stand in the fields of the next, and a filter shows what the page was asked for', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/1/plate');
  await ready(page);
  const times = page.getByRole('form', { name: 'Two timed changes' });
  const seconds = times.getByLabel('seconds').first();
  const factor = times.getByLabel('A heavy tool takes this many times as long');
  await expect(times).toBeVisible();
  const usual = await factor.inputValue();
  await seconds.fill('12.3');
  await factor.fill('3.7');
  // along a link of the page, as the index and what is found go
  await page.evaluate(() => {
    const link = Object.assign(document.createElement('a'), { href: '/machines/2/plate' });
    document.querySelector('main')!.append(link);
    link.click();
  });
  await page.waitForURL('**/machines/2/plate');
  await expect(seconds).toHaveValue('');
  await expect(factor).toHaveValue(usual);

  await page.goto('/ledger?tool=3');
  await ready(page);
  const tool = page.getByRole('form', { name: 'Filter the ledger' }).getByLabel('T number');
  await expect(tool).toHaveValue('3');
  await tool.fill('12');
  await tool.press('Enter');
  await page.waitForURL(/tool=12/);
  await expect(tool).toHaveValue('12');
  await page.goBack();
  await page.waitForURL(/tool=3/);
  await expect(tool).toHaveValue('3');
});
