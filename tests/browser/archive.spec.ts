import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { archiveMonth, monthsToGo } from '../../scripts/archive.ts';
import { asSuperuser, freshDatabase } from '../support/databases.ts';
import { startServer, type RunningServer } from '../support/server.ts';
import { test as base, expect, ready } from './cell.ts';

const STAYING = 24;
/** Readings of three years ago, within one month: more than a page shows, though the last of each size stay in the record. */
const READINGS = 1000;

/** A cell with a past that went out of the database into files. */
const test = base.extend<{ server: RunningServer }, { folder: string; served: RunningServer }>({
  folder: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures' names from here
    async ({}, use) => {
      const folder = mkdtempSync(join(tmpdir(), 'tin archive '));
      await use(folder);
      rmSync(folder, { recursive: true });
    },
    { scope: 'worker' },
  ],
  served: [
    async ({ folder }, use) => {
      const database = await freshDatabase('tin_demo');
      await asSuperuser(async (client) => {
        await client.query('ALTER TABLE reading DISABLE TRIGGER next_in_order');
        await client.query(
          `INSERT INTO reading (id, feature_id, program_id, part, measured, confirmed, person_id, at, entry) OVERRIDING SYSTEM VALUE
           SELECT -n, f.id, g.id, n, f.nominal + n, true, 1, date_trunc('month', tin_now()) - interval '36 months' + interval '2 days' + n * interval '30 minutes', 0
           FROM generate_series(1, $1::integer) n
           JOIN LATERAL (SELECT id, nominal, machine_id, program_number FROM feature ORDER BY id OFFSET n % 2 LIMIT 1) f ON true
           JOIN program g ON g.machine_id = f.machine_id AND g.number = f.program_number`,
          [READINGS],
        );
        await client.query('ALTER TABLE reading ENABLE TRIGGER next_in_order');
        for (const month of await monthsToGo(client, STAYING))
          await archiveMonth(client, month, STAYING, folder);
      }, database.name);
      const server = await startServer(database.appUrl, { TIN_ARCHIVE: folder });
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  server: ({ served }, use) => use(served),
});

test('a month of long ago is found from the ledger, looked into, narrowed down, and handed out; a file that was changed is not read', async ({
  as,
  folder,
}) => {
  const page = await as('inspector');
  await page.goto('/ledger');
  await page.getByRole('link', { name: 'Archive' }).click();
  const month = page.getByRole('row').filter({ hasText: 'readings' });
  await expect(month).toHaveCount(1);
  const all = Number(await month.getByRole('cell').nth(1).innerText());
  expect(all).toBeGreaterThan(READINGS / 2);
  await month.getByRole('link').click();
  const told = page.getByRole('status');
  const lines = page.locator('tbody tr');
  await expect(told).toHaveText(new RegExp(`All\\s+${all}, the first \\d+ shown; the rest is in the file`));
  const shown = await lines.count();
  expect(shown).toBeGreaterThan(50);
  expect(shown).toBeLessThan(all);

  await ready(page);
  const asked = page.getByRole('form', { name: 'Find in this month' });
  await asked.getByLabel('Part').fill('700');
  await asked.getByRole('button', { name: 'Find' }).click();
  await expect(told).toHaveText(new RegExp(`1 of\\s+${all}\\.`));
  await expect(lines).toHaveCount(1);
  // part 70 is not part 700
  await asked.getByLabel('Part').fill('70');
  await asked.getByRole('button', { name: 'Find' }).click();
  await expect(told).toHaveText('Nothing of this month is that.');

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'The file' }).click(),
  ]);
  const text = gunzipSync(readFileSync(await download.path())).toString('utf8');
  expect(text.trim().split('\n')).toHaveLength(all + 1);

  writeFileSync(join(folder, download.suggestedFilename()), 'something else');
  await page.reload();
  await expect(page.getByRole('alert')).toContainText(download.suggestedFilename());
  await expect(page.getByRole('link', { name: 'The file' })).toHaveCount(0);
});
