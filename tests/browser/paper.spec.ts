import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expect, paste, ready, test } from './cell.ts';
import { takenAsLoadPlan } from './planned.ts';

test.use({ own: 'paper' });

/** What stands on each sheet, read off the print by a reader of its own (pdftotext, from Debian). */
async function sheets(page: Page): Promise<string[]> {
  const folder = mkdtempSync(join(tmpdir(), 'tin-paper-'));
  try {
    const file = join(folder, 'print.pdf');
    writeFileSync(file, await page.pdf({ format: 'A4', printBackground: true }));
    // each sheet ends with a form feed
    return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).split('\f').slice(0, -1);
  } finally {
    rmSync(folder, { recursive: true });
  }
}
test('what differs between control and record, and between two looks, is taken to the machine on a sheet', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/machines/5/control');
  await ready(page);
  await expect(page.getByRole('button', { name: 'Print what differs' })).toBeVisible();
  const first = signed(await sheets(page), ['Looked at the control', 'Answered']);
  expect(first.match(/At the control now: _+/g)).toHaveLength(4);
  expect(first).not.toContain('Bring its table in');
  const table = await (await page.request.get('/machines/5/control/table')).text();
  const changed = table
    .replace('P2 R150.000', 'P2 R150.020')
    .replace('P5 R165.000', 'P5 R155.000')
    .split('\n')
    .filter((line) => !/^\((AT|HASH)/.test(line))
    .join('\n');
  await paste(page.getByLabel('or pasted'), changed);
  await page.getByRole('button', { name: 'Lay it beside the record' }).click();
  await page.getByRole('button', { name: /^Tick 2/ }).click();
  // both were changed, each by a number of its own: the reason is true of both
  await expect(page.getByLabel('Why')).toHaveValue(/by hand/);
  await expect(page.getByLabel('Why')).not.toHaveValue(/\d/);
  await page.getByRole('link', { name: 'What changed since' }).click();
  await expect(page.getByRole('region', { name: /What the control holds otherwise/ })).toBeVisible();
  const second = signed(await sheets(page), ['Looked at the control', 'Answered']);
  expect(second).toMatch(/length geometry of row 5 +\+165\.000 → \+155\.000/);
  expect(second.match(/→/g)).toHaveLength(5);
});

/** Signatures stand whole, on the last sheet. */
function signed(of: readonly string[], who: readonly string[]) {
  for (const did of who) expect(of.map((sheet) => sheet.includes(did)).lastIndexOf(true)).toBe(of.length - 1);
  return of.join('\n');
}

test('a leaf of a day with a hundred entries takes a second sheet, and is signed whole at its end', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/leaf');
  await ready(page);
  expect(await sheets(page)).toHaveLength(1);
  await page.evaluate(() => {
    const line = document.querySelector('[aria-labelledby=happened] li')!;
    for (let more = 0; more < 130; more += 1) line.after(line.cloneNode(true));
  });
  const printed = await sheets(page);
  expect(printed.length).toBeGreaterThan(1);
  signed(printed, ['Handed over by', 'Taken over by', 'name and time']);
  expect(printed.at(-1)!.match(/name and time/g)).toHaveLength(2);
});

test('a load plan with many steps, a build card, a kit for forty tools: each with its boxes and signatures', async ({
  as,
}) => {
  const page = await as('lead');
  await takenAsLoadPlan(page, 'program=3&program=4');
  const steps = await page
    .getByRole('heading', { name: 'To go' })
    .locator('xpath=..')
    .locator('li > b')
    .filter({ hasText: /^\d+$/ })
    .allInnerTexts();
  expect(steps.length).toBeGreaterThan(5);
  const plan = await sheets(page);
  const said = signed(plan, ['Loaded, name and time', 'As it was on']);
  expect([...said.matchAll(/☐ +(\d+) /g)].map(([, order]) => order)).toEqual(steps);
  expect(said).toContain('manual');
  await page.goto('/tools/2/card');
  await ready(page);
  const card = await sheets(page);
  expect(card).toHaveLength(1);
  expect(signed(card, ['Built, name and time', 'Measured, name and time'])).toContain('Build card A-102');
  const { assemblies } = (await (await page.request.get('/tools/export/json')).json()) as {
    assemblies: { number: string }[];
  };
  const numbers = assemblies.slice(0, 60).map(({ number }) => number);
  await page.goto(`/tools/kit?numbers=${numbers.join('+')}`);
  await ready(page);
  const rows = await page.getByRole('row').count();
  const kit = signed(await sheets(page), ['Fetched, name and time']);
  expect(kit.match(/for [A-Z]+-\d+/g)?.length).toBe(rows - 1);
});
