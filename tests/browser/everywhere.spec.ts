import { startServer } from '../support/server.ts';
import { faultsOf } from './axe.ts';
import { atLeaf, expect, ready, test } from './cell.ts';

const FLOOR = [
  '/machines/3/now',
  '/machines/1/now',
  '/today',
  '/machines/1/numbers',
  '/corrections',
  '/corrections/4',
  '/machines/3',
  '/machines/5',
  '/machines/1/plate',
  '/presetter?number=A-150',
  '/leaf',
  '/crib/order',
];

/** Pages with drawings beside those. */
const DRAWN = [
  '/machines',
  '/machines/1?tool=3',
  '/machines/4',
  '/machines/6',
  '/machines/1/room?centre=10',
  '/machines/5/night',
  '/tools/2',
  '/programs/5',
  '/crib?item=7',
];

test('axe finds nothing on the sign-in page and in the palette', async ({ page, as }) => {
  await page.goto('/sign-in');
  await ready(page);
  expect(await faultsOf(page)).toEqual([]);
  await as('lead');
  await atLeaf(page);
  await page.keyboard.press('/');
  await expect(page.getByRole('dialog')).toBeVisible();
  expect(await faultsOf(page)).toEqual([]);
});

for (const [width, height] of [
  [390, 844],
  [1024, 768],
] as const)
  test(`nothing runs off a screen ${width} wide, and what is touched there is large enough`, async ({
    as,
    page,
  }) => {
    await page.setViewportSize({ width, height });
    await as('operator');
    for (const path of FLOOR) {
      await page.goto(path);
      await ready(page);
      expect([
        path,
        await page.evaluate(
          () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
        ),
      ]).toEqual([path, 0]);
      const small = await page.evaluate(() =>
        [
          ...document.querySelectorAll<HTMLElement>(
            'main button:not([tabindex="-1"]), main .btn, main input:not([type=hidden]):not(.sr-only), nav[aria-label=Sections] a',
          ),
        ]
          .filter(
            (element) =>
              element.offsetParent !== null &&
              !element.closest('table, label') &&
              element.tagName !== 'summary',
          )
          .map((element) => ({
            name: element.textContent?.trim().slice(0, 30) ?? '',
            height: element.getBoundingClientRect().height,
          }))
          .filter((element) => element.height > 0 && element.height < 43.5),
      );
      expect([path, small]).toEqual([path, []]);
    }
  });

const WIDTHS = [420, 1280];
test(`at ${WIDTHS.join(' and ')} pixels words in drawings are legible, and all that is touched on the floor has room for a glove`, async ({
  as,
  page,
}) => {
  await as('lead');
  for (const [i, path] of [...FLOOR, ...DRAWN].entries()) {
    // each width is begun with by turns, and come to from the other
    for (const [k, width] of (i % 2 === 0 ? WIDTHS : WIDTHS.toReversed()).entries()) {
      await page.setViewportSize({ width, height: 800 });
      if (k === 0) await page.goto(path);
      await ready(page);
      const found = () =>
        page.evaluate(() => {
          const list = document.querySelector('[aria-label^="Every "]') !== null;
          const small = [...document.querySelectorAll<SVGTextElement>('svg text')]
            .map((text) => ({
              words: text.textContent.trim(),
              shown: text.getBoundingClientRect().width,
              size: Number.parseFloat(getComputedStyle(text).fontSize) * (text.getScreenCTM()?.a ?? 0),
            }))
            .filter(({ words, shown, size }) => words !== '' && shown > 0 && size < 10.9);
          const tight = [
            ...document.querySelectorAll(
              'main .btn, main button, main input:not([type=hidden], .sr-only), main select, main summary, main [role=button]',
            ),
          ]
            // where pockets stand close, each has a button of its own under the drawing
            .filter((element) => !(list && element.matches('[data-pocket]')))
            .map((element) => ({
              name: element.getAttribute('aria-label') ?? element.textContent.trim().slice(0, 30),
              box: (element.closest('label') ?? element).getBoundingClientRect(),
            }))
            .filter(({ box }) => box.width > 0 && box.height > 0 && Math.min(box.width, box.height) < 43.5)
            .map(({ name, box }) => `${name} ${box.width.toFixed(0)} x ${box.height.toFixed(0)}`);
          return { small, tight };
        });
      // a drawing is measured once it is laid out
      await expect
        .poll(async () => ({ path, width, ...(await found()) }))
        .toEqual({ path, width, small: [], tight: [] });
    }
  }
});

test('the leaf prints on one sheet, on a bad day too', async ({ as }) => {
  const page = await as('lead');
  await atLeaf(page);
  const sheets = async () =>
    (await page.pdf({ format: 'A4', printBackground: true }))
      .toString('latin1')
      .match(/\/Type\s*\/Page[^s]/g);
  expect(await sheets()).toHaveLength(1);
  // how much stands on it hangs on the hour: a leaf with twenty lines more
  await page.evaluate(() => {
    const line = document.querySelector('[aria-labelledby=happened] li')!;
    for (let more = 0; more < 20; more += 1) line.after(line.cloneNode(true));
  });
  expect(await sheets()).toHaveLength(1);
});

test('everything is reached from the keyboard: slash finds, g goes, arrows walk the magazine', async ({
  as,
}) => {
  const page = await as('setter');
  await atLeaf(page);
  await page.keyboard.press('/');
  const asked = page.getByRole('dialog').getByRole('combobox');
  await expect(asked).toBeFocused();
  // a scanned code arrives as typed text with Enter behind it
  await asked.pressSequentially('A-105\n');
  await expect(page.getByRole('heading', { name: 'A-105' })).toBeVisible();
  await page.keyboard.press('g');
  // a person's fingers, not a scanner's
  await page.waitForTimeout(120);
  await page.keyboard.press('c');
  await expect(page.getByRole('heading', { name: 'Corrections' })).toBeVisible();
  await page.goto('/machines/1');
  await ready(page);
  await page.locator('[data-pocket="1"]').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /^T1 / })).toBeVisible();
});

test('a size is shown in the machine’s unit, and in the other with a tap', async ({ as }) => {
  const page = await as('viewer');
  await page.goto('/machines/3?tool=2');
  await ready(page);
  const size = page.locator('b button').first();
  const before = await size.innerText();
  expect(before).toMatch(/in$/);
  await size.click();
  await expect(size).toHaveText(/mm$/);
});

test('somebody else takes the tablet with a tap and a PIN', async ({ as }) => {
  const page = await as('operator');
  await atLeaf(page);
  await page.getByRole('link', { name: /Dede Okafor/ }).click();
  await ready(page);
  await page.getByLabel('Badge number', { exact: true }).fill('1002');
  await page.getByLabel('PIN', { exact: true }).fill('1470');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('link', { name: /^Ilya Brandt/ }).click();
  await ready(page);
  await page.getByRole('button', { name: /Dede Okafor/ }).click();
  for (const digit of '3690') await page.getByRole('button', { name: digit, exact: true }).click();
  await page.getByRole('button', { name: 'Enter', exact: true }).click();
  await expect(page.getByRole('link', { name: /Dede Okafor/ })).toBeVisible();
});

test('the server goes away and comes back: the page says so and goes on by itself', async ({
  as,
  server,
}) => {
  const page = await as('lead');
  await page.goto('/corrections');
  await ready(page);
  await server.stop('SIGKILL');
  await expect(page.getByText('The server does not answer.')).toBeVisible({ timeout: 15_000 });
  Object.assign(server, await startServer(process.env.DATABASE_URL!, {}, Number(new URL(server.url).port)));
  await expect(page.getByText('The server does not answer.')).toBeHidden({ timeout: 15_000 });
  await expect(page.getByRole('heading', { name: 'Corrections' })).toBeVisible();
});
