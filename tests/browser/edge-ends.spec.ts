import { expect, noMoreMade, ready, test } from './cell.ts';

test.use({ own: 'edge ends' });

test('a limit is learnt from edges that cut what is cut now; how one ended is told afterwards', async ({
  as,
}) => {
  const page = await as('crib');
  await page.goto('/tools/6/life');
  await ready(page);
  const counts = page.getByRole('status').first();
  await expect(counts).toContainText('Of 34 edges');
  await expect(page.getByText('It cuts O2301 (bronze)')).toContainText(
    /Left out: 16 from duplex stainless.*% as long/,
  );
  // all of them together are told of as nothing
  await page.getByLabel('Edges of').selectOption('all together');
  await page.getByRole('button', { name: 'Work it out' }).click();
  await expect(counts).toContainText('Of 50 edges');
  await expect(counts).toContainText('no limit is told');
  await expect(page.getByText('Cheapest limit')).toHaveCount(0);

  await page.goto('/tools/6/life');
  await ready(page);
  await expect(page.getByText(/^How 2 of them ended was not said/)).toBeVisible();
  await page.getByText('The edges', { exact: true }).click();
  await page
    .getByRole('button', { name: /^Say how the edge of A-106/ })
    .filter({ hasText: 'Say how' })
    .first()
    .click();
  await page.getByRole('combobox', { name: /^It ended/ }).selectOption('worn');
  await page.getByLabel('What told of it').selectOption('burr');
  await page.getByRole('button', { name: 'Put it on record' }).click();
  await expect(page.getByText(/^How one of them ended was not said/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Put it on record' })).toHaveCount(0);
});

test('a renewal that was begun at the wrong tool is dropped, and the tool is as it was', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/tools/9');
  await ready(page);
  const life = page.getByRole('region', { name: 'Renewal' });
  await life.getByRole('button', { name: 'Begin' }).click();
  await expect(life.getByText(/^Begun by/)).toBeVisible();
  await life.getByText('Wrong tool?').click();
  await expect(life.getByText(/^Nothing of A-109 has changed yet/)).toBeVisible();
  const drop = life.getByRole('form', { name: 'Drop the renewal' });
  await drop.getByLabel('Why it is dropped').fill('meant A-106');
  await drop.getByRole('button', { name: 'Drop the renewal' }).click();
  await expect(life.getByRole('button', { name: 'Begin' })).toBeVisible();
});

test('inserts are indexed on the bench with how the old edge ended, and the tool has its life again', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/machines/1?tool=8');
  await ready(page);
  await noMoreMade(page.getByRole('form', { name: 'Take out' }));
  await page.getByRole('button', { name: /Take it out/ }).click();
  await expect(page.getByRole('button', { name: /Take it out/ })).toHaveCount(0);
  await page.goto('/tools/8');
  await ready(page);
  const left = page.getByRole('region', { name: 'State' }).getByText(/^\d+ pcs of 150 pcs$/);
  await expect(left).not.toHaveText('150 pcs of 150 pcs');
  await page.getByText('Index the inserts', { exact: true }).click();
  await page.getByText('chipped', { exact: true }).click();
  await page.getByRole('button', { name: /Indexed: its life is full again/ }).click();
  await expect(left).toHaveText('150 pcs of 150 pcs');
  await page.getByRole('link', { name: 'What its edges say of that limit' }).click();
  await ready(page);
  await page.getByText('The edges', { exact: true }).click();
  await expect(page.getByRole('row', { name: /A-108/ }).first()).toContainText('chipped');

  // a tool need not be managed at all
  await page.goto('/tools/8');
  await ready(page);
  await page.getByText('Change its life limit', { exact: true }).click();
  await page.getByLabel('Why it is not counted').fill('one bore a month');
  await page.getByRole('button', { name: 'Stop counting it' }).click();
  await expect(page.getByText('Its life is not counted.')).toBeVisible();
  await expect(page.getByText(/A-108 is not counted any more/)).toBeVisible();
});
