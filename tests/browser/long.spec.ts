import { expect, ready, test } from './cell.ts';
import { bringAndOpen, findings } from './bring.ts';

test.use({ own: 'long' });

/** A path of a mould, with a lower spindle speed asked for far behind what a page shows at once. */
const path = (blocks: number) =>
  `O7700 (CAVITY)\nT1 M6\nG0 G90 X0. Y0.\nG43 H1 Z50.\nS3000 M3\nG1 Z-1. F500.\n${Array.from(
    { length: blocks },
    (_, i) => `X${(i % 2000) / 10} Y${(i * 7) % 300}.`,
  ).join('\n')}\nG888\nG0 Z50.\nM30\n`;

test('a long program is shown in parts, and a finding far down is gone to', async ({ as }) => {
  const lead = await as('lead');
  await bringAndOpen(lead, path(45_000));
  const text = lead.getByRole('region', { name: 'The text' });
  await expect(text).toContainText('1 to 20000 of 45009');
  const line = findings(lead)
    .getByRole('button', { name: /line 45007|45007/ })
    .first();
  await line.click();
  await expect(text).toContainText(/to 45009 of 45009/);
  await expect(text.locator('.nc-here')).toHaveText('G888');
  await text.getByRole('button', { name: 'Lines before' }).click();
  await expect(text).toContainText('24907 to 44906 of 45009');
  await lead.reload();
  await ready(lead);
  await expect(text.locator('.cm-content')).toContainText('X');
});

test('a reading that takes long says how far it is, and can be stopped', async ({ as }) => {
  const lead = await as('lead');
  await lead.goto('/programs');
  await ready(lead);
  // pecks by the hundred and radii to be worked out: seconds, within the work that is allowed
  const slow = `O7701 (ENDLESS)\nT1 M6\nG43 H1\nS1 M3\nG1 Z-1. F100.\n${'G1 X#1\nG2 X1. Y1. R[SQRT[2]]\nG83 Z-5. R2. Q.1 F10.\nX[1+2]\nG80\n'.repeat(300_000)}M30\n`;
  await lead
    .locator('input[type=file]')
    .first()
    .setInputFiles({
      name: 'endless.nc',
      mimeType: 'text/plain',
      buffer: Buffer.from(slow),
    });
  await lead.getByLabel('For an NC program: the machine').selectOption({ label: 'Avocet' });
  await lead.getByRole('button', { name: 'Read it' }).click();
  await expect(lead.getByRole('progressbar', { name: 'How much is read' })).toBeVisible();
  await lead.getByRole('button', { name: 'Stop reading' }).click();
  await expect(lead.getByRole('alert')).toContainText('It was stopped. Nothing was saved.');
  await lead.reload();
  await ready(lead);
  await expect(lead.getByText('ENDLESS')).toHaveCount(0);
});

test('of many programs those are shown that hold what is typed; the rest come as they are scrolled to', async ({
  as,
}) => {
  const page = await as('viewer');
  await page.goto('/programs');
  await ready(page);
  const list = page.getByRole('region', { name: 'Programs' });
  await expect(list.getByRole('link', { name: 'O2301' })).toBeVisible();
  await page.getByLabel('Find a program').fill('curlew pin');
  await expect(list.getByRole('link')).toHaveText(['O1402']);
  await expect(page).toHaveURL(/words=curlew\+pin/);
  await page.getByLabel('Find a program').fill('no such program');
  await expect(page.getByText('No program matches “no such program”.')).toBeVisible();
});
