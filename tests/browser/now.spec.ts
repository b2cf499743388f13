import type { Page } from '@playwright/test';
import { PINS } from '../support/server.ts';
import { atLeaf, expect, ready, test } from './cell.ts';

test.use({ own: 'now' });

test('each role lands where its work is; an operator’s tablet keeps its machine', async ({
  browser,
  server,
}) => {
  const landed = async (role: string, context = browser.newContext()) => {
    const page = await (await context).newPage();
    await page.goto(`${server.url}/sign-in`);
    await ready(page);
    const [badge, pin] = PINS[role]!;
    await page.getByLabel('Badge number', { exact: true }).fill(badge);
    await page.getByLabel('PIN', { exact: true }).fill(pin);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForURL((url) => url.pathname !== '/sign-in' && url.pathname !== '/');
    await ready(page);
    return page;
  };
  expect(new URL((await landed('lead')).url()).pathname).toMatch(/^\/leaf\//);
  for (const [role, heading] of [
    ['setter', 'Build'],
    ['crib', 'Issue and buy'],
    ['inspector', 'Inspect'],
  ] as const)
    await expect((await landed(role)).getByRole('heading', { level: 2 }).first()).toHaveText(heading);

  const tablet = browser.newContext();
  const page = await landed('operator', tablet);
  await page
    .getByRole('region', { name: 'Which machine does this tablet stand at?' })
    .getByRole('link', { name: 'Curlew' })
    .click();
  await expect(page.getByRole('heading', { name: /GUIDE VANE PIN/ })).toBeVisible();
  await page.goto(`${server.url}/`);
  await expect(page).toHaveURL(/\/machines\/3\/now$/);
});

test('every old address of a machine leads on, with what it asked for', async ({ as }) => {
  const page = await as('lead');
  for (const [old, now] of [
    ['/machines/3/run', '/machines/3/now'],
    ['/machines/3/readings?feature=2', '/machines/3/now?feature=2'],
    ['/machines/1/registers?all', '/machines/1/numbers?all'],
    ['/machines/1/lengths?to=2', '/machines/1/numbers?to=2'],
  ] as const) {
    expect((await page.goto(old))!.status()).toBe(200);
    expect(new URL(page.url()).pathname + new URL(page.url()).search).toBe(now);
  }
});

test('with a finger a reading is typed on a pad of our own, one thing at a time on a phone', async ({
  browser,
  server,
  as,
}) => {
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
  });
  const page = await as('operator', await context.newPage());
  await page.goto(`${server.url}/machines/3/now`);
  await ready(page);
  await expect(page.getByRole('heading', { name: /GUIDE VANE PIN/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'What do I do?' })).toBeHidden();
  await page.getByRole('button', { name: 'Measure' }).tap();
  await expect(page.getByRole('button', { name: /^Record/ }).first()).toBeHidden();
  await page.getByRole('button', { name: /^Journal OD/ }).tap();
  const reading = page.getByLabel(/^Reading, in/);
  await reading.tap();
  await expect(reading).toHaveAttribute('inputmode', 'none');
  const pad = page.getByRole('group', { name: /^Number pad/ });
  for (const key of ['1', 'point', '2', '4', '9', '9', 'Rub out', '5'])
    await pad.getByRole('button', { name: key, exact: true }).tap();
  await expect(reading).toHaveValue('1.2495');
  for (const key of await pad.getByRole('button').all())
    expect((await key.boundingBox())!.height).toBeGreaterThanOrEqual(44);
  await pad.getByRole('button', { name: 'Done' }).tap();
  await expect(pad).toBeHidden();
  await page.getByRole('button', { name: 'What do I do?' }).tap();
  await expect(page.getByRole('status', { name: 'Answer' })).toContainText('Leave it');
  // the one just measured goes to the foot of the list, and the next is offered
  await page.getByRole('button', { name: 'Next feature' }).tap();
  await expect(page.locator('#measure')).not.toHaveText('Journal OD');
  await context.close();
});

test('a tool that runs out: the operator is told who renews it and calls them; a setter begins there', async ({
  as,
  browser,
}) => {
  const page = await as('operator');
  await page.goto('/machines/3/now');
  await ready(page);
  const tools = page.getByRole('region', { name: 'Tools, soonest first' });
  const first = tools.getByRole('listitem').first();
  await expect(first).toContainText('T2');
  const left = Number(/(\d+) parts?\s*$/.exec((await first.locator('summary').innerText()).trim())![1]);
  await page.getByRole('textbox', { name: 'Parts made' }).fill(String(left + 1));
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('T2');
  await expect(first).toContainText('run out');
  await first.locator('summary').click();
  await expect(first).toContainText('setter');
  await first.getByRole('button', { name: 'Call for somebody' }).click();
  await expect(first.getByRole('status')).toContainText('Called');

  const setter = await as('setter', await (await browser.newContext()).newPage());
  await atLeaf(setter, new URL(page.url()).origin);
  await expect(setter.getByText(/T2 \(L-202\) has run out: please come to Curlew/).first()).toBeVisible();
  await setter.goto(new URL('/machines/3/now', page.url()).href);
  await ready(setter);
  const theirs = setter.getByRole('region', { name: 'Tools, soonest first' }).getByRole('listitem').first();
  await theirs.locator('summary').click();
  await expect(theirs.getByRole('link', { name: /Load sister L-221/ })).toBeVisible();
  await theirs.getByRole('button', { name: 'Renew' }).click();
  await expect(setter).toHaveURL(/\/tools\/\d+$/);
  await expect(setter.getByRole('heading', { name: /Renewal/ })).toBeVisible();
});

test('a tool that breaks is said at the machine: it stands first, as broken, on Now and on the leaf', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/1/now');
  await ready(page);
  const tools = page.getByRole('region', { name: 'Tools, soonest first' });
  const tap = tools.getByRole('listitem').filter({ hasText: 'T6' }).first();
  await tap.locator('summary').click();
  await tap.getByLabel('What happened to T6').fill('Snapped in part 52.');
  await tap.getByRole('button', { name: 'It broke' }).click();
  const first = tools.getByRole('listitem').first();
  await expect(first).toContainText('T6');
  await expect(first).toContainText('broken');
  await expect(first).toContainText(/Hold the part/);
  await page.goto('/leaf');
  const row = page.getByRole('row', { name: /Avocet/ }).first();
  await expect(row).toContainText('broken');
  await expect(row).toContainText('inspect the part first');
});

test('a wrong count is taken back at the machine: the tools have their life again', async ({ as }) => {
  const page = await as('operator');
  await page.goto('/machines/4/now');
  await ready(page);
  // what is reckoned on since the last count stands above them, and grows by a part every few minutes
  const tools = page.getByRole('region', { name: 'Tools, soonest first' }).getByRole('listitem');
  const before = await tools.allInnerTexts();
  expect(before.join()).toMatch(/T1\b.* parts/s);
  const made = await page.getByText(/^\d+ of 80$/).innerText();
  await page.getByRole('textbox', { name: 'Parts made' }).fill('7');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('47 of 80')).toBeVisible();
  await page.getByText(/Counted wrongly\?/).click();
  const back = page.getByRole('form', { name: 'Take the last count back' });
  await back.getByLabel('What was wrong with the count').fill('Seven were counted twice.');
  await back.getByRole('button', { name: 'Take 7 back' }).click();
  await expect(page.getByText(made)).toBeVisible();
  expect(await tools.allInnerTexts()).toEqual(before);
});

test('a wrong count becomes the right one in one step', async ({ as }) => {
  const page = await as('operator');
  await page.goto('/machines/4/now');
  await ready(page);
  const made = Number((await page.getByText(/^\d+ of 80$/).innerText()).split(' ')[0]);
  await page.getByRole('textbox', { name: 'Parts made' }).fill('8');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(`${made + 8} of 80`)).toBeVisible();
  await page.getByText(/Counted wrongly\?/).click();
  const back = page.getByRole('form', { name: 'Take the last count back' });
  await back.getByLabel('What was wrong with the count').fill('Five, not eight.');
  await back.getByLabel(/How many it really was/).fill('5');
  await back.getByRole('button', { name: 'Make it 5, not 8' }).click();
  await expect(page.getByText(`${made + 5} of 80`)).toBeVisible();
  await expect(page.getByText(/The last count: 5 parts/)).toBeVisible();
});

test('a cycle that was broken off takes what was cut off the tools, makes no part, and can be taken back', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/1/now');
  await ready(page);
  const made = await page.getByText(/^\d+ of 90$/).innerText();
  await page.getByText('A cycle was broken off').click();
  const form = page.getByRole('form', { name: 'A cycle was broken off' });
  await form.getByRole('combobox').selectOption('T2');
  await form.getByRole('button', { name: 'Count what it cut' }).click();
  await form.getByLabel('Why it was broken off').fill('chip in the vice');
  await form.getByRole('button', { name: 'Count what it cut' }).click();
  await expect(page.getByText(/The last count: a cycle broken off/)).toBeVisible();
  await expect(page.getByText(/^\d+ of 90$/)).toHaveText(made);
  await page.getByText(/The last count: a cycle broken off/).click();
  await page.getByLabel('What was wrong with the count').fill('it was finished after all');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText(/The last count: a cycle broken off/)).toBeHidden();
});

test('two people who write one broken cycle down: the second is asked whether it is another one', async ({
  as,
  browser,
  server,
}) => {
  const began = async (page: Page, why: string) => {
    await page.goto('/machines/1/now');
    await ready(page);
    await page.getByText('A cycle was broken off').click();
    const form = page.getByRole('form', { name: 'A cycle was broken off' });
    await form.getByRole('combobox').selectOption('T2');
    await form.getByLabel('Why it was broken off').fill(why);
    return form;
  };
  const other = await as('setter', await (await browser.newContext({ baseURL: server.url })).newPage());
  const [first, second] = [
    await began(await as('operator'), 'coolant ran dry'),
    await began(other, 'no coolant'),
  ];
  await first.getByRole('button', { name: 'Count what it cut' }).click();
  await expect(other.getByText(/The last count: a cycle broken off/)).toBeVisible();
  await second.getByRole('button', { name: 'Count what it cut' }).click();
  await expect(second.getByRole('alert')).toContainText(
    /wrote down meanwhile: "A cycle of .* was broken off at T2/,
  );
  await expect(second.getByLabel('Why it was broken off')).toHaveValue('no coolant');
  await second.getByRole('button', { name: 'Another cycle' }).click();
  await expect(second.getByRole('alert')).toBeHidden();
  await expect(second.getByLabel('Why it was broken off')).toHaveValue('');
});
