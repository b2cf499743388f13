import { firstLead } from '../../src/server/people.ts';
import { closePool, transaction } from '../../src/server/db.ts';
import { makeCell } from '../../src/server/cell.ts';
import { expect, ready, test } from './cell.ts';

test.use({ own: 'beginning', cell: 'tin_empty' });

test('an empty cell is led from its shifts to the first reading, without a file of machines and without SQL', async ({
  page,
  server,
}) => {
  // what a start with --no-demo does
  await transaction((db) => makeCell(db, 'The cell', 'Europe/Paris', false));
  await firstLead('1001', '445566');
  await closePool();

  await page.goto(`${server.url}/sign-in`);
  await ready(page);
  await page.getByLabel('Badge number', { exact: true }).fill('1001');
  await page.getByLabel('PIN', { exact: true }).fill('445566');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL(/\/leaf\//);
  const begin = page.getByRole('region', { name: 'A new cell: what comes first' });
  const step = async (name: string | RegExp) => {
    await page.goto(`${server.url}/leaf`);
    await ready(page);
    await begin.getByRole('link', { name }).click();
    await ready(page);
  };

  await step(/Name the cell/);
  const cell = page.getByRole('form', { name: 'Name of the cell' });
  await cell.getByLabel('Name', { exact: true }).fill('Saltmarsh');
  await cell.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Saltmarsh').first()).toBeVisible();
  await page.getByText('Night', { exact: true }).first().click();
  const night = page.getByRole('form', { name: 'Hours of Night' });
  await night.getByLabel('Begins', { exact: true }).fill('21:00');
  await night.getByRole('button', { name: 'Set these hours' }).click();
  // Late runs until 22:00: two shifts at once are no calendar
  await expect(night.getByRole('alert')).toContainText(/Late of .* and Night of .* same time/);
  await night.getByLabel('Begins', { exact: true }).fill('22:00');
  await night.getByLabel('Sun').uncheck();
  await night.getByRole('button', { name: 'Set these hours' }).click();
  await expect(page.getByText(/Monday, Tuesday, Wednesday, Thursday, Friday, Saturday/)).toBeVisible();

  await step(/Add the people/);
  const person = page.getByRole('form').filter({ hasText: 'Badge number' }).first();
  await person.getByLabel('Badge number').fill('2002');
  await person.getByLabel('Name').fill('Noor Haldane');
  await person.getByLabel('PIN').fill('7788');
  await person.getByRole('button', { name: /Add/ }).click();
  await expect(page.getByText('Noor Haldane')).toBeVisible();

  await step(/Add the first machine/);
  await page.getByLabel('What it is called').fill('Sanderling');
  await page.getByLabel('Highest speed, rpm').fill('12000');
  await page.getByLabel('Spindle taper').selectOption({ label: '50-taper' });
  await page.getByLabel('From one to the next, mm').fill('no');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByRole('alert')).toContainText('The distance of the places');
  await page.getByLabel('Spindle taper').selectOption({ label: '40-taper' });
  await page.getByLabel('From one to the next, mm').fill('80');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page).toHaveURL(/\/machines\/1\/plate$/);
  await expect(page.getByText(/figures are not recorded/)).toBeVisible();

  // its tools are written by hand, and go where they stand
  await step(/Put its tools on record/);
  await page.locator('[data-pocket="1"]').click();
  await page.getByRole('link', { name: 'put a tool on record' }).click();
  const tool = page.getByRole('form', { name: 'The tool' });
  await tool.getByLabel('Number', { exact: true }).fill('S-1');
  await tool.getByLabel('Name', { exact: true }).fill('End mill 10');
  await tool.getByLabel('Kind').selectOption('end mill');
  await tool.getByLabel('Taper or shank').selectOption({ label: '40-taper' });
  for (const [field, value] of [
    ['Diameter', '10'],
    ['Stick-out', '40'],
    ['Gauge length', '120'],
    ['Holder diameter', '45'],
  ] as const)
    await tool.getByLabel(new RegExp(`^${field}`)).fill(value);
  await tool.getByRole('button', { name: 'Put it on record' }).click();
  await expect(page.getByRole('heading', { name: 'S-1' })).toBeVisible();
  await step(/Put its tools on record/);
  await page.locator('[data-pocket="1"]').click();
  const place = page.getByRole('form', { name: 'Place a tool' });
  await place.getByRole('combobox').first().selectOption({ index: 1 });
  await place.getByLabel('T number').fill('1');
  await place.getByRole('button', { name: /It is in/ }).click();
  await page.getByLabel(/Gauge length/).fill('120.012');
  await page.getByRole('button', { name: /Write into row 1/ }).click();
  await expect(page.getByText('Measured since it was loaded', { exact: true })).toBeVisible();

  await step(/Bring in a program/);
  const text =
    '%\nO7001 (COVER)\nT1 M6 (END MILL 10)\nG90 G54\nS6000 M3\nG43 H1 Z50.\nG1 X10. Y10. F800\nG1 Z-5.\nM30\n%\n';
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'O7001.nc', mimeType: 'text/plain', buffer: Buffer.from(text) });
  await page.getByLabel('For an NC program: the machine').selectOption({ label: 'Sanderling' });
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByText(/O7001 COVER was read: 1 tool/)).toBeVisible();

  await step(/Put a job on its list/);
  await page.getByText('Add a job to the list').click();
  const job = page.getByRole('form', { name: 'New job' });
  await job.getByLabel('Parts', { exact: true }).fill('20');
  await job.getByLabel(/Cycle/).fill('4:30');
  await job.getByRole('button', { name: 'Add' }).click();
  await page.getByRole('link', { name: 'Is it ready?' }).click();
  // a program that has not run here yet is proven first
  await expect(page.getByText(/has not been proven on/)).toBeVisible();
  const proof = page.getByRole('form', { name: 'It is proven' });
  await proof.getByLabel(/How/).fill('first part in single block');
  await proof.getByRole('button').click();
  await expect(page.getByText(/Every tool is in, measured on its own row/)).toBeVisible();
  await page.goto(`${server.url}/machines/1/now`);
  await ready(page);
  await page.getByRole('button', { name: 'Start' }).click();
  await expect(page.getByText('0 of 20')).toBeVisible();

  await step(/Say what is measured on it/);
  await page.getByRole('link', { name: /O7001/ }).first().click();
  const feature = page.getByRole('form', { name: 'New feature' });
  await feature.getByLabel('What it is called on the drawing').fill('Plate length');
  await feature.getByLabel('What is measured').selectOption('outside profile, both sides');
  await feature.getByLabel(/^Nominal/).fill('210');
  await feature.getByLabel(/^Upper/).fill('-0.05');
  await feature.getByLabel(/^Lower/).fill('0.05');
  await feature.getByRole('button', { name: 'Add it' }).click();
  await expect(feature.getByRole('alert')).toContainText('above the lower');
  await feature.getByLabel(/^Upper/).fill('0.05');
  await feature.getByLabel(/^Lower/).fill('-0.05');
  await feature.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByRole('rowheader', { name: 'Plate length' })).toBeVisible();

  await step(/Measure the first part/);
  await page.getByLabel(/^Reading, mm/).fill('210.004');
  await page.getByRole('button', { name: 'What do I do?' }).click();
  await expect(page.getByRole('status', { name: 'Answer' })).toContainText('Leave it');
  await page.goto(`${server.url}/leaf`);
  await ready(page);
  await expect(begin).toHaveCount(0);
  await expect(page.getByText('Saltmarsh').first()).toBeVisible();
});
