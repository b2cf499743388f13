import { expect, noMoreMade, ready, test } from './cell.ts';

test.use({ own: 'breakage' });

test('a drill that is found short is broken: its parts are held back, answered for, and only then is it cleared', async ({
  as,
  browser,
  server,
}) => {
  const operator = await as('operator');
  await operator.goto('/machines/1/checks?tool=5');
  await ready(operator);
  const row = operator.getByRole('listitem').filter({ hasText: 'A-105' });
  await expect(row).toContainText('T6 would go into what it did not open');
  const check = row.getByRole('form', { name: 'Check T5' });
  // its length in the other unit is a slip, and stops nothing
  await check.getByLabel('It measures, mm').fill(String(138.114 / 25.4));
  await check.getByRole('button', { name: 'Judge it' }).click();
  await expect(row.getByRole('status')).toContainText('cannot tell');
  await expect(row.getByRole('status')).toContainText('in the other unit');
  await expect(row.getByText('In quarantine')).toBeHidden();
  await check.getByLabel('It measures, mm').fill('131.2');
  await check.getByRole('button', { name: 'Judge it' }).click();
  await expect(row.getByRole('status')).toContainText('broken, 6.914 mm short');
  await row.getByRole('link', { name: 'In quarantine' }).click();
  await expect(operator.getByRole('heading', { level: 1 })).toHaveText('A-105 broke');
  await expect(operator.getByText('T6 (tap) went into holes that T5 had not drilled')).toBeVisible();
  await expect(operator.getByRole('link', { name: /Avocet O2301/ })).toContainText('it is running');
  // an operator inspects, and does not clear
  await expect(operator.getByRole('button', { name: 'Clear it' })).toBeHidden();
  const look = operator.getByRole('form', { name: /^Look at part \d+ next$/ });
  const newest = Number(/\d+/.exec(await look.innerText())![0]);
  await look.getByRole('button', { name: 'Scrap' }).click();
  await expect(look.getByRole('alert')).toHaveText('Say what was found.');
  await look.getByLabel(/What was found/).fill('a stub in the third hole');
  await look.getByRole('button', { name: 'Scrap' }).click();
  await expect(operator.getByText('Scrap: a stub in the third hole')).toBeVisible();
  const address = new URL(operator.url()).pathname;

  // the program says so at once, on another tablet
  const context = await browser.newContext({ baseURL: server.url });
  const lead = await as('lead', await context.newPage());
  await lead.goto('/programs/4');
  await ready(lead);
  await expect(lead.getByText(/T5, assembly A-105 .* is flagged broken and in quarantine/)).toBeVisible();
  await lead.goto('/leaf');
  await ready(lead);
  await lead.getByRole('link', { name: /Avocet T5 \(A-105\) is broken/ }).click();
  await ready(lead);
  // hundreds were cut since it was measured: the one before is good, and so are all before that
  const held = Number(/(\d+) parts are held back/.exec(await lead.getByRole('status').innerText())![1]);
  expect(held).toBeGreaterThan(500);
  const one = lead.getByRole('form', { name: new RegExp(`^Part ${newest - 1} of O2301, job of 90`) });
  await one.getByRole('button', { name: 'Rework' }).click();
  await expect(one.getByRole('alert')).toHaveText('Say what was found.');
  const several = lead.getByRole('form', { name: 'Several parts at once' });
  const job = several.getByRole('combobox').first();
  await job.selectOption((await job.getByRole('option', { name: /job of 90/ }).innerText()).trim());
  await several.getByLabel('from part').fill(String(newest - 3));
  await several.getByLabel('to part').fill(String(newest - 1));
  await several.getByRole('combobox').nth(1).selectOption('rework');
  await several.getByLabel('What was found').fill('holes not to depth');
  await several.getByRole('button', { name: 'Answer them' }).click();
  await expect(lead.getByText('Rework: holes not to depth')).toHaveCount(3);
  for (let looks = 0; looks < 12; looks += 1) {
    const next = lead.getByRole('form', { name: /^Look at part \d+ next$/ });
    if (!(await next.isVisible())) break;
    const before = await lead.getByRole('status').innerText();
    await next.getByRole('button', { name: 'Good' }).click();
    await expect(lead.getByRole('status')).not.toHaveText(before);
  }
  const last = lead.getByRole('form', { name: /^Part \d+ of/ });
  if ((await last.count()) === 1) await last.getByRole('button', { name: 'Good' }).click();
  await expect(lead.getByRole('status')).toHaveText('The tool is not replaced yet.');
  await expect(lead.getByRole('button', { name: 'Clear it' })).toBeDisabled();
  await expect(lead.getByRole('status')).toHaveText('The tool is not replaced yet.');
  await lead.getByRole('link', { name: 'Replace it' }).click();
  await ready(lead);
  await lead.getByRole('button', { name: 'Begin' }).click();
  await noMoreMade(lead.getByRole('form', { name: 'Change the edge or the tool' }));
  await lead.getByLabel('What was changed').fill('a new drill');
  await expect(lead.getByRole('radio', { name: 'broken' })).toBeChecked();
  await lead.getByRole('button', { name: 'Done: change the edge or the tool' }).click();
  await lead.getByRole('button', { name: 'Done: set the life left' }).click();
  await lead.goto(address);
  await ready(lead);
  await expect(lead.getByRole('button', { name: 'Clear it' })).toBeDisabled();
  await expect(lead.getByRole('status')).toHaveText('The new tool is not measured yet.');
  await lead.getByRole('link', { name: 'Measure it' }).click();
  await ready(lead);
  await lead.getByRole('button', { name: 'Done: clear the expired flag' }).click();
  await lead.getByLabel(/Gauge length/).fill('138.02');
  await lead.getByRole('button', { name: 'Done: measure again' }).click();
  await expect(lead.getByRole('button', { name: 'Done: zero the wear' })).toBeVisible();
  await lead.goto(address);
  await ready(lead);
  await lead.getByRole('button', { name: 'Clear it' }).click();
  await expect(lead.getByText(/^Cleared:/)).toBeVisible();
  await lead.goto('/programs/4');
  await ready(lead);
  await expect(lead.getByText(/T5, assembly A-105 .* is flagged broken/)).toBeHidden();
  await context.close();
});

test('the lead decides how a tool is checked, and a limit that is none is refused', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/machines/1/checks');
  await ready(page);
  const row = page.getByRole('listitem').filter({ hasText: 'A-101' });
  await expect(row).toContainText('Not checked');
  await row.getByText('Decide how').click();
  const form = row.getByRole('form', { name: 'Decide how T1 is checked' });
  await form.getByLabel('When').selectOption('after it has cut');
  await form.getByRole('combobox', { name: 'How' }).selectOption('by laser');
  await form.getByLabel('Short by, mm').fill('0');
  await form.getByRole('button', { name: 'Decide' }).click();
  await expect(form.getByRole('alert')).toHaveText('A limit is above zero.');
  await form.getByLabel('Short by, mm').fill('0.2');
  await form.getByRole('button', { name: 'Decide' }).click();
  await expect(row).toContainText('By laser, after it has cut');
  await expect(row).toContainText('Broken when short by 0.200 mm');
});
