import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { atLeaf, expect, ready, test } from './cell.ts';

/** What a decoder of its own (zbar, from Debian) reads off a picture. */
function decoded(picture: Buffer): string[] {
  const folder = mkdtempSync(join(tmpdir(), 'tin-labels-'));
  const file = join(folder, 'labels.png');
  writeFileSync(file, picture);
  try {
    return execFileSync('zbarimg', ['-q', '--raw', '-Sdisable', '-Sqr.enable', file], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    })
      .trim()
      .split('\n');
  } catch {
    return [];
  } finally {
    rmSync(folder, { recursive: true });
  }
}

// as sharp as a label printer of 200 dots an inch makes them
test.use({ deviceScaleFactor: 2 });

for (const size of ['large', 'small', 'tape'])
  test(`forty labels of one sheet are read, each as its tool: ${size}`, async ({ as }) => {
    const page = await as('crib');
    await page.setViewportSize({ width: 1280, height: 800 });
    const answer = await page.request.get('/tools/export/json');
    const { assemblies } = (await answer.json()) as { assemblies: { number: string }[] };
    const numbers = assemblies.slice(0, 40).map(({ number }) => number);
    expect(numbers).toHaveLength(40);
    await page.goto(`/tools/labels?numbers=${numbers.join('+')}&size=${size}`);
    await ready(page);
    const labels = page.locator('[data-label]');
    await expect(labels).toHaveCount(40);
    const sheet = await page.screenshot({ fullPage: true });
    expect(decoded(sheet).sort()).toEqual(numbers.map((number) => `TINT.${number}`).sort());
    // nothing of a number is cut off
    for (const label of await labels.all()) {
      const over = await label
        .locator('b')
        .evaluate((element) => element.scrollWidth - element.clientWidth > 1);
      expect(over).toBe(false);
    }
  });

test('labels of components, pockets, orders and badges are read, each as what it is', async ({ as }) => {
  const page = await as('lead');
  await page.setViewportSize({ width: 1280, height: 800 });
  const read = async (path: string, size: string) => {
    await page.goto(`${path}${path.includes('?') ? '&' : '?'}size=${size}`);
    await ready(page);
    const numbers = await page
      .locator('[data-label]')
      .evaluateAll((all) => all.map((each) => each.dataset.label!));
    expect(numbers.length).toBeGreaterThan(2);
    return { numbers, codes: decoded(await page.screenshot({ fullPage: true })).sort() };
  };
  const pockets = await read('/labels/pocket?machine=1', 'tape');
  expect(pockets.codes).toEqual(pockets.numbers.map((number) => `TINP.1.${number}`).sort());
  const badges = await read('/labels/person', 'large');
  expect(badges.codes).toEqual(badges.numbers.map((number) => `TINW.${number}`).sort());
  await page.goto('/labels/component');
  await ready(page);
  for (const box of (await page.getByRole('checkbox').all()).slice(0, 5)) await box.check();
  await page.getByRole('link', { name: 'Make the 5 ticked' }).click();
  await expect(page.locator('[data-label]')).toHaveCount(5);
  const components = await read(`/labels/component${new URL(page.url()).search}`, 'small');
  expect(components.codes).toEqual(components.numbers.map((number) => `TINC.${number}`).sort());
  await page.goto('/labels/order');
  await ready(page);
  await expect(page.locator('[data-label]').or(page.getByRole('status')).first()).toBeVisible();
  // badges are made by whoever may say who is who
  const setter = await as('setter');
  await setter.goto('/labels/pocket');
  await expect(setter.getByRole('link', { name: 'pockets' })).toBeVisible();
  await expect(setter.getByRole('link', { name: 'badges' })).toHaveCount(0);
  expect((await setter.goto('/labels/person'))?.status()).toBe(403);
});

test('a code opens what it stands for; what is not on record is said, and opens nothing', async ({ as }) => {
  const page = await as('setter');
  await atLeaf(page);
  const find = page.getByRole('dialog');
  const scan = async (text: string) => {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await expect(find).toBeHidden();
    // keys that follow one another faster than this are a scanner's
    await page.waitForTimeout(120);
    await page.keyboard.press('/');
    await find.getByRole('combobox').pressSequentially(`${text}\n`);
  };
  await scan('TINT.A-105');
  await expect(page.getByRole('heading', { name: 'A-105' }).first()).toBeVisible();
  await ready(page);
  await scan('TINC.EM-16R05');
  await expect(page.getByRole('region', { name: 'EM-16R05' })).toBeVisible();
  await ready(page);
  await scan('TINP.1.10');
  await page.waitForURL(/machines\/1\?pocket=10/);
  await expect(page.getByRole('heading', { name: /^T5 / }).first()).toBeVisible();
  await ready(page);
  // a component by its plain number
  await scan('EM-16R05');
  await expect(page.getByRole('region', { name: 'EM-16R05' })).toBeVisible();
  await ready(page);
  const before = page.url();
  await scan('TINT.A-999');
  await expect(find.getByRole('alert')).toHaveText('Tool A-999 is not on record.');
  await page.keyboard.press('Escape');
  await scan('A-10');
  await expect(find.getByRole('alert')).toContainText('Nothing is on record as A-10. These come near:');
  expect(page.url()).toBe(before);
});
