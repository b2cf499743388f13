import { expect, noMoreMade, ready, test } from './cell.ts';

test.use({ own: 'net' });

test('a check of lengths is written for a machine, tried, handed out as a file, and told when it is old', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/machines/1/net');
  await ready(page);
  // the demo's was written before a drill broke
  await expect(page.getByText('T12 is broken now: its length alone is checked.')).toBeVisible();
  const form = page.getByRole('form', { name: 'Write the check' });
  await form.getByLabel(/differ/).fill('0');
  await form.getByRole('button').click();
  await expect(form.getByRole('alert')).toContainText('A tolerance must be above zero.');
  await form.getByLabel(/differ/).fill('0.15');
  await form.getByRole('button').click();
  await expect(page.getByRole('status')).toContainText('within 0.150 mm');
  await expect(page.getByRole('status')).toContainText('The record is still as it was then.');
  await expect(
    page.getByText('Every tool that is whole and has a length goes by as it is on record.'),
  ).toBeVisible();
  await expect(page.getByRole('row', { name: /left at zero/ })).not.toContainText('T1,');
  await expect(page.getByText('not after T10 (line 99)')).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'File' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('O9100.nc');
  await expect(page.getByText('How Avocet lets a program look')).toHaveCount(0);
});

test('the lead says how a control shows its table; what is no variable is refused', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/machines/6/net');
  await ready(page);
  await expect(page.getByRole('status')).toContainText('Nobody has said yet how Fulmar');
  const form = page.getByRole('form', { name: 'How the check is written' });
  for (const [label, text] of [
    ['Its O number', '9100'],
    ['The line that calls it', 'G65 P9100'],
    ['Variable of the T that is in', '4120'],
    ['Variable of length geometry', '#[8000+{row}]'],
    ['What raises an alarm', '#3000={number} ({text})'],
    ['Characters that an alarm shows', '26'],
  ] as const)
    await form.getByLabel(label, { exact: true }).fill(text);
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(form.getByRole('alert')).toContainText('a variable such as #4120');
  await form.getByLabel('Variable of the T that is in').fill('#4120');
  await form.getByRole('button', { name: 'Save' }).click();
  await page.getByRole('button', { name: /^Write it for/ }).click();
  await expect(page.getByText('O9100 (TOOL LENGTH CHECK)')).toBeVisible();
  // the profile is saved on the plate as well: what is said here stays
  await page.goto('/machines/6/plate');
  await ready(page);
  const save = page.getByRole('button', { name: 'Save this profile', includeHidden: true });
  await page.locator('details', { has: save }).locator('summary').click();
  await save.click();
  await page.goto('/ledger');
  await expect(page.getByText('The dialect profile of Fulmar was changed.').nth(1)).toBeVisible();
  await page.goto('/machines/6/net');
  await ready(page);
  await expect(page.getByText('The record is still as it was then.')).toBeVisible();
});

test('a station loaded anew keeps the former tool in its second row: seen, said before the job, and measured there', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/machines/3?tool=2');
  await ready(page);
  await page.getByRole('button', { name: /^station 2: T2/ }).click();
  await noMoreMade(page.getByRole('form', { name: 'Take out' }));
  await page.getByRole('button', { name: /Take it out/ }).click();
  await expect(page.getByRole('heading', { name: 'station 2 is empty' })).toBeVisible();
  await page.goto('/leaf');
  await ready(page);
  await expect(page.getByRole('main')).toContainText('Curlew lacks T2: O1402 calls it and has begun');
  await page.goto('/machines/3');
  await ready(page);
  await page.getByRole('button', { name: 'station 2: empty' }).click();
  await page.getByLabel('Assembly').selectOption({ label: 'L-221 OD finisher 35 deg (sister)' });
  await page.getByRole('button', { name: 'It is in: record it' }).click();
  await expect(page.getByText('Not measured since it was loaded', { exact: true })).toBeVisible();
  const measure = page.getByRole('form', { name: 'Measure' });
  const row = measure.getByLabel('Row, T2 has 2');
  const [x, z] = [measure.getByLabel('X geometry, in'), measure.getByLabel('Z geometry, in')];
  await expect(row).toHaveValue('2');
  await x.fill('-8.4863');
  await z.fill('-19.8120');
  await measure.getByRole('button', { name: 'Write into row 2', exact: true }).click();
  await expect(page.getByText('Measured since it was loaded, and not in each of its rows')).toBeVisible();
  const second = page.getByText(/^Z geometry, row 22:/);
  await expect(second).toContainText('from before it came');
  await page.goto('/programs/1');
  await ready(page);
  await expect(page.getByRole('main')).toContainText(
    'Row 22, which T2 uses on line 219, still holds the X geometry and Z geometry from before T2 came or its edge was changed; row 2 was set since',
  );
  // the job runs: whoever makes its next part sees it, and goes from there to the tool
  await page.goto('/machines/3/now');
  await ready(page);
  const before = page.getByRole('region', { name: 'Before the next part' });
  await expect(before).toContainText('Row 22, which T2 uses on line 219');
  await page.goto('/leaf');
  await ready(page);
  await expect(page.getByRole('main')).toContainText(
    'T2 (L-221) has not been measured into row 22 since it was loaded',
  );
  await page.goto('/machines/3/now');
  await ready(page);
  await before.getByRole('link').click();
  await expect(second).toContainText('from before it came');
  // the row that is left is proposed; what was typed for one row does not stand there for the other
  await expect(row).toHaveValue('22');
  await row.selectOption('2');
  await x.fill('-8.5');
  await row.selectOption('22');
  await expect(x).toHaveValue('');
  await x.fill('-8.4863');
  await z.fill('-23.5820');
  await measure.getByRole('button', { name: 'Write into row 22', exact: true }).click();
  await expect(second).toContainText('−23.5820 in');
  await expect(page.getByText('from before it came')).toHaveCount(0);
  await expect(page.getByText('Measured since it was loaded', { exact: true })).toBeVisible();
  await page.goto('/machines/3/now');
  await ready(page);
  await expect(before).toHaveCount(0);
  await page.goto('/programs/1');
  await ready(page);
  await expect(page.getByText(/Row 22, which T2 uses/)).toHaveCount(0);
});
