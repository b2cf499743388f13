import type { Page } from '@playwright/test';
import { bringIn } from './bring.ts';
import { faultsOf } from './axe.ts';
import { expect, noMoreMade, ready, test } from './cell.ts';
import { planned, takenAsLoadPlan } from './planned.ts';

test.use({ own: 'load' });

const card = (page: Page) => page.getByRole('region', { name: 'The next step' });

/** Does the next step as its card asks. */
async function doNext(page: Page) {
  const before = await page.getByRole('status').innerText();
  const measure = card(page).getByRole('form', { name: 'Measure' });
  if (await measure.isVisible()) {
    await measure.getByLabel(/Gauge length/).fill('142.318');
    await measure.getByRole('button', { name: /Write into row/ }).click();
  } else {
    for (const box of await card(page).getByRole('checkbox').all()) await box.check();
    await card(page).getByRole('button', { name: /Done/ }).click();
  }
  await expect(page.getByRole('status')).not.toHaveText(before);
}

test('a magazine is planned: what counts is chosen, the trade-off shown, the answer held against a bound', async ({
  as,
}) => {
  const page = await as('setter');
  await planned(page, 'program=3&program=4');
  await expect(page.getByRole('status')).toContainText(/Proven best|Within \d/, { timeout: 60_000 });
  const trade = page.getByRole('table', { name: 'The trade-off' });
  await expect(trade.getByRole('row')).toHaveCount(6);
  await expect(page.getByText('A-110 Tap M10 spiral')).toBeVisible();
  // what stands may stay when nothing but moves counts: one tool comes in, the broken one goes, and that is proved
  for (const wish of ['time', 'balance', 'gaps'])
    await page.locator(`label:has(input[name="${wish}"][value="0"])`).click();
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(page.getByRole('status')).toContainText('Proven best', { timeout: 60_000 });
  await expect(
    trade
      .getByRole('row', { name: /your choice/ })
      .getByRole('cell')
      .first(),
  ).toHaveText('2');
  await expect(page.getByText('12 tools stay where they are')).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: /^T12 A-112/ })).toContainText('out of pocket');
});

test('a plan that is stopped keeps what it had, and says that the proof was stopped', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines/1/plan?program=3&program=4&program=5');
  await ready(page);
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(page.getByRole('status')).toContainText('Best so far', { timeout: 30_000 });
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeHidden();
  await expect(page.getByRole('status')).toContainText(/not been proven|was stopped/);
  await expect(page.getByRole('button', { name: 'Make it the load plan' })).toBeVisible();
});

test('a load plan prints with boxes to tick, and is usable on a narrow screen', async ({ as }) => {
  const page = await as('setter');
  await takenAsLoadPlan(page, 'program=3');
  expect(await faultsOf(page)).toEqual([]);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByText('☐ Tugged and spun: the drive keys are seated')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Drop the plan' })).toBeHidden();
  await page.emulateMedia({ media: 'screen' });
  await page.getByRole('button', { name: 'Drop the plan' }).click();
  await expect(page.getByRole('status')).toContainText('There is no open load plan for Avocet');
});

test('what must be built first has its kit from the shelves, is built from there, and goes into the plan', async ({
  as,
}) => {
  const page = await as('lead');
  // both reamers of T14 break: none is left that could serve
  for (const number of ['A-114', 'A-143']) {
    const found = (await (await page.request.get(`/tools/rows?words=${number}`)).json()) as {
      id: number;
      number: string;
    }[];
    await page.goto(`/tools/${found.find((each) => each.number === number)!.id}`);
    await ready(page);
    const flag = page.getByRole('form', { name: 'Flag' });
    await flag.getByLabel('Why').fill('Edge chipped');
    await flag.getByRole('button', { name: 'It is broken' }).click();
    await expect(page.getByText('The part it was in is suspect')).toBeVisible();
  }
  await page.goto('/machines/1');
  await ready(page);
  await page.locator('[data-pocket="27"]').click();
  await noMoreMade(page.getByRole('form', { name: 'Take out' }));
  await page.getByRole('form', { name: 'Take out' }).getByRole('button', { name: /Take/ }).click();
  await expect(page.getByRole('button', { name: 'pocket 27: empty' })).toBeVisible();
  await takenAsLoadPlan(page, 'program=4&program=5');
  const toBuild = page.getByRole('region', { name: 'To be built' }).filter({ hasText: 'T14' });
  const kit = toBuild.getByRole('list', { name: 'Kit for T14' });
  await expect(kit.getByRole('listitem')).toHaveCount(3);
  await expect(kit).toContainText('C2-09');
  await expect(kit).toContainText('RM-12H7');
  await expect(kit).toContainText('H40-HY12');
  await expect(kit).toContainText('KN-45C');
  await toBuild.getByRole('link', { name: 'Build it' }).click();
  await page.waitForURL('**/tools/builder?*');
  await ready(page);
  await expect(page.getByText('RM-12H7').first()).toBeVisible();
  await page.getByLabel('Number', { exact: true }).fill('A-190');
  await page.getByRole('button', { name: 'Build it' }).click();
  await page.waitForURL('**/tools/*/card');
  await page.goto('/machines/1/load');
  await ready(page);
  const built = toBuild.getByRole('form', { name: 'Built for T14' });
  const label = await built.getByRole('option', { name: /A-190/ }).innerText();
  await built.getByRole('combobox').selectOption({ label });
  await built.getByRole('button', { name: 'Take it' }).click();
  await expect(toBuild).toBeHidden();
  await expect(page.getByText(/Load A-190 .* as T14 into the spindle/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Drop the plan' }).click();
  await expect(page.getByRole('status')).toContainText('There is no open load plan for Avocet');
});

test('a load plan is worked off: interrupted, gone on by another person, wrong once, planned anew, to the end', async ({
  as,
  browser,
  server,
}) => {
  test.setTimeout(180_000);
  const page = await as('setter');
  await takenAsLoadPlan(page, 'program=3&program=4');
  await expect(page.getByRole('status')).toContainText('0 done');
  const done = card(page).getByRole('button', { name: /Confirm each line first/ });
  await expect(done).toBeDisabled();
  await doNext(page);
  await expect(page.getByRole('status')).toContainText('1 done');

  // another tablet, another person, from where it stands; the first sees it
  const other = await as('lead', await (await browser.newContext({ baseURL: server.url })).newPage());
  await other.goto(`${server.url}/machines/1/load`);
  await ready(other);
  await expect(other.getByRole('status')).toContainText('1 done');
  await doNext(other);
  await expect(page.getByRole('status')).toContainText('2 done');

  // what happens elsewhere in the cell takes back nothing that was confirmed here
  const boxes = card(page).getByRole('checkbox');
  if ((await boxes.count()) > 0) await boxes.first().check();
  const heard = page.waitForResponse(/__data\.json/);
  await bringIn(other, '%\nO7179 (PLATE)\nT5 M6\nS900 M3\nG43 H5 Z50.\nG1 Z0. F100.\nM30\n%');
  await heard;
  await page.waitForTimeout(300);
  if ((await boxes.count()) > 0) await expect(boxes.first()).toBeChecked();

  // the control shows something else
  await card(page).getByText('That’s not what I see').click();
  await card(page).getByLabel('What you found instead').fill('The control shows T3');
  await card(page).getByRole('button', { name: 'Stop here' }).click();
  const doubt = page.getByRole('form', { name: 'What is in the spindle' });
  await expect(doubt).toBeVisible();
  await expect(card(page)).toBeHidden();
  await doubt.getByLabel('The control shows T').fill('3');
  await doubt.getByRole('button', { name: 'I have looked: this is there' }).click();
  await expect(card(page)).toContainText('T3');
  await expect(page.getByText('Found instead: The control shows T3')).toBeVisible();

  for (let i = 0; i < 40 && (await card(page).isVisible()); i += 1) await doNext(page);
  await expect(page.getByRole('status')).toContainText('There is no open load plan for Avocet');
  await expect(page.getByText('The last one, worked off')).toBeVisible();
  await page.goto('/machines/1');
  await ready(page);
  await expect(page.getByText('A-110 Tap M10 spiral')).toBeVisible();
});

test('what does not last for its job is named at the plan, and its sister is planned in beside it', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/tools?find=A-105');
  await page.getByRole('link', { name: 'A-105' }).first().click();
  await ready(page);
  await page.getByText('Change its life limit').click();
  const limit = page.getByRole('form', { name: 'Life limit' });
  await limit.getByLabel('Good for').fill('480');
  await limit.getByLabel('Why').fill('trial');
  await limit.getByRole('button', { name: 'Set the limit' }).click();
  await expect(page.getByText('of 480 holes')).toBeVisible();
  await page.goto('/machines/1/plan?program=4');
  await ready(page);
  const short = page.getByRole('group', { name: 'These do not last for their jobs' });
  await expect(short).toContainText('No sister stands on the rack');
  const sister = short.getByRole('checkbox', { name: /load its sister/ }).first();
  const number = /sister (\S+) beside/.exec(
    await short
      .getByText(/load its sister/)
      .first()
      .innerText(),
  )![1]!;
  await sister.check();
  await page.getByRole('button', { name: 'Choose' }).click();
  await expect(short).toContainText('A sister is taken only by a program that calls the group of both');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(page.getByRole('status')).toContainText(/Proven best|Within \d/, { timeout: 60_000 });
  await expect(page.getByText(number).first()).toBeVisible();
});
