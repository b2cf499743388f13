import { atLeaf, expect, ready, test } from './cell.ts';

test('what a fortnight will use up: edges by shift and week with what to build, lines that fall below, and the same as a file', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/ahead');
  await ready(page);
  await expect(page.getByRole('status')).toHaveText(
    /^\d+ edges run out in a fortnight, \d+ without a sister/,
  );
  const edges = page.getByRole('region', { name: 'To have ready' });
  const first = edges.getByRole('listitem').first();
  await expect(first).toContainText(/in part \d+ of O\d+/);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'As CSV' }).click(),
  ]);
  const text = await new Response((await download.createReadStream()) as unknown as ReadableStream).text();
  const lines = text.trim().split('\r\n');
  expect(lines[0]).toMatch(/^what,by,machine,tool,number/);
  const count = Number(/^\d+/.exec(await page.getByRole('status').innerText())![0]);
  expect(lines.filter((line) => line.startsWith('edge,'))).toHaveLength(count);
  await first.getByRole('link').click();
  await expect(page).toHaveURL(/\/tools\/\d+$/);
});

test('the leaf says in short what is to be had ready', async ({ as }) => {
  const page = await as('lead');
  await atLeaf(page);
  await page.getByRole('link', { name: /^Ahead/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Ahead');
});
