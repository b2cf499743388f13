import type { Page } from '@playwright/test';
import { faultsOf } from './axe.ts';
import { expect, noMoreMade, ready, test } from './cell.ts';

test.use({ own: 'plate' });

const plate = (page: Page) => page.getByRole('form', { name: 'The plate' });

test('the plate is recorded by the lead: a slip is refused, what was typed stays, and the ledger says what changed', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/2/plate');
  await ready(page);
  const all = plate(page).getByRole('textbox', { name: 'All tools together' });
  await expect(plate(page)).toContainText('not recorded');
  await all.fill('forty');
  await plate(page).getByRole('button', { name: 'Record the plate' }).click();
  await expect(plate(page).getByRole('alert')).toContainText('The mass of all tools is a number above zero');
  await expect(all).toHaveValue('forty');
  await all.fill('48.5');
  await plate(page).getByRole('textbox', { name: 'Out of balance' }).fill('0.9');
  await plate(page).getByRole('button', { name: 'Record the plate' }).click();
  await expect(
    plate(page).getByRole('progressbar', { name: /All tools together: \d+ % of the limit/ }),
  ).toBeVisible();
  expect(await faultsOf(page)).toEqual([]);
  await page.goto('/ledger');
  await ready(page);
  await expect(
    page.getByText(
      'The plate of Bittern was recorded: all tools together 48.5 kg (was not recorded), out of balance 0.9 kg·m',
    ),
  ).toBeVisible();
  await page.goto('/machines/2');
  await ready(page);
  await expect(page.getByRole('progressbar', { name: /All tools: \d+\.\d of 48\.5 kg/ })).toBeVisible();
});

test('what the form of a turret does not ask for stays on record', async ({ as, server }) => {
  const page = await as('lead');
  await page.goto('/machines/3/plate');
  await ready(page);
  await plate(page).getByRole('textbox', { name: 'Swing of the turret' }).fill('27');
  const recorded = page.waitForResponse((response) => response.request().method() === 'POST');
  await plate(page).getByRole('button', { name: 'Record the plate' }).click();
  await recorded;
  await expect(plate(page)).toContainText('now 25.71 in');
  await page.goto(`${server.url}/ledger`);
  await ready(page);
  await expect(
    page.getByText('The plate of Curlew was recorded: swing of the turret 27.0000 in (was 26.0000 in).'),
  ).toBeVisible();
});

test('two timed changes give the arm and the indexing; two of one length are refused', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/machines/2/plate');
  await ready(page);
  const timed = page.getByRole('form', { name: 'Two timed changes' });
  const fill = async (a: [string, string], b: [string, string]) => {
    for (const [i, [pockets, seconds]] of [a, b].entries()) {
      await timed.getByLabel('pockets').nth(i).fill(pockets);
      await timed.getByLabel('seconds').nth(i).fill(seconds);
    }
    await timed.getByRole('button', { name: 'Set the times' }).click();
  };
  await fill(['4', '5.2'], ['4', '5.4']);
  await expect(timed.getByRole('alert')).toContainText('a different number of pockets');
  await fill(['1', '4.5'], ['10', '9']);
  await expect(page.getByText('4.00 s', { exact: true })).toBeVisible();
  await expect(page.getByText('0.500 s', { exact: true })).toBeVisible();
});

test('a tool is brought to another pocket without a mouse, by the fewest calls', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines/1');
  await ready(page);
  await page.locator('[data-pocket="14"]').focus();
  await page.keyboard.press('Enter');
  const bring = page.getByRole('form', { name: 'Move it elsewhere' });
  await bring.getByLabel('Move T7 to pocket').fill('28');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/room\?from=14&to=28/);
  await expect(page.getByRole('status')).toContainText('2 calls bring it to pocket 28');
});

test('somebody else reads the plate and cannot write it, on a phone too', async ({ as }) => {
  const page = await as('operator');
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/machines/6/plate');
  await ready(page);
  await expect(plate(page).getByRole('textbox')).toHaveCount(0);
  await expect(page.getByText('holders up to 32.0 mm')).toBeVisible();
  await expect(page.getByRole('form', { name: 'Cells' })).toHaveCount(0);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('a holder larger than its cell is refused with both sizes; the cell is measured again and takes it', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/6');
  await ready(page);
  await page.locator('[data-pocket="75"]').click();
  await noMoreMade(page.getByRole('form', { name: 'Take out' }));
  await page.getByRole('form', { name: 'Take out' }).getByRole('button', { name: /Take/ }).click();
  await expect(page.getByRole('button', { name: 'pocket 75: empty' })).toBeVisible();
  await page.locator('[data-pocket="70"]').click();
  await expect(page.getByText('Its cell takes holders up to 32.0 mm.')).toBeVisible();
  const place = page.getByRole('form', { name: 'Place a tool' });
  await place.getByLabel('Assembly').selectOption({ label: 'F-620 Face mill 36' });
  await place.getByRole('button', { name: /It is in/ }).click();
  await expect(place.getByRole('alert')).toContainText(
    'Pocket 70 takes holders up to 32.0 mm, and this is 36.0 mm across.',
  );
  await page.goto('/machines/6/plate');
  await ready(page);
  const cells = page.getByRole('form', { name: 'Cells' });
  await cells.getByLabel('from').fill('70');
  await cells.getByLabel('to').fill('70');
  await cells.getByLabel(/largest holder/).fill('40');
  await cells.getByRole('button', { name: 'Set' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: '70 to 96' })).toContainText('40.0 mm');
  await page.goto('/machines/6');
  await ready(page);
  await page.locator('[data-pocket="70"]').click();
  await place.getByLabel('Assembly').selectOption({ label: 'F-620 Face mill 36' });
  await place.getByRole('button', { name: /It is in/ }).click();
  await expect(page.getByRole('button', { name: /^pocket 70: T\d+, F-620/ })).toBeVisible();
});

test('the pockets about the chosen one are seen from the side, by keyboard, with what an empty one lets hang', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/machines/1');
  await ready(page);
  await expect(page.getByRole('img', { name: /^From the side, pockets .*30, 1, 2, 3, 4/ })).toBeVisible();
  await page.locator('[data-pocket="8"]').focus();
  await page.keyboard.press('Enter');
  await expect(
    page.getByRole('img', { name: /^From the side, pockets .* 7, 8, 9, .*T3 and T4 pass at \d+\.\d mm/ }),
  ).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /Pocket 7 is empty/i })).toBeVisible();
  await expect(page.getByText(/^T3 in pocket 8 leaves room for 9\d\.\d mm across\./)).toBeVisible();
  // a chain is drawn over the whole width, large enough to touch
  await page.goto('/machines/5');
  await ready(page);
  const pocket = (await page.locator('[data-pocket="30"]').boundingBox())!;
  const other = (await page.locator('[data-pocket="31"]').boundingBox())!;
  expect(Math.hypot(pocket.x - other.x, pocket.y - other.y)).toBeGreaterThan(36);
});

test('the table of a past moment is shown as it was: a pocket taken out since stands in service', async ({
  as,
}) => {
  const page = await as('setter');
  const beginning = new Date().toISOString();
  await page.goto('/machines/1');
  await ready(page);
  await page.locator('[data-pocket="26"]').click();
  await page.getByText('What the table says of pocket 26').click();
  const out = page.getByRole('form', { name: 'Out of service' });
  await out.getByRole('textbox').fill('its claw is bent');
  await out.getByRole('button').click();
  await expect(page.getByRole('button', { name: 'pocket 26: out of service' })).toBeVisible();
  await page.goto(`/machines/1?at=${beginning}`);
  await ready(page);
  await expect(page.getByText('Nothing can be recorded here.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'pocket 26: empty' })).toBeVisible();
});

test('the rows of a second part on one bar are worked out, keyed and read back', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines/3/second-part');
  await ready(page);
  await page.getByLabel('Rows of the first part').fill('1 5');
  await page.getByLabel('Copied to rows higher by').fill('4');
  await page.getByLabel('Part length, in').fill('3.52');
  await page.getByLabel('Parting width, in').fill('0.125');
  await page.getByRole('button', { name: 'Work it out' }).click();
  await expect(page.getByRole('alert')).toContainText('Choose another block');
  await page.getByLabel('Copied to rows higher by').fill('30');
  await page.getByRole('button', { name: 'Work it out' }).click();
  await page.waitForURL(/block=30/);
  await ready(page);
  const row = page.getByRole('row').filter({ hasText: 'Z geometry' }).first();
  await expect(row).toContainText('31');
  const make = await row.getByRole('cell').nth(3).innerText();
  await page.getByText('Or run these lines').click();
  await expect(page.locator('pre')).toContainText(/^G20\n/);
  await page.getByRole('button', { name: 'I have keyed them' }).click();
  await expect(page.getByRole('table')).toHaveCount(0);
  const field = page.getByLabel('Z geometry, row 31');
  // the sign forgotten
  await field.fill(make.startsWith('−') ? make.slice(1) : `-${make.slice(1)}`);
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByRole('alert')).toContainText('sign');
  await field.fill(make);
  await page.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Z geometry' })).toHaveCount(1);
});

test('what is over the plate is called by nobody, is told at the magazine, and stops a program that would have it carried', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/1/plate');
  await ready(page);
  await plate(page).getByRole('textbox', { name: 'Heaviest tool' }).fill('0.9');
  const recorded = page.waitForResponse((response) => response.request().method() === 'POST');
  await plate(page).getByRole('button', { name: 'Record the plate' }).click();
  await recorded;
  await page.goto('/machines/1?pocket=3');
  await ready(page);
  const told = (where: string) =>
    page.getByRole('alert').filter({ hasText: `The changer must not take T1 in ${where}:` });
  await expect(told('pocket 3')).toBeVisible();
  const call = page.getByRole('form', { name: 'Call this pocket' });
  await call.getByRole('button', { name: /The control shows T1/ }).click();
  await expect(call.getByRole('alert')).toContainText('must not take T1 in pocket 3');
  await call.getByRole('checkbox', { name: /already been called/ }).check();
  await call.getByRole('button', { name: /The control shows T1/ }).click();
  await expect(told('the spindle')).toBeVisible();
  await page.goto('/machines/1/room');
  await ready(page);
  await expect(page.getByText(/must not take T1 in the spindle: .* Take it out by hand first/)).toBeVisible();
  await page.goto('/programs/4');
  await ready(page);
  await expect(
    page.getByText(/T2, assembly A-102, hangs in pocket 5 and is called on line/).first(),
  ).toBeVisible();
  await expect(
    page.getByText(/T1, assembly A-101, is in the spindle and cuts first; line \d+/).first(),
  ).toBeVisible();
});
