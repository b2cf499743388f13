import { expect, ready, test } from './cell.ts';

test.use({ own: 'sessions' });

test('a lead sees who is signed in where, and ends it: the other page goes to signing in, but not under somebody’s hands', async ({
  as,
  browser,
  server,
}) => {
  const elsewhere = await browser.newContext({ baseURL: server.url });
  const two = await as('setter', await elsewhere.newPage());
  await two.goto('/machines/1/now');
  await ready(two);
  const typing = await elsewhere.newPage();
  await typing.goto('/machines/2/now');
  await ready(typing);
  await typing
    .getByLabel(/^Reading/)
    .first()
    .fill('12.3');
  const lead = await as('lead');
  await lead.goto('/people');
  await ready(lead);
  await lead.getByRole('link', { name: 'Signed in' }).click();
  await expect(lead.getByRole('heading', { name: 'Signed in' })).toBeVisible();
  const list = lead.getByRole('list', { name: 'Signed in' });
  await expect(list.getByRole('listitem').filter({ hasText: 'Maren Holt' })).toContainText('this one');
  const tries = lead.getByRole('region', { name: 'Tries to sign in' });
  await expect(tries.getByRole('row').nth(1)).toContainText('let in');
  await lead.getByRole('button', { name: 'End it' }).first().click();
  await two.waitForURL('**/sign-in?to=**');
  await expect(typing.getByText('You are signed out on this tablet.')).toBeVisible();
  await expect(typing.getByLabel(/^Reading/).first()).toHaveValue('12.3');
  await expect(list.getByRole('listitem').filter({ hasText: 'Ilya Brandt' })).toHaveCount(0);
  // it is in the ledger, with who did it
  await lead.goto('/ledger');
  await ready(lead);
  await expect(lead.getByText('A session of Ilya Brandt was ended.')).toBeVisible();
  // and signing in leads back
  await two.getByLabel('Badge').fill('1002');
  await two.getByLabel('PIN').fill('0000');
  await two.keyboard.press('Enter');
  await expect(two.getByText('Badge and PIN do not match.')).toBeVisible();
  await lead.goto('/people/sessions');
  await ready(lead);
  await expect(tries.getByRole('row').nth(1)).toContainText('refused');
  // signed in again beside it, the page on which something was typed goes on
  await as('setter', two);
  await expect(typing.getByText('You are signed out on this tablet.')).toHaveCount(0);
  await expect(typing.getByLabel(/^Reading/).first()).toHaveValue('12.3');
  const taken = typing.waitForResponse('**/now?/take');
  await typing.getByRole('button', { name: 'What do I do?' }).first().click();
  expect(await (await taken).json()).toMatchObject({ type: 'success' });
});
