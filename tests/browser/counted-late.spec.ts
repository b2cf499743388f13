import { expect, ready, test } from './cell.ts';

test.use({ own: 'late' });

test('what nobody has counted for an hour is reckoned on, never taken for known: on the leaf, at the tools, at the key', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/leaf');
  // 51 of 90 more than an hour ago, at 24 minutes a part
  const drawing = page.getByRole('group', { name: /^Avocet: O2301/ });
  await expect(drawing).toContainText(/51 of 90, about 5[3-9] by now/);
  // what still lasts is drawn with its time, or not at all where the shift ends before
  await expect(drawing).toHaveAccessibleName(
    /Curlew: O1402; T2 may have run out, T7 may have run out(, T\d+ runs out at \d\d:\d\d)*\. Dunlin/,
  );
  await expect(page.getByText(/Avocet 51 counted at .*, about 5[3-9] by now/)).toBeVisible();
  await page.goto('/machines/1/now');
  await ready(page);
  const tools = page.getByRole('region', { name: 'Tools, soonest first' });
  await expect(tools).toContainText(
    /51 counted at .*; if it ran on, \d+ more\s+parts\s+are\s+made\s+by\s+now/,
  );
  // what was cut with the old number nobody knows: it is not said to be the next part
  await page.goto('/machines/1/key');
  await ready(page);
  await page.getByRole('button', { name: 'I have keyed them' }).click();
  const unsure = page.getByRole('checkbox', { name: 'I do not know' });
  await expect(unsure).toBeChecked();
  await expect(page.getByText('Part 51 is the last that was counted')).toContainText(
    /about\s+5[3-9]\s+are\s+made/,
  );
  // somebody counts
  await page.goto('/machines/1/now');
  await ready(page);
  await page.getByRole('textbox', { name: 'Parts made' }).fill('3');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('54 of 90')).toBeVisible();
  await expect(tools).not.toContainText('if it ran on');
  await page.goto('/machines/1/key');
  await ready(page);
  await page.getByRole('button', { name: 'I have keyed them' }).click();
  await expect(unsure).not.toBeChecked();
  await expect(page.getByLabel('First part cut with it')).toHaveValue('55');
  await page.goto('/leaf');
  await expect(drawing).toContainText('54 of 90');
  await expect(drawing).not.toContainText('54 of 90, about');
});
