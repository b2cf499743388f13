import { bringAndOpen, findings } from './bring.ts';
import { expect, ready, test } from './cell.ts';

// programs are brought in, proven and let stand: a cell of its own
test.use({ own: 'proof' });

const text = (s: number, f: number, end = 'M30') =>
  `%\nO7400 (PLATE)\n(DRILL 6.8)\nT5 M6\nS${s} M3\nG43 H5 Z50.\nG1 X10. F${f}.\n${end}\n%`;

test('a program is proven, changed, told in tool terms, and proven anew', async ({ as }) => {
  const page = await as('setter');
  await bringAndOpen(page, text(900, 90));
  await expect(findings(page)).toContainText('O7400 has not been proven on Avocet.');
  const proof = page.getByRole('form', { name: 'It is proven' });
  await proof.getByLabel(/How/).fill('first part, height gauge');
  await proof.getByRole('button').click();
  await expect(page.getByRole('heading', { name: 'Proven on Avocet' })).toBeVisible();
  await expect(findings(page)).not.toContainText('proven');
  await bringAndOpen(page, text(945, 90));
  await expect(findings(page)).toContainText('T5 runs 945 rpm instead of 900, 5 % faster.');
  await expect(page.getByText('One change since')).toBeVisible();
  await proof.getByLabel(/How/).fill('second part');
  await proof.getByRole('button').click();
  await expect(page.getByRole('heading', { name: 'Proven on Avocet' })).toBeVisible();
  const back = page.getByRole('form', { name: 'Take the proof back' });
  await back.getByLabel(/Why/).fill('chatter on the third');
  await back.getByRole('button').click();
  await expect(findings(page)).toContainText('took it back: chatter on the third.');
  await page.goto('/ledger');
  await expect(page.getByText('O7400, revision 2, is no longer proven on Avocet.')).toBeVisible();
});

test('what speaks against a program stands there by itself, and what may be let stand is, until a day', async ({
  as,
}) => {
  const page = await as('lead');
  await bringAndOpen(page, text(900, 9000, 'G91 G28 Z0.\nM30').replace('O7400', 'O7401'));
  await expect(findings(page)).toContainText('more than a');
  await expect(findings(page)).toContainText('O7401 ends with G91 in force');
  const item = findings(page).getByRole('listitem').filter({ hasText: 'ends with G91' });
  await item.getByText('Let it stand').first().click();
  await item.getByLabel('Why it may').fill('the control clears it at M30');
  await item.getByRole('combobox').selectOption('90');
  await item.getByRole('button', { name: 'Let it stand' }).click();
  await expect(item).toContainText('lets it stand until');
  await expect(item).toContainText('the control clears it at M30');
  await expect(item.getByText('Let it stand')).toHaveCount(0);
  await bringAndOpen(page, text(900, 90).replace('O7400', 'O7402').replace('M3\n', 'M4\n'));
  await expect(page.getByRole('heading', { name: 'Not ready' })).toBeVisible();
  await expect(findings(page)).toContainText('turning counter-clockwise (M4)');
  await bringAndOpen(
    page,
    '%\nO7403 (PLATE)\n(END MILL 10 ROUGH)\nT5 M6\nS900 M3\nG43 H5 Z50.\nG1 X10. F90.\n(END MILL 10 FINISH)\nT1 M6\nS900 M3\nG43 H1 Z50.\nG1 X10. F90.\nM30\n%',
  );
  await expect(findings(page)).toContainText(
    'Between T5 (END MILL 10 ROUGH) and T1 (END MILL 10 FINISH) the program does not stop.',
  );
});

test('where else a program could run is read by the words of each machine', async ({ as }) => {
  const page = await as('viewer');
  await page.goto('/programs/4');
  await ready(page);
  await page.getByRole('link', { name: 'Where else' }).click();
  await ready(page);
  const region = (name: string) => page.getByRole('region', { name: new RegExp(`^${name}`) });
  await expect(region('Curlew')).toContainText('Curlew is a lathe.');
  await expect(region('Bittern')).toContainText('Nothing in its text speaks against it');
  await expect(region('Avocet')).toHaveCount(0);
  await region('Egret')
    .getByText(/^Of its 10 tools/)
    .click();
  await expect(region('Egret').getByRole('row')).toHaveCount(11);
});

test('a finding leads to its line and the line back to its finding', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/programs/5');
  await ready(page);
  const text = page.getByRole('textbox', { name: 'Program text' });
  await expect(text).toContainText('O2310 (COVER PLATE)');
  const finding = findings(page).getByRole('listitem').filter({ hasText: 'applies length row H4' });
  await finding.getByRole('button', { name: 'Line 275' }).click();
  await expect(page.locator('.nc-here')).toHaveText('N2590 G43 H4 Z50. M8');
  await expect(page.locator('.nc-here .nc-row')).toHaveText('H4');
  await page.locator('.nc-stop').first().click();
  await expect(finding).toBeFocused();
  // it is read, not written
  await text.press('x');
  await expect(page.locator('.nc-here')).toHaveText('N2590 G43 H4 Z50. M8');
});
