import type { Page } from '@playwright/test';
import { bringIn } from './bring.ts';
import { expect, ready, test } from './cell.ts';

// programs are brought in and a job is started: a cell of its own
test.use({ own: 'reading' });

const bring = (page: Page, name: string, text: string) => bringIn(page, text, { name });
/** What nobody has proven is to be looked at: ready only once somebody has. */
async function prove(page: Page) {
  await expect(page.getByRole('heading', { name: 'Somebody must look' })).toBeVisible();
  const form = page.getByRole('form', { name: 'It is proven' });
  await form.getByLabel(/How/).fill('first part good');
  await form.getByRole('button').click();
  await expect(page.getByRole('heading', { name: 'Ready', exact: true })).toBeVisible();
}
const HEAD = '%\nO7100 (PLATE)\nT5 M6 (DRILL 6.8)\nS900 M3\nG43 H5 Z50.\n';

test('what the reader does not know beats ready, until the sub is there and the rest is said', async ({
  as,
}) => {
  const page = await as('lead');
  await bring(page, 'a.nc', `${HEAD}M98 P7001\nG1 Z-#500 F90.\nM77\nM30\n%`);
  await page.getByRole('link', { name: /O7100/ }).first().click();
  await ready(page);
  await expect(page.getByRole('heading', { name: 'Cannot tell' })).toBeVisible();
  await expect(page.getByText('Calls O7001, which is not here: what it does is not counted.')).toBeVisible();
  await expect(page.getByText(/Every tool is in/)).toHaveCount(0);
  const address = page.url();

  await bring(page, 'sub.nc', '%\nO7001\nG91 G1 X10. F60.\nG90\nM99\n%');
  await page.getByRole('link', { name: /O7001/ }).first().click();
  await expect(page.getByRole('heading', { name: 'A subprogram' })).toBeVisible();
  await page.goto(address);
  await ready(page);
  await expect(page.getByText(/Calls O7001/)).toHaveCount(0);

  // a variable by its value, a code in words; what was typed wrongly stays
  await page.getByText('Say what it is, line 7').click();
  const variable = page.getByRole('form', { name: 'Settle line 7' });
  await variable.getByLabel('#500 is, if it is always that').fill('deep');
  await variable.getByLabel('How you know').fill('set by the probe cycle');
  await variable.getByRole('button', { name: 'Settle it' }).click();
  await expect(variable.getByRole('alert')).toContainText('must be a number');
  await variable.getByLabel('#500 is, if it is always that').fill('4,5');
  await variable.getByRole('button', { name: 'Settle it' }).click();
  await expect(page.getByText('Read with #500 = 4.5 (set by the probe cycle, Maren Holt).')).toBeVisible();
  await page.getByText('Say what it is, line 8').click();
  const code = page.getByRole('form', { name: 'Settle line 8' });
  await code.getByLabel('How you know').fill('blows the chips off');
  await code.getByRole('button', { name: 'Settle it' }).click();
  await prove(page);
  await expect(page.getByText('with what people have said of one line below')).toBeVisible();
  await expect(page.getByText('Maren Holt: blows the chips off')).toBeVisible();
  await page.getByRole('button', { name: 'Line 8' }).click();
  // a code that changes nothing on this machine is said once for all its programs
  await bring(page, 'c.nc', '%\nO7150 (PLATE)\nT5 M6 (DRILL 6.8)\nS900 M3\nG43 H5 Z50.\nM88\nM78\nM30\n%');
  await page.getByRole('link', { name: /O7150/ }).first().click();
  await ready(page);
  await page.getByText('Say what it is, line 7').click();
  await page.getByRole('button', { name: 'M78 changes nothing on Avocet, ever' }).click();
  await prove(page);
  await page.goto('/ledger');
  await expect(page.getByText('The dialect profile of Avocet was changed.')).toBeVisible();
  await expect(page.getByText('O7100, line 7: #500 is 4.5')).toBeVisible();
});

test('a job that is not ready is started with a reason, or not at all', async ({ as }) => {
  const page = await as('lead');
  await bring(
    page,
    'b.nc',
    '%\nO7200 (SLOT)\nT97 M6 (END MILL 8)\nS900 M3\nG43 H97 Z50.\nG1 X1. F90.\nM30\n%',
  );
  await page.goto('/machines/1/now');
  await ready(page);
  await page.getByText(/^Pause O\d+/).click();
  const pause = page.getByRole('form', { name: /^Pause/ });
  await pause.getByLabel('Why').fill('another job is more urgent');
  await pause.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByRole('form', { name: 'Take up O2301' })).toBeVisible();
  await page.getByText('Add a job to the list').click();
  const job = page.getByRole('form', { name: 'New job' });
  await job.getByLabel('Program').selectOption({ label: 'O7200 SLOT' });
  await job.getByLabel('Parts', { exact: true }).fill('3');
  await job.getByLabel(/Cycle/).fill('2:00');
  await expect(job.getByLabel('Parts', { exact: true })).toHaveValue('3');
  await job.getByRole('button', { name: 'Add' }).click();
  // only what has come back from the server is left behind
  await expect(page.getByRole('form', { name: 'Start O7200', exact: true })).toBeVisible();
  await page.goto('/board');
  await ready(page);
  const line = page
    .getByRole('region', { name: /^Avocet/ })
    .getByRole('listitem')
    .filter({ hasText: 'O7200' });
  // three of a list are on the board, and this one is the last of four
  await expect(line).toHaveCount(0);
  await expect(page.getByRole('region', { name: /^Avocet/ })).toContainText('more on its list');
  await expect(page.getByRole('status')).toContainText(/Next jobs: \d+ not ready/);
  await page.goto('/machines/1/now');
  await ready(page);
  const start = page.getByRole('form', { name: 'Start O7200', exact: true });
  await start.getByRole('button').click();
  await expect(start.getByRole('alert')).toContainText('O7200 is not ready: T97');
  await page.getByText('Start O7200 though it is not ready').click();
  const all = page.getByRole('form', { name: 'Start O7200 though it is not ready' });
  await all.getByLabel('Why').fill('dry run, nothing is cut');
  await all.getByRole('button').click();
  await expect(page.getByText('0 of 3')).toBeVisible();
  await page.goto('/ledger');
  await expect(page.getByText('dry run, nothing is cut')).toBeVisible();
});

test('where a program may be begun again: from the tool’s call always, from the line only where nothing speaks against it', async ({
  as,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const page = await as('setter');
  await page.goto('/programs/4');
  await ready(page);
  await page.getByRole('link', { name: 'It stopped: begin again' }).click();
  const form = page.getByRole('form', { name: 'Where it stopped' });
  await form.getByLabel('It stopped before line').fill('99999');
  await form.getByRole('button').click();
  await expect(page.getByRole('alert')).toContainText('A line from 1 to');
  // in the middle of the roughing with compensation on
  await form.getByLabel('It stopped before line').fill('45');
  await form.getByRole('button').click();
  await expect(page.getByRole('status')).toContainText(
    /Begin again at line 35, the call of T2: \d+:\d\d of cutting is done again\. Not from line 45 itself\./,
  );
  await expect(page.getByRole('region', { name: 'Why not from line 45' })).toContainText(
    'Radius compensation is on',
  );
  await expect(page.getByRole('row', { name: 'Radius on, row 22' })).toBeVisible();
  await expect(page.getByText('It calls the tool, starts the spindle')).toHaveCount(0);
  // between two passes of the face mill
  await form.getByLabel('It stopped before line').fill('18');
  await form.getByRole('button').click();
  const here = page.getByRole('region', { name: 'To come to line 18 itself' });
  await expect(here).toContainText('T1 M6');
  await here.getByRole('button', { name: 'Copy' }).click();
  await expect(here.getByRole('button')).toHaveText('Copied');
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('G43 H1');
  // it is written down with what was cut by then, and stands there the next time
  const log = page.getByRole('form', { name: 'Write it down' });
  await log.getByLabel('Why it stopped').fill('chips around the mill');
  await log.getByRole('button').click();
  const before = page.getByRole('region', { name: 'It stopped before' });
  await expect(before).toContainText(/O2301 stopped before line 18, T1 in: \d+:\d\d of its cut done\./);
  await expect(before).toContainText('is in doubt.');
  await expect(before).toContainText('chips around the mill');
  await page.getByRole('link', { name: 'Record the cycle as broken off' }).click();
  await expect(page).toHaveURL(/machines\/1\/now/);
});
